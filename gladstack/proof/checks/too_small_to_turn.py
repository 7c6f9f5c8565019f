"""Contours in which a trailing blade has no room to turn."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import shapely

from gladstack.core.base.findings import Measure, Whereabouts
from gladstack.proof.check import CutCheck, CutRead
from gladstack.proof.finding import Finding
from gladstack.proof.narrow import first
from gladstack.recipe.edit.edits import Edit


def _findings(read: CutRead) -> Iterator[Finding[Edit]]:
    limit = round(2 * max(read.film.material.blade.offset_mm, read.whole.cutter.blade_offset_mm), 3)
    rings = shapely.get_rings(np.array(read.film.layer.cut.geoms, dtype=object))
    box = shapely.bounds(rings).reshape(-1, 4)
    wide = np.maximum(box[:, 2] - box[:, 0], box[:, 3] - box[:, 1])
    out = []
    for k in np.flatnonzero(wide < limit)[np.argsort(wide[wide < limit])]:
        outline = tuple((float(x), float(y)) for x, y in shapely.get_coordinates(rings[k])[:-1])
        middle = (float(box[k, [0, 2]].mean()), float(box[k, [1, 3]].mean()))
        out.append(
            Finding[Edit](
                "no-room-to-turn",
                f"A contour of {read.film.layer.name} is {wide[k]:.2f} mm across: a blade that trails by {limit / 2:g} mm "
                "cannot turn in it.",
                "mind",
                place=Whereabouts(at=middle, outlines=(outline,)),
                measure=Measure(round(float(wide[k]), 3), limit, "mm"),
                helps="Fill or drop it, or make the decal larger.",
            )
        )
    yield from first(out)


CHECK = CutCheck(("no-room-to-turn",), _findings, "proof", "how far the blade's tip trails")
