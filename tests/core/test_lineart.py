"""Line art: every enclosed area found, none invented, edges in their place, however bad the scan."""

from __future__ import annotations

import io

import pytest
import shapely
from PIL import Image

from bench.line_drawings import DRAWINGS, SIZES, edge_error, enclosed, scan, traced, truth
from gladstack.core.picture.line_art import INK


@pytest.mark.parametrize("name", DRAWINGS)
@pytest.mark.parametrize("width", SIZES)
@pytest.mark.parametrize("bad", [False, True], ids=["clean", "grey, noisy, shaded, JPEG"])
def test_every_enclosed_area_is_found_and_none_invented(name: str, width: int, bad: bool) -> None:
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
    assert nodes[1] < 2.5 * nodes[0]  # followed stair by stair it would be ten times as many
    assert len(enclosed(maps[1])) == len(areas)
    assert edge_error(maps[1], ink, 800) < 0.35
