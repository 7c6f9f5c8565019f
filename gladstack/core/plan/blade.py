"""How long a blade takes: it follows straight and gently bent lines fast, and slows down wherever it has to turn."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from gladstack.core.base.compiled import jit
from gladstack.core.geometry.curves import Chain

FloatArray = npt.NDArray[np.float64]

_ASIDE_MM = 0.02


@dataclass(frozen=True)
class Blade:
    """A cutter of the common desk-top kind: speed in mm/s, acceleration in mm/s2, seconds to lift, travel and lower."""

    speed: float = 80.0
    acceleration: float = 500.0
    lift: float = 0.3


def cutting_seconds(rings: Sequence[Chain], blade: Blade | None = None) -> float:
    """Seconds to cut closed chains.

    Every node's speed is limited by how sharply the blade turns there, every piece's by how strongly it bends, and all by
    what can be gained or lost on the way between nodes: a trapezoid of speed for each piece.
    """
    blade = blade or Blade()
    closed = [ring for ring in rings if len(ring)]
    if not closed:
        return 0.0
    pieces = np.concatenate([ring.pieces for ring in closed])
    ends = np.cumsum([len(ring) for ring in closed])
    before = np.arange(-1, len(pieces) - 1)
    before[np.concatenate([[0], ends[:-1]])] = ends - 1
    into, out = _ends(pieces)
    chord = np.hypot(*(pieces[:, 3] - pieces[:, 0]).T)
    hull = np.hypot(*np.diff(pieces, axis=1).transpose(2, 0, 1)).sum(axis=1)
    length = np.maximum((chord + hull) / 2, 1e-6)
    bend = _angle(into, out)
    # On an arc of radius r the speed is that whose change of direction is still within the acceleration: v^2 = a r.
    cruise = np.minimum(blade.speed, np.sqrt(blade.acceleration * length / np.maximum(bend, 1e-6)))
    turn = _angle(out[before], into)
    # A turn is taken as fast as an arc through it could be that leaves the node aside by no more than `_ASIDE_MM`: with
    # half the angle between the two sides h, its radius is aside sin h / (1 - sin h).
    half = np.sin((np.pi - turn) / 2)
    node = np.sqrt(blade.acceleration * _ASIDE_MM * half / np.maximum(1 - half, 1e-9))
    node = np.minimum(node, np.minimum(cruise, cruise[before]))
    # Every ring begins and ends at rest.
    node[np.concatenate([[0], ends[:-1]])] = 0.0
    return float(_run(length, cruise, node, blade.acceleration)) + blade.lift * len(closed)


def moving_seconds(lengths_mm: Sequence[float], blade: Blade) -> float:
    """Seconds for straight moves from rest to rest, the blade lifted."""
    lengths = np.asarray(lengths_mm, dtype=np.float64)
    gaining = blade.speed**2 / blade.acceleration
    short = 2 * np.sqrt(lengths / blade.acceleration)
    return float(np.where(lengths < gaining, short, lengths / blade.speed + blade.speed / blade.acceleration).sum())


def _ends(pieces: FloatArray) -> tuple[FloatArray, FloatArray]:
    """Unit directions (n, 2) in which pieces begin and end; a control point on its end passes the question on."""

    def first(*steps: FloatArray) -> FloatArray:
        found = np.zeros_like(steps[0])
        open_ = np.ones(len(found), np.bool_)
        for step in steps:
            size = np.hypot(*step.T)
            take = open_ & (size > 1e-9)
            found[take] = step[take] / size[take, None]
            open_ &= ~take
        return found

    a, b, c, d = (pieces[:, k] for k in range(4))
    return first(b - a, c - a, d - a), first(d - c, d - b, d - a)


def _angle(a: FloatArray, b: FloatArray) -> FloatArray:
    return np.asarray(np.abs(np.arctan2(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0], (a * b).sum(axis=1))))


@jit
def _run(length: FloatArray, cruise: FloatArray, node: FloatArray, a: float) -> float:
    n = length.shape[0]
    speed = np.empty(n + 1)
    speed[:n] = node
    speed[n] = node[0]
    for i in range(n):
        speed[i + 1] = min(speed[i + 1], np.sqrt(speed[i] * speed[i] + 2 * a * length[i]))
    for i in range(n - 1, -1, -1):
        speed[i] = min(speed[i], np.sqrt(speed[i + 1] * speed[i + 1] + 2 * a * length[i]))
    total = 0.0
    for i in range(n):
        u, v = speed[i], speed[i + 1]
        top = min(cruise[i], np.sqrt(a * length[i] + 0.5 * (u * u + v * v)))
        top = max(top, u, v)
        changing = (2 * top * top - u * u - v * v) / (2 * a)
        total += (2 * top - u - v) / a + max(0.0, length[i] - changing) / max(top, 1e-9)
    return total
