"""Remembering what stages computed, by the hash of just their inputs.

A `Memo` is handed to a build and may be shared by many: equal inputs give the remembered value. It keeps the most recently
used entries within a budget of items, and notes the seconds each stage really worked.
"""

from __future__ import annotations

import hashlib
import threading
import time
from collections import OrderedDict
from collections.abc import Callable
from typing import Any, TypeVar

import shapely
from shapely import MultiPolygon

T = TypeVar("T")


def key_of(*parts: Any) -> str:
    """A stable hash of plain data (numbers, text, lists, None)."""
    return hashlib.blake2b(repr(parts).encode(), digest_size=16).hexdigest()


def content_of(shape: MultiPolygon) -> str:
    """A key for a shape by its very points, whatever it was made of."""
    return hashlib.sha256(shapely.to_wkb(shape)).hexdigest()


class Memo:
    """Values by key, least recently used ones dropped first. Safe to share between threads."""

    def __init__(self, capacity: int = 4000, heavy_capacity: int = 12) -> None:
        self._values: OrderedDict[str, Any] = OrderedDict()
        self._heavy: OrderedDict[str, Any] = OrderedDict()
        self._capacity = capacity
        self._heavy_capacity = heavy_capacity
        self._lock = threading.RLock()

    def __contains__(self, key: str) -> bool:
        with self._lock:
            return key in self._values or key in self._heavy

    def get(self, key: str, compute: Callable[[], T], *, heavy: bool = False) -> tuple[T, float]:
        """The value for `key` and the seconds spent on computing it now (0.0 if it was remembered).

        `heavy` values hold pixels, and only a few of them are kept.
        """
        shelf, room = (self._heavy, self._heavy_capacity) if heavy else (self._values, self._capacity)
        with self._lock:
            if key in shelf:
                shelf.move_to_end(key)
                return shelf[key], 0.0
        begin = time.perf_counter()
        value = compute()
        spent = time.perf_counter() - begin
        with self._lock:
            shelf[key] = value
            while len(shelf) > room:
                shelf.popitem(last=False)
        return value, spent
