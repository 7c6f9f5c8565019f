"""Edits of the design as a whole: its name, unit, joints, sheets, ground, and how it lies."""

from __future__ import annotations

from typing import ClassVar, Literal

from gladstack.core.base.units import Unit
from gladstack.recipe.edit.base import AnEdit, film_name, with_film
from gladstack.recipe.edit.scale import scaled, turned
from gladstack.recipe.model.recipe import Ground, Recipe
from gladstack.recipe.model.uses import USES, Use
from gladstack.recipe.model.values import Degrees, Factor, FilmKey, Method, Name, changed


class RenameDesign(AnEdit):
    """Give the design another name."""

    plain: ClassVar[bool] = True
    kind: Literal["rename-design"] = "rename-design"
    name: Name

    def apply(self, recipe: Recipe) -> Recipe:
        """Names it."""
        return changed(recipe, name=self.name)

    def describe(self, recipe: Recipe) -> str:
        """Tells the name."""
        return f"Named the design “{self.name}”"


class ShowUnit(AnEdit):
    """Choose the unit that lengths are shown in."""

    plain: ClassVar[bool] = True
    kind: Literal["show-unit"] = "show-unit"
    unit: Unit

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the unit."""
        return changed(recipe, unit=self.unit)

    def describe(self, recipe: Recipe) -> str:
        """Tells the unit."""
        return f"Showed lengths in {'inches' if self.unit == 'in' else 'millimetres'}"


class SetUse(AnEdit):
    """Choose what the decal is for; its films are mirrored, offered and put together by that."""

    plain: ClassVar[bool] = True
    kind: Literal["set-use"] = "set-use"
    use: Use

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the use."""
        return changed(recipe, use=self.use)

    def describe(self, recipe: Recipe) -> str:
        """Tells the use."""
        return f"Made for: {USES[self.use].says}"


class SetMethod(AnEdit):
    """Choose how one film goes onto the ground where that is not as for the whole design (None: as the design)."""

    plain: ClassVar[bool] = True
    kind: Literal["set-method"] = "set-method"
    film: FilmKey
    method: Method | None

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the method."""
        return with_film(recipe, self.film, method=self.method)

    def describe(self, recipe: Recipe) -> str:
        """Tells the method."""
        return f"{film_name(recipe, self.film)}: {self.method or 'method as the design'}"


class SetGround(AnEdit):
    """Choose what the decal is shown on."""

    plain: ClassVar[bool] = True
    kind: Literal["set-ground"] = "set-ground"
    ground: Ground

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the ground."""
        return changed(recipe, ground=self.ground)

    def describe(self, recipe: Recipe) -> str:
        """Tells the ground."""
        where = "the light table" if self.ground.kind == "table" else f"a {self.ground.kind}"
        return f"Shown on {where}, {self.ground.colour}"


class TurnDesign(AnEdit):
    """Turn everything on the stack clockwise, or mirror it left to right first."""

    of_motif: ClassVar[bool] = True
    kind: Literal["turn-design"] = "turn-design"
    turn_deg: Degrees = 0.0
    mirror: bool = False

    def apply(self, recipe: Recipe) -> Recipe:
        """Turns or mirrors it."""
        return turned(recipe, self.turn_deg, mirror=self.mirror)

    def describe(self, recipe: Recipe) -> str:
        """Tells which."""
        return "Mirrored the design" if self.mirror else f"Turned the design by {self.turn_deg:g}°"


class ScaleDesign(AnEdit):
    """Scale everything on the stack; joints, shadows and lines keep their millimetres, or scale too."""

    kind: Literal["scale-design"] = "scale-design"
    factor: Factor
    lengths: Literal["keep", "scale"] = "keep"

    def apply(self, recipe: Recipe) -> Recipe:
        """Scales it."""
        return scaled(recipe, self.factor, lengths=self.lengths == "scale")

    def describe(self, recipe: Recipe) -> str:
        """Tells the factor."""
        return (
            f"Scaled the design to {100 * self.factor:.4g} %, joints {'too' if self.lengths == 'scale' else 'as they were'}"
        )
