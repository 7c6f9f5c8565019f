"""Vector files of several pages, of which one is taken."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.edit.arts import ChangeArts
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.values import changed

_MOST_OFFERED = 8


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.file is None or read.file[1].pages < 2:
        return
    art, facts = read.file
    others = [n for n in range(1, min(facts.pages, _MOST_OFFERED) + 1) if n != art.page]
    turn = tuple(Fix(f"Page {n}", ChangeArts(arts=(changed(art, page=n),))) for n in others)
    yield Finding("pages", f"This file has {facts.pages} pages. This is page {art.page}.", fixes=turn)


CHECK = ArtCheck(("pages",), _findings, "art")
