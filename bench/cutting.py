"""From plan to blade: formats read back, the blade's path, cuts with things going wrong, corners, lists of names.

`python -m bench.cutting [cuts [plans]]` by itself.
"""

from __future__ import annotations

import multiprocessing
import random
import sys
import tempfile
import time
from contextlib import suppress
from pathlib import Path

import numpy as np

from gladstack.commands.cut import cut_all
from gladstack.commands.names import built_all
from gladstack.core.base.errors import GladStackError
from gladstack.core.geometry.curves import flatten_chain, line_chain
from gladstack.core.plan.compared import compare
from gladstack.core.plan.path import blade_path
from gladstack.core.plan.route import _shorten, nearest_first
from gladstack.core.plan.strokes import holder_strokes, strokes_of
from gladstack.cutter.motion import trail
from gladstack.demo.designs import EXAMPLES, job_files
from gladstack.demo.shelf import demo_shop
from gladstack.machine.link import Link, Temper
from gladstack.machine.operator import Operator
from gladstack.recipe.art.given import Assets
from gladstack.recipe.art.written import read_recipe
from gladstack.recipe.build.build import build
from gladstack.recipe.model.recipe import Recipe
from gladstack.shop.files.formats import sheet_files
from gladstack.shop.jobs.names import checked, read_rows
from gladstack.shop.jobs.read_job import read_job
from gladstack.shop.plan.plan import plan
from gladstack.shop.plan.planned import Plan
from gladstack.shop.shelf.shelf import Shop
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo
from gladstack.store.cuts import CutBook
from gladstack.store.database import Database
from gladstack.store.jobs import JobBook
from gladstack.store.shelf import Shelf
from tests import readers
from tests.shop.jobs import random_job

TOLERANCE_MM = 0.02
FORMATS = {
    ".svg": lambda data, width: readers.svg_lines(data),
    ".dxf": readers.dxf_lines,
    ".hpgl": readers.hpgl_lines,
    ".pdf": lambda data, width: readers.pdf_lines(data),
}


def demo_plans() -> dict[str, Plan]:
    """The demo jobs, laid."""
    out = {}
    for file in job_files():
        job, files = read_job(file.read_text(encoding="utf-8"), file.parent)
        memo, designs = Memo(), {}
        for key, path in files.items():
            recipe, held = read_recipe(path.read_text(encoding="utf-8"), path.parent)
            designs[key] = build(recipe, Assets(picture=held.__getitem__, file=held.__getitem__), memo)
        out[file.stem] = plan(job, designs, demo_shop())
    return out


def random_case(seed: int) -> tuple[Plan, Shop]:
    """A random job that can be laid, and its shop."""
    while True:
        with suppress(GladStackError):
            job, designs, shop = random_job(random.Random(seed))
            return plan(job, designs, shop), shop
        seed += 100_000


def read_back(made: Plan) -> dict[str, tuple[int, int, int]]:
    """For each format: contours, those not found within the tolerance, and lines that are of none."""
    files = sheet_files(made, ["svg", "dxf", "hpgl", "pdf"])
    out = dict.fromkeys(FORMATS, (0, 0, 0))
    for sheet in made.sheets:
        wanted = [flatten_chain(c, 0.002) for c in sheet.path.contours]
        for ending, reader in FORMATS.items():
            missing, stray = readers.unmatched(
                wanted, reader(files[f"sheets/{sheet.stem}{ending}"], sheet.width_mm), TOLERANCE_MM
            )
            out[ending] = tuple(np.add(out[ending], (len(wanted), missing, stray)))  # type: ignore[assignment]
    return out


def _read_back_random(seed: int) -> dict[str, tuple[int, int, int]]:
    return read_back(random_case(seed)[0])


def formats(plans: dict[str, Plan], count: int) -> None:
    """All demo jobs and so many random plans, read back by other readers."""
    with multiprocessing.get_context("forkserver").Pool(2) as pool:
        found = [*map(read_back, plans.values()), *pool.imap(_read_back_random, range(count))]
    for ending in FORMATS:
        total = np.sum([f[ending] for f in found], axis=0)
        print(f"{ending:>6}: {total[0]} contours, {total[1]} not within {TOLERANCE_MM} mm, {total[2]} lines of none")


def paths(plans: dict[str, Plan]) -> None:
    """Travel against file order, and against a long search; and the time for 2,000 contours."""
    for name, made in plans.items():
        ours = sum(s.path.travel_mm for s in made.sheets)
        before = sum(s.path.travel_before_mm for s in made.sheets)
        seconds = [sum(s.times.whole_s for s in made.sheets), sum(s.times.before_s for s in made.sheets)]
        told = f"{ours / before:.2f} of file order's travel, {seconds[0]:.0f} s instead of {seconds[1]:.0f} s"
        print(f"{name}: {told}")
    rng = np.random.default_rng(5)
    for count in (200, 2000):
        places = rng.uniform(0, 280, (count, 2))
        squares = [line_chain(p + np.array([(0, 0), (3, 0), (3, 3), (0, 3), (0, 0)])) for p in places]
        begin = time.perf_counter()
        found = blade_path(squares)
        spent = time.perf_counter() - begin
        starts = np.array([c.start for c in found.contours])
        order = nearest_first(starts, np.zeros(2))
        near = np.argsort(np.hypot(*(starts[:, None] - starts[None]).transpose(2, 0, 1)))
        for _ in range(10):
            _shorten(np.concatenate([starts, np.zeros((1, 2))]), order, near)
        steps = np.vstack([np.zeros((1, 2)), starts[order]])
        best = float(np.hypot(*np.diff(steps, axis=0).T).sum())
        print(f"{count} contours: {found.travel_mm / best:.3f} of a long 2-opt's travel, in {spent:.2f} s")


