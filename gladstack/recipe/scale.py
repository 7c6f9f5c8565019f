"""Turning, mirroring and scaling everything on the stack about its origin."""

from __future__ import annotations

import math

from gladstack.recipe.arts import Art, LineArt, PictureArt, Place, VectorArt
from gladstack.recipe.makings import Band, DropShadow, Making, OutlineShadow, Spot, StitchLine
from gladstack.recipe.models import JointRule, Recipe
from gladstack.recipe.values import changed


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
    return changed(recipe, arts=arts, makings=tuple(making(m) for m in recipe.makings))


def scaled(recipe: Recipe, factor: float, *, lengths: bool) -> Recipe:
    """Everything scaled by `factor`; with `lengths`, joints, shadows, lines and treatments as well."""

    def art(old: Art) -> Art:
        p = old.place
        place = changed(
            p, x_mm=p.x_mm * factor, y_mm=p.y_mm * factor, scale_x=p.scale_x * factor, scale_y=p.scale_y * factor
        )
        if isinstance(old, VectorArt):
            return changed(old, place=place)
        if isinstance(old, PictureArt | LineArt):
            # A picture is as wide as its own width says; only its shape is kept in the scale.
            place = changed(place, scale_x=p.scale_x, scale_y=p.scale_y)
            return changed(old, place=place, width_mm=old.width_mm * factor)
        return changed(old, place=place, margin_mm=old.margin_mm * factor if lengths else old.margin_mm)

    def rule(old: JointRule) -> JointRule:
        return changed(old, mm=old.mm * factor)

    out = changed(recipe, arts=tuple(art(a) for a in recipe.arts))
    makings = tuple(_moved_holes(m, factor) for m in recipe.makings)
    if not lengths:
        return changed(out, makings=makings)
    films = tuple(
        changed(f, joint=rule(f.joint) if f.joint else None, thicken_mm=f.thicken_mm * factor) for f in recipe.films
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
