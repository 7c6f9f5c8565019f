"""Outlines that turn to and fro in steps that a trailing blade cannot follow."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
import shapely
from shapely import MultiPolygon

from gladstack.core.base.findings import Measure, Whereabouts
from gladstack.core.base.plane import Point
from gladstack.core.geometry.curves import Matrix
from gladstack.proof.check import CutCheck, CutRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.art.mended import moved_point
from gladstack.recipe.edit.arts import ChangeArts
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.arts import RegionArt
from gladstack.recipe.model.values import changed

_TURN = math.radians(25.0)
_IN_A_ROW = 5


def _findings(read: CutRead) -> Iterator[Finding[Edit]]:
    offset = max(read.film.material.blade.offset_mm, read.whole.cutter.blade_offset_mm)
    limit = round(90 / (2 * offset)) if offset > 0 else 0
    worst = read.measured(_laid, worst_jag)
    if worst is None or not limit or worst[0] <= limit:
        return
    smoother = [
        changed(art, simplify_mm=0.1)
        for art in read.whole.built.recipe.arts
        if isinstance(art, RegionArt) and art.simplify_mm < 0.1 and read.film.film in read.whole.built.art_films[art.id]
    ]
    yield Finding(
        "jagged",
        f"An edge of {read.film.layer.name} turns to and fro by {worst[0]:.0f}° a millimetre here: a blade that trails by "
        f"{offset:g} mm follows no more than {limit}°.",
        "mind",
        place=Whereabouts(at=worst[1]),
        measure=Measure(round(worst[0], 1), limit, "deg"),
        helps="Smooth it, or simplify its art.",
        fixes=(Fix("Simplify by 0.1 mm", ChangeArts(arts=tuple(smoother))),) if smoother else (),
    )


Jag = tuple[float, Point]
"""By how many degrees a mm an outline turns to and fro, and where."""


def _laid(jag: Jag | None, matrix: Matrix) -> Jag | None:
    return None if jag is None else (jag[0], moved_point(jag[1], matrix))


def worst_jag(cut: MultiPolygon) -> Jag | None:
    """Where a film's outline turns to and fro the most: by how many degrees a mm, and where; None if it does nowhere."""
    points, ring = shapely.get_coordinates(shapely.get_rings(np.array(cut.geoms, dtype=object)), return_index=True)
    ends = np.flatnonzero(np.append(ring[1:] != ring[:-1], True))
    begins = np.append(0, ends[:-1] + 1)
    way = np.diff(points, axis=0, append=points[:1])
    way[ends] = way[begins]
    x, y = way.T
    long = np.sqrt(x * x + y * y)
    long[ends] = 0.0
    along = np.cumsum(long) - long
    # A ring ends with its first point: that is where it turns there.
    across, ahead = x[:-1] * y[1:] - y[:-1] * x[1:], x[:-1] * x[1:] + y[:-1] * y[1:]
    turns = np.append(False, np.abs(across) > math.tan(_TURN) * ahead)
    turns[begins] = False
    sharp = np.flatnonzero(turns)
    turn = np.zeros(len(points))
    turn[sharp] = np.arctan2(across[sharp - 1], ahead[sharp - 1])
    sign = np.sign(turn[sharp])
    last = _IN_A_ROW - 1
    first = np.arange(max(0, len(sharp) - last))
    row = (ring[sharp[first]] == ring[sharp[first + last]]) & np.all(
        [sign[first + k] != sign[first + k + 1] for k in range(last)], axis=0
    )
    rows = sharp[first[row][:, None] + np.arange(_IN_A_ROW)]
    if not len(rows):
        return None
    rates = np.degrees(np.abs(turn[rows[:, 1:]]).sum(axis=1)) / np.maximum(1e-6, along[rows[:, -1]] - along[rows[:, 0]])
    worst = int(rates.argmax())
    at = points[rows[worst, _IN_A_ROW // 2]]
    return float(rates[worst]), (float(at[0]), float(at[1]))


CHECK = CutCheck(("jagged",), _findings, "proof", "how far the blade's tip trails")
