"""Chains of lines and cubic Beziers: evaluating, reversing, splitting, flattening.

A *chain* is a run of pieces, each starting where the one before ends. All its pieces are cubics; those marked straight are
lines, and their control points stand at the thirds.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, cast

import numpy as np
import numpy.typing as npt

from gladstack.core.base.compiled import jit
from gladstack.core.base.plane import Box

FloatArray = npt.NDArray[np.float64]
BoolArray = npt.NDArray[np.bool_]

Matrix = tuple[float, float, float, float, float, float]
"""An affine map in SVG's order."""
IDENTITY: Matrix = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)

GRID_MM = 1e-4
"""Coordinates are kept to a tenth of a micrometre, so that a curve is the same in memory and in a file."""


@dataclass(frozen=True)
class Chain:
    """Pieces (n, 4, 2) of control points, and which of them are straight (n,)."""

    pieces: FloatArray
    straight: BoolArray

    @property
    def start(self) -> FloatArray:
        """First point (2,)."""
        return cast(FloatArray, self.pieces[0, 0])

    @property
    def end(self) -> FloatArray:
        """Last point (2,)."""
        return cast(FloatArray, self.pieces[-1, 3])

    def __len__(self) -> int:
        return len(self.pieces)


@dataclass(frozen=True)
class Curve:
    """A chain with its flattened points (m, 2), both ends included; piece k runs from points[offsets[k]] on."""

    chain: Chain
    points: FloatArray
    offsets: npt.NDArray[np.int64]


def distinct(path: FloatArray) -> FloatArray:
    """The points (n, 2) without repeats of the one before; never fewer than two."""
    kept = path[np.concatenate([[True], np.any(path[1:] != path[:-1], axis=1)])]
    return kept if len(kept) > 1 else path[[0, -1]]


def hash_points(points: FloatArray) -> npt.NDArray[np.int64]:
    """A 64-bit mix of both coordinates' bits for each point; equal points get equal hashes."""
    bits = np.ascontiguousarray(points + 0.0).view(np.uint64).reshape(-1, 2)
    mixed = (bits[:, 0] * np.uint64(0x9E3779B97F4A7C15)) ^ (bits[:, 1] * np.uint64(0xC2B2AE3D27D4EB4F))
    mixed ^= mixed >> np.uint64(29)
    return mixed.astype(np.int64)


def line_pieces(points: FloatArray) -> FloatArray:
    """Control points (n - 1, 4, 2) of straight pieces through `points` (n, 2), n >= 2."""
    a, b = points[:-1], points[1:]
    third = (b - a) / 3.0
    return np.stack([a, a + third, b - third, b], axis=1)


def line_chain(points: FloatArray) -> Chain:
    """Straight pieces through `points` (n, 2), n >= 2."""
    return Chain(line_pieces(points), np.ones(len(points) - 1, np.bool_))


def reverse_chain(chain: Chain) -> Chain:
    """The same chain run backwards; every coordinate stays as it is."""
    return Chain(chain.pieces[::-1, ::-1], chain.straight[::-1])


def join_chains(chains: list[Chain]) -> Chain:
    """One chain out of several, each starting where the one before ends."""
    return Chain(np.concatenate([c.pieces for c in chains]), np.concatenate([c.straight for c in chains]))


def transform_points(points: FloatArray, matrix: Matrix) -> FloatArray:
    """Points (..., 2) under x' = a x + c y + e, y' = b x + d y + f for matrix (a, b, c, d, e, f), as in SVG.

    Equal points come out equal to the last bit, whatever array they stand in.
    """
    a, b, c, d, e, f = matrix
    x, y = points[..., 0], points[..., 1]
    return np.stack([a * x + c * y + e, b * x + d * y + f], axis=-1)


def box_under(box: Box, matrix: Matrix) -> Box:
    """The box around a box under an affine matrix."""
    left, top, right, bottom = box
    corners = transform_points(np.array([[left, top], [right, top], [right, bottom], [left, bottom]], float), matrix)
    left, top = corners.min(axis=0).tolist()
    right, bottom = corners.max(axis=0).tolist()
    return left, top, right, bottom


