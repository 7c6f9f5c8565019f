"""Words set in every font of the shelf where a shape lies, the nearest first: lettering that takes a picture's place."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import MultiPolygon, affinity

from gladstack.core.base.errors import FontError, GladStackError
from gladstack.core.geometry import overlay
from gladstack.recipe.art.given import Assets, LetterFacts
from gladstack.recipe.art.pieces import pieces_of
from gladstack.recipe.model.arts import LetteringArt, Place
from gladstack.recipe.model.values import changed
from gladstack.stages.engine import Stages

_LEVEL_SHARE = 0.06
"""Letters whose feet are within so much of the words' height of each other stand on one baseline."""
_TALL_SHARE = 0.25
_COARSE_SHARE = 1 / 400


@dataclass(frozen=True)
class Likeness:
    """Lettering in one font, where the shape lies; `share` of their ink together is what they have in common."""

    lettering: LetteringArt
    share: float


def words_like(
    shape: MultiPolygon, text: str, fonts: Sequence[str], turn_deg: float, assets: Assets, stages: Stages
) -> list[Likeness]:
    """`text` in each of `fonts`, as wide as `shape` and on the baseline that its letters stand on, the nearest ink first.

    `turn_deg` is how far the shape's lines are turned. A font that lacks letters of the text is left out. Raises FontError
    if none has them.
    """
    upright = affinity.rotate(shape, -turn_deg, origin=(0, 0)) if turn_deg else shape
    left, top, right, bottom = upright.bounds
    coarse = shapely.simplify(upright, (right - left) * _COARSE_SHARE)
    out = []
    for font in fonts:
        art = LetteringArt(
            id="words", text=text, font=font, align="left", fit_width_mm=max(0.5, right - left), place=Place(x_mm=left)
        )
        try:
            pieces = pieces_of(art, assets, stages)
        except GladStackError:
            continue
        if (isinstance(pieces.facts, LetterFacts) and pieces.facts.missing) or not pieces.outer:
            continue
        ink = overlay.union_all([p.value for p in pieces.outer])
        box = ink.bounds
        ways = (baseline_of(upright), bottom - box[3], top - box[1])
        shares = [_common(coarse, shapely.simplify(ink, (right - left) * _COARSE_SHARE), y) for y in ways]
        best = int(np.argmax(shares))
        out.append(Likeness(changed(art, place=_turned(left, ways[best], turn_deg)), shares[best]))
    if not out:
        raise FontError("No font of the shelf has these letters.", "Bring in a font that has them.")
    return sorted(out, key=lambda found: -found.share)


def baseline_of(shape: MultiPolygon) -> float:
    """The height (y, mm) that most of a line's letters stand on, by the feet of its larger pieces."""
    boxes = shapely.bounds(np.array(shape.geoms, dtype=object))
    tall = boxes[:, 3] - boxes[:, 1]
    height = float(shape.bounds[3] - shape.bounds[1])
    feet = boxes[tall > _TALL_SHARE * height][:, 3]
    if not len(feet):
        return float(shape.bounds[3])
    near = np.abs(feet[:, None] - feet[None]) <= _LEVEL_SHARE * height
    best = int(np.argmax(near.sum(axis=1)))
    return float(np.median(feet[near[best]]))


def _common(shape: MultiPolygon, ink: shapely.Geometry, y_mm: float) -> float:
    moved = affinity.translate(ink, 0.0, y_mm)
    common = float(shapely.intersection(shapely.buffer(shape, 0), shapely.buffer(moved, 0)).area)
    return common / max(1e-9, float(shape.area + moved.area) - common)


def _turned(x_mm: float, y_mm: float, turn_deg: float) -> Place:
    turn = np.radians(turn_deg)
    x, y = np.cos(turn) * x_mm - np.sin(turn) * y_mm, np.sin(turn) * x_mm + np.cos(turn) * y_mm
    return Place(x_mm=round(float(x), 4), y_mm=round(float(y), 4), turn_deg=turn_deg)
