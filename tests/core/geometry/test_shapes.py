"""Areas of film without what only rounding has left of them."""

from __future__ import annotations

import numpy as np
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely import MultiPolygon, Polygon

from gladstack.core.geometry.shapes import clean
from tests.core.shapes import shapes

LENGTHS = st.floats(0.5, 20)


@given(shapes(), st.integers(0, 10_000), LENGTHS)
def test_a_hair_goes_wherever_it_stands_and_the_rest_stays(shape: MultiPolygon, which: int, length: float) -> None:
    plain = clean(shape)
    if plain.is_empty:
        return
    polygon = plain.geoms[which % len(plain.geoms)]
    ring = np.asarray(polygon.exterior.coords)[:-1]
    k = which % len(ring)
    before, here = ring[k - 1], ring[k]
    # On past a corner and back: outwards where it bends so, else inwards along the next edge's far side.
    tip = here + (here - before) / np.hypot(*(here - before)) * length
    haired = Polygon(
        np.vstack([ring[: k + 1], tip, here + (tip - here) * 1e-9, ring[k + 1 :]]), [r.coords for r in polygon.interiors]
    )
    shorn = clean(haired)
    assert abs(shorn.area - polygon.area) < 1e-6
    assert not haired.is_valid or shapely.hausdorff_distance(shorn, MultiPolygon([polygon])) < 1e-3


@given(shapes())
def test_what_is_clean_stays_as_it_is(shape: MultiPolygon) -> None:
    once = clean(shape)
    assert clean(once).wkb == once.wkb
