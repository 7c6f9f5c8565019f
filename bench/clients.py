"""Twenty makers at once for a minute: how long a light edit takes, and a joint.

`python -m bench.clients [clients [seconds]]` by itself.
"""

from __future__ import annotations

import random
import sys
import tempfile
import threading
import time
from pathlib import Path

import numpy as np

from tests.pictures import picture_of
from tests.serving import Serving

CLIENTS, SECONDS = 20, 60.0
_PAUSE_S = (0.3, 1.2)
_PX = 256


def maker(server: Serving, nth: int, until: float, spent: dict[str, list[float]], failed: list[str]) -> None:
    """One maker who renames a design and changes its joint in turn, with pauses."""
    rng = random.Random(nth)
    names = ("moon-owl", "dome", "telescope", "ringed-planet")
    made = server.send_picture(f"owl-{nth}.png", picture_of(names[nth % len(names)], _PX))
    path, base = f"/api/designs/{made['id']}/edits", made["revision"]
    step = 0
    while time.monotonic() < until:
        time.sleep(rng.uniform(*_PAUSE_S))
        step += 1
        for what, edit in (
            ("a name", {"kind": "rename-design", "name": f"Owl {nth}, {step}"}),
            ("a joint", {"kind": "set-joint", "rule": {"kind": "lap", "mm": round(rng.uniform(0.2, 1.0), 3)}}),
        ):
            begin = time.perf_counter()
            try:
                base = server.ask("POST", path, {"base": base, "edit": edit})["revision"]
            except OSError as fault:
                failed.append(f"{what}: {fault}")
            spent[what].append(time.perf_counter() - begin)


def main() -> None:
    """Prints the figures."""
    clients = int(sys.argv[1]) if len(sys.argv) > 1 else CLIENTS
    seconds = float(sys.argv[2]) if len(sys.argv) > 2 else SECONDS
    with tempfile.TemporaryDirectory() as folder:
        server = Serving(Path(folder))
        spent: dict[str, list[float]] = {"a name": [], "a joint": []}
        failed: list[str] = []
        until = time.monotonic() + seconds
        makers = [threading.Thread(target=maker, args=(server, nth, until, spent, failed)) for nth in range(clients)]
        for one in makers:
            one.start()
        for one in makers:
            one.join()
        server.end()
    for what, times in spent.items():
        median, high, worst = (1000 * np.percentile(times, q) for q in (50, 95, 100))
        print(f"{clients} clients, {what}: median {median:.0f} ms, p95 {high:.0f} ms, worst {worst:.0f} ms of {len(times)}")
    print(f"{len(failed)} failed {failed[:3]}")


if __name__ == "__main__":
    main()
