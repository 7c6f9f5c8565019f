"""Edits of films: names, order, joints, colours, weight, looks."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from gladstack.core.base.errors import RecipeError
from gladstack.core.films.joints import FORMS
from gladstack.recipe.edit.base import AnEdit, film_name, with_film
from gladstack.recipe.model.recipe import (
    ClosedGap,
    Finish,
    JointRule,
    PairJoint,
    Recipe,
    RepairedPlace,
    SettledPiece,
    SmallPieces,
)
from gladstack.recipe.model.values import AreaMm2, Colour, DetailMm, FilmKey, Id, Method, Name, OffsetMm, PlaceMm, changed


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


def _rule(rule: JointRule | None) -> str:
    if rule is None:
        return "as the default"
    return rule.kind if FORMS[rule.kind].length == "never" else f"{rule.kind} {rule.mm:g} mm"


class SetJoint(AnEdit):
    """Set the design's default joint."""

    kind: Literal["set-joint"] = "set-joint"
    rule: JointRule

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the joint."""
        return changed(recipe, joint=self.rule)

    def describe(self, recipe: Recipe) -> str:
        """Tells the joint."""
        return f"Default joint: {_rule(self.rule)}"


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
        return f"Joint of {film_name(recipe, self.film)} with what lies on it: {_rule(self.rule)}"


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
        return f"Joint of {film_name(recipe, self.a)} and {film_name(recipe, self.b)}: {_rule(self.rule)}"


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
        said = "own weight" if self.mm == 0 else f"{abs(self.mm):g} mm {'heavier' if self.mm > 0 else 'lighter'}"
        return f"{film_name(recipe, self.film)}: {said}"


class TidyFilm(AnEdit):
    """Drop all pieces of a film below an area, or merge each with the film beside it; an area of 0 keeps them all."""

    kind: Literal["tidy-film"] = "tidy-film"
    film: FilmKey
    below_mm2: AreaMm2
    how: Literal["drop", "merge"] = "drop"

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the choice."""
        small = SmallPieces(below_mm2=self.below_mm2, how=self.how) if self.below_mm2 > 0 else None
        return with_film(recipe, self.film, small=small)

    def describe(self, recipe: Recipe) -> str:
        """Tells what becomes of them."""
        said = "all pieces kept" if self.below_mm2 == 0 else f"pieces below {self.below_mm2:g} mm² {_BECOME[self.how]}"
        return f"{film_name(recipe, self.film)}: {said}"


_BECOME = {"drop": "dropped", "merge": "merged", "keep": "kept"}


class SettlePiece(AnEdit):
    """Drop, merge or keep the one piece of a film at a point of the stack."""

    kind: Literal["settle-piece"] = "settle-piece"
    film: FilmKey
    x_mm: PlaceMm
    y_mm: PlaceMm
    how: Literal["drop", "merge", "keep"]

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the choice."""
        piece = SettledPiece(x_mm=self.x_mm, y_mm=self.y_mm, how=self.how)
        return with_film(recipe, self.film, pieces=(*recipe.film(self.film).pieces, piece))

    def describe(self, recipe: Recipe) -> str:
        """Tells what becomes of it."""
        return f"{film_name(recipe, self.film)}: a piece {_BECOME[self.how]}"


class CloseGaps(AnEdit):
    """Weld pieces of a film that are no farther apart than so many mm; 0 opens them again."""

    kind: Literal["close-gaps"] = "close-gaps"
    film: FilmKey
    mm: DetailMm

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the width."""
        return with_film(recipe, self.film, close_mm=self.mm)

    def describe(self, recipe: Recipe) -> str:
        """Tells the width."""
        said = f"gaps up to {self.mm:g} mm closed" if self.mm > 0 else "gaps left open"
        return f"{film_name(recipe, self.film)}: {said}"


class CloseGap(AnEdit):
    """Weld two pieces of a film between two points of the stack."""

    kind: Literal["close-gap"] = "close-gap"
    film: FilmKey
    gap: ClosedGap

    def apply(self, recipe: Recipe) -> Recipe:
        """Closes it."""
        return with_film(recipe, self.film, closed=(*recipe.film(self.film).closed, self.gap))

    def describe(self, recipe: Recipe) -> str:
        """Tells that."""
        return f"{film_name(recipe, self.film)}: a gap closed"


class RepairFilm(AnEdit):
    """Put thin places of a film right, where they are."""

    kind: Literal["repair-film"] = "repair-film"
    film: FilmKey
    repair: RepairedPlace

    def apply(self, recipe: Recipe) -> Recipe:
        """Adds it to what is done already; what is done all over the film takes the place of the like at single places."""
        new = self.repair
        held = [r for r in recipe.film(self.film).repairs if r.how != new.how or (new.at is not None and r.at != new.at)]
        return with_film(recipe, self.film, repairs=(*held, new))

    def describe(self, recipe: Recipe) -> str:
        """Tells what is done."""
        new = self.repair
        every, one = _REPAIRS[new.how]
        return f"{film_name(recipe, self.film)}: {one if new.at else every} {new.mm:g} mm"


_REPAIRS = {
    "thicken": ("thin parts made as wide as", "a thin part made as wide as"),
    "round": ("needles rounded to", "a needle rounded to"),
    "join": ("edges that touch in a point joined by", "edges that touch joined by"),
    "fill": ("waste filled that is narrower than", "waste filled at a place that is narrower than"),
}


class LetRepairsGo(AnEdit):
    """Take back all that was put right in a film's thin places."""

    kind: Literal["let-repairs-go"] = "let-repairs-go"
    film: FilmKey

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes it back."""
        return with_film(recipe, self.film, repairs=())

    def describe(self, recipe: Recipe) -> str:
        """Tells that."""
        return f"{film_name(recipe, self.film)}: thin places as they were"


class SetSmall(AnEdit):
    """Say below which area pieces of any film are told of as small."""

    kind: Literal["set-small"] = "set-small"
    mm2: AreaMm2

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the area."""
        return changed(recipe, small_mm2=self.mm2)

    def describe(self, recipe: Recipe) -> str:
        """Tells the area."""
        return f"Pieces count as small below {self.mm2:g} mm²"


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
    """Have a film drawn by a pen on another, or cut again."""

    kind: Literal["draw-film"] = "draw-film"
    film: FilmKey
    drawn: Literal["no", "outlines", "filled"]
    on: FilmKey | None = None

    def apply(self, recipe: Recipe) -> Recipe:
        """Has it drawn or cut."""
        return with_film(recipe, self.film, drawn=self.drawn, drawn_on=None if self.drawn == "no" else self.on)

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
        return f"{film_name(recipe, self.film)} looks {self.finish.kind}"


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
