"""A folder of designs as one file and back; copies before migrations."""

from __future__ import annotations

import sqlite3
import threading
import zipfile
from pathlib import Path

import pytest

from gladstack.recipe.edit.designs import RenameDesign
from gladstack.recipe.model.arts import ShapeArt, Star
from gladstack.recipe.model.recipe import Recipe
from gladstack.store import database
from gladstack.store.backup import back_up, restore
from gladstack.store.database import DESIGNS, Database, StoreError, claim_folder
from gladstack.store.designs import DesignBook

RECIPE = Recipe(name="Dome", arts=(ShapeArt(id="star", film="#f2b632", form=Star(form="star")),))


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    made = tmp_path / "data"
    design = book(made).create(RECIPE)
    book(made).edit(design.id, design.revision.id, RenameDesign(name="Dome at dusk"))
    (made / "cutter").mkdir()
    (made / "cutter" / "log.jsonl").write_text("{}\n")
    (made / "cutter" / "elsewhere").symlink_to("/etc/hostname")
    (made / "kept").mkdir()
    (made / "kept" / "stage").write_bytes(b"x" * 10_000)
    return made


def book(folder: Path) -> DesignBook:
    return DesignBook(Database(folder / DESIGNS))


def names(folder: Path) -> list[tuple[str]]:
    with Database(folder / DESIGNS).read() as db:
        return list(db.execute("SELECT json_extract(recipe, '$.name') FROM revisions ORDER BY id"))


def test_what_was_made_comes_back_and_what_can_be_built_again_does_not(folder: Path, tmp_path: Path) -> None:
    file, back = tmp_path / "all.zip", tmp_path / "back"
    assert back_up(folder, file) == file.stat().st_size
    assert file.stat().st_mode & 0o077 == 0
    restore(file, back)
    assert names(back) == names(folder) == [("Dome",), ("Dome at dusk",)]
    assert (back / "cutter" / "log.jsonl").read_text() == "{}\n"
    assert [p.name for p in (back / "cutter").iterdir()] == ["log.jsonl"]
    assert not (back / "kept").exists()
    assert (back / DESIGNS).stat().st_mode & 0o077 == 0
    assert sorted(p.name for p in tmp_path.iterdir()) == ["all.zip", "back", "data"]


def test_a_backup_of_a_folder_that_is_written_to_is_whole(folder: Path, tmp_path: Path) -> None:
    ended = threading.Event()

    def write_on() -> None:
        nth = 0
        while not ended.is_set():
            nth += 1
            book(folder).create(RECIPE.model_copy(update={"name": f"Dome {nth}"}))

    claimed = claim_folder(folder)
    writer = threading.Thread(target=write_on)
    writer.start()
    try:
        for k in range(5):
            back_up(folder, tmp_path / f"{k}.zip")
            restore(tmp_path / f"{k}.zip", tmp_path / f"back{k}")
    finally:
        ended.set()
        writer.join()
        claimed.close()
    counts = [len(names(tmp_path / f"back{k}")) for k in range(5)]
    assert counts == sorted(counts)
    assert counts[0] >= 2


def test_nothing_is_written_over_designs(folder: Path, tmp_path: Path) -> None:
    back_up(folder, tmp_path / "all.zip")
    before = names(folder)
    with pytest.raises(StoreError, match="already"):
        restore(tmp_path / "all.zip", folder)
    assert names(folder) == before


@pytest.mark.parametrize("harm", ["text", "cut", "no manifest", "newer", "damaged"])
def test_what_is_no_backup_is_refused_and_leaves_nothing(folder: Path, tmp_path: Path, harm: str) -> None:
    file, back = tmp_path / "all.zip", tmp_path / "back"
    back_up(folder, file)
    data = file.read_bytes()
    with zipfile.ZipFile(file) as archive:
        held = {n: archive.read(n) for n in archive.namelist()}
    if harm == "text":
        file.write_text("no backup")
    elif harm == "cut":
        file.write_bytes(data[: len(data) // 2])
    else:
        if harm == "no manifest":
            del held["backup.json"]
        elif harm == "newer":
            held["backup.json"] = b'{"version": "9.0", "database": 9999}'
        else:
            held[DESIGNS] = held[DESIGNS][:5000] + b"\x07" * 3000
        with zipfile.ZipFile(file, "w") as archive:
            for name, content in held.items():
                archive.writestr(name, content)
    with pytest.raises(StoreError):
        restore(file, back)
    assert not (back / DESIGNS).exists()
    assert [p.name for p in back.iterdir()] == ["in-use"]


def test_paths_that_lead_out_of_the_folder_are_left_alone(folder: Path, tmp_path: Path) -> None:
    file = tmp_path / "all.zip"
    back_up(folder, file)
    with zipfile.ZipFile(file, "a") as archive:
        archive.writestr("cutter/../../escaped", "x")
        archive.writestr("other", "x")
    restore(file, tmp_path / "back")
    assert not (tmp_path / "escaped").exists()
    assert not (tmp_path / "back" / "other").exists()


def test_a_folder_without_designs_is_told(tmp_path: Path) -> None:
    with pytest.raises(StoreError, match="no designs"):
        back_up(tmp_path, tmp_path / "all.zip")


def test_a_copy_is_kept_before_the_database_is_changed(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    every = database.migrations()
    monkeypatch.setattr(database, "migrations", lambda: every[:-1])
    path = tmp_path / DESIGNS
    Database(path)
    assert [p.name for p in tmp_path.glob("*.sqlite3")] == [DESIGNS]
    monkeypatch.setattr(database, "migrations", lambda: every)
    Database(path)
    copy = tmp_path / f"gladstack-before-{every[-1][0]}.sqlite3"
    for file, version in ((copy, every[-2][0]), (path, every[-1][0])):
        connection = sqlite3.connect(file)
        assert connection.execute("PRAGMA user_version").fetchone() == (version,)
        connection.close()
