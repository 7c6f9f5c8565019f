"""Films of which nothing is left to cut."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Whereabouts
from gladstack.proof.check import FilmCheck, FilmRead
from gladstack.proof.finding import Finding
from gladstack.recipe.edit.edits import Edit


def _findings(read: FilmRead) -> Iterator[Finding[Edit]]:
    layer = read.layer
    if not layer.cut.is_empty:
        return
    said = f"Nothing of {layer.name} is left to cut: its joints take all of it."
    place = Whereabouts(box=layer.shape.bounds)
    yield Finding("nothing-left", said, "stop", place=place, helps="Give it another joint or place.")


CHECK = FilmCheck(("nothing-left",), _findings, "sheets", when="blade")
