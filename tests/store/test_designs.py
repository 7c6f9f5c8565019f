"""Designs on disk: history that survives, and no silent overwriting."""

from __future__ import annotations

import hashlib
import sqlite3
from pathlib import Path

import pytest
from pydantic import TypeAdapter

from gladstack.core.errors import FontError, PictureError, RecipeError
from gladstack.recipe.arts import PictureArt, VectorArt
from gladstack.recipe.edits import Edit
from gladstack.recipe.fonts import shipped_font
from gladstack.recipe.models import Recipe
from gladstack.store.database import Database, migrations
from gladstack.store.designs import Design, DesignBook, StaleRevisionError, UnknownDesignError
from gladstack.store.fonts import FontShelf
from tests.pictures import picture_of

EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)


def width(mm: float) -> Edit:
    return EDIT.validate_python({"kind": "resize", "width_mm": mm})


@pytest.fixture
def path(tmp_path: Path) -> Path:
    return tmp_path / "deep" / "designs.sqlite3"


@pytest.fixture
def book(path: Path) -> DesignBook:
    return DesignBook(Database(path))


@pytest.fixture
def design(book: DesignBook) -> Design:
    picture = book.add_picture(picture_of("dome", 64), "dome.png")
    return book.create(Recipe(name="Dome", arts=(PictureArt(id="picture", picture=picture, width_mm=100),)))


def step(book: DesignBook, design: Design, mm: float) -> Design:
    return book.edit(design.id, book.get(design.id).revision.id, width(mm))


def test_undo_and_redo_outlive_a_restart(path: Path, book: DesignBook, design: Design) -> None:
    for mm in (110, 120, 130):
        step(book, design, mm)
    book.undo(design.id, book.get(design.id).revision.id)
    again = DesignBook(Database(path))
    here = again.get(design.id)
    assert here.revision.recipe.pictures()[0].width_mm == 120
    assert again.redo(design.id, here.revision.id).revision.recipe.pictures()[0].width_mm == 130
    labels = [h.label for h in again.history(design.id)]
    assert labels == ["Brought in the picture", *(f"Made it {mm}.0 mm wide" for mm in (110, 120, 130))]


def test_a_new_edit_after_undo_starts_another_line_and_loses_nothing(book: DesignBook, design: Design) -> None:
    lost = step(book, design, 110).revision.id
    book.undo(design.id, lost)
    step(book, design, 150)
    assert [h.current for h in book.history(design.id)] == [False, True]
    assert not book.get(design.id).can_redo
    assert book.revision(design.id, lost).recipe.pictures()[0].width_mm == 110


def test_going_back_several_steps_keeps_all_of_them_to_redo(book: DesignBook, design: Design) -> None:
    first = design.revision.id
    for mm in (110, 120):
        step(book, design, mm)
    last = book.get(design.id).revision.id
    back = book.go_to(design.id, last, first)
    assert back.can_redo
    assert not back.can_undo
    assert [h.revision for h in book.history(design.id)][-1] == last
    assert book.go_to(design.id, first, last).revision.recipe.pictures()[0].width_mm == 120


def test_an_edit_on_an_old_revision_is_refused_whole(book: DesignBook, design: Design) -> None:
    seen = design.revision.id
    step(book, design, 110)
    with pytest.raises(StaleRevisionError):
        book.edit(design.id, seen, width(200))
    with pytest.raises(StaleRevisionError):
        book.undo(design.id, seen)
    assert book.get(design.id).revision.recipe.pictures()[0].width_mm == 110
    assert len(book.history(design.id)) == 2


def test_an_edit_that_changes_nothing_is_no_step(book: DesignBook, design: Design) -> None:
    assert step(book, design, 100).revision.id == design.revision.id


def test_an_edit_that_fails_leaves_nothing(book: DesignBook, design: Design) -> None:
    bad = EDIT.validate_python({"kind": "merge-colours", "colour": "#000000", "into": "#000000"})
    with pytest.raises(RecipeError):
        book.edit(design.id, design.revision.id, bad)
    assert book.get(design.id) == design


