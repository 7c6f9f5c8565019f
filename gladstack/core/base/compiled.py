"""Compiled loops. What is compiled is cached beside its source; `gladstack.warm` does so ahead of its first use.

It also records for which types each loop was compiled, so that a process can load all of them without any work to do.
"""

from __future__ import annotations

import pickle
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Any, TypeVar

import numba as nb
from numba.core.errors import NumbaError

F = TypeVar("F", bound=Callable[..., Any])

LOOPS: list[Any] = []
"""All loops of the modules that are loaded, as numba's dispatchers."""


def jit(loop: F) -> F:
    """A loop that is compiled when it is first called, or loaded where it was compiled before."""
    made = nb.njit(cache=True, nogil=True)(loop)
    LOOPS.append(made)
    return made  # type: ignore[return-value]


def record() -> None:
    """Notes for which types each loop is compiled by now."""
    found = [(one.py_func.__module__, one.py_func.__name__, list(one.signatures)) for one in LOOPS if one.signatures]
    path = _path()
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_bytes(pickle.dumps((nb.__version__, found)))


def load() -> bool:
    """Loads what was recorded of the modules that are loaded; a loop whose source has changed since is compiled again.

    False where nothing was recorded.
    """
    try:
        version, found = pickle.loads(_path().read_bytes())
    except (OSError, EOFError, pickle.UnpicklingError, ImportError, AttributeError):
        return False
    if version != nb.__version__:
        return False
    known = {(one.py_func.__module__, one.py_func.__name__): one for one in LOOPS}
    for module, name, signatures in found:
        # A loop that is gone, and types that it no longer takes, are not needed either.
        for signature in signatures if (module, name) in known else ():
            with suppress(NumbaError):
                known[module, name].compile(signature)
    return True


@nb.njit(cache=True)
def _nothing() -> int:
    return 0


def _path() -> Path:
    """Where numba keeps what it has compiled of this module, which may be beside it or in a folder of the user."""
    return Path(str(_nothing.stats.cache_path)) / "loops.pickle"
