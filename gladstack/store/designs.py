"""Designs as chains of immutable revisions: editing, undo, redo, history, and refusing to overwrite unseen work."""

from __future__ import annotations

import hashlib
import secrets
import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from pydantic import TypeAdapter

from gladstack.core.base.errors import GladStackError, RecipeError
from gladstack.recipe.edit.edits import Edit, apply_edit
from gladstack.recipe.model.recipe import Recipe
from gladstack.store.database import Database, now

_EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)


class UnknownDesignError(GladStackError):
    """No design has this id."""

    code = "unknown-design"


class StaleRevisionError(GladStackError):
    """The design was changed elsewhere since this was last seen."""

    code = "stale-revision"


@dataclass(frozen=True)
class Brought:
    """A picture or vector file brought in, not kept yet; pictures have a format and a size in pixels, of files a `page` is
    taken.
    """

    kind: Literal["picture", "file"]
    digest: str
    data: bytes
    filename: str
    format: str = ""
    width_px: int = 0
    height_px: int = 0
    page: int = 1

    @classmethod
    def picture(cls, data: bytes, filename: str, form: str, width_px: int, height_px: int) -> Brought:
        """A picture."""
        return cls("picture", hashlib.sha256(data).hexdigest(), data, filename, form, width_px, height_px)

    @classmethod
    def file(cls, data: bytes, filename: str, page: int = 1) -> Brought:
        """A vector file."""
        return cls("file", hashlib.sha256(data).hexdigest(), data, filename, page=page)


@dataclass(frozen=True)
class Revision:
    """One state of a design: its recipe, and what was done to reach it."""

    id: int
    parent: int | None
    label: str
    created: str
    recipe: Recipe


@dataclass(frozen=True)
class HistoryEntry:
    """A line of the history; `current` is where the design stands, later ones can be redone."""

    revision: int
    label: str
    created: str
    current: bool


@dataclass(frozen=True)
class Design:
    """A design as it stands; `undoes` and `redoes` say what undo and redo would take back and make again, if anything."""

    id: str
    revision: Revision
    undoes: str | None
    redoes: str | None