def test_a_picture_is_kept_once_and_forgotten_only_when_unused(book: DesignBook, design: Design) -> None:
    data = picture_of("dome", 64)
    assert book.add_picture(data) == design.revision.recipe.pictures()[0].picture
    book.drop_unused_picture(design.revision.recipe.pictures()[0].picture)
    assert book.picture(design.revision.recipe.pictures()[0].picture) == data
    other = book.add_picture(picture_of("dots", 64))
    assert book.picture_format(other) == "PNG"
    book.drop_unused_picture(other)
    with pytest.raises(UnknownDesignError):
        book.picture(other)
    with pytest.raises(PictureError):
        book.add_picture(b"no picture")


def test_unknown_designs_are_said_to_be_so(book: DesignBook) -> None:
    with pytest.raises(UnknownDesignError):
        book.get("nothing")
    assert book.lines() == []


def test_migrations_run_once_in_order_and_on_an_honest_file(path: Path, book: DesignBook) -> None:
    numbers = [n for n, _ in migrations()]
    assert numbers == list(range(1, len(numbers) + 1))
    with book._database.read() as db:
        assert db.execute("PRAGMA user_version").fetchone() == (numbers[-1],)
        assert db.execute("PRAGMA journal_mode").fetchone() == ("wal",)
        assert db.execute("PRAGMA foreign_keys").fetchone() == (1,)
    DesignBook(Database(path))


def test_a_write_that_fails_is_rolled_back(book: DesignBook) -> None:
    def write_twice() -> None:
        with book._database.write() as db:
            for _ in range(2):
                db.execute("INSERT INTO designs (id, created) VALUES ('x', 'now')")

    with pytest.raises(sqlite3.IntegrityError):
        write_twice()
    assert not book.has("x")


def test_a_file_of_the_first_version_is_brought_up_to_date_with_its_history(path: Path) -> None:
    path.parent.mkdir(parents=True)
    old = '{"version":1,"name":"Dome","art":{"kind":"picture","picture":"%s","filename":"dome.png","width_mm":90.0}}'
    with sqlite3.connect(path) as db:
        db.executescript(migrations()[0][1])
        data = picture_of("dome", 64)
        digest = hashlib.sha256(data).hexdigest()
        db.execute("INSERT INTO pictures VALUES (?, 'PNG', 64, 64, ?)", (digest, data))
        db.execute("INSERT INTO designs (id, created, head) VALUES ('d', '2026', 2)")
        for number, parent in ((1, None), (2, 1)):
            row = (number, "d", parent, old % digest, f"step {number}", digest, "2026")
            db.execute(
                "INSERT INTO revisions (id, design, parent, recipe, label, picture, created) VALUES (?,?,?,?,?,?,?)", row
            )
        db.execute("INSERT INTO redo_links VALUES (1, 2)")
        db.execute("PRAGMA user_version = 1")
    book = DesignBook(Database(path))
    design = book.get("d")
    assert [p.width_mm for p in design.revision.recipe.pictures()] == [90.0]
    assert [h.label for h in book.history("d")] == ["step 1", "step 2"]
    assert book.picture(digest) == data
    book.drop_unused_picture(digest)
    assert book.picture(digest) == data
    assert book.undo("d", 2).can_redo


def test_vector_files_are_kept_once_and_only_while_they_are_used(book: DesignBook) -> None:
    digest = book.add_file(b"<svg/>")
    assert book.add_file(b"<svg/>") == digest
    art = VectorArt(id="file", file=digest)
    book.create(Recipe(name="File", arts=(art,)))
    book.drop_unused_file(digest)
    assert book.file(digest) == b"<svg/>"
    lone = book.add_file(b"<svg></svg>")
    book.drop_unused_file(lone)
    with pytest.raises(UnknownDesignError, match="vector file"):
        book.file(lone)


def test_the_font_shelf_keeps_a_makers_font_beside_those_shipped(path: Path) -> None:
    shelf = FontShelf(Database(path))
    shipped = len(shelf.fonts())
    added = shelf.add(shipped_font("kristi"))
    assert shelf.add(shipped_font("kristi")) == added
    again = FontShelf(Database(path))
    assert [f.own for f in again.fonts()] == [True] + [False] * shipped
    assert again.data(added.key) == shipped_font("kristi")
    for missing in ("no-such-font", "0" * 64):
        with pytest.raises(FontError):
            again.data(missing)
