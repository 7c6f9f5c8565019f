"""One worker process and the line to it. It is started from a fork server that has all modules loaded.

Its process ends when the line is closed, so none outlives the server, however either of them ended.
"""

from __future__ import annotations

import logging
import multiprocessing
import pickle
import time
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from gladstack.work import forks, worker

_LOG = logging.getLogger("gladstack.work")
_LOOK_S = 0.05
_STARTS = 5


class GoneError(Exception):
    """The process ended in the midst of its work, or could not be reached."""


class EndedError(Exception):
    """The process was ended, since its work had become unwanted."""


@dataclass(frozen=True)
class Answer:
    """What a piece of work gave: its value, or the error it raised."""

    value: Any
    fault: BaseException | None


class Hand:
    """One worker process. `setting` is handed to `worker.begin`."""

    def __init__(self, setting: worker.Setting) -> None:
        context = multiprocessing.get_context("forkserver")
        forks.begin()
        for tried in range(_STARTS):
            self._line, theirs = context.Pipe()
            self._leash, their_leash = context.Pipe()
            self._process = context.Process(target=worker.serve, args=(theirs, their_leash, setting), daemon=True)
            try:
                self._process.start()
                return
            except (OSError, EOFError) as fault:
                # The fork server may have ended just now; the next start finds that out, and starts another.
                self._line.close()
                self._leash.close()
                _LOG.warning("a worker could not be started: %s", fault)
                time.sleep(0.1 * (tried + 1))
            finally:
                theirs.close()
                their_leash.close()
        raise GoneError("no worker could be started")

    @property
    def pid(self) -> int:
        """The number of its process."""
        return self._process.pid or 0

    @property
    def alive(self) -> bool:
        """Whether its process runs, asked while it is idle.

        The line tells: it is closed with the process. What multiprocessing knows ends with the fork server, which may be
        gone while its workers live.
        """
        try:
            return not self._line.poll()
        except OSError:
            return False

    def busy_s(self) -> float:
        """How long its process has kept the processor busy; 0 where the system does not tell."""
        try:
            return int(Path(f"/proc/{self.pid}/schedstat").read_text().split()[0]) / 1e9
        except (OSError, ValueError, IndexError):
            return 0.0

    def ask(self, message: tuple[Any, ...], may_go_on: Callable[[], bool]) -> Answer:
        """Has a piece of work done, told as `worker.serve` takes it.

        `may_go_on` is asked again and again, and may say that the process is to be ended.

        Raises GoneError, EndedError, and what pickling raises if the work cannot be sent.
        """
        packed = pickle.dumps(message, protocol=pickle.HIGHEST_PROTOCOL)
        try:
            self._line.send_bytes(packed)
            while True:
                if self._line.poll(_LOOK_S):
                    value, fault = pickle.loads(self._line.recv_bytes())
                    return Answer(value, fault)
                if not may_go_on():
                    self.end()
                    raise EndedError
        except (OSError, EOFError, pickle.UnpicklingError) as fault:
            raise GoneError(f"worker {self.pid} ended, or cannot be reached: {fault!r}") from fault

    def end(self) -> None:
        """Ends the process, whatever it is doing."""
        with suppress(OSError):
            self._process.kill()
        self._leash.close()
        self._line.close()
        self._process.join(timeout=2)
