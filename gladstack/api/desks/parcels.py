"""Designs and jobs as files: taken out, and brought in."""

from __future__ import annotations

from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from gladstack.api.desks.building import Builder
from gladstack.api.desks.jobs import JobDesk
from gladstack.api.tasks import designs as design_tasks
from gladstack.core.base.errors import GladStackError
from gladstack.shop.jobs.parcel import Parcel, ParcelError, packed, unpacked
from gladstack.store.designs import Brought
from gladstack.store.parcels import BroughtIn, ParcelBook
from gladstack.work import costs


class BroughtInView(BaseModel):
    """What came of a file: designs, and a job if there was one."""

    designs: list[str]
    job: str | None


class ParcelDesk:
    """Packs and unpacks; what is in a file is read by the workers like any other picture or font."""

    def __init__(self, book: ParcelBook, builder: Builder, desk: JobDesk) -> None:
        self.book = book
        self.builder = builder
        self.desk = desk

    async def design(self, design: str) -> tuple[str, bytes]:
        """A design's name, and its file."""
        parcel = await run_in_threadpool(self.book.design, design)
        (recipe,) = parcel.designs.values()
        preview = await self.builder.preview(design)
        return recipe.name, await run_in_threadpool(packed, parcel, preview)

    async def job(self, job: str) -> tuple[str, bytes]:
        """A job's name, and its file."""
        kept = await run_in_threadpool(self.desk.jobs.get, job)
        parcel = await run_in_threadpool(self.book.job, kept)
        preview = await self.builder.preview(kept.job.designs[0].source)
        return kept.job.name, await run_in_threadpool(packed, parcel, preview)

    async def bring_in(self, data: bytes) -> BroughtIn:
        """All that is in a file, or nothing of it. Raises ParcelError."""
        parcel: Parcel = await self.builder.crew.run(costs.reading_s(len(data)), "This file", unpacked, data)
        pictures: dict[str, Brought] = {}
        fonts: list[tuple[bytes, str, str]] = []
        run = self.builder.crew.run
        try:
            for asset in parcel.assets:
                cost = costs.reading_s(len(asset.data))
                if asset.kind == "picture":
                    pictures[asset.digest] = await run(cost, "A picture", design_tasks.read_picture, asset.data)
                elif asset.kind == "font":
                    fonts.append((asset.data, *await run(cost, "A font", design_tasks.font_names, asset.data)))
        except GladStackError as fault:
            raise ParcelError(f"Something in the file cannot be read: {fault}", "Get the file again.") from fault
        return await run_in_threadpool(self.book.bring_in, parcel, pictures, fonts)
