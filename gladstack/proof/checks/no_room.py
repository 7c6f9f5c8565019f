"""Marks, numbers, boxes and test cuts that found no room on their sheets."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.plan.planned import SheetPlan

_MOST = 6


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    notes: dict[str, list[SheetPlan]] = {}
    for sheet in read.plan.sheets:
        for said in sheet.furniture.notes:
            notes.setdefault(said, []).append(sheet)
    for said, own in notes.items():
        where = ", ".join(f"{s.number} {s.name}" for s in own[:_MOST]) + (" and more" if len(own) > _MOST else "")
        yield Finding("no-room", f"{said} ({where})", "note", own[0].material.id)


CHECK = PlanCheck(("no-room",), _findings, "sheets")
