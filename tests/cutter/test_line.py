"""The line to the cutter: only who has the secret is heard, and what it is told is checked before it moves."""

from __future__ import annotations

import json
import os
import re
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from gladstack.cutter.serve import SECRET

WORD = "owls-and-stars"


@pytest.fixture
def port(tmp_path: Path) -> Iterator[int]:
    command = [sys.executable, "-m", "gladstack.cutter", "--port", "0", "--state", str(tmp_path), "--rate", "0"]
    process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True, env={**os.environ, SECRET: WORD})
    assert process.stdout is not None
    found = re.search(r"port (\d+)", process.stdout.readline())
    assert found is not None
    yield int(found.group(1))
    process.kill()
    process.wait()


class Line:
    """A line to a cutter that begins with some word."""

    def __init__(self, port: int, word: str = WORD) -> None:
        self._socket = socket.create_connection(("127.0.0.1", port), 20)
        self._file = self._socket.makefile("rwb")
        self._file.write(word.encode() + b"\n")
        self._file.flush()

    def ask(self, text: str) -> dict[str, Any]:
        self._file.write(text.encode() + b"\n")
        self._file.flush()
        answer = self._file.readline()
        return dict(json.loads(answer)) if answer else {}

    def do(self, do: str, **given: object) -> dict[str, Any]:
        return self.ask(json.dumps({"do": do, **given}))


def test_a_web_page_is_not_heard(port: int) -> None:
    stop = '{"do": "unload"}'
    page = f"POST / HTTP/1.1\r\nHost: 127.0.0.1:{port}\r\nContent-Length: {len(stop)}\r\n\r\n{stop}\n"
    with socket.create_connection(("127.0.0.1", port), 20) as line:
        line.sendall(page.encode())
        with pytest.raises((ConnectionError, AssertionError)):
            assert line.recv(100)
    with pytest.raises((ConnectionError, AssertionError)):
        assert Line(port, "another word").do("state")
    assert Line(port).do("state")["state"] == "idle"


@pytest.mark.parametrize(
    ("asked", "why"),
    [
        ('{"do": "load", "film": "a", "width_mm": NaN, "length_mm": 500, "needs_g": 80}', "width_mm must be a number"),
        ('{"do": "load", "film": "a", "width_mm": 1e999, "length_mm": 500, "needs_g": 80}', "width_mm must be a number"),
        ('{"do": "load", "film": "a", "width_mm": true, "length_mm": 500, "needs_g": 80}', "width_mm must be a number"),
        ('{"do": "load", "film": "a", "width_mm": 300}', "lacks length_mm"),
        ('{"do": "rate", "rate": NaN}', "rate must be a number"),
        ('{"do": "jump"}', "does not know “jump”"),
        ('{"please": "cut"}', "does not say what"),
        ("[1, 2]", "does not say what"),
        ("cut!", "not written as the cutter reads it"),
    ],
)
def test_what_is_wrong_is_told(port: int, asked: str, why: str) -> None:
    line = Line(port)
    answer = line.ask(asked)
    assert answer["ok"] is False
    assert why in answer["why"]
    assert line.do("state")["ok"]


def test_two_million_lifts_hold_nobody(port: int) -> None:
    line = Line(port)
    assert line.do("load", film="a", width_mm=300, length_mm=500, needs_g=80)["ok"]
    begin = time.perf_counter()
    answer = line.do("send", program="lifts", hpgl="PU;PD;" * 1_000_000)
    assert "more than" in answer["why"]
    assert time.perf_counter() - begin < 15


def test_where_a_program_leaves_the_film_is_told(port: int) -> None:
    line = Line(port)
    line.do("load", film="a", width_mm=300, length_mm=500, needs_g=80)
    for hpgl, why in (
        ("SP1;PU0,4000;PD4000,4000;", "begins 0.0 mm along"),
        ("SP1;PU400,400;PD40000,400;", "reaches 1000.0 mm along; the film is 500 mm long"),
        ("SP1;PU400,0;PD4000,4000;", "begins 0.0 mm across"),
    ):
        assert why in line.do("send", program="p", hpgl=hpgl)["why"]
