"""The app: its desks, its door, its routers, and the built front end."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI
from fastapi.middleware.gzip import GZipMiddleware

from gladstack import __version__
from gladstack.api.base import problems
from gladstack.api.base.guard import Door, Guard
from gladstack.api.base.problems import PROBLEMS
from gladstack.api.base.request_log import RequestLog
from gladstack.api.base.tickets import Tickets
from gladstack.api.desks.all import Desks
from gladstack.api.desks.arts import ArtDesk
from gladstack.api.desks.building import Builder
from gladstack.api.desks.cutting import CutDesk
from gladstack.api.desks.designs import DesignDesk
from gladstack.api.desks.fonts import FontDesk
from gladstack.api.desks.jobs import JobDesk
from gladstack.api.desks.lists import ListDesk
from gladstack.api.desks.names import NamesDesk
from gladstack.api.desks.parcels import ParcelDesk
from gladstack.api.routes import arts, cutting, designs, door, fonts, jobs, lists, names, parcels, proof, queue, shelf
from gladstack.api.routes.pages import add_front_end
from gladstack.machine.link import Link
from gladstack.machine.operator import Operator
from gladstack.shop.shelf.cutters import NARROW
from gladstack.store.cuts import CutBook
from gladstack.store.database import CUTTER, DESIGNS, KEPT, Database
from gladstack.store.designs import DesignBook
from gladstack.store.fonts import FontShelf
from gladstack.store.jobs import JobBook
from gladstack.store.listing import Listing
from gladstack.store.parcels import ParcelBook
from gladstack.store.shelf import Shelf
from gladstack.work.crew import Crew
from gladstack.work.kept import forget_other_versions

_ROUTERS = (designs, arts, door, fonts, lists, shelf, jobs, proof, cutting, parcels, names, queue)


def create_app(
    data: Path, *, front_end: Path | None = None, crew: Crew | None = None, guarded: Door | None = None
) -> FastAPI:
    """The app on the designs in folder `data`; `front_end` is the built front end, if it is to be served.

    A `crew` that is given is the caller's to close; else the app has one of its own. Raises StoreError.
    """
    own = crew or Crew()

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        own.start()
        yield
        await asyncio.get_running_loop().run_in_executor(None, cutter.close)
        if crew is None:
            await asyncio.get_running_loop().run_in_executor(None, own.close)

    app = FastAPI(
        title="Glad Stack", version=__version__, docs_url=None, redoc_url=None, responses=PROBLEMS, lifespan=lifespan
    )
    cutter = Link(data / CUTTER, NARROW)
    app.state.desks = _desks(data, own, cutter)
    app.state.door = guarded or Door()
    app.add_middleware(GZipMiddleware, minimum_size=2_000, compresslevel=2)
    app.add_middleware(Tickets, crew=own)
    app.add_middleware(Guard, door=app.state.door)
    app.add_middleware(RequestLog)
    problems.install(app)
    for area in _ROUTERS:
        app.include_router(area.ROUTER)
    if front_end is not None:
        add_front_end(app, front_end)
    return app


def _desks(data: Path, crew: Crew, cutter: Link) -> Desks:
    """All desks on a folder of data, whose bin and leavings are seen to first. Raises StoreError."""
    database = Database(data / DESIGNS)
    store, listing, shelf = DesignBook(database), Listing(database), Shelf(database)
    fonts = FontShelf(database)
    listing.empty()
    store.sweep()
    forget_other_versions(data / KEPT)
    builder = Builder(data, store, listing, crew)
    designs = DesignDesk(builder)
    jobs = JobDesk(data, store, JobBook(database), shelf, crew)
    return Desks(
        builder=builder,
        designs=designs,
        arts=ArtDesk(builder, fonts, designs),
        fonts=FontDesk(data, fonts, crew),
        lists=ListDesk(listing, builder),
        jobs=jobs,
        cutting=CutDesk(Operator(CutBook(database), shelf, cutter), jobs),
        names=NamesDesk(builder, jobs),
        parcels=ParcelDesk(ParcelBook(database), builder, jobs),
    )
