"""Edits of the pieces of films: small ones, gaps between them, and thin places."""

from __future__ import annotations

from typing import Literal

from gladstack.recipe.edit.base import AnEdit, film_name, with_film
from gladstack.recipe.model.recipe import ClosedGap, Recipe, RepairedPlace, SettledPiece, SmallPieces
from gladstack.recipe.model.values import AreaMm2, DetailMm, FilmKey, PlaceMm, changed


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
        """Adds it to what is done already, which it finds done; the same twice in a row is done once."""
        held = recipe.film(self.film).repairs
        return with_film(recipe, self.film, repairs=held if held[-1:] == (self.repair,) else (*held, self.repair))

    def describe(self, recipe: Recipe) -> str:
        """Tells what is done."""
        new = self.repair
        every, one = _REPAIRS[new.how]
        return f"{film_name(recipe, self.film)}: {one if new.at else every} {new.mm:g} mm"


_REPAIRS = {
    "thicken": ("thin parts made as wide as", "a thin part made as wide as"),
    "round": ("needles rounded to", "a needle rounded to"),
    "widen": ("small holes made as wide as", "a small hole made as wide as"),
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
