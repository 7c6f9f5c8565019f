"""The list of designs: what stands in it, small pictures, tags, copies, and the bin."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints
from starlette.concurrency import run_in_threadpool

from gladstack.api.desks.building import Builder
from gladstack.demo.designs import bring_demo
from gladstack.recipe.model.values import changed
from gladstack.store.listing import Listing

_KEPT = {"Cache-Control": "private, max-age=31536000, immutable"}
"""A revision never changes, and so does its picture."""
_MOST_NAME = 120
Tag = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=40)]


class Tags(BaseModel):
    """All tags of a design."""

    tags: Annotated[list[Tag], Field(max_length=20)]


class IdView(BaseModel):
    """The design that was made."""

    id: str


EXAMPLES = {"picture": "demo-sticker", "lettering": "example-two-words", "colouring-page": "example-colouring-page"}
"""What a first page without designs offers to open, by their ids."""
Example = Literal["picture", "lettering", "colouring-page"]


class ListDesk:
    """The list, and the builder that makes its pictures."""

    def __init__(self, listing: Listing, builder: Builder) -> None:
        self.listing = listing
        self.builder = builder

    async def small_look(self, design: str, revision: int) -> bytes | None:
        """A revision as a small PNG; None while it is coming."""
        return await self.builder.small_look(design, revision)

    async def copy(self, design: str) -> str:
        """A new design that is as this one is now."""
        found = await run_in_threadpool(self.builder.store.get, design)
        recipe = found.revision.recipe
        name = f"{recipe.name[: _MOST_NAME - 5]} copy"
        versions = () if found.revision.version else recipe.versions
        made = await run_in_threadpool(
            self.builder.store.create, changed(recipe, name=name, versions=versions), label=f"Copied from {recipe.name}"
        )
        return made.id

    def example(self, example: Example) -> str:
        """An example as a design of the list, added or taken out of the bin if need be."""
        design = EXAMPLES[example]
        bring_demo(self.builder.store, design)
        self.listing.restore(design)
        return design
