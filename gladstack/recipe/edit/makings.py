"""Edits of shadows, stitch lines and bands."""

from __future__ import annotations

from typing import Literal

from gladstack.core.base.errors import RecipeError
from gladstack.recipe.edit.arts import without_lost
from gladstack.recipe.edit.base import AnEdit, free_id, ids_of, with_film
from gladstack.recipe.model.arts import NEW
from gladstack.recipe.model.makings import Making
from gladstack.recipe.model.recipe import JointRule, Recipe
from gladstack.recipe.model.values import Colour, Id, changed

_NEW_COLOUR = "#25231e"


class AddMaking(AnEdit):
    """Make a shadow, stitch line or band on a film of its own or another; it is given an id.

    `colour` is that of a film which is new.
    """

    kind: Literal["add-making"] = "add-making"
    making: Making
    colour: Colour | None = None

    def apply(self, recipe: Recipe) -> Recipe:
        """Makes it."""
        id_ = free_id(ids_of(recipe), self.making.kind)
        film = id_ if self.making.film == NEW else self.making.film
        if film == id_:
            # A shadow is solid under what casts it unless the maker wants otherwise.
            rule = JointRule(kind="full", mm=0.0) if self.making.casts else None
            recipe = with_film(recipe, film, colour=self.colour or _NEW_COLOUR, joint=rule)
        return changed(recipe, makings=(*recipe.makings, changed(self.making, id=id_, film=film)))

    def describe(self, recipe: Recipe) -> str:
        """Tells what."""
        return f"Made {self.making.called}"


class ChangeMaking(AnEdit):
    """Give a making new choices, as a whole."""

    kind: Literal["change-making"] = "change-making"
    making: Making

    def apply(self, recipe: Recipe) -> Recipe:
        """Changes it. Raises RecipeError if it is gone."""
        if all(m.id != self.making.id for m in recipe.makings):
            raise RecipeError("This shadow or line is no longer there.", "Add another.")
        return changed(recipe, makings=tuple(self.making if m.id == self.making.id else m for m in recipe.makings))

    def describe(self, recipe: Recipe) -> str:
        """Tells what."""
        return f"Changed {self.making.called}"


class RemoveMaking(AnEdit):
    """Take a making away, and whatever was made of its film alone."""

    kind: Literal["remove-making"] = "remove-making"
    making: Id

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes it away. Raises RecipeError if it is gone."""
        if all(m.id != self.making for m in recipe.makings):
            raise RecipeError("This shadow or line is no longer there.")
        kept = changed(recipe, makings=tuple(m for m in recipe.makings if m.id != self.making))
        return without_lost(kept, set(), recipe)

    def describe(self, recipe: Recipe) -> str:
        """Tells what."""
        gone = next((m for m in recipe.makings if m.id == self.making), None)
        return f"Took away {gone.called if gone else 'a making'}"
