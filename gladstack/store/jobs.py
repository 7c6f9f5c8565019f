"""Jobs as chains of immutable revisions, like designs; and what cutting them does to the shelf."""

from __future__ import annotations

import secrets
import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass

from gladstack.core.base.errors import GladStackError
from gladstack.recipe.model.faults import said_of_what_was_asked
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.jobs.job import Job
from gladstack.shop.shelf.stock import Gain, Use
from gladstack.store import line, refs
from gladstack.store.database import Database, now
from gladstack.store.designs import StaleRevisionError
from gladstack.store.records import CURRENT, CutRecord, job_of_record, records_of
from gladstack.store.shelf import put_back, take


class UnknownJobError(GladStackError):
    """No job has this id."""

    code = "unknown-job"


class NothingMoreError(GladStackError):
    """Nothing of a job is left to cut."""

    code = "nothing-more"


@dataclass(frozen=True)
class KeptJob:
    """A job as it stands. `cut` is when it was cut, under the number `cut_id` (None: not, or that was undone).

    A job at the cutter has a `cut_id` and is not yet `cut`. The own sheets of a design or version are the job `own_of` that;
    what `undoes` and `redoes` say of them may be a step of the design. `more` is how many decals it has more than were cut.
    """

    id: str
    revision: int
    job: Job
    undoes: str | None
    redoes: str | None
    cut: str | None
    cut_id: int | None
    own_of: str | None
    more: int = 0


@dataclass(frozen=True)
class JobLine:
    """A job in a list; `own_of` is the design whose own sheets it is, `whom` it is for and the day it is `due`."""

    id: str
    name: str
    changed: str
    designs: int
    copies: int
    cut: bool
    own_of: str | None = None
    whom: str = ""
    due: str | None = None


