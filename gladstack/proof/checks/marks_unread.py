"""Registration marks that the cutter of a job cannot find."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.edits import JobEdit, SetJob


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    marks, sheets = read.plan.job.marks, read.plan.sheets
    cutter = sheets[0].cutter
    if marks.count == 0 or marks.kind in cutter.reads_marks or not any(s.furniture.marks for s in sheets):
        return
    known = cutter.reads_marks[:2]
    yield Finding(
        "marks-unread",
        f"{cutter.name} does not find {marks.kind} by itself: they help only the eye.",
        "mind",
        sheets[0].material.id,
        fixes=tuple(Fix(f"Mark with {kind}", SetJob(marks=changed(marks, kind=kind))) for kind in known),
    )


CHECK = PlanCheck(("marks-unread",), _findings, "sheets", "the cutter")
