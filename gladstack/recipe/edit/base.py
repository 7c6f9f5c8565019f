"""What all edits are: small commands, each with what it does to a recipe and what the history calls it."""

from __future__ import annotations

from abc import abstractmethod
from typing import ClassVar

from gladstack.core.base.colour import colour_name, from_hex
from gladstack.core.base.errors import RecipeError
from gladstack.recipe.model.arts import AnyArt
from gladstack.recipe.model.recipe import FilmChoice, Recipe
from gladstack.recipe.model.values import Frozen, changed


class AnEdit(Frozen):
    """One edit. `plain` ones can change no shape, and so wait for no geometry; what is `of_motif` is made in the
    motif itself, in whichever version of it that was asked for.
    """

    plain: ClassVar[bool] = False
    of_motif: ClassVar[bool] = False

    def in_motif(self, recipe: Recipe, factor: float) -> AnEdit:
        """What is `of_motif`, told in the motif's own measures where it was made in a version `factor` times as large."""
        return self

    @abstractmethod
    def apply(self, recipe: Recipe) -> Recipe:
        """The recipe with the edit made. Raises RecipeError if the edit contradicts it."""

    @abstractmethod
    def describe(self, recipe: Recipe) -> str:
        """One line for the history; `recipe` is the one the edit is applied to."""


def named(recipe: Recipe, art: str) -> str:
    """The art of this id in a few words."""
    found = recipe.art(art)
    return found.title if found else art


def film_name(recipe: Recipe, film: str) -> str:
    """What the maker calls a film, else what its colour is called."""
    choice = recipe.film(film)
    colour = choice.colour or film
    return choice.name or (colour_name(from_hex(colour)) if colour.startswith("#") else film)


def known_art(recipe: Recipe, art: str) -> AnyArt:
    """The art of this id. Raises RecipeError."""
    found = recipe.art(art)
    if found is None:
        raise RecipeError("This art is no longer on the stack.", "Bring it in again, or undo.")
    return found


def with_art(recipe: Recipe, art: AnyArt) -> Recipe:
    """The recipe with an art in place of that of the same id."""
    return changed(recipe, arts=tuple(art if a.id == art.id else a for a in recipe.arts))


def with_film(recipe: Recipe, film: str, **changes: object) -> Recipe:
    """The recipe with some choices of a film changed."""
    new = changed(recipe.film(film), **changes)
    others = tuple(f for f in recipe.films if f.film != film)
    return changed(recipe, films=others if new == FilmChoice(film=film) else (*others, new))


def free_id(taken: set[str], stem: str) -> str:
    """An id that is not taken yet."""
    return next(name for k in range(1, 10_000) if (name := f"{stem}-{k}") not in taken)


def ids_of(recipe: Recipe) -> set[str]:
    """All ids and film keys of a recipe."""
    return {a.id for a in recipe.arts} | {m.id for m in recipe.makings} | set(recipe.film_keys())
