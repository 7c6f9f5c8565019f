"""Lettering mirrored by hand: what the use turns round is turned by itself, and so these words read the wrong way."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.edit.arts import ChangeArts
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.arts import LetteringArt
from gladstack.recipe.model.values import changed


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    art = read.art
    if not isinstance(art, LetteringArt) or not art.place.mirrored or not art.text.strip():
        return
    words = " ".join(art.text.split())[:40]
    yield Finding(
        "words-mirrored",
        f"“{words}” is mirrored, and will read the wrong way round on the finished decal.",
        "mind",
        helps="Films are mirrored for the press and for glass by themselves: leave the words as they are read.",
        fixes=(Fix("Turn the words round", ChangeArts(arts=(changed(art, place=changed(art.place, mirrored=False)),))),),
    )


CHECK = ArtCheck(("words-mirrored",), _findings, "art")
