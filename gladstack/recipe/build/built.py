"""What follows from a recipe: films, and how they meet. It knows no sheets."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from shapely import MultiPolygon, Polygon

from gladstack.core.base.errors import RecipeError
from gladstack.core.base.plane import Box
from gladstack.core.films.joints import Joint
from gladstack.core.geometry.curves import Chain
from gladstack.core.geometry.outlines import Outline
from gladstack.recipe.art.given import ArtPieces, ColourInfo, PictureFacts
from gladstack.recipe.build.joined import Joined
from gladstack.recipe.model.recipe import Finish, Recipe
from gladstack.stages.laid import Shape


@dataclass(frozen=True)
class BuiltLayer:
    """A film of the stack with everything that follows for it; geometry in stack millimetres.

    `before` is its shape before it was made heavier or lighter, if it was; `laid` its cut shape; `dropped` are the boxes of
    what was left out of its cut as finer than a cutter's step, the largest first. `key` names the cut shape and its outline:
    two of the same key are the same to the last bit.
    """

    film: str
    colour: str
    name: str
    slug: str
    finish: Finish
    key: str
    shape: MultiPolygon
    before: MultiPolygon | None
    laid: Shape
    outline: Outline
    dropped: tuple[Box, ...] = ()

    @property
    def cut(self) -> MultiPolygon:
        """The cut shape, where it lies."""
        return self.laid.value


@dataclass(frozen=True)
class LeftOut:
    """A film that is not cut: its key, colour and name."""

    film: str
    colour: str
    name: str


@dataclass(frozen=True)
class BuiltPen:
    """What a pen draws on a film: lines in the stack's millimetres, and the film it has instead of one of its own.

    `pen` is the one chosen from the shelf, which draws `line_mm` wide.
    """

    film: str
    colour: str
    on: str
    name: str
    how: Literal["outlines", "filled"]
    pen: str | None
    line_mm: float
    lines: tuple[Chain, ...]


@dataclass(frozen=True)
class BuiltJoint:
    """The joint of two layers that meet, and where it was chosen; `made`: it follows from what the upper one is."""

    lower: int
    upper: int
    joint: Joint
    source: Literal["pair", "film", "design", "made"]


@dataclass(frozen=True)
class BuiltHole:
    """A hole of an outline shadow, in the stack's millimetres: filled or open, as chosen."""

    making: str
    shape: Polygon
    filled: bool


@dataclass(frozen=True)
class Built:
    """All that follows from a recipe. Layers run from the ground up; `frame` is the extent of its films, which is the
    decal's size; `plain` that of its art alone, before any film was thickened and without shadows; `box` takes in the pages
    of its art.

    `left_out` are the films that are not cut; `holes` those of shadows whose holes are filled where chosen;
    `art_films` the films that each art gives to. `joined` is what is measured on (see `measured`); `lost_bounds`
    are art that is kept inside of art that is gone (art, what is gone), `emptied` films (key, name) made of what is gone.
    """

    recipe: Recipe
    left_out: tuple[LeftOut, ...]
    box: Box
    frame: Box
    plain: Box
    arts: tuple[ArtPieces, ...]
    art_films: Mapping[str, tuple[str, ...]]
    proposed_order: tuple[str, ...]
    layers: tuple[BuiltLayer, ...]
    pens: tuple[BuiltPen, ...]
    joints: tuple[BuiltJoint, ...]
    holes: tuple[BuiltHole, ...]
    joined: Joined
    lost_bounds: tuple[tuple[str, str], ...]
    emptied: tuple[tuple[str, str], ...]
    seconds: dict[str, float]

    @property
    def width_mm(self) -> float:
        """The width of all its films together."""
        return self.frame[2] - self.frame[0]

    @property
    def height_mm(self) -> float:
        """The height of all its films together."""
        return self.frame[3] - self.frame[1]

    @property
    def _pictures(self) -> list[PictureFacts]:
        return [a.facts for a in self.arts if isinstance(a.facts, PictureFacts)]

    @property
    def colours(self) -> tuple[ColourInfo, ...]:
        """The colours of all pictures."""
        return tuple(c for facts in self._pictures for c in facts.colours)

    @property
    def flat(self) -> bool:
        """Whether all pictures are made of flat colours."""
        return all(facts.flat for facts in self._pictures)

    @property
    def lossy(self) -> bool:
        """Whether any picture has come through a lossy format."""
        return any(facts.lossy for facts in self._pictures)

    @property
    def lost_mm2(self) -> float:
        """How much of all pictures is in none of their areas, at the pictures' own size."""
        return sum(facts.lost_mm2 for facts in self._pictures)

    @property
    def lost_share(self) -> float:
        """The largest share of a picture that is in none of its areas."""
        return max((facts.lost_share for facts in self._pictures), default=0.0)


def require_layers(built: Built) -> None:
    """Raises RecipeError if there is nothing to cut."""
    if not any(not layer.cut.is_empty for layer in built.layers):
        raise RecipeError(
            "Nothing is left to cut: every colour is dropped or smaller than a speck.",
            "Bring a colour back, or take a smaller speck size.",
        )
