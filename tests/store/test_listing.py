"""The list of designs on disk: small pictures and the bin."""

from __future__ import annotations

import sqlite3
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest

from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.recipe import Recipe
from gladstack.shop.jobs.edits import SetJob
from gladstack.shop.jobs.job import Job
from gladstack.store import database, designs
from gladstack.store.database import Database, StoreError
from gladstack.store.designs import DesignBook
from gladstack.store.jobs import JobBook
from gladstack.store.listing import LOOKS_KEPT, Listing, Look
from gladstack.store.revisions import UnknownDesignError
from tests.store.test_designs import EDIT

RECIPE = Recipe.model_validate({"name": "Dome", "arts": [{"kind": "shape", "id": "s", "form": {"form": "heart"}}]})


@pytest.fixture
def path(tmp_path: Path) -> Path:
    return tmp_path / "designs.sqlite3"


@pytest.fixture
def book(path: Path) -> DesignBook:
    return DesignBook(Database(path))


@pytest.fixture
def listing(book: DesignBook, path: Path) -> Listing:
    return Listing(Database(path))


def named(name: str) -> Edit:
    return EDIT.validate_python({"kind": "rename-design", "name": name})


def rows(path: Path, table: str) -> int:
    with sqlite3.connect(path) as db:
        return int(db.execute(f"SELECT count(*) FROM {table}").fetchone()[0])


def test_the_last_small_pictures_are_kept_and_that_of_what_is_shown(book: DesignBook, listing: Listing, path: Path) -> None:
    other = book.create(RECIPE)
    listing.keep_look(other.revision.id, Look(b"other"))
    design = book.create(RECIPE)
    made = [design.revision.id]
    for k in range(LOOKS_KEPT + 5):
        made.append(book.edit(design.id, made[-1], named(f"Dome {k}")).revision.id)
        listing.keep_look(made[-1], Look(b"look %d" % k))
    assert rows(path, "looks") == LOOKS_KEPT + 1
    assert [listing.look(r) is not None for r in made[-LOOKS_KEPT:]] == [True] * LOOKS_KEPT
    assert listing.look(made[1]) is None
    for _ in range(LOOKS_KEPT):
        book.undo(design.id, book.get(design.id).revision.id)
    head = book.get(design.id).revision.id
    listing.keep_look(head, Look(b"the one that is shown"))
    listing.keep_look(made[-1], Look(b"again"))
    assert listing.look(head) is not None
    assert listing.look(other.revision.id) == b"other"


def test_a_look_of_what_is_gone_is_not_kept(listing: Listing, path: Path) -> None:
    listing.keep_look(4711, Look(b"nothing"))
    assert rows(path, "looks") == 0


def test_the_bin_is_emptied_after_its_days_and_nothing_of_a_design_stays(
    book: DesignBook, listing: Listing, path: Path
) -> None:
    kept, gone = book.create(RECIPE), book.create(RECIPE)
    listing.keep_look(gone.revision.id, Look(b"look"))
    book.edit(gone.id, gone.revision.id, named("Other"))
    for design in (kept, gone):
        listing.bin(design.id)
    listing.restore(kept.id)
    assert listing.empty() == 0
    assert [line.id for line in listing.binned()] == [gone.id]
    later = datetime.now(UTC) + timedelta(days=31)
    assert [listing.empty(later + timedelta(days=k)) for k in range(3)] == [0, 0, 1]
    assert [line.id for line in listing.lines()] == [kept.id]
    assert (rows(path, "designs"), rows(path, "revisions"), rows(path, "looks")) == (1, 1, 0)
    with pytest.raises(UnknownDesignError):
        book.get(gone.id)


def test_a_clock_set_forward_once_empties_nothing_and_one_set_back_loses_no_order(
    book: DesignBook, listing: Listing, monkeypatch: pytest.MonkeyPatch
) -> None:
    binned = book.create(RECIPE)
    listing.bin(binned.id)
    for _ in range(5):
        assert listing.empty(datetime.now(UTC) + timedelta(days=4000)) == 0
    assert [line.id for line in listing.binned()] == [binned.id]
    first = book.create(RECIPE)
    monkeypatch.setattr(designs, "now", lambda: "1999-12-31T23:59:59.000+00:00")
    second = book.create(RECIPE)
    changed = book.edit(first.id, first.revision.id, named("Other"))
    assert [line.id for line in listing.lines()] == [first.id, second.id]
    assert book.undo(first.id, changed.revision.id).revision == first.revision


def job_of(design: str) -> Job:
    return Job.model_validate({"name": "Own", "designs": [{"design": design, "name": "Own"}]})


def test_a_designs_own_sheets_go_with_it_and_stand_in_no_list(book: DesignBook, listing: Listing, path: Path) -> None:
    jobs = JobBook(Database(path))
    design = book.create(RECIPE)
    own = jobs.create(job_of(design.id), own_of=design.id)
    assert jobs.own(design.id) == own
    assert jobs.lines() == ([], 0)
    with pytest.raises(StoreError):
        jobs.create(job_of(design.id), own_of=design.id)
    jobs.edit(own.id, own.revision, SetJob(name="Other"))
    listing.bin(design.id)
    later = datetime.now(UTC) + timedelta(days=31)
    assert [listing.empty(later + timedelta(days=k)) for k in range(3)] == [0, 0, 1]
    assert (rows(path, "jobs"), rows(path, "job_revisions")) == (0, 0)


def test_a_design_whose_own_sheets_were_cut_stays(book: DesignBook, listing: Listing, path: Path) -> None:
    jobs = JobBook(Database(path))
    design = book.create(RECIPE)
    own = jobs.create(job_of(design.id), own_of=design.id)
    jobs.mark_cut(own.id, own.revision, [], [])
    listing.bin(design.id)
    later = datetime.now(UTC) + timedelta(days=31)
    assert [listing.empty(later + timedelta(days=k)) for k in range(3)] == [0, 0, 0]


def test_own_sheets_of_an_older_file_are_known_by_the_design_they_are_of(
    path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    every = database.migrations()
    monkeypatch.setattr(database, "migrations", lambda: every[:8])
    store = Database(path)
    with store.write() as db:
        db.execute("INSERT INTO designs (id, created) VALUES ('dome', '2026')")
        for job in ("of-dome", "of-gone", "other"):
            db.execute("INSERT INTO jobs (id, created) VALUES (?, '2026')", (job,))
    monkeypatch.setattr(database, "migrations", lambda: every)
    with Database(path).read() as db:
        told = dict(db.execute("SELECT id, own_of FROM jobs").fetchall())
    assert told == {"of-dome": "dome", "other": None}
