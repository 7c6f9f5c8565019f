"""Line art: every enclosed area found, none invented, edges in their place, however bad the scan."""

from __future__ import annotations

import io
from itertools import product

import pytest
import shapely
from PIL import Image

from bench.line_drawings import DRAWINGS, SIZES, edge_error, enclosed, scan, traced, truth
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.line_art import INK
from gladstack.core.picture.lines import drawn_in_lines
from tests.examples import some
from tests.pictures import BY_NAME, encode, picture_of, render

SCANS = some(list(product(SIZES, [True, False], DRAWINGS)))


@pytest.mark.parametrize(("width", "bad", "name"), SCANS)
def test_every_enclosed_area_is_found_and_none_invented(width: int, bad: bool, name: str) -> None:
    ink, areas = truth(DRAWINGS[name])
    wanted = [a for a in areas if a.buffer(-0.6).area > 0]
    map_ = traced(scan(DRAWINGS[name], width, bad=bad), width)
    found = enclosed(map_)
    tree = shapely.STRtree(found)
    hit = [k for a in wanted for k in tree.query(a.representative_point(), predicate="intersects")]
    assert len(hit) == len(wanted), "an area was lost"
    assert len(set(hit)) == len(wanted), "two areas ran together"
    assert len(found) <= len(areas), "an area was invented"
    assert edge_error(map_, ink, width) < 0.35


def test_the_threshold_moves_the_edge() -> None:
    data = scan(DRAWINGS["window"], 600, bad=False)
    areas = [traced(data, 600, t).shape_of(INK).area for t in (60, 128, 220)]
    assert areas[0] < areas[1] < areas[2]


def test_a_bitmap_of_one_bit_is_drawn_smoothly_not_as_stairs() -> None:
    soft = scan(DRAWINGS["dome"], 800, bad=False)
    image = Image.open(io.BytesIO(soft)).convert("L").point(lambda grey: 255 * (grey > 127))
    hard = io.BytesIO()
    image.save(hard, "PNG")
    ink, areas = truth(DRAWINGS["dome"])
    maps = [traced(data, 800) for data in (soft, hard.getvalue())]
    nodes = [sum(len(a.chain) for a in m.arcs) for m in maps]
    assert nodes[1] < 3 * nodes[0]  # followed stair by stair it would be ten times as many
    assert len(enclosed(maps[1])) == len(areas)
    assert edge_error(maps[1], ink, 800) < 0.35


@pytest.mark.parametrize(("width", "bad", "name"), SCANS)
def test_what_is_drawn_in_lines_is_known_as_such(width: int, bad: bool, name: str) -> None:
    assert drawn_in_lines(decode_picture(scan(DRAWINGS[name], width, bad=bad)))


@pytest.mark.parametrize("quality", [None, 60])
@pytest.mark.parametrize("name", sorted(BY_NAME))
def test_flat_pictures_are_not_taken_for_line_art(name: str, quality: int | None) -> None:
    assert not drawn_in_lines(decode_picture(picture_of(name, 400, quality=quality)))


BLACK_AND_GREY = {
    "moon": '<circle cx="100" cy="100" r="70" fill="#222"/><circle cx="125" cy="90" r="60" fill="#fff"/>',
    "bars": '<path d="M20 20H70V180H20z" fill="#111"/><path d="M70 20H120V180H70z" fill="#777"/>'
    '<path d="M120 20H170V180H120z" fill="#bbb"/>',
    "badge": '<circle cx="100" cy="100" r="90" fill="#111"/><circle cx="100" cy="100" r="80" fill="#eee"/>'
    '<path d="M100 40l20 60h-40z" fill="#555"/>',
    "owl": '<ellipse cx="100" cy="110" rx="60" ry="75" fill="#333"/><circle cx="80" cy="80" r="18" fill="#fff"/>'
    '<circle cx="120" cy="80" r="18" fill="#fff"/><circle cx="80" cy="80" r="8"/><circle cx="120" cy="80" r="8"/>',
    "hills": '<path d="M0 200L60 90L120 200z" fill="#444"/><path d="M70 200L140 60L200 200z" fill="#222"/>',
    "star": '<path d="M100 10L125 75L195 78L140 120L160 190L100 150L40 190L60 120L5 78L75 75z"/>',
    "stripes": '<path d="M20 0H30V200H20z" fill="#111"/><path d="M40 0H50V200H40z" fill="#444"/>'
    '<path d="M60 0H70V200H60z" fill="#777"/><path d="M80 0H90V200H80z" fill="#aaa"/>',
    "rings with grey": '<g fill="none" stroke="#000" stroke-width="3"><circle cx="70" cy="100" r="50"/></g>'
    '<circle cx="70" cy="100" r="40" fill="#aaa"/><circle cx="150" cy="100" r="30" fill="#666"/>',
}  # fmt: skip


@pytest.mark.parametrize("form", ["PNG", "JPEG"])
@pytest.mark.parametrize("name", BLACK_AND_GREY)
def test_flat_pictures_of_blacks_and_greys_are_not_taken_for_line_art(name: str, form: str) -> None:
    page = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 200"><rect width="200" height="200" fill="#fff"/>'
    image = render(f"{page}{BLACK_AND_GREY[name]}</svg>", 500).convert("RGB")
    assert not drawn_in_lines(decode_picture(encode(image, form)))