class DesignBook:
    """All designs in one database."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def sweep(self) -> int:
        """Forgets pictures and vector files that no revision uses, as a crash may leave them; returns how many."""
        with self._database.write() as db:
            gone = db.execute("DELETE FROM pictures WHERE hash NOT IN (SELECT picture FROM revision_pictures)").rowcount
            return gone + db.execute("DELETE FROM files WHERE hash NOT IN (SELECT file FROM revision_files)").rowcount

    def file(self, digest: str) -> bytes:
        """A vector file's bytes. Raises UnknownDesignError."""
        with self._database.read() as db:
            row = db.execute("SELECT data FROM files WHERE hash = ?", (digest,)).fetchone()
        if row is None:
            raise UnknownDesignError("A vector file of this design is missing.", "Bring it in again.")
        return bytes(row[0])

    def picture(self, digest: str) -> bytes:
        """A picture's bytes. Raises UnknownDesignError."""
        with self._database.read() as db:
            row = db.execute("SELECT data FROM pictures WHERE hash = ?", (digest,)).fetchone()
        if row is None:
            raise UnknownDesignError("The picture of this design is missing.", "Bring it in again.")
        return bytes(row[0])

    def pixels(self, digest: str) -> int:
        """How many pixels a picture has; 0 if there is none."""
        with self._database.read() as db:
            row = db.execute("SELECT width_px * height_px FROM pictures WHERE hash = ?", (digest,)).fetchone()
        return int(row[0]) if row else 0

    def size(self, digest: str) -> int:
        """How many bytes a vector file has; 0 if there is none."""
        with self._database.read() as db:
            row = db.execute("SELECT length(data) FROM files WHERE hash = ?", (digest,)).fetchone()
        return int(row[0]) if row else 0

    def picture_format(self, digest: str) -> str:
        """A picture's format, such as PNG. Raises UnknownDesignError."""
        with self._database.read() as db:
            row = db.execute("SELECT format FROM pictures WHERE hash = ?", (digest,)).fetchone()
        if row is None:
            raise UnknownDesignError("The picture of this design is missing.", "Bring it in again.")
        return str(row[0])

    def create(
        self,
        recipe: Recipe,
        *,
        id_: str | None = None,
        label: str = "Brought in the picture",
        brought: Sequence[Brought] = (),
    ) -> Design:
        """A new design whose first revision is `recipe`; what it uses is `brought` along, or kept already."""
        design = id_ or secrets.token_urlsafe(9)
        with self._database.write() as db:
            db.execute("INSERT INTO designs (id, created, head) VALUES (?, ?, NULL)", (design, now()))
            append_revision(db, design, None, recipe, None, label, brought)
        return self.get(design)

    def has(self, design: str) -> bool:
        """Whether a design with this id exists."""
        with self._database.read() as db:
            return db.execute("SELECT 1 FROM designs WHERE id = ?", (design,)).fetchone() is not None

    def get(self, design: str) -> Design:
        """The design as it stands. Raises UnknownDesignError."""
        with self._database.read() as db:
            revision = self._head(db, design)
            child = _redo_child(db, revision.id)
            redoes = None if child is None else _revision(db, design, child).label
            return Design(design, revision, None if revision.parent is None else revision.label, redoes)

    def revision(self, design: str, revision: int) -> Revision:
        """One revision of a design. Raises UnknownDesignError."""
        with self._database.read() as db:
            return _revision(db, design, revision)

    def expect(self, design: str, base: int) -> Revision:
        """The revision `base` of a design. Raises StaleRevisionError if it has moved on."""
        with self._database.read() as db:
            return self._expect(db, design, base)

    def edit(self, design: str, base: int, edit: Edit, brought: Sequence[Brought] = ()) -> Design:
        """Applies an edit made on revision `base`. An edit that changes nothing adds no revision.

        What is `brought` along is kept in the same transaction. Raises StaleRevisionError if the design has moved on,
        RecipeError if the edit contradicts the recipe or names a picture or file that is nowhere.
        """
        with self._database.write() as db:
            head = self._expect(db, design, base)
            recipe = apply_edit(head.recipe, edit)
            if recipe != head.recipe:
                text = _EDIT.dump_json(edit).decode()
                append_revision(db, design, head.id, recipe, text, edit.describe(head.recipe), brought)
        return self.get(design)

    def undo(self, design: str, base: int) -> Design:
        """Goes back one revision; does nothing at the first. Raises StaleRevisionError."""
        with self._database.write() as db:
            head = self._expect(db, design, base)
            if head.parent is not None:
                _link_redo(db, head.parent, head.id)
                db.execute("UPDATE designs SET head = ? WHERE id = ?", (head.parent, design))
        return self.get(design)

    def redo(self, design: str, base: int) -> Design:
        """Goes forward to the revision that was last left; does nothing if there is none. Raises StaleRevisionError."""
        with self._database.write() as db:
            head = self._expect(db, design, base)
            child = _redo_child(db, head.id)
            if child is not None:
                db.execute("UPDATE designs SET head = ? WHERE id = ?", (child, design))
        return self.get(design)

    def go_to(self, design: str, base: int, revision: int) -> Design:
        """Goes to any revision of the history, so that every step between can be redone. Raises StaleRevisionError."""
        with self._database.write() as db:
            head = self._expect(db, design, base)
            target = _revision(db, design, revision).id
            line = db.execute(
                "WITH RECURSIVE line (id, parent) AS (SELECT id, parent FROM revisions WHERE id = ?"
                " UNION ALL SELECT r.id, r.parent FROM revisions r JOIN line l ON r.id = l.parent)"
                " SELECT id, parent FROM line",
                (head.id,),
            ).fetchall()
            if target in {row[0] for row in line}:
                for child, parent in line:
                    if child == target:
                        break
                    _link_redo(db, parent, child)
            db.execute("UPDATE designs SET head = ? WHERE id = ?", (target, design))
        return self.get(design)

    def history(self, design: str) -> list[HistoryEntry]:
        """The line of revisions through the current one, oldest first: what can be undone, then what can be redone."""
        with self._database.read() as db:
            head = self._head(db, design)
            back = db.execute(
                "WITH RECURSIVE line (id, parent, label, created) AS ("
                " SELECT id, parent, label, created FROM revisions WHERE id = ?"
                " UNION ALL SELECT r.id, r.parent, r.label, r.created FROM revisions r JOIN line l ON r.id = l.parent)"
                " SELECT id, label, created FROM line ORDER BY id",
                (head.id,),
            ).fetchall()
            ahead = db.execute(
                "WITH RECURSIVE line (id) AS (SELECT child FROM redo_links WHERE revision = ?"
                " UNION ALL SELECT k.child FROM redo_links k JOIN line l ON k.revision = l.id)"
                " SELECT r.id, r.label, r.created FROM line JOIN revisions r ON r.id = line.id ORDER BY r.id",
                (head.id,),
            ).fetchall()
        return [HistoryEntry(i, text, at, i == head.id) for i, text, at in [*back, *ahead]]

    def _head(self, db: sqlite3.Connection, design: str) -> Revision:
        row = db.execute("SELECT head FROM designs WHERE id = ?", (design,)).fetchone()
        if row is None:
            raise UnknownDesignError("There is no such design.", "Open one from the list of designs.")
        return _revision(db, design, int(row[0]))

    def _expect(self, db: sqlite3.Connection, design: str, base: int) -> Revision:
        head = self._head(db, design)
        if head.id != base:
            raise StaleRevisionError(
                "This design was changed in another window since you last saw it.",
                "It has been brought up to date here; make your change again.",
            )
        return head


