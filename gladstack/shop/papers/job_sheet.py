"""The job sheet: all that a maker needs at the press and the bench, worked out from a plan; shown and printed alike."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import shapely

from gladstack.core.base.findings import Told
from gladstack.core.base.plane import Box
from gladstack.core.base.units import Unit, format_length
from gladstack.core.geometry.curves import Chain
from gladstack.core.geometry.outlines import Part
from gladstack.recipe.build.built import Built
from gladstack.recipe.model.uses import USES
from gladstack.shop.jobs.job import JobDesign, Order
from gladstack.shop.papers.costs import Costs, assembling_s, costs_of, weeding_s
from gladstack.shop.papers.numbers import EASY_TO_LOSE_MM2, MapNumber, PartKey, numbered, on_map, ranges
from gladstack.shop.papers.steps import Work, lying, work
from gladstack.shop.plan.furnish import box_chain
from gladstack.shop.plan.planned import Plan, SheetPlan
from gladstack.shop.shelf.rates import Rates

_FROM: dict[str, tuple[str, float]] = {
    "shirt": ("below the collar", 75.0),
    "mug": ("from the handle", 45.0),
    "window": ("from the lower edge", 150.0),
    "wood": ("from the lower edge", 40.0),
}
"""Where a decal goes on a ground that is known."""


@dataclass(frozen=True)
class SheetEntry:
    """A sheet as it lies on film: what to load, what to dial in, and what is on it. Lengths in mm."""

    number: int
    name: str
    material: str
    colour: str
    mirrored: bool
    face_down: bool
    on_mat: bool
    piece: str
    width_mm: float
    length_mm: float
    used_mm: float
    force_g: int
    speed_mm_s: float
    passes: int
    angle_deg: int
    offset_mm: float
    parts: int
    small: int
    cut_s: float
    weed_s: float
    cost: float
    outlines: tuple[Chain, ...]
    lines: tuple[Chain, ...]
    numbers: tuple[MapNumber, ...]


@dataclass(frozen=True)
class StackFilm:
    """A film of a stack, from the ground up: its name, colour, material and the sheets it lies on."""

    name: str
    colour: str
    material: str
    sheets: tuple[int, ...]
    parts: tuple[Part, ...]
    pressed: bool


@dataclass(frozen=True)
class SmallPart:
    """A part that is easily lost, at its true size: of which film, its outline, its box."""

    film: str
    colour: str
    outline: Part
    box: Box
    number: int | None


@dataclass(frozen=True)
class Assembly:
    """How one design goes together, and where it goes if that is known (`place`); `through`: it is laid from behind."""

    design: str
    name: str
    copies: int
    frame: Box
    ground: str
    films: tuple[StackFilm, ...]
    work: Work
    place: str
    from_mm: float
    small: tuple[SmallPart, ...]
    numbers: tuple[MapNumber, ...]
    through: bool


@dataclass(frozen=True)
class JobSheet:
    """All of it; `order` says for whom it is, in lines."""

    name: str
    order: tuple[str, ...]
    unit: Unit
    sheets: tuple[SheetEntry, ...]
    designs: tuple[Assembly, ...]
    used: tuple[tuple[str, float, float], ...]
    cost: float
    cut_s: float
    weed_s: float
    press_s: float
    price: str
    notes: tuple[str, ...]
    ticks: tuple[str, ...]


def job_sheet(plan: Plan, designs: Mapping[str, Built], told: Sequence[Told], rates: Rates | None = None) -> JobSheet:
    """The job sheet of a plan, with what is `told` of it; with the price at some `rates`, if the job wants that."""
    unit = next(iter(designs.values())).recipe.unit
    numbers = numbered(plan, [d.design for d in plan.job.designs])
    entries = tuple(_entry(s, numbers) for s in plan.sheets)
    groups: dict[str, list[JobDesign]] = {}
    for d in plan.job.designs:
        groups.setdefault(d.source, []).append(d)
    made = [_assembly(plan, own, designs[own[0].design]) for own in groups.values()]
    used: dict[str, tuple[float, float]] = {}
    for s in plan.sheets:
        length, area = used.get(s.material.name, (0.0, 0.0))
        used[s.material.name] = length + s.length_used_mm, area + s.length_used_mm * s.width_mm
    ticks = tuple(f"{d.name}{f' {k + 1}' if d.copies > 1 else ''}" for d in plan.job.designs for k in range(d.copies))
    return JobSheet(
        plan.job.name, tuple(_order(plan.job.order)), unit, entries, tuple(made),
        tuple((n, length, area) for n, (length, area) in used.items()),
        sum(s.cost for s in plan.sheets), sum(e.cut_s for e in entries), sum(e.weed_s for e in entries), assembling_s(plan),
        _price(costs_of(plan, rates), rates) if plan.job.priced and rates else "",
        tuple(f"{f.text} {f.helps}".strip() for f in told), ticks if len(ticks) > 1 else (),
    )  # fmt: skip


def _price(costs: Costs, rates: Rates) -> str:
    each = f", {costs.each:.2f} {rates.currency} each" if costs.count > 1 else ""
    return f"Price: {costs.price:.2f} {rates.currency} for {costs.count}{each}".replace("  ", " ").replace(" ,", ",")


def _order(order: Order) -> list[str]:
    due = [f"wanted by {order.due.day} {order.due:%B %Y}"] if order.due else []
    whom = [f"For {order.whom}"] if order.whom else []
    said = ", ".join([*whom, *due])
    return [line for line in (said[:1].upper() + said[1:], order.note) if line]


def _entry(sheet: SheetPlan, numbers: Mapping[PartKey, int]) -> SheetEntry:
    blade, cutter = sheet.material.blade, sheet.cutter
    furniture = sheet.furniture
    return SheetEntry(
        sheet.number, sheet.name, sheet.material.name, sheet.material.colour, sheet.mirrored, sheet.face_down,
        cutter.feed == "mat", sheet.piece.kind, sheet.width_mm, sheet.length_mm, sheet.length_used_mm,
        cutter.force_for(sheet.material), cutter.speed_for(sheet.material),
        blade.passes, blade.angle_deg, blade.offset_mm, len(sheet.parts),
        sum(p.shape.area < EASY_TO_LOSE_MM2 for p in sheet.parts), sheet.times.whole_s,
        weeding_s(sheet), sheet.cost,
        tuple(c for p in sheet.parts for c in (p.outline.shell, *p.outline.holes)),
        (*(box_chain(b) for b in furniture.boxes), *furniture.marks, *furniture.slug, *sheet.drawn),
        tuple(
            MapNumber(n, p.shape.bounds[2], (p.shape.bounds[1] + p.shape.bounds[3]) / 2)
            for p in sheet.parts
            if (n := numbers.get((p.bit.film.design, p.bit.film.film, p.bit.part))) is not None
        ),
    )  # fmt: skip


def _assembly(plan: Plan, entries: Sequence[JobDesign], built: Built) -> Assembly:
    """How a design goes together; the entries of a list of names are all put together like the first of them."""
    design = entries[0]
    own = {d.design for d in entries}
    films = plan.films_of(design.design)
    kind = built.recipe.ground.kind
    ground = kind if kind != "table" else "shirt" if any(f.material.method == "heat-transfer" for f in films) else "table"
    known = ground in _FROM
    place, default = _FROM.get(ground, ("from the edge", 0.0))
    numbers = numbered(plan, sorted(own))
    on_sheets: dict[str, list[int]] = {}
    for sheet in plan.sheets:
        for film in {p.bit.film.film for p in sheet.parts if p.bit.film.design in own}:
            on_sheets.setdefault(film, []).append(sheet.number)
    stack = tuple(
        StackFilm(
            f.said, f.material.colour, f.material.name,
            tuple(on_sheets.get(f.film, ())),
            f.cutting.outline.parts, f.material.method == "heat-transfer",
        )
        for f in films
    )  # fmt: skip
    small = tuple(
        SmallPart(f.said, f.material.colour, part, shape.bounds, numbers.get((f.design, f.film, k)))
        for f in (f for f in plan.films if f.design in own)
        for k, (part, shape) in enumerate(zip(f.cutting.outline.parts, f.cutting.shape.geoms, strict=True))
        if shape.area < EASY_TO_LOSE_MM2
    )
    from_mm = plan.job.place_mm if plan.job.place_mm is not None else default
    return Assembly(
        design.source, design.name if len(entries) == 1 else built.recipe.name, sum(d.copies for d in entries),
        films[0].frame if films else built.frame, ground, stack,
        work(films, plan.job, built.recipe.unit, lying(plan), ranges(films, numbers)),
        place if known or from_mm else "", from_mm, small,
        on_map(films, numbers), USES[built.recipe.use].seen_through,
    )  # fmt: skip


def lost_easily(small: Sequence[SmallPart]) -> str:
    """What is easy to lose, in words."""
    if not small:
        return ""
    least = min(math.sqrt(shapely.box(*p.box).area) for p in small)
    return f"{len(small)} small part{'s' if len(small) > 1 else ''}, the smallest about {least:.1f} mm across"


def minutes(seconds: float) -> str:
    """A time for planning one's work."""
    return "less than a minute" if seconds < 45 else f"{max(1, round(seconds / 60))} min"


def size_of(assembly: Assembly, unit: Unit) -> str:
    """How large a decal is."""
    left, top, right, bottom = assembly.frame
    return f"{format_length(right - left, unit)} × {format_length(bottom - top, unit)}"
