"""Line art: every enclosed area found, none invented, edges in their place, however bad the scan."""

from __future__ import annotations

import io
import math

import numpy as np
import pytest
import shapely
from PIL import Image

from gladstack.core.lineart import INK, PAPER, find_lines, trace_lines
from gladstack.core.picture import decode_picture
from gladstack.core.planar import PlanarMap
from gladstack.core.separate import TraceOptions
from gladstack.core.svg_read import read_svg
from gladstack.core.trace import OUTSIDE
from tests.pictures import render


def page(body: str) -> str:
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">'
        f'<rect width="100" height="100" fill="#fff"/><g fill="none" stroke="#000" stroke-width="1.1">{body}</g></svg>'
    )


def dome() -> str:
    petals = "".join(
        f'<path d="M50 46C{50 + 18 * math.cos(a - 0.3):.2f} {46 + 18 * math.sin(a - 0.3):.2f} '
        f"{50 + 34 * math.cos(a - 0.25):.2f} {46 + 34 * math.sin(a - 0.25):.2f} "
        f"{50 + 38 * math.cos(a):.2f} {46 + 38 * math.sin(a):.2f}C{50 + 34 * math.cos(a + 0.25):.2f} "
        f'{46 + 34 * math.sin(a + 0.25):.2f} {50 + 18 * math.cos(a + 0.3):.2f} {46 + 18 * math.sin(a + 0.3):.2f} 50 46z"/>'
        for a in np.arange(8) * math.pi / 4
    )
    return page(f'<circle cx="50" cy="46" r="43"/>{petals}<path d="M8 94H92"/>')


def window() -> str:
    bars = "".join(f'<path d="M{10 + 20 * k} 10V90M10 {10 + 20 * k}H90"/>' for k in range(5))
    return page(f'{bars}<circle cx="40" cy="40" r="6"/><circle cx="62" cy="60" r="5"/>')


DRAWINGS = {"dome": dome(), "window": window()}


def scan(svg: str, width: int, *, bad: bool) -> bytes:
    image = render(svg.replace('mm"', '"'), width).convert("L")
    if not bad:
        out = io.BytesIO()
        image.save(out, "PNG")
        return out.getvalue()
    rng = np.random.default_rng(7)
    y, x = np.mgrid[0:width, 0:width] / width
    light = 0.62 + 0.3 * x + 0.1 * np.sin(3 * y)
    grey = (40 + np.asarray(image, float) * 0.8) * light + rng.normal(0, 6, (width, width))
    out = io.BytesIO()
    Image.fromarray(np.clip(grey, 0, 255).astype(np.uint8)).convert("RGB").save(out, "JPEG", quality=60)
    return out.getvalue()


def traced(data: bytes, width: int, threshold: int | None = None) -> PlanarMap:
    lines = find_lines(decode_picture(data).rgb, threshold)
    return trace_lines(lines, mm_per_px=100 / width, options=TraceOptions(speck_mm=1.0))


def enclosed(map_: PlanarMap) -> list[shapely.Polygon]:
    outer = {a.left for a in map_.arcs if a.right == OUTSIDE} | {a.right for a in map_.arcs if a.left == OUTSIDE}
    return [map_.areas[k] for k in np.flatnonzero(map_.labels == PAPER) if int(k) not in outer]


def truth(svg: str) -> tuple[shapely.Geometry, list[shapely.Polygon]]:
    """The ink, and the areas it encloses, from the strokes themselves."""
    ink = shapely.union_all([i.shape for i in read_svg(svg.encode()).items if i.colour == "#000000"])
    paper = shapely.difference(shapely.box(0, 0, 100, 100), ink)
    return ink, [p for p in shapely.get_parts(paper) if not p.intersects(shapely.box(0, 0, 100, 100).exterior)]


@pytest.mark.parametrize("name", DRAWINGS)
@pytest.mark.parametrize("width", [300, 800, 2000])
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
    edge = map_.shape_of(INK).boundary
    points = shapely.points(shapely.get_coordinates(shapely.segmentize(edge, 0.5)))
    assert shapely.distance(ink.boundary, points).mean() * width / 100 < 0.35


def test_the_threshold_moves_the_edge() -> None:
    data = scan(DRAWINGS["window"], 600, bad=False)
    areas = [traced(data, 600, t).shape_of(INK).area for t in (60, 128, 220)]
    assert areas[0] < areas[1] < areas[2]
