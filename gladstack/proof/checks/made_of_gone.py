"""Art and films that were to follow something which is no longer there."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.proof.check import StackCheck, StackRead
from gladstack.proof.finding import Finding
from gladstack.recipe.edit.edits import Edit


def _inside(read: StackRead) -> Iterator[Finding[Edit]]:
    for art, ref in read.built.lost_bounds:
        said = f"It was to be kept inside {ref}, which is no longer there: all of it stays."
        yield Finding("inside-lost", said, "mind", art, helps="Choose again what it is kept inside of.")


def _made(read: StackRead) -> Iterator[Finding[Edit]]:
    for film, name in read.built.emptied:
        said = f"{name} is made of what is no longer there."
        yield Finding("nothing-made", said, "mind", film, helps="Choose its source.")


INSIDE = StackCheck(("inside-lost",), _inside, "stack", when="source")
MADE = StackCheck(("nothing-made",), _made, "stack", when="source")
