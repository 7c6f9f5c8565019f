"""Reading DXF outlines: lines, arcs, circles, ellipses, polylines and splines, also in blocks; and what is hatched.

They are joined end to end into closed shapes, in whatever order and direction they were drawn; curves stay curves.
"""

from __future__ import annotations

import io
import math
import struct
from collections import Counter
from dataclasses import dataclass, replace
from itertools import islice
from typing import Any

import ezdxf
import numpy as np
from ezdxf import colors, disassemble, units
from ezdxf import path as dxf_path
from ezdxf.document import Drawing as Document
from ezdxf.enums import InsertUnits
from ezdxf.lldxf.const import DXFError
from ezdxf.lldxf.tagger import binary_tags_loader
from ezdxf.math import Vec3
from ezdxf.path import Command

from gladstack.core.base.errors import VectorError
from gladstack.core.drawing.drawing import AS_TOLD, Drawing, OpenEnds
from gladstack.core.drawing.layers import FilmsBy, layer_name, layers_of
from gladstack.core.drawing.outlines import Hatch, outline_drawing
from gladstack.core.geometry.curves import Chain, Matrix, line_pieces, transform_chain

_KINDS = frozenset(("LINE", "ARC", "CIRCLE", "ELLIPSE", "LWPOLYLINE", "POLYLINE", "SPLINE"))
_AREAS = frozenset(("HATCH", "MPOLYGON", "SOLID", "TRACE"))
_NO_OUTLINES = {
    "TEXT": "text", "MTEXT": "text", "ATTRIB": "text", "ATTDEF": "text", "IMAGE": "picture", "POINT": "point",
    "3DFACE": "face in space", "MESH": "face in space", "3DSOLID": "body", "VIEWPORT": "view", "XLINE": "endless line",
    "RAY": "endless line", "LEADER": "leader", "WIPEOUT": "cover",
}  # fmt: skip
_DAMAGED = (
    DXFError, ValueError, IndexError, KeyError, AttributeError, TypeError, RecursionError, OverflowError, struct.error,
)  # fmt: skip
"""What the library raises for files that are damaged."""
_WHITE = "#ffffff"
_BINARY = b" Binary DXF\r\n\x1a\x00"
"""What a DXF file that is not text begins with, after the first word."""
_MOST_ENTITIES = 50_000
_MOST_MM = 1e9
"""Drawings may lie far from their origin, but not so far that their coordinates lose their decimals."""


def read_dxf(data: bytes, unit_mm: float | None = None, ends: OpenEnds = AS_TOLD, by: FilmsBy = "colours") -> Drawing:
    """The outlines of a DXF file, one colour for each of its colours or `by` its layers; `unit_mm` overrides the unit it
    tells.

    Outlines that do not close are left out, unless `ends` closes or expands them.

    Raises VectorError.
    """
    read = _document(data)
    # A unit that the format does not know tells nothing.
    known = read.units in {unit.value for unit in InsertUnits}
    told = known and read.units != 0 and b"$INSUNITS" in data
    scale = unit_mm or (units.conversion_factor(InsertUnits(read.units), InsertUnits.Millimeters) if told else 1.0)
    found, unread, others = _outlines(read, scale)
    notices = {}
    if others:
        many = ", ".join(f"{n} {what}{'s' if n > 1 else ''}" for what, n in others.most_common())
        notices["kinds"] = f"It holds what is no outline, which was left out: {many}."
    if unread:
        named = ", ".join(unread[:4]) + (f" and {len(unread) - 4} more" if len(unread) > 4 else "")
        notices["numbers"] = f"It holds outlines with numbers that cannot be read, which were left out: {named}."
    names = [one.layer for one in found]
    layering = layers_of([(name,) if name else () for name in names], [one.colour for one in found], set(names))
    films = by == "layers" and bool(layering.layers)
    colours = [layering.colour_of(k, one.colour) if films else one.colour for k, one in enumerate(found)]
    pairs = list(zip(colours, found, strict=True))
    runs = [(colour, chain) for colour, one in pairs if not one.filled for chain in one.chains]
    hatches = [Hatch(colour, one.chains) for colour, one in pairs if one.filled]
    return replace(outline_drawing(runs, ends, notices, hatches, told=told, kind="DXF file"), layering=layering)


def _document(data: bytes) -> Any:
    try:
        if _BINARY in data[:32]:
            return Document.load(binary_tags_loader(data))
        return ezdxf.read(io.StringIO(data.decode("utf-8", errors="replace").replace("\r\n", "\n")))  # type: ignore[attr-defined]
    except _DAMAGED as fault:
        raise VectorError("This DXF file cannot be read.", "Save it again as DXF R12 or R2010.") from fault


