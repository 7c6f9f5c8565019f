"""From films to sheets: each film laid on a sheet of its own, as its design chooses it."""

from __future__ import annotations

from dataclasses import dataclass

from gladstack.core.base.findings import Finding
from gladstack.core.base.plane import Box
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
from gladstack.core.proof.off_sheet import off_sheet
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
    unit = built.recipe.unit
    findings = tuple(
        f for s in sheets for f in off_sheet(s.layer.film, s.layer.name, _bounds(s.layer), s.sheet, s.placement, unit)
    )
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
