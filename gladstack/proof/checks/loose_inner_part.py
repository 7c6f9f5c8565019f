"""Inner parts of holes: what falls out of a stencil, and the strips that would hold it."""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Sequence

import numpy as np

from gladstack.core.base.findings import Whereabouts
from gladstack.core.geometry.curves import inverse, transform_points
from gladstack.core.geometry.holding import Hold, holds_for
from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.art.mended import Frame
from gladstack.recipe.edit.arts import ChangeArts
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.arts import LetteringArt, ShapeArt
from gladstack.recipe.model.mends import Bridge
from gladstack.recipe.model.pins import ArtPoint
from gladstack.recipe.model.values import changed

_MOST = 100
"""Strips that are offered at once: with more, the hole is a texture, and its inner parts specks."""
_LEAST_WIDE_MM = 0.05


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    art = read.art
    if not isinstance(art, LetteringArt | ShapeArt) or art.film is not None:
        return
    if any(piece.film is not None for piece in read.pieces.pieces):
        return
    for piece in read.pieces.pieces:
        inner = read.stages.run("art", holds_for, piece.shape).value
        holds = [hold for part in inner for hold in part]
        if 0 < len(holds) <= _MOST:
            yield _loose(art, len(inner), holds, read.pieces.own_width_mm)


def _loose(art: LetteringArt | ShapeArt, count: int, holds: Sequence[Hold], width_mm: float) -> Finding[Edit]:
    said = "1 inner part of the hole is" if count == 1 else f"{count} inner parts of the hole are"
    frame = Frame(width_mm, art.place.matrix)
    taken = {m.id for m in art.mends}
    free = (name for k in itertools.count(1) if (name := f"hold-{k}") not in taken)
    bridges = [_bridge_of(hold, id_, frame) for hold, id_ in zip(holds, free, strict=False)]
    held = ChangeArts(arts=(changed(art, mends=(*art.mends, *bridges)),))
    return Finding(
        "loose-inner-part",
        f"{said} held by nothing: such parts fall out of a stencil.",
        place=Whereabouts(at=holds[0].start),
        helps="Hold them with bridges.",
        fixes=(Fix("Hold them with bridges", held),),
    )


def _bridge_of(hold: Hold, id_: str, frame: Frame) -> Bridge:
    points = transform_points(np.array([hold.start, hold.end]), inverse(frame.matrix)) / frame.width_mm
    start, end = (ArtPoint(x=round(x, 6), y=round(y, 6)) for x, y in points.tolist())
    return Bridge(id=id_, start=start, end=end, width_mm=round(max(_LEAST_WIDE_MM, hold.width_mm / frame.size), 3))


CHECK = ArtCheck(("loose-inner-part",), _findings, "art")
