"""The list of designs: what stands in it, small pictures, tags, copies, and the bin."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Path
from fastapi.responses import Response

from gladstack.api.desks.lists import Example, IdView, Tags
from gladstack.api.routes.depends import Lists
from gladstack.api.views.lines import DesignLineView, line_view

_KEPT = {"Cache-Control": "private, max-age=31536000, immutable"}
"""A revision never changes, and so does its picture."""
ROUTER = APIRouter()


@ROUTER.get("/api/designs", operation_id="listDesigns")
def list_designs(desk: Lists) -> list[DesignLineView]:
    """All designs but those in the bin, the last changed first."""
    return [line_view(line) for line in desk.listing.lines()]


@ROUTER.get("/api/bin", operation_id="listBin")
def list_bin(desk: Lists) -> list[DesignLineView]:
    """All designs in the bin."""
    return [line_view(line) for line in desk.listing.binned()]


@ROUTER.get("/api/designs/{design}/looks/{revision}", operation_id="smallLook", response_class=Response)
async def small_look(desk: Lists, design: str, revision: Annotated[int, Path(ge=0, le=2**53)]) -> Response:
    """A revision of a design as a small PNG. 202 without a picture while it is coming: ask again in a moment."""
    png = await desk.small_look(design, revision)
    if png is None:
        return Response(status_code=202, headers={"Cache-Control": "no-store", "Retry-After": "1"})
    return Response(png, media_type="image/png", headers=_KEPT)


@ROUTER.post("/api/designs/{design}/copy", operation_id="copyDesign", status_code=201)
async def copy_design(desk: Lists, design: str) -> IdView:
    """Copies a design as it stands, without its history."""
    return IdView(id=await desk.copy(design))


@ROUTER.put("/api/designs/{design}/tags", operation_id="tagDesign", status_code=204, response_class=Response)
def tag_design(desk: Lists, design: str, tags: Tags) -> Response:
    """Gives a design these tags."""
    desk.listing.tag(design, tags.tags)
    return Response(status_code=204)


@ROUTER.post("/api/designs/{design}/bin", operation_id="binDesign", status_code=204, response_class=Response)
def bin_design(desk: Lists, design: str) -> Response:
    """Puts a design into the bin."""
    desk.listing.bin(design)
    return Response(status_code=204)


@ROUTER.post("/api/designs/{design}/restore", operation_id="restoreDesign", status_code=204, response_class=Response)
def restore_design(desk: Lists, design: str) -> Response:
    """Takes a design out of the bin."""
    desk.listing.restore(design)
    return Response(status_code=204)


@ROUTER.post("/api/examples/{example}", operation_id="openExample", status_code=201)
def open_example(desk: Lists, example: Example) -> IdView:
    """Adds one of the examples to the designs."""
    return IdView(id=desk.example(example))
