"""Cut shapes: each film under those above it, by the joint of every pair."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from shapely import MultiPolygon

from gladstack.core.base.colour import from_hex, nearest_colour
from gladstack.core.films.joints import Joint, JointKind, cut_shape, meets, reach_under, uppers_of
from gladstack.core.films.needles import Resolved, without_needles
from gladstack.core.geometry import overlay
from gladstack.core.geometry.shapes import cut_away
from gladstack.recipe.art.given import Zones
from gladstack.recipe.build.built import BuiltJoint
from gladstack.recipe.build.joined import Cut, Rules
from gladstack.recipe.build.stack import Draft, Stack
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.engine import Stages, part
from gladstack.stages.memo import Keyed

Row = tuple[MultiPolygon, Zones, Joint, bool, bool]
"""A film above: its shape, its zones, the joint with it, whether it overlaps nowhere, whether edges are the same points."""


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
