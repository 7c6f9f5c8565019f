"""Jobs at the cutter: what was decided and sent, kept before it is sent; and what each film really took off the shelf."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from gladstack.core.base.errors import GladStackError
from gladstack.shop.cut.cutting import CutRun, SheetCut
from gladstack.shop.shelf.stock import Gain, Use
from gladstack.store.database import Database, now
from gladstack.store.designs import StaleRevisionError
from gladstack.store.records import CURRENT
from gladstack.store.shelf import take


class CuttingError(GladStackError):
    """What is asked for does not go with how far the cutting is."""

    code = "cutting"


class OutOfFilmError(CuttingError):
    """The shelf has no film for a sheet."""


@dataclass(frozen=True)
class KeptRun:
    """A job's run at the cutter, under the number of its cut."""

    cut: int
    job: str
    name: str
    run: CutRun
    finished: bool


class CutBook:
    """All runs of one database."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def find(self, job: str) -> KeptRun | None:
        """The run that a job is at, or was last cut by, if it has one."""
        with self._database.read() as db:
            return _find(db, "r.job = ? AND c.undone IS NULL AND c.ended IS NULL AND c.closed IS NULL", job)

    def busy(self) -> KeptRun | None:
        """The run whose film is in the cutter."""
        with self._database.read() as db:
            rows = db.execute(
                f"{_RUNS} WHERE c.undone IS NULL AND c.ended IS NULL AND c.finished IS NULL ORDER BY r.cut"
            ).fetchall()
        return next((kept for kept in map(_kept, rows) if kept.run.loaded is not None), None)

    def begin(self, job: str, base: int, run: CutRun, sheets: Sequence[SheetCut]) -> KeptRun:
        """Begins to cut a job. Raises CuttingError if it is cut or begun already, StaleRevisionError."""
        with self._database.write() as db:
            head = db.execute("SELECT head FROM jobs WHERE id = ?", (job,)).fetchone()
            if head is None or head[0] != base:
                raise StaleRevisionError("This job was changed in another window.", "Look at it again, then cut it.")
            if db.execute(f"SELECT 1 FROM cuts WHERE job = ? AND {CURRENT}", (job,)).fetchone():
                raise CuttingError("This job is cut, or being cut, already.", "Go on with it as it is.")
            row = db.execute("INSERT INTO cuts (job, revision, created) VALUES (?, ?, ?)", (job, base, now()))
            cut = int(row.lastrowid or 0)
            db.execute("INSERT INTO cut_runs (cut, job, body) VALUES (?, ?, ?)", (cut, job, run.model_dump_json()))
            db.executemany(
                "INSERT INTO cut_sheets (cut, number, body) VALUES (?, ?, ?)",
                [(cut, s.number, s.model_dump_json()) for s in sheets],
            )
        found = self.find(job)
        assert found is not None
        return found

    def sheet(self, cut: int, number: int) -> SheetCut:
        """A sheet as it was planned. Raises CuttingError."""
        with self._database.read() as db:
            row = db.execute("SELECT body FROM cut_sheets WHERE cut = ? AND number = ?", (cut, number)).fetchone()
        if row is None:
            raise CuttingError(f"There is no sheet {number} in this job.", "Choose one from the list.")
        return SheetCut.model_validate(json.loads(row[0]))

    def sheets(self, cut: int) -> list[SheetCut]:
        """All sheets as they were planned."""
        with self._database.read() as db:
            rows = db.execute("SELECT body FROM cut_sheets WHERE cut = ? ORDER BY number", (cut,)).fetchall()
        return [SheetCut.model_validate(json.loads(body)) for (body,) in rows]

    def log(self, film: str) -> list[dict[str, Any]]:
        """What the cutter did to a film that was taken out."""
        with self._database.read() as db:
            row = db.execute("SELECT body FROM cut_logs WHERE film = ?", (film,)).fetchone()
        found: list[dict[str, Any]] = json.loads(row[0]) if row else []
        return found

    def take_out(
        self, kept: KeptRun, run: CutRun, film: str, log: Sequence[Mapping[str, Any]], uses: Sequence[Use],
        gains: Sequence[Gain],
    ) -> KeptRun:  # fmt: skip
        """A film is done with: what was cut of it is kept, what it took goes off the shelf.

        A run that is done finishes its job.
        """
        with self._database.write() as db:
            take(db, kept.cut, uses, gains, kept.name)
            db.execute("INSERT OR REPLACE INTO cut_logs (film, body) VALUES (?, ?)", (film, json.dumps(list(log))))
            return _saved(db, kept, run)

    def save(self, kept: KeptRun, run: CutRun) -> KeptRun:
        """Keeps what was decided."""
        with self._database.write() as db:
            return _saved(db, kept, run)

    def end(self, kept: KeptRun) -> None:
        """Ends a run before it is done: what it has used stays used, and the job can be laid anew. Raises CuttingError."""
        if kept.run.loaded is not None:
            raise CuttingError("There is film of this job in the cutter.", "Take it out first.")
        with self._database.write() as db:
            db.execute("UPDATE cuts SET ended = ? WHERE id = ? AND finished IS NULL", (now(), kept.cut))


def _saved(db: sqlite3.Connection, kept: KeptRun, run: CutRun) -> KeptRun:
    db.execute("UPDATE cut_runs SET body = ? WHERE cut = ?", (run.model_dump_json(), kept.cut))
    if run.done:
        db.execute("UPDATE cuts SET finished = coalesce(finished, ?) WHERE id = ?", (now(), kept.cut))
    return KeptRun(kept.cut, kept.job, kept.name, run, run.done)


_RUNS = (
    "SELECT r.cut, r.job, json_extract(v.body, '$.name'), r.body, c.finished FROM cut_runs r JOIN cuts c ON c.id = r.cut"
    " JOIN job_revisions v ON v.id = c.revision"
)


def _find(db: sqlite3.Connection, where: str, *values: object) -> KeptRun | None:
    row = db.execute(f"{_RUNS} WHERE {where} ORDER BY r.cut DESC LIMIT 1", values).fetchone()
    return _kept(row) if row else None


def _kept(row: tuple[int, str, str, str, str | None]) -> KeptRun:
    cut, job, name, body, finished = row
    return KeptRun(cut, job, name, CutRun.model_validate_json(body), finished is not None)