def transform_chain(chain: Chain, matrix: Matrix) -> Chain:
    """The chain under an affine matrix."""
    return Chain(transform_points(chain.pieces, matrix), chain.straight)


def transform_curve(curve: Curve, matrix: Matrix) -> Curve:
    """The curve under an affine matrix, point for point."""
    return Curve(transform_chain(curve.chain, matrix), transform_points(curve.points, matrix), curve.offsets)


def compose(outer: Matrix, inner: Matrix) -> Matrix:
    """The matrix that does `inner`, then `outer`."""
    a, b, c, d, e, f = outer
    p, q, r, s, t, u = inner
    return a * p + c * q, b * p + d * q, a * r + c * s, b * r + d * s, a * t + c * u + e, b * t + d * u + f


def inverse(matrix: Matrix) -> Matrix:
    """The matrix that undoes another, which must not be flat."""
    a, b, c, d, e, f = matrix
    det = a * d - b * c
    return (d / det, -b / det, -c / det, a / det, (c * f - d * e) / det, (b * e - a * f) / det)


def sub_piece(piece: FloatArray, t0: float, t1: float) -> FloatArray:
    """Control points (4, 2) of the part of a cubic between parameters t0 < t1 (de Casteljau)."""

    def split(c: FloatArray, t: float) -> tuple[FloatArray, FloatArray]:
        ab, bc, cd = (c[:-1] * (1 - t) + c[1:] * t)[:3]
        abc, bcd = ab * (1 - t) + bc * t, bc * (1 - t) + cd * t
        mid = abc * (1 - t) + bcd * t
        return np.array([c[0], ab, abc, mid]), np.array([mid, bcd, cd, c[3]])

    left = split(piece, t1)[0] if t1 < 1 else piece
    return split(left, t0 / t1)[1] if t0 > 0 else left


def steps_for(pieces: FloatArray, straight: BoolArray, tolerance: float) -> npt.NDArray[np.int64]:
    """How many equal parameter steps flatten each piece within `tolerance`.

    From the bound |error| <= max |B''| / (8 n^2) for n steps, with |B''| <= 6 max |second difference| (Wang 1984).
    """
    return cast(npt.NDArray[np.int64], _steps(*_as_loops_take(pieces, straight), tolerance))


def flatten_pieces(pieces: FloatArray, straight: BoolArray, tolerance: float) -> tuple[FloatArray, npt.NDArray[np.int64]]:
    """Points of all pieces, without each piece's last one, and the offset where each piece begins (n + 1,)."""
    if bool(straight.all()):
        return pieces[:, 0].copy(), np.arange(len(pieces) + 1)
    return cast(tuple[FloatArray, npt.NDArray[np.int64]], _flattened(*_as_loops_take(pieces, straight), tolerance))


def _as_loops_take(pieces: FloatArray, straight: BoolArray) -> tuple[FloatArray, BoolArray]:
    """Both in one piece of memory: loops are compiled for that alone."""
    return np.ascontiguousarray(pieces, np.float64), np.ascontiguousarray(straight, np.bool_)


@jit
def _steps(pieces: Any, straight: Any, tolerance: float) -> Any:
    out = np.ones(len(pieces), np.int64)
    for k in range(len(pieces)):
        if straight[k]:
            continue
        second = 0.0
        for i in range(2):
            x = pieces[k, i, 0] - 2 * pieces[k, i + 1, 0] + pieces[k, i + 2, 0]
            y = pieces[k, i, 1] - 2 * pieces[k, i + 1, 1] + pieces[k, i + 2, 1]
            second = max(second, np.sqrt(x * x + y * y))
        out[k] = int(min(200.0, max(1.0, np.ceil(np.sqrt(6.0 * second / (8.0 * tolerance))))))
    return out


