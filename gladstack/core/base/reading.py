"""One boundary for all that reads what a maker brings: what it did not foresee is told like any other fault.

The error carries the trace, which whoever tells of it also logs.
"""

from __future__ import annotations

import functools
import traceback
from collections.abc import Callable
from typing import ParamSpec, TypeVar

from gladstack.core.base.errors import GladStackError

P = ParamSpec("P")
T = TypeVar("T")


def reader(kind: type[GladStackError], subject: str, remedy: str) -> Callable[[Callable[P, T]], Callable[P, T]]:
    """Has a function that reads raise nothing but errors of the app: what was not foreseen becomes one of `kind`.

    `subject` ("This file") begins the sentence, `remedy` says what helps. Want of memory is passed on as it is.
    """

    def bounded(read: Callable[P, T]) -> Callable[P, T]:
        @functools.wraps(read)
        def within(*args: P.args, **kwargs: P.kwargs) -> T:
            try:
                return read(*args, **kwargs)
            except (GladStackError, MemoryError):
                raise
            except RecursionError as fault:
                raise kind(f"{subject} has too deeply nested parts.", remedy) from fault
            except Exception as fault:
                if "memory" in str(fault).lower() or "bad_alloc" in str(fault):
                    raise
                told = kind(f"{subject} cannot be read: it is damaged, or holds something that was not foreseen.", remedy)
                told.trace = traceback.format_exc()
                raise told from fault

        return within

    return bounded
