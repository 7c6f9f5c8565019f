"""The crew: lanes for light, short and long work, each with a worker process of its own that can be ended without harm.

Light work has two, and what is done for one design always goes to the same, which remembers what it has built of it.

Work goes where its cost, told beforehand, sends it; what takes longer than its lane allows moves on to the next by itself,
so that nobody else waits behind it. A short piece of work may use the long lane while that one is idle. All steps of one
request share one deadline. Work nobody waits for any more is given up: between two stages if it comes to one soon, else
with its process.
"""

from __future__ import annotations

import asyncio
import itertools
import logging
import math
import mmap
import tempfile
import threading
import time
from collections.abc import Awaitable, Callable, Iterator
from concurrent.futures import Future
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any, TypeVar
from zlib import crc32

from gladstack.core.base.errors import GladStackError
from gladstack.stages.memo import CostlyStageError
from gladstack.work import worker
from gladstack.work.hand import GoneError
from gladstack.work.lane import FullError, Lane, LateError, Turn
from gladstack.work.ticket import Ticket, current, held

T = TypeVar("T")
_LOG = logging.getLogger("gladstack.work")
_SLOTS = 4096
_LIGHTS = 2
_SLOW_FOR_S = 600.0
_READY_S = 60.0
LIGHT_S = 0.0
"""The cost of work that needs no costly stage."""


@dataclass(frozen=True)
class Limits:
    """What one request's work may take: seconds in all, memory, and of the processor in the light and the short lane.

    What will cost more than `short_cost_s` goes to the long lane at once. `kept_bytes` is what all kept stages together may
    take on disk.
    """

    deadline_s: float = 30.0
    memory_bytes: int = 4 * 2**30
    light_s: float = 1.0
    short_s: float = 3.0
    short_cost_s: float = 3.0
    kept_bytes: int = 2**30


class TooMuchError(GladStackError):
    """The work took too long or too much memory, or ended its process."""

    code = "too-much"


class BusyError(GladStackError):
    """Too much work waits already."""

    code = "busy"


class WorkFailedError(GladStackError):
    """The work failed in a way that nobody foresaw."""

    code = "unforeseen"


@dataclass(frozen=True)
class Waiting:
    """How a request stands: how many are done before it (0: it is worked on), and how far it has come in steps."""

    before: int
    done: int
    of: int


@dataclass(frozen=True)
class LaneHealth:
    """A lane as it stands: whether its worker runs, what waits, and how many workers that ended were replaced."""

    lane: str
    alive: bool
    waiting: int
    replaced: int


