"""Vector files that tell no real size, so that how large they are is a guess."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding
from gladstack.recipe.art.vectors import PX_MM
from gladstack.recipe.edit.edits import Edit


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.file is None:
        return
    art, facts = read.file
    if facts.told or art.reading != "as-told":
        return
    px = facts.width_mm / PX_MM["as-told"]
    wide = [f"{px * PX_MM[f'{dpi}-dpi']:.1f} mm at {dpi} dpi" for dpi in (96, 90, 72)]
    said = f"The file tells no real size. It is {', '.join(wide)}, or {px:.1f} mm wide if its units are mm."
    yield Finding("size-guess", said, "mind", helps="Choose how it is to be read, or set its width.")


CHECK = ArtCheck(("size-guess",), _findings, "art")
