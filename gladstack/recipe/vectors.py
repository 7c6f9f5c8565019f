"""Vector files as art: reading them, what each of their regions belongs to, and the pieces that follow."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.curves import Curve, transform_curve, transform_points
from gladstack.core.drawing import Drawing, visible
from gladstack.core.dxf_read import read_dxf
from gladstack.core.errors import VectorError
from gladstack.core.joints import clean
from gladstack.core.svg_read import MM_PER_PX, read_svg
from gladstack.recipe.arts import VectorArt

_PX_MM = {"as-told": MM_PER_PX, "72-dpi": 25.4 / 72, "90-dpi": 25.4 / 90, "96-dpi": MM_PER_PX, "mm": 1.0}


@dataclass(frozen=True)
class VectorRegions:
    """A vector file's areas by film (None: nobody's), in its own mm, with the curves of their edges."""

    width_mm: float
    height_mm: float
    by_film: dict[str | None, MultiPolygon]
    colours: tuple[str, ...]
    curves: tuple[Curve, ...]
    notices: tuple[tuple[str, str], ...]
    lost_pins: int


def is_vector(data: bytes) -> bool:
    """Whether bytes look like an SVG or DXF file."""
    head = data[:4096].lstrip(b"\xef\xbb\xbf \t\r\n")
    return head.startswith((b"<svg", b"<?xml", b"<!DOCTYPE", b"<!--")) or b"SECTION" in head[:400]


def read_vector(data: bytes, reading: str = "as-told") -> Drawing:
    """The drawing in an SVG or DXF file. Raises VectorError."""
    if b"SECTION" in data[:400] and not data.lstrip().startswith(b"<"):
        return read_dxf(data, None if reading == "as-told" else _PX_MM[reading])
    return read_svg(data, _PX_MM[reading])


def picture_within(data: bytes) -> bytes | None:
    """The picture that an SVG file merely wraps, if that is all it does. Raises VectorError."""
    drawing = read_vector(data)
    if drawing.items or not drawing.pictures:
        return None
    if drawing.picture is None:
        raise VectorError("This file only refers to a picture outside it.", "Bring in that picture itself.")
    return drawing.picture


def regions_of(art: VectorArt, data: bytes) -> VectorRegions:
    """The file's areas after merges, drops and pins. Raises VectorError."""
    drawing = read_vector(data, art.reading)
    seen = visible(drawing.items)
    merged = {m.colour: m.into for m in art.merges}
    films: dict[str | None, list[Polygon]] = {}
    colours = tuple(seen)
    for colour, shape in seen.items():
        target = colour
        for _ in range(len(merged)):
            target = merged.get(target, target)
        films.setdefault(None if colour in art.dropped else target, []).extend(shape.geoms)
    films.setdefault(None, []).extend(_enclosed(list(seen.values())))
    lost = 0
    for pin in art.pins:
        at = shapely.Point(pin.x_mm, pin.y_mm)
        found = next(((f, p) for f, parts in films.items() for p in parts if p.intersects(at)), None)
        if found is None:
            lost += 1
            continue
        films[found[0]].remove(found[1])
        films.setdefault(pin.film, []).append(found[1])
    by_film = {film: clean(shapely.union_all(parts)) for film, parts in films.items() if parts}
    curves = tuple(c for item in drawing.items for c in item.curves)
    return VectorRegions(drawing.width_mm, drawing.height_mm, by_film, colours, curves, _notices(drawing, art), lost)


def _enclosed(shapes: list[MultiPolygon]) -> list[Polygon]:
    """The unpainted areas that painted ones enclose: regions nobody owns until they are claimed."""
    holes = [Polygon(r) for s in shapes for p in s.geoms for r in p.interiors]
    if not holes:
        return []
    return list(clean(shapely.difference(shapely.union_all(holes), shapely.union_all(shapes))).geoms)


def _notices(drawing: Drawing, art: VectorArt) -> tuple[tuple[str, str], ...]:
    out = list(drawing.notices)
    if not drawing.told and art.reading == "as-told":
        px = drawing.width_mm / MM_PER_PX
        wide = [f"{px * _PX_MM[f'{dpi}-dpi']:.1f} mm at {dpi} dpi" for dpi in (96, 90, 72)]
        said = f"The file tells no real size. It is {', '.join(wide)}, or {px:.1f} mm wide if its units are mm."
        out.append(("size-guess", said))
    return tuple(out)


def placed_curves(curves: tuple[Curve, ...], matrix: tuple[float, float, float, float, float, float]) -> tuple[Curve, ...]:
    """Curves moved to where the art lies."""
    return tuple(transform_curve(c, matrix) for c in curves)


def placed_shape(shape: MultiPolygon, matrix: tuple[float, float, float, float, float, float]) -> MultiPolygon:
    """A shape moved to where the art lies."""
    moved: MultiPolygon = shapely.transform(shape, lambda p: transform_points(np.asarray(p), matrix))
    return moved if moved.is_valid else clean(shapely.make_valid(moved))
