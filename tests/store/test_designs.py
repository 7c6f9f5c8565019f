"""Designs on disk: history that survives, and no silent overwriting."""

from __future__ import annotations

import hashlib
import resource
import sqlite3
import stat
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from pydantic import TypeAdapter

from gladstack.core.base.errors import FontError, RecipeError
from gladstack.core.picture.decode import picture_header
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.arts import PictureArt, VectorArt
from gladstack.recipe.model.fonts import shipped_font
from gladstack.recipe.model.recipe import Recipe
from gladstack.store import database
from gladstack.store.database import Database, StoreError, claim_folder, migrations
from gladstack.store.designs import Brought, Design, DesignBook, StaleRevisionError
from gladstack.store.fonts import FontShelf
from gladstack.store.revisions import UnknownDesignError
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
    picture = brought("dome")
    recipe = Recipe(name="Dome", arts=(PictureArt(id="picture", picture=picture.digest, width_mm=100),))
    return book.create(recipe, brought=[picture])


def brought(name: str) -> Brought:
    data = picture_of(name, 64)
    return Brought.picture(data, f"{name}.png", *picture_header(data))


def add(picture: Brought) -> Edit:
    art = {"kind": "picture", "picture": picture.digest, "width_mm": 30}
    return EDIT.validate_python({"kind": "add-art", "art": art})


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
    assert book.get(design.id).redoes is None
    assert book.revision(design.id, lost).recipe.pictures()[0].width_mm == 110


def test_going_back_several_steps_keeps_all_of_them_to_redo(book: DesignBook, design: Design) -> None:
    first = design.revision.id
    for mm in (110, 120):
        step(book, design, mm)
    last = book.get(design.id).revision.id
    back = book.go_to(design.id, last, first)
    assert back.redoes
    assert back.undoes is None
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


def test_a_picture_is_kept_with_the_revision_that_uses_it_or_not_at_all(book: DesignBook, design: Design) -> None:
    dots = brought("dots")
    with pytest.raises(StaleRevisionError):
        book.edit(design.id, design.revision.id + 1, add(dots), [dots])
    with pytest.raises(UnknownDesignError):
        book.picture(dots.digest)
    made = book.edit(design.id, design.revision.id, add(dots), [dots])
    assert (book.picture(dots.digest), book.picture_format(dots.digest)) == (dots.data, "PNG")
    # The same picture once more, in an edit that fails: the first use keeps it.
    with pytest.raises(StaleRevisionError):
        book.edit(design.id, design.revision.id, add(dots), [dots])
    assert book.picture(dots.digest) == dots.data
    assert book.edit(design.id, made.revision.id, add(dots)).revision.recipe.pictures()[2].picture == dots.digest


def test_an_edit_that_names_a_picture_which_is_nowhere_is_refused(book: DesignBook, design: Design) -> None:
    finish = {"kind": "patterned", "pattern": "picture", "picture": "9" * 64}
    for edit in (add(brought("dots")), EDIT.validate_python({"kind": "set-finish", "film": "#112233", "finish": finish})):
        with pytest.raises(RecipeError, match="not here"):
            book.edit(design.id, design.revision.id, edit)
    assert book.get(design.id) == design


def test_what_no_revision_uses_is_swept_away(book: DesignBook, design: Design) -> None:
    with book._database.write() as db:
        db.execute("INSERT INTO pictures VALUES (?, 'PNG', 8, 8, x'00')", ("1" * 64,))
        db.execute("INSERT INTO files VALUES (?, x'00')", ("2" * 64,))
    assert (book.sweep(), book.sweep()) == (2, 0)
    assert book.picture(design.revision.recipe.pictures()[0].picture)


def test_unknown_designs_are_said_to_be_so(book: DesignBook) -> None:
    with pytest.raises(UnknownDesignError):
        book.get("nothing")


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

    with pytest.raises(StoreError):
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
    assert book.sweep() == 0
    assert book.picture(digest) == data
    assert book.undo("d", 2).redoes


def test_vector_files_are_kept_like_pictures(book: DesignBook) -> None:
    file = Brought.file(b"<svg/>", "a.svg")
    for _ in range(2):
        book.create(Recipe(name="File", arts=(VectorArt(id="file", file=file.digest),)), brought=[file])
    assert book.sweep() == 0
    assert book.file(file.digest) == b"<svg/>"
    with pytest.raises(UnknownDesignError, match="vector file"):
        book.file("0" * 64)


