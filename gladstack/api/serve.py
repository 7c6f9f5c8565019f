"""Serving the app: on this machine, or to a network with a token."""

from __future__ import annotations

import asyncio
import errno
import os
import socket

import uvicorn

from gladstack.api.app import create_app
from gladstack.api.base.guard import LEAST_TOKEN, Door, is_loopback_address
from gladstack.api.base.request_log import begin_log
from gladstack.api.routes.pages import built_front_end
from gladstack.core.base.errors import GladStackError
from gladstack.demo.designs import add_demo_designs
from gladstack.demo.looks import add_demo_looks
from gladstack.demo.shelf import add_demo_shelf
from gladstack.settings import Settings
from gladstack.store.database import claim_folder
from gladstack.work.crew import Crew, Limits


class AddressError(GladStackError):
    """The address cannot be listened on."""

    code = "address"


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


def serve(settings: Settings) -> int:
    """Serves until stopped; `demo` adds the demo designs first. Returns the exit code.

    Raises AddressError, and StoreError if the folder cannot be used or another server uses it.
    """
    begin_log(settings.log_level)
    host, token = settings.host, settings.secret()
    near = is_loopback_address(host)
    if not near and not token:
        raise AddressError(
            f"{host} can be reached from other machines: whoever reaches it could see and change every design.",
            "Give a token with --token-file FILE or in GLADSTACK_TOKEN, which the page then asks for once, or leave --host "
            "out. What is sent is not encrypted.",
        )
    if not near and token and len(token) < LEAST_TOKEN:
        raise AddressError(
            f"The token has {len(token)} characters, which is soon guessed.", f"Take one of at least {LEAST_TOKEN}."
        )
    # What designs hold is for their maker alone.
    os.umask(0o077)
    listening = _listen(host, settings.port)
    claimed = claim_folder(settings.data)
    front_end = built_front_end()
    crew = Crew(Limits(deadline_s=settings.deadline, memory_bytes=int(settings.memory * 2**30)))
    app = create_app(settings.data, front_end=front_end, crew=crew, guarded=Door(None if near else token))
    if settings.demo:
        desks = app.state.desks
        add_demo_designs(desks.builder.store)
        add_demo_looks(desks.builder.store, desks.lists.listing)
        add_demo_shelf(desks.jobs.shelf, desks.jobs.jobs, desks.builder.store)
    address = f"http://{f'[{host}]' if ':' in host else host}:{listening.getsockname()[1]}/"
    told = f"Glad Stack is served at {address}" + ("" if front_end else " (no front end built; run make setup)")
    if not near:
        told += "\nIt asks for the token. What is sent is not encrypted: use it only in a network you trust."
    config = uvicorn.Config(app, log_level="warning", timeout_graceful_shutdown=1)
    try:
        _Server(config, told, crew).run(sockets=[listening])
    finally:
        crew.close()
        claimed.close()
    return 0


def _listen(host: str, port: int) -> socket.socket:
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    listening = socket.socket(family, socket.SOCK_STREAM)
    listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listening.bind((host, port))
    except (OSError, OverflowError) as fault:
        listening.close()
        if isinstance(fault, OSError) and fault.errno == errno.EADDRINUSE:
            raise AddressError(f"Port {port} is in use.", "Stop what uses it, or choose another with --port.") from fault
        raise AddressError(
            f"Cannot listen on {host}, port {port}: {fault}.", "Choose another with --host and --port."
        ) from fault
    return listening
