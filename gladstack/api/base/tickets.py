"""A ticket for every request: what its work is told by."""

from __future__ import annotations

import re

from starlette.types import ASGIApp, Receive, Scope, Send

from gladstack.work.crew import Crew

HEADER = b"ticket"
_NAME = re.compile(rb"[0-9a-z-]{8,40}")


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
