"""Films cut from a material that was chosen by hand and has another colour."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding
from gladstack.proof.other_film import another, any_of_its_colour, nearer
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.plan.wanted import MATCH


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    for film in read.plan.films:
        if not film.chosen or film.near is None or film.near <= MATCH:
            continue
        of = f" of {film.of}" if len(read.designs) > 1 else ""
        yield Finding(
            "far-colour",
            f"{film.layer.name}{of} is cut from {film.material.name}, whose colour is another.",
            "mind",
            film.film,
            measure=Measure(round(film.near, 1), MATCH),
            fixes=(*(another(read, film, m) for m in nearer(film)), any_of_its_colour(read, film)),
        )


CHECK = PlanCheck(("far-colour",), _findings, "sheets", "what an eye takes for another colour")
