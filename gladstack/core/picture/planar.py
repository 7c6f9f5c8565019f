"""The planar map of a picture: areas that share their borders exactly.

Every arc is one chain of curves; the areas on both sides are built from the same points, so there is neither a gap nor an
overlap between them. Fitting may make arcs cross where features are a pixel thin; `repair` then refits only the pieces at
fault, closer and closer to the pixels' own edges, which never cross.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, cast

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.geometry.curves import (
    GRID_MM,
    BoolArray,
    Chain,
    distinct,
    flatten_pieces,
    line_pieces,
    sub_piece,
)
from gladstack.core.picture.arcs import FittedArcs
from gladstack.core.picture.assemble import Arc, assembled
from gladstack.core.picture.trace import TracedArcs

FloatArray = npt.NDArray[np.float64]

_ROUNDS = 12
_RESET, _LOOSE, _RAW = 1, 2, 3
"""How far a piece at fault is taken back: junction to its pixel corner, then to the traced points, then to the pixels."""
_LOOSE_PX = 0.1
_MEND_PX = 4.0
"""Only so much of a piece, to either side of its fault, is taken back; the rest keeps its curve."""

IndexArray = npt.NDArray[np.int64]
_Faults = dict[int, list[tuple[float, float]]]
"""Fitted pieces at fault, and where (millimetres); no place means everywhere."""
_Mended = dict[int, tuple[tuple[int, int, bytes], FloatArray, BoolArray]]
"""For pieces that were mended: the state they were in then, and what became of them."""


@dataclass(frozen=True)
class PlanarMap:
    """Arcs, the polygon of every area, and each area's label."""

    arcs: tuple[Arc, ...]
    areas: tuple[Polygon, ...]
    labels: npt.NDArray[np.int16]

    def shape_of(self, label: int) -> MultiPolygon:
        """All areas of one label, as one valid multipolygon with the arcs' own points."""
        return MultiPolygon([self.areas[k] for k in np.flatnonzero(self.labels == label) if not self.areas[k].is_empty])


def build_planar_map(
    traced: TracedArcs, fitted: FittedArcs, labels: npt.NDArray[np.int16], *, mm_per_px: float, flatten_mm: float
) -> PlanarMap:
    """The map in millimetres of fitted arcs; `labels` gives the label of every area.

    Areas come out valid and cover the picture without gap or overlap, whatever the fit did.
    """
    level = np.zeros(len(fitted.curves), np.int64)
    at_node = _touches_node(traced, fitted)
    places: _Faults = {}
    mended: _Mended = {}
    for round_ in range(_ROUNDS):
        if round_ == _ROUNDS - 1:
            level[:] = _RAW
            places = {k: [] for k in range(len(level))}
        chains = _draft_chains(traced, fitted, level, at_node, places, mm_per_px, mended)
        arcs, found = _flatten_and_check(traced, chains, flatten_mm)
        areas: tuple[Polygon, ...] = ()
        if not found:
            areas, bad = assembled(arcs, len(labels))
            found = _pieces_of(fitted, bad)
        if not found:
            return PlanarMap(tuple(arcs), areas, labels)
        for piece, where in found.items():
            everywhere = not where or (piece in places and not places[piece]) or round_ >= _ROUNDS // 2
            places[piece] = [] if everywhere else places.get(piece, []) + where
        faults = np.array(sorted(found), np.int64)
        level[faults] = np.where(
            (level[faults] == 0) & ~at_node[faults].any(axis=1), _LOOSE, np.minimum(level[faults] + 1, _RAW)
        )
    raise AssertionError("the pixels' own edges cannot cross")


def _touches_node(traced: TracedArcs, fitted: FittedArcs) -> npt.NDArray[np.bool_]:
    """Whether each piece's first and last point is a junction; (pieces, 2)."""
    out = np.zeros((len(fitted.curves), 2), np.bool_)
    open_arcs = traced.first_ring
    out[fitted.starts[:open_arcs], 0] = True
    out[fitted.starts[1 : open_arcs + 1] - 1, 1] = True
    return out


