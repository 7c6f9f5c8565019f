"""No compiled loop reads or writes outside its arrays, whatever the pixels: run with bounds checks, they would raise."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.core.geometry.fit import fit_polyline
from gladstack.core.picture import pixels
from gladstack.core.picture.areas import find_regions
from gladstack.core.picture.palette import Palette
from gladstack.core.picture.separate import TraceOptions, map_labels, without_specks
from tests.examples import examples


@st.composite
def chequers(draw: st.DrawFn) -> np.ndarray:  # type: ignore[type-arg]
    """Labels in random cells of one to four pixels: the worst that regions, cracks and arcs can meet."""
    seed, count, cell = draw(st.integers(0, 10_000)), draw(st.integers(2, 4)), draw(st.integers(1, 4))
    rows, columns = draw(st.integers(2, 14)), draw(st.integers(2, 14))
    labels = np.random.default_rng(seed).integers(0, count, (rows, columns)).astype(np.int16)
    return np.ascontiguousarray(np.kron(labels, np.ones((cell, cell), np.int16)))


@given(chequers())
@settings(max_examples=examples(60))
def test_any_labels_become_a_map_that_covers_the_picture(labels: np.ndarray) -> None:  # type: ignore[type-arg]
    count = int(labels.max()) + 1
    colours = tuple((40 * k, 255 - 40 * k, 90) for k in range(count))
    rgb = np.array(colours, np.uint8)[labels]
    palette = Palette(colours, True, False, 1.0, rgb)
    same = np.arange(count, dtype=np.int16)
    options = TraceOptions(speck_mm=0.0)
    cleaned = without_specks(rgb, palette, labels, same, mm_per_px=0.5, options=options)
    made = map_labels(rgb, palette, labels, cleaned, same, mm_per_px=0.5, options=options)
    assert sum(a.area for a in made.areas) == pytest.approx(labels.size * 0.25, rel=1e-9)
    pixels.flat_colour_counts(rgb)


@pytest.mark.parametrize("shape", [(8, 8), (9, 70), (300, 400)])
def test_every_pixel_of_a_chequer_is_a_region(shape: tuple[int, int]) -> None:
    y, x = np.indices(shape)
    regions, count = find_regions(((x + y) % 2).astype(np.int16))
    assert count == regions.max() + 1 == shape[0] * shape[1]


@pytest.mark.parametrize("points", [[], [(0, 0)], [(0, 0), (0, 0)], [(0, 0), (3, 4)]])
def test_runs_of_hardly_any_points_are_fitted(points: list[tuple[float, float]]) -> None:
    curves, straight = fit_polyline(np.array(points, float).reshape(-1, 2), 0.5, 0.2, 0.01, False)
    assert len(curves) == len(straight) <= 1
