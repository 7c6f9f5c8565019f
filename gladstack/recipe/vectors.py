"""Vector files as art: reading them, what each of their regions belongs to, and the pieces that follow."""

from __future__ import annotations

from dataclasses import dataclass

import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.curves import Curve
from gladstack.core.drawing import Drawing, visible
from gladstack.core.dxf_read import read_dxf
from gladstack.core.errors import VectorError
from gladstack.core.joints import clean
from gladstack.core.svg_read import MM_PER_PX, read_svg
from gladstack.recipe.arts import VectorArt
from gladstack.recipe.regions import Claimed, claim

_PX_MM = {"as-told": MM_PER_PX, "72-dpi": 25.4 / 72, "90-dpi": 25.4 / 90, "96-dpi": MM_PER_PX, "mm": 1.0}


@dataclass(frozen=True)
class VectorRegions:
    """Whose areas of a vector file are whose, in its own mm, with the curves of their edges."""

    width_mm: float
    height_mm: float
    claimed: Claimed
    colours: tuple[str, ...]
    curves: tuple[Curve, ...]
    notices: tuple[tuple[str, str], ...]


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
    regions: list[tuple[str | None, Polygon]] = []
    colours = tuple(seen)
    for colour, shape in seen.items():
        target = colour
        for _ in range(len(merged)):
            target = merged.get(target, target)
        regions += [(None if colour in art.dropped else target, p) for p in shape.geoms]
    painted = len(regions)
    regions += [(None, p) for p in _enclosed(list(seen.values()))]
    claimed = claim(regions, art.pins, drawing.width_mm)
    # A dropped colour waits for nobody: only what the drawing encloses does.
    if art.dropped:
        rest = claim(regions[painted:], art.pins, drawing.width_mm).waiting
        claimed = Claimed(claimed.by_film, rest, claimed.lost)
    curves = tuple(c for item in drawing.items for c in item.curves)
    return VectorRegions(drawing.width_mm, drawing.height_mm, claimed, colours, curves, _notices(drawing, art))


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