def _draft_chains(
    traced: TracedArcs,
    fitted: FittedArcs,
    level: npt.NDArray[np.int64],
    at_node: npt.NDArray[np.bool_],
    places: _Faults,
    scale: float,
    mended: _Mended,
) -> list[tuple[FloatArray, npt.NDArray[np.bool_], npt.NDArray[np.int64]]]:
    """For every arc its pieces in millimetres, which are straight, and the fitted piece each came from.

    `mended` holds what earlier rounds mended: most of it is the same in the next.
    """
    pieces = fitted.curves.copy()
    _move_knots(traced, fitted, pieces, level, at_node)
    pieces = np.round(pieces * scale / GRID_MM) * GRID_MM
    out = []
    for k in range(len(fitted.starts) - 1):
        a, b = int(fitted.starts[k]), int(fitted.starts[k + 1])
        if np.all(level[a:b] < _LOOSE):
            out.append((pieces[a:b], fitted.straight[a:b], np.arange(a, b)))
            continue
        parts, lines, origin = [], [], []
        for m in range(a, b):
            if level[m] < _LOOSE:
                parts.append(pieces[m : m + 1])
                lines.append(fitted.straight[m : m + 1])
            else:
                state = (int(level[m]), len(places.get(m, [])), pieces[m].tobytes())
                if m not in mended or mended[m][0] != state:
                    inner = _inner_points(traced, k, fitted.cracks[m], raw=bool(level[m] == _RAW)) * scale
                    own = places.get(m, [])
                    loose = level[m] < _RAW and not own
                    drawn = (
                        _loose(pieces[m], inner, scale)
                        if loose
                        else _mended(pieces[m], bool(fitted.straight[m]), inner, own, scale)
                    )
                    mended[m] = state, *drawn
                parts.append(mended[m][1])
                lines.append(mended[m][2])
            origin.append(np.full(len(parts[-1]), m))
        out.append((np.concatenate(parts), np.concatenate(lines), np.concatenate(origin)))
    return out


def _loose(piece: FloatArray, inner: FloatArray, scale: float) -> tuple[FloatArray, BoolArray]:
    """Lines near a piece's `inner` points."""
    near = shapely.LineString(np.vstack([piece[0], inner, piece[3]])).simplify(_LOOSE_PX * scale)
    path = line_pieces(np.round(shapely.get_coordinates(near) / GRID_MM) * GRID_MM)
    return path, np.ones(len(path), np.bool_)


def _mended(
    piece: FloatArray, straight: bool, inner: FloatArray, places: list[tuple[float, float]], scale: float
) -> tuple[FloatArray, BoolArray]:
    """A piece with the stretches near `places` replaced by lines through `inner` points (all of it if there are none)."""
    ends = np.vstack([piece[0], inner, piece[3]])
    if not places or not len(inner):
        path = np.round(distinct(ends) / GRID_MM) * GRID_MM
        return line_pieces(path), np.ones(len(path) - 1, np.bool_)
    t = np.linspace(0.0, 1.0, 129)
    r = 1 - t
    basis = np.stack([r**3, 3 * r * r * t, 3 * r * t * t, t**3], axis=1)
    samples = basis @ piece
    near = np.min(np.linalg.norm(samples[:, None] - np.array(places)[None], axis=2), axis=1) < _MEND_PX * scale
    near[:-1] |= near[1:]
    at = t[np.argmin(np.linalg.norm(samples[None] - inner[:, None], axis=2), axis=1)]
    edges = np.flatnonzero(np.diff(near.astype(np.int8))) + 1
    cuts = [0.0, *t[edges].tolist(), 1.0]
    parts: list[FloatArray] = []
    lines: list[BoolArray] = []
    here = piece[0]
    for a, b, bad in zip(cuts, cuts[1:], [bool(near[0]) ^ (k % 2 == 1) for k in range(len(cuts))], strict=False):
        part = np.round(sub_piece(piece, a, b) / GRID_MM) * GRID_MM
        part[0] = here
        if bad:
            inside = inner[(at > a) & (at < b)]
            path = distinct(np.round(np.vstack([part[0], inside, part[3]]) / GRID_MM) * GRID_MM)
            parts.append(line_pieces(path))
            lines.append(np.ones(len(path) - 1, np.bool_))
        else:
            parts.append(part[None])
            lines.append(np.array([straight]))
        here = part[3]
    return np.concatenate(parts), np.concatenate(lines)


def _inner_points(traced: TracedArcs, arc: int, cracks: npt.NDArray[np.int64], *, raw: bool) -> FloatArray:
    """Points between a piece's two ends: slid crack centres, or the pixel corners themselves."""
    first, last = int(traced.starts[arc]), int(traced.starts[arc + 1]) - 1
    a, b = int(cracks[0]), int(cracks[1])
    source = traced.vertices if raw else traced.points
    if arc < traced.first_ring:
        return source[a + 1 : min(b + 1, last) if raw else b].astype(np.float64)
    count = last - first
    span = (b - a) % count or count
    steps = np.arange(1, span + 1 if raw else span)
    return source[first + (a - first + steps) % count].astype(np.float64)


