"""A list of 500 names as one job: from the click to its plan, and coming back to it.

`python -m bench.name_list [count]` by itself. Names are made up of syllables, none twice. Nothing is asserted.
"""

from __future__ import annotations

import random
import sys
import tempfile
import threading
import time
from pathlib import Path

from gladstack.store.database import KEPT
from tests.serving import Serving

COUNT = 500
_BEGIN = (
    "Ba Be Bo Da De Do El Fa Fi Ga Ha Hi Ja Jo Ka Ki La Le Li Lo Ma Mi Na Ne No Os Pa Pe Ra Ri Ro Sa Se So Ta Te To Va Wi Yo"
)
_MIDST = "la le li lo ma mi na ne ni no ra re ri ro sa se ta te ti va ve vi ster dra ber gin"
_END = "a e o n na la ra s th ck d my ly rt x nk w"


def made_up(count: int, seed: int = 5) -> list[str]:
    """So many names, none twice."""
    rng = random.Random(seed)
    found: dict[str, None] = {}
    while len(found) < count:
        midst = "".join(rng.choice(_MIDST.split()) for _ in range(rng.choice((0, 1, 1, 2))))
        found[rng.choice(_BEGIN.split()) + midst + rng.choice(_END.split())] = None
    return list(found)


def machine_s() -> float:
    """What this machine takes for a fixed piece of work: on a shared one, times tell little without it."""
    begin, total = time.perf_counter(), 0
    for k in range(10_000_000):
        total += k
    return time.perf_counter() - begin


class Built(threading.Thread):
    """Notes when so many designs are kept; a server that is asked would have other work to do."""

    def __init__(self, folder: Path, count: int) -> None:
        super().__init__(daemon=True)
        self._folder, self._count = folder, count
        self.at = 0.0

    def run(self) -> None:
        while sum(1 for path in self._folder.rglob("*") if path.is_file()) < self._count:
            time.sleep(0.5)
        self.at = time.perf_counter()


def main() -> None:
    """Prints the seconds from click to plan, and of the plan asked for once more."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else COUNT
    with tempfile.TemporaryDirectory() as folder:
        server = Serving(Path(folder), "--demo")
        server.ask("GET", "/api/designs/example-helper-names")
        speed, built = machine_s(), Built(Path(folder) / KEPT, count)
        built.start()
        begin = time.perf_counter()
        made = server.ask("POST", "/api/designs/example-helper-names/names/job", {"text": "\n".join(made_up(count))})
        listed = time.perf_counter()
        plan = server.ask("GET", f"/api/jobs/{made['id']}/plan", timeout=600)
        laid = time.perf_counter()
        server.ask("GET", f"/api/jobs/{made['id']}/plan")
        again = time.perf_counter()
        speed = (speed + machine_s()) / 2
        told = f"checked {listed - begin:.1f} s, built {built.at - listed:.1f} s, laid {laid - built.at:.1f} s"
        print(
            f"{count} names on {len(plan['sheets'])} sheets: {laid - begin:.1f} s ({told}); once more {again - laid:.2f} s"
        )
        print(f"  ten million additions in a loop took this machine {speed:.2f} s meanwhile")
        server.end()


if __name__ == "__main__":
    main()
