"""Materials of which there is less on the shelf than a plan takes."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.shelf.supply import TO_BUY


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    sheets = read.plan.sheets
    for material in {s.material.id: s.material for s in sheets}.values():
        missing = [s for s in sheets if s.piece.id == TO_BUY and s.material.id == material.id]
        if not missing or material.stands_for_any:
            continue
        length = sum(s.length_used_mm for s in missing)
        roll = f"{length:.0f} mm of a {missing[0].width_mm:.0f} mm roll"
        said = f"There is too little {material.name} on the shelf: {roll} are missing."
        measure = Measure(length, 0.0, "mm")
        helps = "Get more of it, or choose another film."
        yield Finding("short-of-film", said, "stop", material.id, measure=measure, helps=helps)


CHECK = PlanCheck(("short-of-film",), _findings, "sheets", "the shelf")
