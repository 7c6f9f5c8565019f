"""Hostile inputs over the API and the command line, and whether anybody else notices.

`python -m bench.hostile [inputs [seed]]` by itself. A third are requests made up from the OpenAPI document, a third files,
the rest edits, tries and commands. All the while a light edit is made every tenth of a second; at the end a small picture
is brought in beside the heaviest work that is allowed.
"""

from __future__ import annotations

import contextlib
import io
import itertools
import json
import logging
import multiprocessing
import random
import secrets
import sys
import tempfile
import threading
import time
import urllib.error
from collections import Counter
from collections.abc import Callable
from pathlib import Path, PurePath
from typing import Any

import hypothesis
import numpy as np
import requests
import schemathesis
from hypothesis import HealthCheck

from bench.drawings import drawings
from bench.measure import encode
from gladstack.cli import main as command
from tests.hostile import edits, files
from tests.pictures import picture_of
from tests.serving import Serving

INPUTS = 3_000
_LATE_S = 35.0
_DOCUMENT = Path(__file__).parents[1] / "docs" / "openapi.json"
_FORMS = {
    "/api/designs": "picture", "/api/fonts": "font", "/api/designs/file": "file", "/api/shelf.csv": "file",
    "/api/lists": "file",
}  # fmt: skip


class Told:
    """How inputs were answered."""

    def __init__(self) -> None:
        self.count = 0
        self.kinds: Counter[str] = Counter()
        self.failed: list[str] = []
        self.unforeseen: list[str] = []
        self.slowest: list[tuple[float, str]] = []

    def answered(self, what: str, status: int, seconds: float, body: str = "") -> None:
        """Notes one answer: an HTTP status, or an exit code of a command."""
        self.count += 1
        self.slowest = sorted([*self.slowest, (seconds, what)], reverse=True)[:5]
        if status >= 500 or status not in (0, 2, *range(200, 500)):
            self.failed.append(f"{what}: {status}")
        if "not foreseen" in body or '"unforeseen"' in body:
            self.unforeseen.append(what)

    def __str__(self) -> str:
        slow = ", ".join(f"{what} {seconds:.1f} s" for seconds, what in self.slowest)
        late = sum(seconds > _LATE_S for seconds, _ in self.slowest)
        return (
            f"{self.count} inputs: {len(self.failed)} failed {self.failed[:4]}, {late} over {_LATE_S:g} s, "
            f"{len(self.unforeseen)} told as unforeseen {self.unforeseen[:4]}; slowest {slow}"
        )


class Beside(threading.Thread):
    """Somebody else at work: a light edit every tenth of a second, as long as it is not stopped."""

    def __init__(self, server: Serving) -> None:
        super().__init__()
        self.server = server
        self.spent: list[float] = []
        self.failed: list[str] = []
        self.ended = threading.Event()

    def run(self) -> None:
        made = self.server.send_picture("dome.png", picture_of("dome", 128))
        path, base, nth = f"/api/designs/{made['id']}/edits", made["revision"], 0
        while not self.ended.wait(0.1):
            nth += 1
            edit: dict[str, Any] = {"kind": "rename-design", "name": f"Dome {nth}"}
            if nth % 2:
                edit = {"kind": "set-joint", "rule": {"kind": "lap", "mm": 0.2 + 0.001 * (nth % 500)}}
            begin = time.perf_counter()
            try:
                base = self.server.ask("POST", path, {"base": base, "edit": edit})["revision"]
            except urllib.error.HTTPError as fault:
                self.failed.append(f"{edit['kind']}: {fault.code} {fault.read()[:200]!r}")
            self.spent.append(time.perf_counter() - begin)


