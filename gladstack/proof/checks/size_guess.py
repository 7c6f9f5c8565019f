"""Vector files that tell no real size, so that how large they are is a guess."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.art.vectors import PX_MM
from gladstack.recipe.edit.arts import ChangeArts
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.arts import VectorArt
from gladstack.recipe.model.values import changed

Readings = Sequence[tuple[str, str, str]]
_DPI: Readings = (
    ("96-dpi", "at 96 dpi", "96 dpi"), ("90-dpi", "at 90 dpi", "90 dpi"), ("72-dpi", "at 72 dpi", "72 dpi"),
    ("mm", "if its units are mm", "mm"),
)  # fmt: skip
_UNITS: Readings = (
    ("mm", "if its units are mm", "mm"), ("cm", "if they are cm", "cm"), ("in", "if they are inches", "inches"),
)  # fmt: skip
"""What files of lines are drawn in; those of pixels are read by how many of them are an inch."""


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.file is None:
        return
    art, facts = read.file
    # A size that was settled by hand is no guess.
    if facts.told or art.reading != "as-told" or art.place.scale_x != 1 or art.place.scale_y != 1:
        return
    readings = _UNITS if facts.bare_mm == 1.0 else _DPI
    bare = facts.width_mm / facts.bare_mm
    wide = [f"{bare * PX_MM[reading]:.1f} mm wide {when}" for reading, when, _ in readings]
    yield Finding(
        "size-guess",
        f"The file tells no real size. It is {', '.join(wide[:-1])}, or {wide[-1]}.",
        "mind",
        helps="Choose how it is to be read, or set its width.",
        fixes=tuple(_read_as(art, reading, name) for reading, _, name in readings),
    )


def _read_as(art: VectorArt, reading: str, name: str) -> Fix[Edit]:
    return Fix(f"Read as {name}", ChangeArts(arts=(changed(art, reading=reading),)))


CHECK = ArtCheck(("size-guess",), _findings, "art")
