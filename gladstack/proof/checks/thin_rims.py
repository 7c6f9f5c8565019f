"""Whole lines of a picture between other films that are too thin to weed with ease."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.edit.pictures import SetRims

_EASY_MM = 0.8


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.picture is None:
        return
    art, _, seen = read.picture
    thin = [(colour, mm) for colour, mm in seen.rims if mm < _EASY_MM]
    if not thin:
        return
    said = " and ".join(f"a line of {read.name_of(colour)}, about {mm:.1f} mm wide," for colour, mm in thin[:2])
    more = f" and {len(thin) - 2} more" if len(thin) > 2 else ""
    runs = "runs" if len(thin) == 1 else "run"
    text = f"{said[0].upper()}{said[1:]}{more} {runs} between other films."
    measure = Measure(min(mm for _, mm in thin), _EASY_MM, "mm")
    fix = Fix("Give it to its neighbours", SetRims(art=art.id, rims="all"))
    yield Finding("put-right-thin", text, measure=measure, helps="So thin a line is hard to weed and lay.", fixes=(fix,))


CHECK = ArtCheck(("put-right-thin",), _findings, "put-right", "what is weeded with ease")
