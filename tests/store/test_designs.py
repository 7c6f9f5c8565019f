"""Designs on disk: history that survives, and no silent overwriting."""

from __future__ import annotations

import sqlite3
from pathlib import Path

import pytest
from pydantic import TypeAdapter

from gladstack.core.errors import PictureError, RecipeError
from gladstack.recipe.edits import Edit
from gladstack.recipe.models import PictureArt, Recipe
from gladstack.store.database import Database, migrations
from gladstack.store.designs import Design, DesignStore, StaleRevisionError, UnknownDesignError
from tests.pictures import picture_of

EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)


def width(mm: float) -> Edit:
    return EDIT.validate_python({"kind": "resize", "width_mm": mm})


@pytest.fixture
def path(tmp_path: Path) -> Path:
    return tmp_path / "deep" / "designs.sqlite3"


@pytest.fixture
def store(path: Path) -> DesignStore:
    return DesignStore(Database(path))


@pytest.fixture
def design(store: DesignStore) -> Design:
    picture = store.add_picture(picture_of("dome", 64), "dome.png")
    return store.create(Recipe(name="Dome", art=PictureArt(picture=picture, width_mm=100)))


def step(store: DesignStore, design: Design, mm: float) -> Design:
    return store.edit(design.id, store.get(design.id).revision.id, width(mm))


def test_undo_and_redo_outlive_a_restart(path: Path, store: DesignStore, design: Design) -> None:
    for mm in (110, 120, 130):
        step(store, design, mm)
    store.undo(design.id, store.get(design.id).revision.id)
    again = DesignStore(Database(path))
    here = again.get(design.id)
    assert here.revision.recipe.art.width_mm == 120
    assert again.redo(design.id, here.revision.id).revision.recipe.art.width_mm == 130
    labels = [h.label for h in again.history(design.id)]
    assert labels == ["Brought in the picture", *(f"Made it {mm}.0 mm wide" for mm in (110, 120, 130))]


def test_a_new_edit_after_undo_starts_another_line_and_loses_nothing(store: DesignStore, design: Design) -> None:
    lost = step(store, design, 110).revision.id
    store.undo(design.id, lost)
    step(store, design, 150)
    assert [h.current for h in store.history(design.id)] == [False, True]
    assert not store.get(design.id).can_redo
    assert store.revision(design.id, lost).recipe.art.width_mm == 110


def test_going_back_several_steps_keeps_all_of_them_to_redo(store: DesignStore, design: Design) -> None:
    first = design.revision.id
    for mm in (110, 120):
        step(store, design, mm)
    last = store.get(design.id).revision.id
    back = store.go_to(design.id, last, first)
    assert back.can_redo
    assert not back.can_undo
    assert [h.revision for h in store.history(design.id)][-1] == last
    assert store.go_to(design.id, first, last).revision.recipe.art.width_mm == 120


def test_an_edit_on_an_old_revision_is_refused_whole(store: DesignStore, design: Design) -> None:
    seen = design.revision.id
    step(store, design, 110)
    with pytest.raises(StaleRevisionError):
        store.edit(design.id, seen, width(200))
    with pytest.raises(StaleRevisionError):
        store.undo(design.id, seen)
    assert store.get(design.id).revision.recipe.art.width_mm == 110
    assert len(store.history(design.id)) == 2


def test_an_edit_that_changes_nothing_is_no_step(store: DesignStore, design: Design) -> None:
    assert step(store, design, 100).revision.id == design.revision.id


def test_an_edit_that_fails_leaves_nothing(store: DesignStore, design: Design) -> None:
    bad = EDIT.validate_python({"kind": "merge-colours", "colour": "#000000", "into": "#000000"})
    with pytest.raises(RecipeError):
        store.edit(design.id, design.revision.id, bad)
    assert store.get(design.id) == design


def test_a_picture_is_kept_once_and_forgotten_only_when_unused(store: DesignStore, design: Design) -> None:
    data = picture_of("dome", 64)
    assert store.add_picture(data) == design.revision.recipe.art.picture
    store.drop_unused_picture(design.revision.recipe.art.picture)
    assert store.picture(design.revision.recipe.art.picture) == data
    other = store.add_picture(picture_of("dots", 64))
    assert store.picture_format(other) == "PNG"
    store.drop_unused_picture(other)
    with pytest.raises(UnknownDesignError):
        store.picture(other)
    with pytest.raises(PictureError):
        store.add_picture(b"no picture")


def test_unknown_designs_are_said_to_be_so(store: DesignStore) -> None:
    with pytest.raises(UnknownDesignError):
        store.get("nothing")
    assert store.lines() == []


def test_migrations_run_once_in_order_and_on_an_honest_file(path: Path, store: DesignStore) -> None:
    numbers = [n for n, _ in migrations()]
    assert numbers == list(range(1, len(numbers) + 1))
    with store._database.read() as db:
        assert db.execute("PRAGMA user_version").fetchone() == (numbers[-1],)
        assert db.execute("PRAGMA journal_mode").fetchone() == ("wal",)
        assert db.execute("PRAGMA foreign_keys").fetchone() == (1,)
    DesignStore(Database(path))


def test_a_write_that_fails_is_rolled_back(store: DesignStore) -> None:
    def write_twice() -> None:
        with store._database.write() as db:
            for _ in range(2):
                db.execute("INSERT INTO designs (id, created) VALUES ('x', 'now')")

    with pytest.raises(sqlite3.IntegrityError):
        write_twice()
    assert not store.has("x")
