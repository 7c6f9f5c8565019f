"""Keyed stages: a stage is a function, and its value carries a key that follows from the function and all that goes into it.

Nothing is worked out before its value is asked for, so what is remembered further down spares all that leads to it. A stage
takes plain values and keyed ones, and is called with plain ones; keys are never written by hand.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Mapping
from typing import Any, TypeVar

from gladstack.stages.memo import Keyed, Memo, key_of

T = TypeVar("T")
U = TypeVar("U")

GROUPS = ("decode", "tidy", "palette", "labels", "map", "art", "layers", "joints", "curves", "proof", "sheets")
"""What the seconds of a build are told by."""


class Stages:
    """Runs the stages of one piece of work through a memo, and keeps the seconds each group really worked itself.

    `tell` hears the group of each stage that has to work, and may raise to give up.
    """

    def __init__(self, memo: Memo, tell: Callable[[str], None] = lambda group: None) -> None:
        self._memo = memo
        self._tell = tell
        self._within = [0.0]
        self.seconds = dict.fromkeys(GROUPS, 0.0)

    def run(self, group: str, stage: Callable[..., T], *arguments: Any) -> Keyed[T]:
        """The value of a stage for these arguments."""
        return self._keyed(group, stage, arguments)

    def costly(self, group: str, stage: Callable[..., T], *arguments: Any) -> Keyed[T]:
        """The same for a stage that takes long: its value outlives the memo, and not every memo lets it work."""
        return self._keyed(group, stage, arguments, costly=True)

    def with_help(self, group: str, stage: Callable[..., T], help_: Callable[..., Any], *arguments: Any) -> Keyed[T]:
        """The same for a stage that also takes, last, a function to ask for more, which follows from `arguments`."""
        return self._keyed(group, stage, arguments, help_)

    def _keyed(
        self, group: str, stage: Callable[..., T], arguments: tuple[Any, ...], *helps: Any, costly: bool = False
    ) -> Keyed[T]:
        key = key_of(stage.__module__, stage.__qualname__, arguments)

        def work() -> T:
            return self._timed(group, lambda: stage(*(_plain(a) for a in arguments), *helps))

        return Keyed(key, lambda: self._memo.get(key, work, costly=costly))

    def _timed(self, group: str, work: Callable[[], T]) -> T:
        self._tell(group)
        begin = time.perf_counter()
        self._within.append(0.0)
        try:
            return work()
        finally:
            spent = time.perf_counter() - begin
            self.seconds[group] += spent - self._within.pop()
            self._within[-1] += spent


def _plain(argument: Any) -> Any:
    """An argument with every keyed value in it worked out."""
    if isinstance(argument, Keyed):
        return argument.value
    if type(argument) in (tuple, list):
        return type(argument)(_plain(one) for one in argument)
    if isinstance(argument, Mapping):
        return {name: _plain(one) for name, one in argument.items()}
    return argument


def loaded(load: Callable[[], T], *key: Any) -> Keyed[T]:
    """What comes from outside, known by a key of its own; fetched whenever a stage needs it."""
    return Keyed(key_of("given", *key), load)


def constant(value: T) -> Keyed[T]:
    """A value under the key of its own content, whatever it was made of."""
    return Keyed.ready(key_of(value), value)


def part(whole: Keyed[T], name: str, take: Callable[[T], U]) -> Keyed[U]:
    """A part of a keyed value; it is new whenever the whole is."""
    return Keyed(key_of(whole.key, name), lambda: take(whole.value))
