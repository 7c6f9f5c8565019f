"""Turning, mirroring and scaling everything on the stack about its origin."""

from __future__ import annotations

import math
from collections.abc import Callable

from gladstack.recipe.model.arts import AnyArt, Place, RasterArt
from gladstack.recipe.model.makings import DropShadow, HoleSpot, Making, OutlineShadow
from gladstack.recipe.model.recipe import ClosedGap, FilmChoice, Recipe, RepairedPlace, SettledPiece, Version
from gladstack.recipe.model.scaling import scaled_by_type
from gladstack.recipe.model.values import changed


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
        return moved_holes(old, spot)

    arts = tuple(changed(a, place=place(a.place)) for a in recipe.arts)

    def version(old: Version) -> Version:
        return changed(old, films=tuple(changed(own, choice=moved_choice(own.choice, spot)) for own in old.films))

    films = tuple(moved_choice(f, spot) for f in recipe.films)
    makings, versions = tuple(map(making, recipe.makings)), tuple(map(version, recipe.versions))
    return changed(recipe, arts=arts, makings=makings, films=films, versions=versions)


Spot = Callable[[float, float], tuple[float, float]]
"""Where a point of the stack goes."""


def moved_holes(making: Making, spot: Spot) -> Making:
    """A making with the points of the stack moved that choose holes to be filled."""
    if not isinstance(making, OutlineShadow) or not making.chosen:
        return making
    return changed(making, chosen=tuple(HoleSpot(x_mm=(p := spot(s.x_mm, s.y_mm))[0], y_mm=p[1]) for s in making.chosen))


def moved_choice(film: FilmChoice, spot: Spot) -> FilmChoice:
    """A film's choices with the points of the stack that they name moved."""
    if not (film.pieces or film.closed or film.repairs):
        return film

    def piece(old: SettledPiece) -> SettledPiece:
        x, y = spot(old.x_mm, old.y_mm)
        return changed(old, x_mm=x, y_mm=y)

    def gap(old: ClosedGap) -> ClosedGap:
        (x1, y1), (x2, y2) = spot(old.x1_mm, old.y1_mm), spot(old.x2_mm, old.y2_mm)
        return ClosedGap(x1_mm=x1, y1_mm=y1, x2_mm=x2, y2_mm=y2)

    def repair(old: RepairedPlace) -> RepairedPlace:
        if old.at is None:
            return old
        x, y = spot(*old.at)
        return changed(old, x_mm=x, y_mm=y)

    return changed(
        film, pieces=tuple(map(piece, film.pieces)), closed=tuple(map(gap, film.closed)),
        repairs=tuple(map(repair, film.repairs)),
    )  # fmt: skip


def scaled_art(art: AnyArt, factor: float, x_mm: float, y_mm: float, *, added: bool = False) -> AnyArt:
    """An art scaled about a point of the stack, by its own measures, so that what is shown of them stays true.

    A vector file has none of its own: it is its place that is scaled.
    """
    p = art.place
    place = changed(p, x_mm=x_mm + (p.x_mm - x_mm) * factor, y_mm=y_mm + (p.y_mm - y_mm) * factor)
    if (larger := art.scaled_in_place(factor)) is not None:
        return changed(art, place=changed(place, scale_x=larger.scale_x, scale_y=larger.scale_y))
    return changed(scaled_by_type(art, factor, added=added), place=place)


def scaled(recipe: Recipe, factor: float, *, lengths: bool) -> Recipe:
    """Everything scaled by `factor`; with `lengths`, joints, shadows, lines and treatments as well.

    Its versions stay as large as they are.
    """
    arts = tuple(scaled_art(art, factor, 0.0, 0.0, added=lengths) for art in recipe.arts)
    versions = tuple(changed(v, factor=v.factor / factor) for v in recipe.versions)
    return changed(scaled_by_type(recipe, factor, added=lengths, keep=("arts", "versions")), arts=arts, versions=versions)


def _round_angle(degrees: float) -> float:
    turn = round(degrees % 360.0, 6)
    return turn - 360.0 if turn > 180.0 else turn


def resized(old: AnyArt, new: AnyArt) -> AnyArt:
    """An art changed, with the lengths of its mends grown as its width has, if they were not changed themselves."""
    if not isinstance(old, RasterArt) or not isinstance(new, RasterArt):
        return new
    if old.width_mm == new.width_mm or (old.mends, old.simplify_mm) != (new.mends, new.simplify_mm):
        return new
    larger = scaled_by_type(new, new.width_mm / old.width_mm, added=False)
    return changed(new, mends=larger.mends, simplify_mm=larger.simplify_mm)
