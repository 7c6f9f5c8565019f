"""What the server stands: others' answers beside a large picture, one joint of many films, memory over many settings.

`python -m bench.served` by itself. Nothing is asserted.
"""

from __future__ import annotations

import random
import tempfile
import threading
import time
from functools import partial
from pathlib import Path

import numpy as np
from fastapi.testclient import TestClient

from bench.drawings import drawings
from bench.measure import encode
from bench.run import LARGE_PX, _client, _hand_over
from gladstack.api.app import create_app
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.model.arts import PictureArt, Separation
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.memo import Memo
from gladstack.work.crew import Crew

COUNTS = 50


def beside_a_large_picture(client: TestClient) -> None:
    """Edits of a design while another's picture of 4096 px is separated."""
    small = client.post("/api/designs", files={"picture": ("a.png", encode(drawings()[0], 512, None))}).json()
    path = f"/api/designs/{small['id']}/edits"

    def edit(**change: object) -> float:
        nonlocal small
        begin = time.perf_counter()
        small = client.post(path, json={"base": small["revision"], "edit": change}).json()
        return time.perf_counter() - begin

    def rounds(count: int) -> tuple[list[float], list[float]]:
        joints, names = [], []
        for k in range(count):
            joints.append(edit(kind="set-joint", rule={"kind": "lap", "mm": 0.2 + 0.01 * k}))
            names.append(edit(kind="rename-design", name=f"Dome {k}"))
        return joints, names

    alone = rounds(8)
    data = encode(drawings()[13], LARGE_PX, 75)
    large = threading.Thread(target=lambda: client.post("/api/designs", files={"picture": ("large.jpg", data)}))
    large.start()
    beside: tuple[list[float], list[float]] = ([], [])
    while large.is_alive():
        for spent, more in zip(beside, rounds(1), strict=True):
            spent += more
    for what, own, other in zip(("a joint", "a name"), alone, beside, strict=True):
        median, worst = np.median(other) * 1000, max(other) * 1000
        told = f"median {median:.0f} ms, worst {worst:.0f} ms of {len(other)}; alone {np.median(own) * 1000:.0f} ms"
        print(f"Beside a JPEG of {LARGE_PX} px, {what}: {told}")


def flowers(colours: list[str]) -> str:
    """A meadow of flowers of 14 curved petals, a layer of 28 for each colour, strewn so that some lie on others."""
    rng = random.Random(4)
    drawn = []
    for colour in colours:
        for _ in range(28):
            x, y, size = rng.uniform(15, 285), rng.uniform(15, 285), rng.uniform(3, 11)
            tips = [(k * np.pi / 14, size * (1 if k % 2 else 0.55)) for k in range(29)]
            ends = [(x + r * np.cos(t), y + r * np.sin(t)) for t, r in tips]
            arcs = "".join(f"A{size:.2f} {size:.2f} 0 0 1 {a:.3f} {b:.3f}" for a, b in ends[1:])
            drawn.append(f'<path fill="{colour}" d="M{ends[0][0]:.3f} {ends[0][1]:.3f}{arcs}Z"/>')
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="300mm" height="300mm" viewBox="0 0 300 300">'
    return head + "".join(drawn) + "</svg>"


def joint_edit(client: TestClient) -> None:
    """One joint of twelve films with some 20,000 nodes: how long the server takes, and how much it sends."""
    films = [f"#{20 * k:02x}{255 - 20 * k:02x}{(90 * k) % 256:02x}" for k in range(12)]
    data = flowers(films).encode()
    made = client.post("/api/designs", files={"picture": ("flowers.svg", data)}).json()
    path = f"/api/designs/{made['id']}/edits"
    nodes = sum(layer["nodes"] for layer in made["built"]["layers"])
    spent, size = [], 0
    for k in range(9):
        built = made["built"]
        keys = (*made["art_keys"], *(one["key"] for one in built["layers"]), *(one["letters_key"] for one in built["arts"]))
        held = ",".join(keys)
        rule = {"kind": "lap", "mm": 0.3 + 0.02 * k}
        edit = {"kind": "set-pair-joint", "a": films[10], "b": films[11], "rule": rule}
        begin = time.perf_counter()
        answer = client.post(path, json={"base": made["revision"], "edit": edit}, headers={"Held": held})
        spent.append(time.perf_counter() - begin)
        made, size = answer.json(), int(answer.headers["content-length"])
    told = f"median {np.median(spent) * 1000:.0f} ms, {size / 1000:.0f} kB"
    print(f"One pair's joint on {len(made['built']['layers'])} films with {nodes} nodes: {told}")


def memory_over_many_settings() -> None:
    """The memory a process holds while the number of colours of a large JPEG is gone through."""
    assets = Assets(partial(_hand_over, encode(drawings()[13], LARGE_PX, 75)))
    memo, held = Memo(), []
    for step in range(COUNTS):
        art = PictureArt(picture="a" * 64, width_mm=300 + step // 23, separation=Separation(count=2 + step % 23))
        build(Recipe(name="Large", arts=(art,)), assets, memo)
        status = Path("/proc/self/status").read_text()
        held.append(int(status.split("VmRSS:")[1].split()[0]) / 1024)
        if step % 10 == 9 or step == 0:
            print(f"  after {step + 1:2d} settings of the number of colours: {held[-1]:.0f} MiB", flush=True)
    print(f"{COUNTS} settings on a JPEG of {LARGE_PX} px: {held[-1] - held[0]:+.0f} MiB, at most {max(held) - held[0]:+.0f}")


def main() -> None:
    """Prints all of it."""
    crew = Crew()
    with tempfile.TemporaryDirectory() as folder, _client(create_app(Path(folder), crew=crew)) as client:
        beside_a_large_picture(client)
        joint_edit(client)
    crew.close()
    memory_over_many_settings()


if __name__ == "__main__":
    main()
