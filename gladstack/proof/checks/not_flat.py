"""Pictures that are not made of flat colours, so that each film is a guess."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.edit.pictures import CountColours

_POSTERS = (3, 4, 6)


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.picture is None:
        return
    art, facts, seen = read.picture
    if facts.flat or seen.noisy:
        return
    what = "This looks like a photograph, and is" if seen.kind == "photograph" else "This picture is"
    said = f"{what} not made of flat colours: only {seen.explained:.0%} of it lies near a plain colour."
    fixes = tuple(Fix(f"A poster of {count} tones", CountColours(art=art.id, count=count)) for count in _POSTERS)
    text = f"{said} It was grouped into films."
    yield Finding("not-flat", text, helps="Choose how many films to spend on it.", fixes=fixes)


CHECK = ArtCheck(("not-flat",), _findings, "palette")
