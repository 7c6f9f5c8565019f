"""Line art: pictures of lines on paper."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gladstack.recipe.model.arts.picture import RasterArt
from gladstack.recipe.model.values import DetailMm, FilmKey


class LineArt(RasterArt):
    """A picture of lines on paper: its ink is a film, and each area it encloses waits for one.

    `threshold` is the grey level (0 to 255, paper evened to white) below which is ink; None takes the proposed one. Ink is
    cut as `lines`, as a `solid` silhouette with the areas filled, or not at all.
    """

    kind: Literal["line-art"] = "line-art"
    threshold: Annotated[int, Field(ge=1, le=254)] | None = None
    ink: Literal["lines", "solid", "none"] = "lines"
    ink_film: FilmKey = "#14100c"
    detail_mm: DetailMm = 0.02
    smoothing_mm: DetailMm = 0.0
    speck_mm: DetailMm = 0.6

    @property
    def title(self) -> str:
        """Its file's name."""
        return self.filename or "line art"

    @property
    def named_films(self) -> tuple[str, ...]:
        """The film of its ink first."""
        return (*(() if self.ink == "none" else (self.ink_film,)), *super().named_films)
