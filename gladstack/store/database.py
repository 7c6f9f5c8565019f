"""One SQLite file, one way to open it: WAL, foreign keys on, a short wait for locks, numbered migrations.

Every use opens a connection of its own; a write runs in one immediate transaction that is rolled back whole on any error,
and is on the disk before it is acknowledged. What SQLite itself cannot do (a full or read-only disk, a file that is no
database) is told as a StoreError.
"""

from __future__ import annotations

import fcntl
import logging
import os
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from datetime import UTC, datetime
from importlib import resources
from pathlib import Path
from typing import IO

from gladstack.core.base.errors import GladStackError

DESIGNS, CUTTER, KEPT = "gladstack.sqlite3", "cutter", "kept"
"""What lies in a folder of designs: the database, what the cutter wrote down, and stages that can be built again."""
_LOCK_WAIT_S = 10.0
_LOG = logging.getLogger("gladstack.store")


class StoreError(GladStackError):
    """The folder of the designs cannot be read or written."""

    code = "store"


class Database:
    """The file at `path`, brought to the newest migration when it is first opened. Raises StoreError."""

    def __init__(self, path: Path, *, migrate: bool = True) -> None:
        self.path = path
        if not migrate:
            return
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as fault:
            raise StoreError(
                f"The folder {path.parent} cannot be made: {fault.strerror}.", "Choose another folder."
            ) from fault
        with self._open() as connection:
            _refuse_newer(connection, path)
            connection.execute("PRAGMA journal_mode = WAL")
            (version,) = connection.execute("PRAGMA user_version").fetchone()
            if 0 < version < migrations()[-1][0]:
                copy_of(path, path.with_name(f"gladstack-before-{migrations()[-1][0]}.sqlite3"))
            _migrate(connection)

    @contextmanager
    def read(self) -> Iterator[sqlite3.Connection]:
        """A connection for reading."""
        with self._open() as connection:
            yield connection

    @contextmanager
    def write(self) -> Iterator[sqlite3.Connection]:
        """A connection inside one transaction, kept if the block ends well."""
        with self._open() as connection:
            connection.execute("BEGIN IMMEDIATE")
            try:
                yield connection
                connection.execute("COMMIT")
            except BaseException:
                # A full disk may have rolled it back already.
                if connection.in_transaction:
                    connection.execute("ROLLBACK")
                raise

    @contextmanager
    def _open(self) -> Iterator[sqlite3.Connection]:
        connection = None
        try:
            connection = sqlite3.connect(self.path, timeout=_LOCK_WAIT_S, isolation_level=None)
            connection.execute("PRAGMA foreign_keys = ON")
            connection.execute("PRAGMA synchronous = FULL")
            yield connection
        except sqlite3.Error as fault:
            _LOG.error("sqlite: %s (%s)", fault, self.path)
            raise _store_error(fault, self.path) from fault
        finally:
            if connection is not None:
                connection.close()


def copy_of(path: Path, target: Path) -> None:
    """Copies a database as it stands at one moment, also while it is written. Raises sqlite3.Error, StoreError."""
    try:
        source, copy = sqlite3.connect(path, timeout=_LOCK_WAIT_S), sqlite3.connect(target)
        try:
            source.backup(copy)
        finally:
            copy.close()
            source.close()
    except sqlite3.Error as fault:
        target.unlink(missing_ok=True)
        raise _store_error(fault, path) from fault


def claim_folder(folder: Path) -> IO[str]:
    """Claims a folder of designs for this process as long as the file it returns stays open.

    Raises StoreError if another process has it.
    """
    try:
        folder.mkdir(parents=True, exist_ok=True)
        keep_to_its_owner(folder)
        lock = (folder / "in-use").open("a+")
    except OSError as fault:
        raise StoreError(f"The folder {folder} cannot be written: {fault.strerror}.", "Choose another folder.") from fault
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError as fault:
        lock.close()
        raise StoreError(
            f"Another Glad Stack already serves the folder {folder}.", "Stop that one, or choose another folder with --data."
        ) from fault
    lock.truncate(0)
    lock.write(f"{os.getpid()}\n")
    lock.flush()
    return lock