@jit
def _flattened(pieces: Any, straight: Any, tolerance: float) -> tuple[Any, Any]:
    steps = _steps(pieces, straight, tolerance)
    offsets = np.zeros(len(pieces) + 1, np.int64)
    for k in range(len(pieces)):
        offsets[k + 1] = offsets[k] + steps[k]
    points = np.empty((offsets[-1], 2))
    for k in range(len(pieces)):
        at = offsets[k]
        points[at, 0], points[at, 1] = pieces[k, 0, 0], pieces[k, 0, 1]
        for i in range(1, steps[k]):
            t = i / steps[k]
            r = 1.0 - t
            b0, b1, b2, b3 = r * r * r, 3 * r * r * t, 3 * r * t * t, t * t * t
            for d in range(2):
                c = pieces[k, :, d]
                points[at + i, d] = b0 * c[0] + b1 * c[1] + b2 * c[2] + b3 * c[3]
    return points, offsets


def flatten_chain(chain: Chain, tolerance: float) -> FloatArray:
    """Points (n, 2) along the chain, both ends included, deviating at most `tolerance`."""
    points, _ = flatten_pieces(chain.pieces, chain.straight, tolerance)
    return np.vstack([points, chain.end])


def flatten_chains(chains: Sequence[Chain], tolerance: float) -> list[FloatArray]:
    """`flatten_chain` for many chains, in one go."""
    return [c.points for c in curves_of(chains, tolerance)]


def node_counts(chains: Sequence[Chain], tolerance: float) -> npt.NDArray[np.int64]:
    """How many points each chain has once it is flattened, both ends included."""
    if not chains:
        return np.zeros(0, np.int64)
    steps = steps_for(np.concatenate([c.pieces for c in chains]), np.concatenate([c.straight for c in chains]), tolerance)
    return np.add.reduceat(steps, np.cumsum([0, *(len(c) for c in chains[:-1])])) + 1


def curve_of(chain: Chain, tolerance: float) -> Curve:
    """A chain and its points, deviating at most `tolerance`."""
    points, offsets = flatten_pieces(chain.pieces, chain.straight, tolerance)
    return Curve(chain, np.vstack([points, chain.end]), offsets)


def curves_of(chains: Sequence[Chain], tolerance: float) -> list[Curve]:
    """`curve_of` for many chains, flattened in one go."""
    if not chains:
        return []
    points, offsets = flatten_pieces(
        np.concatenate([c.pieces for c in chains]), np.concatenate([c.straight for c in chains]), tolerance
    )
    out = []
    at = 0
    for chain in chains:
        own = offsets[at : at + len(chain) + 1]
        out.append(Curve(chain, np.vstack([points[own[0] : own[-1]], chain.end]), own - own[0]))
        at += len(chain)
    return out


def on_grid(chain: Chain) -> Chain:
    """The chain with its coordinates as they are kept and written."""
    return Chain(np.round(chain.pieces / GRID_MM) * GRID_MM, chain.straight)


def bounds_of_pieces(pieces: FloatArray) -> tuple[float, float, float, float]:
    """Left, top, right and bottom of cubics (n, 4, 2): at their ends and where they turn back."""
    low, high = pieces[:, [0, 3]].min(axis=(0, 1)), pieces[:, [0, 3]].max(axis=(0, 1))
    c0, c1, c2, c3 = (pieces[:, k] for k in range(4))
    a, b, c = c3 - 3 * c2 + 3 * c1 - c0, 2 * (c2 - 2 * c1 + c0), c1 - c0
    with np.errstate(divide="ignore", invalid="ignore"):
        root = np.sqrt(b * b - 4 * a * c)
        flat = np.abs(a) < 1e-9 * (np.abs(b) + 1e-12)
        turns = (np.where(flat, -c / b, (-b + root) / (2 * a)), np.where(flat, np.nan, (-b - root) / (2 * a)))
        for t in turns:
            t = np.where((t > 0) & (t < 1), t, 0.0)
            r = 1 - t
            at = r**3 * c0 + 3 * r * r * t * c1 + 3 * r * t * t * c2 + t**3 * c3
            low, high = np.minimum(low, at.min(axis=0)), np.maximum(high, at.max(axis=0))
    return float(low[0]), float(low[1]), float(high[0]), float(high[1])
