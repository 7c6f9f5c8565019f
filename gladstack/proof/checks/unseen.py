"""Films that others wholly cover: nothing of them is seen."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure, Whereabouts
from gladstack.core.base.tolerances import AREA_MM2
from gladstack.proof.check import OnFilm, OnFilmCheck
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.edit.films import LeaveOut


def _findings(read: OnFilm) -> Iterator[Finding[Edit]]:
    for film, seen_mm2 in zip(read.films, read.seen_mm2, strict=True):
        if seen_mm2 > AREA_MM2 * max(1.0, film.layer.shape.area):
            continue
        yield Finding(
            "unseen",
            f"{film.layer.name} is wholly covered by what lies on it: nothing of it is seen.",
            "note",
            film.film,
            place=Whereabouts(box=film.layer.shape.bounds),
            measure=Measure(round(seen_mm2, 3), 0.0, "mm2"),
            helps="Leave it out, unless it is to carry the others.",
            fixes=(Fix("Leave it out", LeaveOut(film=film.film, left_out=True)),),
        )


CHECK = OnFilmCheck(("unseen",), _findings, "proof", "what is seen", "laying")