def from_document(server: Serving, count: int, seed: int, told: Told) -> None:
    """Requests made up from the OpenAPI document, as many for each operation."""
    schema = schemathesis.openapi.from_dict(json.loads(_DOCUMENT.read_text()))
    # Their bodies take minutes to make up from the document: `tests/hostile.py` makes them another way.
    others = ("tryEdit", "editDesign", "startPlain", "drawOutcomes")
    operations = [o.ok() for o in schema.get_all_operations() if o.ok().definition.raw["operationId"] not in others]
    each = max(1, count // len(operations))
    address = f"http://127.0.0.1:{server.port}"
    for operation in operations:
        settings = hypothesis.settings(
            max_examples=each, deadline=None, suppress_health_check=list(HealthCheck), database=None,
            phases=[hypothesis.Phase.generate],
        )  # fmt: skip
        send = _sender(operation.definition.raw["operationId"], address, told)
        hypothesis.seed(seed)(settings(hypothesis.given(operation.as_strategy())(send)))()


def _sender(what: str, address: str, told: Told) -> Callable[[Any], None]:
    def send(case: Any) -> None:
        begin = time.perf_counter()
        with contextlib.suppress(requests.exceptions.InvalidHeader, UnicodeError):
            answer = case.call(base_url=address)
            told.answered(what, answer.status_code, time.perf_counter() - begin, answer.text[:500])

    return send


def hostile_files(server: Serving, count: int, seed: int, told: Told) -> None:
    """Files of every kind to every place that takes one."""
    rng = random.Random(seed)
    for name, data in files(seed, count):
        path = rng.choice(("/api/designs", "/api/designs", "/api/designs", *_FORMS))
        begin = time.perf_counter()
        answer = requests.post(
            f"http://127.0.0.1:{server.port}{path}", files={_FORMS[path]: (name, data)}, timeout=120, data={"width": "80mm"}
        )
        told.answered(f"{name} to {path}", answer.status_code, time.perf_counter() - begin, answer.text[:500])


def hostile_edits(server: Serving, count: int, seed: int, told: Told) -> None:
    """Edits and tries at and beyond the edge of what they may say."""
    made = server.send_picture("owl.png", picture_of("moon-owl", 128))
    films = [layer["film"] for layer in made["built"]["layers"]]
    arts = [art["id"] for art in made["recipe"]["arts"]]
    rng, base = random.Random(seed), made["revision"]
    for edit in edits(seed, count, films, arts):
        how = rng.choice(("tries", "edits"))
        body = json.dumps({"base": base, "edit": edit}).encode("utf-8", "surrogatepass")
        begin = time.perf_counter()
        path = f"http://127.0.0.1:{server.port}/api/designs/{made['id']}"
        answer = requests.post(f"{path}/{how}", data=body, headers={"content-type": "application/json"}, timeout=120)
        told.answered(f"{how} {edit.get('kind')}", answer.status_code, time.perf_counter() - begin, answer.text[:500])
        if how == "edits" and answer.status_code == 200:
            base = server.ask("POST", f"/api/designs/{made['id']}/undo", {"base": answer.json()["revision"]})["revision"]


def _commanded(job: tuple[str, bytes]) -> tuple[str, int, float, str]:
    name, data = job
    with tempfile.TemporaryDirectory() as folder:
        source = Path(folder) / (PurePath(name).name or "nameless")
        try:
            source.write_bytes(data)
        except (OSError, ValueError):
            # The system takes no file of this name.
            source = Path(folder) / "renamed"
            source.write_bytes(data)
        told = io.StringIO()
        logging.disable(logging.CRITICAL)
        begin = time.perf_counter()
        arguments = ["build", str(source), "--out", f"{folder}/out"]
        arguments += ["--width", "80mm"] if name.rsplit(".", 1)[-1] not in ("svg", "dxf", "json", "pdf") else []
        with contextlib.redirect_stderr(told), contextlib.redirect_stdout(io.StringIO()):
            try:
                code = command(arguments)
            except SystemExit as left:
                code = int(left.code or 0)
            except BaseException as fault:
                code, _ = 999, told.write(f"not foreseen: {fault!r}")
        return f"gladstack build {name}", code, time.perf_counter() - begin, told.getvalue()[-500:]


def hostile_commands(count: int, seed: int, told: Told) -> None:
    """The same files, and recipes with edits for art, on the command line; each in a process of its own."""
    recipes = [
        (f"recipe-{k}.json", json.dumps({"name": "x", "arts": [edit]}).encode("utf-8", "surrogatepass"))
        for k, edit in enumerate(edits(seed, count // 4, ["#112233"], ["a"]))
    ]
    given = [*files(seed + 1, count - len(recipes)), *recipes]
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(["bench.hostile"])
    with context.Pool(2, maxtasksperchild=1) as pool:
        for what, code, seconds, said in pool.imap_unordered(_commanded, given, chunksize=1):
            told.answered(what, code, seconds, said)


def small_beside_heaviest(server: Serving) -> None:
    """A small picture beside the largest picture that is taken, a heavy drawing and a long list of names."""
    large = encode(drawings()[13], 4096, 75)
    rng = random.Random(3)
    points = " ".join(f"{rng.uniform(0, 200):.2f} {rng.uniform(0, 200):.2f}" for _ in range(9000))
    svg = '<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="200mm" viewBox="0 0 200 200">'
    heavy = f'{svg}<path fill="none" stroke="red" d="M{points}"/></svg>'.encode()
    names = "\n".join(f"Owl {k} of the dome" for k in range(200))
    job = server.ask("POST", "/api/designs/example-helper-names/names/job", {"text": names})["id"]
    works = {
        "a picture of 4096 px": lambda: server.send_picture("large.jpg", large),
        "a heavy drawing": lambda: server.send_picture("heavy.svg", heavy),
        "200 names": lambda: server.ask("GET", f"/api/jobs/{job}/plan"),
    }
    # None of them is known already.
    sizes = itertools.count()
    for what, work in works.items():

        def quietly(work: Any = work) -> None:
            with contextlib.suppress(OSError):
                work()

        other = threading.Thread(target=quietly, daemon=True)
        other.start()
        time.sleep(1.0)
        spent = []
        while other.is_alive() and len(spent) < 12:
            begin = time.perf_counter()
            server.send_picture("small.png", picture_of("telescope", 100 + next(sizes)))
            spent.append(time.perf_counter() - begin)
        if spent:
            print(
                f"A small picture beside {what}: median {np.median(spent):.1f} s, at most {max(spent):.1f} s of {len(spent)}"
            )


def main() -> None:
    """Prints all of it."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else INPUTS
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else secrets.randbelow(2**31)
    logging.disable(logging.WARNING)
    with tempfile.TemporaryDirectory() as folder:
        server = Serving(Path(folder), "--demo")
        told, beside = Told(), Beside(server)
        beside.start()
        from_document(server, count // 3, seed, told)
        hostile_files(server, count // 3, seed, told)
        hostile_edits(server, count // 6, seed, told)
        hostile_commands(count - 2 * (count // 3) - count // 6, seed, told)
        beside.ended.set()
        beside.join()
        print(f"Seed {seed}: {told}")
        median, high, worst = (1000 * np.percentile(beside.spent, q) for q in (50, 99, 100))
        print(f"Light edits beside: median {median:.0f} ms, p99 {high:.0f} ms, worst {worst:.0f} ms of {len(beside.spent)}")
        print(f"  {len(beside.failed)} of them failed {beside.failed[:3]}")
        small_beside_heaviest(server)
        print(f"Alive: {server.ask('GET', '/api/health')['well']}")
        server.end()


if __name__ == "__main__":
    main()
