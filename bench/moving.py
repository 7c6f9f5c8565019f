"""A picture of twelve lapped films moved, turned and mirrored, beside one that is made larger, which is worked out anew.

`python -m bench.moving` by itself: the seconds from a served edit to its answer, nothing held. Nothing is asserted.
"""

from __future__ import annotations

import io
import math
import random
import tempfile
import time
from pathlib import Path
from statistics import median
from typing import Any

from PIL import Image, ImageDraw

from tests.serving import Serving

SIZE = (1200, 900)
COLOURS = (
    "#c81e28", "#1e3cc8", "#3ca01e", "#dcc814", "#961ea0", "#5a5a5a", "#0a0a0a", "#f0b478", "#3c96e6", "#a06e3c", "#78dcb4",
)  # fmt: skip
_BLOTS, _TURNS = 260, 5


def blots(seed: int = 3) -> bytes:
    """A picture of starry blots over one another, flat colours on a near white ground."""
    rng = random.Random(seed)
    image = Image.new("RGB", SIZE, "#fafafa")
    draw = ImageDraw.Draw(image)
    for k in range(_BLOTS):
        x, y, reach = rng.uniform(0, SIZE[0]), rng.uniform(0, SIZE[1]), rng.uniform(12, 50)
        turns = [2 * math.pi * n / 60 for n in range(60)]
        ring = [reach * (1 + 0.25 * math.sin(5 * turn)) for turn in turns]
        points = [(x + r * math.cos(t), y + r * math.sin(t)) for r, t in zip(ring, turns, strict=True)]
        draw.polygon(points, fill=COLOURS[k % len(COLOURS)])
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()


def main() -> None:
    """Prints the median seconds of each."""
    with tempfile.TemporaryDirectory() as folder:
        server = Serving(Path(folder))
        made = server.send_picture("blots.png", blots())
        address = f"/api/designs/{made['id']}/edits"

        def edit(what: dict[str, Any]) -> tuple[float, Any]:
            revision = server.ask("GET", f"/api/designs/{made['id']}")["revision"]
            begin = time.perf_counter()
            answer = server.ask("POST", address, {"base": revision, "edit": what})
            return time.perf_counter() - begin, answer

        _, answer = edit({"kind": "set-joint", "rule": {"kind": "lap", "mm": 0.6}})
        layers = answer["built"]["layers"]
        print(f"{len(layers)} films, {sum(layer['nodes'] for layer in layers)} nodes; seconds to an answer, and the worst")
        (art,) = answer["recipe"]["arts"]
        ways: dict[str, Any] = {
            "moved": lambda n: {"place": {"x_mm": 7.3 * n, "y_mm": 2.1 * n}},
            "turned": lambda n: {"place": {"turn_deg": 17.0 * n}},
            "mirrored": lambda n: {"place": {"x_mm": 300.0, "mirrored": n % 2 == 1}},
            "made larger": lambda n: {"place": {"scale_x": 1 + 0.01 * n, "scale_y": 1 + 0.01 * n}},
        }
        for name, way in ways.items():
            took = [edit({"kind": "change-arts", "arts": [{**art, **way(n)}]})[0] for n in range(1, _TURNS + 1)]
            print(f"{name:>12}: {median(took):.2f}, {max(took):.2f}")
        server.end()


if __name__ == "__main__":
    main()
