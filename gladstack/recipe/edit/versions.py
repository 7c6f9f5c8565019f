"""Versions of one motif: what one comes to, and how a change made in it goes to the motif or stays its own.

A version is the motif scaled as a whole, joints and limits as they were, with what it decides for itself in place of what
the motif has. Whatever else is changed in it is the motif's, and so goes through all.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial
from itertools import islice
from math import isclose
from typing import Any, Literal

from gladstack.core.base.errors import RecipeError
from gladstack.recipe.edit.scale import scaled, scaled_art
from gladstack.recipe.model.arts import AnyArt
from gladstack.recipe.model.recipe import FILM_OWN, FilmChoice, FilmOwn, OwnFilm, Recipe, Version
from gladstack.recipe.model.scaling import scaled_by_type
from gladstack.recipe.model.values import Frozen, changed

DesignOwn = Literal["use", "ground", "joint", "pairs", "small_mm2"]
DESIGN_OWN: tuple[DesignOwn, ...] = ("use", "ground", "joint", "pairs", "small_mm2")
"""What a version may decide for itself of the design as a whole, but for its size."""
Own = Literal["size"] | DesignOwn | FilmOwn
_FILM_SHARED = tuple(FilmChoice.model_fields.keys() - {"film", *FILM_OWN})
_MOST_TRIED = 400
_SHARED = ("name", "unit", "order")


@dataclass(frozen=True)
class Decision:
    """Something that a version decides for itself: what, of which film (None: of the design), as it has it and as the motif
    does.
    """

    what: Own
    film: str | None
    own: Any
    motif: Any


def known_version(recipe: Recipe, version: str) -> Version:
    """The version of this id. Raises RecipeError."""
    found = next((v for v in recipe.versions if v.id == version), None)
    if found is None:
        raise RecipeError("The design has no version of this name now.", "Undo what removed it, or choose another.")
    return found


def as_version(motif: Recipe, version: str) -> Recipe:
    """The recipe of a version, which still names all versions. Raises RecipeError."""
    own = known_version(motif, version)
    like_motif = scaled(motif, own.factor, lengths=False)
    films = {f.film: f for f in like_motif.films}
    for mine in own.films:
        key = mine.choice.film
        choice = changed(films.get(key, FilmChoice(film=key)), **{f: getattr(mine.choice, f) for f in mine.decides})
        films[key] = choice
    decided = {f: getattr(own, f) for f in DESIGN_OWN if getattr(own, f) is not None}
    return changed(like_motif, films=tuple(films.values()), versions=motif.versions, **decided)


def decisions(motif: Recipe, version: str) -> list[Decision]:
    """What a version decides for itself, its size first."""
    own = known_version(motif, version)
    like_motif = scaled(motif, own.factor, lengths=False)
    out = [Decision("size", None, own.factor, 1.0)] if own.factor != 1.0 else []
    out += [Decision(f, None, getattr(own, f), getattr(like_motif, f)) for f in DESIGN_OWN if getattr(own, f) is not None]
    for mine in own.films:
        film = like_motif.film(mine.choice.film)
        out += [Decision(f, film.film, getattr(mine.choice, f), getattr(film, f)) for f in mine.decides]
    return out


def folded(motif: Recipe, version: str, old: Recipe, new: Recipe) -> Recipe:
    """The motif after the recipe of a version has become `new`, which was `old`.

    Where all art grew alike, it is the version that has another size. Raises RecipeError.
    """
    own = known_version(new, version)
    grown = growth(old.arts, new.arts)
    if grown is not None:
        own = changed(own, factor=own.factor * grown)
        old = scaled(old, grown, lengths=False)
    back = 1.0 / own.factor
    kept, was = {a.id: a for a in motif.arts}, {a.id: a for a in old.arts}
    arts = tuple(_art_back(kept.get(a.id), was.get(a.id), a, back) for a in new.arts)
    kept_makings, were = {m.id: m for m in motif.makings}, {m.id: m for m in old.makings}
    makings = tuple(
        kept_makings[m.id] if m.id in kept_makings and _alike(were.get(m.id), m) else scaled_by_type(m, back, added=False)
        for m in new.makings
    )
    like_motif = scaled(motif, own.factor, lengths=False)
    films, own_films = _films_back(motif, like_motif, own, old, new)
    decided = {f: _decided(getattr(own, f), getattr(old, f), getattr(new, f), getattr(like_motif, f)) for f in DESIGN_OWN}
    own = changed(own, films=own_films, **decided)
    versions = tuple(own if v.id == own.id else v for v in new.versions)
    shared = {f: getattr(new, f) for f in _SHARED}
    return changed(motif, arts=arts, makings=makings, films=films, versions=versions, **shared)


def growth(old: tuple[AnyArt, ...], new: tuple[AnyArt, ...]) -> float | None:
    """How many times as large all art has become, if it is the same art and nothing else of it was changed but, of one
    alone, its place; None otherwise.
    """
    if [a.id for a in old] != [a.id for a in new] or not old:
        return None
    ratios = _ratios(old[0].model_dump(exclude={"place"}), new[0].model_dump(exclude={"place"}))
    sides = new[0].place.scale_x / old[0].place.scale_x
    tried = dict.fromkeys(f for f in [*islice(ratios, _MOST_TRIED), sides] if not isclose(f, 1.0, rel_tol=1e-9))
    return next((f for f in tried if 1e-3 < f < 1e3 and all(map(partial(_grew, f, len(old) == 1), old, new))), None)


def _grew(factor: float, alone: bool, old: AnyArt, new: AnyArt) -> bool:
    """Whether an art is just so many times as large, wherever it lies now if it is `alone`."""
    larger = scaled_art(old, factor, 0.0, 0.0)
    if alone:
        larger = changed(larger, place=changed(larger.place, x_mm=new.place.x_mm, y_mm=new.place.y_mm))
    return _alike(larger, new)


def _ratios(old: Any, new: Any) -> Iterator[float]:
    """What the numbers of one dump are in another, measured by themselves."""
    if isinstance(old, float) and isinstance(new, float) and old > 0.0:
        yield new / old
    elif isinstance(old, dict) and isinstance(new, dict):
        for key in [key for key in old if key in new]:
            yield from _ratios(old[key], new[key])
    elif isinstance(old, list | tuple) and isinstance(new, list | tuple):
        for before, after in zip(old, new, strict=False):
            yield from _ratios(before, after)


def _alike(a: Any, b: Any) -> bool:
    """Whether two values are the same but for the rounding of numbers."""
    if isinstance(a, Frozen) and isinstance(b, Frozen):
        return a == b or (type(a) is type(b) and _alike(dict(a), dict(b)))
    if isinstance(a, float) and isinstance(b, float):
        return isclose(a, b, rel_tol=1e-6, abs_tol=1e-6)
    if isinstance(a, dict) and isinstance(b, dict):
        return a.keys() == b.keys() and all(_alike(a[k], b[k]) for k in a)
    if isinstance(a, list | tuple) and isinstance(b, list | tuple):
        return len(a) == len(b) and all(map(_alike, a, b))
    return bool(a == b)


def _art_back(kept: AnyArt | None, old: AnyArt | None, new: AnyArt, back: float) -> AnyArt:
    """An art of a version in the motif's mm; what was not changed of it stays to the last digit."""
    if kept is not None and old is not None and _alike(old, new):
        return kept
    art = scaled_art(new, back, 0.0, 0.0)
    if kept is None or old is None or type(kept) is not type(art) or type(old) is not type(art):
        return art
    same = [f for f in type(art).model_fields if _alike(getattr(new, f), getattr(old, f))]
    return changed(art, **{f: getattr(kept, f) for f in same})


