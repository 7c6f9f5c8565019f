"""Stacks that do not show what was wanted: the invariant that the product stands on, checked in every build."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base import tolerances
from gladstack.core.base.findings import Finding, Measure
from gladstack.core.base.units import Unit, format_area


def wrong_area(wrong_mm2: float, ratio: float, unit: Unit) -> Iterator[Finding]:
    """Tells if the painted cut shapes differ from the wanted picture by more than rounding; `ratio` is that to all films."""
    measure = Measure(ratio, tolerances.WRONG_AREA_RATIO)
    if measure.figure > measure.limit:
        said = f"The films differ from the wanted picture in {format_area(wrong_mm2, unit)}."
        yield Finding("wrong-area", said, "stop", measure=measure, helps="Move the art a little, and look again.")
