"""Edges of a film that touch in no more than a point: there it tears, or hangs together by chance."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure, Whereabouts
from gladstack.core.base.plane import Point
from gladstack.core.geometry.curves import Matrix
from gladstack.core.geometry.holes import touching
from gladstack.proof.check import CutCheck, CutRead
from gladstack.proof.finding import Finding
from gladstack.proof.narrow import first, repair
from gladstack.recipe.art.mended import moved_point
from gladstack.recipe.edit.edits import Edit


def _findings(read: CutRead) -> Iterator[Finding[Edit]]:
    film, limit = read.film, read.film.material.least_part_mm
    spots = read.measured(_laid, touching)
    every = repair(read, f"Join all {len(spots)}", "join", limit, None)
    out = []
    for at in spots:
        here = repair(read, "Join them", "join", limit, at)
        out.append(
            Finding[Edit](
                "touching",
                f"Edges of {film.layer.name} touch in a single point here: the blade parts them, or tears the film.",
                "mind",
                place=Whereabouts(at=at),
                measure=Measure(0.0, limit, "mm"),
                helps="Join them, or move them apart.",
                fixes=(here, every) if len(spots) > 1 else (here,),
            )
        )
    yield from first(out)


def _laid(spots: list[Point], matrix: Matrix) -> list[Point]:
    return [moved_point(spot, matrix) for spot in spots]


CHECK = CutCheck(("touching",), _findings, "proof", "the narrowest part that the material bears", "blade")
