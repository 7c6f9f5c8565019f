"""Areas of a picture's background colour that other colours enclose: kept as a film, or dropped."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.core.base.units import rough_area
from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.edit.pictures import TreatBackground

_LEAST_MM2 = 1.0
"""Less is not worth a line."""


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.picture is None:
        return
    art, facts, seen = read.picture
    mm2 = seen.enclosed_mm2
    if facts.behind is None or mm2 < _LEAST_MM2 or seen.background == "keep":
        return
    measure = Measure(mm2, 0.0, "mm2")
    if seen.background == "outside":
        text = f"Enclosed areas of the background's colour {facts.behind} are kept as a film: {rough_area(mm2)}."
        fix = Fix("Drop them too", TreatBackground(art=art.id, background="drop"))
        yield Finding("enclosed-kept", text, measure=measure, fixes=(fix,))
    else:
        why = " so that the ground shows there" if art.separation.background == "auto" else ""
        text = f"Enclosed areas of the background's colour {facts.behind} are dropped{why}: {rough_area(mm2)}."
        fix = Fix("Keep them as a film", TreatBackground(art=art.id, background="outside"))
        yield Finding("enclosed-dropped", text, measure=measure, fixes=(fix,))


CHECK = ArtCheck(("enclosed-kept", "enclosed-dropped"), _findings, "palette", "the picture")
