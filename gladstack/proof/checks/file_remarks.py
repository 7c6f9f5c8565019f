"""What the reader of a vector file had to leave out or to guess, with the choices that the art has about it."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.drawing.tints import Tints
from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.edit.arts import ChangeArts
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.values import changed

_LEFT_OUT = ("open", "numbers", "picture", "text", "outside", "veil", "pdf-letters", "pdf-patterns", "pdf-shadings", "kinds")
"""What was left out is worth a look before cutting; the rest is good to know."""
_TINTS: dict[str, dict[Tints, str]] = {
    "veil": {"mixed": "Mix it with the colour under it"},
    "see-through": {"solid": "Treat it as solid", "mixed": "Mix it with the colours under it"},
}
"""What can be done about colours that are seen through, by what was remarked."""
_CODES = (*_LEFT_OUT, "pdf-hidden", "see-through", "gradient", "pattern", "pens", "sheet", "mask", "filter", "twice", "both")


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.file is None:
        return
    art, facts = read.file
    for remark in facts.remarks:
        fixes = tuple(
            Fix(label, ChangeArts(arts=(changed(art, tints=tints),)))
            for tints, label in _TINTS.get(remark.code, {}).items()
            if tints != art.tints
        )
        yield Finding(remark.code, remark.text, "mind" if remark.code in _LEFT_OUT else "note", fixes=fixes)


CHECK = ArtCheck(_CODES, _findings, "art")
