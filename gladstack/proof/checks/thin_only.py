"""Colours that are only in thin strokes of a lossy picture, and may be another film's.

A stroke of few pixels comes out paler than its colour, or beyond it where the picture was made smaller or sharpened: either
way its colour lies on a line from the ground through its own.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from gladstack.core.base.colour import delta_e_2000, from_hex
from gladstack.core.base.findings import Measure, Whereabouts
from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.proof.places import around
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.edit.pictures import MergeColours

_SHARE = 0.01
_WIDE_PX = 4.0
_OFF_DEG = 8.0
"""What stays of an angle, in sRGB, between colours that lie on one line from the ground."""
_MOST_OUTLINES = 20
_PAPER = "#ffffff"


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.picture is None or not read.picture[1].lossy:
        return
    art, facts, seen = read.picture
    a, b, c, d, _, _ = art.place.matrix
    px_mm = seen.mm_per_px * math.sqrt(abs(a * d - b * c))
    ground = facts.behind or _PAPER
    films = [info for info in facts.colours if info.role == "film" and info.colour != ground]
    for info in films:
        like = [o.colour for o in films if o.share > info.share and _angle(o.colour, info.colour, ground) <= _OFF_DEG]
        if info.picked or info.share > _SHARE or not like:
            continue
        own = min(like, key=lambda other: float(delta_e_2000(from_hex(other), from_hex(info.colour))))
        parts = [p for piece in read.pieces.pieces if piece.film == info.colour for p in piece.shape.value.geoms]
        long = sum(p.length for p in parts)
        wide_px = 2 * sum(p.area for p in parts) / long / px_mm if long else math.inf
        if wide_px > _WIDE_PX:
            continue
        spots = sorted(parts, key=lambda p: -p.area)[:_MOST_OUTLINES]
        at = spots[0].representative_point()
        name, of = read.name_of(info.colour), read.name_of(own)
        yield Finding(
            "thin-only",
            f"{name} is {_percent(info.share)} of the picture, all of it in strokes about {_pixels(wide_px)} wide: "
            f"it may be {of}.",
            "mind",
            place=Whereabouts(at=(at.x, at.y), outlines=tuple(around(p.exterior) for p in spots)),
            measure=Measure(round(wide_px, 1), _WIDE_PX),
            helps="Thin strokes come out paler or darker in a picture that was made smaller or saved as a JPEG. Leave it "
            "if it is a colour of its own.",
            fixes=(Fix(f"Merge it with {of}", MergeColours(art=art.id, colour=info.colour, into=own)),),
        )


def _percent(share: float) -> str:
    return "less than 0.1 %" if share < 0.001 else f"{100 * share:.1f} %"


def _pixels(wide_px: float) -> str:
    return "a pixel" if wide_px < 1.5 else f"{wide_px:.0f} pixels"


def _angle(a: str, b: str, ground: str) -> float:
    """The angle between two colours as seen from the ground, in sRGB."""
    one, other = (np.subtract(from_hex(colour), from_hex(ground), dtype=float) for colour in (a, b))
    cos = one @ other / max(1e-9, float(np.linalg.norm(one) * np.linalg.norm(other)))
    return math.degrees(math.acos(min(1.0, max(-1.0, cos))))


CHECK = ArtCheck(("thin-only",), _findings, "palette", "how thin strokes keep their colour")
