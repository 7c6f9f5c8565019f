"""What is finer than any cutter's step, and was left out of what is cut."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from gladstack.core.base.findings import Finding, Place
from gladstack.core.base.plane import Box
from gladstack.core.base.tolerances import RESOLVED_MM


def too_fine(film: str, name: str, dropped: Sequence[Box]) -> Iterator[Finding]:
    """Tells of pieces and holes of a film that were left out, and where the largest was."""
    if not dropped:
        return
    many, were = (f"{len(dropped)} pieces or holes", "were") if len(dropped) > 1 else ("One piece or hole", "was")
    said = f"{many} of {name} finer than a cutter's step ({RESOLVED_MM:g} mm) {were} left out."
    yield Finding("too-fine", said, "note", film, Place(box=dropped[0]))
