"""HPGL for cutters: 40 units to the millimetre, pen up and pen down, speed and force where they are set."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

FloatArray = npt.NDArray[np.float64]

UNITS_PER_MM = 40
TOLERANCE_MM = 0.002
"""What curves are flattened within: with the rounding to units it stays below 0.02 mm."""


def hpgl(
    strokes: Sequence[FloatArray], width_mm: float, speed_mm_s: float | None = None, force_g: int | None = None,
    pen: Sequence[FloatArray] = (),
) -> str:  # fmt: skip
    """Polylines in the order they are cut, as HPGL; what is drawn by a `pen` (tool 2) comes before the blade (tool 1).

    Film runs along x; y counts from the far edge, as plotters count it.
    """
    out = ["IN;", "PA;"]
    if pen:
        out += ["SP2;", *_moves(pen, width_mm)]
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


def in_units(points: FloatArray, width_mm: float) -> tuple[npt.NDArray[np.int64], npt.NDArray[np.bool_]]:
    """Points as they are written, those that fall on the one before left out; and which were kept (n,)."""
    turned = np.stack([points[:, 0], width_mm - points[:, 1]], axis=1)
    units = np.round(turned * UNITS_PER_MM).astype(np.int64)
    keep = np.ones(len(units), np.bool_)
    keep[1:] = np.any(units[1:] != units[:-1], axis=1)
    return units[keep], keep
