"""Kills while jobs are cut: workers, the fork server, the server, the cutter. Nothing acknowledged may be lost.

`python -m bench.kills [kills [seed]]` by itself. One thread renames a design all the while, another cuts the demo's shirts
again and again, and fills the shelf up; a third kills. After each kill every lane has to answer.
"""

from __future__ import annotations

import http.client
import os
import random
import secrets
import signal
import sqlite3
import subprocess
import sys
import tempfile
import threading
import time
import urllib.error
from collections import Counter
from contextlib import suppress
from pathlib import Path
from typing import Any

import numpy as np

from tests.serving import Serving

KILLS = 200
_LOST = (OSError, ValueError, http.client.HTTPException)
_LATE_S = 5.0


class Shop:
    """A served folder that is served again whenever its server is killed."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.server = Serving(folder, "--demo")
        self.lock = threading.Lock()
        self.names: dict[str, int] = {}
        self.cut = 0
        self.job = "job-shirts"
        self.stop = threading.Event()

    def again(self) -> None:
        """Serves the folder once more."""
        self.server.end(signal.SIGKILL)
        self.server = Serving(self.folder)

    def ask(self, method: str, path: str, body: object = None) -> Any:
        return self.server.ask(method, path, body)


def processes(server: int) -> dict[str, list[int]]:
    """The processes of a server, by kind."""
    rows = subprocess.run(["ps", "-eo", "pid,ppid,args"], capture_output=True, text=True, check=True).stdout.splitlines()[1:]
    table = [(int(p), int(q), args) for p, q, args in (row.split(None, 2) for row in rows)]
    own = [(p, args) for p, q, args in table if q == server]
    forks = [p for p, args in own if "forkserver" in args]
    return {
        "server": [server],
        "cutter": [p for p, args in own if "gladstack.cutter" in args],
        "fork server": forks,
        "worker": [p for p, q, _ in table if q in forks],
    }


def rename_on(shop: Shop) -> None:
    """Renames a design over and over; what is acknowledged is noted."""
    nth = 0
    while not shop.stop.is_set():
        nth += 1
        with suppress(*_LOST):
            base = shop.ask("GET", "/api/designs/demo-badge")["revision"]
            edit = {"base": base, "edit": {"kind": "rename-design", "name": f"Badge {nth}"}}
            shop.names[f"Badge {nth}"] = shop.ask("POST", "/api/designs/demo-badge/edits", edit)["revision"]
        time.sleep(0.1)


def cut_on(shop: Shop) -> None:
    """Cuts a job to its end, over and over, whatever happens to the cutter; brings new film whenever there is too little."""
    while not shop.stop.is_set():
        try:
            _one_step(shop)
        except urllib.error.HTTPError as fault:
            # 503: the cutter has just been killed, and said so.
            if fault.code not in (400, 409, 422, 503):
                raise
            if b"stock" in fault.read():
                _refill(shop)
            time.sleep(0.1)
        except _LOST:
            time.sleep(0.2)


def _one_step(shop: Shop) -> None:
    path = f"/api/jobs/{shop.job}"
    view = shop.ask("GET", f"{path}/cutting")
    job = shop.ask("GET", path)
    if job["cut"]:
        # The cut stays counted; the next job needs film of its own.
        shop.job = shop.ask("POST", "/api/jobs", {"name": "Again", "designs": [{"design": "demo-shirt"}]})["id"]
        shop.cut += 1
        return
    if view is None:
        shop.ask("POST", f"{path}/cutting", {"base": job["revision"]})
        shop.ask("POST", f"{path}/cutting/steps", {"do": "rate", "rate": 50})
        return
    sheet = next((s for s in view["sheets"] if s["stage"] != "done"), None)
    if sheet is None:
        return
    steps: dict[str, dict[str, Any]] = {
        "waiting": {"do": "load", "number": sheet["number"]}, "ready": {"do": "cut"}, "cut": {"do": "finish"},
        "paused": {"do": "resume"},
    }  # fmt: skip
    if sheet["stage"] == "trouble":
        shop.ask("POST", f"{path}/cutting/steps", {"do": "mend", "way": sheet["ways"][0]})
    elif sheet["stage"] in steps:
        shop.ask("POST", f"{path}/cutting/steps", steps[sheet["stage"]])
    else:
        time.sleep(0.1)


def _refill(shop: Shop) -> None:
    for film in shop.ask("GET", "/api/shelf?search=shirt")["films"]:
        piece = {"material": film["material"]["id"], "kind": "roll", "width_mm": 500, "length_mm": 10_000, "count": 1}
        shop.ask("POST", "/api/pieces", piece)


def lanes_answer(shop: Shop) -> float:
    """Seconds until every lane has answered: a design opened, a row of a list drawn, and many outcomes of edits."""
    begin = time.perf_counter()
    base = {"base": 0, "box": [0, 0, 10, 10]}
    with suppress(*_LOST):
        base["base"] = shop.ask("GET", "/api/designs/demo-sticker/history")[-1]["revision"]
    joints = [{"kind": "set-joint", "rule": {"kind": "lap", "mm": 0.4}} for _ in range(16)]
    asked = (
        ("GET", "/api/designs/demo-sticker", None),
        ("POST", "/api/designs/example-helper-names/names/look", {"values": {"name": f"Ada {secrets.token_hex(2)}"}}),
        ("POST", "/api/designs/demo-sticker/outcomes", {**base, "edits": joints}),
    )
    for method, path, body in asked:
        while True:
            with suppress(ValueError):
                try:
                    shop.ask(method, path, body)
                except (OSError, http.client.HTTPException) as fault:
                    if isinstance(fault, urllib.error.HTTPError) and fault.code >= 500:
                        raise
                    time.sleep(0.1)
                    if time.perf_counter() - begin > 60:
                        raise
                    continue
            break
    return time.perf_counter() - begin


def balances(folder: Path) -> bool:
    """Whether no piece has less than nothing left, every cut took something once, and the file is whole."""
    with sqlite3.connect(folder / "gladstack.sqlite3") as db:
        below = db.execute("SELECT piece FROM ledger GROUP BY piece HAVING sum(change) < -1e-6").fetchall()
        twice = db.execute(
            "SELECT job FROM cuts WHERE undone IS NULL AND finished IS NOT NULL GROUP BY job HAVING count(*) > 1"
        ).fetchall()
        nothing = db.execute(
            "SELECT id FROM cuts WHERE undone IS NULL AND finished IS NOT NULL AND ended IS NULL"
            " AND id NOT IN (SELECT cut FROM ledger WHERE cut IS NOT NULL)"
        ).fetchall()
        whole = db.execute("PRAGMA integrity_check").fetchone() == ("ok",)
        return whole and not below and not twice and not nothing


def main() -> None:
    """Prints what the kills came to."""
    kills = int(sys.argv[1]) if len(sys.argv) > 1 else KILLS
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else secrets.randbelow(2**31)
    rng = random.Random(seed)
    killed: Counter[str] = Counter()
    waits: dict[str, list[float]] = {}
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        shop = Shop(folder)
        threads = [threading.Thread(target=work, args=(shop,)) for work in (rename_on, cut_on)]
        for thread in threads:
            thread.start()
        while killed.total() < kills:
            time.sleep(rng.uniform(0.1, 1.5))
            kind = rng.choices(("worker", "fork server", "server", "cutter"), (5, 2, 1, 2))[0]
            pids = processes(shop.server.process.pid)[kind]
            if not pids:
                continue
            with suppress(ProcessLookupError):
                os.kill(rng.choice(pids), signal.SIGKILL)
            killed[kind] += 1
            if kind == "server":
                shop.again()
            waits.setdefault(kind, []).append(lanes_answer(shop))
        shop.stop.set()
        for thread in threads:
            thread.join()
        shop.server.end()
        with sqlite3.connect(folder / "gladstack.sqlite3") as db:
            kept = {recipe: id_ for id_, recipe in db.execute("SELECT id, json_extract(recipe, '$.name') FROM revisions")}
        lost = sum(kept.get(told) != revision for told, revision in shop.names.items())
        sound = balances(folder)
    print(f"{sum(killed.values())} kills, seed {seed}: {dict(killed)}")
    for kind, times in waits.items():
        late = sum(t > _LATE_S for t in times)
        print(
            f"  after the {kind}: every lane answers within {max(times):.1f} s, median {np.median(times):.1f}; {late} late"
        )
    print(f"  {len(shop.names)} edits acknowledged, {lost} lost; {shop.cut} jobs cut to their end; ledger balances: {sound}")


if __name__ == "__main__":
    main()
