"""Films whose nearest match on the shelf has another colour."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.edits import JobEdit, SetJobFilm
from gladstack.shop.jobs.job import JobFilm
from gladstack.shop.shelf.materials import ANY

FAR_COLOUR = 12.0
"""A film whose colour is farther off, in delta-E, is another colour to anybody."""


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    for film in read.plan.films:
        if film.near is None or film.near <= FAR_COLOUR:
            continue
        of = f" of {film.of}" if len(read.designs) > 1 else ""
        nearest = f"The nearest film on the shelf to {film.layer.name}{of} is {film.material.name}"
        now = next(
            (f for f in read.plan.job.films if (f.design, f.film) == (film.design, film.film)),
            JobFilm(design=film.design, film=film.film),
        )
        yield Finding(
            "far-colour",
            f"{nearest}, and its colour is far off.",
            "mind",
            film.film,
            measure=Measure(round(film.near, 1), FAR_COLOUR),
            helps="Choose another film, or “any film of this colour”.",
            fixes=(Fix("Any film of this colour", SetJobFilm(film=changed(now, material=ANY))),),
        )


CHECK = PlanCheck(("far-colour",), _findings, "sheets", "what an eye takes for another colour")
