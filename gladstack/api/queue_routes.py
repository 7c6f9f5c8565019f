"""How work stands: a request's place in the queue and how far it has come, and whether every lane works."""

from __future__ import annotations

import re
from typing import Annotated

from fastapi import FastAPI, Path
from pydantic import BaseModel
from starlette.types import ASGIApp, Receive, Scope, Send

from gladstack.work.crew import Crew

HEADER = b"ticket"
_NAME = re.compile(rb"[0-9a-z-]{8,40}")


class WaitingView(BaseModel):
    """A request that waits or is worked on: how many are done before it, and how many of its steps are done, if any."""

    before: int
    done: int
    of: int


class LaneView(BaseModel):
    """A lane of work: whether its worker runs, how much waits, and how many workers were replaced since the start."""

    lane: str
    alive: bool
    waiting: int
    replaced: int


class HealthView(BaseModel):
    """Whether the app is well."""

    well: bool
    lanes: list[LaneView]


class Tickets:
    """Middleware: all work of one request shares one deadline, and can be asked after by the name in its header `Ticket`."""

    def __init__(self, app: ASGIApp, crew: Crew) -> None:
        self._app = app
        self._crew = crew

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Hands one request on, with its ticket."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        given = next((value for key, value in scope["headers"] if key.lower() == HEADER), b"")
        with self._crew.request(given.decode("ascii") if _NAME.fullmatch(given) else None) as ticket:
            scope["ticket"] = ticket
            await self._app(scope, receive, send)


def add_queue_routes(app: FastAPI, crew: Crew) -> None:
    """The routes of the queue."""

    @app.get("/api/waiting/{ticket}", operation_id="howItStands")
    async def how_it_stands(ticket: Annotated[str, Path(pattern=r"^[0-9a-z-]{8,40}$")]) -> WaitingView | None:
        """How a request stands that was sent with this ticket; null if nothing of it waits or is worked on."""
        found = crew.standing(ticket)
        return WaitingView.model_validate(vars(found)) if found else None

    @app.get("/api/health", operation_id="health")
    async def health() -> HealthView:
        """Whether every worker runs; one that ended is replaced when it is needed next."""
        lanes = [LaneView.model_validate(vars(lane)) for lane in crew.health()]
        return HealthView(well=all(lane.alive for lane in lanes), lanes=lanes)
