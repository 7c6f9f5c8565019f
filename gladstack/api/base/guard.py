"""The door: what every request must pass, and what every answer carries.

On loopback a request must come from this machine and name it. Elsewhere it must bring the token, which the page asks for
once and the browser then keeps. A change must come from the app's own page; bodies are bounded; errors nobody foresaw are
told in plain words and logged. Refusals carry the same headers as everything else.
"""

from __future__ import annotations

import hashlib
import hmac
import ipaddress
import logging
import math
import re
import time
from collections.abc import Callable, Mapping
from contextlib import suppress
from dataclasses import dataclass
from http.cookies import CookieError, SimpleCookie
from typing import Any

from starlette.types import ASGIApp, Message, Receive, Scope, Send

from gladstack.api.base.problems import problem, unforeseen

LOOPBACK = frozenset({"127.0.0.1", "localhost", "[::1]"})
LEAST_TOKEN = 10
"""A token has at least so many characters."""
_HOST = re.compile(r"(\[[0-9a-f:.]+\]|[a-z0-9_-]+(?:\.[a-z0-9_-]+)*)\.?(?::(\d{1,5}))?")
_FREE_GUESSES = 5
_LONGEST_WAIT_S = 300.0
_MOST_GUESSERS = 10_000
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


@dataclass
class Guesses:
    """Wrong tokens that came from one address, and until when no more are looked at."""

    count: int = 0
    until: float = 0.0


class Door:
    """Who is let in: without a `token` this machine only; with one, whoever brings it.

    After a few wrong guesses from an address each further one has to wait, twice as long every time.
    """

    def __init__(self, token: str | None = None, clock: Callable[[], float] = time.monotonic) -> None:
        self.token = token
        self._clock = clock
        self._guesses: dict[str, Guesses] = {}

    @property
    def key(self) -> str:
        """What the browser keeps in place of the token: it can be any text, and a cookie cannot."""
        return hashlib.sha256(b"gladstack-door:" + (self.token or "").encode("utf-8", "surrogatepass")).hexdigest()

    def wait_s(self, address: str) -> float:
        """How many seconds an address has to wait until a guess of its is looked at."""
        return max(0.0, self._guesses.get(address, Guesses()).until - self._clock())

    def opens_for(self, token: str, address: str) -> bool:
        """Whether this is the token; a wrong one is counted and logged."""
        given, own = (text.encode("utf-8", "surrogatepass") for text in (token, self.token or ""))
        return self._judged(self.token is not None and hmac.compare_digest(given, own), address)

    def knows(self, key: str, address: str) -> bool:
        """Whether this is what a browser was given for the token; a wrong one counts as a guess."""
        given = key.encode("utf-8", "surrogatepass")
        return self._judged(self.token is not None and hmac.compare_digest(given, self.key.encode()), address)

    def _judged(self, right: bool, address: str) -> bool:
        if right:
            self._guesses.pop(address, None)
            return True
        if len(self._guesses) >= _MOST_GUESSERS:
            self._guesses.clear()
        made = self._guesses.setdefault(address, Guesses())
        made.count += 1
        _LOG.warning("wrong token from %s, the %d. time", address, made.count)
        if made.count >= _FREE_GUESSES:
            made.until = self._clock() + min(_LONGEST_WAIT_S, 2.0 ** (made.count - _FREE_GUESSES))
        return False


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
        named = host_of(host)
        if self._door.token is None:
            if named is None or named[0] not in LOOPBACK or not _is_loopback(scope):
                return problem(
                    403, "host", "Not for this address", f"This app answers on this machine only, not as “{host}”."
                )
        elif named is None:
            return problem(400, "host", "Not for this address", f"“{host}” is no address.")
        elif scope["path"].startswith("/api/") and (refused := self._without_token(scope, headers)) is not None:
            return refused
        site, mode = headers.get("sec-fetch-site", "none"), headers.get("sec-fetch-mode", "")
        changes = scope["method"] not in _SAFE
        origin = headers.get("origin")
        foreign = origin is not None and (not origin.startswith("http://") or host_of(origin[7:]) != named)
        navigates = not changes and mode == "navigate" and not scope["path"].startswith("/api/")
        if (changes and foreign) or (site in ("cross-site", "same-site") and not navigates):
            return problem(403, "origin", "Not from this page", "A request must come from the app's own page.")
        length = headers.get("content-length", "0")
        if length.isdigit() and int(length) > self._max_body:
            return self._too_large()
        return None

    def _without_token(self, scope: Scope, headers: dict[str, str]) -> ASGIApp | None:
        """What is said to who may not come in."""
        address = address_of(scope)
        try:
            cookie = SimpleCookie(headers.get("cookie", "")).get(COOKIE)
        except CookieError:
            cookie = None
        knocks = scope["path"] == "/api/door"
        if (knocks or cookie is not None) and (left := self._door.wait_s(address)) > 0:
            helps = f"Wait {math.ceil(left)} s, then type the token that was given when the app was started."
            return problem(429, "token", "Too many wrong tokens", "Too many wrong tokens came from this address.", helps)
        if knocks or (cookie is not None and self._door.knows(cookie.value, address)):
            return None
        return problem(401, "token", "A token is needed", "This app asks for its token before it shows anything.",
                       "Type the token that was given when the app was started.")  # fmt: skip

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


def address_of(scope: Mapping[str, Any]) -> str:
    """The address that a request comes from."""
    client = scope.get("client")
    return str(client[0]) if client else ""


def host_of(text: str) -> tuple[str, str] | None:
    """The name, in lower case, and the port ("": none) of a host as requests name it; None if it is no host."""
    found = _HOST.fullmatch(text.lower())
    return (found[1], found[2] or "") if found else None
