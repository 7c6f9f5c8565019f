"""Line drawings with known regions, as scans of any badness, and what is found of them."""

from __future__ import annotations

import io
import math

import numpy as np
import shapely
from PIL import Image

from bench.measure import render
from gladstack.core.drawing.svg_read import read_svg
from gladstack.core.films.regions import Paint, Painting, regions_of
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.line_art import INK, trace_lines
from gladstack.core.picture.lines import find_lines
from gladstack.core.picture.planar import PlanarMap
from gladstack.core.picture.separate import TraceOptions

SIZES = (300, 800, 2000)


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
    """The areas that wait for a film, as the app finds them."""
    painted = Paint(None, "#000000", map_.shape_of(INK))
    return [r.shape for r in regions_of(Painting((100.0, 100.0), (painted,), waits=True)).all if r.waits]


def truth(svg: str) -> tuple[shapely.Geometry, list[shapely.Polygon]]:
    """The ink, and the areas it encloses, from the strokes themselves."""
    ink = shapely.union_all([i.shape for i in read_svg(svg.encode()).items if i.colour == "#000000"])
    paper = shapely.difference(shapely.box(0, 0, 100, 100), ink)
    return ink, [p for p in shapely.get_parts(paper) if not p.intersects(shapely.box(0, 0, 100, 100).exterior)]


def edge_error(map_: PlanarMap, ink: shapely.Geometry, width: int) -> float:
    """Mean distance of the traced ink's edge from the true one, in pixels."""
    points = shapely.points(shapely.get_coordinates(shapely.segmentize(map_.shape_of(INK).boundary, 0.5)))
    return float(shapely.distance(ink.boundary, points).mean() * width / 100)


def line_art() -> None:
    """Regions found and the edge's error, for clean drawings and for grey, noisy, shaded JPEG scans."""
    print("\nLine art (enclosed areas found of true ones, mean edge error in px; clean / bad scan)")
    for name, svg in DRAWINGS.items():
        ink, areas = truth(svg)
        told = []
        for width in SIZES:
            maps = [traced(scan(svg, width, bad=bad), width) for bad in (False, True)]
            counts = "/".join(str(len(enclosed(m))) for m in maps)
            errors = "/".join(f"{edge_error(m, ink, width):.2f}" for m in maps)
            told.append(f"{width} px {counts} of {len(areas)}, {errors}")
        print(f"{name:>10}  {';  '.join(told)}")
