"""Mending shapes by hand, but exactly: bridges over breaks, strokes of a brush, and edges drawn anew between two points."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from shapely import LineString, MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.base import tolerances
from gladstack.core.base.errors import MendError
from gladstack.core.base.plane import Point
from gladstack.core.geometry import overlay
from gladstack.core.geometry.fit import smooth_run
from gladstack.core.geometry.shapes import clean, grow

FloatArray = npt.NDArray[np.float64]

_REACHES = (1.1, 2.0)
"""A line's direction at its end is told from where it is so many of its widths farther back."""
_MOST_TURN = np.radians(20.0)
_PLAIN = 1.15
_MOST_BOWED = 0.32
"""A bridge bows out by no more than this share of its length: as far as an arc over a third of a circle."""
_MOST_BROADER = 1.5
"""A bridge is at one end no broader than so many times its other end."""
_MOST_MISSED = 1.35
"""A broader part of a line farther back counts for no more than this."""
_THIN_SHARE = 0.3
_ASIDE_MM, _ASIDE_SHARE = 1.0, 0.25
"""How far from an edge the ends of a stretch may be pointed at, of which the second is a share of their distance."""


@dataclass(frozen=True)
class Stretch:
    """The part of a shape's edge between two points on it, the shorter way round; `rest` leads from its end to its start."""

    polygon: int
    ring: int
    line: FloatArray
    rest: FloatArray


def bridge(ink: MultiPolygon, start: Point, end: Point, width_mm: float | None = None, *, follow: bool = True) -> Polygon:
    """A piece that joins two ends of `ink`, running a little into both; with `follow` it carries on their directions.

    Without `width_mm` it is as wide as the lines that it joins, at each end. Raises MendError if there is nothing to join.
    """
    if ink.is_empty:
        raise MendError("There is no line here to bridge.", "Begin and end the bridge on lines of one film.")
    spots = [_snapped(ink, start), _snapped(ink, end)]
    span = float(np.hypot(*(spots[1] - spots[0])))
    if span < 1e-6:
        raise MendError("The bridge begins where it ends.", "Draw it from one end of the line to the other.")
    found = [_line_end(ink, spot, span) for spot in spots]
    widths = [width_mm or end.width for end in found]
    if width_mm is None and (found[0].direction is None) != (found[1].direction is None):
        # Where it meets the side of a line, it is as wide as the line that it carries on, however broad the other is.
        own = 0 if found[0].direction is not None else 1
        widths[1 - own] = min(widths)
    elif width_mm is None:
        widths = [min(w, _MOST_BROADER * min(widths)) for w in widths]
    ends = [end.held(width) for end, width in zip(found, widths, strict=True)]
    span = max(1e-6, float(np.hypot(*(ends[1] - ends[0]))))
    ways = [(ends[1] - ends[0]) / span, (ends[0] - ends[1]) / span]
    directions = [
        end.direction if follow and end.direction is not None else way for end, way in zip(found, ways, strict=True)
    ]
    if float(directions[0] @ (ends[1] - ends[0])) < 0 and float(directions[1] @ (ends[0] - ends[1])) < 0:
        # Both ends point away from each other: a curve would run back through the lines.
        directions = ways
    path = _way(ends, directions)
    across = np.array([-ways[0][1], ways[0][0]])
    if min(widths) > span or float(np.abs((path - ends[0]) @ across).max()) > _MOST_BOWED * span:
        # What is broader than the gap is long has no run of its own, and what bows out so far goes astray.
        directions = ways
        path = _way(ends, ways)
    into = 0.25
    path = np.vstack([path[0] - into * widths[0] * directions[0], path, path[-1] - into * widths[1] * directions[1]])
    along = np.gradient(path, axis=0)
    normal = np.stack([-along[:, 1], along[:, 0]], axis=1) / np.maximum(np.hypot(*along.T), 1e-12)[:, None]
    half = 0.5 * np.concatenate([[widths[0]], np.linspace(widths[0], widths[1], len(path) - 2), [widths[1]]])[:, None]
    drawn = Polygon(np.vstack([path + half * normal, (path - half * normal)[::-1]]))
    whole = clean(drawn if drawn.is_valid else shapely.make_valid(drawn))
    return max(whole.geoms, key=lambda p: float(p.area))


