"""How many colours a picture was found to have, where that is not what was asked for, or more than is wanted."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.edit.pictures import CountColours

_MANY = 12
"""More films than this in one decal are seldom meant."""


def _fewer(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.picture is None:
        return
    art, facts, _ = read.picture
    asked = art.separation.count
    if asked is not None and art.separation.rest == "found" and len(facts.colours) < asked:
        found = f"Only {len(facts.colours)} different colours were found, though {asked} were asked for."
        yield Finding("fewer-colours", found, helps="Pick a colour that is missing from the picture.")


def _many(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.picture is None:
        return
    art, facts, _ = read.picture
    films = sum(info.role == "film" for info in facts.colours)
    if not facts.flat or art.separation.count is not None or films <= _MANY:
        return
    fix = Fix(f"The best {_MANY}", CountColours(art=art.id, count=_MANY))
    text = f"This picture has {films} flat colours, each a film of its own."
    measure = Measure(films, _MANY)
    yield Finding("many-films", text, measure=measure, helps="Ask for fewer; the nearest become one.", fixes=(fix,))


FEWER = ArtCheck(("fewer-colours",), _fewer, "palette")
MANY = ArtCheck(("many-films",), _many, "palette", "films that one decal is usually made of")
