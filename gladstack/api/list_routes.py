"""The list of designs: what stands in it, small pictures, tags, copies, and the bin."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import FastAPI, Path
from fastapi.responses import Response
from pydantic import BaseModel, Field, StringConstraints
from starlette.concurrency import run_in_threadpool

from gladstack.api.shown import line_view
from gladstack.api.views import DesignLineView
from gladstack.api.workshop import Workshop
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
    """The list, and the workshop that makes its pictures."""

    def __init__(self, listing: Listing, workshop: Workshop) -> None:
        self.listing = listing
        self.workshop = workshop

    async def copy(self, design: str) -> str:
        """A new design that is as this one is now."""
        found = await run_in_threadpool(self.workshop.store.get, design)
        recipe = found.revision.recipe
        name = f"{recipe.name[: _MOST_NAME - 5]} copy"
        made = await run_in_threadpool(
            self.workshop.store.create, changed(recipe, name=name), label=f"Copied from {recipe.name}"
        )
        return made.id

    def example(self, example: Example) -> str:
        """An example as a design of the list, added or taken out of the bin if need be."""
        design = EXAMPLES[example]
        bring_demo(self.workshop.store, design)
        self.listing.restore(design)
        return design


def add_list_routes(app: FastAPI, desk: ListDesk) -> None:
    """The routes of the list."""

    @app.get("/api/designs", operation_id="listDesigns")
    def list_designs() -> list[DesignLineView]:
        """All designs but those in the bin, the last changed first."""
        return [line_view(line) for line in desk.listing.lines()]

    @app.get("/api/bin", operation_id="listBin")
    def list_bin() -> list[DesignLineView]:
        """All designs in the bin."""
        return [line_view(line) for line in desk.listing.binned()]

    @app.get("/api/designs/{design}/looks/{revision}", operation_id="smallLook", response_class=Response)
    async def small_look(design: str, revision: Annotated[int, Path(ge=0, le=2**53)]) -> Response:
        """A revision of a design as a small PNG. 202 without a picture while it is coming: ask again in a moment."""
        png = await desk.workshop.small_look(design, revision)
        if png is None:
            return Response(status_code=202, headers={"Cache-Control": "no-store", "Retry-After": "1"})
        return Response(png, media_type="image/png", headers=_KEPT)

    @app.post("/api/designs/{design}/copy", operation_id="copyDesign", status_code=201)
    async def copy_design(design: str) -> IdView:
        """Copies a design as it stands, without its history."""
        return IdView(id=await desk.copy(design))

    @app.put("/api/designs/{design}/tags", operation_id="tagDesign", status_code=204, response_class=Response)
    def tag_design(design: str, tags: Tags) -> Response:
        """Gives a design these tags."""
        desk.listing.tag(design, tags.tags)
        return Response(status_code=204)

    @app.post("/api/designs/{design}/bin", operation_id="binDesign", status_code=204, response_class=Response)
    def bin_design(design: str) -> Response:
        """Puts a design into the bin."""
        desk.listing.bin(design)
        return Response(status_code=204)

    @app.post("/api/designs/{design}/restore", operation_id="restoreDesign", status_code=204, response_class=Response)
    def restore_design(design: str) -> Response:
        """Takes a design out of the bin."""
        desk.listing.restore(design)
        return Response(status_code=204)

    @app.post("/api/examples/{example}", operation_id="openExample", status_code=201)
    def open_example(example: Example) -> IdView:
        """Adds one of the examples to the designs."""
        return IdView(id=desk.example(example))
