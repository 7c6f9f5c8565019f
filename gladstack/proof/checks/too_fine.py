"""What is finer than any cutter's step, and was left out of what is cut."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Whereabouts
from gladstack.core.base.tolerances import RESOLVED_MM
from gladstack.proof.check import FilmCheck, FilmRead
from gladstack.proof.finding import Finding
from gladstack.recipe.edit.edits import Edit


def _findings(read: FilmRead) -> Iterator[Finding[Edit]]:
    dropped = read.layer.dropped
    if not dropped:
        return
    many, were = (f"{len(dropped)} pieces or holes", "were") if len(dropped) > 1 else ("One piece or hole", "was")
    said = f"{many} of {read.layer.name} finer than a cutter's step ({RESOLVED_MM:g} mm) {were} left out."
    yield Finding("too-fine", said, place=Whereabouts(box=dropped[0]))


CHECK = FilmCheck(("too-fine",), _findings, "stack", "the step of any cutter")
