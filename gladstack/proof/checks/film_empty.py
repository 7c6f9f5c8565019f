"""Colours of a picture that only occur in specks."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding
from gladstack.recipe.edit.edits import Edit


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.picture is None:
        return
    for info in read.picture[1].colours:
        if info.role == "empty":
            yield Finding("film-empty", f"{info.colour} only occurs in specks, so it has no film.")


CHECK = ArtCheck(("film-empty",), _findings, "palette")
