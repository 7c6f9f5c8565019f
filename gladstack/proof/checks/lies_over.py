"""Materials that are not meant to lie over what they lie over in a design."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding
from gladstack.shop.jobs.edits import JobEdit


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    for design, built in read.designs.items():
        by_film = {f.film: f for f in read.plan.films if f.design == design}
        for joint in built.joints:
            lower, upper = (by_film.get(built.layers[k].film) for k in (joint.lower, joint.upper))
            if lower and upper and upper.material.lies_over and lower.material.kind not in upper.material.lies_over:
                said = f"{upper.material.name} is not meant to lie over {lower.material.name}, as it does in {upper.of}."
                helps = "Choose another film for one of them, or another order."
                yield Finding("lies-over", said, "mind", upper.film, helps=helps)


CHECK = PlanCheck(("lies-over",), _findings, "sheets", "the upper material")
