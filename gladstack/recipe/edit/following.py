"""Points of the stack that follow the art they were set on, when that is moved, turned or mirrored."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import isclose

from gladstack.core.geometry.curves import IDENTITY, Matrix, compose, inverse
from gladstack.recipe.edit.scale import Spot, moved_choice, moved_holes
from gladstack.recipe.model.arts import AnyArt, RegionArt
from gladstack.recipe.model.recipe import Recipe, Version
from gladstack.recipe.model.values import changed

_DECIMALS = 6


def moves_of(old: Sequence[AnyArt], new: Sequence[AnyArt]) -> dict[str, Matrix]:
    """How each art that was there before has been moved, turned or mirrored, by its id."""
    were = {a.id: a.place for a in old}
    return {
        a.id: IDENTITY if a.place == were[a.id] else compose(a.place.laid, inverse(were[a.id].laid))
        for a in new
        if a.id in were
    }


def followed(recipe: Recipe, moves: Mapping[str, Matrix], scale: float = 1.0) -> Recipe:
    """A recipe, whose lengths are `scale` times those of the moves, with the points of its films where their art went.

    A film's points go with the art that may give to it, if all of that went the same way.
    """
    if all(move == IDENTITY for move in moves.values()):
        return recipe
    arts, of_all = recipe.arts, _common(list(moves.values()))
    ways = {f: _common([moves.get(a.id, IDENTITY) for a in arts if _may_give(a, f)]) for f in _named(recipe)}
    for making in recipe.makings:
        ways[making.film] = of_all

    def version(old: Version) -> Version:
        own = [changed(o, choice=moved_choice(o.choice, _spot(ways[o.choice.film], scale * old.factor))) for o in old.films]
        return changed(old, films=tuple(own))

    return changed(
        recipe,
        films=tuple(moved_choice(f, _spot(ways[f.film], scale)) for f in recipe.films),
        makings=tuple(moved_holes(m, _spot(of_all, scale)) for m in recipe.makings),
        versions=tuple(map(version, recipe.versions)),
    )


def _named(recipe: Recipe) -> set[str]:
    return {f.film for f in recipe.films} | {own.choice.film for v in recipe.versions for own in v.films}


def _may_give(art: AnyArt, film: str) -> bool:
    """Whether an art may give to a film: which colours regions have, only its picture or file tells."""
    any_colour = isinstance(art, RegionArt) and art.as_film is None and film.startswith("#")
    return any_colour or film in art.named_films


def _common(moves: Sequence[Matrix]) -> Matrix:
    """The move that all of these are; none where they differ."""
    if not moves:
        return IDENTITY
    first = moves[0]
    same = all(isclose(a, b, abs_tol=1e-9) for move in moves for a, b in zip(first, move, strict=True))
    return first if same else IDENTITY


def _spot(move: Matrix, scale: float) -> Spot:
    a, b, c, d, e, f = move

    def spot(x: float, y: float) -> tuple[float, float]:
        if move == IDENTITY:
            return x, y
        return round(a * x + c * y + e * scale, _DECIMALS), round(b * x + d * y + f * scale, _DECIMALS)

    return spot
