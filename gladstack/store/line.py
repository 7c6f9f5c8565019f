"""One line of time over a design and its own sheets: what was done last is taken back first, whichever of them it changed.

Each has a chain of revisions of its own. Undo takes back the later of the two that stand at the heads, redo makes again the
earlier of the two that were left, and whatever is done anew forgets what was left of both. Each version of a design has
sheets of its own; the design is one.
"""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from typing import Literal

from gladstack.core.base.errors import GladStackError
from gladstack.store.refs import own_of, parts_of

Whose = Literal["design", "sheets"]
_OWN = "(own_of, own_version) = (?, ?)"


class AtCutterError(GladStackError):
    """A job that is being cut cannot be changed."""

    code = "at-the-cutter"


@dataclass(frozen=True)
class Step:
    """Something that was done: to a design or its sheets, the revision before it, and the one it led to."""

    whose: Whose
    before: int
    revision: int
    label: str
    created: str

    @property
    def order(self) -> tuple[str, bool]:
        """When: sheets follow the design where both were changed in the same moment."""
        return (self.created, self.whose == "sheets")


def last_done(db: sqlite3.Connection, design: str) -> Step | None:
    """What undo would take back."""
    heads = [
        *_steps(db, "design", "SELECT r.* FROM designs o JOIN {} r ON r.id = o.head WHERE o.id = ?", design),
        *_steps(db, "sheets", f"SELECT r.* FROM jobs o JOIN {{}} r ON r.id = o.head WHERE {_OWN}", design),
    ]
    return max(heads, key=lambda step: step.order, default=None)


def first_left(db: sqlite3.Connection, design: str) -> Step | None:
    """What redo would make again."""
    left = [
        *_steps(
            db, "design",
            "SELECT r.* FROM designs o JOIN redo_links k ON k.revision = o.head JOIN {} r ON r.id = k.child WHERE o.id = ?",
            design,
        ),
        *_steps(
            db, "sheets",
            f"SELECT r.* FROM jobs o JOIN job_revisions h ON h.id = o.head JOIN {{}} r ON r.id = h.redo WHERE {_OWN}",
            design,
        ),
    ]  # fmt: skip
    return min(left, key=lambda step: step.order, default=None)


def label_of(step: Step | None) -> str | None:
    """What a step is called, if there is one."""
    return step.label if step else None


def done(db: sqlite3.Connection, design: str) -> list[Step]:
    """All that undo could take back, the oldest first; `design` may name a version."""
    chain = (
        "WITH RECURSIVE line (id) AS (SELECT head FROM {owners} WHERE {which}"
        " UNION ALL SELECT r.parent FROM {{0}} r JOIN line l ON r.id = l.id WHERE r.parent IS NOT NULL)"
        " SELECT r.* FROM {{0}} r JOIN line l ON r.id = l.id"
    )
    return _sorted(db, design, chain.format(owners="designs", which="id = ?"), chain.format(owners="jobs", which=_OWN))


def left(db: sqlite3.Connection, design: str) -> list[Step]:
    """All that redo could make again, in order."""
    return _sorted(
        db,
        design,
        "WITH RECURSIVE line (id) AS (SELECT k.child FROM designs o JOIN redo_links k ON k.revision = o.head WHERE o.id = ?"
        " UNION ALL SELECT k.child FROM redo_links k JOIN line l ON k.revision = l.id)"
        " SELECT r.* FROM {0} r JOIN line l ON r.id = l.id",
        f"WITH RECURSIVE line (id) AS (SELECT h.redo FROM jobs o JOIN {{0}} h ON h.id = o.head WHERE {_OWN}"
        " UNION ALL SELECT r.redo FROM {0} r JOIN line l ON r.id = l.id WHERE r.redo IS NOT NULL)"
        " SELECT r.* FROM {0} r JOIN line l ON r.id = l.id",
    )


def take_back(db: sqlite3.Connection, design: str, step: Step) -> None:
    """Undoes what was done last. Raises AtCutterError if that would change sheets that are being cut."""
    if step.whose == "design":
        link_redo(db, step.before, step.revision)
    else:
        _refuse_at_cutter(db, design)
        db.execute("UPDATE job_revisions SET redo = ? WHERE id = ?", (step.revision, step.before))
    _move(db, design, step.whose, step.before)


def make_again(db: sqlite3.Connection, design: str, step: Step) -> None:
    """Redoes what was left first. Raises AtCutterError if that would change sheets that are being cut."""
    if step.whose == "sheets":
        _refuse_at_cutter(db, design)
    _move(db, design, step.whose, step.revision)


def forget_left(db: sqlite3.Connection, design: str) -> None:
    """What was left is no longer ahead of what is done now, in the design and its sheets alike."""
    motif, _ = parts_of(design)
    db.execute("DELETE FROM redo_links WHERE revision = (SELECT head FROM designs WHERE id = ?)", (motif,))
    db.execute("UPDATE job_revisions SET redo = NULL WHERE id IN (SELECT head FROM jobs WHERE own_of = ?)", (motif,))


def link_redo(db: sqlite3.Connection, revision: int, child: int) -> None:
    """Says which revision redo leads to from another."""
    db.execute(
        "INSERT INTO redo_links (revision, child) VALUES (?, ?) ON CONFLICT (revision) DO UPDATE SET child = excluded.child",
        (revision, child),
    )


def refuse_at_cutter(cut_id: int | None, finished: str | None) -> None:
    """Raises AtCutterError for a job that is being cut."""
    if cut_id is not None and finished is None:
        raise AtCutterError(
            "This job is at the cutter, and stays as it is until then.", "Finish cutting it, or end that first."
        )


def _refuse_at_cutter(db: sqlite3.Connection, design: str) -> None:
    row = db.execute(
        "SELECT c.id, c.finished FROM cuts c JOIN jobs j ON j.id = c.job"
        f" WHERE {_OWN} AND c.undone IS NULL AND c.ended IS NULL AND c.closed IS NULL",
        own_of(design),
    ).fetchone()
    refuse_at_cutter(*(row or (None, None)))


def _move(db: sqlite3.Connection, design: str, whose: Whose, revision: int) -> None:
    if whose == "design":
        db.execute("UPDATE designs SET head = ? WHERE id = ?", (revision, parts_of(design)[0]))
    else:
        db.execute(f"UPDATE jobs SET head = ? WHERE {_OWN}", (revision, *own_of(design)))


def _sorted(db: sqlite3.Connection, design: str, of_design: str, of_sheets: str) -> list[Step]:
    steps = [*_steps(db, "design", of_design, design), *_steps(db, "sheets", of_sheets, design)]
    return sorted(steps, key=lambda step: step.order)


_TABLES: dict[Whose, str] = {"design": "revisions", "sheets": "job_revisions"}


def _steps(db: sqlite3.Connection, whose: Whose, rows: str, design: str) -> list[Step]:
    """The rows of a query over a table of revisions as steps; the first revision of a chain was not done, it is there."""
    found = db.execute(
        f"SELECT id, parent, label, created FROM ({rows.format(_TABLES[whose])}) WHERE parent IS NOT NULL ORDER BY id",
        (parts_of(design)[0],) if whose == "design" else own_of(design),
    )
    return [Step(whose, parent, id_, label, created) for id_, parent, label, created in found]
