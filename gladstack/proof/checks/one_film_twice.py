"""Two colours of a decal that are cut from one film, and so look the same."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

from gladstack.core.base.findings import Measure
from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding
from gladstack.proof.other_film import another, any_of_its_colour, nearer
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.plan.wanted import OTHER_COLOUR, WantedFilm, apart


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    by_design: dict[str, list[WantedFilm]] = {}
    for film in read.plan.films:
        by_design.setdefault(film.design, []).append(film)
    for films in by_design.values():
        held = {f.material.id for f in films}
        for a, b in combinations(films, 2):
            delta = apart(a.layer.colour, b.layer.colour)
            if a.material.id != b.material.id or a.near is None or b.near is None or delta <= OTHER_COLOUR:
                continue
            off = b if b.near >= a.near else a
            other = [m for m in nearer(off) if m.id not in held]
            yield Finding(
                "one-film-twice",
                f"{a.layer.name} and {b.layer.name} are both cut from {a.material.name}: they will look the same.",
                "mind",
                off.film,
                measure=Measure(round(delta, 1), OTHER_COLOUR),
                fixes=(*(another(read, off, m) for m in other), any_of_its_colour(read, off)),
            )


CHECK = PlanCheck(("one-film-twice",), _findings, "sheets", "what an eye takes for another colour")
