"""Films on sheets: how close parts lie, how long seams, weed lines, plans and the shelf take.

`python -m bench.laying [seconds of the solver by itself]` by itself.
"""

from __future__ import annotations

import random
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
import shapely
import spyrrow
from shapely import MultiPolygon, Point, Polygon

from bench.served import flowers
from gladstack.core.geometry.shapes import clean
from gladstack.core.plan.laying import ANY_TURN, Item, Room, moved
from gladstack.core.plan.nest import nest, outer_edge
from gladstack.core.plan.tiles import Tiling, find_seams, given_back, tile_boxes, tile_of
from gladstack.core.plan.weeding import weed_lines
from gladstack.demo.designs import example_files
from gladstack.demo.shelf import MATERIALS, PIECES, demo_shop
from gladstack.recipe.art.given import Assets
from gladstack.recipe.art.written import read_recipe
from gladstack.recipe.build.build import build
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.job import Job, JobDesign
from gladstack.shop.plan import checks
from gladstack.shop.plan.plan import plan
from gladstack.shop.shelf.stock import Piece
from gladstack.store.database import Database
from gladstack.store.jobs import JobBook
from gladstack.store.shelf import Shelf

SPACING_MM, WIDTH_MM, LOOK_S = 2.0, 284.0, 10
LETTERS = "HELPROWNSTARMGIUDE"


def timed(work: Callable[[], object]) -> float:
    """The best of three, in seconds."""
    out = []
    for _ in range(3):
        begin = time.perf_counter()
        work()
        out.append(time.perf_counter() - begin)
    return min(out)


def letters(text: str, height_mm: float) -> list[MultiPolygon]:
    """Letters, each a shape of its own."""
    art = {"kind": "lettering", "id": "w", "text": text, "font": "inter-black", "height_mm": height_mm, "film": "#1d2b53"}
    made = built({"name": "Letters", "arts": [art]})
    return [MultiPolygon([p]) for p in made.layers[0].cut.geoms]


def built(recipe: dict[str, Any]) -> Any:
    """A design of lettering and shapes."""
    from gladstack.recipe.model.recipe import Recipe

    return build(Recipe.model_validate(recipe), Assets(picture=lambda key: b""))


def blob(rng: random.Random, size: float) -> MultiPolygon:
    """An irregular shape."""
    n = rng.randint(6, 12)
    turns = np.sort(np.array([rng.uniform(0, 2 * np.pi) for _ in range(n)]))
    r = np.array([size * rng.uniform(0.4, 1.0) for _ in range(n)])
    return clean(Polygon(np.stack([r * np.cos(turns), r * np.sin(turns)], axis=1)).buffer(0))


def jobs() -> dict[str, list[Item]]:
    """Eight jobs of 24 to 200 parts."""
    rng = random.Random(11)
    ring = clean(Point(0, 0).buffer(30).difference(Point(0, 0).buffer(22)))
    tips = [(rng.uniform(40, 140), rng.uniform(-6, 6), rng.uniform(3, 9)) for _ in range(60)]
    slivers = [MultiPolygon([Polygon([(0, 0), (x, y), (0, foot)])]) for x, y, foot in tips]
    mug = [MultiPolygon([p]) for p in demo("helper-mug").layers[-1].cut.geoms]
    shirt = [MultiPolygon([p]) for layer in demo("guide-shirt").layers for p in layer.cut.geoms]
    sets: dict[str, list[MultiPolygon]] = {
        "24 large blobs": [blob(rng, 45) for _ in range(24)],
        "64 blobs": [blob(rng, rng.uniform(8, 25)) for _ in range(64)],
        "100 letters": letters((LETTERS * 8)[:100], 24),
        "rings and letters": [ring] * 20 + letters((LETTERS * 4)[:60], 14),
        "60 slivers": slivers,
        "200 small blobs": [blob(rng, rng.uniform(4, 12)) for _ in range(200)],
        "mug x 12": mug * 12,
        "shirt x 12": shirt * 12,
    }
    return {name: [Item(s, ANY_TURN) for s in shapes] for name, shapes in sets.items()}


def demo(name: str) -> Any:
    """A demo design, built."""
    path = next(p for p in example_files() if p.stem == name)
    recipe, held = read_recipe(path.read_text(), path.parent)
    return build(recipe, Assets(picture=held.__getitem__, file=held.__getitem__))


def solver_alone(items: list[Item], seconds: int) -> float:
    """The length that the solver comes to by itself."""
    half = SPACING_MM / 2
    wanted = [spyrrow.Item(str(k), outer_edge(i.shape, half), 1, list(i.turns)) for k, i in enumerate(items)]
    instance = spyrrow.StripPackingInstance("film", WIDTH_MM + SPACING_MM, wanted)
    config = spyrrow.StripPackingConfig(
        exploration_time=round(0.8 * seconds), compression_time=round(0.2 * seconds), total_computation_time=None, seed=7
    )
    return float(instance.solve(config).width) - SPACING_MM


def nesting(alone_s: int) -> None:
    """Film used after ten seconds, against the solver's own answer after a minute."""
    room = Room(20_000.0, WIDTH_MM)
    for name, items in jobs().items():
        begin = time.perf_counter()
        first = nest(items, room, SPACING_MM)
        first_s = time.perf_counter() - begin
        begin = time.perf_counter()
        found = nest(items, room, SPACING_MM, LOOK_S, first)
        spent = time.perf_counter() - begin
        alone = solver_alone(items, alone_s)
        shapes = np.array([moved(i.shape, s.matrix) for i, s in zip(items, found.spots, strict=True) if s], dtype=object)
        apart = checks.least_between(shapes, np.arange(len(shapes)))
        double = sum(s.area for s in shapes) - shapely.union_all(shapes).area
        told = (
            f"  {name:18s} {len(items):3d} parts: first {first.length_mm:5.0f} mm in {first_s:4.1f} s,"
            f" {found.length_mm:5.0f} mm in {spent:4.1f} s = {found.length_mm / alone:.3f} x the solver's {alone_s} s;"
            f" nearest {apart:.3f}, double {double:.1g}"
        )
        print(told, flush=True)


