"""One line of time over a design and its sheets."""

from __future__ import annotations

from pathlib import Path
from tempfile import TemporaryDirectory

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.recipe.edit.designs import RenameDesign
from gladstack.recipe.model.arts import ShapeArt
from gladstack.recipe.model.arts.shape import Heart
from gladstack.recipe.model.recipe import Recipe
from gladstack.shop.jobs.edits import SetCopies
from gladstack.shop.jobs.job import Job, JobDesign
from gladstack.store.database import Database
from gladstack.store.designs import DesignBook, StaleRevisionError
from gladstack.store.jobs import JobBook
from gladstack.store.line import AtCutterError
from tests.examples import examples


class Bench:
    """A design and its own sheets, and both as they stand in figures."""

    def __init__(self, folder: Path) -> None:
        database = Database(folder / "designs.sqlite3")
        self.designs, self.jobs = DesignBook(database), JobBook(database)
        recipe = Recipe(name="Dome", arts=(ShapeArt(id="shape-1", form=Heart()),))
        self.design = self.designs.create(recipe, label="Began").id
        job = Job(name="Dome", designs=(JobDesign(design=self.design, name="Dome"),))
        self.job = self.jobs.create(job, own_of=self.design).id

    def state(self) -> tuple[str, int]:
        return self.designs.get(self.design).revision.recipe.name, self.jobs.get(self.job).job.designs[0].copies

    def rename(self, name: str) -> None:
        self.designs.edit(self.design, self.designs.get(self.design).revision.id, RenameDesign(name=name))

    def copies(self, count: int) -> None:
        base = self.jobs.get(self.job).revision
        self.jobs.edit(self.job, base, SetCopies(design=self.design, copies=count))

    def step(self, way: str) -> None:
        base, sheets = self.designs.get(self.design).revision.id, self.jobs.get(self.job).revision
        (self.designs.undo if way == "undo" else self.designs.redo)(self.design, base, sheets)


@pytest.fixture
def bench(tmp_path: Path) -> Bench:
    return Bench(tmp_path)


@settings(max_examples=examples(40), deadline=None)
@given(ways=st.lists(st.sampled_from(["design", "sheets", "undo", "redo"]), max_size=14))
def test_undo_and_redo_walk_one_line(ways: list[str]) -> None:
    with TemporaryDirectory() as folder:
        bench = Bench(Path(folder))
        line, at = [bench.state()], 0
        for n, way in enumerate(ways, 2):
            if way in ("undo", "redo"):
                bench.step(way)
                at = max(0, at - 1) if way == "undo" else min(len(line) - 1, at + 1)
            else:
                bench.rename(f"Dome {n}") if way == "design" else bench.copies(n)
                line, at = [*line[: at + 1], bench.state()], at + 1
            assert bench.state() == line[at]
            history = bench.designs.history(bench.design)
            assert [entry.current for entry in history] == [k == at for k in range(len(line))]
            for book_says in (bench.designs.get(bench.design), bench.jobs.get(bench.job)):
                assert book_says.undoes == (history[at].label if at else None)
                assert book_says.redoes == (history[at + 1].label if at + 1 < len(line) else None)
        for k, entry in reversed(list(enumerate(bench.designs.history(bench.design)))):
            bench.designs.go_to(bench.design, bench.designs.get(bench.design).revision.id, entry.revision, entry.whose)
            assert bench.state() == line[k]


def test_sheets_are_undone_by_themselves_as_well(bench: Bench) -> None:
    bench.copies(3)
    bench.rename("Night")
    for wanted in (("Dome", 3), ("Dome", 1), ("Dome", 1)):
        bench.jobs.undo(bench.job, bench.jobs.get(bench.job).revision)
        assert bench.state() == wanted
    for wanted in (("Dome", 3), ("Night", 3), ("Night", 3)):
        bench.jobs.redo(bench.job, bench.jobs.get(bench.job).revision)
        assert bench.state() == wanted


def test_undo_on_sheets_that_were_changed_elsewhere_is_refused(bench: Bench) -> None:
    seen = bench.jobs.get(bench.job).revision
    bench.copies(3)
    with pytest.raises(StaleRevisionError, match="sheets"):
        bench.designs.undo(bench.design, bench.designs.get(bench.design).revision.id, seen)
    assert bench.state() == ("Dome", 3)


def at_cutter(bench: Bench) -> None:
    with bench.designs._database.write() as db:
        revision = db.execute("SELECT head FROM jobs").fetchone()[0]
        db.execute("INSERT INTO cuts (job, revision, created) VALUES (?, ?, '2026-01-01')", (bench.job, revision))


def test_sheets_at_the_cutter_stay(bench: Bench) -> None:
    bench.copies(3)
    at_cutter(bench)
    with pytest.raises(AtCutterError):
        bench.step("undo")
    bench.rename("Night")
    bench.step("undo")
    assert bench.state() == ("Dome", 3)


def test_undone_sheets_are_not_made_again_at_the_cutter_but_the_design_is(bench: Bench) -> None:
    bench.copies(3)
    bench.jobs.undo(bench.job, bench.jobs.get(bench.job).revision)
    at_cutter(bench)
    with pytest.raises(AtCutterError):
        bench.step("redo")
    assert bench.state() == ("Dome", 1)
    bench.rename("Night")
    bench.step("undo")
    bench.step("redo")
    assert bench.state() == ("Night", 1)
