"""The list of designs: their names, tags and small pictures, and the bin."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from gladstack.store.database import Database, now
from gladstack.store.refs import ref_of
from gladstack.store.revisions import UnknownDesignError

BIN_DAYS = 30
"""Designs stay so long in the bin."""
BIN_STARTS = 3
"""And over starts of the app on so many days."""
LOOKS_KEPT = 60
"""So many small pictures of a design are kept, the last; an older one is made again where it is looked at."""


@dataclass(frozen=True)
class VersionLine:
    """A version of a design, under the name that stands for it wherever a design is named."""

    id: str
    name: str


@dataclass(frozen=True)
class Look:
    """A small picture of a design, and what is told of it beside that: how many films it has, and how large it is."""

    png: bytes
    films: int | None = None
    width_mm: float | None = None
    height_mm: float | None = None


@dataclass(frozen=True)
class DesignLine:
    """A design in the list; `binned` is when it went into the bin, `ground` the colour of what is decorated.

    How many films it has and how large it is are known once its small picture was made.
    """

    id: str
    name: str
    changed: str
    revision: int
    tags: tuple[str, ...] = ()
    binned: str | None = None
    ground: str = "#fbfaf7"
    versions: tuple[VersionLine, ...] = ()
    films: int | None = None
    width_mm: float | None = None
    height_mm: float | None = None
    unit: str = "mm"


class Listing:
    """The list of all designs in one database."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def lines(self) -> list[DesignLine]:
        """All designs that are not in the bin, the last changed first."""
        return self._lines("d.binned IS NULL")

    def binned(self) -> list[DesignLine]:
        """All designs in the bin, the last changed first."""
        return self._lines("d.binned IS NOT NULL")

    def bin(self, design: str) -> None:
        """Puts a design into the bin. Raises UnknownDesignError."""
        self._set(design, "binned", now())

    def restore(self, design: str) -> None:
        """Takes a design out of the bin. Raises UnknownDesignError."""
        self._set(design, "binned", None)

    def tag(self, design: str, tags: Sequence[str]) -> None:
        """Gives a design these tags. Raises UnknownDesignError."""
        self._set(design, "tags", json.dumps(list(dict.fromkeys(tags)), ensure_ascii=False))

    def empty(self, today: datetime | None = None) -> int:
        """Deletes for good what has been in the bin for 30 days, but for what a job is made of; how many.

        The app must also have been begun on several days since: a clock that was set wrong once empties nothing.
        """
        time = today or datetime.now(UTC)
        limit = (time - timedelta(days=BIN_DAYS)).isoformat(timespec="milliseconds")
        with self._database.write() as db:
            db.execute("INSERT OR IGNORE INTO days VALUES (?)", (time.date().isoformat(),))
            rows = db.execute(
                "SELECT id FROM designs WHERE binned < ?"
                " AND (SELECT count(*) FROM days WHERE day > substr(binned, 1, 10)) >= ?",
                (limit, BIN_STARTS),
            ).fetchall()
            gone = [design for (design,) in rows if not _in_a_job(db, design)]
            for design in gone:
                _delete(db, design)
        return len(gone)

    def look(self, revision: int) -> bytes | None:
        """The small picture of a revision, if it was made."""
        with self._database.read() as db:
            row = db.execute("SELECT png FROM looks WHERE revision = ?", (revision,)).fetchone()
        return bytes(row[0]) if row else None

    def keep_look(self, revision: int, look: Look) -> None:
        """Keeps the small picture of a revision, and lets go of old ones; of one that is gone by now nothing is kept."""
        with self._database.write() as db:
            db.execute(
                "INSERT OR IGNORE INTO looks (revision, png, films, width_mm, height_mm)"
                " SELECT id, ?, ?, ?, ? FROM revisions WHERE id = ?",
                (look.png, look.films, look.width_mm, look.height_mm, revision),
            )
            db.execute(
                "DELETE FROM looks WHERE revision IN (SELECT l.revision FROM looks l JOIN revisions r ON r.id = l.revision"
                " JOIN designs d ON d.id = r.design WHERE r.id <> d.head"
                " AND r.design = (SELECT design FROM revisions WHERE id = ?) ORDER BY r.id DESC LIMIT -1 OFFSET ?)",
                (revision, LOOKS_KEPT - 1),
            )

    def _lines(self, where: str) -> list[DesignLine]:
        with self._database.read() as db:
            rows = db.execute(
                "SELECT d.id, json_extract(r.recipe, '$.name'), r.created, r.id, d.tags, d.binned,"
                " coalesce(json_extract(r.recipe, '$.ground.colour'), '#fbfaf7'),"
                " coalesce(json_extract(r.recipe, '$.versions'), '[]'), l.films, l.width_mm, l.height_mm,"
                " coalesce(json_extract(r.recipe, '$.unit'), 'mm')"
                " FROM designs d JOIN revisions r ON r.id = d.head LEFT JOIN looks l ON l.revision = r.id"
                f" WHERE {where}"
                " ORDER BY (SELECT max(id) FROM revisions WHERE design = d.id) DESC"
            ).fetchall()
        return [
            DesignLine(i, n, at, head, tuple(json.loads(tags)), b, g, _versions(i, versions), *figures)
            for i, n, at, head, tags, b, g, versions, *figures in rows
        ]

    def _set(self, design: str, column: str, value: str | None) -> None:
        with self._database.write() as db:
            if db.execute(f"UPDATE designs SET {column} = ? WHERE id = ?", (value, design)).rowcount == 0:
                raise UnknownDesignError("There is no such design.", "Open one from the list of designs.")


