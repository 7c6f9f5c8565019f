"""Pixels that no mix of the colours beside them explains."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt

from gladstack.core.base.compiled import jit
from gladstack.core.picture import windows

Bytes = npt.NDArray[np.uint8]


@jit
def _mix_residual(p: Any, a: Any, b: Any) -> float:
    """Squared distance of the colour `p` from the straight mix of `a` and `b`."""
    dot = 0.0
    norm = 0.0
    for c in range(3):
        s = b[c] - a[c]
        dot += (p[c] - a[c]) * s
        norm += s * s
    t = 0.0 if norm == 0 else min(1.0, max(0.0, dot / norm))
    d = 0.0
    for c in range(3):
        e = a[c] + t * (b[c] - a[c]) - p[c]
        d += e * e
    return float(d)


@jit
def blend_residual(p: Any, a: Any, b: Any, c: Any) -> float:
    """Squared distance of `p` from the triangle of mixes of three colours (a seam that lets a third colour through)."""
    ab0, ab1, ab2 = b[0] - a[0], b[1] - a[1], b[2] - a[2]
    ac0, ac1, ac2 = c[0] - a[0], c[1] - a[1], c[2] - a[2]
    ap0, ap1, ap2 = p[0] - a[0], p[1] - a[1], p[2] - a[2]
    d11, d12, d22 = ab0 * ab0 + ab1 * ab1 + ab2 * ab2, ab0 * ac0 + ab1 * ac1 + ab2 * ac2, ac0 * ac0 + ac1 * ac1 + ac2 * ac2
    e1, e2 = ap0 * ab0 + ap1 * ab1 + ap2 * ab2, ap0 * ac0 + ap1 * ac1 + ap2 * ac2
    det = d11 * d22 - d12 * d12
    if det > 1e-3:
        s, t = (d22 * e1 - d12 * e2) / det, (d11 * e2 - d12 * e1) / det
        if s >= 0 and t >= 0 and s + t <= 1:
            q0, q1, q2 = ap0 - s * ab0 - t * ac0, ap1 - s * ab1 - t * ac1, ap2 - s * ab2 - t * ac2
            return float(q0 * q0 + q1 * q1 + q2 * q2)
    return float(min(_mix_residual(p, a, b), min(_mix_residual(p, a, c), _mix_residual(p, b, c))))


@jit
def smear_residual(p: Any, a: Any, b: Any) -> float:
    """As `_mix_residual`, but brightness and tint may be mixed in different shares (JPEG stores tint coarsely)."""
    py, pu, pv = _ycc(p)
    ay, au, av = _ycc(a)
    by, bu, bv = _ycc(b)
    over = max(0.0, max(min(ay, by) - py, py - max(ay, by)))
    su, sv = bu - au, bv - av
    norm = su * su + sv * sv
    t = 0.0 if norm == 0 else min(1.0, max(0.0, ((pu - au) * su + (pv - av) * sv) / norm))
    du, dv = au + t * su - pu, av + t * sv - pv
    return 3.0 * over * over + 2.0 * (du * du + dv * dv)


@jit
def _ycc(c: Any) -> tuple[float, float, float]:
    r, g, b = float(c[0]), float(c[1]), float(c[2])
    y = 0.299 * r + 0.587 * g + 0.114 * b
    return y, 0.564 * (b - y), 0.713 * (r - y)


@jit
def _gather(cores: Any, y: int, x: int, reach: int, found: Any) -> int:
    """Distinct core labels in the window of half-width `reach`; written to `found`, their number returned."""
    h, w = cores.shape
    n = 0
    for v in range(max(0, y - reach), min(h, y + reach + 1)):
        for u in range(max(0, x - reach), min(w, x + reach + 1)):
            k = cores[v, u]
            if k >= 0:
                known = False
                for i in range(n):
                    if found[i] == k:
                        known = True
                        break
                if not known and n < found.shape[0]:
                    found[n] = k
                    n += 1
    return n


@jit
def _explained(p: Any, colours: Any, found: Any, n: int, residual: float) -> bool:
    limit = residual * residual
    for i in range(n):
        for j in range(i, n):
            if _mix_residual(p, colours[found[i]], colours[found[j]]) <= limit:
                return True
    return False


def strict_cores(nearest: npt.NDArray[np.int16]) -> npt.NDArray[np.int16]:
    """Labels of pixels whose whole 3 x 3 neighbourhood has the same nearest colour; -1 elsewhere.

    Outside the picture counts as the same, so that cores reach its edge.
    """
    return np.where(windows.one_label(nearest), nearest, np.int16(-1))


@jit
def _unexplained(rgb: Any, colours: Any, cores: Any, residual: float, out: Any) -> int:
    h, w, _ = rgb.shape
    found = np.empty(32, np.int16)
    p = np.empty(3, np.float32)
    limit = residual * residual
    count = min(found.shape[0], colours.shape[0])
    n_out = 0
    for y in range(h):
        for x in range(w):
            if cores[y, x] >= 0:
                continue
            for c in range(3):
                p[c] = rgb[y, x, c]
            best = 1e18
            for i in range(count):
                for k in range(i, count):
                    best = min(best, _mix_residual(p, colours[i], colours[k]))
            if best <= limit:
                continue
            n = _gather(cores, y, x, 3, found)
            for i in range(n):
                for k in range(count):
                    for j in range(i + 1, n):
                        best = min(best, blend_residual(p, colours[found[i]], colours[found[j]], colours[k]))
                if best <= limit:
                    break
            if best > limit and n_out < out.shape[0]:
                out[n_out] = (int(rgb[y, x, 0]) << 16) | (int(rgb[y, x, 1]) << 8) | int(rgb[y, x, 2])
                n_out += 1
    return n_out


def unexplained_colours(
    rgb: Bytes, colours: npt.NDArray[np.float32], cores: npt.NDArray[np.int16], residual: float
) -> npt.NDArray[np.int64]:
    """Colours (24-bit) of pixels that no mix of the colours around them with any of `colours` explains.

    A mix may be off by `residual` levels. `cores` are the labels of the pixels that surely have one of `colours`, -1
    elsewhere.
    """
    out = np.empty(200_000, np.int64)
    return out[: _unexplained(rgb, colours, cores, residual, out)]
