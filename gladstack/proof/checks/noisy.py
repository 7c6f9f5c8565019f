"""Pictures and line art that are made of dots rather than of areas."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding
from gladstack.recipe.art.given import LineFacts
from gladstack.recipe.edit.edits import Edit

_TEXT = "This picture is made of fine dots (dither, grain or noise), not of flat colours. They were smoothed into areas."
_HELPS = "Edges and small details are soft: a copy without dots gives cleaner films."


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    facts = read.pieces.facts
    lines = isinstance(facts, LineFacts) and facts.dotted
    if lines or (read.picture is not None and read.picture[2].noisy):
        yield Finding("noisy", _TEXT, helps=_HELPS)


CHECK = ArtCheck(("noisy",), _findings, "art")
