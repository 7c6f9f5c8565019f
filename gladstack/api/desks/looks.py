"""Small pictures of designs: made one at a time in the background, while whoever asks is told that they are coming."""

from __future__ import annotations

import asyncio
import time
from collections.abc import Awaitable, Callable
from contextlib import suppress
from contextvars import Context

from gladstack.core.base.errors import GladStackError

_WAIT_S = 0.2
"""How long an asker waits: a browser asks for six things at once, and what a maker does must not wait for pictures."""
_FORGOTTEN_S = 20.0
"""A picture nobody has asked for again for so long is not made."""
_REST_S = 1.0


class Looks:
    """`make(design, revision)` gives a PNG, at once if it is kept. None of it is part of a request, or of its deadline."""

    def __init__(self, make: Callable[[str, int], Awaitable[bytes]]) -> None:
        self._make = make
        self._asked: dict[int, asyncio.Task[bytes | None]] = {}
        self._asked_at: dict[int, float] = {}
        self._resting: dict[str, asyncio.Task[None]] = {}
        self._one = asyncio.Lock()

    async def look(self, design: str, revision: int) -> bytes | None:
        """The picture of a revision; None while it is coming. Raises what making it raised."""
        self._asked_at[revision] = time.monotonic()
        task = self._asked.get(revision)
        if task is None:
            task = self._asked[revision] = asyncio.create_task(self._if_asked(design, revision), context=Context())
            task.add_done_callback(lambda done: self._forget(revision, done))
        await asyncio.wait([task], timeout=_WAIT_S)
        if not task.done():
            return None
        self._asked.pop(revision, None)
        return task.result()

    def _forget(self, revision: int, done: asyncio.Task[bytes | None]) -> None:
        """Lets go of a picture that is kept by now; why there is none is still to be told to whoever asks next."""
        self._asked_at.pop(revision, None)
        if not done.cancelled() and done.exception() is None:
            self._asked.pop(revision, None)

    def soon(self, design: str, revision: int) -> None:
        """Makes the picture of a design once it has rested a moment, so that no list has to wait for it."""
        if (before := self._resting.pop(design, None)) is not None:
            before.cancel()
        task = self._resting[design] = asyncio.create_task(self._rested(design, revision), context=Context())
        task.add_done_callback(lambda done: self._resting.pop(design) if self._resting.get(design) is done else None)

    async def _rested(self, design: str, revision: int) -> None:
        await asyncio.sleep(_REST_S)
        async with self._one:
            with suppress(GladStackError):
                await self._make(design, revision)

    async def _if_asked(self, design: str, revision: int) -> bytes | None:
        # One at a time: what the maker is at comes first.
        async with self._one:
            if time.monotonic() > self._asked_at.get(revision, 0.0) + _FORGOTTEN_S:
                return None
            return await self._make(design, revision)
