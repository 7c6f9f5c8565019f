"""Lists of names for designs."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, File, Request, UploadFile
from fastapi.responses import Response
from starlette.concurrency import run_in_threadpool

from gladstack.api.base.waiting import while_there
from gladstack.api.desks.names import MOST_READINGS, ListText, NamesView, NamesWanted, NameWanted, ReadingView
from gladstack.api.routes.depends import Names
from gladstack.api.views.shop import JobView
from gladstack.shop.jobs.names import MOST_BYTES, decoded

ROUTER = APIRouter()


@ROUTER.post("/api/lists", operation_id="readList")
async def read_list(file: Annotated[UploadFile, File()]) -> ListText:
    """The text of a list in a file: as it is, or all that it may be where nothing tells its encoding."""
    found = await run_in_threadpool(decoded, await file.read(MOST_BYTES + 1))
    return ListText(readings=[ReadingView(name=r.name, text=r.text) for r in found[:MOST_READINGS]])


@ROUTER.post("/api/designs/{design}/names", operation_id="checkNames")
async def check_names(desk: Names, design: str, wanted: NamesWanted, request: Request) -> NamesView:
    """Reads a list for a design, and tells which rows do not fit."""
    return await while_there(request, desk.checked(design, wanted))


@ROUTER.post("/api/designs/{design}/names/look", operation_id="lookAtName", response_class=Response)
async def look_at_name(desk: Names, design: str, wanted: NameWanted, request: Request) -> Response:
    """One row of a list, built."""
    return Response(await while_there(request, desk.look(design, wanted)), media_type="image/svg+xml")


@ROUTER.post("/api/designs/{design}/names/job", operation_id="startNames", status_code=201)
async def start_names(desk: Names, design: str, wanted: NamesWanted, request: Request) -> JobView:
    """A job of all rows that can be cut, each name by itself."""
    return await while_there(request, desk.job(design, wanted))
