"""The planar map: whatever the labels are, its areas cover the picture without gap or overlap."""

from __future__ import annotations

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from gladstack.core.base.colour import nearest_colour
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.palette import Palette
from gladstack.core.picture.planar import PlanarMap
from gladstack.core.picture.separate import (
    TraceOptions,
    find_colours,
    give_labels,
    map_labels,
    planar_map_of,
    separate,
    without_specks,
)
from gladstack.core.picture.tidy import tidied
from tests.examples import examples, some
from tests.pictures import BY_NAME, picture_of, render, truth_of

COLOURS = ((250, 250, 250), (20, 30, 80), (200, 40, 30), (240, 180, 40))


def map_of(labels: np.ndarray, *, blur: bool = False, speck: float = 0.0) -> PlanarMap:
    rgb = np.array(COLOURS, np.uint8)[labels]
    if blur:
        import cv2

        rgb = cv2.GaussianBlur(rgb, (3, 3), 0.8)
    palette = Palette(COLOURS, True, False, 1.0, rgb)
    same = np.arange(len(COLOURS), dtype=np.int16)
    options = TraceOptions(speck_mm=speck)
    given = labels.astype(np.int16)
    cleaned = without_specks(rgb, palette, given, same, mm_per_px=0.25, options=options)
    return map_labels(rgb, palette, given, cleaned, same, mm_per_px=0.25, options=options)


def check_cover(map_: PlanarMap, area: float) -> None:
    shapes = [map_.shape_of(k) for k in range(len(COLOURS))]
    assert all(s.is_valid for s in shapes)
    assert shapely.coverage_is_valid(shapes)
    assert sum(s.area for s in shapes) == pytest.approx(area, rel=1e-9)


@given(arrays(np.int16, st.tuples(st.integers(8, 20), st.integers(8, 20)), elements=st.integers(0, 3)), st.booleans())
@settings(max_examples=examples(80))
def test_any_labels_make_an_exact_cover(labels: np.ndarray, blur: bool) -> None:
    map_ = map_of(labels, blur=blur)
    check_cover(map_, labels.size * 0.25**2)


@given(st.integers(0, 10_000), st.integers(2, 5))
@settings(max_examples=examples(15))
def test_large_random_areas_make_an_exact_cover(seed: int, scale: int) -> None:
    rng = np.random.default_rng(seed)
    coarse = rng.integers(0, 4, (60 // scale + 2, 60 // scale + 2))
    labels = np.kron(coarse, np.ones((scale, scale), int))[:60, :60]
    check_cover(map_of(labels, blur=True), 60 * 60 * 0.25**2)


def test_one_colour_is_one_rectangle() -> None:
    map_ = map_of(np.zeros((10, 16), int))
    assert len(map_.areas) == 1
    assert map_.areas[0].bounds == pytest.approx((0, 0, 4, 2.5))


def test_specks_go_to_what_surrounds_them() -> None:
    labels = np.zeros((40, 40), int)
    labels[10:30, 10:30] = 1
    labels[20, 20] = 2
    labels[5, 5:7] = 3
    map_ = map_of(labels, speck=0.8)
    assert set(map_.labels.tolist()) == {0, 1}


@pytest.mark.parametrize("name", some(["moon-owl", "thin-lines", "rosette", "near-shades"]))
def test_separation_is_close_to_the_truth(name: str) -> None:
    drawing = BY_NAME[name]
    picture = tidied(decode_picture(picture_of(name, 384)))
    palette = find_colours(picture, count=len(drawing.colours))
    map_ = planar_map_of(picture, palette, 120, TraceOptions())
    truth = truth_of(drawing, 1152)
    scale = 1152 / 120
    wrong = np.ones(truth.shape[:2], bool)
    for k, rgb in enumerate(palette.colours):
        data = "".join(
            "M" + "L".join(f"{x * scale:.3f} {y * scale:.3f}" for x, y in ring.coords[:-1]) + "Z"
            for p in map_.shape_of(k).geoms
            for ring in (p.exterior, *p.interiors)
        )
        svg = (
            '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1152 1152" shape-rendering="crispEdges">'
            f'<path d="{data}" fill-rule="evenodd" fill="#000"/></svg>'
        )
        inside = np.array(render(svg, 1152))[..., 3] > 0
        near = np.abs(truth.astype(int) - np.array(rgb)).max(axis=2) <= 3
        wrong &= ~(inside & near)
    assert wrong.mean() < 0.005


def test_thin_slanting_line_stays_one_piece() -> None:
    svg = (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 200"><rect width="200" height="200" fill="#fafafa"/>'
        '<path d="M10 20L190 150" stroke="#141e50" stroke-width="1.9"/></svg>'
    )
    rgb = np.array(render(svg, 200).convert("RGB"))
    picture = tidied(decode_picture(_png(rgb)))
    palette = find_colours(picture, count=2)
    map_ = planar_map_of(picture, palette, 100, TraceOptions())
    line = map_.shape_of(1)
    assert len(line.geoms) == 1
    assert line.area == pytest.approx(1.9 * np.hypot(180, 130) * 0.25, rel=0.04)


@pytest.mark.parametrize(("half", "lean"), [(30, 0), (12, 7), (8, 0), (9, -15)])
def test_sharp_corners_keep_their_place(half: float, lean: float) -> None:
    """From 24 degrees down to a needle of 7: the tip is drawn where it is, although the pixels end before it."""
    tip = (100.3 + lean, 30.4)
    svg = (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 200"><rect width="200" height="200" fill="#fafafa"/>'
        f'<path d="M{100 - half} 170L{tip[0]} {tip[1]}L{100 + half} 170Z" fill="#c8281e"/></svg>'
    )
    picture = tidied(decode_picture(_png(np.array(render(svg, 200).convert("RGB")))))
    palette = find_colours(picture, count=2)
    map_ = planar_map_of(picture, palette, 200, TraceOptions())
    nodes = np.concatenate([a.chain.pieces[:, 0] for a in map_.arcs])
    assert np.min(np.linalg.norm(nodes - tip, axis=1)) <= 0.5


def _png(rgb: np.ndarray) -> bytes:
    from PIL import Image

    from tests.pictures import encode

    return encode(Image.fromarray(rgb))


def test_no_edge_moves_because_of_a_border_that_is_merged_away() -> None:
    """Two near shades side by side under a third colour: made one, they meet it where they did before."""
    svg = (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 200"><rect width="200" height="200" fill="#ffffff"/>'
        '<circle cx="100" cy="100" r="70.3" fill="#7a9cc4"/><path d="M100 0H200V200H100Z" fill="#8fb3dd" '
        'clip-path="url(#c)"/><clipPath id="c"><circle cx="100" cy="100" r="70.3"/></clipPath></svg>'
    )
    tidy = tidied(decode_picture(_png(np.array(render(svg, 200).convert("RGB")))))
    palette = find_colours(tidy, count=3)
    labelled = give_labels(tidy, palette)
    names = ["#{:02x}{:02x}{:02x}".format(*c) for c in palette.colours]
    dark, light = nearest_colour(palette.colours, "#7a9cc4"), nearest_colour(palette.colours, "#8fb3dd")
    assert dark is not None
    assert light is not None
    outlines = []
    for merges in ((), ((names[light], names[dark]),)):
        map_ = separate(tidy, palette, labelled, merges, 200, TraceOptions()).map
        both = shapely.union_all([map_.shape_of(dark), map_.shape_of(light)])
        outlines.append(both.buffer(0).exterior)
    moved = shapely.hausdorff_distance(*outlines, densify=0.05)
    # All but the junction itself, which is gone.
    assert moved < 0.4