class JobBook:
    """All jobs of one database."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def create(
        self, job: Job, *, id_: str | None = None, own_of: str | None = None, label: str = "Began the job"
    ) -> KeptJob:
        """A new job; `own_of` is the design whose own sheets it is. Raises StoreError where that has some."""
        name = id_ or secrets.token_urlsafe(9)
        with self._database.write() as db:
            db.execute(
                "INSERT INTO jobs (id, created, head, own_of, own_version) VALUES (?, ?, NULL, ?, ?)",
                (name, now(), *(refs.own_of(own_of) if own_of is not None else (None, ""))),
            )
            append_job(db, name, None, job, label)
        return self.get(name)

    def has(self, job: str) -> bool:
        """Whether a job with this id exists."""
        with self._database.read() as db:
            return db.execute("SELECT 1 FROM jobs WHERE id = ?", (job,)).fetchone() is not None

    def own(self, design: str) -> KeptJob | None:
        """The job of a design's own sheets, if it was begun."""
        with self._database.read() as db:
            found = db.execute("SELECT id FROM jobs WHERE (own_of, own_version) = (?, ?)", refs.own_of(design)).fetchone()
            return _kept(db, found[0]) if found else None

    def get(self, job: str) -> KeptJob:
        """A job as it stands. Raises UnknownJobError."""
        with self._database.read() as db:
            return _kept(db, job)

    def lines(self, words: Sequence[str] = (), most: int = 50) -> tuple[list[JobLine], int]:
        """Jobs in whose names, or in what is said of whom they are for, all of some words stand, the last changed first; and
        how many there are in all.

        A design's own sheets are among them once it is said for whom or when they are wanted, or they were cut.
        """
        with self._database.read() as db:
            named = db.execute(
                "SELECT j.id, json_extract(r.body, '$.name') || ' ' || coalesce(json_extract(r.body, '$.order.whom'), '')"
                " || ' ' || coalesce(json_extract(r.body, '$.order.note'), '')"
                " || ' ' || coalesce(json_extract(r.body, '$.order.due'), '')"
                " FROM jobs j JOIN job_revisions r ON r.id = j.head"
                " LEFT JOIN designs d ON d.id = j.own_of"
                " WHERE d.binned IS NULL AND (j.own_of IS NULL OR coalesce(json_extract(r.body, '$.order.whom'), '') <> ''"
                " OR coalesce(json_extract(r.body, '$.order.note'), '') <> ''"
                " OR json_extract(r.body, '$.order.due') IS NOT NULL"
                " OR EXISTS (SELECT 1 FROM cuts c WHERE c.job = j.id AND c.undone IS NULL AND c.finished IS NOT NULL))"
                " ORDER BY (SELECT max(id) FROM job_revisions WHERE job = j.id) DESC"
            ).fetchall()
            wanted = [id_ for id_, said in named if all(word.casefold() in str(said).casefold() for word in words)]
            shown = wanted[:most]
            rows = db.execute(
                "SELECT j.id, json_extract(r.body, '$.name'), r.created, json_array_length(r.body, '$.designs'),"
                " (SELECT sum(json_extract(d.value, '$.copies')) FROM json_each(r.body, '$.designs') d),"
                " EXISTS (SELECT 1 FROM cuts c WHERE c.job = j.id AND c.undone IS NULL AND c.finished IS NOT NULL),"
                " j.own_of, j.own_version, coalesce(json_extract(r.body, '$.order.whom'), ''),"
                " json_extract(r.body, '$.order.due')"
                f" FROM jobs j JOIN job_revisions r ON r.id = j.head WHERE j.id IN ({', '.join('?' * len(shown))})",
                shown,
            ).fetchall()
        found = {
            i: JobLine(i, name, changed, designs, copies or designs, bool(cut), of and refs.ref_of(of, version), whom, due)
            for i, name, changed, designs, copies, cut, of, version, whom, due in rows
        }
        return [found[id_] for id_ in shown], len(wanted)

    def edit(self, job: str, base: int, edit: JobEdit) -> KeptJob:
        """Applies an edit made on revision `base`. Raises StaleRevisionError, and what the edit raises."""
        with self._database.write() as db:
            kept = _expect(db, job, base)
            _not_at_the_cutter(kept)
            with said_of_what_was_asked():
                changed = edit.apply(kept.job)
            if changed != kept.job:
                append_job(db, job, kept.revision, changed, edit.describe(kept.job))
        return self.get(job)

    def undo(self, job: str, base: int) -> KeptJob:
        """One step back, of a design's own sheets or the design itself; does nothing at the first.

        Raises StaleRevisionError, AtCutterError.
        """
        with self._database.write() as db:
            kept = _expect(db, job, base)
            _not_at_the_cutter(kept)
            if kept.own_of is not None:
                if step := line.last_done(db, kept.own_of):
                    line.take_back(db, kept.own_of, step)
                return _kept(db, job)
            (parent,) = db.execute("SELECT parent FROM job_revisions WHERE id = ?", (base,)).fetchone()
            if parent is not None:
                db.execute("UPDATE job_revisions SET redo = ? WHERE id = ?", (base, parent))
                db.execute("UPDATE jobs SET head = ? WHERE id = ?", (parent, job))
            return _kept(db, job)

    def redo(self, job: str, base: int) -> KeptJob:
        """One step forward, to what was last left; does nothing if there is none. Raises as `undo` does."""
        with self._database.write() as db:
            kept = _expect(db, job, base)
            _not_at_the_cutter(kept)
            if kept.own_of is not None:
                if step := line.first_left(db, kept.own_of):
                    line.make_again(db, kept.own_of, step)
                return _kept(db, job)
            (child,) = db.execute("SELECT redo FROM job_revisions WHERE id = ?", (base,)).fetchone()
            if child is not None:
                db.execute("UPDATE jobs SET head = ? WHERE id = ?", (child, job))
            return _kept(db, job)

    def mark_cut(self, job: str, base: int, uses: Sequence[Use], gains: Sequence[Gain]) -> KeptJob:
        """Says that a job was cut: the shelf is counted down, offcuts come in. Raises StaleRevisionError, StockError."""
        with self._database.write() as db:
            kept = _expect(db, job, base)
            _not_at_the_cutter(kept)
            if kept.cut is None:
                row = db.execute(
                    "INSERT INTO cuts (job, revision, created, finished) VALUES (?, ?, ?, ?)",
                    (job, kept.revision, now(), now()),
                )
                take(db, int(row.lastrowid or 0), uses, gains, kept.job.name)
        return self.get(job)

    def unmark_cut(self, job: str, base: int) -> KeptJob:
        """Undoes that: the shelf is as it was before. Raises StaleRevisionError, StockError."""
        with self._database.write() as db:
            kept = _expect(db, job, base)
            _not_at_the_cutter(kept)
            found = db.execute(f"SELECT id FROM cuts WHERE job = ? AND {CURRENT}", (job,)).fetchone()
            if found is not None:
                put_back(db, int(found[0]), f"{kept.job.name}, undone")
                db.execute("UPDATE cuts SET undone = ? WHERE id = ?", (now(), found[0]))
        return self.get(job)

    def records(self, job: str) -> list[CutRecord]:
        """What was cut of a job, the last first."""
        with self._database.read() as db:
            return records_of(db, job)

    def again(self, job: str, base: int, *, rest: bool = False, record: int | None = None) -> KeptJob:
        """Makes a job that was cut ready to be cut again: as it is, as it was under a `record`, or just the `rest` that was
        added since. What was cut stays a record, and its film stays used. Raises StaleRevisionError, NothingMoreError.
        """
        with self._database.write() as db:
            kept = _expect(db, job, base)
            _not_at_the_cutter(kept)
            wanted, label = kept.job, ""
            if record is not None:
                found = job_of_record(db, job, record)
                if found is None:
                    raise NothingMoreError("There is no such record of this job.", "Choose one from the list.")
                wanted, label = found, "Repeated what was cut"
            elif rest:
                left = missing(kept.job, job_of_record(db, job, kept.cut_id or 0))
                if not left:
                    raise NothingMoreError("All of this job is cut.", "Cut it again as a whole, or add copies.")
                designs = tuple(changed(d, copies=left[d.design]) for d in kept.job.designs if d.design in left)
                films = tuple(f for f in kept.job.films if f.design in left or f.design in {d.of for d in designs})
                laid = tuple(p for p in kept.job.laid if p.pinned and p.design in left)
                wanted, label = changed(kept.job, designs=designs, films=films, laid=laid), f"Cut {sum(left.values())} more"
            db.execute(f"UPDATE cuts SET closed = ? WHERE job = ? AND {CURRENT}", (now(), job))
            if wanted != kept.job:
                append_job(db, job, kept.revision, wanted, label)
        return self.get(job)


