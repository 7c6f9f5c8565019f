"""Stacks that do not show what was wanted: the invariant that the product stands on, checked in every design."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.core.base.tolerances import WRONG_AREA_RATIO
from gladstack.core.base.units import format_area
from gladstack.proof.check import StackCheck, StackRead
from gladstack.proof.finding import Finding
from gladstack.recipe.build.measured import wrong_area_ratio, wrong_mm2
from gladstack.recipe.edit.edits import Edit


def _findings(read: StackRead) -> Iterator[Finding[Edit]]:
    measure = Measure(wrong_area_ratio(read.built, read.stages), WRONG_AREA_RATIO)
    if measure.figure > measure.limit:
        area = format_area(wrong_mm2(read.built, read.stages), read.built.recipe.unit)
        said = f"The films differ from the wanted picture in {area}."
        yield Finding("wrong-area", said, "stop", measure=measure, helps="Move the art a little, and look again.")


CHECK = StackCheck(("wrong-area",), _findings, "stack", "what rounding can come to", when="laying")
