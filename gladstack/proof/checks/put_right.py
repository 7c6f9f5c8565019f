"""What was put right in a picture before its colours were found, with what takes it back."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import get_args

from gladstack.core.base.colour import to_hex
from gladstack.core.picture.tidy import Done, Kind
from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.edit.makings import AddMaking
from gladstack.recipe.edit.pictures import PutRight
from gladstack.recipe.model.arts import NEW
from gladstack.recipe.model.makings import DropShadow, OutlineShadow

_HELP: dict[Kind, str] = {
    "dither": "The picture was made of dots of a few colours; the dots were made into the colours they stand for.",
    "halftone": "The picture was printed in dots; they were made into the tones they stand for.",
    "light": "This looks like a photograph of a print. Its light was evened, so that one ink stays one colour.",
    "shadow": "A cutter cannot cut a soft shadow. A drop shadow of film can stand in for it.",
    "glow": "A cutter cannot cut a glow. An outline of film can stand in for it.",
    "grade": "The background goes from one colour to another. It is dropped whole, so that no film is spent on it.",
    "rims": "A line so thin that the picture hardly shows it was given to the colours on its sides. An outline of film can "
    "stand in for it.",
    "fills": "Areas that go from one colour to another are cut from one film each, or in bands.",
}
_LEAST_MM = 0.5


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.picture is None:
        return
    art, facts, seen = read.picture
    for done in facts.done:
        fixes = tuple(_fixes(done, art.id, seen.mm_per_px))
        yield Finding(f"put-right-{done.kind}", _line(done, art.separation.bands), helps=_HELP[done.kind], fixes=fixes)


def _line(done: Done, bands: int) -> str:
    if done.kind == "fills":
        many = "1 graded fill" if done.count == 1 else f"{done.count} graded fills"
        each = "" if done.count == 1 else " each"
        return f"{many} made one colour{each}." if bands == 1 else f"{many} made {bands} bands{each}."
    return {
        "dither": "Dither undone.",
        "halftone": "Printed dots made into plain tones.",
        "light": "Uneven light evened.",
        "shadow": "Soft shadow taken off.",
        "glow": "Glow taken off.",
        "grade": "Background with a grade dropped.",
        "rims": "Thin rims given to their neighbours.",
    }[done.kind]


def _fixes(done: Done, art: str, mm_per_px: float) -> Iterator[Fix[Edit]]:
    yield Fix("Leave it as it came", PutRight(art=art, what=done.kind, done=False))
    if done.kind == "rims":
        thin = OutlineShadow(id=NEW, film=NEW, of=(art,), mm=max(_LEAST_MM, round(mm_per_px, 2)))
        yield Fix("Cut an even outline instead", AddMaking(making=thin, colour="#ffffff"))
    if (veil := done.veil) is None:
        return
    colour = to_hex(veil.colour)
    dx, dy = veil.dx_px * mm_per_px, veil.dy_px * mm_per_px
    length = math.hypot(dx, dy)
    if length >= _LEAST_MM and done.kind == "shadow":
        angle = round(math.degrees(math.atan2(dy, dx)), 1)
        drop = DropShadow(id=NEW, film=NEW, of=(art,), angle_deg=angle, length_mm=round(length, 2), style="copy")
        yield Fix("Cut a shadow instead", AddMaking(making=drop, colour=colour))
    else:
        outline = OutlineShadow(id=NEW, film=NEW, of=(art,), mm=round(max(1.0, veil.soft_px * mm_per_px), 2))
        yield Fix("Cut an outline instead", AddMaking(making=outline, colour=colour))


CHECK = ArtCheck(tuple(f"put-right-{kind}" for kind in get_args(Kind)), _findings, "put-right")
