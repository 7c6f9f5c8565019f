"""A request on its way: the seconds its work may still take, whether it waits for its turn, and how far it has come.

All steps of one request share its ticket, and so one deadline.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field


@dataclass
class Ticket:
    """`given_s` is all its work may take; `left_s` goes down while that is done, not while it waits.

    `done` of `of` are steps of work told to its asker; `workers` are those that worked on it, by lane and process.
    """

    given_s: float
    left_s: float = field(init=False)
    done: int = 0
    of: int = 0
    workers: list[str] = field(default_factory=list)

    def __post_init__(self) -> None:
        self.left_s = self.given_s

    def give(self, more_s: float) -> None:
        """Gives it more time."""
        self.given_s += more_s
        self.left_s += more_s


_CURRENT: ContextVar[Ticket | None] = ContextVar("ticket", default=None)


def current() -> Ticket | None:
    """The ticket of the request at hand, if it has one."""
    return _CURRENT.get()


@contextmanager
def held(ticket: Ticket | None) -> Iterator[None]:
    """All that is begun within belongs to this ticket; None: to one of its own."""
    before = _CURRENT.set(ticket)
    try:
        yield
    finally:
        _CURRENT.reset(before)
