"""Films that do not fit between the margins of the sheets they were given."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure, Whereabouts
from gladstack.core.base.units import Unit, format_length
from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding
from gladstack.shop.jobs.edits import JobEdit


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    unit: Unit = next((built.recipe.unit for built in read.designs.values()), "mm")
    for film in read.plan.too_large:
        over = zip((film.wide_mm, film.high_mm), ("wide", "high"), strict=True)
        told = [f"{format_length(mm, unit)} too {word}" for mm, word in over if mm > 0]
        room = f"{format_length(film.sheet_mm[0], unit)} × {format_length(film.sheet_mm[1], unit)}"
        said = f"{film.name} does not fit its {room} sheet: {' and '.join(told)}."
        helps = "Take a larger sheet, or make the design smaller."
        if film.fits_turned:
            helps = "It would fit with the sheet laid the other way round."
        measure = Measure(film.used_mm, film.room_mm, "mm")
        yield Finding("off-sheet", said, "stop", film.film, Whereabouts(box=film.box), measure, helps)


CHECK = PlanCheck(("off-sheet",), _findings, "sheets", "the sheet")