def _versions(design: str, told: str) -> tuple[VersionLine, ...]:
    return tuple(VersionLine(ref_of(design, one["id"]), str(one["name"])) for one in json.loads(told))


def _in_a_job(db: sqlite3.Connection, design: str) -> bool:
    """Whether a job is made of it. Its own sheets go with it, unless they were cut: then film was used for them."""
    named = (
        "SELECT 1 FROM job_revisions r JOIN jobs j ON j.id = r.job, json_each(r.body, '$.designs') d"
        " WHERE j.own_of IS NULL AND ? IN (json_extract(d.value, '$.design'), json_extract(d.value, '$.of'),"
        " substr(json_extract(d.value, '$.design'), 1, instr(json_extract(d.value, '$.design'), '~') - 1),"
        " substr(json_extract(d.value, '$.of'), 1, instr(json_extract(d.value, '$.of'), '~') - 1)) LIMIT 1"
    )
    cut = "SELECT 1 FROM cuts c JOIN jobs j ON j.id = c.job WHERE j.own_of = ? LIMIT 1"
    return any(db.execute(*asked).fetchone() for asked in ((named, (design,)), (cut, (design,))))


def _delete(db: sqlite3.Connection, design: str) -> None:
    """Forgets a design whole; pictures and files that nothing uses any more are swept when the app starts."""
    for (job,) in db.execute("SELECT id FROM jobs WHERE own_of = ?", (design,)).fetchall():
        db.execute("UPDATE jobs SET head = NULL WHERE id = ?", (job,))
        db.execute("UPDATE job_revisions SET parent = NULL, redo = NULL WHERE job = ?", (job,))
        db.execute("DELETE FROM job_revisions WHERE job = ?", (job,))
        db.execute("DELETE FROM jobs WHERE id = ?", (job,))
    db.execute("UPDATE designs SET head = NULL WHERE id = ?", (design,))
    own = "(SELECT id FROM revisions WHERE design = ?)"
    db.execute(f"DELETE FROM redo_links WHERE revision IN {own} OR child IN {own}", (design, design))
    for table in ("looks", "revision_pictures", "revision_files"):
        db.execute(f"DELETE FROM {table} WHERE revision IN {own}", (design,))
    # Each revision leans on the one before it, which has the smaller number.
    for (revision,) in db.execute("SELECT id FROM revisions WHERE design = ? ORDER BY id DESC", (design,)).fetchall():
        db.execute("DELETE FROM revisions WHERE id = ?", (revision,))
    db.execute("DELETE FROM designs WHERE id = ?", (design,))