@dataclass(frozen=True)
class _Drawn:
    """One entity: its colour, its layer, its runs in mm, y down, and whether what they bound is filled."""

    colour: str
    layer: str
    chains: tuple[Chain, ...]
    filled: bool


def _outlines(document: Any, scale: float) -> tuple[list[_Drawn], list[str], Counter[str]]:
    """All outlines and hatches; those that cannot be read; and how many there are of what is no outline."""
    found: list[_Drawn] = []
    unread: list[str] = []
    others: Counter[str] = Counter()
    count = 0
    try:
        for entity in islice(disassemble.recursive_decompose(document.modelspace()), _MOST_ENTITIES + 1):
            count += 1
            kind = entity.dxftype()
            if kind not in _KINDS | _AREAS:
                others[_NO_OUTLINES.get(kind, kind.lower())] += 1
                continue
            chains = _chains(entity, scale)
            if chains is None:
                unread.append(f"{entity.dxftype().lower()} {entity.dxf.get('handle') or ''}".strip())
            else:
                colour, layer = _colour(entity, document), layer_name(str(entity.dxf.get("layer", "")))
                found += (
                    [_Drawn(colour, layer, tuple(chains), True)]
                    if kind in _AREAS
                    else [_Drawn(colour, layer, (chain,), False) for chain in chains]
                )
    except (DXFError, RecursionError, ValueError, ZeroDivisionError, OverflowError) as fault:
        raise VectorError(
            "The blocks of this DXF file cannot be followed.", "Explode its blocks, then save it again."
        ) from fault
    if count > _MOST_ENTITIES:
        told = f"This DXF file holds more than {_MOST_ENTITIES:,} lines and shapes."
        raise VectorError(told, "Save only what is to be cut, or join its lines to polylines.")
    return found, unread, others


def _chains(entity: Any, scale: float) -> list[Chain] | None:
    """The runs of an entity as chains in mm, y down; None if its numbers cannot be read."""
    if not all(math.isfinite(v) for value in entity.dxfattribs().values() for v in _numbers(value)):
        return None
    try:
        hatched = entity.dxftype() in ("HATCH", "MPOLYGON")
        outlines = list(dxf_path.from_hatch(entity)) if hatched else [dxf_path.make_path(entity)]
        runs = [
            _chain(part)
            for outline in outlines
            for part in (outline.sub_paths() if outline.has_sub_paths else [outline])
            if len(part)
        ]
    except (TypeError, ValueError, ZeroDivisionError, OverflowError, DXFError):
        return None
    flipped: Matrix = (scale, 0.0, 0.0, -scale, 0.0, 0.0)
    out = [transform_chain(run, flipped) for run in runs]
    return out if all(bool(np.abs(c.pieces).max() <= _MOST_MM) for c in out) else None


def _numbers(value: Any) -> tuple[float, ...]:
    if isinstance(value, Vec3):
        return value.x, value.y, value.z
    return (value,) if isinstance(value, float) else ()


def _chain(outline: Any) -> Chain:
    here = np.array([outline.start.x, outline.start.y])
    pieces, straight = [], []
    for step in outline.commands():
        end = np.array([step.end.x, step.end.y])
        if step.type == Command.LINE_TO:
            pieces.append(line_pieces(np.array([here, end]))[0])
        elif step.type == Command.CURVE3_TO:
            middle = np.array([step.ctrl.x, step.ctrl.y])
            pieces.append(np.array([here, here + (middle - here) * 2 / 3, end + (middle - end) * 2 / 3, end]))
        else:
            pieces.append(np.array([here, [step.ctrl1.x, step.ctrl1.y], [step.ctrl2.x, step.ctrl2.y], end]))
        straight.append(step.type == Command.LINE_TO)
        here = end
    return Chain(np.array(pieces), np.array(straight))


def _colour(entity: Any, document: Any) -> str:
    """The true or indexed colour of an entity, else that of its layer; white, which is paper, reads as black."""
    if entity.dxf.hasattr("true_color"):
        rgb = colors.int2rgb(entity.dxf.true_color)
    else:
        index = entity.dxf.get("color", 256)
        if index in (0, 256):
            layer = document.layers.get(entity.dxf.layer) if entity.dxf.layer in document.layers else None
            index = abs(layer.color) if layer is not None else 7
        rgb = colors.aci2rgb(index if 1 <= index <= 255 else 7)
    text = "#{:02x}{:02x}{:02x}".format(*rgb)
    return "#000000" if text == _WHITE else text
