"""What the separation is measured by: wrong area, path commands, corners, gaps and overlaps in the written file."""

from __future__ import annotations

import io
import re
import time
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import resvg_py
import shapely
import vtracer
from PIL import Image

from bench.drawings import Drawing
from gladstack.core.base.colour import delta_e, from_hex
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.palette import Palette
from gladstack.core.picture.planar import PlanarMap
from gladstack.core.picture.separate import TraceOptions, find_colours, planar_map_of
from gladstack.core.picture.tidy import tidied
from gladstack.core.picture.trace import OUTSIDE
from gladstack.core.write.svg import SvgLayer, stack_svg

WIDTH_MM = 120.0
_TRUTH_SCALE = 3
_FAULT_WIDTH = 1920

Pixels = npt.NDArray[np.uint8]


@dataclass(frozen=True)
class Row:
    """One drawing at one size and format; shares of the area in per cent, times in seconds."""

    name: str
    true_colours: int
    proposed: int
    wrong: float
    tracer_wrong: float
    commands: int
    tracer_commands: int
    seconds: float
    tracer_seconds: float
    valid: bool
    uncovered: int
    doubled: int


def render(svg: str, width: int) -> Image.Image:
    return Image.open(io.BytesIO(bytes(resvg_py.svg_to_bytes(svg_string=svg, width=width))))


def encode(drawing: Drawing, width: int, quality: int | None) -> bytes:
    out = io.BytesIO()
    image = render(drawing.svg(), width).convert("RGB")
    image.save(out, "JPEG", quality=quality) if quality else image.save(out, "PNG")
    return out.getvalue()


def truth_labels(drawing: Drawing, width: int) -> npt.NDArray[np.int8]:
    """The drawing's colours without anti-aliasing, at three times the picture's size."""
    return nearest_labels(np.array(render(drawing.svg(crisp=True), _TRUTH_SCALE * width).convert("RGB")), drawing.colours)


def nearest_labels(pixels: Pixels, colours: tuple[str, ...]) -> npt.NDArray[np.int8]:
    """For each pixel the index of the nearest of `colours` (Euclid in sRGB), looked up once for each colour that occurs."""
    codes = pixels[..., 0].astype(np.int32) << 16 | pixels[..., 1].astype(np.int32) << 8 | pixels[..., 2]
    present = np.flatnonzero(np.bincount(codes.ravel(), minlength=1 << 24))
    seen = np.stack([present >> 16, (present >> 8) & 255, present & 255], axis=1)
    table = np.array([from_hex(c) for c in colours])
    nearest = np.zeros(1 << 24, np.int8)
    nearest[present] = np.argmin(((seen[:, None] - table[None]) ** 2).sum(axis=2), axis=1)
    return nearest[codes]


def our_svg(map_: PlanarMap, palette: Palette) -> str:
    """The map as a stack of butted films, written from its arcs' curves."""
    from gladstack.core.geometry.outlines import CurveIndex, outline_of

    index = CurveIndex([a.curve for a in map_.arcs])
    layers = [
        SvgLayer(f"film-{k}", f"{k}", "#{:02x}{:02x}{:02x}".format(*rgb), outline_of(map_.shape_of(k), index).rings)
        for k, rgb in enumerate(palette.colours)
    ]
    return stack_svg("bench", (0.0, 0.0, WIDTH_MM, WIDTH_MM), layers)


def crisp(svg: str) -> str:
    return svg.replace("<svg ", '<svg shape-rendering="crispEdges" ').replace('mm"', '"')


