"""Vector files as art: reading them, and what they paint."""

from __future__ import annotations

from collections.abc import Sequence

from gladstack.core.base.colour import delta_e, from_hex
from gladstack.core.base.errors import VectorError
from gladstack.core.drawing.drawing import Drawing, OpenEnds, OpenPaths, visible
from gladstack.core.drawing.dxf_read import read_dxf
from gladstack.core.drawing.svg_read import MM_PER_PX, read_svg
from gladstack.recipe.art.claimed import Origin
from gladstack.recipe.art.regions import Painted, Painting
from gladstack.recipe.model.arts import VectorArt

_NEAR_SHADE = 4.0
"""Colours within this delta-E are taken for one shade that was meant."""
_PX_MM = {"as-told": MM_PER_PX, "72-dpi": 25.4 / 72, "90-dpi": 25.4 / 90, "96-dpi": MM_PER_PX, "mm": 1.0}


def is_vector(data: bytes) -> bool:
    """Whether bytes look like an SVG or DXF file."""
    head = data[:4096].lstrip(b"\xef\xbb\xbf \t\r\n")
    return head.startswith((b"<svg", b"<?xml", b"<!DOCTYPE", b"<!--")) or b"SECTION" in head[:400]


def read_vector(data: bytes, reading: str = "as-told", open_paths: OpenPaths = "as-told", line_mm: float = 1.0) -> Drawing:
    """The drawing in an SVG or DXF file. Raises VectorError."""
    ends = OpenEnds(open_paths, line_mm)
    if b"SECTION" in data[:400] and not data.lstrip().startswith(b"<"):
        return read_dxf(data, None if reading == "as-told" else _PX_MM[reading], ends)
    return read_svg(data, _PX_MM[reading], ends)


def picture_within(data: bytes) -> bytes | None:
    """The picture that an SVG file merely wraps, if that is all it does. Raises VectorError."""
    drawing = read_vector(data)
    if drawing.items or not drawing.pictures:
        return None
    if drawing.picture is None:
        raise VectorError("This file only refers to a picture outside it.", "Bring in that picture itself.")
    return drawing.picture


def origin_of_vector(art: VectorArt, data: bytes, key: str) -> Origin:
    """What the file paints, after merges and drops of its colours. Raises VectorError."""
    drawing = read_vector(data, art.reading, art.open_paths, art.line_mm)
    seen = visible(drawing.items)
    painted = tuple(Painted(_film_of(art, colour), colour, shape) for colour, shape in seen.items())
    painting = Painting(key, (drawing.width_mm, drawing.height_mm), painted, waits=True)
    curves = tuple(c for item in drawing.items for c in item.curves)
    return Origin(painting, curves, _notices(drawing, art), tuple(seen), _unmerged(art, tuple(seen)), drawing.open_paths)


def _film_of(art: VectorArt, colour: str) -> str | None:
    """The film of one of the file's colours: its own or that it is merged with, none if it is dropped."""
    merged = {m.colour: m.into for m in art.merges}
    target = colour
    for _ in range(len(merged)):
        target = merged.get(target, target)
    return None if colour in art.dropped else target


def _unmerged(art: VectorArt, colours: tuple[str, ...]) -> tuple[tuple[str, str], ...]:
    """Near-equal shades that are still films of their own."""
    settled = {m.colour for m in art.merges} | set(art.dropped)
    return tuple((a, b) for a, b in near_shades(colours) if a not in settled and b not in art.dropped)


def near_shades(colours: Sequence[str]) -> tuple[tuple[str, str], ...]:
    """Colours that hardly differ from an earlier one, each with that one."""
    out: list[tuple[str, str]] = []
    kept: list[str] = []
    for colour in colours:
        near = next((k for k in kept if float(delta_e(from_hex(k), from_hex(colour))) < _NEAR_SHADE), None)
        if near is None:
            kept.append(colour)
        else:
            out.append((colour, near))
    return tuple(out)


def _notices(drawing: Drawing, art: VectorArt) -> tuple[tuple[str, str], ...]:
    out = list(drawing.notices)
    if not drawing.told and art.reading == "as-told":
        px = drawing.width_mm / MM_PER_PX
        wide = [f"{px * _PX_MM[f'{dpi}-dpi']:.1f} mm at {dpi} dpi" for dpi in (96, 90, 72)]
        said = f"The file tells no real size. It is {', '.join(wide)}, or {px:.1f} mm wide if its units are mm."
        out.append(("size-guess", said))
    return tuple(out)
