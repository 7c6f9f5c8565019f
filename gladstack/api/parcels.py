"""Designs and jobs as files: taken out, and brought in."""

from __future__ import annotations

from typing import Annotated

from fastapi import FastAPI, File, Request, UploadFile
from fastapi.responses import Response
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from gladstack.api import tasks
from gladstack.api.jobs import JobDesk
from gladstack.api.shop_routes import zip_answer
from gladstack.api.waiting import while_there
from gladstack.api.workshop import Workshop
from gladstack.core.base.errors import GladStackError
from gladstack.shop.jobs.parcel import ENDING, MOST_BYTES, Parcel, ParcelError, packed, unpacked
from gladstack.store.designs import Brought
from gladstack.store.parcels import BroughtIn, ParcelBook
from gladstack.work import costs


class BroughtInView(BaseModel):
    """What came of a file: designs, and a job if there was one."""

    designs: list[str]
    job: str | None


class ParcelDesk:
    """Packs and unpacks; what is in a file is read by the workers like any other picture or font."""

    def __init__(self, book: ParcelBook, workshop: Workshop, desk: JobDesk) -> None:
        self.book = book
        self.workshop = workshop
        self.desk = desk

    async def design(self, design: str) -> tuple[str, bytes]:
        """A design's name, and its file."""
        parcel = await run_in_threadpool(self.book.design, design)
        (recipe,) = parcel.designs.values()
        preview = await self.workshop.preview(design)
        return recipe.name, await run_in_threadpool(packed, parcel, preview)

    async def job(self, job: str) -> tuple[str, bytes]:
        """A job's name, and its file."""
        kept = await run_in_threadpool(self.desk.kept, job)
        parcel = await run_in_threadpool(self.book.job, kept)
        preview = await self.workshop.preview(kept.job.designs[0].source)
        return kept.job.name, await run_in_threadpool(packed, parcel, preview)

    async def bring_in(self, data: bytes) -> BroughtIn:
        """All that is in a file, or nothing of it. Raises ParcelError."""
        parcel: Parcel = await self.workshop.crew.run(costs.reading_s(len(data)), "This file", unpacked, data)
        pictures: dict[str, Brought] = {}
        fonts: list[tuple[bytes, str, str]] = []
        run = self.workshop.crew.run
        try:
            for asset in parcel.assets:
                cost = costs.reading_s(len(asset.data))
                if asset.kind == "picture":
                    pictures[asset.digest] = await run(cost, "A picture", tasks.read_picture, asset.data)
                elif asset.kind == "font":
                    fonts.append((asset.data, *await run(cost, "A font", tasks.font_names, asset.data)))
        except GladStackError as fault:
            raise ParcelError(f"Something in the file cannot be read: {fault}", "Take the file anew.") from fault
        return await run_in_threadpool(self.book.bring_in, parcel, pictures, fonts)


def add_parcel_routes(app: FastAPI, desk: ParcelDesk) -> None:
    """The routes of design files."""

    @app.get("/api/designs/{design}/file", operation_id="takeDesign", response_class=Response)
    async def take_design(design: str, request: Request) -> Response:
        """A design as one file."""
        name, data = await while_there(request, desk.design(design))
        return zip_answer(name, data, ENDING)

    @app.get("/api/jobs/{job}/file", operation_id="takeJob", response_class=Response)
    async def take_job(job: str, request: Request) -> Response:
        """A job with its designs as one file."""
        name, data = await while_there(request, desk.job(job))
        return zip_answer(name, data, ENDING)

    @app.post("/api/designs/file", operation_id="bringDesign", status_code=201)
    async def bring_design(request: Request, file: Annotated[UploadFile, File()]) -> BroughtInView:
        """Brings in a design file: the designs and the job in it, all or nothing."""
        data = await file.read(MOST_BYTES + 1)
        found = await while_there(request, desk.bring_in(data))
        return BroughtInView(designs=list(found.designs), job=found.job)