def demo_shirt() -> None:
    """The film of the demo shirt, against each film as it lies."""
    made = demo("guide-shirt")
    job = Job(name="Shirts", designs=(JobDesign(design="d", name="Shirt", copies=4),), layout="nested")
    planned = plan(job, {"d": made}, demo_shop(), LOOK_S)
    used = sum(s.length_used_mm for s in planned.sheets)
    print(f"Four demo shirts: {used:.0f} mm of film, {used / planned.naive_length_mm:.2f} x one by one as they lie")


def shifted(shape: MultiPolygon, x: float, y: float) -> MultiPolygon:
    """A shape moved."""
    out = moved(shape, (1.0, 0.0, 0.0, 1.0, x, y))
    assert isinstance(out, MultiPolygon)
    return out


def seams_and_weeding() -> None:
    """A seam search over twelve films of 900 x 600 mm, and weed lines among sixty letters."""
    rng = random.Random(3)

    def strewn() -> MultiPolygon:
        return shifted(blob(rng, rng.uniform(10, 60)), rng.uniform(0, 900), rng.uniform(0, 600))

    films = [clean(shapely.union_all([strewn() for _ in range(60)])) for _ in range(12)]
    frame, tiling = (0.0, 0.0, 900.0, 600.0), Tiling(300.0, 280.0, 4.0)
    spent = timed(lambda: find_seams(films, frame, tiling))
    boxes = tile_boxes(frame, find_seams(films, frame, tiling), 4.0)
    wrong = max(given_back(f, [tile_of(f, b, frame) for b in boxes]) / f.area for f in films)
    print(f"Seams of 12 films of 900 x 600 mm: {spent * 1000:.0f} ms; tiles put together are off by {wrong:.1g} of the area")
    words = letters((LETTERS * 4)[:60], 20)
    sheet = [shifted(s, (k % 10) * 27, (k // 10) * 30) for k, s in enumerate(words)]
    left, top, right, bottom = shapely.total_bounds(np.array(sheet, dtype=object))
    around = (left - 5, top - 5, right + 5, bottom + 5)
    spent = timed(lambda: weed_lines(sheet, around, 60.0, 1.5))
    lines = shapely.linestrings(np.array(weed_lines(sheet, around, 60.0, 1.5)))
    near = shapely.STRtree(sheet).query_nearest(lines, return_distance=True)[1].min()
    print(f"Weed lines among 60 letters: {spent * 1000:.0f} ms, {len(lines)} lines, nearest {near:.2f} mm (1.5 wanted)")


def twelve_films() -> None:
    """The first plan of a design of twelve films."""
    from gladstack.recipe.model.arts import VectorArt
    from gladstack.recipe.model.recipe import Recipe

    films = [f"#{20 * k:02x}{255 - 20 * k:02x}{(90 * k) % 256:02x}" for k in range(12)]
    data = flowers(films).encode()
    recipe = Recipe(name="Meadow", arts=(VectorArt(file="a" * 64),))
    made = build(recipe, Assets(picture=lambda key: data, file=lambda key: data))
    job = Job(name="Meadow", designs=(JobDesign(design="d", name="Meadow"),), cutter="bench-600")
    print(f"A first plan of 12 films: {timed(lambda: plan(job, {'d': made}, demo_shop())) * 1000:.0f} ms")


def shelf() -> None:
    """A shelf of 1,000 films and 5,000 offcuts, and 2,000 jobs."""
    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder) / "shop.sqlite3")
        book, held = JobBook(database), Shelf(database)
        many = [changed(MATERIALS[k % len(MATERIALS)], id=f"film-{k}", name=f"Film {k}") for k in range(1000)]
        offcuts = [changed(PIECES[-1], id=f"offcut-{k}", material=f"film-{k % 1000}") for k in range(5000)]
        held.add(many, [Piece.model_validate(p.model_dump()) for p in offcuts])
        with database.write() as db:
            body = Job(name="Job", designs=(JobDesign(design="d", name="D", copies=3),)).model_dump_json()
            for k in range(2000):
                db.execute("INSERT INTO jobs (id, created, head) VALUES (?, '', ?)", (f"job{k}", k + 1))
                revision = (k + 1, f"job{k}", body)
                db.execute("INSERT INTO job_revisions VALUES (?, ?, NULL, NULL, ?, '', '')", revision)
        shop = held.shop()
        spent = {
            "all films": timed(held.materials),
            "pieces of 120 films": timed(lambda: held.pieces(*(f"film-{k}" for k in range(120)))),
            "all pieces": timed(held.pieces),
            "stock for a film": timed(lambda: shop.pieces_of("film-7")),
            "jobs": timed(book.lines),
        }
        told = ", ".join(f"{what} {seconds * 1000:.1f} ms" for what, seconds in spent.items())
        print(f"1,000 films, 5,000 offcuts, 2,000 jobs: {told}")


def main() -> None:
    """Prints all of it."""
    shelf()
    seams_and_weeding()
    twelve_films()
    demo_shirt()
    alone = int(sys.argv[1]) if len(sys.argv) > 1 else 60
    print(f"Nesting on {WIDTH_MM:.0f} mm, {LOOK_S} s")
    nesting(alone)


if __name__ == "__main__":
    main()
