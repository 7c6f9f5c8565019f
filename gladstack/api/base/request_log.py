"""The log: JSON, a line each; and one line for every request with its id, its seconds, and the workers that worked on it."""

from __future__ import annotations

import json
import logging
import secrets
import time
from contextvars import ContextVar
from typing import Any

from starlette.types import ASGIApp, Message, Receive, Scope, Send

from gladstack.work.ticket import Ticket

_LOG = logging.getLogger("gladstack.requests")
_REQUEST: ContextVar[str] = ContextVar("request", default="")
HEADER = b"request-id"


class JsonLines(logging.Formatter):
    """A record as one line of JSON."""

    def format(self, record: logging.LogRecord) -> str:
        """The line."""
        line: dict[str, Any] = {
            "at": self.formatTime(record, "%Y-%m-%dT%H:%M:%S") + f".{int(record.msecs):03d}",
            "level": record.levelname.lower(),
            "from": record.name,
            "says": record.getMessage(),
        }
        if request := _REQUEST.get():
            line["request"] = request
        line |= getattr(record, "figures", {})
        if record.exc_info:
            line["trace"] = self.formatException(record.exc_info)
        return json.dumps(line, ensure_ascii=False, default=str)


def begin_log(level: str) -> None:
    """Sends all that is logged from a level on to standard error."""
    handler = logging.StreamHandler()
    handler.setFormatter(JsonLines())
    logging.basicConfig(handlers=[handler], level=logging.WARNING, force=True)
    logging.getLogger("gladstack").setLevel(level.upper())


class RequestLog:
    """Middleware: gives each request an id, sent back with its answer, and logs it once it is answered."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Hands one request on."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        name, begin, status = secrets.token_hex(4), time.perf_counter(), 0
        before = _REQUEST.set(name)

        async def send_logged(message: Message) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = message["status"]
                message = {**message, "headers": [*message["headers"], (HEADER, name.encode())]}
            await send(message)

        try:
            await self._app(scope, receive, send_logged)
        finally:
            ticket: Ticket | None = scope.get("ticket")
            figures = {
                "request": name, "method": scope["method"], "path": scope["path"], "status": status,
                "seconds": round(time.perf_counter() - begin, 4), "workers": ticket.workers if ticket else [],
            }  # fmt: skip
            _LOG.info("answered", extra={"figures": figures})
            _REQUEST.reset(before)