class Crew:
    """All lanes. Started when they are first needed; `close` ends them at once."""

    def __init__(self, limits: Limits | None = None) -> None:
        self.limits = limits or Limits()
        self._folder = tempfile.TemporaryDirectory(prefix="gladstack-crew-")
        flags = Path(self._folder.name) / "flags"
        flags.write_bytes(bytes(_SLOTS))
        with flags.open("r+b") as file:
            self._flags = mmap.mmap(file.fileno(), 0)
        self._numbers = itertools.count(1)
        self._slow: dict[str, float] = {}
        self._tickets: dict[str, Ticket] = {}
        self._lock = threading.Lock()
        self._lanes: tuple[Lane, ...] = ()
        sizes = self.limits.memory_bytes, self.limits.kept_bytes
        self._settings = (
            *((f"light {k + 1}", worker.Setting(flags, *sizes)) for k in range(_LIGHTS)),
            ("short", worker.Setting(flags, *sizes, nice=1)),
            ("long", worker.Setting(flags, *sizes, nice=3)),
        )

    def start(self) -> list[Future[None]]:
        """Starts all workers ahead of the first work; each future is done when its worker can begin."""
        return [self._turn(lane, Ticket(_READY_S), _READY_S, 0.0, (True, worker.ready, ())).future for lane in self._all()]

    def close(self) -> None:
        """Ends all workers, whatever they are doing."""
        with self._lock:
            lanes, self._lanes = self._lanes, ()
        for lane in lanes:
            lane.close()
        self._folder.cleanup()

    @contextmanager
    def request(self, name: str | None) -> Iterator[Ticket]:
        """All work begun within shares one deadline; by its name, if it has one, others can ask how it stands."""
        ticket = Ticket(self.limits.deadline_s)
        if name is not None:
            self._tickets[name] = ticket
        try:
            with held(ticket):
                yield ticket
        finally:
            if name is not None:
                self._tickets.pop(name, None)

    def standing(self, name: str) -> Waiting | None:
        """How a request stands; None if there is none of this name, or nothing of it waits or is worked on."""
        ticket = self._tickets.get(name)
        if ticket is None:
            return None
        places = [place for lane in self._lanes if (place := lane.before(ticket)) is not None]
        return Waiting(min(places), ticket.done, ticket.of) if places else None

    def health(self) -> list[LaneHealth]:
        """How each lane stands."""
        return [LaneHealth(one.name, one.pid is not None, one.waiting, one.replaced) for one in self._all()]

    async def run(
        self,
        cost_s: float,
        subject: str,
        work: Callable[..., T],
        *arguments: Any,
        more_s: float = 0.0,
        patience_s: float = 0.0,
    ) -> T:
        """Does `work` and gives its result; `subject` ("this file") begins the problem if it asks for too much.

        `cost_s` is what it will take, as far as can be told. `more_s` is added to the request's deadline where the work is
        asked to take its time. Work with `patience_s` lets others pass that come within so many seconds.

        Raises what the work raises if that is a GladStackError; TooMuchError; BusyError; WorkFailedError. If the waiting
        task is cancelled, the work is given up.
        """
        return await self._run(cost_s, subject, (True, work, arguments), more_s, "", patience_s)  # type: ignore[no-any-return]

    async def light_first(
        self,
        subject: str,
        whose: str,
        work: Callable[..., T],
        ahead: Callable[[], Awaitable[object]],
        *arguments: Any,
        cost_s: float = LIGHT_S,
        more_s: float = 0.0,
        patience_s: float = 0.0,
    ) -> T:
        """Does `work` in the lane for its cost without its costly stages; these are done `ahead`, if nobody remembers them.

        What was too long for the light lane is begun in the next one from then on, for a while, for the same `whose`: a
        worker that was ended has forgotten all that would help.
        """
        for _ in range(2):
            cost = cost_s if time.monotonic() >= self._slow.get(whose, 0.0) else max(cost_s, self.limits.light_s)
            try:
                return await self._run(  # type: ignore[no-any-return]
                    cost, subject, (False, work, arguments), more_s, whose, patience_s
                )
            except CostlyStageError:
                more_s = 0.0
                await ahead()
        # What was done ahead could not be kept, as on a full disk.
        return await self.run(self.limits.short_cost_s, subject, work, *arguments)

    async def _run(
        self, cost_s: float, subject: str, message: tuple[Any, ...], more_s: float, whose: str = "", patience_s: float = 0.0
    ) -> Any:
        ticket = current() or Ticket(self.limits.deadline_s)
        ticket.give(more_s)
        for lane, busy_s in self._ways(cost_s, whose):
            try:
                return await self._done(lane, ticket, busy_s, cost_s + patience_s, subject, message)
            except LateError:
                if busy_s == self.limits.light_s and whose:
                    self._slow[whose] = time.monotonic() + _SLOW_FOR_S
                if ticket.left_s <= 0:
                    break
        told = f"{subject} asks for too much: it was not done within {ticket.given_s:g} s."
        raise TooMuchError(told, _LESS)

    async def _done(
        self, lane: Lane, ticket: Ticket, busy_s: float, back_s: float, subject: str, message: tuple[Any, ...]
    ) -> Any:
        try:
            turn = self._turn(lane, ticket, busy_s, back_s, message)
        except FullError as fault:
            raise BusyError("Too much is being worked out already.", "Wait a moment, then try again.") from fault
        answer = asyncio.wrap_future(turn.future)
        # Nobody may be left to hear of an error of work that was given up.
        answer.add_done_callback(lambda done: done.cancelled() or done.exception())
        try:
            return await asyncio.shield(answer)
        except asyncio.CancelledError:
            lane.give_up(turn)
            raise
        except (GladStackError, CostlyStageError, LateError):
            raise
        except (worker.OutOfMemoryError, MemoryError) as fault:
            told = f"{subject} asks for too much: it needs more than {self.limits.memory_bytes / 2**30:.1f} GB of memory."
            raise TooMuchError(told, _LESS) from fault
        except GoneError as fault:
            raise TooMuchError(f"{subject} asks for too much: the work on it broke off.", _LESS) from fault
        except Exception as fault:
            _LOG.error("work on “%s” failed: %s", subject, fault)
            helps = _OTHER_FILE if subject in _BROUGHT else "Undo the last step, or try another setting."
            raise WorkFailedError(f"{subject} could not be worked out; nothing was changed.", helps) from fault

    def _ways(self, cost_s: float, whose: str) -> Iterator[tuple[Lane, float]]:
        """The lanes that work of a cost goes through, each with the seconds of the processor that it allows.

        A short piece of work goes to the long lane if that one is idle and the short one is not.
        """
        *lights, short, long = self._all()
        if cost_s <= LIGHT_S:
            own = crc32(whose.encode()) % len(lights) if whose else min(range(len(lights)), key=lambda k: lights[k].waiting)
            yield lights[own], self.limits.light_s
        if cost_s <= self.limits.short_cost_s and not (short.waiting and not long.waiting):
            yield short, self.limits.short_s
        yield long, math.inf

    def _turn(self, lane: Lane, ticket: Ticket, busy_s: float, back_s: float, message: tuple[Any, ...]) -> Turn:
        number = next(self._numbers)
        # Slots are used in turn, so that one is only used anew when its work is long done.
        slot = number % _SLOTS
        self._flags[slot] = 0
        turn = Turn(time.monotonic() + back_s, number, slot, message, busy_s, ticket)
        lane.take(turn)
        return turn

    def _all(self) -> tuple[Lane, ...]:
        with self._lock:
            if not self._lanes:
                self._lanes = tuple(Lane(name, setting, self._flag) for name, setting in self._settings)
            return self._lanes

    def _flag(self, slot: int) -> None:
        self._flags[slot] = 1


_BROUGHT = ("This file", "This picture", "This font")
_OTHER_FILE = "Save it again, or bring in another."
_LESS = "Bring in a smaller or simpler file, or ask for fewer colours, films or copies."
