"""Films in register that take far more film than each would by itself: small ones laid over the whole decal's extent."""

from __future__ import annotations

import math
from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.core.base.plane import Box
from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding, Fix
from gladstack.shop.jobs.edits import JobEdit, SetJob
from gladstack.shop.plan.planned import SheetPlan

_SAVES, _AT_LEAST_MM = 1 / 3, 50.0


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    plan = read.plan
    if plan.job.layout != "register" or any(r.seams for r in plan.registers.values()):
        return
    now = close = 0.0
    for film in plan.films:
        own = [s for s in plan.sheets if any(p.bit.film is film for p in s.parts)]
        if film.layout != "register" or not own:
            continue
        now += sum(s.length_used_mm for s in own)
        close += _length(film.layer.cut.bounds, film.copies, own[0])
    saved = now - close
    if saved > _SAVES * now and saved > _AT_LEAST_MM:
        yield Finding(
            "lay-close",
            f"Laid film by film, each where it takes least, these films take about {close:.0f} mm in place of {now:.0f} mm. "
            "Each keeps its own register; to each other they are laid by the placement map.",
            "note",
            plan.films[0].film,
            measure=Measure(round(now, 1), round(close, 1), "mm"),
            fixes=(Fix("Lay film by film", SetJob(layout="whole")),),
        )


def _length(box: Box, copies: int, sheet: SheetPlan) -> float:
    """How much film some copies of a box take by themselves, the better way round."""
    room, gap, edge = sheet.width_mm - 2 * sheet.origin_mm, sheet.spacing_mm, 2 * sheet.origin_mm
    sides = (box[2] - box[0], box[3] - box[1])
    ways = [
        math.ceil(copies / max(1, int((room + gap) // (across + gap)))) * (along + gap) - gap + edge
        for along, across in (sides, sides[::-1])
        if across <= room
    ]
    return min(ways, default=math.inf)


CHECK = PlanCheck(("lay-close",), _findings, "sheets", "what the films take by themselves")