_OURS = ("gladstack*.sqlite3*", "in-use", "kept", "kept/**/*", "cutter", "cutter/**/*")


def keep_to_its_owner(folder: Path) -> None:
    """Lets nobody but its owner into a folder of designs, nor read what the app keeps there."""
    own = [path for pattern in _OURS for path in folder.glob(pattern)]
    for path in (folder, *own):
        # What belongs to somebody else is theirs to open or shut.
        with suppress(OSError):
            path.chmod(0o700 if path.is_dir() else 0o600)


_WHY = {
    sqlite3.SQLITE_FULL: ("The disk is full, so nothing was changed.", "Make room on the disk, then try again."),
    sqlite3.SQLITE_BUSY: ("The designs are held by another program.", "Close what else has them open, then try again."),
    sqlite3.SQLITE_LOCKED: ("The designs are held by another program.", "Close what else has them open, then try again."),
    sqlite3.SQLITE_READONLY: ("The designs cannot be written: the file is read-only.", "Allow writing to its folder."),
    sqlite3.SQLITE_CANTOPEN: ("The file of the designs cannot be opened.", "See whether its folder may be used."),
    sqlite3.SQLITE_NOTADB: ("The file of the designs is not a database.", "Move it away, or choose another folder."),
    sqlite3.SQLITE_CORRUPT: ("The file of the designs is damaged.", "Bring back a copy of it, or choose another folder."),
    sqlite3.SQLITE_TOOBIG: ("This is too large to be kept.", "Bring in a smaller file."),
    sqlite3.SQLITE_IOERR: ("The disk cannot be read or written.", "See whether the disk is whole, and has room."),
}  # fmt: skip


def _store_error(fault: sqlite3.Error, path: Path) -> StoreError:
    code = getattr(fault, "sqlite_errorcode", 0) & 0xFF
    problem, remedy = _WHY.get(code, ("The designs could not be read or written.", "Try again; the log says more."))
    return StoreError(f"{problem.removesuffix('.')} ({path.name}).", remedy)


def migrations() -> list[tuple[int, str]]:
    """All migrations as (number, SQL), in order."""
    folder = resources.files("gladstack.store") / "migrations"
    named = sorted((f.name, f.read_text()) for f in folder.iterdir() if f.name.endswith(".sql"))
    return [(int(name.split("_")[0]), text) for name, text in named]


def _migrate(connection: sqlite3.Connection) -> None:
    """Runs what the file lacks; each migration and its number are recorded in the transaction that runs it."""
    (version,) = connection.execute("PRAGMA user_version").fetchone()
    # A table that others refer to can only be made anew while nobody enforces it; all is checked before it is kept.
    connection.execute("PRAGMA foreign_keys = OFF")
    for number, text in migrations():
        if number <= version:
            continue
        connection.execute("BEGIN IMMEDIATE")
        try:
            for statement in _statements(text):
                connection.execute(statement)
            connection.execute(f"PRAGMA user_version = {number}")
            if connection.execute("PRAGMA foreign_key_check").fetchone():
                raise sqlite3.IntegrityError(f"migration {number} leaves references to nothing")
        except BaseException:
            connection.execute("ROLLBACK")
            raise
        connection.execute("COMMIT")


def _refuse_newer(connection: sqlite3.Connection, path: Path) -> None:
    """Raises StoreError if a newer app wrote the file: what it holds could be read wrongly, and then lost."""
    (version,) = connection.execute("PRAGMA user_version").fetchone()
    newest = migrations()[-1][0]
    if version > newest:
        raise StoreError(
            f"The designs in {path.parent} were written by a newer Glad Stack (version {version} of the file, and this one "
            f"knows {newest}).",
            "Serve them with that one, or choose another folder with --data.",
        )


def _statements(text: str) -> Iterator[str]:
    """Single statements: `executescript` would commit the open transaction."""
    statement = ""
    for line in text.splitlines(keepends=True):
        statement += line
        if sqlite3.complete_statement(statement):
            yield statement
            statement = ""


def now() -> str:
    """The time, as it is kept."""
    return datetime.now(UTC).isoformat(timespec="milliseconds")
