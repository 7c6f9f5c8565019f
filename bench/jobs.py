"""Random jobs of all uses: the papers carried out by a hand, seams moved at random, costs against the ledger, undo and redo.

`python -m bench.jobs [jobs [seed]]` by itself.
"""

from __future__ import annotations

import random
import sys
import tempfile
from collections import Counter
from pathlib import Path

from gladstack.demo.shelf import MATERIALS, PIECES, demo_shop
from gladstack.proof.prove import proof_of_plan
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.edit.designs import RenameDesign, SetUse
from gladstack.recipe.model.arts import ShapeArt
from gladstack.recipe.model.arts.shape import Rectangle
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.uses import Use
from gladstack.shop.jobs.edits import PlaceSeam, SetCopies, SetJob
from gladstack.shop.jobs.job import Job, JobDesign, SeamCounts
from gladstack.shop.papers.costs import costs_of
from gladstack.shop.papers.steps import lying, work
from gladstack.shop.plan.plan import plan
from gladstack.shop.shelf.rates import Rates
from gladstack.stages.memo import Memo
from gladstack.store.database import Database
from gladstack.store.designs import DesignBook
from gladstack.store.jobs import JobBook
from gladstack.store.shelf import Shelf
from tests.shop.jobs import built, no_picture, random_job
from tests.shop.paper_hand import carried_out, seen

_MEMO = Memo()
_NOTHING = Assets(picture=no_picture)


def papers(count: int, seed: int) -> Counter[str]:
    """Random jobs whose papers are carried out, and whose costs are held against the film that is taken."""
    out: Counter[str] = Counter()
    for k in range(count):
        job, designs, shop = random_job(random.Random(seed + k))
        made = plan(job, designs, shop)
        for design in designs:
            films = [f for f in made.films if f.design == design]
            right = seen(carried_out(work(films, job, "mm", lying(made)).steps), films) == [
                (n, True) for n in range(len(films))
            ]
            out["decals put together right" if right else "decals put together WRONG"] += 1
        film = sum(line.amount for line in costs_of(made, Rates()).lines)
        taken = sum(s.material.cost_m2 * s.width_mm * s.length_used_mm / 1e6 for s in made.sheets)
        out["costs right" if abs(film - taken) < 1e-9 * max(1.0, taken) else "costs WRONG"] += 1
    return out


def seams(count: int, seed: int) -> Counter[str]:
    """Seams of a banner moved anywhere: as many tiles as before, or it is said."""
    rng = random.Random(seed)
    out: Counter[str] = Counter()
    size = {"width_mm": 1300.0, "height_mm": 640.0}
    designs: dict[str, Built] = {
        "b": built({"arts": [{"kind": "shape", "id": "s", "film": "#1d2b53", "form": {"form": "rectangle", **size}}]})
    }
    job = Job.model_validate({"name": "J", "designs": [{"design": "b", "name": "B"}]})
    before = next(iter(next(iter(plan(job, designs, demo_shop()).registers.values())).seams.values()))
    of = SeamCounts(x=len(before.x), y=len(before.y))
    for _ in range(count):
        axis = "x" if before.x and (rng.random() < 0.5 or not before.y) else "y"
        index = rng.randrange(len(before.x if axis == "x" else before.y))
        at = rng.uniform(-1500, 1500)
        moved = plan(PlaceSeam(design="b", axis=axis, index=index, at_mm=at, of=of).apply(job), designs, demo_shop())
        now = next(iter(next(iter(moved.registers.values())).seams.values()))
        same = (len(now.x), len(now.y)) == (of.x, of.y)
        lies = abs((now.x if axis == "x" else now.y)[index] - at) < 0.01
        told = any(f.code == "seam-held" for f in proof_of_plan(moved, designs))
        out["seams right, or said" if same and lies != told else "seams WRONG"] += 1
    return out


def line_of_time(count: int, seed: int) -> Counter[str]:
    """Edits of design and sheets mixed: undone to the beginning, made again to the end, all is as it was."""
    out: Counter[str] = Counter()
    for k in range(count):
        with tempfile.TemporaryDirectory() as folder:
            right = _undone_and_redone(Path(folder), random.Random(seed + k))
        out["lines of time right" if right else "lines of time WRONG"] += 1
    return out


def _undone_and_redone(folder: Path, rng: random.Random) -> bool:
    database = Database(folder / "designs.sqlite3")
    books, jobs, shelf = DesignBook(database), JobBook(database), Shelf(database)
    shelf.add(MATERIALS, PIECES)
    recipe = Recipe(name="Dome", arts=(ShapeArt(id="shape-1", film="#1d2b53", form=Rectangle()),))
    design = books.create(recipe, label="Began").id
    job = jobs.create(Job(name="J", designs=(JobDesign(design=design, name="D"),)), own_of=design).id

    def state() -> tuple[str, str, list[float]]:
        """Both documents, what the plan takes of film, and so what the ledger will hold."""
        now, sheets = books.get(design).revision.recipe, jobs.get(job).job
        made = plan(sheets, {design: build(now, _NOTHING, _MEMO)}, shelf.shop())
        return now.model_dump_json(), sheets.model_dump_json(), [s.length_used_mm for s in made.sheets]

    states = [state()]
    for n in range(12):
        head, sheets = books.get(design).revision.id, jobs.get(job).revision
        which = rng.randrange(4)
        if which == 0:
            books.edit(design, head, RenameDesign(name=f"Dome {n}"))
        elif which == 1:
            books.edit(design, head, SetUse(use=rng.choice(list(Use))))
        elif which == 2:
            jobs.edit(job, sheets, SetCopies(design=design, copies=n + 2))
        else:
            jobs.edit(job, sheets, SetJob(layout=rng.choice(["register", "nested", "whole"])))
        if (now := state()) != states[-1]:
            states.append(now)
    right = True
    for way, wanted in ((books.undo, states[-2::-1]), (books.redo, states[1:])):
        for one in wanted:
            way(design, books.get(design).revision.id, jobs.get(job).revision)
            right &= state() == one
    return right


def main() -> None:
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 300
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else 1
    for found in (papers(count, seed), seams(count // 3, seed), line_of_time(count // 10, seed)):
        for what, number in sorted(found.items()):
            print(f"{what}: {number}")


if __name__ == "__main__":
    main()
