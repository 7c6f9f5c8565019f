"""Recipe in, everything out: the build, memoised by stage.

Stages: decode -> palette -> labels -> map -> art -> layers -> joints -> curves -> proof -> sheets. Each is remembered under
a hash of just its inputs, so an edit only redoes what it touches; a joint, an order, a name or a sheet never goes near the
pixels.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

from shapely import MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.base import tolerances
from gladstack.core.base.colour import from_hex
from gladstack.core.base.errors import RecipeError
from gladstack.core.base.units import format_area, format_length
from gladstack.core.films.invariants import max_thickness, overlap, wrong_area
from gladstack.core.films.joints import Joint, JointKind, Upper, cut_shape, meets, reach_under
from gladstack.core.geometry import overlay
from gladstack.core.geometry.outlines import CurveIndex, Outline, outline_of
from gladstack.core.plan.placement import Box, Film, Placement, place_on_sheet, with_marks
from gladstack.recipe.art.given import ArtPieces, Assets, ColourInfo, Notice
from gladstack.recipe.art.pieces import pieces_of
from gladstack.recipe.art.separated import Clock, nearest_colour
from gladstack.recipe.build.stack import Draft, Stack, ordered
from gladstack.recipe.model.recipe import Finish, Recipe
from gladstack.stages.memo import Memo, content_of, key_of

MAX_FILMS = 100


@dataclass(frozen=True)
class BuiltLayer:
    """A film of the stack with everything that follows for it; geometry in stack millimetres.

    `before` is its shape before it was made heavier or lighter, if it was.
    """

    film: str
    colour: str
    name: str
    slug: str
    finish: Finish
    shape: MultiPolygon
    before: MultiPolygon | None
    cut: MultiPolygon
    outline: Outline
    sheet: Film
    placement: Placement


@dataclass(frozen=True)
class BuiltJoint:
    """The joint of two layers that meet, and where it was chosen."""

    lower: int
    upper: int
    joint: Joint
    source: Literal["pair", "film", "design"]


@dataclass(frozen=True)
class Built:
    """All that follows from a recipe. Layers run from the ground up; `box` is the design's extent on the stack.

    `left_out` are the films (key, colour) that are not cut.
    """

    recipe: Recipe
    left_out: tuple[tuple[str, str], ...]
    box: Box
    frame: Box
    arts: tuple[ArtPieces, ...]
    colours: tuple[ColourInfo, ...]
    proposed_order: tuple[str, ...]
    layers: tuple[BuiltLayer, ...]
    joints: tuple[BuiltJoint, ...]
    wrong_area_ratio: float
    max_thickness: int
    notices: tuple[Notice, ...]
    seconds: dict[str, float]

    @property
    def width_mm(self) -> float:
        """The design's width."""
        return self.box[2] - self.box[0]

    @property
    def height_mm(self) -> float:
        """The design's height."""
        return self.box[3] - self.box[1]

    @property
    def flat(self) -> bool:
        """Whether all pictures are made of flat colours."""
        return all(a.source.palette.flat for a in self.arts if a.source)

    @property
    def lossy(self) -> bool:
        """Whether any picture has come through a lossy format."""
        return any(a.source.palette.lossy for a in self.arts if a.source)


