"""Art of designs: its regions, words like it, and the pictures it was made from."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, File, Form, Query, Request, UploadFile
from fastapi.responses import Response
from pydantic import BaseModel, Field, Json

from gladstack.api.base.waiting import while_there
from gladstack.api.routes.depends import Arts, HeldKeys, Revision, filename_of
from gladstack.api.views.designs import DesignView, LikeView, RegionsView
from gladstack.api.views.sources import NodesView, ReplacingView
from gladstack.core.picture.decode import MAX_BYTES
from gladstack.recipe.edit.sources import Laid, ReplaceSource
from gladstack.recipe.model.values import FilmKey

_FRAME = r"^\d{1,3}(?:\.\d{1,8})?(?:,\d{1,3}(?:\.\d{1,8})?){3}$"
_CORNERS = r"^(?:[01]|[01]?\.\d{1,8})(?:,(?:[01]|[01]?\.\d{1,8})){7}$"
_MEDIA = {"PNG": "image/png", "JPEG": "image/jpeg", "GIF": "image/gif", "WEBP": "image/webp", "BMP": "image/bmp"}
ROUTER = APIRouter()


class WordsLike(BaseModel):
    """Words that are to take the place of what an art gives to a film, at a revision."""

    revision: Revision
    film: FilmKey
    text: Annotated[str, Field(min_length=1, max_length=200, pattern=r"\S")]


@ROUTER.get("/api/designs/{design}/arts/{art}/regions", operation_id="listRegions", response_model=RegionsView)
async def list_regions(
    design: str, art: str, desk: Arts, request: Request, revision: Annotated[Revision, Query()]
) -> Response:
    """The regions an art comes as at a revision, whoever has claimed them."""
    found = await while_there(request, desk.regions(design, art, revision))
    return Response(found, media_type="application/json")


@ROUTER.post("/api/designs/{design}/arts/{art}/words-like", operation_id="wordsLike", response_model=list[LikeView])
async def words_like(design: str, art: str, words: WordsLike, desk: Arts, request: Request) -> list[LikeView]:
    """Words in the fonts of the shelf where an art's part of a film lies, the nearest ink first."""
    return await while_there(request, desk.words_like(design, words.revision, art, words.film, words.text))


@ROUTER.get("/api/designs/{design}/arts/{art}/nodes", operation_id="nodesOf")
async def nodes_of(
    design: str,
    art: str,
    desk: Arts,
    request: Request,
    revision: Annotated[Revision, Query()],
    at_most: Annotated[int | None, Query(ge=3, le=1_000_000)] = None,
) -> NodesView:
    """How the nodes of an art become fewer as its edges may move; and for no more than so many, how far they must."""
    return await while_there(request, desk.nodes(design, art, revision, at_most))


@ROUTER.post("/api/designs/{design}/arts/{art}/replacing", operation_id="lookAtReplacing", response_model=ReplacingView)
async def look_at_replacing(
    design: str,
    art: str,
    desk: Arts,
    request: Request,
    file: Annotated[UploadFile, File()],
    base: Annotated[Revision, Form()],
    laid: Annotated[Json[Laid] | None, Form()] = None,
) -> ReplacingView:
    """What an art would be from another picture or file, laid as told or as it lies best; nothing is kept of it."""
    data = await file.read(MAX_BYTES + 1)
    return await while_there(request, desk.replacing(design, art, base, data, filename_of(file), laid))


@ROUTER.post("/api/designs/{design}/source", operation_id="replaceSource", response_model=DesignView)
async def replace_source(
    design: str,
    desk: Arts,
    held: HeldKeys,
    request: Request,
    file: Annotated[UploadFile, File()],
    base: Annotated[Revision, Form()],
    edit: Annotated[Json[ReplaceSource], Form()],
) -> Response:
    """Makes an art of another picture or file, as it was looked at."""
    data = await file.read(MAX_BYTES + 1)
    found = await while_there(request, desk.replace(design, base, edit, data, filename_of(file), held))
    return Response(found, media_type="application/json")


@ROUTER.get("/api/pictures/{digest}", operation_id="originalPicture", response_class=Response)
async def original_picture(
    digest: str,
    desk: Arts,
    corners: Annotated[str | None, Query(pattern=_CORNERS)] = None,
    frame: Annotated[str | None, Query(pattern=_FRAME)] = None,
) -> Response:
    """A picture as it was brought in, by its hash; or set straight by four corners, "x,y,x,y,x,y,x,y" as shares of its
    sides, and the part of it within a frame, "left,top,right,bottom" as shares of its width.
    """
    cached = {"Cache-Control": "private, max-age=3600"}
    if corners is not None or frame is not None:
        picture, form = await desk.part_of_picture(digest, corners, frame)
        return Response(picture, media_type=form, headers=cached)
    data, form = desk.picture(digest)
    return Response(data, media_type=_MEDIA[form], headers=cached)