def _move_knots(
    traced: TracedArcs, fitted: FittedArcs, pieces: FloatArray, level: npt.NDArray[np.int64], at_node: npt.NDArray[np.bool_]
) -> None:
    """Junctions of pieces at fault go back to their pixel corner, split points of raw pieces onto the pixels' edges."""
    knots = _knots(traced, fitted, at_node)
    target: dict[int, FloatArray] = {}
    for m in np.flatnonzero(level >= _RESET).tolist():
        arc = int(np.searchsorted(fitted.starts, m, side="right")) - 1
        for side in range(2):
            if at_node[m, side]:
                corner = traced.vertices[int(traced.starts[arc + side]) - side]
                target[int(knots[m, side])] = corner.astype(np.float64)
            elif level[m] == _RAW:
                crack = int(fitted.cracks[m, side])
                target[int(knots[m, side])] = traced.vertices[[crack, crack + 1]].mean(axis=0)
    if not target:
        return
    for m, side in np.argwhere(np.isin(knots, list(target))).tolist():
        end, handle = ((0, 1), (3, 2))[side]
        new = target[int(knots[m, side])]
        pieces[m, handle] += new - pieces[m, end]
        pieces[m, end] = new


def _knots(traced: TracedArcs, fitted: FittedArcs, at_node: BoolArray) -> IndexArray:
    """What each piece begins and ends at, (pieces, 2): the same number for the same junction or split point.

    Places do not tell: two knots of different arcs may be fitted onto one point.
    """
    count = len(fitted.curves)
    out = np.stack([np.arange(count), np.arange(1, count + 1)], axis=1)
    arcs = np.arange(len(fitted.starts) - 1)
    rings = arcs[traced.first_ring :]
    out[fitted.starts[rings + 1] - 1, 1] = fitted.starts[rings]
    for side in range(2):
        at = np.flatnonzero(at_node[:, side])
        arc = np.searchsorted(fitted.starts, at, side="right") - 1
        x, y = traced.vertices[traced.starts[arc + side] - side].T
        out[at, side] = -1 - (y.astype(np.int64) * (1 << 20) + x)
    return out


def _flatten_and_check(
    traced: TracedArcs,
    chains: list[tuple[FloatArray, npt.NDArray[np.bool_], npt.NDArray[np.int64]]],
    flatten_mm: float,
) -> tuple[list[Arc], _Faults]:
    """The arcs, and the fitted pieces whose curves cross one another or themselves."""
    pieces = np.concatenate([c[0] for c in chains])
    straight = np.concatenate([c[1] for c in chains])
    origin = np.concatenate([c[2] for c in chains])
    points, offsets = flatten_pieces(pieces, straight, flatten_mm)
    lines = _piece_lines(points, offsets, pieces[:, 3])
    arcs = []
    begin = 0
    for k, (p, s, _) in enumerate(chains):
        flat = np.vstack([points[offsets[begin] : offsets[begin + len(p)]], p[-1, 3]])
        arcs.append(Arc(Chain(p, s), flat, int(traced.left[k]), int(traced.right[k])))
        begin += len(p)
    faults: _Faults = {}
    for piece, where in _crossing(lines, pieces).items():
        faults.setdefault(int(origin[piece]), []).extend(where)
    return arcs, faults


def _piece_lines(points: FloatArray, offsets: npt.NDArray[np.int64], last: FloatArray) -> npt.NDArray[Any]:
    counts = np.diff(offsets) + 1
    where = np.repeat(np.arange(len(counts)), counts)
    coords = np.empty((int(counts.sum()), 2))
    ends = np.cumsum(counts) - 1
    mask = np.ones(len(coords), bool)
    mask[ends] = False
    coords[mask] = points
    coords[ends] = last
    return cast(npt.NDArray[Any], shapely.linestrings(coords, indices=where))


def _crossing(lines: npt.NDArray[Any], pieces: FloatArray) -> _Faults:
    """Lines that meet another anywhere but at a common end, or that cross themselves, and where."""
    closed = np.all(pieces[:, 0] == pieces[:, 3], axis=1)
    bad: _Faults = {int(k): [] for k in np.flatnonzero(~shapely.is_simple(lines) | closed)}
    a, b = shapely.STRtree(lines).query(lines, predicate="intersects")
    keep = a < b
    a, b = a[keep], b[keep]
    shared = np.zeros(len(a), np.int64)
    for i in (0, 3):
        for j in (0, 3):
            shared += np.all(pieces[a, i] == pieces[b, j], axis=1)
    meet = shapely.intersection(lines[a], lines[b])
    clean = (shared > 0) & (shapely.length(meet) == 0) & (shapely.get_num_coordinates(meet) <= shared)
    for k in np.flatnonzero(~clean):
        where = [(float(x), float(y)) for x, y in shapely.get_coordinates(meet[k])]
        for line in (int(a[k]), int(b[k])):
            if line not in bad or bad[line]:
                bad.setdefault(line, []).extend(where)
    return bad


def _pieces_of(fitted: FittedArcs, arcs: set[int]) -> _Faults:
    return {m: [] for k in arcs for m in range(int(fitted.starts[k]), int(fitted.starts[k + 1]))}
