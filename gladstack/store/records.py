"""What was cut of a job, time after time: records that stay as they are, whatever becomes of the job."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import dataclass

from gladstack.shop.jobs.job import Job

CURRENT = "undone IS NULL AND ended IS NULL AND closed IS NULL"
"""The cut that a job is at, or was last brought to its end by; what is closed is a record alone."""


@dataclass(frozen=True)
class FilmUsed:
    """How much of a material a cut took: mm off rolls, and whole sheets and offcuts."""

    material: str
    rolls_mm: float
    pieces: float


@dataclass(frozen=True)
class CutRecord:
    """One cut: when it began and ended, of which designs how many copies, and what film it took.

    `whole` tells whether it was brought to its end.
    """

    id: int
    began: str
    ended: str
    whole: bool
    copies: tuple[tuple[str, str, int], ...]
    films: tuple[FilmUsed, ...]


def records_of(db: sqlite3.Connection, job: str) -> list[CutRecord]:
    """All cuts of a job that were not undone, the last first."""
    rows = db.execute(
        "SELECT c.id, c.created, coalesce(c.finished, c.ended), c.finished IS NOT NULL, r.body FROM cuts c"
        " JOIN job_revisions r ON r.id = c.revision"
        " WHERE c.job = ? AND c.undone IS NULL AND (c.finished IS NOT NULL OR c.ended IS NOT NULL) ORDER BY c.id DESC",
        (job,),
    ).fetchall()
    return [
        CutRecord(int(id_), began, ended, bool(whole), _copies(body), tuple(_films(db, id_)))
        for id_, began, ended, whole, body in rows
    ]


def job_of_record(db: sqlite3.Connection, job: str, record: int) -> Job | None:
    """The job as it was when it was cut under a number; None if it was not."""
    row = db.execute(
        "SELECT r.body FROM cuts c JOIN job_revisions r ON r.id = c.revision WHERE c.id = ? AND c.job = ?", (record, job)
    ).fetchone()
    return Job.model_validate_json(row[0]) if row else None


def _copies(body: str) -> tuple[tuple[str, str, int], ...]:
    return tuple((d["design"], d["name"], int(d.get("copies", 1))) for d in json.loads(body)["designs"])


def _films(db: sqlite3.Connection, cut: int) -> list[FilmUsed]:
    rows = db.execute(
        "SELECT json_extract(m.body, '$.name'), -coalesce(sum(CASE WHEN p.kind = 'roll' THEN l.change END), 0),"
        " -coalesce(sum(CASE WHEN p.kind <> 'roll' THEN l.change END), 0)"
        " FROM ledger l JOIN pieces p ON p.id = l.piece JOIN materials m ON m.id = p.material"
        " WHERE l.cut = ? AND l.change < 0 GROUP BY m.id ORDER BY 1",
        (cut,),
    ).fetchall()
    return [FilmUsed(name, float(rolls), float(pieces)) for name, rolls, pieces in rows]
