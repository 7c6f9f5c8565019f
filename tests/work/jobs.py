"""Work for crews under test."""

from __future__ import annotations

import hashlib
import os
import time
from pathlib import Path
from tempfile import gettempdir

import numpy as np
import shapely

from gladstack.core.base.errors import PictureError
from gladstack.stages.memo import CostlyStageError
from gladstack.work import worker


def add(a: int, b: int) -> int:
    return a + b


def who() -> int:
    return os.getpid()


def wait(seconds: float) -> str:
    time.sleep(seconds)
    return "done"


def work_hard(seconds: float) -> str:
    """Keeps the processor busy for so long."""
    until = time.process_time() + seconds
    while time.process_time() < until:
        pass
    return "done"


def wait_in_stages(note: str) -> None:
    """Works for ten seconds in small stages, and notes that it was given up."""
    try:
        for _ in range(200):
            time.sleep(0.05)
            worker.give_up_if_unwanted("stage")
    except worker.GivenUpError:
        Path(note).write_text(str(os.getpid()))
        raise


def abort() -> None:
    os.abort()


def hoard(gigabytes: int) -> int:
    return int(np.ones(gigabytes * 2**30, np.uint8)[::4096].sum())


def refuse() -> None:
    raise PictureError("This is no picture.", "Bring another.")


def stumble() -> None:
    raise KeyError("nobody thought of this")


def overlay_badly() -> None:
    raise shapely.GEOSException("TopologyException: side location conflict")


def costly_if_light() -> str:
    """What a build does whose costly stage nobody remembers."""
    if not worker._Here.costly:
        raise CostlyStageError("map")
    return "worked where it may"


def note_done(note: str) -> None:
    _note(note).write_text("done")


def needs_note(note: str) -> str:
    """What a build does whose costly stage is kept once it was worked out."""
    if not _note(note).exists():
        raise CostlyStageError("map")
    return "found"


def _note(note: str) -> Path:
    return Path(gettempdir()) / hashlib.sha1(note.encode()).hexdigest()


def nothing() -> None:
    pass


def tell_and_wait(note: str, seconds: float) -> int:
    """Notes its process once; the first that does so waits."""
    path = Path(note)
    if not path.exists():
        path.write_text(str(os.getpid()))
        time.sleep(seconds)
        return 0
    return os.getpid()


def who_after(seconds: float) -> int:
    time.sleep(seconds)
    return os.getpid()