def corners() -> None:
    """How far a trailing blade stays from a true corner, led along it and not."""
    shape = np.array([(10, 10), (50, 10), (50, 25), (25, 25), (25, 45), (30, 60), (10, 45), (10, 10)], dtype=float)
    for offset in (0.1, 0.25, 0.5, 0.9):
        told = []
        for led in (True, False):
            strokes = strokes_of([shape], 0.6)
            ways = [h.points for h in holder_strokes(strokes, offset)] if led else [s.points for s in strokes]
            plot = [np.array(trail([tuple(p) for p in w.tolist()], offset, 0.0).tip) for w in ways]
            told.append(compare([shape], plot).corner_mm)
        print(f"blade trails by {offset} mm: corners within {told[0]:.3f} mm, {told[1]:.3f} if it is not led")


def _cut(seed: int) -> tuple[int, int, int, int, int, int, float, bool]:
    made, shop = random_case(seed)
    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder) / "shop.db")
        shelf, jobs = Shelf(database), JobBook(database)
        shelf.add(shop.materials, shop.pieces)
        before = {p.id: p.left for p in shelf.pieces()}
        operator = Operator(CutBook(database), shelf, Link(Path(folder) / "cutter", shop.cutters[0], Temper(0.0, seed)))
        try:
            stands = cut_all(operator, jobs, made)
            figures = [operator.figures(s) for s in stands]
        except GladStackError:
            return (0, 0, 0, 0, 1, 0, 0.0, True)
        finally:
            operator.close()
        used: dict[str, float] = {}
        for s in stands:
            for t in s.run.tries:
                if t.used_mm > 0 and not s.cut.bought:
                    whole = max(t.used_mm, s.cut.length_used_mm) if t.ended == "cut" else t.used_mm
                    used[t.piece] = used.get(t.piece, 0.0) + (whole if s.cut.kind == "roll" else 1.0)
        after = {p.id: p.left for p in shelf.pieces(spent=True)}
        right = all(abs(after[k] - max(0.0, v - used.get(k, 0.0))) < 0.25 for k, v in before.items())
        films = sum(len(s.run.tries) for s in stands)
        return (
            sum(f.contours for f in figures), sum(f.cut_once for f in figures), sum(len(f.missing) for f in figures),
            sum(len(f.twice) for f in figures), 0,
            int(any(s.stage != "done" for s in stands)), films / max(1, len(stands)), right,
        )  # fmt: skip


def cuts(count: int) -> None:
    """So many jobs cut while things go wrong by seed."""
    begin = time.perf_counter()
    with multiprocessing.get_context("forkserver").Pool(2) as pool:
        found = list(pool.imap_unordered(_cut, range(count)))
    contours, once, missing, twice, stuck, ended, _, _ = np.sum(found, axis=0)
    wrong = sum(not f[-1] for f in found)
    told = f"{contours:.0f} contours, {once:.0f} cut once, {missing:.0f} missing, {twice:.0f} told as cut twice"
    films = f"{np.mean([f[6] for f in found if f[0]]):.2f} films for a sheet"
    print(f"{count} jobs with faults: {told}; {films}; {ended:.0f} out of film, {stuck:.0f} without a way on; ", end="")
    print(f"shelf wrong in {wrong} ({time.perf_counter() - begin:.0f} s)")


def names() -> None:
    """200 names on a design with three shadows, against one build from nothing."""
    recipe = Recipe.model_validate_json((EXAMPLES / "helper-names.json").read_text(encoding="utf-8"))
    rng = random.Random(3)
    words = ["".join(rng.choice("aeioulnrstmd") for _ in range(rng.randint(3, 9))).title() for _ in range(200)]
    assets = Assets(picture={}.__getitem__)
    cold = []
    for word in words[:3]:
        begin = time.perf_counter()
        ((_, made),) = checked(recipe, read_rows(word, ["name"]), ["narrower"], assets, Stages(Memo()))
        build(made, assets, Memo())
        cold.append(time.perf_counter() - begin)
    begin = time.perf_counter()
    found = checked(recipe, read_rows("\n".join(words), ["name"]), ["narrower"] * 200, assets, Stages(Memo()))
    first = 0.0
    for _ in built_all([made for _, made in found], {}):
        first = first or time.perf_counter() - begin
    spent = time.perf_counter() - begin
    print(f"200 names: the first after {first:.2f} s, all in {spent / min(cold):.0f} cold builds ({spent:.1f} s)")


def main() -> None:
    """Prints all of it."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 500
    plans = int(sys.argv[2]) if len(sys.argv) > 2 else 200
    demo = demo_plans()
    paths(demo)
    corners()
    names()
    formats(demo, plans)
    cuts(count)


if __name__ == "__main__":
    main()