def _way(ends: Sequence[FloatArray], directions: Sequence[FloatArray]) -> FloatArray:
    """A curve from one end to the other that sets out in their directions."""
    span = float(np.hypot(*(ends[1] - ends[0])))
    # Handles of this length draw an arc of a circle where both ends lie on one.
    cosines = [max(0.0, float(d @ s)) for d, s in zip(directions, (ends[1] - ends[0], ends[0] - ends[1]), strict=True)]
    reach = [2 / 3 * span / (1 + c / span) for c in cosines]
    control = np.array([ends[0], ends[0] + reach[0] * directions[0], ends[1] + reach[1] * directions[1], ends[1]])
    t = np.linspace(0, 1, 33)[:, None]
    r = 1 - t
    path: FloatArray = r**3 * control[0] + 3 * r * r * t * control[1] + 3 * r * t * t * control[2] + t**3 * control[3]
    return path


def _snapped(ink: MultiPolygon, spot: Point) -> FloatArray:
    at = shapely.Point(spot)
    return np.array(spot if ink.intersects(at) else shapely.get_coordinates(shapely.shortest_line(ink, at))[0], float)


@dataclass(frozen=True)
class _LineEnd:
    """Where a line ends, in its middle; how wide it is; and which way it would go on (None: the point is on its side, or at
    the corner of an area, which lies towards `inside`).
    """

    at: FloatArray
    width: float
    direction: FloatArray | None
    inside: FloatArray | None = None

    def held(self, width: float) -> FloatArray:
        """Where a bridge of a width begins, so that it lies on the area."""
        if self.inside is None:
            return self.at
        way = self.inside - self.at
        return np.asarray(self.at + way * min(1.0, 0.5 * width / max(float(np.hypot(*way)), 1e-9)))


def _line_end(ink: MultiPolygon, spot: FloatArray, span: float) -> _LineEnd:
    """The end of the line at a point, which need not be pointed at exactly."""
    width, middle = max(0.5 * span, 2.0), spot
    for _ in range(3):
        # Ever closer to the end, so that a joint or a broader part farther back does not count.
        circle = shapely.maximum_inscribed_circle(_part_at(ink, spot, width), tolerance=0.02)
        width, middle = 2 * float(circle.length), np.array(circle.coords[0])
    # Pointed at by a corner of its end, the line shows less than all of its width.
    whole = 2 * float(shapely.maximum_inscribed_circle(_part_at(ink, middle, width), tolerance=0.02).length)
    width = min(max(width, whole), _MOST_MISSED * width)
    here = _part_at(ink, spot, 4 * width)
    near, far = (_crossings(here, middle, reach * width, width) for reach in _REACHES)
    if len(near) != 1:
        return _LineEnd(middle, width, None)
    if not near[0][1] and len(far) == 1 and not far[0][1]:
        # The corner of an area, which only gets broader: no line that could go on.
        return _LineEnd(spot, width, None, middle)
    (crossing, plain), bend = near[0], 0.0
    # Where another line joins close by, the way from the line's middle to where it was pointed at tells more.
    back = middle - crossing if plain else spot - middle
    angle = float(np.arctan2(back[1], back[0]))
    if plain and len(far) == 1 and far[0][1]:
        # Both steps are chords, and point as the line does half-way along them.
        longer = middle - far[0][0]
        turned = float(np.arctan2(longer[0] * back[1] - longer[1] * back[0], back @ longer))
        bend = turned / max(0.5 * float(np.hypot(*longer) - np.hypot(*back)), 1e-6)
    # The end is where it was pointed at, but in the middle of the line.
    angle += float(np.clip(0.5 * bend * np.hypot(*back), -_MOST_TURN, _MOST_TURN))
    across = np.array([-np.sin(angle), np.cos(angle)])
    end = spot + float((middle - spot) @ across) * across
    angle += float(np.clip(bend * np.hypot(*(end - middle)), -_MOST_TURN, _MOST_TURN))
    return _LineEnd(end, width, np.array([np.cos(angle), np.sin(angle)]))


def _crossings(ink: Polygon, middle: FloatArray, reach: float, width: float) -> list[tuple[FloatArray, bool]]:
    """Where lines leave the circle of radius `reach` round a point, each in its middle; and whether it is one plain line."""
    arcs = shapely.intersection(shapely.Point(middle).buffer(reach, quad_segs=32).exterior, ink)
    merged = shapely.line_merge(arcs) if arcs.geom_type == "MultiLineString" else arcs
    one = 2 * reach * np.arcsin(min(1.0, 0.5 * width / reach))
    met = [p for p in shapely.get_parts(merged) if p.length > 0.3 * width]
    return [(np.array(p.centroid.coords[0]), bool(p.length < _PLAIN * one)) for p in met]


