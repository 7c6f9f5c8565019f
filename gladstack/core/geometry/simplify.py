"""Fewer nodes for the same look: edges with too many are drawn anew with long curves, and true corners stay.

Shapes that share an edge keep sharing it: the edges of all are parted at the points where more than two meet, each part is
drawn anew once, and the shapes are put together again from these.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from shapely import LineString, MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.base import tolerances
from gladstack.core.geometry import overlay
from gladstack.core.geometry.curves import Chain, Curve, curve_of, join_chains, line_chain, on_grid
from gladstack.core.geometry.fit import fit_run, smooth_run
from gladstack.core.geometry.outlines import CurveIndex
from gladstack.core.geometry.shapes import clean

FloatArray = npt.NDArray[np.float64]

_CORNER = np.radians(45.0)
_NEAR, _FAR = 2.5, 6.0
"""A corner is told from how an edge turns within so many tolerances of it, against how it turns farther out."""
_CORNER_SHARE = 0.62
_SHIFT_SHARE = 0.72
"""How much of the tolerance smoothing may use up; fitting has the rest."""
_FIT_SHARE = 0.88
"""The rest is for what lies between the points that curves are fitted to."""
_OUTLIERS = 0.98
_ROUNDS_OF_SMOOTHING = (8, 24, 96, 384)
_ROUNDS = 5


@dataclass(frozen=True)
class Simplified:
    """Shapes drawn anew, the curves of their edges, and the largest distance in mm, measured, between old and new edges."""

    shapes: dict[str, MultiPolygon]
    curves: tuple[Curve, ...]
    deviation_mm: float


def simplify(shapes: Mapping[str, MultiPolygon], tolerance: float, index: CurveIndex) -> Simplified:
    """`shapes`, which do not overlap, with edges drawn anew that deviate by no more than `tolerance` mm.

    An edge that has few nodes as it is, by the curves of `index`, stays as it is. An edge that would come to cross itself
    or another is drawn anew more closely, and in the end left alone.
    """
    shapes = {key: _without_loops(shape, tolerance) for key, shape in shapes.items()}
    boundaries = [s.boundary for s in shapes.values() if not s.is_empty]
    if not boundaries:
        return Simplified(dict(shapes), (), 0.0)
    merged = shapely.line_merge(shapely.union_all(boundaries))
    old = [np.asarray(line.coords) for line in shapely.get_parts(merged)]
    room = np.full(len(old), tolerance)
    new = [_redrawn(p, tolerance, index) for p in old]
    apart = np.array([_apart(a, b.points) for a, b in zip(old, new, strict=True)])
    for _ in range(_ROUNDS):
        crossed = crossing(new)
        amiss = crossed | set(np.flatnonzero(apart > tolerance).tolist())
        if not amiss:
            break
        for k in amiss:
            room[k] *= 0.5 if k in crossed else 0.9 * tolerance / apart[k]
            new[k] = _redrawn(old[k], room[k], index)
            apart[k] = _apart(old[k], new[k].points)
    for k in crossing(new):
        new[k], apart[k] = _as_it_is(old[k]), 0.0
    return Simplified(put_together(shapes, [c.points for c in new]), tuple(new), float(apart.max()))


def _without_loops(shape: MultiPolygon, tolerance: float) -> MultiPolygon:
    """`shape` without the tiny loops that jagged edges make where they cross themselves."""

    def matters(ring: Polygon) -> bool:
        return bool(ring.area > tolerance * tolerance or ring.length > 8 * tolerance)

    return MultiPolygon([
        Polygon(p.exterior, [r for r in p.interiors if matters(Polygon(r))])
        for p in shape.geoms
        if matters(Polygon(p.exterior))
    ])  # fmt: skip


def _as_it_is(points: FloatArray) -> Curve:
    chain = line_chain(points)
    return Curve(chain, points, np.arange(len(points)))


def _redrawn(points: FloatArray, tolerance: float, index: CurveIndex) -> Curve:
    closed = bool(np.all(points[0] == points[-1]))
    if closed:
        points = _from_corner(points, tolerance)
    cuts = corners_of(points, tolerance, closed=closed)
    marks = [0, *cuts, len(points) - 1]
    chains = [_fitted(points[a : b + 1], tolerance, whole=closed and not cuts) for a, b in itertools.pairwise(marks)]
    chain = on_grid(join_chains(chains))
    if len(chain) >= index.nodes_along(points):
        return _as_it_is(points)
    # Its ends are where other edges go on: they stay where they are, to the last bit.
    chain.pieces[0, 0], chain.pieces[-1, 3] = points[0], points[-1]
    return curve_of(chain, tolerances.FLATTEN_MM)


def _fitted(points: FloatArray, tolerance: float, *, whole: bool) -> Chain:
    """Lines and curves for a run without corners: its jags are smoothed away as far as is allowed, the rest is fitted."""
    if len(points) < 4:
        return line_chain(points)
    along = _lengths(points)
    step = max(tolerance / 2, float(along[-1]) / 3_000)
    count = max(4, round(float(along[-1]) / step) + 1)
    dense = _at(points, along, np.linspace(0.0, along[-1], count))
    dense[0], dense[-1] = points[0], points[-1]
    best: Chain | None = None
    for smooth, shift in _smoothings(dense, _SHIFT_SHARE * tolerance):
        made = _fit(smooth, _FIT_SHARE * tolerance - shift, whole=whole)
        # Smoothing draws bends inwards: it is only worth what it saves.
        if best is None or len(made) < 0.85 * len(best):
            best = made
    return best if best is not None else line_chain(points)


def _smoothings(dense: FloatArray, limit: float) -> Iterator[tuple[FloatArray, float]]:
    """A run as it is and smoothed ever more, each with how far any of its points has moved: never beyond `limit`."""
    yield dense, 0.0
    trial = dense.copy()
    for rounds in _ROUNDS_OF_SMOOTHING:
        smooth_run(trial, False, rounds)
        moved = _sideways(dense, trial)
        if np.quantile(moved, _OUTLIERS) > limit:
            return
        # The few points that would move too far are left where they may just be.
        share = np.minimum(1.0, limit / np.maximum(moved, 1e-12))[:, None]
        yield dense + share * (trial - dense), float(min(limit, moved.max()))


def _fit(run: FloatArray, tolerance: float, *, whole: bool) -> Chain:
    free = np.zeros(2)
    curves, straight = np.empty((len(run), 4, 2)), np.empty(len(run), np.bool_)
    longest = len(run) // 2 if whole else len(run)
    made = fit_run(run, tolerance, free, free, longest, curves, straight, np.empty(len(run), np.int64))
    return Chain(curves[:made].copy(), straight[:made].copy())


def _sideways(points: FloatArray, moved: FloatArray) -> FloatArray:
    """How far each point has moved across the line they came to lie on; moving along it changes nothing."""
    along = np.gradient(moved, axis=0)
    normal = np.stack([-along[:, 1], along[:, 0]], axis=1) / np.maximum(np.hypot(*along.T), 1e-12)[:, None]
    return np.asarray(np.abs(((points - moved) * normal).sum(axis=1)))


def corners_of(points: FloatArray, tolerance: float, *, closed: bool) -> list[int]:
    """Indices of the true corners of a run of points (n, 2), its ends left out.

    A vertex that stays when the run is thinned to the tolerance (Douglas and Peucker 1973) is a corner if the run turns
    there by more than 45 degrees, and does most of this turning close by: a bend goes on turning farther out.
    """
    if len(points) < 3:
        return []
    along = _lengths(points)
    kept = {p.tobytes() for p in shapely.get_coordinates(LineString(points).simplify(0.8 * tolerance))}
    candidates = np.array([k for k in range(1, len(points) - 1) if points[k].tobytes() in kept], np.int64)
    if not len(candidates):
        return []
    near = _turns(points, along, along[candidates], _NEAR * tolerance, closed=closed)
    far = _turns(points, along, along[candidates], _FAR * tolerance, closed=closed)
    out: list[int] = []
    best = 0.0
    for k, n, f in zip(candidates.tolist(), near.tolist(), far.tolist(), strict=True):
        if n < _CORNER or n < _CORNER_SHARE * f:
            continue
        if out and along[k] - along[out[-1]] < 2 * _NEAR * tolerance:
            if n > best:
                out[-1], best = k, n
            continue
        out.append(k)
        best = n
    return out


def _lengths(points: FloatArray) -> FloatArray:
    """How far along the run each of its points lies."""
    return np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])


def _at(points: FloatArray, along: FloatArray, where: FloatArray) -> FloatArray:
    return np.stack([np.interp(where, along, points[:, 0]), np.interp(where, along, points[:, 1])], axis=-1)


def _turns(points: FloatArray, along: FloatArray, where: FloatArray, reach: float, *, closed: bool) -> FloatArray:
    """How far, in radians, the run turns at each place along it.

    The direction on either side leads between the middles of the first and second `reach` from the place: jags even out.
    """
    steps = (np.arange(8) + 0.5) / 8 * reach

    def middle(from_: float, sense: float) -> FloatArray:
        place = where[:, None] + sense * (from_ + steps)
        place = place % along[-1] if closed else np.clip(place, 0.0, along[-1])
        return np.asarray(_at(points, along, place).mean(axis=1))

    u = middle(0.0, -1.0) - middle(reach, -1.0)
    v = middle(reach, 1.0) - middle(0.0, 1.0)
    return np.asarray(np.abs(np.arctan2(u[:, 0] * v[:, 1] - u[:, 1] * v[:, 0], (u * v).sum(axis=1))))


def _from_corner(ring: FloatArray, tolerance: float) -> FloatArray:
    """A closed run begun at a corner, if it has one: only there may its curves end without going on."""
    half = len(ring) // 2
    for turned in (ring, np.vstack([ring[half:-1], ring[: half + 1]])):
        found = corners_of(turned, tolerance, closed=True)
        if found:
            k = found[0]
            return np.vstack([turned[k:-1], turned[: k + 1]])
    return ring


def _apart(a: FloatArray, b: FloatArray) -> float:
    """The largest distance of a point of either line from the other line."""
    line_a, line_b = LineString(a), LineString(b)
    shapely.prepare([line_a, line_b])
    far = [_farthest(a, line_b), _farthest(b, line_a)]
    return max(far)


def _farthest(points: FloatArray, line: LineString) -> float:
    """The largest distance of `points` from a line, by the segments of the line near each of them."""
    xy = np.asarray(line.coords)
    segments = shapely.linestrings(np.stack([xy[:-1], xy[1:]], axis=1))
    spots = shapely.points(points)
    _, distance = shapely.STRtree(segments).query_nearest(spots, return_distance=True, all_matches=False)
    return float(distance.max())


def crossing(curves: list[Curve]) -> set[int]:
    """Edges that cross themselves or each other, or touch elsewhere than at their ends."""
    lines = np.array([LineString(c.points) for c in curves], dtype=object)
    out = set(np.flatnonzero(~shapely.is_simple(lines)).tolist())
    a, b = shapely.STRtree(lines).query(lines, predicate="intersects")
    for i, j in zip(a.tolist(), b.tolist(), strict=True):
        if i < j and _meet_inside(lines[i], lines[j]):
            out |= {i, j}
    return out


def _meet_inside(a: LineString, b: LineString) -> bool:
    common = shapely.intersection(a, b)
    ends: BaseGeometry = shapely.multipoints([a.coords[0], a.coords[-1], b.coords[0], b.coords[-1]])
    return bool(common.length > 0 or not shapely.difference(common, ends).is_empty)


def put_together(shapes: Mapping[str, MultiPolygon], edges: list[FloatArray]) -> dict[str, MultiPolygon]:
    """The shapes anew: each face between the new edges belongs to the shape it lies in most."""
    faces = shapely.get_parts(shapely.polygonize([LineString(e) for e in edges]))
    inside = shapely.point_on_surface(faces)
    out = {}
    for key, shape in shapes.items():
        shapely.prepare(shape)
        sure = shapely.contains(shape, inside)
        # Where an edge has moved across a narrow face's inner point, the areas decide.
        for k in np.flatnonzero(shapely.distance(shape.boundary, inside) < 0.2 if not shape.is_empty else []):
            sure[k] = shapely.intersection(shape, faces[k]).area > 0.5 * faces[k].area
        own = list(faces[sure])
        out[key] = clean(overlay.coverage_union_all(own)) if own else MultiPolygon()
    return out
