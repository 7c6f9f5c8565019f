"""Slivers between the shapes of a vector file, which were left out."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding
from gladstack.recipe.art.vectors import SLIVER_MM2
from gladstack.recipe.edit.edits import Edit


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.file is None or (count := read.file[1].slivers) == 0:
        return
    said = f"{count} slivers of less than {SLIVER_MM2:g} mm² were left out." if count > 1 else "A sliver was left out."
    yield Finding("slivers", said)


CHECK = ArtCheck(("slivers",), _findings, "art", "what is left between shapes that were meant to meet")