def _films_back(
    motif: Recipe, like_motif: Recipe, own: Version, old: Recipe, new: Recipe
) -> tuple[tuple[FilmChoice, ...], tuple[OwnFilm, ...]]:
    """The motif's choices for films, and what the version decides for itself of them."""
    films = {f.film: f for f in motif.films}
    mine = {o.choice.film: o for o in own.films}
    were, are = ({*recipe.film_keys(), *(f.film for f in recipe.films)} for recipe in (old, new))
    for key in dict.fromkeys([*(f.film for f in new.films), *(f.film for f in old.films), *mine]):
        before, after = old.film(key), new.film(key)
        gone = key in old.film_keys() and key not in are
        brought = key not in were and key in new.film_keys()
        if gone:
            films.pop(key, None)
            mine.pop(key, None)
        elif brought:
            # A film that came with this change is the motif's as it is.
            films[key] = after
        else:
            shared = {f: getattr(after, f) for f in _FILM_SHARED if not _alike(getattr(before, f), getattr(after, f))}
            if shared:
                films[key] = changed(films.get(key, FilmChoice(film=key)), **shared)
            held = mine[key].decides if key in mine else ()
            plain = like_motif.film(key)
            decides = tuple(
                f
                for f in FILM_OWN
                if (f in held or not _alike(getattr(before, f), getattr(after, f)))
                and not _alike(getattr(after, f), getattr(plain, f))
            )
            mine.pop(key, None)
            if decides:
                choice = changed(FilmChoice(film=key), **{f: getattr(after, f) for f in decides})
                mine[key] = OwnFilm(choice=choice, decides=decides)
    empty = [key for key, film in films.items() if film == FilmChoice(film=key)]
    return tuple(film for key, film in films.items() if key not in empty), tuple(mine.values())


def _decided(own: Any, before: Any, after: Any, motif: Any) -> Any:
    """What a version decides of the design: what it did before or was changed now, where the motif has it otherwise."""
    return after if (own is not None or not _alike(before, after)) and not _alike(after, motif) else None
