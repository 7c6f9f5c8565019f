"""Inside a worker process: its limits, its memos, and what it is asked to do."""

from __future__ import annotations

import mmap
import multiprocessing
import os
import resource
import signal
import threading
from collections.abc import Callable
from functools import lru_cache, partial
from pathlib import Path
from typing import Any

import cv2
import shapely

from gladstack.core.base.errors import GladStackError, RecipeError
from gladstack.recipe.art.given import Assets
from gladstack.stages.engine import Stages
from gladstack.stages.memo import CostlyStageError, Memo
from gladstack.store.database import Database
from gladstack.store.designs import DesignBook, UnknownDesignError
from gladstack.store.fonts import FontShelf
from gladstack.work.kept import KeptStages

DESIGNS = "gladstack.sqlite3"
KEPT = "kept"


class GivenUpError(Exception):
    """Nobody waits for this any more."""


class OutOfMemoryError(Exception):
    """The work asked for more memory than a worker may have."""


class UnforeseenError(Exception):
    """Something failed that should not; told by its name and its own words, since not every error can be sent."""


class _Here:
    """What this process was started with."""

    costly = True
    kept_bytes = 0
    flags: mmap.mmap | None = None
    slot = 0


def begin(flags: Path, memory_bytes: int, kept_bytes: int, *, costly: bool) -> None:
    """Sets a new worker up. `flags` is a file with a byte for each piece of work, set when nobody waits for it any more."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    resource.setrlimit(resource.RLIMIT_AS, (memory_bytes, memory_bytes))
    cv2.setNumThreads(max(1, (os.cpu_count() or 2) // 2))
    with flags.open("r+b") as file:
        _Here.flags = mmap.mmap(file.fileno(), 0)
    _Here.costly, _Here.kept_bytes = costly, kept_bytes
    threading.Thread(target=_end_with_the_server, daemon=True).start()


def _end_with_the_server() -> None:
    server = multiprocessing.parent_process()
    if server is not None:
        server.join()
        os._exit(1)


def ready() -> None:
    """Does nothing: its answer tells that the worker can begin."""


def call(slot: int, work: Callable[..., Any], *arguments: Any) -> Any:
    """Does a piece of work; what goes wrong comes out as an error that can be sent to the server."""
    _Here.slot = slot
    give_up_if_unwanted("")
    try:
        return work(*arguments)
    except (GladStackError, CostlyStageError, GivenUpError):
        raise
    except MemoryError as fault:
        raise OutOfMemoryError(str(fault)) from None
    except (cv2.error, shapely.GEOSException) as fault:
        if "memory" in str(fault).lower() or "bad_alloc" in str(fault):
            raise OutOfMemoryError(str(fault)) from None
        raise UnforeseenError(f"{type(fault).__name__}: {fault}") from fault
    except Exception as fault:
        raise UnforeseenError(f"{type(fault).__name__}: {fault}") from fault


def give_up_if_unwanted(stage: str) -> None:
    """Raises GivenUpError if nobody waits for the work at hand any more; asked before every stage of a build."""
    if _Here.flags is not None and _Here.flags[_Here.slot]:
        raise GivenUpError


@lru_cache(4)
def memo(data: Path) -> Memo:
    """This process's memo for the designs in a folder."""
    return Memo(kept=KeptStages(data / KEPT, _Here.kept_bytes), costly=_Here.costly)


def stages(data: Path) -> Stages:
    """The stages of one piece of work."""
    return Stages(memo(data), give_up_if_unwanted)


def assets(data: Path, brought: dict[str, bytes]) -> Assets:
    """Pictures, files and fonts of the designs in a folder; `brought` are those not kept there yet."""
    database = Database(data / DESIGNS, migrate=False)
    book = DesignBook(database)

    def kept(load: Callable[[str], bytes], digest: str) -> bytes:
        if digest in brought:
            return brought[digest]
        try:
            return load(digest)
        except UnknownDesignError as fault:
            raise RecipeError(fault.problem, fault.remedy) from fault

    return Assets(partial(kept, book.picture), FontShelf(database).data, partial(kept, book.file))