def append_revision(
    db: sqlite3.Connection,
    design: str,
    parent: int | None,
    recipe: Recipe,
    edit: str | None,
    label: str,
    brought: Sequence[Brought] = (),
) -> int:
    """A new state of a design, within a transaction; what it uses is `brought` along or kept already. Its number.

    Raises RecipeError.
    """
    for item in brought:
        _keep(db, item)
    row = db.execute(
        "INSERT INTO revisions (design, parent, recipe, edit, label, created) VALUES (?, ?, ?, ?, ?, ?)",
        (design, parent, recipe.model_dump_json(), edit, label, now()),
    )
    for table, column, kept, used in (
        ("revision_pictures", "picture", "pictures", recipe.picture_hashes()),
        ("revision_files", "file", "files", recipe.file_hashes()),
    ):
        for digest in used:
            if db.execute(f"SELECT 1 FROM {kept} WHERE hash = ?", (digest,)).fetchone() is None:
                raise RecipeError(f"It names a {column} that is not here.", f"Bring the {column} in again.")
            db.execute(f"INSERT INTO {table} (revision, {column}) VALUES (?, ?)", (row.lastrowid, digest))
    if parent is not None:
        db.execute("DELETE FROM redo_links WHERE revision = ?", (parent,))
    db.execute("UPDATE designs SET head = ? WHERE id = ?", (row.lastrowid, design))
    return int(row.lastrowid or 0)


def _keep(db: sqlite3.Connection, item: Brought) -> None:
    """Keeps what is brought in once, by content hash."""
    if item.kind == "file":
        db.execute("INSERT OR IGNORE INTO files (hash, data) VALUES (?, ?)", (item.digest, item.data))
    else:
        db.execute(
            "INSERT OR IGNORE INTO pictures (hash, format, width_px, height_px, data) VALUES (?, ?, ?, ?, ?)",
            (item.digest, item.format, item.width_px, item.height_px, item.data),
        )


def _link_redo(db: sqlite3.Connection, revision: int, child: int) -> None:
    db.execute(
        "INSERT INTO redo_links (revision, child) VALUES (?, ?) ON CONFLICT (revision) DO UPDATE SET child = excluded.child",
        (revision, child),
    )


def _redo_child(db: sqlite3.Connection, revision: int) -> int | None:
    row = db.execute("SELECT child FROM redo_links WHERE revision = ?", (revision,)).fetchone()
    return int(row[0]) if row else None


def _revision(db: sqlite3.Connection, design: str, revision: int) -> Revision:
    row = db.execute(
        "SELECT id, parent, label, created, recipe FROM revisions WHERE design = ? AND id = ?", (design, revision)
    ).fetchone()
    if row is None:
        raise UnknownDesignError("There is no such state of this design.", "Choose one from its history.")
    return Revision(row[0], row[1], row[2], row[3], Recipe.model_validate_json(row[4]))
