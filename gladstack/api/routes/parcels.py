"""Files of designs and jobs, to take elsewhere and bring back."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, File, Request, UploadFile
from fastapi.responses import Response

from gladstack.api.base.waiting import while_there
from gladstack.api.desks.parcels import BroughtInView
from gladstack.api.routes.depends import Parcels
from gladstack.api.routes.zips import zip_answer
from gladstack.shop.jobs.parcel import ENDING, MOST_BYTES

ROUTER = APIRouter()


@ROUTER.get("/api/designs/{design}/file", operation_id="takeDesign", response_class=Response)
async def take_design(desk: Parcels, design: str, request: Request) -> Response:
    """A design as one file."""
    name, data = await while_there(request, desk.design(design))
    return zip_answer(name, data, ENDING)


@ROUTER.get("/api/jobs/{job}/file", operation_id="takeJob", response_class=Response)
async def take_job(desk: Parcels, job: str, request: Request) -> Response:
    """A job with its designs as one file."""
    name, data = await while_there(request, desk.job(job))
    return zip_answer(name, data, ENDING)


@ROUTER.post("/api/designs/file", operation_id="bringDesign", status_code=201)
async def bring_design(desk: Parcels, request: Request, file: Annotated[UploadFile, File()]) -> BroughtInView:
    """Brings in a design file: the designs and the job in it, all or nothing."""
    data = await file.read(MOST_BYTES + 1)
    found = await while_there(request, desk.bring_in(data))
    return BroughtInView(designs=list(found.designs), job=found.job)
