"""One SQLite file, one way to open it: WAL, foreign keys on, a short wait for locks, numbered migrations.

Every use opens a connection of its own; a write runs in one immediate transaction that is rolled back whole on any error.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from importlib import resources
from pathlib import Path

_LOCK_WAIT_S = 10.0


class Database:
    """The file at `path`, brought to the newest migration when it is first opened."""

    def __init__(self, path: Path) -> None:
        self.path = path
        path.parent.mkdir(parents=True, exist_ok=True)
        with self._open() as connection:
            connection.execute("PRAGMA journal_mode = WAL")
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
            except BaseException:
                connection.execute("ROLLBACK")
                raise
            connection.execute("COMMIT")

    @contextmanager
    def _open(self) -> Iterator[sqlite3.Connection]:
        connection = sqlite3.connect(self.path, timeout=_LOCK_WAIT_S, isolation_level=None)
        try:
            connection.execute("PRAGMA foreign_keys = ON")
            connection.execute("PRAGMA synchronous = NORMAL")
            yield connection
        finally:
            connection.close()


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


def _statements(text: str) -> Iterator[str]:
    """Single statements: `executescript` would commit the open transaction."""
    statement = ""
    for line in text.splitlines(keepends=True):
        statement += line
        if sqlite3.complete_statement(statement):
            yield statement
            statement = ""
