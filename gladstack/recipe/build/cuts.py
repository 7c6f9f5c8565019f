"""Cut shapes and what is measured on them: each film under those above it, by the joint of every pair."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from shapely import MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.base.colour import from_hex, nearest_colour
from gladstack.core.films.invariants import Measured, differing, max_thickness, overlap, unhidden, wanted_gap
from gladstack.core.films.joints import Joint, JointKind, cut_shape, meets, reach_under, uppers_of
from gladstack.core.films.needles import Resolved, without_needles
from gladstack.core.geometry import overlay
from gladstack.core.geometry.shapes import cut_away
from gladstack.recipe.art.given import Zones
from gladstack.recipe.build.built import BuiltJoint
from gladstack.recipe.build.stack import Draft, Stack
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.engine import Stages, part
from gladstack.stages.memo import Keyed

Cut = Keyed[MultiPolygon]
Rules = Mapping[tuple[int, int], Joint]
Row = tuple[MultiPolygon, Zones, Joint, bool, bool]
"""A film above: its shape, its zones, the joint with it, whether it overlaps nowhere, whether edges are the same points."""


@dataclass(frozen=True)
class Figures:
    """Wrong area in mm2, and the most films on one another."""

    wrong_mm2: float
    thickness: int


def joints_of(recipe: Recipe, drafts: Sequence[Draft], stack: Stack) -> list[BuiltJoint]:
    """The joint of every pair: the pair's own, else the lower film's, else the design's; under stitches and bands films
    stay whole.
    """
    place = {d.film: k for k, d in enumerate(drafts)}
    hexes = [d.film for d in drafts if d.film.startswith("#")]
    colours = tuple(from_hex(c) for c in hexes)

    def layer(key: str) -> int | None:
        if (film := stack.canonical(key)) in place:
            return place[film]
        if stack.has(film):
            # It is left out, or has come to nothing: what was said of it is not meant for another.
            return None
        near = nearest_colour(colours, key) if key.startswith("#") else None
        return place[hexes[near]] if near is not None else None

    pairs = {}
    for p in recipe.pairs:
        a, b = layer(p.a), layer(p.b)
        if a is not None and b is not None and a != b:
            pairs[frozenset((a, b))] = p.rule.joint()
    out = []
    trims = stack.trims()
    for i, draft in enumerate(drafts):
        own = stack.choice(draft.film).joint
        for j in range(i + 1, len(drafts)):
            if (pair := pairs.get(frozenset((i, j)))) is not None:
                out.append(BuiltJoint(i, j, pair, "pair"))
            elif drafts[j].film in trims:
                out.append(BuiltJoint(i, j, Joint(JointKind.FULL, 0.0), "made"))
            elif own is not None:
                out.append(BuiltJoint(i, j, own.joint(), "film"))
            else:
                out.append(BuiltJoint(i, j, recipe.joint.joint(), "design"))
    return out


@dataclass(frozen=True)
class Cuts:
    """The cut shape of every film as its joints give it, and the same without what no cutter resolves."""

    whole: list[Cut]
    resolved: list[Keyed[Resolved]]

    @property
    def shapes(self) -> list[Cut]:
        """What the blade cuts."""
        return [part(one, "shape", lambda found: found.shape) for one in self.resolved]


def cuts_of(drafts: Sequence[Draft], rules: Rules, stages: Stages) -> Cuts:
    """The cut shape of every film, worked out from the top down."""
    cuts: list[Cut] = []
    gap_above = False
    for i in range(len(drafts) - 1, -1, -1):
        joints = [rules[i, j] for j in range(i + 1, len(drafts))]
        laps = any(how.lap_mm > 0 for how in joints)
        covered = gap_above and laps
        own = drafts[i]
        above = cuts[::-1] if covered or not own.zones.pushed.is_empty else []
        rows = [_row(own, drafts[j], how) for j, how in enumerate(joints, i + 1)]
        cuts.append(
            stages.run("joints", cut_film, own.shape, own.zones.pushed, own.zones.kept_off, own.mapped, rows, above, covered)
        )
        gap_above = gap_above or any(how.form.reach == "away" for how in joints)
    whole = cuts[::-1]
    return Cuts(whole, [stages.run("joints", without_needles, cut) for cut in whole])


def _row(lower: Draft, upper: Draft, how: Joint) -> tuple[object, ...]:
    disjoint = lower.map is not None and lower.map == upper.map
    return upper.shape, upper.zones, how, disjoint, lower.shared and upper.shared


def cut_film(
    shape: MultiPolygon,
    pushed: MultiPolygon,
    kept_off: MultiPolygon,
    mapped: bool,
    rows: Sequence[Row],
    above: Sequence[MultiPolygon],
    covered: bool,
) -> MultiPolygon:
    """What the blade cuts for a film under the films of `rows`, whose cut shapes are `above` where they matter."""
    uppers = [
        upper
        for own, zones, how, disjoint, shared in rows
        for upper in uppers_of(own, zones.solid, zones.open, how, shape, disjoint=disjoint, shared=shared)
    ]
    cover = overlay.union_all(above) if covered else None
    cut = cut_shape(shape, uppers, fill_holes=mapped, cover=cover)
    return cut_away(reach_under(cut, pushed, above), [kept_off])


def met(drafts: Sequence[Draft], joints: Sequence[BuiltJoint], stages: Stages) -> list[BuiltJoint]:
    """The joints of films that really meet."""
    return [j for j in joints if stages.run("joints", meets, drafts[j.lower].shape, drafts[j.upper].shape).value]


def figures_of(drafts: Sequence[Draft], rules: Rules, cuts: Sequence[Cut], stages: Stages) -> Figures:
    """What is measured on the cut shapes; needles are left out of them besides, and told by themselves."""
    wrong = sum(_wrong_film(i, drafts, rules, cuts, stages) for i in range(len(drafts)))

    def pair(i: int, j: int) -> BaseGeometry:
        apart = drafts[i].map is not None and drafts[i].map == drafts[j].map
        if apart and cuts[i].value is drafts[i].shape.value and cuts[j].value is drafts[j].shape.value:
            return MultiPolygon()
        return stages.run("proof", overlap, cuts[i], cuts[j]).value

    # The pairs are asked for one by one, and only where they are needed.
    thickness = stages.with_help("proof", max_thickness, pair, list(cuts))
    return Figures(wrong, thickness.value)


def _wrong_film(i: int, drafts: Sequence[Draft], rules: Rules, cuts: Sequence[Cut], stages: Stages) -> float:
    """Where a film is painted wrong, in mm2: measured quickly, and where anything is found, once more with every check."""
    given = (i, drafts, rules, cuts, stages)
    return _painted_wrong(*given, "quickly") and _painted_wrong(*given, "surely")


def _painted_wrong(
    i: int, drafts: Sequence[Draft], rules: Rules, cuts: Sequence[Cut], stages: Stages, how: Measured
) -> float:  # fmt: skip
    """Where a film is painted wrong, in mm2, measured so.

    What differs from the wanted shape is seen only where no upper film hides it; taking these away one by one soon leaves
    nothing, and then what lies farther up does not matter.
    """
    seen = stages.run("proof", differing, drafts[i].shape, cuts[i], how)
    for j in range(i + 1, len(drafts)):
        if all(part.is_empty for part in seen.value):
            return 0.0
        upper, rule = drafts[j], rules[i, j]
        seen = stages.run("proof", unhidden, seen, cuts[j], how)
        if rule.form.reach == "away":
            gap = stages.run("proof", gap_of, upper.shape, upper.zones, rule, drafts[i].shape)
            seen = stages.run("proof", unhidden, seen, gap, how)
    return float(sum(part.area for part in seen.value))


def gap_of(shape: MultiPolygon, zones: Zones, how: Joint, lower: MultiPolygon) -> BaseGeometry:
    """Where a film above, of this shape, wants a gap in a lower one."""
    parts = uppers_of(shape, zones.solid, zones.open, how, lower)
    return overlay.union_all([wanted_gap(part.shape, part.joint) for part in parts])
