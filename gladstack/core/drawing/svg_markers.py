"""Markers of an SVG file: what stands at the corners of a path (SVG 2, section 11.6), and where."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from xml.etree.ElementTree import Element

import numpy as np
import shapely
from shapely import Polygon

from gladstack.core.drawing.svg_paths import Run
from gladstack.core.drawing.svg_style import Style
from gladstack.core.drawing.svg_values import box_of, number_of
from gladstack.core.geometry.curves import Matrix, compose

MARKED = ("path", "line", "polyline", "polygon")
_NAMES = ("marker-start", "marker-mid", "marker-end")
_URL = re.compile(r"url\(\s*['\"]?#([^'\")]+)")


@dataclass(frozen=True)
class MarkerVertex:
    """A corner of a path: where it is, and the way the path leads there (degrees clockwise from the right)."""

    name: str
    x: float
    y: float
    angle: float


def markers_of(style: Style, ids: Mapping[str, Element]) -> dict[str, Element]:
    """The markers that a style asks for, by where they stand."""
    out = {}
    for name in _NAMES:
        found = _URL.match(style.get(name, "") or "")
        source = ids.get(found[1]) if found else None
        if source is not None and isinstance(source.tag, str) and source.tag.split("}")[-1] == "marker":
            out[name] = source
    return out


def corners(courses: Sequence[Run]) -> Iterator[MarkerVertex]:
    """The corners of a path, each where one segment ends and the next begins; start and end are those of the whole path."""
    rows = [(chain, closed) for chain, closed in courses if len(chain)]
    for k, (chain, closed) in enumerate(rows):
        pieces = chain.pieces
        ways_in, ways_out = [_way(p[::-1], -1) for p in pieces], [_way(p, 1) for p in pieces]
        count = len(pieces)
        for j in range(count + 1):
            before = ways_in[j - 1] if j else (ways_in[-1] if closed else None)
            after = ways_out[j] if j < count else (ways_out[0] if closed else None)
            x, y = (pieces[j, 0] if j < count else pieces[-1, 3]).tolist()
            name = "marker-start" if k == 0 and j == 0 else "marker-mid"
            if k == len(rows) - 1 and j == count:
                name = "marker-end"
            yield MarkerVertex(name, x, y, _between(before, after))


def _way(points: np.ndarray, sense: int) -> float | None:  # type: ignore[type-arg]
    """The direction (radians) in which a segment leaves its first point; its last, told backwards, with a sense of -1."""
    for other in points[1:]:
        dx, dy = (other - points[0]) * sense
        if abs(dx) + abs(dy) > 0:
            return math.atan2(dy, dx)
    return None


def _between(before: float | None, after: float | None) -> float:
    known = [a for a in (before, after) if a is not None]
    if not known:
        return 0.0
    return math.degrees(math.atan2(sum(map(math.sin, known)), sum(map(math.cos, known))))


def marker_matrix(marker: Element, corner: MarkerVertex, stroke_width: float) -> Matrix | None:
    """From a marker's own units to those of the path it stands on; None if it has no size."""
    orient = (marker.get("orient") or "0").strip()
    angle = corner.angle if orient.startswith("auto") else number_of(orient.removesuffix("deg"), 0.0)
    if orient == "auto-start-reverse" and corner.name == "marker-start":
        angle += 180.0
    unit = 1.0 if marker.get("markerUnits") == "userSpaceOnUse" else stroke_width
    wide, high = number_of(marker.get("markerWidth"), 3.0), number_of(marker.get("markerHeight"), 3.0)
    box = box_of(marker.get("viewBox"))
    if unit <= 0 or wide <= 0 or high <= 0:
        return None
    sx = sy = 1.0
    if box is not None:
        sx, sy = wide / box[2], high / box[3]
        if "none" not in marker.get("preserveAspectRatio", ""):
            sx = sy = min(sx, sy)
    cos, sin = math.cos(math.radians(angle)), math.sin(math.radians(angle))
    placed: Matrix = (cos * unit, sin * unit, -sin * unit, cos * unit, corner.x, corner.y)
    at = (number_of(marker.get("refX"), 0.0), number_of(marker.get("refY"), 0.0))
    return compose(placed, (sx, 0.0, 0.0, sy, -at[0] * sx, -at[1] * sy))


def marker_window(marker: Element) -> Polygon | None:
    """What of a marker is drawn, in its own units: all, or what lies within its box."""
    if marker.get("overflow", "hidden") not in ("hidden", "scroll"):
        return None
    box = box_of(marker.get("viewBox"))
    if box is None:
        box = (0.0, 0.0, number_of(marker.get("markerWidth"), 3.0), number_of(marker.get("markerHeight"), 3.0))
    return shapely.box(box[0], box[1], box[0] + box[2], box[1] + box[3])
