"""Reading DXF outlines: lines, arcs, circles, ellipses, polylines and splines, also in blocks.

They are joined end to end into closed shapes, in whatever order and direction they were drawn; curves stay curves.
"""

from __future__ import annotations

import io
import math
import struct
from itertools import islice
from typing import Any

import ezdxf
import numpy as np
import shapely
from ezdxf import colors, disassemble, units
from ezdxf import path as dxf_path
from ezdxf.document import Drawing as Document
from ezdxf.enums import InsertUnits
from ezdxf.lldxf.const import DXFError
from ezdxf.lldxf.tagger import binary_tags_loader
from ezdxf.math import Vec3
from ezdxf.path import Command

from gladstack.core.base import tolerances
from gladstack.core.base.errors import VectorError
from gladstack.core.drawing.drawing import (
    AS_TOLD,
    MAX_COORDINATE_MM,
    Budget,
    Drawing,
    OpenEnds,
    Painted,
    filled,
    findings_of,
)
from gladstack.core.drawing.svg_paths import closed_chain
from gladstack.core.geometry.curves import (
    Chain,
    Matrix,
    curve_of,
    curves_of,
    line_pieces,
    on_grid,
    transform_chain,
    transform_curve,
    transform_points,
)
from gladstack.core.geometry.joining import joined
from gladstack.core.geometry.strokes import Pen, stroked

_KINDS = frozenset(("LINE", "ARC", "CIRCLE", "ELLIPSE", "LWPOLYLINE", "POLYLINE", "SPLINE"))
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


def read_dxf(data: bytes, unit_mm: float | None = None, ends: OpenEnds = AS_TOLD) -> Drawing:
    """The outlines of a DXF file, one colour for each of its colours; `unit_mm` overrides the unit it tells.

    Outlines that do not close are left out, unless `ends` closes or expands them.

    Raises VectorError.
    """
    read = _document(data)
    told = read.units != 0 and b"$INSUNITS" in data
    unit = InsertUnits(read.units)
    scale = unit_mm or (units.conversion_factor(unit, InsertUnits.Millimeters) if told else 1.0)
    by_colour, unread = _outlines(read, scale)
    budget, notices = Budget(), {}
    budget.take("colours", len(by_colour))
    budget.take("points", sum(3 * len(chain) for chains in by_colour.values() for chain in chains))
    items: list[Painted] = []
    left_open = 0
    for colour, chains in by_colour.items():
        rings, runs = joined(chains)
        left_open += len(runs)
        if ends.how == "close":
            rings += [ring for run in runs if abs(_area(ring := closed_chain(run))) > tolerances.AREA_MM2]
        curves = curves_of([on_grid(r) for r in rings], tolerances.FLATTEN_MM)
        if curves:
            items.append(Painted(colour, filled(curves, "evenodd", budget), tuple(curves)))
        if ends.how == "expand" and runs:
            pen = Pen(ends.line_mm, "round", "round")
            lines = [(curve_of(r, tolerances.FLATTEN_MM).points, False) for r in runs]
            items.append(Painted(colour, stroked(lines, pen, tolerances.FLATTEN_MM), ()))
    if left_open and ends.how == "as-told":
        notices["open"] = f"{left_open} outlines are not closed and were left out: close them, or expand them to lines."
    if unread:
        named = ", ".join(unread[:4]) + (f" and {len(unread) - 4} more" if len(unread) > 4 else "")
        notices["numbers"] = f"It holds outlines with numbers that cannot be read, which were left out: {named}."
    items = [i for i in items if not i.shape.is_empty]
    if not items:
        why = notices.get("numbers", "Join its lines into closed shapes, then save it anew.")
        raise VectorError("This DXF file has no closed outlines.", why)
    left, top, right, bottom = shapely.total_bounds([i.shape for i in items]).tolist()
    moved = tuple(_moved(i, -left, -top) for i in items)
    return Drawing(right - left, bottom - top, told, moved, findings_of(notices), open_paths=left_open)


def _moved(item: Painted, dx: float, dy: float) -> Painted:
    matrix: Matrix = (1.0, 0.0, 0.0, 1.0, dx, dy)
    shape = shapely.transform(item.shape, lambda p: transform_points(p, matrix))
    return Painted(item.colour, shape, tuple(transform_curve(c, matrix) for c in item.curves))


def _document(data: bytes) -> Any:
    try:
        if _BINARY in data[:32]:
            return Document.load(binary_tags_loader(data))
        return ezdxf.read(io.StringIO(data.decode("utf-8", errors="replace").replace("\r\n", "\n")))  # type: ignore[attr-defined]
    except (
        DXFError,
        ValueError,
        IndexError,
        KeyError,
        AttributeError,
        TypeError,
        RecursionError,
        OverflowError,
        struct.error,
    ) as fault:
        raise VectorError("This DXF file cannot be read.", "Save it anew as DXF R12 or R2010.") from fault


def _outlines(document: Any, scale: float) -> tuple[dict[str, list[Chain]], list[str]]:
    """All outlines by colour, in mm, y down, the drawing's own corner at the origin; and those that cannot be read."""
    found: list[tuple[str, Chain]] = []
    unread: list[str] = []
    count = 0
    try:
        for entity in islice(disassemble.recursive_decompose(document.modelspace()), _MOST_ENTITIES + 1):
            count += 1
            if entity.dxftype() not in _KINDS:
                continue
            chains = _chains(entity, scale)
            if chains is None:
                unread.append(f"{entity.dxftype().lower()} {entity.dxf.get('handle') or ''}".strip())
            else:
                colour = _colour(entity, document)
                found += [(colour, chain) for chain in chains]
    except (DXFError, RecursionError, ValueError, ZeroDivisionError, OverflowError) as fault:
        raise VectorError(
            "The blocks of this DXF file cannot be followed.", "Explode its blocks, then save it anew."
        ) from fault
    if count > _MOST_ENTITIES:
        told = f"This DXF file holds more than {_MOST_ENTITIES:,} lines and shapes."
        raise VectorError(told, "Save only what is to be cut, or join its lines to polylines.")
    if not found:
        return {}, unread
    points = np.concatenate([chain.pieces.reshape(-1, 2) for _, chain in found])
    low, size = points.min(axis=0), np.ptp(points, axis=0)
    if float(size.max()) > MAX_COORDINATE_MM:
        raise VectorError(
            f"This drawing is {size.max() / 1000:.4g} m large; at most 10 m can be cut.", "Save it at its real size."
        )
    move: Matrix = (1.0, 0.0, 0.0, 1.0, -float(low[0]), -float(low[1]))
    by_colour: dict[str, list[Chain]] = {}
    for colour, chain in found:
        by_colour.setdefault(colour, []).append(transform_chain(chain, move))
    return by_colour, unread


def _chains(entity: Any, scale: float) -> list[Chain] | None:
    """The runs of an entity as chains in mm, y down; None if its numbers cannot be read."""
    if not all(math.isfinite(v) for value in entity.dxfattribs().values() for v in _numbers(value)):
        return None
    try:
        outline = dxf_path.make_path(entity)
        runs = [_chain(part) for part in (outline.sub_paths() if outline.has_sub_paths else [outline]) if len(part)]
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


def _area(ring: Chain) -> float:
    """The signed area a ring's corners go round."""
    x, y = ring.pieces[:, 0].T
    return float(0.5 * np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y))


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
