"""Stacks that do not show what was wanted: the invariant that the product stands on, checked in every design."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.core.base.tolerances import WRONG_AREA_RATIO
from gladstack.core.base.units import format_area
from gladstack.proof.check import StackCheck
from gladstack.proof.finding import Finding
from gladstack.recipe.build.built import Built
from gladstack.recipe.edit.edits import Edit


def _findings(built: Built) -> Iterator[Finding[Edit]]:
    measure = Measure(built.wrong_area_ratio, WRONG_AREA_RATIO)
    if measure.figure > measure.limit:
        said = f"The films differ from the wanted picture in {format_area(built.wrong_mm2, built.recipe.unit)}."
        yield Finding("wrong-area", said, "stop", measure=measure, helps="Move the art a little, and look again.")


CHECK = StackCheck(("wrong-area",), _findings, "stack", "what rounding can come to", when="laying")
