"""Remembering what stages computed, by the hash of just their inputs.

A `Memo` is handed to a build and may be shared by many: equal inputs give the remembered value. It keeps the most recently
used values within a budget of bytes. Values of *costly* stages (a picture separated, lines traced, a file read) are also
kept wherever `Kept` keeps them, so that another process, or the next one, finds them.
"""

from __future__ import annotations

import hashlib
import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable, Mapping
from dataclasses import fields, is_dataclass
from enum import Enum
from functools import cache
from typing import Any, Generic, Protocol, TypeVar

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

T = TypeVar("T")
T_co = TypeVar("T_co", covariant=True)

BUDGET_BYTES = 256 * 2**20
_OVERHEAD_BYTES = 100
"""What a small object costs beside its contents, roughly."""
_POLYGON_BYTES = 400
"""What GEOS and shapely keep for a polygon beside its points, measured on many small ones."""
_POINT_BYTES = 16


class CostlyStageError(Exception):
    """A costly stage would have to work, and this memo is not to let it."""


class Kept(Protocol):
    """A place where the values of costly stages outlive the memo."""

    def load(self, key: str) -> Any | None:
        """The value kept under a key, None if there is none."""

    def store(self, key: str, value: Any) -> None:
        """Keeps a value."""


class Keyed(Generic[T_co]):
    """A value under a key, worked out when it is first asked for."""

    __slots__ = ("_value", "_work", "key")

    def __init__(self, key: str, work: Callable[[], T_co]) -> None:
        self.key = key
        self._work: Callable[[], T_co] | None = work
        self._value: Any = None

    @staticmethod
    def ready(key: str, value: T) -> Keyed[T]:
        """A value that is there already; only such may be part of what is remembered."""
        out = Keyed(key, lambda: value)
        _ = out.value
        return out

    @property
    def value(self) -> T_co:
        """The value."""
        if self._work is not None:
            self._value, self._work = self._work(), None
        return self._value  # type: ignore[no-any-return]

    @property
    def made_of(self) -> tuple[Keyed[Any], ...]:
        """Those that it keeps alive beside its value."""
        return ()

    @property
    def pending(self) -> bool:
        """Whether the value is not worked out yet."""
        return self._work is not None


def key_of(*parts: Any) -> str:
    """A stable hash of numbers, text, None, shapes by their points, keyed values by their keys, what has a `digest`, and
    tuples, lists, dictionaries and data classes of them.
    """
    digest = hashlib.blake2b(digest_size=16)
    _feed(digest.update, parts)
    return digest.hexdigest()


def _feed(update: Callable[[bytes], None], part: Any) -> None:
    kind = type(part)
    if issubclass(kind, Keyed):
        update(b"k" + part.key.encode())
    elif hasattr(kind, "digest"):
        update(part.digest)
    elif isinstance(part, BaseGeometry):
        wkb = shapely.to_wkb(part)
        update(b"g%d:" % len(wkb))
        update(wkb)
    elif isinstance(part, tuple | list):
        update(b"(%d" % len(part))
        for one in part:
            _feed(update, one)
    elif isinstance(part, Mapping):
        _feed(update, tuple(part.items()))
    elif names := _fields(kind):  # type: ignore[arg-type]
        _feed(update, (kind.__qualname__, *(getattr(part, name) for name in names)))
    elif isinstance(part, str | int | float | bytes | Enum) or part is None:
        text = repr(part).encode()
        update(b"%d:" % len(text))
        update(text)
    else:
        raise TypeError(f"{kind.__name__} has no key of its own")


def worked_out(value: T) -> T:
    """A value with every keyed value in it worked out, so that it can be remembered as a whole."""
    size_of(value, work_out=True)
    return value


def size_of(value: Any, *, work_out: bool = False) -> int:
    """About how many bytes a value keeps alive: an array that is a view counts with all it is a view of.

    Raises TypeError if something in it is not worked out yet, unless it is to be worked out now.
    """
    seen: set[int] = set()
    total = 0
    left = [value]
    while left:
        here = left.pop()
        kind = type(here)
        if kind in _SMALL or id(here) in seen:
            continue
        seen.add(id(here))
        total += _OVERHEAD_BYTES
        if kind is tuple or kind is list:
            left += here
        elif issubclass(kind, Keyed):
            if here.pending and not work_out:
                raise TypeError("what is remembered must be worked out")
            left += (here.value, *here.made_of)
        elif kind is np.ndarray:
            if isinstance(here.base, np.ndarray):
                left.append(here.base)
            else:
                total += here.nbytes
            if here.dtype == object:
                left += here.ravel().tolist()
        elif names := _fields(kind):  # type: ignore[arg-type]
            left += [getattr(here, name) for name in names]
        elif isinstance(here, BaseGeometry):
            total += _POINT_BYTES * int(shapely.get_num_coordinates(here))
            total += _POLYGON_BYTES * int(shapely.get_num_geometries(here))
        elif isinstance(here, str | bytes | bytearray):
            total += len(here)
        elif isinstance(here, Mapping):
            left += [*here.keys(), *here.values()]
        elif isinstance(here, tuple | list | set | frozenset):
            left += here
        elif hasattr(here, "__dict__") and not isinstance(here, type | Enum) and not callable(here):
            left += vars(here).values()
    return total


_SMALL = frozenset((type(None), bool, int, float))


@cache
def _fields(kind: Hashable) -> tuple[str, ...]:
    return tuple(f.name for f in fields(kind)) if is_dataclass(kind) and isinstance(kind, type) else ()


_ALLOCATED = 1.5
"""How much more memory a process takes than its values count: what the allocator cannot give back, as measured."""


class Memo:
    """Values by key, the least recently used dropped first. Safe to share between threads.

    While `costly` is false, a costly stage that nobody remembers raises `CostlyStageError` in place of being computed.
    """

    def __init__(self, budget_bytes: int = BUDGET_BYTES, kept: Kept | None = None, *, costly: bool = True) -> None:
        self.costly = costly
        self._values: OrderedDict[str, tuple[Any, int]] = OrderedDict()
        self._budget = budget_bytes
        self._held = 0
        self._kept = kept
        self._lock = threading.RLock()

    @property
    def held_bytes(self) -> int:
        """About how many bytes are remembered now."""
        return self._held

    def get(self, key: str, compute: Callable[[], T], *, costly: bool = False) -> T:
        """The value for `key`, computed only if it is neither remembered nor kept."""
        with self._lock:
            if key in self._values:
                self._values.move_to_end(key)
                value: T = self._values[key][0]
                return value
        found = self._kept.load(key) if costly and self._kept is not None else None
        if found is None:
            if costly and not self.costly:
                raise CostlyStageError(key)
            found = compute()
            if costly and self._kept is not None:
                self._kept.store(key, found)
        self._remember(key, found)
        return found

    def _remember(self, key: str, value: Any) -> None:
        size = round(_ALLOCATED * size_of(value))
        with self._lock:
            self._held += size - self._values.pop(key, (None, 0))[1]
            self._values[key] = value, size
            # What was just made is kept even if it is larger than the budget: the next stage asks for it.
            while self._held > self._budget and len(self._values) > 1:
                _, (_, dropped) = self._values.popitem(last=False)
                self._held -= dropped