def measure(drawing: Drawing, width: int, quality: int | None) -> Row:
    """Separates one drawing with its true number of colours, and traces it with the general tracer, in one go."""
    data = encode(drawing, width, quality)
    picture = decode_picture(data)
    begin = time.perf_counter()
    tidy = tidied(picture)
    palette = find_colours(tidy, count=len(drawing.colours))
    map_ = planar_map_of(tidy, palette, WIDTH_MM, TraceOptions())
    seconds = time.perf_counter() - begin
    proposed = len(find_colours(tidy).colours)
    begin = time.perf_counter()
    traced = vtracer.convert_raw_image_to_svg(data, img_format="jpg" if quality else "png")
    tracer_seconds = time.perf_counter() - begin
    truth = truth_labels(drawing, width)
    svg = our_svg(map_, palette)
    uncovered, doubled = written_faults(svg, min(_TRUTH_SCALE * width, _FAULT_WIDTH))
    return Row(
        drawing.name,
        len(drawing.colours),
        proposed,
        _wrong(svg, drawing, truth, palette),
        _wrong(with_view_box(traced, width), drawing, truth, None),
        commands_of(map_),
        commands_in(traced),
        seconds,
        tracer_seconds,
        bool(shapely.coverage_is_valid([map_.shape_of(k) for k in range(len(palette.colours))])),
        uncovered,
        doubled,
    )


def commands_of(map_: PlanarMap) -> int:
    """Path commands of a map's films: each arc is in the outline of both its sides."""
    return sum(len(a.chain) * ((a.left != OUTSIDE) + (a.right != OUTSIDE)) for a in map_.arcs)


def commands_in(svg: str) -> int:
    """Path commands of a traced file."""
    return len(re.findall(r"[LC]", "".join(re.findall(r' d="([^"]*)"', svg))))


def with_view_box(svg: str, width: int) -> str:
    return svg if "viewBox" in svg else svg.replace("<svg ", f'<svg viewBox="0 0 {width} {width}" ', 1)


def _wrong(svg: str, drawing: Drawing, truth: npt.NDArray[np.int8], palette: Palette | None) -> float:
    """Per cent of the area that is painted in a colour nearer to another of the drawing's colours, or not at all."""
    image = np.array(render(crisp(svg), truth.shape[1]).convert("RGBA"))
    if palette is not None:
        # Each film of ours stands for the true colour it is nearest to in CIELAB.
        table = np.array([from_hex(c) for c in drawing.colours])
        meant = {rgb: table[int(np.argmin(delta_e(table, np.array(rgb))))] for rgb in palette.colours}
        codes = image[..., 0].astype(np.int32) << 16 | image[..., 1].astype(np.int32) << 8 | image[..., 2]
        for rgb, colour in meant.items():
            image[codes == (rgb[0] << 16 | rgb[1] << 8 | rgb[2]), :3] = colour
    wrong = nearest_labels(image[..., :3], drawing.colours) != truth
    return float((wrong | (image[..., 3] == 0)).mean() * 100)


def written_faults(svg: str, width: int) -> tuple[int, int]:
    """Pixels that no film covers and that two cover, as the independent renderer shows the written file."""
    head = re.search(r"<svg[^>]*>", crisp(svg))
    assert head
    films = np.zeros((width, width), np.uint8)
    for group in re.findall(r"<g .*?</g>", svg, re.DOTALL):
        films += np.array(render(f"{head[0]}{group}</svg>", width).convert("RGBA"))[..., 3] > 0
    return int((films == 0).sum()), int((films > 1).sum())


def corner_distances(drawing: Drawing, width: int) -> list[float]:
    """How far (px) each true corner lies from the nearest node."""
    corners = np.array([c for s in drawing.shapes for c in s.corners]) * width / 100
    if not len(corners):
        return []
    tidy = tidied(decode_picture(encode(drawing, width, None)))
    palette = find_colours(tidy, count=len(drawing.colours))
    map_ = planar_map_of(tidy, palette, width, TraceOptions(speck_mm=2))
    nodes = np.concatenate([np.vstack([a.chain.pieces[:, 0], a.chain.end]) for a in map_.arcs])
    return [float(np.min(np.linalg.norm(nodes - c, axis=1))) for c in corners]
