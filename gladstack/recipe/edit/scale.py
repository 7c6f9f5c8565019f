"""Turning, mirroring and scaling everything on the stack about its origin."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import TypeVar

from gladstack.recipe.model.arts import (
    AnyArt,
    Art,
    LetteringArt,
    LineArt,
    OneFilmArt,
    PictureArt,
    Place,
    RegionArt,
    ShapeArt,
    VectorArt,
)
from gladstack.recipe.model.makings import Band, DropShadow, Making, OutlineShadow, Spot, StitchLine
from gladstack.recipe.model.recipe import ClosedGap, FilmChoice, JointRule, PieceChoice, Recipe
from gladstack.recipe.model.values import M, changed

R = TypeVar("R", bound=RegionArt)


def turned(recipe: Recipe, turn_deg: float, *, mirror: bool) -> Recipe:
    """Everything turned clockwise, mirrored left to right before that if wanted."""
    turn = math.radians(turn_deg)
    cos, sin = math.cos(turn), math.sin(turn)

    def spot(x: float, y: float) -> tuple[float, float]:
        x = -x if mirror else x
        return round(cos * x - sin * y, 6), round(sin * x + cos * y, 6)

    def place(old: Place) -> Place:
        x, y = spot(old.x_mm, old.y_mm)
        own = -old.turn_deg if mirror else old.turn_deg
        return changed(old, x_mm=x, y_mm=y, turn_deg=_round_angle(own + turn_deg), mirrored=old.mirrored != mirror)

    def making(old: Making) -> Making:
        if isinstance(old, DropShadow):
            own = 180.0 - old.angle_deg if mirror else old.angle_deg
            return changed(old, angle_deg=_round_angle(own + turn_deg))
        if isinstance(old, OutlineShadow):
            return changed(old, chosen=tuple(Spot(x_mm=(p := spot(s.x_mm, s.y_mm))[0], y_mm=p[1]) for s in old.chosen))
        return old

    arts = tuple(changed(a, place=place(a.place)) for a in recipe.arts)
    films = tuple(_moved_pieces(f, spot) for f in recipe.films)
    return changed(recipe, arts=arts, makings=tuple(making(m) for m in recipe.makings), films=films)


def _moved_pieces(film: FilmChoice, spot: Callable[[float, float], tuple[float, float]]) -> FilmChoice:
    """A film's choices with the points of the stack that they name moved."""
    if not film.pieces and not film.closed:
        return film

    def piece(old: PieceChoice) -> PieceChoice:
        x, y = spot(old.x_mm, old.y_mm)
        return changed(old, x_mm=x, y_mm=y)

    def gap(old: ClosedGap) -> ClosedGap:
        (x1, y1), (x2, y2) = spot(old.x1_mm, old.y1_mm), spot(old.x2_mm, old.y2_mm)
        return ClosedGap(x1_mm=x1, y1_mm=y1, x2_mm=x2, y2_mm=y2)

    return changed(film, pieces=tuple(map(piece, film.pieces)), closed=tuple(map(gap, film.closed)))


def scaled_art(art: AnyArt, factor: float, x_mm: float, y_mm: float) -> AnyArt:
    """An art scaled about a point of the stack, by its own measures, so that what is shown of them stays true.

    A vector file has none of its own: it is its place that is scaled.
    """
    p = art.place
    place = changed(p, x_mm=x_mm + (p.x_mm - x_mm) * factor, y_mm=y_mm + (p.y_mm - y_mm) * factor)
    match art:
        case PictureArt() | LineArt():
            return changed(grown_mends(art, factor), place=place, width_mm=art.width_mm * factor)
        case VectorArt():
            place = changed(place, scale_x=p.scale_x * factor, scale_y=p.scale_y * factor)
            return changed(art, place=place)
        case ShapeArt():
            mends = tuple(_times(m, factor) for m in art.mends)
            return changed(art, place=place, form=_times(art.form, factor), mends=mends)
        case LetteringArt():
            new = _times(art, factor, keep=("margin_mm",))
            return changed(
                new,
                place=place,
                bend=_times(art.bend, factor) if art.bend else None,
                lines=tuple(_times(line, factor) for line in art.lines),
                letters=tuple(_times(tweak, factor) for tweak in art.letters),
                mends=tuple(_times(m, factor) for m in art.mends),
            )
    raise AssertionError(art)


