"""The door: what every request must pass, and what every answer carries.

On loopback a request must come from this machine and name it. Elsewhere it must bring the token, which the page asks for
once and the browser then keeps. A change must come from the app's own page; bodies are bounded; errors nobody foresaw are
told in plain words and logged. Refusals carry the same headers as everything else.
"""

from __future__ import annotations

import hmac
import ipaddress
import logging
from contextlib import suppress
from dataclasses import dataclass
from http.cookies import CookieError, SimpleCookie

from starlette.types import ASGIApp, Message, Receive, Scope, Send

from gladstack.api.problems import problem, unforeseen

LOOPBACK = frozenset({"127.0.0.1", "localhost", "[::1]"})
COOKIE = "gladstack-door"
MAX_BODY = 48 * 2**20
_SAFE = frozenset({"GET", "HEAD", "OPTIONS"})
_LOG = logging.getLogger("gladstack.api")
_HEADERS = {
    b"content-security-policy": b"default-src 'self'; img-src 'self' blob: data:; style-src 'self' 'unsafe-inline'; "
                                b"frame-ancestors 'none'; base-uri 'none'; form-action 'self'; object-src 'none'",
    b"x-content-type-options": b"nosniff",
    b"referrer-policy": b"no-referrer",
    b"cross-origin-resource-policy": b"same-origin",
}  # fmt: skip


@dataclass(frozen=True)
class Door:
    """Who is let in: without a `token` this machine only; with one, whoever brings it."""

    token: str | None = None

    def opens_for(self, token: str) -> bool:
        """Whether this is the token."""
        return self.token is not None and hmac.compare_digest(token.encode(), self.token.encode())


class _TooLargeError(Exception):
    pass


class Guard:
    """Middleware that keeps the door."""

    def __init__(self, app: ASGIApp, door: Door | None = None, max_body: int = MAX_BODY) -> None:
        self._app = app
        self._door = door or Door()
        self._max_body = max_body

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Checks one request and hands it on."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = {k.decode("latin-1").lower(): v.decode("latin-1") for k, v in scope["headers"]}
        started = over = False
        head = scope["method"] == "HEAD"

        async def marked(message: Message) -> None:
            nonlocal started
            if over and not started and message.get("status") != 413:
                return
            if message["type"] == "http.response.start":
                started = True
                own = {k.lower() for k, _ in message["headers"]}
                added = [(k, v) for k, v in _HEADERS.items() if k not in own]
                message = {**message, "headers": [*message["headers"], *added]}
            elif head:
                message = {**message, "body": b""}
            await send(message)

        received = 0

        async def counted() -> Message:
            nonlocal received, over
            message = await receive()
            if message["type"] == "http.request":
                received += len(message.get("body", b""))
                if received > self._max_body:
                    over = True
                    raise _TooLargeError
            return message

        refusal = self._refusal(scope, headers)
        if refusal is not None:
            await refusal(scope, receive, marked)
            return
        try:
            with suppress(_TooLargeError):
                # What answers GET answers HEAD too, without a body.
                await self._app({**scope, "method": "GET"} if head else scope, counted, marked)
            if over and not started:
                await self._too_large()(scope, receive, marked)
        except Exception:
            _LOG.exception("%s %s failed", scope["method"], scope["path"])
            if not started:
                await unforeseen()(scope, receive, marked)

    def _refusal(self, scope: Scope, headers: dict[str, str]) -> ASGIApp | None:
        host = headers.get("host", "")
        if self._door.token is None:
            if _name(host) not in LOOPBACK or not _is_loopback(scope):
                return problem(
                    403, "host", "Not for this address", f"This app answers on this machine only, not as “{host}”."
                )
        elif scope["path"].startswith("/api/") and scope["path"] != "/api/door" and not self._has_token(headers):
            return problem(401, "token", "A token is needed", "This app asks for its token before it shows anything.",
                           "Type the token that was given when the app was started.")  # fmt: skip
        site, mode = headers.get("sec-fetch-site", "none"), headers.get("sec-fetch-mode", "")
        changes = scope["method"] not in _SAFE
        origin = headers.get("origin")
        foreign = origin is not None and origin != f"http://{host}"
        navigates = not changes and mode == "navigate" and not scope["path"].startswith("/api/")
        if (changes and foreign) or (site in ("cross-site", "same-site") and not navigates):
            return problem(403, "origin", "Not from this page", "A request must come from the app's own page.")
        length = headers.get("content-length", "0")
        if length.isdigit() and int(length) > self._max_body:
            return self._too_large()
        return None

    def _has_token(self, headers: dict[str, str]) -> bool:
        try:
            cookie = SimpleCookie(headers.get("cookie", "")).get(COOKIE)
        except CookieError:
            return False
        return cookie is not None and self._door.opens_for(cookie.value)

    def _too_large(self) -> ASGIApp:
        return problem(413, "too-large", "Too large", f"At most {self._max_body // 2**20} MB can be sent at once.",
                       "Save the picture as PNG, or bring in a smaller one.")  # fmt: skip


def is_loopback_address(host: str) -> bool:
    """Whether an address to listen on can be reached from this machine only."""
    if host == "localhost":
        return True
    try:
        return ipaddress.ip_address(host).is_loopback
    except ValueError:
        return False


def _is_loopback(scope: Scope) -> bool:
    client = scope.get("client")
    return client is not None and is_loopback_address(client[0])


def _name(host: str) -> str:
    return host.rsplit(":", 1)[0] if ":" in host.rsplit("]", 1)[-1] else host
