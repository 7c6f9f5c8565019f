"""A server of its own, as a maker starts it."""

from __future__ import annotations

import json
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path
from typing import Any


def free_port() -> int:
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        return int(free.getsockname()[1])


class Serving:
    """A server of its own on a folder."""

    def __init__(self, data: Path, *more: str) -> None:
        self.port = free_port()
        command = [sys.executable, "-m", "gladstack.cli", "serve", "--data", str(data), "--port", str(self.port), *more]
        # A pipe that nobody reads would hold the server as soon as it is full.
        self.log = tempfile.TemporaryFile("w+")  # noqa: SIM115
        self.process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=self.log, text=True)
        assert self.process.stdout is not None
        self.said = self.process.stdout.readline()

    def ask(self, method: str, path: str, body: object = None, timeout: float = 30) -> Any:
        data = json.dumps(body).encode() if body is not None else None
        headers = {"content-type": "application/json"}
        request = urllib.request.Request(f"http://127.0.0.1:{self.port}{path}", data, headers, method=method)
        with urllib.request.urlopen(request, timeout=timeout) as answer:
            return json.load(answer)

    def send_picture(self, name: str, data: bytes) -> Any:
        """A new design from a picture."""
        edge = "edge-of-a-part"
        head = f'--{edge}\r\nContent-Disposition: form-data; name="picture"; filename="{name}"\r\n\r\n'
        body = head.encode() + data + f"\r\n--{edge}--\r\n".encode()
        headers = {"content-type": f"multipart/form-data; boundary={edge}"}
        request = urllib.request.Request(f"http://127.0.0.1:{self.port}/api/designs", body, headers, method="POST")
        with urllib.request.urlopen(request, timeout=120) as answer:
            return json.load(answer)

    def end(self, how: int = signal.SIGTERM) -> float:
        begin = time.perf_counter()
        self.process.send_signal(how)
        self.process.wait(timeout=20)
        return time.perf_counter() - begin
