"""How many nodes an art comes to, and how long the blade takes, for every deviation that its edges may be given."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from gladstack.recipe.art.given import Assets
from gladstack.recipe.art.pieces import pieces_of
from gladstack.recipe.model.arts import LineArt, PictureArt, RegionArt, VectorArt
from gladstack.recipe.model.values import changed
from gladstack.stages.engine import Stages

DEVIATIONS_MM = (0.05, 0.1, 0.2, 0.3)
_ROUNDS = 5
_COARSEST_MM = 0.5
_WORTH = 0.75
"""Where more than this share of the nodes is left, there is little to be had."""


@dataclass(frozen=True)
class AtDeviation:
    """Nodes and seconds at the blade where edges may move by so much, mm."""

    mm: float
    nodes: int
    seconds: float


def nodes_by_deviation(art: RegionArt, assets: Assets, stages: Stages) -> tuple[AtDeviation, ...]:
    """The curve of an art's nodes, from as it is to the coarsest. Raises GladStackError."""
    fine = _saved(art, DEVIATIONS_MM[0], assets, stages)
    if fine is None:
        return ()
    before, first = fine
    found = [_saved(art, mm, assets, stages) for mm in DEVIATIONS_MM[1:]]
    return (before, first, *(after for pair in found if pair for after in pair[1:]))


def knee(curve: Sequence[AtDeviation]) -> float:
    """The deviation beyond which more of it saves little: where the curve bends most (Satopaa et al. 2011); 0 where nothing
    is to be saved.
    """
    if len(curve) < 3 or curve[-1].nodes >= _WORTH * curve[0].nodes:
        return 0.0
    most, least = math.log(curve[0].nodes), math.log(max(1, curve[-1].nodes))
    far = curve[-1].mm

    def bend(one: AtDeviation) -> float:
        return (most - math.log(max(1, one.nodes))) / (most - least) - one.mm / far

    return max(curve, key=bend).mm


def deviation_for(art: RegionArt, nodes: int, assets: Assets, stages: Stages) -> AtDeviation | None:
    """The least deviation at which an art has no more than so many nodes, nearly; None if it cannot be had."""
    curve = nodes_by_deviation(art, assets, stages)
    if not curve or curve[0].nodes <= nodes:
        return curve[0] if curve else None
    at = next((k for k, one in enumerate(curve) if one.nodes <= nodes), len(curve))
    low = curve[at - 1].mm
    high, best = (curve[at].mm, curve[at]) if at < len(curve) else (_COARSEST_MM, None)
    for _ in range(_ROUNDS):
        middle = (low + high) / 2
        found = _saved(art, round(middle, 3), assets, stages)
        if found is not None and found[1].nodes <= nodes:
            high, best = middle, found[1]
        else:
            low = middle
    return best


def _saved(art: RegionArt, mm: float, assets: Assets, stages: Stages) -> tuple[AtDeviation, AtDeviation] | None:
    assert isinstance(art, PictureArt | LineArt | VectorArt)
    regions = pieces_of(changed(art, simplify_mm=mm), assets, stages).regions
    saving = regions.saving if regions else None
    if saving is None:
        return None
    return (
        AtDeviation(0.0, saving.nodes_before, saving.seconds_before),
        AtDeviation(mm, saving.nodes_after, saving.seconds_after),
    )
