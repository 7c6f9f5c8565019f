"""The line a cutter is reached by: TCP on loopback, a JSON object a line each way.

Any page that a browser shows can reach a port of this machine, so the first line must be the secret; anything else closes
the line.
"""

from __future__ import annotations

import asyncio
import hmac
import json
import math
import os
import secrets
import sys
import time
from pathlib import Path
from typing import Any

from gladstack.cutter.machine import Fault, LinkLostError, Machine, PowerLostError, Profile, RefusedError
from gladstack.cutter.program import ProgramError, read_program

_TICK_S = 0.02
_BUSY_S = 0.2
"""At most so much of its own work in one go where it works as fast as it can."""
LINE_BYTES = 64 * 2**20
SECRET = "GLADSTACK_CUTTER_SECRET"
"""The variable of the environment by which the app hands the cutter its secret: the list of processes does not show it."""
_KNOCK_S = 5.0
POWER_LOST = 3
"""The exit code after the power was lost."""


def serve_cutter(port: int, folder: Path, profile: Profile, rate: float, seed: int | None, *, parent: bool) -> int:
    """Serves until stopped, or with its `parent` until that closes its standard input. Returns the exit code.

    `rate` is how much faster than in truth it works; 0 is as fast as it can.
    """
    try:
        secret = os.environ.pop(SECRET, "") or _secret_of(folder)
        return asyncio.run(_Line(Machine(profile, folder, seed), rate, secret).serve(port, parent=parent))
    except KeyboardInterrupt:
        return 0


def _secret_of(folder: Path) -> str:
    """The secret of a cutter that runs by itself, kept beside its film where only its user can read it."""
    path = folder / "secret"
    folder.mkdir(parents=True, exist_ok=True)
    if not path.exists():
        with os.fdopen(os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as file:
            file.write(secrets.token_hex(16))
    print(f"Its line opens with the word in {path}", flush=True)
    return path.read_text().strip()


class _Line:
    def __init__(self, machine: Machine, rate: float, secret: str) -> None:
        self.secret = secret.encode()
        self.machine = machine
        self.rate = rate
        self.writers: set[asyncio.StreamWriter] = set()
        self.ended = asyncio.Event()
        self.code = 0

    async def serve(self, port: int, *, parent: bool) -> int:
        server = await asyncio.start_server(self._talk, "127.0.0.1", port, limit=LINE_BYTES)
        print(f"The cutter listens on port {server.sockets[0].getsockname()[1]}", flush=True)
        works = asyncio.create_task(self._works())
        if parent:
            asyncio.get_running_loop().add_reader(sys.stdin.fileno(), self._parent_gone)
        await self.ended.wait()
        works.cancel()
        server.close()
        return self.code

    def _parent_gone(self) -> None:
        if not os.read(sys.stdin.fileno(), 1024):
            self.machine.lost_link()
            self.ended.set()

    async def _works(self) -> None:
        last = time.monotonic()
        while True:
            busy = self.machine.state == "cutting"
            await asyncio.sleep(0 if busy and self.rate == 0 else _TICK_S)
            now = time.monotonic()
            try:
                self.machine.go(_BUSY_S * 50 if self.rate == 0 else (now - last) * self.rate)
            except PowerLostError:
                self.code = POWER_LOST
                os._exit(POWER_LOST)
            except LinkLostError:
                for writer in self.writers:
                    writer.transport.abort()
            last = now

    async def _talk(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        self.writers.add(writer)
        try:
            first = await asyncio.wait_for(reader.readline(), _KNOCK_S)
            if not hmac.compare_digest(first.strip(), self.secret):
                return
            while line := await reader.readline():
                writer.write(json.dumps(await self._answer(line)).encode() + b"\n")
                await writer.drain()
        except (ConnectionError, ValueError, TimeoutError, asyncio.IncompleteReadError):
            pass
        finally:
            self.writers.discard(writer)
            writer.close()

    async def _answer(self, line: bytes) -> dict[str, Any]:
        try:
            asked = json.loads(line)
            if not isinstance(asked, dict) or not isinstance(asked.get("do"), str):
                raise RefusedError("What was sent does not say what the cutter is to do.")
            return {"ok": True, **await self._do(asked)}
        except (RefusedError, ProgramError) as fault:
            return {"ok": False, "why": str(fault)}
        except KeyError as fault:
            return {"ok": False, "why": f"What was sent lacks {fault.args[0]}."}
        except (ValueError, TypeError, RecursionError):
            return {"ok": False, "why": "What was sent is not written as the cutter reads it."}

    async def _do(self, asked: dict[str, Any]) -> dict[str, Any]:
        machine = self.machine
        do = asked["do"]
        if do == "load":
            machine.load(
                str(asked["film"]), _number(asked, "width_mm"), _number(asked, "length_mm"), _number(asked, "needs_g")
            )
        elif do == "send":
            # A long program is read beside the line, which stays open for others.
            strokes = await asyncio.to_thread(read_program, str(asked["hpgl"]))
            machine.send(str(asked["program"]), strokes)
        elif do == "log":
            begin = int(asked.get("begin", 0))
            return {**machine.status(), "log": machine.log.lines(begin), "begin": begin}
        elif do == "fault":
            machine.expect(
                Fault(
                    str(asked["kind"]), _number(asked, "after_mm", 0.0), _number(asked, "dx_mm", 1.2),
                    _number(asked, "dy_mm", 0.6),
                )
            )  # fmt: skip
        elif do == "rate":
            self.rate = max(0.0, _number(asked, "rate"))
        elif do == "blade":
            machine.profile.offset_mm = max(0.0, _number(asked, "offset_mm"))
        elif do in ("pause", "resume", "stop", "clear", "unload"):
            getattr(machine, do)()
        elif do != "state":
            raise RefusedError(f"The cutter does not know “{do}”.")
        return machine.status()


def _number(asked: dict[str, Any], name: str, plain: float | None = None) -> float:
    """A number of what was asked. Raises RefusedError if it is none, or an endless one; KeyError if it is missing."""
    given = asked[name] if plain is None else asked.get(name, plain)
    if isinstance(given, bool) or not isinstance(given, int | float) or not math.isfinite(given):
        raise RefusedError(f"{name} must be a number.")
    return float(given)
