"""Serving the app: on this machine, or to a network with a token."""

from __future__ import annotations

import asyncio
import socket

import uvicorn

from gladstack.api.app import create_app
from gladstack.api.base.guard import Door
from gladstack.api.base.request_log import begin_log
from gladstack.api.place import Place
from gladstack.api.routes.pages import built_front_end
from gladstack.demo.designs import add_demo_designs
from gladstack.demo.looks import add_demo_looks
from gladstack.demo.shelf import add_demo_shelf
from gladstack.settings import Settings
from gladstack.work.crew import Crew, Limits


class _Server(uvicorn.Server):
    """Says where it serves, once it does and its workers can begin: the first picture need not wait for them."""

    def __init__(self, config: uvicorn.Config, told: str, crew: Crew) -> None:
        super().__init__(config)
        self._told = told
        self._workers = crew.start()

    async def startup(self, sockets: list[socket.socket] | None = None) -> None:
        await super().startup(sockets)
        await asyncio.gather(*(asyncio.wrap_future(worker) for worker in self._workers))
        if self.started:
            print(self._told, flush=True)


def serve(settings: Settings, place: Place) -> int:
    """Serves at a place until stopped; `demo` adds the demo designs first. Returns the exit code. Raises StoreError."""
    begin_log(settings.log_level)
    front_end = built_front_end()
    crew = Crew(Limits(deadline_s=settings.deadline, memory_bytes=int(settings.memory * 2**30)))
    app = create_app(settings.data, front_end=front_end, crew=crew, guarded=Door(place.token))
    if settings.demo:
        desks = app.state.desks
        add_demo_designs(desks.builder.store)
        add_demo_looks(desks.builder.store, desks.lists.listing)
        add_demo_shelf(desks.jobs.shelf, desks.jobs.jobs, desks.builder.store)
    told = f"Glad Stack is served at {place.address}" + ("" if front_end else " (no front end built; run make setup)")
    if place.token:
        told += "\nIt asks for the token. What is sent is not encrypted: use it only in a network you trust."
    config = uvicorn.Config(app, log_level="warning", timeout_graceful_shutdown=1)
    try:
        _Server(config, told, crew).run(sockets=[place.listening])
    finally:
        crew.close()
        place.claimed.close()
    return 0
