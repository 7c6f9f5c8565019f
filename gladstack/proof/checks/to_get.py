"""Films of a colour that nothing on the shelf has."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding
from gladstack.proof.other_film import another
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.plan.wanted import MATCH

_NEAREST = 3


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    for film in read.plan.films:
        if not film.to_get:
            continue
        of = f" of {film.of}" if len(read.designs) > 1 else ""
        near = [n for n in film.nearest if n.material.looks_like(film.layer.finish)][:_NEAREST] or film.nearest[:_NEAREST]
        why = f"no film on the shelf has its colour ({film.layer.colour})" if near else "the shelf has no film"
        yield Finding(
            "to-get",
            f"Film for {film.layer.name}{of} has to be bought: {why} for this use.",
            "mind" if near else "note",
            film.film,
            measure=Measure(round(near[0].delta_e, 1), MATCH) if near and near[0].delta_e > MATCH else None,
            fixes=tuple(another(read, film, n.material) for n in near),
        )


CHECK = PlanCheck(("to-get",), _findings, "sheets", "what an eye takes for another colour")