def build(
    recipe: Recipe, assets: Assets, memo: Memo | None = None, tell: Callable[[str], None] = lambda stage: None
) -> Built:
    """Everything that follows from `recipe`; `assets` gives the bytes of pictures and fonts.

    The same recipe always gives the same result; `memo` only saves time. `tell` hears each stage that really has to work,
    and may raise to give up. Raises GladStackError.
    """
    clock = Clock(memo or Memo(), tell)
    arts = tuple(pieces_of(art, assets, clock) for art in recipe.arts)
    stack = Stack(recipe, arts, clock)
    if (count := len(stack.films())) > MAX_FILMS:
        raise RecipeError(
            f"This design has {count} films; at most {MAX_FILMS} can lie on one another.", "Merge some of them."
        )
    found = stack.drafts()
    proposed = stack.proposed(found)
    by_film = {d.film: d for d in found}
    drafts = [by_film[film] for film in ordered(recipe, proposed, stack)]
    joints = _joints(recipe, drafts, stack)
    cut_keys, cuts = _cuts(drafts, joints, clock)
    curves_key = key_of([a.curves_key or a.key for a in arts])
    index = clock.run("curves", key_of("index", curves_key), lambda: CurveIndex([c for a in arts for c in a.curves]))
    outlines = [
        clock.run("curves", key_of(curves_key, content_of(c)), lambda c=c: outline_of(c, index))  # type: ignore[misc]
        for c in cuts
    ]
    wrong, thickness = _figures(drafts, joints, cut_keys, cuts, clock)
    box = _extent([*(a.box for a in arts if a.framed), *(_bounds(c) for c in cuts if not c.is_empty)])
    frame = _extent([_bounds(c) for c in cuts if not c.is_empty]) if any(not c.is_empty for c in cuts) else box
    films = [_sheet_of(recipe, stack, d) for d in drafts]
    placements = [
        clock.run(
            "sheets",
            key_of(frame if recipe.marks else k, recipe.marks, f.method, f.width_mm, f.height_mm, f.margin_mm),
            lambda c=c, f=f: place_on_sheet(with_marks(frame) if recipe.marks else _bounds(c), f),  # type: ignore[misc]
        )
        for k, c, f in zip(cut_keys, cuts, films, strict=True)
    ]
    proposed_names = stack.names(found)
    names = [stack.choice(d.film).name or proposed_names[d.film] for d in drafts]
    layers = tuple(
        BuiltLayer(
            d.film, d.colour, n, _slug(k, n), stack.choice(d.film).finish, d.shape,
            stack.untreated(d.film) if stack.choice(d.film).thicken_mm else None, c, o, f, p,
        )
        for k, (d, n, c, o, f, p) in enumerate(zip(drafts, names, cuts, outlines, films, placements, strict=True))
    )  # fmt: skip
    met = tuple(
        j for j in joints
        if clock.run("joints", key_of("meet", drafts[j.lower].key, drafts[j.upper].key),
                     lambda j=j: meets(drafts[j.lower].shape, drafts[j.upper].shape))  # type: ignore[misc]
    )  # fmt: skip
    notices = [n for a in arts for n in a.notices] + _fit_notices(recipe, layers)
    wrong_ratio = wrong / max(1e-9, sum(d.shape.area for d in drafts))
    if wrong_ratio > tolerances.WRONG_AREA_RATIO:
        notices.append(
            Notice("wrong-area", f"The films differ from the wanted picture in {format_area(wrong, recipe.unit)}.")
        )
    left_out = tuple((f, stack.colour(f)) for f in stack.films() if stack.choice(f).left_out)
    return Built(
        recipe, left_out, box, frame, arts, tuple(c for a in arts for c in a.colours), tuple(proposed), layers, met,
        wrong_ratio, thickness, tuple(notices), dict(clock.seconds),
    )  # fmt: skip


def _slug(position: int, name: str) -> str:
    plain = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:40] or "film"
    return f"{position + 1:02d}-{plain}"


def _sheet_of(recipe: Recipe, stack: Stack, draft: Draft) -> Film:
    choice = stack.choice(draft.film)
    sheet = choice.sheet or recipe.sheet
    return Film(choice.method or recipe.method, sheet.width_mm, sheet.height_mm, sheet.margin_mm)


def _joints(recipe: Recipe, drafts: Sequence[Draft], stack: Stack) -> list[BuiltJoint]:
    """The joint of every pair: the pair's own, else the lower film's, else the design's."""
    place = {d.film: k for k, d in enumerate(drafts)}
    hexes = [d.film for d in drafts if d.film.startswith("#")]
    colours = tuple(from_hex(c) for c in hexes)

    def layer(key: str) -> int | None:
        if (film := stack.canonical(key)) in place:
            return place[film]
        near = nearest_colour(colours, key) if key.startswith("#") else None
        return place[hexes[near]] if near is not None else None

    pairs = {}
    for p in recipe.pairs:
        a, b = layer(p.a), layer(p.b)
        if a is not None and b is not None and a != b:
            pairs[frozenset((a, b))] = p.rule.joint()
    out = []
    for i, draft in enumerate(drafts):
        own = stack.choice(draft.film).joint
        for j in range(i + 1, len(drafts)):
            if (pair := pairs.get(frozenset((i, j)))) is not None:
                out.append(BuiltJoint(i, j, pair, "pair"))
            elif own is not None:
                out.append(BuiltJoint(i, j, own.joint(), "film"))
            else:
                out.append(BuiltJoint(i, j, recipe.joint.joint(), "design"))
    return out


