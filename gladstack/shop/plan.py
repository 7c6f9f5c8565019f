"""From films to sheets: each film laid on a sheet of its own, as its design chooses it."""

from __future__ import annotations

from dataclasses import dataclass

from gladstack.core.base.findings import Finding, Fix, Measure, Place
from gladstack.core.base.plane import Box
from gladstack.core.base.units import format_length
from gladstack.core.geometry.curves import Chain, transform_chain
from gladstack.core.geometry.outlines import Outline, Part
from gladstack.core.plan.blade import cutting_seconds
from gladstack.core.plan.placement import (
    Placement,
    Sheet,
    place_on_sheet,
    put_on_sheet,
    registration_marks,
    with_marks,
)
from gladstack.recipe.build.built import Built, BuiltLayer
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Keyed, Memo


@dataclass(frozen=True)
class SheetPlan:
    """A film on its sheet: the sheet, where the film lies on it, the name of its file, and the seconds at the blade."""

    layer: BuiltLayer
    sheet: Sheet
    placement: Placement
    file: str
    seconds: float

    @property
    def parts(self) -> tuple[Part, ...]:
        """The film's parts where they lie on the sheet."""
        return tuple(
            Part(transform_chain(part.shell, self.placement.matrix), put_on_sheet(part.holes, self.placement))
            for part in self.layer.outline.parts
        )


@dataclass(frozen=True)
class Plan:
    """All sheets of a design, from the ground up, its registration marks on the stack, and what is told of the sheets."""

    built: Built
    sheets: tuple[SheetPlan, ...]
    marks: tuple[Chain, ...]
    findings: tuple[Finding, ...]

    @property
    def cut(self) -> list[SheetPlan]:
        """The sheets that there is something to cut on."""
        return [s for s in self.sheets if not s.layer.cut.is_empty]


def plan(built: Built, memo: Memo | None = None) -> Plan:
    """Each film on a sheet of its own; the same films always give the same plan."""
    stages = Stages(memo or Memo())
    marked = built.recipe.marks
    sheets = []
    for layer in built.layers:
        sheet = _sheet_of(built.recipe, layer.film)
        place = place_on_sheet(with_marks(built.frame) if marked else _bounds(layer), sheet)
        seconds = stages.run("sheets", outline_seconds, Keyed.made(layer.key, layer.outline)).value
        sheets.append(SheetPlan(layer, sheet, place, f"sheets/{layer.slug}.svg", seconds))
    marks = registration_marks(built.frame) if marked else ()
    findings = tuple(f for s in sheets for f in _off_sheet(s, built.recipe))
    return Plan(built, tuple(sheets), marks, findings)


def outline_seconds(outline: Outline) -> float:
    """How long a blade takes for an outline."""
    return cutting_seconds(outline.rings)


def _sheet_of(recipe: Recipe, film: str) -> Sheet:
    choice = recipe.film(film)
    sheet = choice.sheet or recipe.sheet
    return Sheet(choice.method or recipe.method, sheet.width_mm, sheet.height_mm, sheet.margin_mm)


def _bounds(layer: BuiltLayer) -> Box:
    return (0.0, 0.0, 0.0, 0.0) if layer.cut.is_empty else layer.cut.bounds


def _off_sheet(planned: SheetPlan, recipe: Recipe) -> list[Finding]:
    """Tells of a film that is larger than its sheet."""
    layer, place, sheet = planned.layer, planned.placement, planned.sheet
    if place.fits:
        return []
    over = [
        f"{format_length(mm, recipe.unit)} too {word}"
        for mm, word in ((place.over_width_mm, "wide"), (place.over_height_mm, "high"))
        if mm > 0
    ]
    room = f"{format_length(sheet.width_mm, recipe.unit)} × {format_length(sheet.height_mm, recipe.unit)}"
    said = f"{layer.name} does not fit its {room} sheet: {' and '.join(over)}."
    helps = "Take a larger sheet, or make the design smaller."
    fixes: tuple[Fix, ...] = ()
    if place.fits_turned:
        turned = {"width_mm": sheet.height_mm, "height_mm": sheet.width_mm, "margin_mm": sheet.margin_mm}
        helps = "It would fit with the sheet laid the other way round."
        fixes = (Fix("Lay the sheet the other way round", {"kind": "set-sheet", "film": layer.film, "sheet": turned}),)
    wide = place.over_width_mm >= place.over_height_mm
    used, room_mm = (place.width_mm, sheet.width_mm) if wide else (place.height_mm, sheet.height_mm)
    measure = Measure(used, room_mm - 2 * sheet.margin_mm, "mm")
    box = _bounds(layer)
    return [Finding("off-sheet", said, "stop", layer.film, Place(box=box), measure, helps, fixes)]
