"""Films that shrink in the press and are not cut larger for it: they go out of register."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.model.uses import USES
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.edits import JobEdit, SetJobFilm

_SHARE = 0.5


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    for film in read.plan.films:
        left, top, right, bottom = film.frame
        across, down = film.shrinks_by
        # It shrinks about its middle: each side moves by half of it.
        opens = 0.0 if film.made_up else max((right - left) * across, (bottom - top) * down) / 2
        limit = _SHARE * USES[film.use].slip_mm
        if opens <= limit:
            continue
        own = changed(read.plan.job.film(film.design, film.film), design=film.design, film=film.film, make_up=True)
        yield Finding(
            "shrinks-apart",
            f"{film.layer.name} shrinks in the press and is not cut larger for it: at its rim it lies {opens:.2f} mm off.",
            "mind",
            film.film,
            measure=Measure(round(opens, 3), round(limit, 3), "mm"),
            helps="Cut it larger by what the press takes.",
            fixes=(Fix("Cut it larger for that", SetJobFilm(film=own)),),
        )


CHECK = PlanCheck(("shrinks-apart",), _findings, "sheets", "half of what a hand slips by, by the use", "laying")
