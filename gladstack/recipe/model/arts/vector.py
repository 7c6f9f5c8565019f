"""Vector files."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field

from gladstack.core.drawing.layers import FilmsBy
from gladstack.core.drawing.tints import Tints
from gladstack.recipe.model.arts.base import Asset, Merge, Place, RegionArt
from gladstack.recipe.model.values import Colour, DetailMm, Hash, changed

NEW_GAP_MM = 0.5
"""Files that are brought in have their lines joined over gaps up to this."""
Beyond = Literal["cut", "keep"]
"""What becomes of what lies beyond a file's page."""


class VectorArt(RegionArt):
    """A vector file: its content hash. Each of its colours is a film, or with `films_by` each of its layers.

    `reading` says what its bare units are taken for, where it tells no real size. Its open paths are cut as the file paints
    them, or closed to areas, or expanded to lines of `line_mm`; where a file
    lists lines by themselves, ends up to `gap_mm` apart are joined. What lies beyond its page is cut off, or kept. Its
    see-through paint is taken for solid or, over one colour, mixed with it. With `count` its nearest colours become one film
    until so many are left. Of a file with pages, `page` is the one that is cut.
    """

    kind: Literal["vector"] = "vector"
    file: Hash
    page: Annotated[int, Field(ge=1, le=2000)] = 1
    reading: Literal["as-told", "72-dpi", "90-dpi", "96-dpi", "mm", "cm", "in"] = "as-told"
    open_paths: Literal["as-told", "close", "expand"] = "as-told"
    line_mm: Annotated[DetailMm, Field(ge=0.05)] = 1.0
    gap_mm: Annotated[DetailMm, Field(ge=0.01)] = 0.05
    beyond: Beyond = "cut"
    tints: Tints = "solid"
    films_by: FilmsBy = "colours"
    count: Annotated[int, Field(ge=1, le=1000)] | None = None
    merges: Annotated[tuple[Merge, ...], Field(max_length=64)] = ()
    dropped: Annotated[tuple[Colour, ...], Field(max_length=64)] = ()

    @property
    def title(self) -> str:
        """Its file's name."""
        return self.filename or "vector file"

    @property
    def assets(self) -> tuple[Asset, ...]:
        """Its file."""
        return (("file", self.file),)

    def from_source(self, digest: str, filename: str) -> Self:
        """Of another file it is the first page that is cut."""
        return changed(self, file=digest, filename=filename, page=1)

    def scaled_in_place(self, factor: float) -> Place:
        """It has no measures of its own: it is its place that is scaled."""
        return changed(self.place, scale_x=self.place.scale_x * factor, scale_y=self.place.scale_y * factor)
