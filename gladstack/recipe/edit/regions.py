"""Edits of art that comes as regions: claims, mends, and films that are replaced."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from gladstack.core.base.errors import RecipeError
from gladstack.recipe.edit.arts import AddArt
from gladstack.recipe.edit.base import AnEdit, film_name, free_id, known_art, with_art
from gladstack.recipe.edit.makings import AddMaking
from gladstack.recipe.model.arts import LetteringArt, RegionArt
from gladstack.recipe.model.makings import OutlineShadow
from gladstack.recipe.model.mends import LetGo, Mend, Straighten
from gladstack.recipe.model.pins import Pin
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.values import FilmKey, Id, changed

_MENDS = {
    "bridge": "bridge", "cut-away": "cut", "brush": "stroke of the brush", "smooth": "smoothed edge",
    "straighten": "straight edge", "push": "pushed edge", "move-edge": "moved edge",
    "draw-edge": "edge redrawn", "put-node": "node put right", "draw-area": "drawn area",
    "take-over": "thin line given away", "let-go": "film removed",
}  # fmt: skip
_BECOMES = {
    "open": "left open", "hole": "a hole through everything", "dropped": "dropped", "merged": "merged with a neighbour",
    "outer": "only the outer line", "inner": "only the inner line", "middle": "the line in the middle",
    "own": "as it was",
}  # fmt: skip


class OfRegions(AnEdit):
    """An edit of an art that comes as regions."""

    art: Id

    def regions(self, recipe: Recipe) -> RegionArt:
        """The art it is about. Raises RecipeError."""
        art = recipe.art(self.art)
        if not isinstance(art, RegionArt):
            raise RecipeError("This art has no regions.", "Choose a picture, line art or a vector file.")
        return art


class OfMends(AnEdit):
    """An edit of how an art is mended."""

    art: Id

    def mends(self, recipe: Recipe) -> tuple[Mend, ...]:
        """The steps by which the art is mended. Raises RecipeError."""
        return known_art(recipe, self.art).mends

    def mended(self, recipe: Recipe, *mends: Mend) -> Recipe:
        """The recipe with these as the art's mends."""
        return with_art(recipe, changed(known_art(recipe, self.art), mends=mends))


class ClaimRegions(OfRegions):
    """Say of the regions at some points whose they are, or what becomes of them."""

    kind: Literal["claim-regions"] = "claim-regions"
    pins: Annotated[tuple[Pin, ...], Field(min_length=1, max_length=5000)]

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the claims; a point that is claimed again keeps only its last claim."""
        art = self.regions(recipe)
        fresh = {(p.x, p.y) for p in self.pins}
        return with_art(recipe, changed(art, pins=(*(p for p in art.pins if (p.x, p.y) not in fresh), *self.pins)))

    def describe(self, recipe: Recipe) -> str:
        """Tells whose they are."""
        many = f"{len(self.pins)} regions" if len(self.pins) > 1 else "A region"
        told = {film_name(recipe, p.film) if p.film else _BECOMES[p.becomes] for p in self.pins}
        return f"{many}: {' and '.join(sorted(told))}"


class AddMend(OfMends):
    """Mend an art by one more step; it is given an id."""

    kind: Literal["add-mend"] = "add-mend"
    mend: Mend

    def apply(self, recipe: Recipe) -> Recipe:
        """Adds it."""
        mends = self.mends(recipe)
        return self.mended(recipe, *mends, changed(self.mend, id=free_id({m.id for m in mends}, self.mend.kind)))

    def describe(self, recipe: Recipe) -> str:
        """Tells what."""
        if isinstance(self.mend, Straighten) and self.mend.through:
            return "Took a node out"
        return f"Mended: {_MENDS[self.mend.kind]}"


class ChangeMend(OfMends):
    """Give a step of mending new choices, as a whole; so it is switched off and on, too."""

    kind: Literal["change-mend"] = "change-mend"
    mend: Mend

    def apply(self, recipe: Recipe) -> Recipe:
        """Changes it. Raises RecipeError if it is gone."""
        mends = self.mends(recipe)
        _known_mend(mends, self.mend.id)
        return self.mended(recipe, *(self.mend if m.id == self.mend.id else m for m in mends))

    def describe(self, recipe: Recipe) -> str:
        """Tells what."""
        return f"Changed a step of mending: {_MENDS[self.mend.kind]}"


class RemoveMend(OfMends):
    """Take a step of mending away."""

    kind: Literal["remove-mend"] = "remove-mend"
    mend: Id

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes it away. Raises RecipeError if it is gone."""
        mends = self.mends(recipe)
        _known_mend(mends, self.mend)
        return self.mended(recipe, *(m for m in mends if m.id != self.mend))

    def describe(self, recipe: Recipe) -> str:
        """Tells what."""
        art = recipe.art(self.art)
        found = next((m for m in art.mends if m.id == self.mend), None) if art else None
        return f"Took away a step of mending: {_MENDS[found.kind] if found else self.mend}"


class OrderMends(OfMends):
    """Put the steps of mending in this order."""

    kind: Literal["order-mends"] = "order-mends"
    order: Annotated[tuple[Id, ...], Field(max_length=500)]

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the order. Raises RecipeError unless it names every step once."""
        by_id = {m.id: m for m in self.mends(recipe)}
        if sorted(self.order) != sorted(by_id):
            raise RecipeError("The order must name every step of mending once.")
        return self.mended(recipe, *(by_id[id_] for id_ in self.order))

    def describe(self, recipe: Recipe) -> str:
        """Tells that."""
        return "Reordered the mending"


class ReplaceFilm(OfMends):
    """Let a badly separated film of an art go, and put lettering, or an outline shadow of other films, in its place."""

    kind: Literal["replace-film"] = "replace-film"
    film: FilmKey
    lettering: LetteringArt | None = None
    shadow: OutlineShadow | None = None

    @model_validator(mode="after")
    def _by_one(self) -> ReplaceFilm:
        if (self.lettering is None) == (self.shadow is None):
            raise ValueError("a film is replaced by lettering or by a shadow")
        return self

    def apply(self, recipe: Recipe) -> Recipe:
        """Lets the film go, and gives what is put in its place to the same film."""
        mends = self.mends(recipe)
        recipe = self.mended(recipe, *mends, LetGo(id=free_id({m.id for m in mends}, "let-go"), film=self.film))
        if self.lettering is not None:
            return AddArt(art=changed(self.lettering, film=self.film)).apply(recipe)
        if self.shadow is not None:
            return AddMaking(making=changed(self.shadow, film=self.film)).apply(recipe)
        raise AssertionError(self)

    def describe(self, recipe: Recipe) -> str:
        """Tells by what."""
        return f"Replaced {film_name(recipe, self.film)} by {'lettering' if self.lettering else 'a shadow'}"


def _known_mend(mends: tuple[Mend, ...], id_: str) -> Mend:
    found = next((m for m in mends if m.id == id_), None)
    if found is None:
        raise RecipeError("This step of mending is no longer there.", "Undo, or draw it again.")
    return found
