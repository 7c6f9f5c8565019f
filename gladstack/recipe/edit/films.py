"""Edits of films: names, order, joints, colours, weight, looks."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from gladstack.core.base.errors import RecipeError
from gladstack.core.base.units import fine_length
from gladstack.core.films.joints import FORMS
from gladstack.recipe.edit.base import AnEdit, film_name, with_film
from gladstack.recipe.model.recipe import (
    Finish,
    JointRule,
    PairJoint,
    Recipe,
)
from gladstack.recipe.model.values import Colour, FilmKey, Id, LineMm, Method, Name, OffsetMm, changed


class RenameFilm(AnEdit):
    """Give a film another name; None goes back to the proposed one."""

    plain: ClassVar[bool] = True
    kind: Literal["rename-film"] = "rename-film"
    film: FilmKey
    name: Name | None

    def apply(self, recipe: Recipe) -> Recipe:
        """Names it."""
        return with_film(recipe, self.film, name=self.name)

    def describe(self, recipe: Recipe) -> str:
        """Tells the name."""
        film = film_name(recipe, self.film)
        return f"Named {film} “{self.name}”" if self.name else f"Gave {film} its proposed name"


class OrderFilms(AnEdit):
    """Put the films in this order, from the ground up."""

    kind: Literal["order-films"] = "order-films"
    order: Annotated[tuple[FilmKey, ...], Field(max_length=128)]

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the order."""
        return changed(recipe, order=tuple(dict.fromkeys(self.order)))

    def describe(self, recipe: Recipe) -> str:
        """Tells that."""
        return "Reordered the stack"


def _rule(recipe: Recipe, rule: JointRule | None) -> str:
    if rule is None:
        return "as all films"
    return rule.kind if FORMS[rule.kind].length == "never" else f"{rule.kind} {fine_length(rule.mm, recipe.unit)}"


class SetJoint(AnEdit):
    """Set the design's default joint."""

    kind: Literal["set-joint"] = "set-joint"
    rule: JointRule

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the joint."""
        return changed(recipe, joint=self.rule)

    def describe(self, recipe: Recipe) -> str:
        """Tells the joint."""
        return f"Joint of all films: {_rule(recipe, self.rule)}"


class SetFilmJoint(AnEdit):
    """Set the joint of a film with all that lies on it; None goes back to the default."""

    kind: Literal["set-film-joint"] = "set-film-joint"
    film: FilmKey
    rule: JointRule | None

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the joint."""
        return with_film(recipe, self.film, joint=self.rule)

    def describe(self, recipe: Recipe) -> str:
        """Tells the joint."""
        return f"Joint of {film_name(recipe, self.film)} with what lies on it: {_rule(recipe, self.rule)}"


class SetPairJoint(AnEdit):
    """Set the joint of two films; None goes back to the film's or the default."""

    kind: Literal["set-pair-joint"] = "set-pair-joint"
    a: FilmKey
    b: FilmKey
    rule: JointRule | None

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the joint. Raises RecipeError for a film with itself."""
        if self.a == self.b:
            raise RecipeError("A film has no joint with itself.", "Choose two films.")
        others = tuple(p for p in recipe.pairs if {p.a, p.b} != {self.a, self.b})
        own = (PairJoint(a=self.a, b=self.b, rule=self.rule),) if self.rule else ()
        return changed(recipe, pairs=(*others, *own))

    def describe(self, recipe: Recipe) -> str:
        """Tells the joint."""
        return f"Joint of {film_name(recipe, self.a)} and {film_name(recipe, self.b)}: {_rule(recipe, self.rule)}"


class SetFilmColour(AnEdit):
    """Show a film in another colour; None goes back to its own."""

    kind: Literal["set-film-colour"] = "set-film-colour"
    film: FilmKey
    colour: Colour | None

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the colour."""
        return with_film(recipe, self.film, colour=self.colour)

    def describe(self, recipe: Recipe) -> str:
        """Tells the colour."""
        return f"{film_name(recipe, self.film)} is shown in {self.colour or 'its own colour'}"


class ThickenFilm(AnEdit):
    """Make a film's shape heavier all round, or lighter; with `keep_size`, as wide and high as it was."""

    kind: Literal["thicken-film"] = "thicken-film"
    film: FilmKey
    mm: OffsetMm
    keep_size: bool = False

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the weight."""
        return with_film(recipe, self.film, thicken_mm=self.mm, keep_size=self.keep_size and self.mm != 0)

    def describe(self, recipe: Recipe) -> str:
        """Tells the weight."""
        said = (
            "own weight"
            if self.mm == 0
            else f"{fine_length(abs(self.mm), recipe.unit)} {'heavier' if self.mm > 0 else 'lighter'}"
        )
        return f"{film_name(recipe, self.film)}: {said}"


class LeaveOut(AnEdit):
    """Leave a film out of what is cut, or take it in again."""

    kind: Literal["leave-out"] = "leave-out"
    film: FilmKey
    left_out: bool

    def apply(self, recipe: Recipe) -> Recipe:
        """Leaves it out or takes it in."""
        return with_film(recipe, self.film, left_out=self.left_out)

    def describe(self, recipe: Recipe) -> str:
        """Tells which."""
        return f"{'Left out' if self.left_out else 'Took in again'} {film_name(recipe, self.film)}"


class DrawFilm(AnEdit):
    """Have a film drawn by a pen on another, or cut again; with which pen of the shelf, and how wide that draws."""

    kind: Literal["draw-film"] = "draw-film"
    film: FilmKey
    drawn: Literal["no", "outlines", "filled"]
    on: FilmKey | None = None
    pen: Id | None = None
    line_mm: LineMm = 0.5

    def apply(self, recipe: Recipe) -> Recipe:
        """Has it drawn or cut."""
        if self.drawn == "no":
            return with_film(recipe, self.film, drawn="no", drawn_on=None, pen=None, line_mm=0.5)
        return with_film(recipe, self.film, drawn=self.drawn, drawn_on=self.on, pen=self.pen, line_mm=self.line_mm)

    def describe(self, recipe: Recipe) -> str:
        """Tells which."""
        return f"{film_name(recipe, self.film)} is {'cut' if self.drawn == 'no' else 'drawn by a pen'}"


class SetFinish(AnEdit):
    """Choose how a film looks; nothing of it is cut."""

    plain: ClassVar[bool] = True
    kind: Literal["set-finish"] = "set-finish"
    film: FilmKey
    finish: Finish

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the look."""
        return with_film(recipe, self.film, finish=self.finish)

    def describe(self, recipe: Recipe) -> str:
        """Tells the look."""
        return f"Look of {film_name(recipe, self.film)}: {self.finish.kind}"


class TakeMaterial(AnEdit):
    """Cut a film from a material of the shop: it is shown and laid as that is, and its shape stays.

    None leaves it to the shelf again; "any" is any film of its colour, and keeps how it is shown.
    """

    plain: ClassVar[bool] = True
    kind: Literal["take-material"] = "take-material"
    film: FilmKey
    material: Id | None
    name: Name | None = None
    colour: Colour | None = None
    finish: Finish | None = None
    method: Method | None = None

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the material, and the look of it."""
        look = {
            k: v for k, v in {"colour": self.colour, "finish": self.finish, "method": self.method}.items() if v is not None
        }
        return with_film(recipe, self.film, material=self.material, **look)

    def describe(self, recipe: Recipe) -> str:
        """Tells the material."""
        named = {None: "the nearest of the shelf", "any": "any film of its colour"}.get(
            self.material, self.name or self.material
        )
        return f"{film_name(recipe, self.film)} is cut from {named}"
