"""Joining runs of a drawing end to end into closed rings, in whatever order and direction they were drawn."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt
import shapely
from scipy.sparse import coo_matrix  # type: ignore[import-untyped]
from scipy.sparse.csgraph import connected_components  # type: ignore[import-untyped]
from scipy.spatial import cKDTree  # type: ignore[import-untyped]

from gladstack.core.base import tolerances
from gladstack.core.geometry.curves import Chain, curve_of, join_chains, line_chain, line_pieces, reverse_chain

JOIN_MM = 0.05
"""Ends closer than this are one: drawing programs round their coordinates."""


def joined(chains: Sequence[Chain], gap_mm: float = JOIN_MM) -> tuple[list[Chain], list[Chain]]:
    """Closed rings out of chains that meet end to end, and the runs that stay open.

    Where more than two ends meet, the areas that the lines enclose are taken, as lines. Ends that meet none are joined over
    gaps up to `gap_mm`, the nearest first: where two lines point at one corner they run on to it, else straight across.
    """
    held = [c for c in chains if len(c)]
    if not held:
        return [], []
    node = _over_gaps(held, _nodes(held), gap_mm)
    count = int(node.max()) + 1
    degree = np.bincount(node.ravel(), minlength=count)
    links = coo_matrix((np.ones(len(held)), (node[:, 0], node[:, 1])), shape=(count, count))
    group = connected_components(links, directed=False)[1][node[:, 0]]
    rings: list[Chain] = []
    runs: list[Chain] = []
    order = np.argsort(group, kind="stable")
    for own in np.split(order, np.flatnonzero(np.diff(group[order])) + 1):
        ends = degree[node[own]]
        if int(ends.max()) > 2:
            enclosed = _enclosed([held[k] for k in own])
            rings += enclosed
            if not enclosed:
                runs += [held[k] for k in own]
        else:
            closed, run = _followed(held, node, own.tolist(), degree)
            (rings if closed else runs).append(run)
    return rings, runs


def _nodes(chains: Sequence[Chain]) -> npt.NDArray[np.int64]:
    """The place where each chain begins and ends, (n, 2): the same number for ends that lie together."""
    ends = np.array([(c.start, c.end) for c in chains]).reshape(-1, 2)
    pairs = cKDTree(ends).query_pairs(JOIN_MM, output_type="ndarray")
    links = coo_matrix((np.ones(len(pairs)), (pairs[:, 0], pairs[:, 1])), shape=(len(ends), len(ends)))
    return np.asarray(connected_components(links, directed=False)[1], np.int64).reshape(-1, 2)


def _over_gaps(chains: Sequence[Chain], node: npt.NDArray[np.int64], gap_mm: float) -> npt.NDArray[np.int64]:
    """The same places, with those of two loose ends made one that lie no farther apart than a gap."""
    if gap_mm <= JOIN_MM:
        return node
    degree = np.bincount(node.ravel())
    loose = np.argwhere(degree[node] == 1)
    if len(loose) < 2:
        return node
    at = np.array([chains[k].start if end == 0 else chains[k].end for k, end in loose])
    pairs = cKDTree(at).query_pairs(gap_mm, output_type="ndarray")
    apart = np.hypot(*(at[pairs[:, 0]] - at[pairs[:, 1]]).T) if len(pairs) else np.zeros(0)
    node, taken = node.copy(), set()
    for k in np.argsort(apart, kind="stable"):
        a, b = pairs[k].tolist()
        short = loose[a][0] == loose[b][0] and _length(chains[loose[a][0]]) < 4 * apart[k]
        if a in taken or b in taken or short:
            continue
        taken |= {a, b}
        node[tuple(loose[b])] = node[tuple(loose[a])]
    return node


def _length(chain: Chain) -> float:
    corners = np.vstack([chain.pieces[:, 0], chain.pieces[-1:, 3]])
    return float(np.hypot(*np.diff(corners, axis=0).T).sum())


def _across(before: Chain, after: Chain) -> list[Chain]:
    """What joins the end of one chain to the start of the next: nothing, a line, or two that meet where both point at."""
    a, b = before.end, after.start
    gap = float(np.hypot(*(b - a)))
    if gap <= JOIN_MM:
        return []
    u, v = before.pieces[-1, 3] - before.pieces[-1, 2], after.pieces[0, 0] - after.pieces[0, 1]
    cross = u[0] * v[1] - u[1] * v[0]
    if abs(cross) > 0.2 * np.hypot(*u) * np.hypot(*v):
        s = ((b - a)[0] * v[1] - (b - a)[1] * v[0]) / cross
        corner = a + s * u
        # Only ahead of both, and no farther than a gap is wide.
        if s >= 0 and (corner - b) @ v >= 0 and np.hypot(*(corner - a)) <= 2 * gap and np.hypot(*(corner - b)) <= 2 * gap:
            return [line_chain(np.array([p, q])) for p, q in ((a, corner), (corner, b)) if np.hypot(*(q - p)) > 1e-9]
    return [line_chain(np.array([a, b]))]


def _followed(
    chains: Sequence[Chain], node: npt.NDArray[np.int64], own: list[int], degree: npt.NDArray[np.int64]
) -> tuple[bool, Chain]:
    """The one run that chains form of which no more than two meet anywhere, and whether it closes."""
    at: dict[int, list[int]] = {}
    for k in own:
        for end in node[k].tolist():
            at.setdefault(end, []).append(k)
    loose = [n for n in at if degree[n] == 1]
    here = loose[0] if loose else int(node[own[0], 0])
    left = set(own)
    parts: list[Chain] = []
    while left:
        onward = [k for k in at[here] if k in left]
        if not onward:
            break
        k = onward[0]
        left.discard(k)
        forward = int(node[k, 0]) == here
        parts.append(chains[k] if forward else reverse_chain(chains[k]))
        here = int(node[k, 1 if forward else 0])
    bridged = parts[:1]
    for part in parts[1:]:
        bridged += [*_across(bridged[-1], part), part]
    if not loose:
        bridged += _across(bridged[-1], bridged[0])
    run = join_chains([_from(part, bridged[k - 1].end if k else part.start) for k, part in enumerate(bridged)])
    if loose:
        return False, run
    pieces = run.pieces.copy()
    pieces[-1, 3] = pieces[0, 0]
    return True, _straightened(Chain(pieces, run.straight))


def _from(chain: Chain, start: npt.NDArray[np.float64]) -> Chain:
    """The chain begun just where the one before it ends."""
    if bool(np.all(chain.start == start)):
        return chain
    pieces = chain.pieces.copy()
    pieces[0, 0] = start
    return _straightened(Chain(pieces, chain.straight))


def _straightened(chain: Chain) -> Chain:
    """Control points of lines at their thirds again, after an end was moved."""
    pieces = chain.pieces.copy()
    for k in np.flatnonzero(chain.straight):
        pieces[k] = line_pieces(pieces[k][[0, 3]])[0]
    return Chain(pieces, chain.straight)


def _enclosed(chains: Sequence[Chain]) -> list[Chain]:
    """The outlines of the areas that lines enclose."""
    lines = [shapely.LineString(curve_of(c, tolerances.FLATTEN_MM).points) for c in chains]
    noded = shapely.union_all(lines, grid_size=JOIN_MM / 50)
    faces = shapely.get_parts(shapely.polygonize(shapely.get_parts(noded)))
    return [line_chain(np.asarray(f.exterior.coords)) for f in faces if f.area > tolerances.AREA_MM2]
