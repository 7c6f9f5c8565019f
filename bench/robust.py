"""What the geometry stands, and how long what once took longest takes: stacks, nesting, overlaps, thickness, keys.

`python -m bench.robust [stacks [seed]]` by itself; every run draws new stacks, and tells the seed.
"""

from __future__ import annotations

import random
import secrets
import sys
import time
from collections.abc import Callable
from typing import Any

import numpy as np
import shapely
from shapely import MultiPolygon, Point

from gladstack.core.base import tolerances
from gladstack.core.drawing.drawing import Painted
from gladstack.core.drawing.seen import visible
from gladstack.core.films.invariants import max_thickness, overlap
from gladstack.core.geometry.rings import nest_rings
from gladstack.core.geometry.shapes import clean
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.measured import wrong_area_ratio
from gladstack.recipe.model.fonts import SHIPPED
from gladstack.recipe.model.mends import Brush
from gladstack.recipe.model.pins import ArtPoint
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.memo import Memo, key_of

STACKS = 20_000
FORMS = (
    {"form": "rectangle", "width_mm": 60, "height_mm": 40}, {"form": "star"}, {"form": "ring"}, {"form": "heart"},
    {"form": "ellipse", "width_mm": 44, "height_mm": 30}, {"form": "ribbon"}, {"form": "polygon", "sides": 5},
)  # fmt: skip
COLOURS = ("#c0392b", "#1d2b53", "#f2b632", "#2f8f8b")


def random_stack(rng: random.Random) -> Recipe:
    """Lettering and shapes turned by odd angles, some kept inside others, with any joint: what shares long edges."""
    arts = []
    for k in range(rng.randint(2, 4)):
        place = {
            "x_mm": rng.uniform(-12, 12),
            "y_mm": rng.uniform(-12, 12),
            "turn_deg": rng.choice([0, 17, rng.uniform(0, 90)]),
        }
        art: dict[str, Any] = {"id": f"art{k}", "film": COLOURS[k], "place": place}
        if rng.random() < 0.5:
            font = rng.choice(SHIPPED).key
            art |= {"kind": "lettering", "text": rng.choice(["OPEN", "BOB", "8", "Rad"]), "font": font, "height_mm": 20}
        else:
            art |= {"kind": "shape", "form": rng.choice(FORMS)}
        if k and rng.random() < 0.5:
            art["inside"] = f"art{rng.randrange(k)}"
        arts.append(art)
    joint = {"kind": rng.choice(["butt", "lap", "gap", "full"]), "mm": rng.choice([0.3, 0.5, 1.0])}
    return Recipe.model_validate({"name": "Stack", "arts": arts, "joint": joint})


def _is_shorn(cut: MultiPolygon) -> bool:
    """Whether a shape has no needles of no width."""
    return bool(shapely.get_num_coordinates(clean(cut)) == shapely.get_num_coordinates(cut))


def search(count: int, seed: int) -> tuple[int, float]:
    """How many of `count` random stacks break an invariant, and the largest wrong area met (mm2 for each mm2)."""
    rng = random.Random(seed)
    memo = Memo()
    broken, worst = 0, 0.0
    for k in range(count):
        recipe = random_stack(rng)
        made = build(recipe, Assets(picture=lambda key: b""), memo)
        sound = all(layer.cut.is_valid and _is_shorn(layer.cut) for layer in made.layers)
        worst = max(worst, wrong_area_ratio(made))
        if wrong_area_ratio(made) > tolerances.WRONG_AREA_RATIO or not sound:
            broken += 1
            print(f"  stack {k} of seed {seed}: {wrong_area_ratio(made):.2g}, valid {sound}\n  {recipe.model_dump_json()}")
    return broken, worst


def timed(work: Callable[[], object]) -> float:
    """The best of three, in seconds."""
    out = []
    for _ in range(3):
        begin = time.perf_counter()
        work()
        out.append(time.perf_counter() - begin)
    return min(out)


def circle(x: float, y: float, r: float, corners: int = 60) -> np.ndarray:  # type: ignore[type-arg]
    t = np.linspace(0, 2 * np.pi, corners + 1)
    ring = np.stack([x + r * np.cos(t), y + r * np.sin(t)], axis=1)
    ring[-1] = ring[0]
    return ring


def figures() -> dict[str, float]:
    """Seconds for what hard input asks for; the way each was done before is timed beside it where it is short to state."""
    rng = np.random.default_rng(1)
    rings = [circle(0, 0, 1 + 0.4 * k) for k in range(2000)]
    polygons = np.array([shapely.Polygon(r) for r in rings], dtype=object)
    shapes = [Point(*rng.uniform(0, 190, 2)).buffer(3) for _ in range(2000)]
    items = [Painted(f"#{k % 10:06x}", MultiPolygon([s]), ()) for k, s in enumerate(shapes)]
    blobs = [
        shapely.union_all([Point(*rng.uniform(0, 100, 2)).buffer(rng.uniform(3, 14), quad_segs=8) for _ in range(4)])
        for _ in range(40)
    ]
    films = [MultiPolygon(list(shapely.get_parts(blob))) for blob in blobs]
    path = tuple(ArtPoint(x=float(x), y=0.5) for x in rng.uniform(0, 1, 4000))
    brushes = [Brush(film="#112233", path=path[k:]) for k in range(5)]
    nest_rings(rings[:3])
    return {
        "nesting 2,000 rings": timed(lambda: nest_rings(rings, "evenodd")),
        "  by containment in pairs": timed(lambda: shapely.contains(polygons[:500, None], polygons[None, :500])) * 16,
        "what is seen of 2,000 shapes": timed(lambda: visible(items)),
        "thickness of 40 dense films": timed(lambda: max_thickness(films, lambda i, j: overlap(films[i], films[j]))),
        "key of 20,000 brush points": timed(lambda: key_of([b.model_copy() for b in brushes])),
        "  by their text": timed(lambda: repr(brushes)),
    }


def main() -> None:
    """Prints all of it."""
    for what, seconds in figures().items():
        print(f"{what:34s} {seconds * 1000:9.1f} ms")
    count = int(sys.argv[1]) if len(sys.argv) > 1 else STACKS
    begin = time.perf_counter()
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else secrets.randbelow(2**31)
    broken, worst = search(count, seed)
    print(f"{count} random stacks of seed {seed}: {broken} broken, worst {worst:.1g}, {time.perf_counter() - begin:.0f} s")


if __name__ == "__main__":
    main()
