"""How one art lies on another: one film with it, on top of it, cut out of it, only where it is, or a hole through all."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field

from gladstack.core.base.errors import RecipeError
from gladstack.recipe.edit.base import AnEdit, free_id, ids_of, known_art, named, with_art, with_film
from gladstack.recipe.model.arts import AnyArt, OneFilmArt
from gladstack.recipe.model.recipe import JointRule, PairJoint, Recipe
from gladstack.recipe.model.values import Colour, FilmKey, Id, JointMm, changed

How = Literal["one-film", "on-top", "butt", "gap", "lap", "within", "hole"]
_SAID = {
    "one-film": "one film with", "on-top": "on top of", "butt": "cut flush out of", "gap": "cut with a gap out of",
    "lap": "cut with a lap out of", "within": "only within", "hole": "a hole through all, over",
}  # fmt: skip
Films = Annotated[tuple[FilmKey, ...], Field(max_length=128)]


class RelateArts(AnEdit):
    """Say how an art lies on another, for all films of both at once.

    `films` and `under` are the films that the upper and the lower art give to, `order` the stack from the ground up, all
    as last built. Where the upper art has no film of its own, it is given one of `colour`. `mm` is the gap or lap.
    """

    kind: Literal["relate-arts"] = "relate-arts"
    upper: Id
    lower: Id
    how: How
    mm: JointMm = 0.4
    films: Films = ()
    under: Films = ()
    order: Films = ()
    colour: Colour = "#f2b632"

    def apply(self, recipe: Recipe) -> Recipe:
        """Relates them. Raises RecipeError for an art with itself, or one that has no film to lie on."""
        if self.upper == self.lower:
            raise RecipeError("An art cannot lie on itself.", "Choose another art.")
        upper, lower = known_art(recipe, self.upper), known_art(recipe, self.lower)
        lower = lower.apart_from(upper.id)
        recipe, lower, under = self._with_film(recipe, lower, self.under, ())
        upper = upper.apart_from(lower.id)
        if self.how == "hole":
            upper = upper.opened()
            films: tuple[str, ...] = ()
        elif self.how == "one-film":
            if not under:
                raise RecipeError("The lower art has no film that the upper one could be part of.", "Choose another way.")
            upper = upper.in_film(under[-1])
            films = ()
        else:
            recipe, upper, films = self._with_film(recipe, upper, self.films, under)
            if self.how == "within":
                upper = changed(upper, inside=lower.id)
        recipe = with_art(with_art(recipe, lower), upper)
        recipe = changed(recipe, pairs=self._pairs(recipe, films, under))
        return changed(recipe, order=_raised(self.order, films, under)) if films and under else recipe

    def describe(self, recipe: Recipe) -> str:
        """Tells how."""
        return f"{named(recipe, self.upper)}: {_SAID[self.how]} {named(recipe, self.lower)}"

    def _with_film(
        self, recipe: Recipe, art: AnyArt, films: tuple[str, ...], taken: tuple[str, ...]
    ) -> tuple[Recipe, AnyArt, tuple[str, ...]]:
        """An art that gives to films of its own, none of them `taken`, and these films."""
        if isinstance(art, OneFilmArt) and (art.film is None or art.film in taken):
            film = free_id(ids_of(recipe), "film")
            recipe = with_film(recipe, film, colour=self.colour)
            return recipe, changed(art, film=film), (film, *(f for f in films if f not in taken and f != art.film))
        if isinstance(art, OneFilmArt) and not films and art.film is not None:
            return recipe, art, (art.film,)
        return recipe, art, tuple(f for f in films if f not in taken)

    def _pairs(self, recipe: Recipe, films: Sequence[str], under: Sequence[str]) -> tuple[PairJoint, ...]:
        """The joints of single pairs, with those of these films anew."""
        met = {frozenset((a, b)) for a in {*self.films, *films} for b in {*self.under, *under} if a != b}
        kept = tuple(p for p in recipe.pairs if frozenset((p.a, p.b)) not in met)
        if self.how in ("within", "hole", "one-film"):
            return kept
        rule = JointRule(kind="full" if self.how == "on-top" else self.how, mm=self.mm if self.how != "butt" else 0.0)
        return (*kept, *(PairJoint(a=a, b=b, rule=rule) for a in films for b in under if a != b))


def _raised(order: Sequence[str], films: Sequence[str], under: Sequence[str]) -> tuple[str, ...]:
    """An order with some films just above others, in the order they had."""
    own = [f for f in order if f in films] + [f for f in films if f not in order]
    rest = [f for f in order if f not in films]
    at = max((rest.index(f) + 1 for f in under if f in rest), default=len(rest))
    # What lay above the lower ones and below the upper ones stays where it was.
    lowest = min((sum(g not in films for g in order[: order.index(f)]) for f in own if f in order), default=at)
    at = max(at, lowest)
    return (*rest[:at], *own, *rest[at:])
