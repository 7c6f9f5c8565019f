"""Tries: what an edit would lead to while its control is handled; the newest of a design ends the one before."""

from __future__ import annotations

import asyncio
from collections.abc import Coroutine
from typing import Any

from gladstack.core.base.errors import GladStackError


class SupersededError(GladStackError):
    """A newer try has taken this one's place."""

    code = "superseded"


class Tries:
    """The tries that are under way, at most one for each design."""

    def __init__(self) -> None:
        self._running: dict[str, asyncio.Task[bytes]] = {}

    async def run(self, design: str, work: Coroutine[Any, Any, bytes]) -> bytes:
        """What a try leads to. Raises SupersededError once a newer one of the design, or its edit, has come."""
        self.end(design)
        task = asyncio.get_running_loop().create_task(work)
        self._running[design] = task
        try:
            return await asyncio.shield(task)
        except asyncio.CancelledError:
            if task.cancelled() and self._running.get(design) is not task:
                raise SupersededError("Something newer was tried.") from None
            task.cancel()
            raise
        finally:
            if self._running.get(design) is task:
                del self._running[design]

    def end(self, design: str) -> None:
        """Ends the try of a design, if there is one."""
        if (older := self._running.pop(design, None)) is not None:
            older.cancel()
