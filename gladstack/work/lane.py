"""A lane: a queue, and one worker that does what stands in it, one after another.

What costs less goes first, but nothing waits for ever: each piece of work stands in the queue as if it had come as many
seconds later as it costs. A worker that ended is replaced, and what it was at is done once more.
"""

from __future__ import annotations

import logging
import threading
import time
from collections.abc import Callable
from concurrent.futures import Future, InvalidStateError
from contextlib import suppress
from dataclasses import dataclass, field
from typing import Any

from gladstack.work import worker
from gladstack.work.hand import Answer, EndedError, GoneError, Hand
from gladstack.work.ticket import Ticket

_LOG = logging.getLogger("gladstack.work")
GRACE_S = 0.3
"""How long work that is not to go on may take to come to its next stage before its process is ended."""
_TRIES = 2
_LEISURE = 4.0
"""How many times longer work may take than it keeps the processor busy, as on a machine that others use as well."""
MOST_WAITING = 200


class LateError(Exception):
    """The work was not done within its limit."""


class FullError(Exception):
    """Too many wait already."""


@dataclass(order=True)
class Turn:
    """One piece of work in a queue. `due` orders it; it may keep the processor busy for `busy_s` seconds in this lane."""

    due: float
    number: int
    slot: int = field(compare=False)
    message: tuple[Any, ...] = field(compare=False)
    busy_s: float = field(compare=False)
    ticket: Ticket = field(compare=False)
    future: Future[Any] = field(compare=False, default_factory=Future)
    unwanted_at: float | None = field(compare=False, default=None)


class Lane:
    """`flag(slot)` tells the work in a slot to give itself up at its next stage."""

    def __init__(self, name: str, setting: worker.Setting, flag: Callable[[int], None]) -> None:
        self.name = name
        self.replaced = 0
        self._setting = setting
        self._flag = flag
        self._queue: list[Turn] = []
        self._at: Turn | None = None
        self._hand: Hand | None = None
        self._closing = False
        self._changed = threading.Condition()
        self._thread = threading.Thread(target=self._serve, name=f"lane {name}", daemon=True)
        self._thread.start()

    @property
    def pid(self) -> int | None:
        """The process of its worker, if it has one that runs."""
        hand = self._hand
        # While it works its line may hold an answer.
        return hand.pid if hand is not None and (self._at is not None or hand.alive) else None

    @property
    def waiting(self) -> int:
        """How many pieces of work wait or are worked on."""
        with self._changed:
            return len(self._queue) + (self._at is not None)

    def before(self, ticket: Ticket) -> int | None:
        """How many are done before what this ticket waits for here: 0 if it is worked on; None if it has nothing here."""
        with self._changed:
            if self._at is not None and self._at.ticket is ticket:
                return 0
            ahead = (k for k, turn in enumerate(sorted(self._queue)) if turn.ticket is ticket)
            place = next(ahead, None)
            return None if place is None else place + (self._at is not None)

    def take(self, turn: Turn) -> None:
        """Puts work into the queue. Raises FullError."""
        with self._changed:
            if self._closing or len(self._queue) >= MOST_WAITING:
                raise FullError
            self._queue.append(turn)
            self._changed.notify()

    def give_up(self, turn: Turn) -> None:
        """Says that nobody waits for this work any more."""
        turn.unwanted_at = time.monotonic()
        self._flag(turn.slot)
        with self._changed:
            if turn in self._queue:
                self._queue.remove(turn)
                turn.future.cancel()

    def close(self) -> None:
        """Ends its worker at once; what waits is cancelled."""
        with self._changed:
            self._closing = True
            for turn in self._queue:
                turn.future.cancel()
            self._queue.clear()
            if self._at is not None:
                self._at.unwanted_at = 0.0
            self._changed.notify()
        self._thread.join(timeout=5)

    def _serve(self) -> None:
        while (turn := self._next()) is not None:
            try:
                answer = self._do(turn)
            except Exception as fault:
                answer = Answer(None, fault)
            with self._changed:
                self._at = None
            # Whoever waited may have left in the meantime.
            with suppress(InvalidStateError):
                _settle(turn.future, answer)
        if self._hand is not None:
            self._hand.end()

    def _next(self) -> Turn | None:
        with self._changed:
            while not self._queue and not self._closing:
                self._changed.wait()
            if self._closing:
                return None
            turn = min(self._queue)
            self._queue.remove(turn)
            self._at = turn
            return turn

    def _do(self, turn: Turn) -> Answer:
        """Has it done, by a new worker once more if the worker ended."""
        for tried in range(1, _TRIES + 1):
            # Starting a worker is no part of the work.
            hand = self._ready()
            turn.ticket.workers.append(f"{self.name} {hand.pid}")
            begin, busy = time.monotonic(), hand.busy_s()
            until = begin + min(turn.ticket.left_s, _LEISURE * turn.busy_s)
            late_at: float | None = None

            def may_go_on(hand: Hand = hand, busy: float = busy, until: float = until) -> bool:
                nonlocal late_at
                now = time.monotonic()
                if turn.unwanted_at is not None:
                    return now < turn.unwanted_at + GRACE_S
                if late_at is None and (now >= until or hand.busy_s() >= busy + turn.busy_s):
                    self._flag(turn.slot)
                    late_at = now
                return late_at is None or now < late_at + GRACE_S

            try:
                answer = hand.ask((turn.slot, *turn.message), may_go_on)
            except EndedError:
                self._replace()
                raise LateError from None
            except GoneError as fault:
                self._replace()
                self.replaced += 1
                again = tried < _TRIES and turn.unwanted_at is None
                _LOG.error("%s lane: %s; %s", self.name, fault, "tried once more" if again else "given up")
                if not again:
                    raise
                continue
            finally:
                turn.ticket.left_s -= time.monotonic() - begin
            if isinstance(answer.fault, worker.GivenUpError):
                raise LateError
            return answer
        raise GoneError("never reached")

    def _ready(self) -> Hand:
        if self._hand is None or not self._hand.alive:
            if self._hand is not None:
                _LOG.error("%s lane: worker %s had ended while idle; a new one takes its place", self.name, self._hand.pid)
                self._replace()
                self.replaced += 1
            self._hand = Hand(self._setting)
        return self._hand

    def _replace(self) -> None:
        if self._hand is not None:
            self._hand.end()
            self._hand = None


def _settle(future: Future[Any], answer: Answer) -> None:
    if answer.fault is not None:
        future.set_exception(answer.fault)
    else:
        future.set_result(answer.value)
