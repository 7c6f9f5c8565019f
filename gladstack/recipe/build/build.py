"""Recipe in, films out: the build, as the list of its stages.

Each stage is remembered under just what goes into it, so an edit only redoes what it touches; a joint, an order or a name
never goes near the pixels.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence

import numpy as np
import shapely
from shapely import MultiPolygon

from gladstack.core.base.errors import RecipeError
from gladstack.core.base.plane import box_around
from gladstack.core.geometry.curves import Chain, Curve, line_chain
from gladstack.core.geometry.outlines import CurveIndex, Outline, bounds_of, laid_outline, outline_of
from gladstack.recipe.art.given import ArtPieces, Assets
from gladstack.recipe.art.pieces import pieces_of
from gladstack.recipe.build.built import Built, BuiltHole, BuiltLayer, BuiltPen, LeftOut
from gladstack.recipe.build.cuts import Cuts, cuts_of, joints_of, met
from gladstack.recipe.build.joined import Cut, Joined
from gladstack.recipe.build.pieces import (
    SETTLING_ROUNDS,
    asks,
    put_right,
    settled,
)
from gladstack.recipe.build.stack import Draft, Stack, ordered
from gladstack.recipe.model.makings import OutlineShadow
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.engine import Stages
from gladstack.stages.laid import Laid, laid_by
from gladstack.stages.memo import Keyed, Memo

MAX_FILMS = 200
_MOST_LINES = 20_000


def build(
    recipe: Recipe, assets: Assets, memo: Memo | None = None, tell: Callable[[str], None] = lambda group: None
) -> Built:
    """Everything that follows from `recipe`; `assets` gives the bytes of pictures and fonts.

    The same recipe always gives the same result; `memo` only saves time. `tell` hears each stage that really has to work,
    and may raise to give up. Raises GladStackError.
    """
    stages = Stages(memo or Memo(), tell)
    ground = None if recipe.ground.kind == "table" else recipe.ground.colour
    arts = tuple(pieces_of(art, assets, stages, ground) for art in recipe.arts)
    stack = Stack(recipe, arts, stages)
    _require_few(len(stack.films()))
    found = stack.drafts()
    proposed = stack.proposed(found)
    by_film = {d.film: d for d in found}
    drafts = [by_film[film] for film in ordered(recipe, proposed, stack)]
    joints = joints_of(recipe, drafts, stack)
    rules = {(j.lower, j.upper): j.joint for j in joints}
    made = cuts_of(drafts, rules, stages)
    cuts = made.shapes
    choices = [stack.choice(d.film) for d in drafts]
    for _ in range(SETTLING_ROUNDS):
        if (left := settled(drafts, cuts, choices, stages)) is None:
            break
        drafts = left
        made = cuts_of(drafts, rules, stages)
        cuts = made.shapes
    if (mended := put_right(drafts, cuts, choices, stages)) is not None:
        drafts = mended
        made = cuts_of(drafts, rules, stages)
        cuts = made.shapes
    # A film all of whose pieces went to others is no film any more.
    stay = [d for d, choice in zip(drafts, choices, strict=True) if not (asks(choice) and d.shape.value.is_empty)]
    if len(stay) < len(drafts):
        drafts = stay
        joints = joints_of(recipe, drafts, stack)
        rules = {(j.lower, j.upper): j.joint for j in joints}
        made = cuts_of(drafts, rules, stages)
        cuts = made.shapes
    index = stages.run("curves", curve_index, [a.curves for a in arts])
    outlines = [_outline(cut, arts, index, stages) for cut in cuts]
    names = stack.names()
    layers = _layers(stack, names, drafts, made, outlines, stages)
    pens = _pens(stack, layers, index, stages)
    extents = [stages.run("curves", bounds_of, outline).value for outline in outlines]
    bounds = [extent for extent in extents if extent is not None]
    box = box_around([*(a.page for a in arts if a.page), *bounds]) or (0.0, 0.0, 1.0, 1.0)
    frame = box_around(bounds) or box
    return Built(
        recipe=recipe,
        left_out=tuple(
            LeftOut(f, stack.colour(f), stack.choice(f).name or names.get(f, f))
            for f in stack.films()
            if stack.choice(f).left_out
        ),
        box=box,
        frame=frame,
        plain=stack.plain() or frame,
        arts=arts,
        art_films={a.id: tuple(dict.fromkeys(p.film for id_, p in stack.pieces if id_ == a.id and p.film)) for a in arts},
        proposed_order=tuple(proposed),
        layers=layers,
        pens=pens,
        joints=tuple(met(drafts, joints, stages)),
        holes=tuple(
            BuiltHole(m.id, hole, filled)
            for m in recipe.makings
            if isinstance(m, OutlineShadow) and m.holes == "fill-chosen"
            for hole, filled in stack.holes(m).value
        ),
        joined=Joined(tuple(drafts), rules, tuple(made.whole)),
        lost_bounds=tuple(stack.lost),
        emptied=tuple((film, stack.choice(film).name or film) for film in stack.emptied()),
        seconds=dict(stages.seconds),
    )


def _outline(cut: Cut, arts: Sequence[ArtPieces], index: Keyed[CurveIndex], stages: Stages) -> Keyed[Outline]:
    """What the blade cuts, as curves. One that is laid is drawn once, along the curves of the art that lies as it does."""
    if not isinstance(cut, Laid):
        return stages.run("curves", outline_of, cut, index)
    alike = [a.curves.base for a in arts if isinstance(a.curves, Laid) and a.curves.by == cut.by]
    drawn = stages.run("curves", outline_of, cut.base, stages.run("curves", curve_index, alike))
    return laid_by(laid_outline, drawn, cut.by, stages)


def curve_index(curves: Sequence[tuple[Curve, ...]]) -> CurveIndex:
    """The index of the curves of all art."""
    return CurveIndex([c for own in curves for c in own])


def _require_few(count: int) -> None:
    if count > MAX_FILMS:
        raise RecipeError(
            f"This design has {count} films; at most {MAX_FILMS} can lie on one another.", "Merge some of them."
        )


def _layers(
    stack: Stack,
    proposed_names: Mapping[str, str],
    drafts: Sequence[Draft],
    made: Cuts,
    outlines: Sequence[Keyed[Outline]],
    stages: Stages,
) -> tuple[BuiltLayer, ...]:
    out = []
    for k, (draft, cut, dropped, outline) in enumerate(zip(drafts, made.shapes, made.dropped, outlines, strict=True)):
        choice = stack.choice(draft.film)
        name = choice.name or proposed_names[draft.film]
        before = stack.untreated(draft.film).value if choice.thicken_mm else None
        out.append(
            BuiltLayer(
                draft.film, draft.colour, name, _slug(k, name), choice.finish, outline.key,
                draft.shape.value, before, cut, outline.value, dropped,
            )
        )  # fmt: skip
    return tuple(out)


def _pens(stack: Stack, layers: Sequence[BuiltLayer], index: Keyed[CurveIndex], stages: Stages) -> tuple[BuiltPen, ...]:
    """What is drawn by a pen, each on the film that is named for it, or on the lowest."""
    on_film = [layer.film for layer in layers if not layer.cut.is_empty]
    out = []
    for film in stack.films():
        choice = stack.choice(film)
        if choice.drawn == "no" or not on_film:
            continue
        host = stack.canonical(choice.drawn_on) if choice.drawn_on else on_film[0]
        lines = stages.run("curves", pen_lines, stack.shape(film), index, choice.drawn, choice.line_mm)
        name = choice.name or f"Pen on {next((x.name for x in layers if x.film == host), 'film')}"
        found = host if host in on_film else on_film[0]
        out.append(BuiltPen(film, stack.colour(film), found, name, choice.drawn, choice.pen, choice.line_mm, lines.value))
    return tuple(out)


def pen_lines(shape: MultiPolygon, index: CurveIndex, how: str, line_mm: float) -> tuple[Chain, ...]:
    """The lines of a pen for a shape: its outlines, and where it is filled lines within them, a pen's width apart."""
    rings = outline_of(shape, index).rings
    if how == "outlines":
        return tuple(rings)
    out = list(rings)
    left = shape.buffer(-line_mm)
    while not left.is_empty and len(out) < _MOST_LINES:
        parts = shapely.get_parts(left)
        out += [line_chain(np.asarray(r.coords)) for p in parts for r in (p.exterior, *p.interiors)]
        left = left.buffer(-line_mm)
    return tuple(out)


def _slug(position: int, name: str) -> str:
    plain = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:40] or "film"
    return f"{position + 1:02d}-{plain}"
