"""What a picture has and no film of it shows: words, lines and areas."""

from __future__ import annotations

from collections.abc import Collection, Iterator

import numpy as np

from gladstack.core.base.colour import delta_e, from_hex, to_hex
from gladstack.core.base.findings import Measure, Whereabouts
from gladstack.core.base.plane import Box
from gladstack.core.base.units import rough_area
from gladstack.core.picture.lost import Kind
from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.proof.places import corners, laid
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.edit.pictures import PickColour
from gladstack.recipe.model.arts import PictureArt

_HELPS = "Make their colour a film, bring in a larger copy of the picture, or set the words again as lettering."
_KNOWN = 8.0
"""A film of a colour so near (delta-E) is there already: a further one would help nothing."""
_LEAST_MIND_MM2 = 0.5
"""Less than this could hardly be weeded if it were cut, and as a film would hold nothing but specks: it is told, but nobody
need look at it first.
"""


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.picture is None:
        return
    art, facts, seen = read.picture
    if art.separation.rest != "found":
        return
    films = {info.colour for info in facts.colours if info.role == "film"}
    for kind in seen.lost:
        yield _lost(kind, films, art, seen.mm_per_px)


def _lost(kind: Kind, films: Collection[str], art: PictureArt, mm_per_px: float) -> Finding[Edit]:
    colour = to_hex(kind.colour)
    mm2 = kind.pixels * mm_per_px**2
    what = "Words or lines here are" if kind.what == "thin" else "An area here is"
    many = f" in {len(kind.places)} places" if len(kind.places) > 1 else ""
    known = any(float(delta_e(np.array(from_hex(c)), np.array(kind.colour))) < _KNOWN for c in films)
    boxes = [tuple(v * mm_per_px for v in place.box) for place in kind.places]
    return Finding(
        "lost",
        f"{what} not in any film: {rough_area(mm2)} of about {colour}{many}.",
        "mind" if mm2 >= _LEAST_MIND_MM2 else "note",
        place=laid(_place([(b[0], b[1], b[2], b[3]) for b in boxes]), art.place.matrix),
        measure=Measure(mm2, 0.0, "mm2"),
        helps=_helps(kind, mm2),
        fixes=()
        if known or mm2 < _LEAST_MIND_MM2
        else (Fix(f"Make {colour} a film", PickColour(art=art.id, colour=colour)),),
    )


def _helps(kind: Kind, mm2: float) -> str:
    if mm2 < _LEAST_MIND_MM2:
        return "Bring in a larger copy of the picture" + (
            ", or set the words again as lettering." if kind.what == "thin" else "."
        )
    return _HELPS if kind.what == "thin" else "Make its colour a film, or ask for one colour more."


def _place(boxes: list[Box]) -> Whereabouts:
    if len(boxes) == 1:
        return Whereabouts(box=boxes[0])
    left, top, right, bottom = boxes[0]
    return Whereabouts(at=((left + right) / 2, (top + bottom) / 2), outlines=tuple(corners(box) for box in boxes))


CHECK = ArtCheck(("lost",), _findings, "art", "the picture")