def _cuts(drafts: Sequence[Draft], joints: list[BuiltJoint], clock: Clock) -> tuple[list[str], list[MultiPolygon]]:
    """Cut shapes and their keys, worked out from the top down."""
    count = len(drafts)
    rule = {(j.lower, j.upper): j.joint for j in joints}
    cuts: list[MultiPolygon] = [MultiPolygon()] * count
    keys = [""] * count
    gap_above = False
    for i in range(count - 1, -1, -1):
        above = [
            Upper(
                part,
                joint,
                disjoint=drafts[i].map is not None and drafts[i].map == drafts[j].map,
                shared=drafts[i].shared and drafts[j].shared,
            )
            for j in range(i + 1, count)
            for part, joint in drafts[j].parts(rule[i, j], drafts[i].shape)
        ]
        rows = [(drafts[j].key, rule[i, j].kind.value, rule[i, j].mm) for j in range(i + 1, count)]
        laps = any(u.joint.kind in (JointKind.LAP, JointKind.FULL) and u.joint.mm > 0 for u in above)
        pushed = not drafts[i].pushed.is_empty
        covering = keys[i + 1 :] if (gap_above and laps) or pushed else None
        keys[i] = key_of(drafts[i].key, drafts[i].mapped, rows, covering)

        def compute(i: int = i, above: list[Upper] = above, covered: bool = gap_above and laps) -> MultiPolygon:
            cover = overlay.union_all(cuts[i + 1 :]) if covered else None
            cut = cut_shape(drafts[i].shape, above, fill_holes=drafts[i].mapped, cover=cover)  # type: ignore[arg-type]
            return reach_under(cut, drafts[i].pushed, cuts[i + 1 :])

        cuts[i] = clock.run("joints", keys[i], compute)
        gap_above = gap_above or any(u.joint.kind is JointKind.GAP for u in above)
    return keys, cuts


def _figures(
    drafts: Sequence[Draft], joints: list[BuiltJoint], keys: list[str], cuts: list[MultiPolygon], clock: Clock
) -> tuple[float, int]:
    """Wrong area in mm2, and the most films on one another."""
    rule = {(j.lower, j.upper): j.joint for j in joints}
    count = len(drafts)
    wrong = 0.0
    for i in range(count):
        above = [
            (part, cuts[j], how) for j in range(i + 1, count) for part, how in drafts[j].parts(rule[i, j], drafts[i].shape)
        ]
        key = key_of("wrong", keys[i:], [(rule[i, j].kind.value, rule[i, j].mm) for j in range(i + 1, count)])
        wrong += clock.run("proof", key, lambda i=i, above=above: wrong_area(drafts[i].shape, cuts[i], above))  # type: ignore[misc]

    def pair(i: int, j: int) -> BaseGeometry:
        if cuts[i] is drafts[i].shape and cuts[j] is drafts[j].shape:
            return MultiPolygon()
        return clock.memo.get(f"proof:{key_of('pair', keys[i], keys[j])}", lambda: overlap(cuts[i], cuts[j]))

    thickness = clock.run("proof", key_of("thickness", keys), lambda: max_thickness(cuts, pair))
    return wrong, thickness


def _extent(boxes: Sequence[Box]) -> Box:
    if not boxes:
        return 0.0, 0.0, 1.0, 1.0
    return min(b[0] for b in boxes), min(b[1] for b in boxes), max(b[2] for b in boxes), max(b[3] for b in boxes)


def _bounds(shape: MultiPolygon) -> Box:
    left, top, right, bottom = (0.0, 0.0, 0.0, 0.0) if shape.is_empty else shape.bounds
    return left, top, right, bottom


def _fit_notices(recipe: Recipe, layers: tuple[BuiltLayer, ...]) -> list[Notice]:
    out = []
    for layer in layers:
        if layer.cut.is_empty:
            out.append(
                Notice("nothing-left", f"Nothing of {layer.name} is left to cut: its joints take all of it.", layer.film)
            )
        p = layer.placement
        if p.fits:
            continue
        over = [
            f"{format_length(mm, recipe.unit)} too {word}"
            for mm, word in ((p.over_width_mm, "wide"), (p.over_height_mm, "high"))
            if mm > 0
        ]
        room = f"{format_length(layer.sheet.width_mm, recipe.unit)} × {format_length(layer.sheet.height_mm, recipe.unit)}"
        turned = " It would fit with the sheet laid the other way round." if p.fits_turned else ""
        out.append(
            Notice("off-sheet", f"{layer.name} does not fit its {room} sheet: {' and '.join(over)}.{turned}", layer.film)
        )
    return out


def require_layers(built: Built) -> None:
    """Raises RecipeError if there is nothing to cut."""
    if not any(not layer.cut.is_empty for layer in built.layers):
        raise RecipeError(
            "Nothing is left to cut: every colour is dropped or smaller than a speck.",
            "Bring a colour back, or take a smaller speck size.",
        )
