"""A design on sheets of one given size, a film each: the plan of a design that no shop and no job is known of."""

from __future__ import annotations

from dataclasses import replace

from pydantic import model_validator

from gladstack.core.base.plane import Box
from gladstack.core.plan.marks import with_marks
from gladstack.recipe.build.built import Built, BuiltLayer, require_layers
from gladstack.recipe.model.uses import USES
from gladstack.recipe.model.values import Frozen, MarginMm, SheetMm, changed
from gladstack.shop.jobs.job import Job, JobDesign, JobFilm, Marks, Tiles, Weeding
from gladstack.shop.plan.plan import plan
from gladstack.shop.plan.planned import Plan, TooLarge
from gladstack.shop.shelf.cutters import Cutter
from gladstack.shop.shelf.materials import Material, any_film
from gladstack.shop.shelf.shelf import Shop
from gladstack.shop.shelf.stock import Piece

OWN = "own"
_MARKS = 3
_LARGEST_MM = 50_000.0
_CUTTER = Cutter(
    id="given", name="A cutter of any size", width_mm=_LARGEST_MM, length_mm=_LARGEST_MM, side_margin_mm=0.0,
    end_margin_mm=0.0, most_nodes=10_000_000,
)  # fmt: skip


class GivenSheet(Frozen):
    """The size of every sheet, and the margin kept on it."""

    width_mm: SheetMm = 305.0
    height_mm: SheetMm = 305.0
    margin_mm: MarginMm = 6.0

    @model_validator(mode="after")
    def _has_room(self) -> GivenSheet:
        if 2 * self.margin_mm >= min(self.width_mm, self.height_mm):
            raise ValueError(f"margins of {self.margin_mm:g} mm leave nothing of the sheet; make them smaller")
        return self


def plan_on_sheets(built: Built, sheet: GivenSheet, *, marks: bool = False) -> Plan:
    """Each film on a sheet of its own, never turned; with `marks` all in register, else each where it takes least.

    What is larger than its sheet is laid on a larger one; the plan names it. Raises RecipeError if there is nothing to cut.
    """
    require_layers(built)
    films = [layer for layer in built.layers if not layer.cut.is_empty]
    materials = tuple(_material(built, layer, sheet, k) for k, layer in enumerate(films))
    boxes = [with_marks(built.frame, _MARKS, inside=False) if marks else layer.cut.bounds for layer in films]
    pieces = tuple(_piece(m, sheet, box) for m, box in zip(materials, boxes, strict=True))
    name = built.recipe.name
    job = Job(
        name=name, designs=(JobDesign(design=OWN, name=name),), cutter=_CUTTER.id, layout="register" if marks else "whole",
        films=tuple(
            JobFilm(design=OWN, film=layer.film, material=m.id) for layer, m in zip(films, materials, strict=True)
        ),
        weeding=Weeding(box="none"), marks=Marks(count=_MARKS if marks else 0), tiles=Tiles(divide=False),
    )  # fmt: skip
    made = plan(job, {OWN: built}, Shop(materials, (_CUTTER,), pieces))
    slugs = {layer.film: layer.slug for layer in films}
    sheets = tuple(replace(s, file=f"sheets/{slugs[s.parts[0].bit.film.film]}.svg") for s in made.sheets)
    found = [_too_large(layer, box, sheet) for layer, box in zip(films, boxes, strict=True)]
    return replace(made, sheets=sheets, too_large=tuple(one for one in found if one is not None))


def _material(built: Built, layer: BuiltLayer, sheet: GivenSheet, nth: int) -> Material:
    method = USES[built.recipe.use_of(layer.film)].method
    return changed(any_film(layer.colour, method, sheet.margin_mm), id=f"given-{nth}", grain="none")


def _piece(material: Material, sheet: GivenSheet, box: Box) -> Piece:
    around = 2 * sheet.margin_mm
    width, height = box[2] - box[0] + around, box[3] - box[1] + around
    return Piece(
        id=f"sheet-of-{material.id}", material=material.id, kind="sheet", left=1.0,
        length_mm=min(_LARGEST_MM, max(sheet.width_mm, width)), width_mm=min(_LARGEST_MM, max(sheet.height_mm, height)),
    )  # fmt: skip


def excess(box: Box, sheet: GivenSheet) -> tuple[float, float]:
    """How much too wide and too high a box is for a sheet's room, in mm; 0 where it fits."""
    around = 2 * sheet.margin_mm
    wide, high = box[2] - box[0] + around - sheet.width_mm, box[3] - box[1] + around - sheet.height_mm
    return max(0.0, round(wide, 3)), max(0.0, round(high, 3))


def _too_large(layer: BuiltLayer, box: Box, sheet: GivenSheet) -> TooLarge | None:
    """A film that does not fit between the margins of its sheet."""
    wide, high = excess(box, sheet)
    if not (wide or high):
        return None
    turned = GivenSheet(width_mm=sheet.height_mm, height_mm=sheet.width_mm, margin_mm=sheet.margin_mm)
    used, of = (box[2] - box[0], sheet.width_mm) if wide >= high else (box[3] - box[1], sheet.height_mm)
    return TooLarge(
        layer.film, layer.name, layer.cut.bounds, wide, high, (sheet.width_mm, sheet.height_mm), used,
        of - 2 * sheet.margin_mm, not any(excess(box, turned)),
    )  # fmt: skip
