"""The crew: one worker for light work, one for heavy, each a process of its own that can be ended without harm.

Work goes to the light worker first. Where a costly stage would have to work, or where the light worker takes too long, it
goes to the heavy one, so that nobody else waits behind it. Work nobody waits for any more is given up: between two stages if
it comes to one soon, else with its process.
"""

from __future__ import annotations

import asyncio
import logging
import mmap
import multiprocessing
import tempfile
import threading
import time
from collections.abc import Callable
from concurrent.futures import Future
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Literal, TypeVar

from pebble import ProcessExpired, ProcessPool

from gladstack.core.base.errors import GladStackError
from gladstack.stages.memo import CostlyStageError
from gladstack.work import worker

T = TypeVar("T")
Lane = Literal["light", "heavy"]
_LOG = logging.getLogger("gladstack.work")
_SLOTS = 4096
_HEAVY_FOR_S = 600.0
_GRACE_S = 0.3
"""How long work that nobody wants may take to come to its next stage before its process is ended."""


@dataclass(frozen=True)
class Limits:
    """What one piece of work may take: seconds, memory, and seconds in the light lane before it moves to the heavy one.

    `kept_bytes` is what all kept stages together may take on disk.
    """

    deadline_s: float = 30.0
    memory_bytes: int = 4 * 2**30
    light_s: float = 5.0
    kept_bytes: int = 2**30


class TooMuchError(GladStackError):
    """The work took too long or too much memory, or ended its process."""

    code = "too-much"


class WorkFailedError(GladStackError):
    """The work failed in a way that nobody foresaw."""

    code = "unforeseen"


class Crew:
    """Both workers. Started when they are first needed; `close` ends them at once."""

    def __init__(self, limits: Limits | None = None) -> None:
        self.limits = limits or Limits()
        self._folder = tempfile.TemporaryDirectory(prefix="gladstack-crew-")
        self._flags_path = Path(self._folder.name) / "flags"
        self._flags_path.write_bytes(bytes(_SLOTS))
        with self._flags_path.open("r+b") as file:
            self._flags = mmap.mmap(file.fileno(), 0)
        self._slot = 0
        self._heavy: dict[str, float] = {}
        self._pools: dict[Lane, ProcessPool] = {}
        self._lock = threading.Lock()

    def start(self) -> list[Future[None]]:
        """Starts both workers ahead of the first work; each future is done when its worker can begin."""
        lanes: tuple[Lane, ...] = ("light", "heavy")
        return [self._pool(lane).schedule(worker.ready) for lane in lanes]

    def close(self) -> None:
        """Ends both workers, whatever they are doing."""
        with self._lock:
            pools, self._pools = list(self._pools.values()), {}
        for pool in pools:
            pool.stop()  # type: ignore[no-untyped-call]
        for pool in pools:
            pool.join(timeout=2)
        self._folder.cleanup()

    async def run(self, lane: Lane, subject: str, work: Callable[..., T], *arguments: Any, more_s: float = 0.0) -> T:
        """Does `work` in a lane and gives its result; `subject` ("this file") begins the problem if it asks for too much.

        `more_s` is added to the deadline where the work is asked to take its time.

        Raises what the work raises if that is a GladStackError or CostlyStageError; TooMuchError; WorkFailedError. If the
        waiting task is cancelled, the work is given up.
        """
        slot = self._take_slot()
        deadline = self.limits.deadline_s + more_s if lane == "heavy" else min(self.limits.light_s, self.limits.deadline_s)
        future = self._pool(lane).schedule(worker.call, args=[slot, work, *arguments], timeout=deadline)
        answer = asyncio.wrap_future(future)
        # Nobody may be left to hear of an error of work that was given up.
        answer.add_done_callback(lambda done: done.cancelled() or done.exception())
        try:
            return await asyncio.shield(answer)  # type: ignore[no-any-return]
        except asyncio.CancelledError:
            self._flags[slot] = 1
            # It may come to its next stage and give itself up; if it does not, its process is ended.
            farewell = threading.Timer(_GRACE_S, future.cancel)
            farewell.daemon = True
            farewell.start()
            raise
        except (GladStackError, CostlyStageError):
            raise
        except TimeoutError as fault:
            told = f"{subject} asks for too much: it was not done within {deadline:g} s."
            raise TooMuchError(told, _LESS) from fault
        except (worker.OutOfMemoryError, MemoryError) as fault:
            told = f"{subject} asks for too much: it needs more than {self.limits.memory_bytes / 2**30:.1f} GB of memory."
            raise TooMuchError(told, _LESS) from fault
        except ProcessExpired as fault:
            _LOG.error("a worker ended in the midst of its work: %s", fault)
            raise TooMuchError(f"{subject} asks for too much: the work on it broke off.", _LESS) from fault
        except Exception as fault:
            _LOG.exception("work failed: %s", fault)
            raise WorkFailedError(
                f"{subject} could not be worked out; nothing was changed.", "Undo the last step, or try another setting."
            ) from fault

    async def light_first(
        self, subject: str, whose: str, work: Callable[..., T], prepare: Callable[..., None], *arguments: Any
    ) -> T:
        """Does `work` in the light lane, after `prepare` in the heavy one if a costly stage has to work first.

        What is too long for the light lane is done in the heavy one as a whole, and so is from then on, for a while, all
        that is done for the same: a worker that was ended has forgotten all that would help.
        """
        if whose in self._heavy and time.monotonic() < self._heavy[whose]:
            return await self.run("heavy", subject, work, *arguments)
        try:
            try:
                return await self.run("light", subject, work, *arguments)
            except CostlyStageError:
                await self.run("heavy", subject, prepare, *arguments)
                return await self.run("light", subject, work, *arguments)
        except CostlyStageError:
            return await self.run("heavy", subject, work, *arguments)
        except TooMuchError:
            if self.limits.deadline_s <= self.limits.light_s:
                raise
            self._heavy[whose] = time.monotonic() + _HEAVY_FOR_S
            return await self.run("heavy", subject, work, *arguments)

    def _pool(self, lane: Lane) -> ProcessPool:
        with self._lock:
            if lane not in self._pools:
                context = multiprocessing.get_context("forkserver")
                context.set_forkserver_preload(["gladstack.work.preload"])
                self._pools[lane] = ProcessPool(
                    max_workers=1,
                    context=context,
                    initializer=_begin,
                    initargs=[self._flags_path, self.limits.memory_bytes, self.limits.kept_bytes, lane == "heavy"],
                )
            return self._pools[lane]

    def _take_slot(self) -> int:
        """A slot for one piece of work; they are used in turn, so that one is only used anew when its work is long done."""
        with self._lock:
            self._slot = (self._slot + 1) % _SLOTS
            self._flags[self._slot] = 0
            return self._slot


_LESS = "Bring in a smaller or simpler file, or ask for fewer colours, films or copies."


def _begin(flags: Path, memory_bytes: int, kept_bytes: int, costly: bool) -> None:
    worker.begin(flags, memory_bytes, kept_bytes, costly=costly)
