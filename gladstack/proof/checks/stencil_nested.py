"""Stencils whose parts are nested: what is laid down is the film around them, where they belong."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.model.uses import USES
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.edits import JobEdit, SetJob, SetJobFilm


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    job = read.plan.job
    for film in read.plan.films:
        if (
            film.layout != "nested"
            or not USES[film.use].parts_go
            or len(film.cutting.outline.parts) < 2
            or job.keeps == "copy"
        ):
            continue
        own = job.film(film.design, film.film)
        fix: JobEdit = SetJob(layout="register")
        if own.layout is not None:
            fix = SetJobFilm(film=changed(own, design=film.design, film=film.film, layout="register"))
        yield Finding(
            "stencil-nested",
            f"The parts of the stencil {film.layer.name} are nested: their openings would lie anywhere.",
            "stop",
            film.film,
            fixes=(Fix("Lay it in register", fix),),
        )


CHECK = PlanCheck(("stencil-nested",), _findings, "sheets", "the use", when="weeding")
