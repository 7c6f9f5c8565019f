"""Sheets and offcuts that are wider or longer than the cutter reaches."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.core.base.units import format_length
from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding
from gladstack.shop.jobs.edits import JobEdit

_SHORT_MM = 0.05


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    unit = next(iter(read.designs.values())).recipe.unit
    told: set[str] = set()
    for sheet in read.plan.sheets:
        piece, cutter = sheet.piece, sheet.cutter
        wide, long = piece.width_mm - cutter.width_mm, piece.length_mm - cutter.length_mm
        if piece.kind == "roll" or max(wide, long) <= _SHORT_MM or piece.id in told:
            continue
        told.add(piece.id)
        size = f"{format_length(piece.width_mm, unit)} × {format_length(piece.length_mm, unit)}"
        across = wide > _SHORT_MM
        reach = format_length(cutter.width_mm if across else cutter.length_mm, unit)
        yield Finding(
            "beyond-reach",
            f"{sheet.material.name} is {size}, and {cutter.name} reaches {reach} {'across' if across else 'along'} it.",
            "note",
            sheet.material.id,
            measure=Measure(
                piece.width_mm if across else piece.length_mm, cutter.width_mm if across else cutter.length_mm, "mm"
            ),
        )


CHECK = PlanCheck(("beyond-reach",), _findings, "sheets", "the cutter")
