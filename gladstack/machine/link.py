"""The line to a cutter, and the simulated cutter's process: started when it is first needed, stopped with the app."""

from __future__ import annotations

import json
import os
import re
import secrets
import socket
import subprocess
import sys
import threading
import time
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from gladstack.core.base.errors import GladStackError
from gladstack.cutter.serve import SECRET
from gladstack.shop.shelf.cutters import Cutter

_PATIENCE_S = 20.0
_TRIES = 5


class LinkError(GladStackError):
    """The cutter cannot be reached, or the line to it broke."""

    code = "link"


class CutterRefusedError(GladStackError):
    """The cutter refuses what it was sent."""

    code = "cutter"


@dataclass(frozen=True)
class Temper:
    """How a simulated cutter works: how many times faster than in truth (0: as it can), and faults by this seed."""

    rate: float = 1.0
    seed: int | None = None


class Link:
    """One simulated cutter of this machine. Every question is answered before the next is asked."""

    def __init__(self, folder: Path, cutter: Cutter, temper: Temper | None = None) -> None:
        self._folder = folder
        self._cutter = cutter
        self._temper = temper or Temper()
        self.rate = self._temper.rate
        self._process: subprocess.Popen[str] | None = None
        self._socket: socket.socket | None = None
        self._starts = 0
        self._secret = secrets.token_hex(16)
        self._lock = threading.Lock()

    def ask(self, do: str, **given: Any) -> dict[str, Any]:
        """Tells the cutter to do something; its answer. Raises LinkError, CutterRefusedError."""
        with self._lock:
            line = json.dumps({"do": do, **given}).encode() + b"\n"
            for nth in range(_TRIES):
                # One that has just lost its power may take a moment until it can be started again.
                time.sleep(0.05 * nth)
                try:
                    answer = self._exchange(line)
                    break
                except (OSError, ValueError) as fault:
                    self._hang_up()
                    if isinstance(fault, TimeoutError) and self._process is not None:
                        # One that does not answer is switched off; its film and log stay.
                        self._process.kill()
                    # What changes something is never sent twice unasked.
                    if do not in ("state", "log"):
                        raise LinkError("The line to the cutter broke.", "Look at what it has done, then go on.") from None
            else:
                raise LinkError("The cutter cannot be reached.", "Try again; if it stays so, restart the app.")
        if not answer.pop("ok", False):
            raise CutterRefusedError(str(answer.get("why", "The cutter refuses.")), "Look at the film and its size.")
        return answer

    def set_rate(self, rate: float) -> None:
        """How many times faster than in truth it works, from now on. Raises LinkError."""
        self.rate = rate
        self.ask("rate", rate=rate)

    def close(self) -> None:
        """Stops the cutter with the app."""
        with self._lock:
            self._hang_up()
            if self._process is not None:
                assert self._process.stdin is not None
                self._process.stdin.close()
                try:
                    self._process.wait(3)
                except subprocess.TimeoutExpired:
                    self._process.kill()
                    self._process.wait()
                self._process = None

    @property
    def pid(self) -> int | None:
        """The cutter's process, while there is one."""
        return self._process.pid if self._process else None

    def _exchange(self, line: bytes) -> dict[str, Any]:
        if self._socket is None:
            self._socket = socket.create_connection(("127.0.0.1", self._port()), _PATIENCE_S)
            self._socket.sendall(self._secret.encode() + b"\n")
        self._socket.sendall(line)
        held = bytearray()
        while not held.endswith(b"\n"):
            got = self._socket.recv(1 << 20)
            if not got:
                raise ConnectionError
            held += got
        answer: dict[str, Any] = json.loads(held)
        return answer

    def _hang_up(self) -> None:
        if self._socket is not None:
            self._socket.close()
            self._socket = None

    def _port(self) -> int:
        if self._process is None or self._process.poll() is not None:
            self._process = self._started()
            assert self._process.stdout is not None
            told = re.search(r"port (\d+)", self._process.stdout.readline())
            if told is None:
                raise ConnectionError
            self._known_port = int(told.group(1))
        return self._known_port

    def _started(self) -> subprocess.Popen[str]:
        cutter, temper = self._cutter, self._temper
        command = [
            sys.executable, "-m", "gladstack.cutter", "--port", "0", "--state", str(self._folder), "--with-parent",
            "--rate", str(self.rate), "--film-width", str(cutter.width_mm), "--film-length", str(cutter.length_mm),
            "--speed", str(cutter.speed_mm_s), "--acceleration", str(cutter.acceleration_mm_s2), "--lift",
            str(cutter.lift_s), "--offset", str(cutter.blade_offset_mm),
        ]  # fmt: skip
        if temper.seed is not None:
            command += ["--faults", str(temper.seed + 7919 * self._starts)]
        self._starts += 1
        told = {**os.environ, SECRET: self._secret}
        return subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True, env=told)