def _part_at(ink: MultiPolygon, at: FloatArray, reach: float) -> Polygon:
    """What of `ink` within `reach` of a point hangs together with it."""
    near = shapely.intersection(ink, shapely.Point(at).buffer(reach))
    return min(
        (p for p in shapely.get_parts(near) if isinstance(p, Polygon)), key=lambda p: float(p.distance(shapely.Point(at)))
    )


def stroke(path: Sequence[Point], width_mm: float) -> MultiPolygon:
    """What a round brush of `width_mm` covers along `path`; one point gives a dot."""
    line: BaseGeometry = LineString(path) if len(set(path)) > 1 else shapely.Point(path[0])
    return clean(grow(line, 0.5 * width_mm))


def enclosed_by(path: Sequence[Point]) -> MultiPolygon:
    """The area a box or lasso goes round. Raises MendError if it goes round none."""
    around = Polygon(path) if len(path) > 2 else Polygon()
    whole = clean(around if around.is_valid else shapely.make_valid(around))
    if whole.is_empty:
        raise MendError("The lasso goes round nothing.", "Draw it round what it is meant for.")
    return whole


def stretch_of(shape: MultiPolygon, start: Point, end: Point, through: Point | None = None) -> Stretch:
    """The stretch of edge between the points of the edge next to `start` and `end`: the shorter way round, or the one that
    leads `through` a point. Raises MendError.
    """
    rings = [(k, j, r) for k, p in enumerate(shape.geoms) for j, r in enumerate((p.exterior, *p.interiors))]
    if not rings:
        raise MendError("This film has no edge here.", "Choose two points on the edge of one film.")
    a, b = shapely.Point(start), shapely.Point(end)
    lines = np.array([r for _, _, r in rings], dtype=object)
    off = np.stack([shapely.distance(lines, a), shapely.distance(lines, b)])
    best = int(np.argmin(off.sum(axis=0)))
    if off[:, best].max() > _ASIDE_MM + _ASIDE_SHARE * a.distance(b):
        raise MendError("The film has no edge this near.", "Begin and end on the edge that is meant.")
    polygon, ring, line = rings[best]
    whole = float(line.length)
    from_, to = float(line.project(a)), float(line.project(b))
    if through is not None:
        passed = (float(line.project(shapely.Point(through))) - from_) % whole <= (to - from_) % whole
    else:
        passed = (to - from_) % whole <= 0.5 * whole
    if not passed:
        from_, to = to, from_
    if (to - from_) % whole < 1e-6:
        raise MendError("This stretch of edge has no length.", "Choose two points on the edge of one film.")
    return Stretch(polygon, ring, _along(line, from_, to), _along(line, to, from_))


def _along(ring: shapely.LinearRing, from_: float, to: float) -> FloatArray:
    """The points of a ring from one place on it to another, in its own direction, passing its beginning if need be."""
    xy = shapely.get_coordinates(ring)
    at = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(xy, axis=0).T))])
    ends = shapely.get_coordinates(shapely.line_interpolate_point(ring, [from_, to]))
    between = xy[(at > from_) & (at < to)] if from_ < to else np.vstack([xy[:-1][at[:-1] > from_], xy[:-1][at[:-1] < to]])
    return np.vstack([ends[:1], between, ends[1:]])


def redrawn(
    shape: MultiPolygon, start: Point, end: Point, draw: Callable[[FloatArray], FloatArray], through: Point | None = None
) -> MultiPolygon:
    """`shape` with the stretch of edge between two points drawn anew by `draw`, from its points to others."""
    at = stretch_of(shape, start, end, through)
    ring = np.vstack([draw(at.line)[:-1], at.rest])
    polygons = list(shape.geoms)
    old = polygons[at.polygon]
    rings = [np.asarray(r.coords) for r in (old.exterior, *old.interiors)]
    rings[at.ring] = ring
    new: BaseGeometry = Polygon(rings[0], rings[1:])
    if not new.is_valid:
        new = shapely.make_valid(new)
    # An edge pushed across another part of its own film is one with it.
    return clean(overlay.union_all([new, *polygons[: at.polygon], *polygons[at.polygon + 1 :]]))


def straightened(shape: MultiPolygon, start: Point, end: Point, through: Point | None = None) -> MultiPolygon:
    """`shape` with its edge straight between two points of it, where it leads `through` a third. Raises MendError."""
    return redrawn(shape, start, end, lambda line: line[[0, -1]], through)


