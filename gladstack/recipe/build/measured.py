"""Whether the films of a build show what was wanted, and how many of them lie on one another.

To measure that takes a fifth of a build, and the plan of hundreds of names does not ask for it: so it is done when it is
asked for, from what the build has left.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

from shapely import MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.films.invariants import Measured, differing, max_thickness, overlap, unhidden, wanted_gap
from gladstack.core.films.joints import Joint, uppers_of
from gladstack.core.geometry import overlay
from gladstack.recipe.art.given import Zones
from gladstack.recipe.build.built import Built
from gladstack.recipe.build.joined import Joined
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo


def wrong_mm2(built: Built, stages: Stages | None = None) -> float:
    """Where the films do not show what was wanted, in mm2. `stages` only save time."""
    run = stages or Stages(Memo())
    return sum((_wrong_film(i, built.joined, run) for i in range(len(built.joined.drafts))), 0.0)


def wrong_area_ratio(built: Built, stages: Stages | None = None) -> float:
    """The same as a share of the area of all films."""
    return wrong_mm2(built, stages) / max(1e-9, sum(float(d.shape.value.area) for d in built.joined.drafts))


def most_films(built: Built, stages: Stages | None = None, at_least: int = 0) -> int:
    """The most films that lie on one another anywhere, or `at_least`, if there are fewer. `stages` only save time."""
    run, drafts, cuts = stages or Stages(Memo()), built.joined.drafts, built.joined.whole

    def pair(i: int, j: int) -> BaseGeometry:
        apart = drafts[i].map is not None and drafts[i].map == drafts[j].map
        if apart and cuts[i].value is drafts[i].shape.value and cuts[j].value is drafts[j].shape.value:
            return MultiPolygon()
        return run.run("proof", overlap, cuts[i], cuts[j]).value

    # The pairs are asked for one by one, and only where they are needed.
    return run.with_help("proof", _most, pair, list(cuts), at_least).value


def _most(cuts: Sequence[MultiPolygon], at_least: int, pair: Callable[[int, int], BaseGeometry]) -> int:
    return max_thickness(cuts, pair, at_least)


def _wrong_film(i: int, joined: Joined, stages: Stages) -> float:
    """Where a film is painted wrong, in mm2: measured quickly, and where anything is found, once more with every check."""
    return _painted_wrong(i, joined, stages, "quickly") and _painted_wrong(i, joined, stages, "surely")


def _painted_wrong(i: int, joined: Joined, stages: Stages, how: Measured) -> float:
    """Where a film is painted wrong, in mm2, measured so.

    What differs from the wanted shape is seen only where no upper film hides it; taking these away one by one soon leaves
    nothing, and then what lies farther up does not matter.
    """
    drafts, cuts = joined.drafts, joined.whole
    seen = stages.run("proof", differing, drafts[i].shape, cuts[i], how)
    for j in range(i + 1, len(drafts)):
        if all(part.is_empty for part in seen.value):
            return 0.0
        upper, rule = drafts[j], joined.rules[i, j]
        seen = stages.run("proof", unhidden, seen, cuts[j], how)
        if rule.form.reach == "away":
            gap = stages.run("proof", gap_of, upper.shape, upper.zones, rule, drafts[i].shape)
            seen = stages.run("proof", unhidden, seen, gap, how)
    return float(sum(part.area for part in seen.value))


def gap_of(shape: MultiPolygon, zones: Zones, how: Joint, lower: MultiPolygon) -> BaseGeometry:
    """Where a film above, of this shape, wants a gap in a lower one."""
    parts = uppers_of(shape, zones.solid, zones.open, how, lower)
    return overlay.union_all([wanted_gap(part.shape, part.joint) for part in parts])
