"""The process that workers are forked from, begun ahead of the rest of the app, whose modules it loads meanwhile."""

from __future__ import annotations

import multiprocessing
from multiprocessing import forkserver

_MODULES = ["gladstack.work.preload"]


def begin(*modules: str) -> None:
    """Begins it where it does not run, with these modules loaded beside the core's: those that hold what workers do."""
    _MODULES.extend(name for name in modules if name not in _MODULES)
    multiprocessing.get_context("forkserver").set_forkserver_preload(list(_MODULES))
    forkserver.ensure_running()
