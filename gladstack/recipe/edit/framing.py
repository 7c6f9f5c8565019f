"""A part of a picture taken for the whole of it, with all that was said of that part."""

from __future__ import annotations

from typing import ClassVar, Literal

from gladstack.core.base.errors import RecipeError
from gladstack.recipe.edit.base import AnEdit, known_art, named, with_art
from gladstack.recipe.edit.scale import scaled_art
from gladstack.recipe.model.arts import Frame, RasterArt
from gladstack.recipe.model.mends import with_points
from gladstack.recipe.model.pins import ArtPoint
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.values import MAX_WIDTH_MM, MIN_WIDTH_MM, Id, WidthMm, changed

_WHOLE = Frame(left=0.0, top=0.0, right=1.0, bottom=100.0)


class FramePicture(AnEdit):
    """Keep only a part of a picture; None takes the whole of it again.

    What is kept stays where it is and as large as it is, unless `width_mm` tells how wide it is to be. Claims and mends stay
    on what they were made on.
    """

    of_motif: ClassVar[bool] = True
    kind: Literal["frame-picture"] = "frame-picture"
    art: Id
    frame: Frame | None
    width_mm: WidthMm | None = None

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the part. Raises RecipeError for art that is no picture."""
        art = known_art(recipe, self.art)
        if not isinstance(art, RasterArt):
            raise RecipeError("Only a picture can be framed.", "Bring a picture in first.")
        old, new = art.frame or _WHOLE, self.frame or _WHOLE
        mm = art.width_mm / old.width
        width = min(MAX_WIDTH_MM, max(MIN_WIDTH_MM, mm * new.width))
        right, down = (new.left - old.left) * mm, (new.top - old.top) * mm
        a, b, c, d, x, y = art.place.matrix
        place = changed(art.place, x_mm=round(a * right + c * down + x, 6), y_mm=round(b * right + d * down + y, 6))

        def moved(point: ArtPoint) -> ArtPoint:
            across = (point.x * old.width + old.left - new.left) / new.width
            down = (point.y * old.width + old.top - new.top) / new.width
            return changed(point, x=round(across, 9), y=round(down, 9))

        kept = changed(
            art, frame=self.frame, width_mm=width, place=place, mends=tuple(with_points(m, moved) for m in art.mends),
            pins=tuple(map(moved, art.pins)), strayed=tuple(map(moved, art.strayed)),
        )  # fmt: skip
        if self.width_mm is None:
            return with_art(recipe, kept)
        return with_art(recipe, scaled_art(kept, self.width_mm / width, place.x_mm, place.y_mm))

    def in_motif(self, recipe: Recipe, factor: float) -> FramePicture:
        """A width is told in the motif's own measure."""
        return self if self.width_mm is None else changed(self, width_mm=self.width_mm / factor)

    def describe(self, recipe: Recipe) -> str:
        """Tells what."""
        name = named(recipe, self.art)
        return f"Took the whole of {name}" if self.frame is None else f"Kept a part of {name}"
