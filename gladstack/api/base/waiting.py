"""Work that is given up when the client that waits for it has left."""

from __future__ import annotations

import asyncio
from collections.abc import Coroutine
from typing import Any, TypeVar

from fastapi import Request

from gladstack.core.base.errors import GladStackError

T = TypeVar("T")
_LEFT_POLL_S = 0.2


class ClientLeftError(GladStackError):
    """The client left before the answer was there."""

    code = "left"


async def while_there(request: Request, work: Coroutine[Any, Any, T]) -> T:
    """What `work` gives; given up when the client leaves."""
    task = asyncio.get_running_loop().create_task(work)
    try:
        while not (await asyncio.wait({task}, timeout=_LEFT_POLL_S))[0]:
            if await request.is_disconnected():
                raise ClientLeftError("Nobody waits for this any more.")
        return await task
    finally:
        task.cancel()
