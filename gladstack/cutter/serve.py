"""The line a cutter is reached by: TCP on loopback, a JSON object a line each way."""

from __future__ import annotations

import asyncio
import json
import os
import sys
import time
from pathlib import Path
from typing import Any

from gladstack.cutter.machine import Fault, LinkLostError, Machine, PowerLostError, Profile, RefusedError

_TICK_S = 0.02
_BUSY_S = 0.2
"""At most so much of its own work in one go where it works as fast as it can."""
LINE_BYTES = 64 * 2**20
POWER_LOST = 3
"""The exit code after the power was lost."""


def serve_cutter(port: int, folder: Path, profile: Profile, rate: float, seed: int | None, *, parent: bool) -> int:
    """Serves until stopped, or with its `parent` until that closes its standard input. Returns the exit code.

    `rate` is how much faster than in truth it works; 0 is as fast as it can.
    """
    try:
        return asyncio.run(_Line(Machine(profile, folder, seed), rate).serve(port, parent=parent))
    except KeyboardInterrupt:
        return 0


class _Line:
    def __init__(self, machine: Machine, rate: float) -> None:
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
            while line := await reader.readline():
                writer.write(json.dumps(self._answer(line)).encode() + b"\n")
                await writer.drain()
        except (ConnectionError, ValueError, asyncio.IncompleteReadError):
            pass
        finally:
            self.writers.discard(writer)
            writer.close()

    def _answer(self, line: bytes) -> dict[str, Any]:
        try:
            asked = json.loads(line)
            return {"ok": True, **self._do(asked)}
        except RefusedError as fault:
            return {"ok": False, "why": str(fault)}
        except (ValueError, KeyError, TypeError) as fault:
            return {"ok": False, "why": f"The cutter does not understand this: {fault}"}

    def _do(self, asked: dict[str, Any]) -> dict[str, Any]:
        machine = self.machine
        do = asked["do"]
        if do == "load":
            machine.load(str(asked["film"]), float(asked["width_mm"]), float(asked["length_mm"]), float(asked["needs_g"]))
        elif do == "send":
            machine.send(str(asked["program"]), str(asked["hpgl"]))
        elif do == "log":
            begin = int(asked.get("begin", 0))
            return {**machine.status(), "log": machine.log.lines(begin), "begin": begin}
        elif do == "fault":
            machine.expect(
                Fault(
                    str(asked["kind"]), float(asked.get("after_mm", 0)), float(asked.get("dx_mm", 1.2)),
                    float(asked.get("dy_mm", 0.6)),
                )
            )  # fmt: skip
        elif do == "rate":
            self.rate = max(0.0, float(asked["rate"]))
        elif do == "blade":
            machine.profile.offset_mm = max(0.0, float(asked["offset_mm"]))
        elif do in ("pause", "resume", "stop", "clear", "unload"):
            getattr(machine, do)()
        elif do != "state":
            raise RefusedError(f"The cutter does not know “{do}”.")
        return machine.status()
