"""Films drawn by a pen that was chosen by hand and has another colour."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.plan.wanted import MATCH


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    for film in read.plan.films:
        for pen in film.pens:
            if pen.off > MATCH:
                yield Finding(
                    "pen-colour",
                    f"What {pen.name} draws on {film.layer.name} has another colour in the design.",
                    "mind",
                    film.film,
                    measure=Measure(round(pen.off, 1), MATCH),
                    helps="Choose another pen in Stack, under what is drawn, or put one of that colour on the shelf.",
                )


CHECK = PlanCheck(("pen-colour",), _findings, "sheets", "what an eye takes for another colour")
