"""Cut shapes as curves: exact along the picture's edges, close along new ones."""

from __future__ import annotations

import math
import re
from itertools import product

import numpy as np
import pytest
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st
from shapely import MultiPolygon, Polygon, box

from gladstack.core.geometry.curves import flatten_chain
from gladstack.core.geometry.outlines import CurveIndex, outline_of
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.build.measured import most_films, wrong_area_ratio
from gladstack.recipe.model.arts import PictureArt, Separation
from gladstack.recipe.model.recipe import JointRule, Recipe
from gladstack.shop.files.job_files import stack_file
from gladstack.stages.memo import Memo
from tests.examples import some
from tests.pictures import picture_of, render


def built_with(name: str, kind: str, mm: float = 0.0) -> Built:
    recipe = Recipe(
        name="Test",
        arts=(PictureArt(picture="0" * 64, width_mm=120, separation=Separation(background="keep")),),
        joint=JointRule.model_validate({"kind": kind, "mm": mm}),
    )
    return build(recipe, Assets(lambda key: picture_of(name, 512)), Memo())


@pytest.mark.parametrize("name", some(["targets", "night-badge", "rosette"]))
def test_butted_films_leave_no_gap_and_no_overlap_in_the_written_file(name: str) -> None:
    text = stack_file(built_with(name, "butt"))
    head = re.search(r"<svg[^>]*>", text)
    assert head
    crisp = head[0].replace('width="120mm" height="120mm"', 'width="120" height="120" shape-rendering="crispEdges"')
    films = np.zeros((1920, 1920), int)
    for group in re.findall(r"<g .*?</g>", text, re.DOTALL):
        films += np.array(render(f"{crisp}{group}</svg>", 1920))[..., 3] > 0
    # A renderer flattens a curve that is drawn the other way round in other places: now and then a pixel lies between.
    assert films.max() == 1
    assert (films == 0).sum() <= 8


JOINTS = [("butt", 0), ("lap", 0.4), ("gap", 1.0), ("full", 0.5)]


@pytest.mark.parametrize(("joint", "name"), some(list(product(JOINTS, ["moon-owl", "dome", "thin-lines"]))))
def test_curves_stay_close_to_the_cut_shape(name: str, joint: tuple[str, float]) -> None:
    layers = built_with(name, *joint).layers
    assert sum(layer.outline.nodes for layer in layers) < 0.6 * sum(
        shapely.get_num_coordinates(layer.cut) for layer in layers
    )
    for layer in layers:
        rings = [r for p in layer.cut.geoms for r in (p.exterior, *p.interiors)]
        drawn = [shapely.LinearRing(flatten_chain(c, 0.002)) for c in layer.outline.rings]
        assert len(drawn) == len(rings)
        for a, b in zip(drawn, rings, strict=True):
            assert shapely.hausdorff_distance(a, b, densify=0.2) <= 0.05


@pytest.mark.parametrize("kind", ["butt", "lap", "gap", "full"])
def test_a_build_keeps_the_wanted_picture(kind: str) -> None:
    built = built_with("overlapping-blobs", kind, 0.4)
    assert wrong_area_ratio(built) <= 1e-6
    assert most_films(built) >= (2 if kind in ("lap", "full") else 1)
    if kind in ("butt", "gap"):
        assert most_films(built) == 1


@given(st.floats(-4, -1), st.lists(st.tuples(st.floats(0, 6.28), st.floats(0.05, 1)), min_size=3, max_size=7))
def test_holes_however_small_make_rings_that_bound_something_or_none(
    exponent: float, spots: list[tuple[float, float]]
) -> None:
    size = 10**exponent
    hole = Polygon([(5 + size * r * math.cos(a), 5 + size * r * math.sin(a)) for a, r in sorted(spots)])
    assume(hole.is_valid and hole.area > 1e-12)
    outline = outline_of(MultiPolygon([Polygon(box(0, 0, 10, 10).exterior, [hole.exterior])]), CurveIndex([]))
    for chain in outline.rings:
        assert Polygon(flatten_chain(chain, 0.008)).area > 0
    if size > 0.01 and hole.area > 1e-5:
        assert len(outline.rings) == 2
