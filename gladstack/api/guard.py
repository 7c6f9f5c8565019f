"""What every request must pass: a loopback Host, the app's own Origin on changes, and a bounded body."""

from __future__ import annotations

from contextlib import suppress
from urllib.parse import urlsplit

from starlette.types import ASGIApp, Message, Receive, Scope, Send

from gladstack.api.problems import problem

LOOPBACK = frozenset({"127.0.0.1", "localhost", "[::1]", "testserver"})
_SAFE = frozenset({"GET", "HEAD", "OPTIONS"})
_HEADERS = [
    (b"content-security-policy", b"default-src 'self'; img-src 'self' blob: data:; style-src 'self' 'unsafe-inline'; "
                                 b"frame-ancestors 'none'; base-uri 'none'; form-action 'self'"),
    (b"x-content-type-options", b"nosniff"),
    (b"referrer-policy", b"no-referrer"),
]  # fmt: skip


class _TooLargeError(Exception):
    pass


class Guard:
    """Middleware that refuses what does not come from this machine's own page, and bodies above `max_body` bytes."""

    def __init__(self, app: ASGIApp, hosts: frozenset[str] = LOOPBACK, max_body: int = 48 * 2**20) -> None:
        self._app = app
        self._hosts = hosts
        self._max_body = max_body

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Checks one request and hands it on."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = {k.decode("latin-1").lower(): v.decode("latin-1") for k, v in scope["headers"]}
        refusal = self._refusal(scope["method"], headers)
        if refusal is not None:
            await refusal(scope, receive, send)
            return
        received = 0
        started = False
        over = False

        async def counted() -> Message:
            nonlocal received, over
            message = await receive()
            if message["type"] == "http.request":
                received += len(message.get("body", b""))
                if received > self._max_body:
                    over = True
                    raise _TooLargeError
            return message

        async def marked(message: Message) -> None:
            nonlocal started
            if over and not started:
                return
            if message["type"] == "http.response.start":
                started = True
                message = {**message, "headers": [*message["headers"], *_HEADERS]}
            await send(message)

        with suppress(_TooLargeError):
            await self._app(scope, counted, marked)
        if over and not started:
            await self._too_large()(scope, receive, send)

    def _refusal(self, method: str, headers: dict[str, str]) -> ASGIApp | None:
        host = headers.get("host", "")
        if _name(host) not in self._hosts:
            return problem(403, "host", "Not for this address", f"This app answers on this machine only, not as “{host}”.")
        origin = headers.get("origin")
        if method not in _SAFE and origin is not None and urlsplit(origin).netloc != host:
            return problem(403, "origin", "Not from this page", "A change must come from the app's own page.")
        length = headers.get("content-length", "0")
        if length.isdigit() and int(length) > self._max_body:
            return self._too_large()
        return None

    def _too_large(self) -> ASGIApp:
        return problem(413, "too-large", "Too large", f"At most {self._max_body // 2**20} MB can be sent at once.",
                       "Save the picture as PNG, or bring in a smaller one.")  # fmt: skip


def _name(host: str) -> str:
    return host.rsplit(":", 1)[0] if ":" in host.rsplit("]", 1)[-1] else host
