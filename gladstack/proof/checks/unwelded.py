"""Letters that overlap and are not welded, so that the blade cuts through them."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Whereabouts
from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.edit.arts import ChangeArts
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.arts import LetteringArt
from gladstack.recipe.model.values import changed


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.letters is None or (crossing := read.letters.crossing) is None or not isinstance(read.art, LetteringArt):
        return
    named = f"“{crossing.first}” and “{crossing.second}”"
    more = f" and {crossing.pairs - 1} other pairs" if crossing.pairs > 1 else ""
    said = f"{named}{more} overlap and are not welded: the blade cuts through them."
    fix = Fix("Weld the lettering", ChangeArts(arts=(changed(read.art, weld=True),)))
    yield Finding("unwelded", said, "stop", place=Whereabouts(box=crossing.box), helps="Weld the lettering.", fixes=(fix,))


CHECK = ArtCheck(("unwelded",), _findings, "art")
