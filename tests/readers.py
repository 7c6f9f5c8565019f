"""Readers of written files that share nothing with what writes them: each gives the cut lines it finds, in mm, y down."""

from __future__ import annotations

import ctypes
import io
import re
from collections.abc import Sequence
from typing import Any

import ezdxf
import numpy as np
import numpy.typing as npt
import pypdfium2
import pypdfium2.raw as pdfium
import shapely
import svgelements
from ezdxf.addons.hpgl2 import api as hpgl2
from shapely import LineString

Points = npt.NDArray[np.float64]
_MM_PER_PT = 25.4 / 72
_DENSE_MM = 0.1
"""How far apart places are at which two lines are compared, corners aside."""


def svg_lines(data: bytes) -> list[Points]:
    """All subpaths of all paths, curves in 96 steps."""
    out = []
    for path in re.findall(r'<path[^>]* d="([^"]*)"', data.decode()):
        for sub in svgelements.Path(path).as_subpaths():
            points: list[tuple[float, float]] = []
            for piece in svgelements.Path(sub):
                if isinstance(piece, svgelements.Move):
                    continue
                count = 1 if isinstance(piece, svgelements.Line | svgelements.Close) else 96
                points += [(float(p.x), float(p.y)) for p in (piece.point(t) for t in np.linspace(0, 1, count + 1))]
            out.append(np.array(points))
    return out


def dxf_lines(data: bytes, height_mm: float) -> list[Points]:
    """All polylines and lines; raises if the audit finds anything."""
    read = ezdxf.read(io.StringIO(data.decode()))  # type: ignore[attr-defined]
    assert not read.audit().errors
    out = []
    entity: Any
    for entity in read.modelspace():
        if entity.dxftype() == "LWPOLYLINE":
            points = [(x, height_mm - y) for x, y in entity.get_points("xy")]
            out.append(np.array([*points, points[0]] if entity.closed else points))
        elif entity.dxftype() == "LINE":
            out.append(np.array([(p.x, height_mm - p.y) for p in (entity.dxf.start, entity.dxf.end)]))
    return out


def hpgl_lines(data: bytes, height_mm: float) -> list[Points]:
    """All polylines that ezdxf's HPGL/2 reader makes of a program. It moves the drawing to its own corner: moved back."""
    document = hpgl2.to_dxf(b"\x1b%1B" + data)
    found = []
    entity: Any
    for entity in document.modelspace():
        if entity.dxftype() == "LWPOLYLINE":
            points = [(x / 40, y / 40) for x, y in entity.get_points("xy")]
            found.append(np.array([*points, points[0]] if entity.closed else points))
        elif entity.dxftype() == "LINE":
            found.append(np.array([(p.x / 40, p.y / 40) for p in (entity.dxf.start, entity.dxf.end)]))
    down = _pen_down(data)
    dx = min(p[0] for s in down for p in s) - min(float(f[:, 0].min()) for f in found)
    dy = min(p[1] for s in down for p in s) - min(float(f[:, 1].min()) for f in found)
    return [np.stack([f[:, 0] + dx, height_mm - (f[:, 1] + dy)], axis=1) for f in found]


def _pen_down(data: bytes) -> list[list[tuple[float, float]]]:
    out: list[list[tuple[float, float]]] = []
    here = (0.0, 0.0)
    for command, told in re.findall(rb"(PU|PD)([-\d,]*);", data):
        numbers = [int(n) / 40 for n in told.split(b",") if n]
        points = list(zip(numbers[::2], numbers[1::2], strict=True))
        if command == b"PD":
            out.append([here, *points])
        here = points[-1] if points else here
    return out


def pdf_lines(data: bytes, page: int = 0) -> list[Points]:
    """All subpaths of a page's path objects, by pdfium; curves in 96 steps."""
    document = pypdfium2.PdfDocument(data)
    held = document[page]
    height = held.get_height()
    out: list[Points] = []
    for item in held.get_objects(filter=[pdfium.FPDF_PAGEOBJ_PATH]):
        matrix = item.get_matrix()
        points: list[tuple[float, float]] = []
        curve: list[tuple[float, float]] = []
        start = (0.0, 0.0)
        for k in range(pdfium.FPDFPath_CountSegments(item)):
            segment = pdfium.FPDFPath_GetPathSegment(item, k)
            x, y = ctypes.c_float(), ctypes.c_float()
            pdfium.FPDFPathSegment_GetPoint(segment, x, y)
            at = matrix.on_point(x.value, y.value)
            kind = pdfium.FPDFPathSegment_GetType(segment)
            if kind == pdfium.FPDF_SEGMENT_MOVETO:
                if len(points) > 1:
                    out.append(np.array(points))
                points, start = [at], at
            elif kind == pdfium.FPDF_SEGMENT_LINETO:
                points.append(at)
            else:
                curve.append(at)
                if len(curve) == 3:
                    points += _bezier(points[-1], *curve)
                    curve = []
            if pdfium.FPDFPathSegment_GetClose(segment) and points[-1] != start:
                points.append(start)
        if len(points) > 1:
            out.append(np.array(points))
    return [np.stack([p[:, 0] * _MM_PER_PT, (height - p[:, 1]) * _MM_PER_PT], axis=1) for p in out]


def _bezier(a: Any, b: Any, c: Any, d: Any) -> list[tuple[float, float]]:
    t = np.linspace(0, 1, 97)[1:, None]
    r = 1 - t
    points = r**3 * np.array(a) + 3 * r * r * t * np.array(b) + 3 * r * t * t * np.array(c) + t**3 * np.array(d)
    return [(float(x), float(y)) for x, y in points]


def unmatched(wanted: Sequence[Points], found: Sequence[Points], tolerance_mm: float) -> tuple[int, int]:
    """How many wanted lines have no line of their own that is as near as this everywhere; and how many found are left."""
    left = np.array([LineString(f) for f in found if len(f) > 1], dtype=object)
    shapely.prepare(left)
    bounds = shapely.bounds(left).reshape(-1, 4)
    taken: set[int] = set()
    missing = 0
    for points in wanted:
        line = LineString(points)
        shapely.prepare(line)
        alike = np.flatnonzero((np.abs(bounds - line.bounds) <= tolerance_mm).all(axis=1)).tolist()
        own = next((k for k in alike if k not in taken and _near(left[k], line, tolerance_mm)), None)
        if own is None:
            missing += 1
        else:
            taken.add(own)
    return missing, len(left) - len(taken)


def _near(a: LineString, b: LineString, mm: float) -> bool:
    """Whether no place of either line is farther than this from the other; both are prepared."""
    dense = [shapely.points(shapely.get_coordinates(shapely.segmentize(line, _DENSE_MM))) for line in (a, b)]
    return bool(shapely.dwithin(b, dense[0], mm).all() and shapely.dwithin(a, dense[1], mm).all())
