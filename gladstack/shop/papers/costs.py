"""What a job costs: film, tape, blanks, and the time of cutter and hands at the shop's rates; and what to ask for it."""

from __future__ import annotations

from dataclasses import dataclass

from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.job import Job
from gladstack.shop.papers.pressing import schedule
from gladstack.shop.plan.planned import Plan, SheetPlan
from gladstack.shop.shelf.rates import Rates

WEED_PART_S = 4.0
"""Weeding a part, in seconds; and a piece of waste: the film's own and each hole's."""
WEED_WASTE_S = 3.0
HANDLE_S = 25.0
"""Laying a film down or lifting it, for each film and copy."""


@dataclass(frozen=True)
class CostLine:
    """One line: what for, how it comes about, and the amount."""

    what: str
    said: str
    amount: float


@dataclass(frozen=True)
class Costs:
    """All lines, their sum, and the price with the margin, for all decals and for each.

    `hand_min` are the minutes of hands that are counted, `model_min` what the model says of them. `alone` is the price of
    one decal that is made by itself, where several are.
    """

    lines: tuple[CostLine, ...]
    total: float
    price: float
    count: int
    hand_min: float
    model_min: float
    alone: float | None = None

    @property
    def each(self) -> float:
        """The price of one decal."""
        return self.price / max(1, self.count)


MODEL = (
    f"{WEED_PART_S:g} s a part, {WEED_WASTE_S:g} s a piece of waste, {HANDLE_S:g} s a film, and the time in the press with "
    "the waits for peeling"
)
"""The model of a maker's hands, in words."""


def weeding_s(sheet: SheetPlan) -> float:
    """How long a sheet takes to weed: so much for each part, and for each piece of waste."""
    holes = sum(len(p.outline.holes) for p in sheet.parts)
    return WEED_PART_S * len(sheet.parts) + WEED_WASTE_S * (holes + 1)


def assembling_s(plan: Plan) -> float:
    """How long all decals take to put together: their presses, and handling each film."""
    out = 0.0
    for design in plan.job.designs:
        films = plan.films_of(design.design)
        pressing = schedule([(f.said, f.material) for f in films], plan.job.pressing)
        out += design.copies * ((pressing.seconds if pressing else 0.0) + HANDLE_S * len(films))
    return out


def one_of(job: Job) -> Job | None:
    """A job of one design as it is if just one decal is made by itself; None where there is but one."""
    (first, *others) = job.designs
    if others or first.copies == 1:
        return None
    hands = None if job.hand_min is None else job.hand_min / first.copies
    return changed(job, designs=(changed(first, copies=1),), laid=(), hand_min=hands)


def costs_of(plan: Plan, rates: Rates, single: Plan | None = None) -> Costs:
    """What a plan costs at some rates; film as the ledger will have it: what is in parts, and what is cut off with it.

    `single` is the plan of one decal by itself.
    """
    film = sum(s.cost for s in plan.sheets)
    in_parts = sum(p.shape.area * s.material.cost_m2 / 1e6 for s in plan.sheets for p in s.parts)
    cut_min = sum(s.times.whole_s for s in plan.sheets) / 60
    model_min = (sum(map(weeding_s, plan.sheets)) + assembling_s(plan)) / 60
    hand_min = model_min if plan.job.hand_min is None else plan.job.hand_min
    count = sum(d.copies for d in plan.job.designs)
    tape_m2 = sum(_taped_m2(plan, d.design) * d.copies for d in plan.job.designs)
    lines = (
        CostLine("Film in the decals", "by their area", in_parts),
        CostLine("Film cut off with it", "weeded and waste", film - in_parts),
        CostLine("Transfer tape", f"{tape_m2 * 1e4:.0f} cm²", tape_m2 * rates.tape_m2),
        CostLine("What they go on", f"{count} ×", count * rates.blank),
        CostLine("Cutter", f"{cut_min:.0f} min", cut_min / 60 * rates.cutter_hour),
        CostLine("Hands", f"{hand_min:.0f} min", hand_min / 60 * rates.hand_hour),
    )
    total = sum(line.amount for line in lines)
    price = total * (1 + rates.margin_percent / 100)
    alone = costs_of(single, rates).price if single else None
    return Costs(tuple(line for line in lines if line.amount > 0), total, price, count, hand_min, model_min, alone)


def _taped_m2(plan: Plan, design: str) -> float:
    """How much tape a decal takes: one piece over all films that are lifted with it."""
    films = [f for f in plan.films_of(design) if f.material.method == "adhesive"]
    if not films:
        return 0.0
    left, top, right, bottom = films[0].frame
    return (right - left) * (bottom - top) / 1e6
