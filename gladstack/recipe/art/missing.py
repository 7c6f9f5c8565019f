"""What a picture has and no film shows, as the maker reads it: what is lost, and areas of the background's colour inside."""

from __future__ import annotations

from collections.abc import Collection

import numpy as np

from gladstack.core.base.colour import delta_e, from_hex, to_hex
from gladstack.core.base.findings import Finding, Fix, Measure, Place
from gladstack.core.base.plane import Box, Point
from gladstack.core.picture.lost import Kind, Lost
from gladstack.recipe.model.arts import Background

_HELPS = "Make their colour a film, bring in a larger copy of the picture, or set the words anew as lettering."
_KNOWN = 8.0
"""A film of a colour so near is there already: a further one would help nothing."""
_LEAST_ENCLOSED_MM2 = 1.0
_LEAST_MIND_MM2 = 0.5
"""Less than this could hardly be weeded if it were cut; it is told, but nobody need look at it first."""


def lost_told(lost: Lost, films: Collection[str], art: str, mm_per_px: float) -> list[Finding]:
    """A finding for each kind of thing that is in the picture and in none of its films, places in the art's own mm."""
    return [_lost(kind, films, art, mm_per_px) for kind in lost.kinds]


def _lost(kind: Kind, films: Collection[str], art: str, mm_per_px: float) -> Finding:
    colour = to_hex(kind.colour)
    mm2 = kind.pixels * mm_per_px**2
    what = "Words or lines here are" if kind.what == "thin" else "An area here is"
    many = f" in {len(kind.places)} places" if len(kind.places) > 1 else ""
    boxes = [tuple(v * mm_per_px for v in place.box) for place in kind.places]
    known = any(float(delta_e(np.array(from_hex(c)), np.array(kind.colour))) < _KNOWN for c in films)
    fixes = () if known else (Fix(f"Make {colour} a film", {"kind": "pick-colour", "art": art, "colour": colour}),)
    return Finding(
        "lost",
        f"{what} not in any film: {_area(mm2)} of about {colour}{many}.",
        "mind" if mm2 >= _LEAST_MIND_MM2 else "note",
        place=_place([(b[0], b[1], b[2], b[3]) for b in boxes]),
        measure=Measure(mm2, 0.0, "mm2"),
        helps=_HELPS if kind.what == "thin" else "Make its colour a film, or ask for one colour more.",
        fixes=fixes,
    )


def _area(mm2: float) -> str:
    return f"{mm2:.1f} mm²" if mm2 < 10 else f"{mm2:.0f} mm²"


def _place(boxes: list[Box]) -> Place:
    if len(boxes) == 1:
        return Place(box=boxes[0])
    left, top, right, bottom = boxes[0]
    return Place(at=((left + right) / 2, (top + bottom) / 2), outlines=tuple(_corners(box) for box in boxes))


def _corners(box: Box) -> tuple[Point, ...]:
    left, top, right, bottom = box
    return (left, top), (right, top), (right, bottom), (left, bottom)


def enclosed_told(mm2: float, colour: str | None, taken: Background, choice: Background, art: str) -> list[Finding]:
    """What became of areas of the background's colour that are enclosed, with the other choice."""
    if colour is None or mm2 < _LEAST_ENCLOSED_MM2 or taken == "keep":
        return []
    if taken == "outside":
        text = f"Enclosed areas of the background's colour {colour} are kept as a film: {_area(mm2)}."
        fix = Fix("Drop them too", {"kind": "treat-background", "art": art, "background": "drop"})
        return [Finding("enclosed-kept", text, "note", measure=Measure(mm2, 0.0, "mm2"), fixes=(fix,))]
    why = " so that the ground shows there" if choice == "auto" else ""
    text = f"Enclosed areas of the background's colour {colour} are dropped{why}: {_area(mm2)}."
    fix = Fix("Keep them as a film", {"kind": "treat-background", "art": art, "background": "outside"})
    return [Finding("enclosed-dropped", text, "note", measure=Measure(mm2, 0.0, "mm2"), fixes=(fix,))]