def smoothed(shape: MultiPolygon, start: Point, end: Point, reach_mm: float) -> MultiPolygon:
    """`shape` with what is rougher than `reach_mm` smoothed out of its edge between two points. Raises MendError."""

    def draw(line: FloatArray) -> FloatArray:
        length = float(LineString(line).length)
        step = max(reach_mm / 6, length / 4000, tolerances.FLATTEN_MM)
        places = np.linspace(0, length, max(3, round(length / step) + 1))
        even: FloatArray = shapely.get_coordinates(LineString(line).interpolate(places))
        # sigma = sqrt(rounds / 2) points: half the reach.
        smooth_run(even, False, min(2000, max(1, round(2 * (0.5 * reach_mm / step) ** 2))))
        return even

    return redrawn(shape, start, end, draw)


def moved_edge(shape: MultiPolygon, start: Point, to: Point, reach_mm: float) -> MultiPolygon:
    """`shape` with its edge at one point taken to another; what lies along it within a reach follows, ever less. Raises
    MendError.
    """
    spot = shapely.Point(start)
    rings = [r for p in shape.geoms for r in (p.exterior, *p.interiors)]
    if not rings:
        raise MendError("This film has no edge here.", "Begin on the edge that is to be moved.")
    ring = min(rings, key=lambda r: float(r.distance(spot)))
    if ring.distance(spot) > _ASIDE_MM + _ASIDE_SHARE * reach_mm:
        raise MendError("The film has no edge this near.", "Begin on the edge that is to be moved.")
    whole = float(ring.length)
    # A short outline follows as far as its other side.
    reach = min(reach_mm, 0.45 * whole)
    at = float(ring.project(spot))
    ends = [ring.interpolate((at + side * reach) % whole) for side in (-1, 1)]
    foot = ring.interpolate(at)
    away = np.array([to[0] - foot.x, to[1] - foot.y])

    def draw(line: FloatArray) -> FloatArray:
        length = float(LineString(line).length)
        own = shapely.get_coordinates(LineString(line).segmentize(max(tolerances.FLATTEN_MM, length / 200)))
        along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(own, axis=0).T))])
        share = np.cos(np.pi * (along / along[-1] - 0.5)) ** 2
        return np.asarray(own + share[:, None] * away)

    return redrawn(shape, (ends[0].x, ends[0].y), (ends[1].x, ends[1].y), draw)


def drawn_edge(shape: MultiPolygon, path: Sequence[Point]) -> MultiPolygon:
    """`shape` with its edge drawn along a path, between the points of it next to the path's ends. Raises MendError."""
    if len(path) < 2:
        raise MendError("This is a point, not a way.", "Draw along the way that the edge is to take.")
    drawn = np.array(path, float)

    def draw(line: FloatArray) -> FloatArray:
        back = np.hypot(*(line[0] - drawn[0])) > np.hypot(*(line[-1] - drawn[0]))
        inner = drawn[::-1] if back else drawn
        way = LineString(np.vstack([line[:1], inner[1:-1], line[-1:]]))
        step = max(tolerances.FLATTEN_MM, float(way.length) / 400)
        even: FloatArray = shapely.get_coordinates(way.segmentize(step))
        # A hand trembles: what is finer than it can mean goes.
        smooth_run(even, False, max(1, round(2 * (_TREMBLE_MM / step) ** 2)))
        return even

    return redrawn(shape, path[0], path[-1], draw)


_TREMBLE_MM = 0.15


def pushed_zone(shape: MultiPolygon, start: Point, end: Point, mm: float) -> MultiPolygon:
    """Where the film reaches to when its edge between two points is pushed outwards by `mm`. Raises MendError."""
    line = LineString(stretch_of(shape, start, end).line)
    return clean(overlay.difference(shapely.buffer(line, mm, cap_style="flat", quad_segs=24), shape))


def thin_parts(shape: MultiPolygon, mm: float) -> MultiPolygon:
    """What of `shape` is thinner than `mm`, corners aside: the shape less its opening by a disc."""
    solid = grow(grow(shape, -0.5 * mm), 0.5 * mm + tolerances.FLATTEN_MM)
    rest = clean(overlay.difference(shape, solid))
    return MultiPolygon([p for p in rest.geoms if p.area > _THIN_SHARE * mm * mm])


def gaps_between(shapes: Sequence[MultiPolygon], mm: float) -> MultiPolygon:
    """What lies open between `shapes`, or within one, and is thinner than `mm`: their closing by a disc less themselves."""
    whole = overlay.union_all(list(shapes))
    closed = grow(grow(whole, 0.5 * mm), -0.5 * mm - tolerances.FLATTEN_MM)
    rest = clean(overlay.difference(closed, whole))
    return MultiPolygon([p for p in rest.geoms if p.area > _THIN_SHARE * mm * mm])
