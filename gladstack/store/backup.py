"""A folder of designs as one file, and back: all that was made, without what can be built again. Safe while it is served."""

from __future__ import annotations

import json
import os
import sqlite3
import tempfile
import zipfile
from collections.abc import Iterator
from pathlib import Path, PurePosixPath

from gladstack import __version__
from gladstack.store.database import CUTTER, DESIGNS, StoreError, claim_folder, copy_of, keep_to_its_owner, migrations, now

_MANIFEST = "backup.json"
_NOT_A_BACKUP = "Choose a file that `gladstack backup` wrote."


def back_up(folder: Path, file: Path) -> int:
    """Writes the designs, jobs, shelf and cuts of a folder to a file, whole or not at all; how many bytes it has.

    Raises StoreError, OSError.
    """
    if not (folder / DESIGNS).is_file():
        raise StoreError(f"There are no designs in {folder}.", "Name the folder with --data.")
    file.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=file.parent, prefix=".gladstack-") as name:
        copy, draft = Path(name) / DESIGNS, Path(name) / "backup.zip"
        copy_of(folder / DESIGNS, copy)
        told = {"version": __version__, "database": migrations()[-1][0], "written": now()}
        with zipfile.ZipFile(draft, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.writestr(_MANIFEST, json.dumps(told))
            archive.write(copy, DESIGNS)
            for path in _cutter_files(folder):
                archive.write(path, path.relative_to(folder).as_posix())
        draft.chmod(0o600)
        os.replace(draft, file)
    return file.stat().st_size


def _cutter_files(folder: Path) -> Iterator[Path]:
    """What the cutter wrote down of films that are under its blade."""
    return (p for p in sorted((folder / CUTTER).rglob("*")) if p.is_file() and not p.is_symlink())


def restore(file: Path, folder: Path) -> None:
    """Brings a backup back into a folder that holds no designs yet.

    Raises StoreError, OSError; nothing is left then of what was begun.
    """
    claimed = claim_folder(folder)
    try:
        if (folder / DESIGNS).exists():
            raise StoreError(
                f"There are designs in {folder} already, and nothing is written over them.",
                "Name an empty folder with --data.",
            )
        with tempfile.TemporaryDirectory(dir=folder, prefix=".restore-") as name:
            draft = Path(name)
            for path in _unpacked(file, draft):
                target = folder / path
                target.parent.mkdir(parents=True, exist_ok=True)
                os.replace(draft / path, target)
        keep_to_its_owner(folder)
    finally:
        claimed.close()


def _unpacked(file: Path, draft: Path) -> list[str]:
    """Unpacks a backup; its files, the designs last. Raises StoreError if it is none, is damaged or too new."""
    try:
        with zipfile.ZipFile(file) as archive:
            told = json.loads(archive.read(_MANIFEST))
            named = [n for n in archive.namelist() if n == DESIGNS or _is_cutters(n)]
            for path in named:
                archive.extract(path, draft)
        whole = _is_whole(draft / DESIGNS)
        newer = int(told["database"]) > migrations()[-1][0]
    except (zipfile.BadZipFile, KeyError, TypeError, ValueError, EOFError, sqlite3.Error) as fault:
        raise StoreError(f"{file.name} is no backup, or is damaged.", _NOT_A_BACKUP) from fault
    if not whole:
        raise StoreError(f"The designs in {file.name} are damaged.", "Take an older backup.")
    if newer:
        raise StoreError(
            f"{file.name} was written by a newer Glad Stack (version {told['version']}).", "Restore it with that one."
        )
    return [n for n in named if n != DESIGNS] + [DESIGNS]


def _is_cutters(path: str) -> bool:
    parts = PurePosixPath(path).parts
    return len(parts) > 1 and parts[0] == CUTTER and ".." not in parts and not path.endswith("/")


def _is_whole(path: Path) -> bool:
    connection = sqlite3.connect(path)
    try:
        return bool(connection.execute("PRAGMA integrity_check").fetchone() == ("ok",))
    finally:
        connection.close()