def _kept(db: sqlite3.Connection, job: str) -> KeptJob:
    row = db.execute(
        "SELECT r.id, r.body, j.own_of, j.own_version, CASE WHEN r.parent IS NOT NULL THEN r.label END,"
        " (SELECT label FROM job_revisions WHERE id = r.redo)"
        " FROM jobs j JOIN job_revisions r ON r.id = j.head WHERE j.id = ?",
        (job,),
    ).fetchone()
    if row is None:
        raise UnknownJobError("There is no such job.", "Open one from the list of jobs.")
    cut = db.execute(f"SELECT finished, id FROM cuts WHERE job = ? AND {CURRENT}", (job,)).fetchone()
    when, number = cut or (None, None)
    revision, body, own_of, version, undoes, redoes = row
    if own_of is not None:
        own_of = refs.ref_of(own_of, version)
        back, ahead = line.last_done(db, own_of), line.first_left(db, own_of)
        undoes, redoes = line.label_of(back), line.label_of(ahead)
    now_wanted = Job.model_validate_json(body)
    more = sum(missing(now_wanted, job_of_record(db, job, int(number))).values()) if number and when else 0
    return KeptJob(job, int(revision), now_wanted, undoes, redoes, when, number, own_of, more)


def missing(job: Job, cut: Job | None) -> dict[str, int]:
    """How many copies of each design a job has more than were cut of it."""
    made: dict[str, int] = {d.design: d.copies for d in cut.designs} if cut else {}
    more: dict[str, int] = {d.design: d.copies - made.get(d.design, 0) for d in job.designs}
    return {design: count for design, count in more.items() if count > 0}


def _not_at_the_cutter(kept: KeptJob) -> None:
    line.refuse_at_cutter(kept.cut_id, kept.cut)


def _expect(db: sqlite3.Connection, job: str, base: int) -> KeptJob:
    kept = _kept(db, job)
    if kept.revision != base:
        raise StaleRevisionError(
            "This job was changed in another window since you last saw it.",
            "It has been brought up to date here; make your change again.",
        )
    return kept


def append_job(db: sqlite3.Connection, name: str, parent: int | None, job: Job, label: str) -> None:
    """A new state of a job, within a transaction."""
    row = db.execute(
        "INSERT INTO job_revisions (job, parent, redo, body, label, created) VALUES (?, ?, NULL, ?, ?, ?)",
        (name, parent, job.model_dump_json(), label, now()),
    )
    if parent is not None:
        db.execute("UPDATE job_revisions SET redo = NULL WHERE id = ?", (parent,))
        own = db.execute("SELECT own_of FROM jobs WHERE id = ?", (name,)).fetchone()[0]
        if own is not None:
            line.forget_left(db, own)
    db.execute("UPDATE jobs SET head = ? WHERE id = ?", (row.lastrowid, name))
