"""Seams that run through a thin part: it comes in two pieces that hardly hold, and are hard to lay end to end."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import shapely
from shapely import LineString

from gladstack.core.base.findings import Measure, Whereabouts
from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.model.values import MAX_WIDTH_MM
from gladstack.shop.jobs.edits import JobEdit, PlaceSeam
from gladstack.shop.jobs.job import SeamCounts
from gladstack.shop.plan.wanted import WantedFilm

_TIMES = 3.0
"""A part is divided well where it is so many times as wide as the narrowest that its film bears."""
_WAYS_MM = (2.0, 4.0, 6.0, 9.0, 12.0, 16.0, 20.0, 25.0, 30.0)


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    for (design, film), register in read.plan.registers.items():
        if film not in register.seams:
            continue
        of = next(f for f in read.plan.films if (f.design, f.film) == (design, film))
        seams = register.seams[film]
        counts = SeamCounts(x=len(seams.x), y=len(seams.y))
        for axis, name in ((0, "x"), (1, "y")):
            for index, at in enumerate(seams.along(axis)):
                width, spot = _narrowest(of, axis, at)
                limit = _TIMES * of.material.least_part_mm
                if width >= limit:
                    continue
                side = "from the top" if axis else "from the left"
                better = [at + way for mm in _WAYS_MM for way in (-mm, mm) if _narrowest(of, axis, at + way)[0] >= limit]
                moved = [
                    PlaceSeam(
                        design=design,
                        film=None if read.plan.job.tiles.each_film is False else film,
                        axis="y" if name == "y" else "x",
                        index=index,
                        at_mm=round(to, 3),
                        of=counts,
                    )
                    for to in better[:1]
                ]
                yield Finding(
                    "seam-thin",
                    f"Seam {index + 1} {side} runs through a part of {of.layer.name} that is {width:.1f} mm wide there.",
                    "mind",
                    film,
                    place=Whereabouts(at=spot),
                    measure=Measure(round(width, 2), round(limit, 2), "mm"),
                    helps="Move the seam to where parts are wide, or where there are none.",
                    fixes=tuple(
                        Fix[JobEdit](f"Move it by {abs(to - at):g} mm", edit)
                        for to, edit in zip(better, moved, strict=False)
                    ),
                )


def _narrowest(film: WantedFilm, axis: int, at: float) -> tuple[float, tuple[float, float]]:
    """The shortest piece of a line that lies on film, and its middle; endless where none does."""
    far = 2 * MAX_WIDTH_MM
    line = LineString([(at, -far), (at, far)] if axis == 0 else [(-far, at), (far, at)])
    pieces = [p for p in shapely.get_parts(shapely.intersection(film.layer.cut, line)) if p.length > 0]
    if not pieces:
        return float("inf"), (0.0, 0.0)
    least = min(pieces, key=lambda p: float(p.length))
    x, y = np.mean(shapely.get_coordinates(least), axis=0)
    return float(least.length), (float(x), float(y))


CHECK = PlanCheck(("seam-thin",), _findings, "sheets", "the narrowest part that the material bears")
