"""Inside a worker process: its limits, its memos, and what it is asked to do."""

from __future__ import annotations

import gc
import logging
import mmap
import os
import pickle
import resource
import signal
import threading
import traceback
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass
from functools import lru_cache, partial
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

import cv2
import shapely

from gladstack.core.base.errors import GladStackError, RecipeError
from gladstack.recipe.art.given import Assets
from gladstack.stages.engine import Stages
from gladstack.stages.memo import CostlyStageError, Memo
from gladstack.store.database import DESIGNS, KEPT, Database
from gladstack.store.designs import DesignBook
from gladstack.store.fonts import FontShelf
from gladstack.store.revisions import UnknownDesignError
from gladstack.work.kept import KeptStages

_LOG = logging.getLogger("gladstack.work")


class GivenUpError(Exception):
    """Nobody waits for this any more."""


class OutOfMemoryError(Exception):
    """The work asked for more memory than a worker may have."""


class UnforeseenError(Exception):
    """Something failed that should not; told by its trace, since not every error can be sent."""


class _Here:
    """What this process was started with, and what it is at."""

    costly = True
    kept_bytes = 0
    flags: mmap.mmap | None = None
    slot = 0


@dataclass(frozen=True)
class Setting:
    """How a worker works. `flags` is a file with a byte for each piece of work, set when it is not to go on.

    `nice` is how far it stands back behind others (0 to 19).
    """

    flags: Path
    memory_bytes: int
    kept_bytes: int
    nice: int = 0


def serve(line: Connection, leash: Connection, setting: Setting) -> None:
    """A worker process: does what comes down the line until it, or the leash, is closed at the other end."""
    begin(setting)
    threading.Thread(target=_end_with_the_server, args=(leash,), daemon=True).start()
    while True:
        try:
            packed = line.recv_bytes()
        except (EOFError, OSError):
            return
        slot = 0
        try:
            slot, costly, work, arguments = pickle.loads(packed)
            del packed
            answer: tuple[Any, BaseException | None] = (call(slot, costly, work, *arguments), None)
        except BaseException as fault:
            answer = (None, fault)
        line.send_bytes(_packed(answer))
        # Nothing of it is held while the worker is idle.
        work = arguments = None
        answer = (None, None)


def _packed(answer: tuple[Any, BaseException | None]) -> bytes:
    try:
        return pickle.dumps(answer, protocol=pickle.HIGHEST_PROTOCOL)
    except MemoryError as fault:
        return pickle.dumps((None, OutOfMemoryError(str(fault))))
    except Exception as fault:
        return pickle.dumps((None, UnforeseenError(f"its answer cannot be sent: {fault}")))


def begin(setting: Setting) -> None:
    """Sets a new worker up."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    signal.signal(signal.SIGTERM, signal.SIG_DFL)
    resource.setrlimit(resource.RLIMIT_AS, (setting.memory_bytes, setting.memory_bytes))
    os.nice(setting.nice)
    # Shapes and their tables hold no cycles: looking for some as often as Python does by itself takes a tenth of the time.
    gc.set_threshold(50_000, 20, 50)
    cv2.setNumThreads(max(1, (os.cpu_count() or 2) // 2))
    with setting.flags.open("r+b") as file:
        _Here.flags = mmap.mmap(file.fileno(), 0)
    _Here.kept_bytes = setting.kept_bytes


def _end_with_the_server(leash: Connection) -> None:
    with suppress(EOFError, OSError):
        leash.recv_bytes()
    os._exit(1)


def ready() -> None:
    """Does nothing: its answer tells that the worker can begin."""


def call(slot: int, costly: bool, work: Callable[..., Any], *arguments: Any) -> Any:
    """Does a piece of work; what goes wrong comes out as an error that can be sent to the server.

    Without `costly`, a costly stage that nobody remembers raises CostlyStageError in place of working.
    """
    _Here.slot, _Here.costly = slot, costly
    give_up_if_unwanted("")
    try:
        return work(*arguments)
    except GladStackError as fault:
        if fault.trace:
            _LOG.error("%s\n%s", fault.problem, fault.trace)
        raise
    except (CostlyStageError, GivenUpError):
        raise
    except MemoryError as fault:
        raise OutOfMemoryError(str(fault)) from None
    except (cv2.error, shapely.GEOSException) as fault:
        if "memory" in str(fault).lower() or "bad_alloc" in str(fault):
            raise OutOfMemoryError(str(fault)) from None
        raise UnforeseenError(traceback.format_exc()) from None
    except Exception:
        raise UnforeseenError(traceback.format_exc()) from None


def give_up_if_unwanted(stage: str) -> None:
    """Raises GivenUpError if nobody waits for the work at hand any more; asked before every stage of a build."""
    if _Here.flags is not None and _Here.flags[_Here.slot]:
        raise GivenUpError


def memo(data: Path) -> Memo:
    """This process's memo for the designs in a folder."""
    held = _memo(data)
    held.costly = _Here.costly
    return held


@lru_cache(4)
def _memo(data: Path) -> Memo:
    return Memo(kept=KeptStages(data / KEPT, _Here.kept_bytes))


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