def grown_mends(art: R, factor: float) -> R:
    """An art with the lengths of its mends, and how far its edges may move, multiplied: it is to be so much larger."""
    mends = tuple(_times(m, factor) for m in art.mends)
    return changed(art, mends=mends, simplify_mm=art.simplify_mm * factor)


def _times(model: M, factor: float, keep: tuple[str, ...] = ()) -> M:
    """The model with every length of it (its fields in mm) multiplied."""
    fields = type(model).model_fields
    lengths = {k: getattr(model, k) for k in fields if (k.endswith("_mm") or k == "mm") and k not in keep}
    return changed(model, **{k: v * factor for k, v in lengths.items() if v is not None})


def scaled(recipe: Recipe, factor: float, *, lengths: bool) -> Recipe:
    """Everything scaled by `factor`; with `lengths`, joints, shadows, lines and treatments as well."""

    def art(old: Art) -> AnyArt:
        new = scaled_art(old, factor, 0.0, 0.0)
        if lengths and isinstance(new, OneFilmArt):
            return changed(new, margin_mm=new.margin_mm * factor)
        return new

    def rule(old: JointRule) -> JointRule:
        return changed(old, mm=old.mm * factor)

    out = changed(recipe, arts=tuple(art(a) for a in recipe.arts))
    makings = tuple(_moved_holes(m, factor) for m in recipe.makings)
    films = tuple(_moved_pieces(f, lambda x, y: (x * factor, y * factor)) for f in recipe.films)
    if not lengths:
        return changed(out, makings=makings, films=films)
    films = tuple(
        changed(
            f,
            joint=rule(f.joint) if f.joint else None,
            thicken_mm=f.thicken_mm * factor,
            close_mm=f.close_mm * factor,
            small=changed(f.small, below_mm2=f.small.below_mm2 * factor * factor) if f.small else None,
        )
        for f in films
    )
    return changed(
        out,
        makings=tuple(_scaled_making(m, factor) for m in makings),
        joint=rule(recipe.joint),
        films=films,
        pairs=tuple(changed(p, rule=rule(p.rule)) for p in recipe.pairs),
    )


def _moved_holes(making: Making, factor: float) -> Making:
    if isinstance(making, OutlineShadow):
        return changed(making, chosen=tuple(Spot(x_mm=s.x_mm * factor, y_mm=s.y_mm * factor) for s in making.chosen))
    return making


def _scaled_making(making: Making, f: float) -> Making:
    match making:
        case OutlineShadow():
            return changed(making, mm=making.mm * f, small_mm2=making.small_mm2 * f * f)
        case DropShadow():
            return changed(making, length_mm=making.length_mm * f, grow_mm=making.grow_mm * f)
        case StitchLine():
            return changed(
                making, mm=making.mm * f, dash_mm=making.dash_mm * f, gap_mm=making.gap_mm * f, width_mm=making.width_mm * f
            )
        case Band():
            return changed(making, inner_mm=making.inner_mm * f, outer_mm=making.outer_mm * f)
    raise AssertionError(making)


def _round_angle(degrees: float) -> float:
    turn = round(degrees % 360.0, 6)
    return turn - 360.0 if turn > 180.0 else turn


def resized(old: AnyArt, new: AnyArt) -> AnyArt:
    """An art changed, with the lengths of its mends grown as its width has, if they were not changed themselves."""
    if not isinstance(old, PictureArt | LineArt) or not isinstance(new, PictureArt | LineArt):
        return new
    if old.width_mm == new.width_mm or (old.mends, old.simplify_mm) != (new.mends, new.simplify_mm):
        return new
    return grown_mends(new, new.width_mm / old.width_mm)
