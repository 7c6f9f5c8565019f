"""Outlines as the screen takes them: path data in whole thousandths of a millimetre, each point told from the one before.

A third of what absolute millimetres take, and no less exact than a cutter is.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from gladstack.core.geometry.curves import Chain

_PER_MM = 1000
_LINE, _CURVE = "l%d %d", "c%d %d %d %d %d %d"


def screen_path(rings: Sequence[Chain]) -> str:
    """Path data of closed chains: M, then l and c with moves, then Z."""
    out = []
    for ring in rings:
        if not len(ring):
            continue
        points = np.round(ring.pieces * _PER_MM).astype(np.int64)
        begin = points[0, 0]
        # Each piece begins where the one before ended, so that nothing adds up.
        moves = (points[:, 1:] - np.vstack([begin[None], points[:-1, 3]])[:, None]).reshape(-1, 6).tolist()
        lines = ring.straight.tolist()
        values = [v for row, straight in zip(moves, lines, strict=True) for v in (row[4:] if straight else row)]
        form = "".join(["M%d %d", *[_LINE if straight else _CURVE for straight in lines], "Z"])
        out.append(form % (*begin.tolist(), *values))
    return "".join(out).replace(" -", "-")
