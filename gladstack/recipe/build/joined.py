"""The films of a stack as their joints made them: all that anything is measured on."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from shapely import MultiPolygon

from gladstack.core.films.joints import Joint
from gladstack.recipe.build.stack import Draft
from gladstack.stages.memo import Keyed

Cut = Keyed[MultiPolygon]
Rules = Mapping[tuple[int, int], Joint]
"""The joint of every pair of films, lower and upper."""


@dataclass(frozen=True)
class Joined:
    """Films from the ground up, the joint of every pair, and the cut shape of each, with needles."""

    drafts: tuple[Draft, ...]
    rules: Rules
    whole: tuple[Cut, ...]
