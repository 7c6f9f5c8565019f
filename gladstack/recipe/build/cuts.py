"""Cut shapes: each film under those above it, by the joint of every pair."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import shapely
from shapely import MultiPolygon

from gladstack.core.base.colour import from_hex, nearest_colour
from gladstack.core.base.plane import Box, within
from gladstack.core.films.joints import Joint, JointKind, cut_shape, meets, reach_under, uppers_of
from gladstack.core.films.needles import without_needles
from gladstack.core.geometry import overlay
from gladstack.core.geometry.curves import IDENTITY, box_under
from gladstack.core.geometry.shapes import cut_away
from gladstack.recipe.build.built import BuiltJoint
from gladstack.recipe.build.joined import Cut, Rules
from gladstack.recipe.build.stack import Draft, Stack
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.engine import Stages, part
from gladstack.stages.laid import Laid, Shape, laid, run_alike, run_laid

Row = tuple[MultiPolygon, MultiPolygon, MultiPolygon, Joint, bool, bool]
"""A film above: its shape, where all below is solid and where open, the joint with it, whether it overlaps nowhere, whether
edges are the same points."""
BESIDE_MM = 0.1
"""Films farther apart than this, and than their joint reaches, have nothing to do with each other."""


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
    """The cut shape of every film as its joints give it, what the blade cuts of it without what no cutter resolves, and the
    boxes of what was left out.
    """

    whole: list[Cut]
    shapes: list[Cut]
    dropped: list[tuple[Box, ...]]


def cuts_of(drafts: Sequence[Draft], rules: Rules, stages: Stages) -> Cuts:
    """The cut shape of every film, worked out from the top down."""
    cuts: dict[int, Cut] = {}
    gap_above = False
    for i in range(len(drafts) - 1, -1, -1):
        own, zones = drafts[i], drafts[i].zones
        joints = [rules[i, j] for j in range(i + 1, len(drafts))]
        covered = gap_above and any(how.lap_mm > 0 for how in joints)
        near = [i + 1 + k for k in in_reach(own, drafts[i + 1 :], joints)]
        above = [cuts[j] for j in near] if covered or not zones.pushed.value.is_empty else []
        rows = [_row(own, drafts[j], rules[i, j]) for j in near]
        cuts[i] = run_laid(
            stages, "joints", cut_film, own.shape, zones.pushed, zones.kept_off, own.mapped, rows, above, covered
        )
        gap_above = gap_above or any(how.form.reach == "away" for how in joints)
    whole = [cuts[i] for i in range(len(drafts))]
    resolved = [run_alike(stages, "joints", without_needles, cut) for cut in whole]
    shapes = [laid(part(one, "shape", lambda found: found.shape), by, stages) for one, by in resolved]
    return Cuts(whole, shapes, [tuple(box_under(b, by or IDENTITY) for b in one.value.dropped) for one, by in resolved])


def in_reach(lower: Draft, uppers: Sequence[Draft], joints: Sequence[Joint]) -> list[int]:
    """Which of the films above one may have to do with its cut: most that lie beside it have not.

    A film that stays solid under one is so under those that lie on that, too, and reaches as far as they do.
    """
    own = [shape for shape in (lower.shape, lower.zones.pushed) if not shape.value.is_empty]
    left = {k: one.shape for k, one in enumerate(uppers) if not one.shape.value.is_empty}
    found: list[int] = []
    while own:
        near = [k for k, upper in left.items() if any(_near(one, upper, joints[k]) for one in own)]
        found += near
        own = [left.pop(k) for k in near if joints[k].form.solid]
        left = {k: upper for k, upper in left.items() if k not in near}
    return sorted(found)


def _near(lower: Shape, upper: Shape, how: Joint) -> bool:
    """Whether a joint reaches from one film to another.

    What is laid alike is not asked closely: it is worked out but once. Nor is what a film stays solid under: that may lie
    in one of its holes.
    """
    alike = isinstance(lower, Laid) and isinstance(upper, Laid) and lower.by == upper.by
    reach = how.mm + BESIDE_MM
    near = within(lower.value.bounds, upper.value.bounds, reach)
    return near and (alike or how.form.solid or bool(shapely.dwithin(lower.value, upper.value, reach)))


def _row(lower: Draft, upper: Draft, how: Joint) -> tuple[object, ...]:
    disjoint = lower.map is not None and lower.map == upper.map
    return upper.shape, upper.zones.solid, upper.zones.open, how, disjoint, lower.shared and upper.shared


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
        for own, solid, open_, how, disjoint, shared in rows
        for upper in uppers_of(own, solid, open_, how, shape, disjoint=disjoint, shared=shared)
    ]
    cover = overlay.union_all(above) if covered else None
    cut = cut_shape(shape, uppers, fill_holes=mapped, cover=cover)
    return cut_away(reach_under(cut, pushed, above), [kept_off])


def met(drafts: Sequence[Draft], joints: Sequence[BuiltJoint], stages: Stages) -> list[BuiltJoint]:
    """The joints of films that really meet."""
    return [j for j in joints if _meet(drafts[j.lower], drafts[j.upper], stages)]


def _meet(lower: Draft, upper: Draft, stages: Stages) -> bool:
    made, _ = run_alike(stages, "joints", meets, lower.shape, upper.shape)
    return within(lower.shape.value.bounds, upper.shape.value.bounds, BESIDE_MM) and made.value
