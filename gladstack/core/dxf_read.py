"""Reading DXF outlines: lines, arcs, circles, ellipses, polylines and splines, joined end to end into closed shapes."""

from __future__ import annotations

import io
from collections.abc import Iterable
from typing import Any

import ezdxf
import numpy as np
import shapely
from ezdxf import colors, units
from ezdxf import path as dxf_path
from ezdxf.enums import InsertUnits
from ezdxf.lldxf.const import DXFError
from shapely import Polygon

from gladstack.core import tolerances
from gladstack.core.curves import curves_of, line_chain
from gladstack.core.drawing import AS_TOLD, Drawing, OpenEnds, Painted, filled
from gladstack.core.errors import VectorError
from gladstack.core.strokes import Pen, stroked

_JOIN_MM = 0.05
_KINDS = "LINE ARC CIRCLE ELLIPSE LWPOLYLINE POLYLINE SPLINE"
_WHITE = "#ffffff"


def read_dxf(data: bytes, unit_mm: float | None = None, ends: OpenEnds = AS_TOLD) -> Drawing:
    """The outlines of a DXF file, one colour for each of its colours; `unit_mm` overrides the unit it tells.

    Outlines that do not close are left out, unless `ends` closes or expands them.

    Raises VectorError.
    """
    try:
        document = ezdxf.read(io.StringIO(data.decode("utf-8", errors="replace").replace("\r\n", "\n")))  # type: ignore[attr-defined]
    except (DXFError, ValueError, IndexError, KeyError, AttributeError, TypeError) as fault:
        raise VectorError("This DXF file cannot be read.", "Save it anew as DXF R12 or R2010, in text form.") from fault
    told = document.units != 0
    unit = InsertUnits(document.units)
    scale = unit_mm or (units.conversion_factor(unit, InsertUnits.Millimeters) if told else 1.0)
    by_colour: dict[str, list[np.ndarray]] = {}
    for entity in document.modelspace().query(_KINDS):
        points = _points(entity, scale)
        if points is not None:
            by_colour.setdefault(_colour(entity, document), []).append(points)
    notices: dict[str, str] = {}
    items = []
    left_open = 0
    for colour, lines in by_colour.items():
        rings, runs = _rings(lines)
        left_open += len(runs)
        if ends.how == "close":
            rings += [np.vstack([r, r[:1]]) for r in runs if len(r) > 2 and Polygon(r).area > tolerances.AREA_MM2]
        curves = curves_of([line_chain(r) for r in rings], tolerances.FLATTEN_MM)
        if curves:
            items.append(Painted(colour, filled(curves, "evenodd"), tuple(curves)))
        if ends.how == "expand" and runs:
            pen = Pen(ends.line_mm, "round", "round")
            items.append(Painted(colour, stroked([(r, False) for r in runs], pen, tolerances.FLATTEN_MM), ()))
    if left_open and ends.how == "as-told":
        notices["open"] = f"{left_open} outlines are not closed and were left out: close them, or expand them to lines."
    if not items:
        raise VectorError("This DXF file has no closed outlines.", "Join its lines into closed shapes, then save it anew.")
    left, top, right, bottom = shapely.total_bounds([i.shape for i in items]).tolist()
    moved = tuple(_moved(i, -left, -top) for i in items)
    return Drawing(right - left, bottom - top, told, moved, tuple(notices.items()), open_paths=left_open)


def _points(entity: Any, scale: float) -> np.ndarray | None:
    try:
        outline = dxf_path.make_path(entity)
        points = np.array([(v.x, -v.y) for v in outline.flattening(tolerances.FLATTEN_MM / scale)], dtype=np.float64)
    except (TypeError, ValueError, DXFError):
        return None
    return points * scale if len(points) > 1 and np.all(np.isfinite(points)) else None


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


def _rings(lines: Iterable[np.ndarray]) -> tuple[list[np.ndarray], list[np.ndarray]]:
    """Closed rings out of lines that meet end to end, and the runs that stay open."""
    left = [line for line in lines if len(line) > 1]
    rings: list[np.ndarray] = []
    open_: list[np.ndarray] = []
    while left:
        run = left.pop()
        while np.hypot(*(run[0] - run[-1])) > _JOIN_MM and left:
            ends = np.array([[line[0], line[-1]] for line in left])
            apart = np.linalg.norm(ends - run[-1], axis=2)
            k, side = np.unravel_index(int(np.argmin(apart)), apart.shape)
            if apart[k, side] > _JOIN_MM:
                break
            following = left.pop(int(k))
            run = np.vstack([run, following[1:] if side == 0 else following[::-1][1:]])
        if np.hypot(*(run[0] - run[-1])) <= _JOIN_MM and len(run) > 3 and Polygon(run).area > tolerances.AREA_MM2:
            rings.append(np.vstack([run[:-1], run[:1]]))
        else:
            open_.append(run)
    return rings, open_


def _moved(item: Painted, dx: float, dy: float) -> Painted:
    by = np.array([dx, dy])
    curves = tuple(curves_of([line_chain(c.points + by) for c in item.curves], tolerances.FLATTEN_MM))
    shape = filled(curves, "evenodd") if curves else shapely.transform(item.shape, lambda p: p + by)
    return Painted(item.colour, shape, curves)