def test_what_the_disk_cannot_do_is_told_in_plain_words(
    path: Path, book: DesignBook, design: Design, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(database, "_LOCK_WAIT_S", 0.05)
    holder = sqlite3.connect(path, isolation_level=None)
    holder.execute("BEGIN IMMEDIATE")
    with pytest.raises(StoreError, match="held by another program"):
        step(book, design, 90)
    holder.close()
    soft, hard = resource.getrlimit(resource.RLIMIT_FSIZE)
    resource.setrlimit(resource.RLIMIT_FSIZE, (4096, hard))
    try:
        with pytest.raises(StoreError, match="disk"):
            step(book, design, 90)
    finally:
        resource.setrlimit(resource.RLIMIT_FSIZE, (soft, hard))
    assert book.get(design.id) == design
    assert step(book, design, 90).revision.recipe.pictures()[0].width_mm == 90
    other = path.with_name("other.sqlite3")
    other.write_bytes(b"this is no database at all, whatever it is called" * 40)
    with pytest.raises(StoreError, match="not a database"):
        Database(other)
    with pytest.raises(StoreError, match="cannot be"):
        Database(other / "below" / "a.sqlite3")


def test_a_file_that_a_newer_app_wrote_is_refused_and_left_as_it_is(path: Path, book: DesignBook) -> None:
    with sqlite3.connect(path) as db:
        db.execute("PRAGMA user_version = 4711")
    before = path.read_bytes()
    with pytest.raises(StoreError, match="newer Glad Stack"):
        Database(path)
    assert path.read_bytes() == before


def test_read_only_is_told(path: Path, book: DesignBook, design: Design) -> None:
    class ReadOnly(Database):
        @contextmanager
        def _open(self) -> Iterator[sqlite3.Connection]:
            with super()._open() as connection:
                connection.execute("PRAGMA query_only = ON")
                yield connection

    with pytest.raises(StoreError, match="read-only"):
        DesignBook(ReadOnly(path, migrate=False)).create(design.revision.recipe)
    assert book.get(design.id) == design


def test_a_folder_of_designs_is_for_its_owner_alone(tmp_path: Path) -> None:
    folder = tmp_path / "data"
    (folder / "kept" / "1").mkdir(parents=True)
    (folder / "kept" / "1" / "value").write_bytes(b"")
    Database(folder / "gladstack.sqlite3")
    (folder / "letter.txt").write_text("somebody's own")
    (folder / "letter.txt").chmod(0o644)
    claim_folder(folder).close()
    modes = {p.name: stat.S_IMODE(p.stat().st_mode) for p in (folder, *folder.rglob("*"))}
    assert {name: modes[name] for name in ("data", "kept", "1")} == {"data": 0o700, "kept": 0o700, "1": 0o700}
    assert (modes["gladstack.sqlite3"], modes["value"], modes["letter.txt"]) == (0o600, 0o600, 0o644)


def test_a_folder_is_served_by_one_at_a_time(tmp_path: Path) -> None:
    claimed = claim_folder(tmp_path)
    with pytest.raises(StoreError, match="already serves"):
        claim_folder(tmp_path)
    claimed.close()
    claim_folder(tmp_path).close()


def test_the_font_shelf_keeps_a_makers_font_beside_those_shipped(path: Path) -> None:
    shelf = FontShelf(Database(path))
    shipped = len(shelf.fonts())
    added = shelf.add(shipped_font("kristi"), "Kristi", "Regular")
    assert added.name == "Kristi"
    bold = shelf.add(shipped_font("comfortaa"), "Comfortaa", "Bold")
    assert bold.name == "Comfortaa Bold"
    shelf.remove(bold.key)
    assert shelf.add(shipped_font("kristi"), "Kristi", "Regular") == added
    again = FontShelf(Database(path))
    assert [f.own for f in again.fonts()] == [True] + [False] * shipped
    assert again.data(added.key) == shipped_font("kristi")
    for missing in ("no-such-font", "0" * 64):
        with pytest.raises(FontError):
            again.data(missing)
