"""Whether the films of a build show what was wanted, and how many of them lie on one another.

To measure that takes a fifth of a build, and the plan of hundreds of names does not ask for it: so it is done when it is
asked for, from what the build has left.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

from shapely import MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.base.plane import box_around, within
from gladstack.core.films.invariants import Measured, differing, max_thickness, overlap, unhidden, wanted_gap
from gladstack.core.films.joints import Joint, uppers_of
from gladstack.core.geometry import overlay
from gladstack.core.geometry.shapes import clean
from gladstack.recipe.build.built import Built
from gladstack.recipe.build.cuts import BESIDE_MM
from gladstack.recipe.build.joined import Cut, Joined
from gladstack.stages.engine import Stages
from gladstack.stages.laid import how_laid, run_laid, unlaid
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
    run, drafts, whole = stages or Stages(Memo()), built.joined.drafts, built.joined.whole
    films = unlaid([(draft.shape, cut) for draft, cut in zip(drafts, whole, strict=True)], how_laid(whole))

    def pair(i: int, j: int) -> BaseGeometry:
        (_, a), (_, b) = films[i], films[j]
        of_one_map = drafts[i].map is not None and drafts[i].map == drafts[j].map
        if of_one_map and _as_wanted(*films[i]) and _as_wanted(*films[j]):
            return MultiPolygon()
        return run_laid(run, "proof", overlap, a, b).value if within(a.value.bounds, b.value.bounds, 0.0) else MultiPolygon()

    # The pairs are asked for one by one, and only where they are needed.
    return run.with_help("proof", _most, pair, [cut for _, cut in films], at_least).value


def _as_wanted(shape: Cut, cut: Cut) -> bool:
    """Whether no joint has changed a film."""
    shape, cut = unlaid((shape, cut), how_laid(shape, cut))
    return cut.value is shape.value


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
    own, hiding = (joined.drafts[i].shape, joined.whole[i]), _hiding(i, joined, stages)
    by = how_laid(own, hiding)
    seen = stages.run("proof", differing, *unlaid(own, by), how)
    for upper in unlaid(hiding, by):
        if all(part.is_empty for part in seen.value):
            return 0.0
        seen = stages.run("proof", unhidden, seen, upper, how)
    return float(sum(part.area for part in seen.value))


def _hiding(i: int, joined: Joined, stages: Stages) -> list[Cut]:
    """What lies above a film and near it: cuts, and where a gap is wanted, that."""
    shape, whole = joined.drafts[i].shape, joined.whole
    own = box_around([one.value.bounds for one in (shape, whole[i]) if not one.value.is_empty])
    out: list[Cut] = []
    if own is None:
        return out
    for j in range(i + 1, len(whole)):
        upper, rule = joined.drafts[j], joined.rules[i, j]
        if within(own, whole[j].value.bounds, BESIDE_MM):
            out.append(whole[j])
        if rule.form.reach == "away" and within(own, upper.shape.value.bounds, rule.mm + BESIDE_MM):
            zones = upper.zones
            out.append(run_laid(stages, "proof", gap_of, upper.shape, zones.solid, zones.open, rule, shape))
    return out


def gap_of(shape: MultiPolygon, solid: MultiPolygon, open_: MultiPolygon, how: Joint, lower: MultiPolygon) -> MultiPolygon:
    """Where a film above, of this shape, wants a gap in a lower one."""
    parts = uppers_of(shape, solid, open_, how, lower)
    return clean(overlay.union_all([wanted_gap(part.shape, part.joint) for part in parts]))
