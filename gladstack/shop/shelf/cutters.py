"""Cutters: what each can cut, and how."""

from __future__ import annotations

from typing import Annotated, Literal, get_args

from pydantic import Field, model_validator

from gladstack.core.plan.blade import Blade as Profile
from gladstack.core.plan.marks import MarkKind
from gladstack.recipe.model.values import Frozen, Id, MarginMm, Name, SheetMm
from gladstack.shop.shelf.formats import Format
from gladstack.shop.shelf.materials import Material

MARKS: tuple[MarkKind, ...] = get_args(MarkKind)

Speed = Annotated[float, Field(ge=1.0, le=2000.0, allow_inf_nan=False)]


class Cutter(Frozen):
    """A cutter's profile: how wide and how far it cuts, the margins its rollers need, and what its files and blade bear.

    No file of it has more than `most_nodes` nodes. One that takes a mat cuts no longer than that.
    `reads_marks` are the registration marks it finds by itself, `takes` the files it is given.
    """

    id: Id
    name: Name
    width_mm: SheetMm = 300.0
    length_mm: SheetMm = 3000.0
    side_margin_mm: MarginMm = 4.0
    end_margin_mm: MarginMm = 8.0
    feed: Literal["roll", "mat"] = "roll"
    speed_mm_s: Speed = 120.0
    acceleration_mm_s2: Annotated[float, Field(ge=10.0, le=50_000.0, allow_inf_nan=False)] = 900.0
    lift_s: Annotated[float, Field(ge=0.0, le=5.0, allow_inf_nan=False)] = 0.15
    force_from_g: Annotated[int, Field(ge=1, le=2000)] = 20
    force_to_g: Annotated[int, Field(ge=1, le=2000)] = 350
    most_nodes: Annotated[int, Field(ge=100, le=10_000_000)] = 120_000
    blade_offset_mm: Annotated[float, Field(ge=0.0, le=2.0)] = 0.25
    overcut_mm: Annotated[float, Field(ge=0.0, le=5.0)] = 0.6
    reads_marks: Annotated[tuple[MarkKind, ...], Field(max_length=4)] = MARKS
    takes: Annotated[tuple[Format, ...], Field(max_length=len(Format))] = tuple(Format)
    simulated: bool = False
    retired: bool = False

    @model_validator(mode="after")
    def _makes_sense(self) -> Cutter:
        if self.force_from_g > self.force_to_g:
            raise ValueError("the least force is greater than the most; give a smaller one first")
        if 2 * self.side_margin_mm >= self.width_mm or 2 * self.end_margin_mm >= self.length_mm:
            raise ValueError("the margins leave nothing to cut; make them smaller")
        return self

    def blade(self, material: Material) -> Profile:
        """How it moves with a material's blade: no faster than either bears."""
        return Profile(self.speed_for(material), self.acceleration_mm_s2, self.lift_s)

    def speed_for(self, material: Material) -> float:
        """How fast it cuts a material, mm/s: as its blade is to go, and no faster than the cutter can."""
        return min(self.speed_mm_s, material.blade.speed_mm_s)

    def force_for(self, material: Material) -> int:
        """How hard it presses on a material, in grams: as its blade needs it, as far as the cutter can."""
        return min(max(material.blade.force_g, self.force_from_g), self.force_to_g)


NARROW = Cutter(id="table-300", name="Table cutter, 300 mm", simulated=True)
WIDE = Cutter(
    id="bench-600", name="Bench cutter, 600 mm", width_mm=600.0, length_mm=8000.0, side_margin_mm=8.0, end_margin_mm=20.0,
    speed_mm_s=400.0, acceleration_mm_s2=2500.0, lift_s=0.08, force_to_g=500, most_nodes=1_000_000,
)  # fmt: skip
CUTTERS = (NARROW, WIDE)
