"""Inner parts of holes: what falls out of a stencil, and the strips that would hold it."""

from __future__ import annotations

import itertools
from collections.abc import Sequence

import numpy as np
from shapely import MultiPolygon

from gladstack.core.base.findings import Finding, Fix, Place
from gladstack.core.geometry.curves import inverse, transform_points
from gladstack.core.geometry.holding import Hold, holds_for
from gladstack.recipe.art.given import Piece
from gladstack.recipe.art.mended import Frame
from gladstack.recipe.model.arts import LetteringArt, ShapeArt
from gladstack.recipe.model.mends import Bridge
from gladstack.recipe.model.pins import ArtPoint
from gladstack.stages.engine import Stages

_MOST = 100
"""Strips that are offered at once: with more, the hole is a texture, and its inner parts specks."""
_LEAST_WIDE_MM = 0.05


def inner_findings(
    art: LetteringArt | ShapeArt, pieces: Sequence[Piece], width_mm: float, stages: Stages
) -> tuple[Finding, ...]:
    """What is told of art that is one hole and goes round something."""
    if art.film is not None or any(p.film is not None for p in pieces):
        return ()
    return tuple(f for p in pieces for f in stages.run("art", _loose, art, p.shape, width_mm).value)


def _loose(art: LetteringArt | ShapeArt, opening: MultiPolygon, width_mm: float) -> tuple[Finding, ...]:
    inner = holds_for(opening)
    holds = [hold for part in inner for hold in part]
    if not 0 < len(holds) <= _MOST:
        return ()
    count = len(inner)
    said = "1 inner part of the hole is" if count == 1 else f"{count} inner parts of the hole are"
    frame = Frame(width_mm, art.place.matrix)
    taken = {m.id for m in art.mends}
    free = (name for k in itertools.count(1) if (name := f"hold-{k}") not in taken)
    bridges = [_bridge_of(hold, id_, frame) for hold, id_ in zip(holds, free, strict=False)]
    mends = [*(m.model_dump(mode="json") for m in art.mends), *(b.model_dump(mode="json") for b in bridges)]
    held = {"kind": "change-arts", "arts": [{**art.model_dump(mode="json"), "mends": mends}]}
    return (
        Finding(
            "loose-inner-part",
            f"{said} held by nothing: of a stencil they fall out.",
            "note",
            place=Place(at=holds[0].start),
            helps="Hold them with bridges.",
            fixes=(Fix("Hold them with bridges", held),),
        ),
    )


def _bridge_of(hold: Hold, id_: str, frame: Frame) -> Bridge:
    points = transform_points(np.array([hold.start, hold.end]), inverse(frame.matrix)) / frame.width_mm
    start, end = (ArtPoint(x=round(x, 6), y=round(y, 6)) for x, y in points.tolist())
    return Bridge(id=id_, start=start, end=end, width_mm=round(max(_LEAST_WIDE_MM, hold.width_mm / frame.size), 3))
