"""HPGL for cutters: 40 units to the millimetre, pen up and pen down, speed and force where they are set."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt
import shapely

FloatArray = npt.NDArray[np.float64]

UNITS_PER_MM = 40
TOLERANCE_MM = 0.002
"""What curves are flattened within: with the rounding to units it stays below 0.02 mm."""
_ON_IT_MM = 0.003
"""How near to a stretch a point counts as on it: two edges that lie on each other may be flattened apart by so much."""


def hpgl(
    strokes: Sequence[FloatArray], width_mm: float, speed_mm_s: float | None = None, force_g: int | None = None,
    pens: Sequence[Sequence[FloatArray]] = (),
) -> str:  # fmt: skip
    """Polylines in the order they are cut, as HPGL; what is drawn by `pens` (tools 2 and on) comes before
    the blade (tool 1).

    Film runs along x; y counts from the far edge, as plotters count it.
    """
    out = ["IN;", "PA;"]
    for tool, lines in enumerate(pens, 2):
        out += [f"SP{tool};", *_moves(lines, width_mm)]
    out.append("SP1;")
    if speed_mm_s:
        out.append(f"VS{max(1, round(speed_mm_s / 10))};")
    if force_g:
        out.append(f"FS{force_g};")
    return "\n".join([*out, *_moves(strokes, width_mm), "PU0,0;", "SP0;"]) + "\n"


def _moves(strokes: Sequence[FloatArray], width_mm: float) -> list[str]:
    out = []
    for stroke in strokes:
        points = in_units(stroke, width_mm)[0]
        if len(points) < 2:
            # Smaller than a unit: a prick, so that every stroke is there.
            points = np.vstack([points, points + np.array([1, 0]), points])
        out.append(f"PU{points[0, 0]},{points[0, 1]};")
        # One command for each contour: readers take what follows a command as one line.
        out.append("PD" + ",".join(f"{x},{y}" for x, y in points[1:].tolist()) + ";")
    return out


def noded(lines: Sequence[FloatArray]) -> list[FloatArray]:
    """Polylines with the points of all of them that lie on their stretches: (n, 2) each, in mm.

    Where two edges lie on each other, as at a neck of no width, points of one alone would be rounded to units away from
    the other, and open what is closed. Each stretch keeps its own ends; no line moves by more than 0.003 mm.
    """
    ends = np.concatenate([np.zeros((0, 2, 2)), *(np.stack([c[:-1], c[1:]], axis=1) for c in lines if len(c) > 1)])
    owners = np.repeat(np.arange(len(lines)), [max(0, len(c) - 1) for c in lines])
    if not len(ends):
        return list(lines)
    points = np.unique(np.concatenate(list(lines)), axis=0)
    which, stretch = shapely.STRtree(shapely.points(points)).query(
        shapely.linestrings(ends), predicate="dwithin", distance=_ON_IT_MM
    )[::-1]
    begin, run = ends[stretch, 0], ends[stretch, 1] - ends[stretch, 0]
    length = np.maximum(np.hypot(run[:, 0], run[:, 1]), 1e-12)
    along = np.einsum("ij,ij->i", points[which] - begin, run) / length
    within = (along > _ON_IT_MM) & (along < length - _ON_IT_MM)
    which, stretch, along = which[within], stretch[within], along[within]
    if not len(which):
        return list(lines)
    # Every stretch is its first point and what lies on it, in order; the last point of a line closes it.
    keys = np.concatenate([np.arange(len(ends)), stretch])
    at = np.concatenate([np.zeros(len(ends)), along])
    order = np.lexsort((at, keys))
    every = np.concatenate([ends[:, 0], points[which]])[order]
    parts = np.split(every, np.searchsorted(owners[keys[order]], np.arange(1, len(lines))))
    return [np.vstack([part, line[-1:]]) if len(line) > 1 else line for part, line in zip(parts, lines, strict=True)]


def in_units(points: FloatArray, width_mm: float) -> tuple[npt.NDArray[np.int64], npt.NDArray[np.bool_]]:
    """Points as they are written, those that fall on the one before left out; and which were kept (n,)."""
    turned = np.stack([points[:, 0], width_mm - points[:, 1]], axis=1)
    units = np.round(turned * UNITS_PER_MM).astype(np.int64)
    keep = np.ones(len(units), np.bool_)
    keep[1:] = np.any(units[1:] != units[:-1], axis=1)
    return units[keep], keep
