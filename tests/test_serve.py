"""The server as a process: it starts or says why not, outlives nothing it was asked, and loses nothing when it is killed."""

from __future__ import annotations

import http.client
import json
import os
import random
import signal
import sqlite3
import subprocess
import sys
import threading
import time
from pathlib import Path

import pytest

from tests.serving import Serving, free_port

ROUNDS = int(os.environ.get("GLADSTACK_KILLS", "2"))
"""How often it is killed; the bench does so a hundred times."""


ART = {"kind": "shape", "form": {"form": "star"}}


def test_it_says_where_it_serves_once_it_does_and_ends_within_three_seconds(tmp_path: Path) -> None:
    server = Serving(tmp_path)
    assert f"http://127.0.0.1:{server.port}/" in server.said
    assert server.ask("GET", "/api/designs") == []
    made = server.ask("POST", "/api/designs/plain", {"name": "Star", "art": ART})
    assert made["built"]["layers"]
    second = subprocess.run(
        [sys.executable, "-m", "gladstack.cli", "serve", "--data", str(tmp_path), "--port", str(free_port())],
        capture_output=True, text=True, timeout=60,
    )  # fmt: skip
    assert (second.returncode, second.stdout) == (2, "")
    assert "already serves" in second.stderr
    assert server.end() < 3
    # No worker outlives it.
    time.sleep(0.5)
    left = subprocess.run(["ps", "-eo", "pid,ppid,args"], capture_output=True, text=True).stdout
    assert str(tmp_path) not in left


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (("--host", "0.0.0.0"), "--token-file"),
        (("--host", "0.0.0.0", "--token", "short"), "soon guessed"),
        (("--host", "0.0.0.0", "--token-file", "/nowhere/token"), "No such file"),
        (("--port", "99999"), "at most 65535"),
        (("--data", "/dev/null/x"), "cannot be"),
    ],
)
def test_what_hinders_it_is_one_line(tmp_path: Path, arguments: tuple[str, ...], said: str) -> None:
    command = [sys.executable, "-m", "gladstack.cli", "serve", "--data", str(tmp_path), "--port", str(free_port())]
    done = subprocess.run([*command, *arguments], capture_output=True, text=True, timeout=60)
    assert done.returncode == 2
    assert said in done.stderr
    assert len(done.stderr.strip().splitlines()) == 1


def test_a_file_that_is_no_database_is_one_line(tmp_path: Path) -> None:
    (tmp_path / "gladstack.sqlite3").write_bytes(b"not a database" * 1000)
    command = [sys.executable, "-m", "gladstack.cli", "serve", "--data", str(tmp_path), "--port", str(free_port())]
    done = subprocess.run(command, capture_output=True, text=True, timeout=60)
    assert (done.returncode, len(done.stderr.strip().splitlines())) == (2, 2)  # the log line, and what is told
    assert "not a database" in done.stderr


def test_what_was_acknowledged_outlives_every_kill(tmp_path: Path) -> None:
    """Killed in the midst of edits and uploads: every answered edit is there, and nothing is kept that nobody uses."""
    rng = random.Random(11)
    acknowledged: dict[str, int] = {}
    first = Serving(tmp_path)
    design = first.ask("POST", "/api/designs/plain", {"name": "Star", "art": ART})["id"]
    first.end()

    def edit_on(server: Serving, base: int, stop: threading.Event, round_: int) -> None:
        for k in range(10_000):
            if stop.is_set():
                return
            name = f"{round_}-{k}"
            edit = {"base": base, "edit": {"kind": "rename-design", "name": name}}
            try:
                base = server.ask("POST", f"/api/designs/{design}/edits", edit)["revision"]
            except (OSError, ValueError, http.client.HTTPException):
                return
            acknowledged[name] = base

    for round_ in range(ROUNDS):
        with sqlite3.connect(tmp_path / "gladstack.sqlite3") as db:
            (base,) = db.execute("SELECT head FROM designs").fetchone()
        server, stop = Serving(tmp_path), threading.Event()
        worker = threading.Thread(target=edit_on, args=(server, base, stop, round_))
        worker.start()
        # In the midst of edits: a busy machine takes its time for the first.
        wanted, patience = len(acknowledged) + 3, time.monotonic() + 60
        while len(acknowledged) < wanted and worker.is_alive() and time.monotonic() < patience:
            time.sleep(0.02)
        time.sleep(rng.uniform(0.0, 0.3))
        server.end(signal.SIGKILL)
        stop.set()
        worker.join()
    server = Serving(tmp_path)
    server.ask("GET", f"/api/designs/{design}")
    server.end()
    with sqlite3.connect(tmp_path / "gladstack.sqlite3") as db:
        kept = {json.loads(recipe)["name"]: id_ for id_, recipe in db.execute("SELECT id, recipe FROM revisions")}
        assert db.execute("PRAGMA integrity_check").fetchone() == ("ok",)
        orphans = db.execute("SELECT count(*) FROM pictures WHERE hash NOT IN (SELECT picture FROM revision_pictures)")
        assert orphans.fetchone() == (0,)
    assert len(acknowledged) > 2 * ROUNDS
    assert {name: kept.get(name) for name in acknowledged} == acknowledged
