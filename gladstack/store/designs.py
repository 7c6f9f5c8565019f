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
from gladstack.core.drawing.layers import FilmsBy
from gladstack.recipe.art.vectors import FirstLook
from gladstack.recipe.edit.edits import Edit, described, edited
from gladstack.recipe.model.recipe import Recipe
from gladstack.store import line
from gladstack.store.database import Database, now
from gladstack.store.line import Whose
from gladstack.store.refs import own_of, parts_of
from gladstack.store.revisions import Revision, UnknownDesignError, read_revision

_EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)


class StaleRevisionError(GladStackError):
    """The design was changed elsewhere since this was last seen."""

    code = "stale-revision"


@dataclass(frozen=True)
class Brought:
    """A picture or vector file brought in, not kept yet; pictures have a format and a size in pixels, of files a `page` is
    taken, by colours or layers, made fewer to a `count` if that is told.
    """

    kind: Literal["picture", "file"]
    digest: str
    data: bytes
    filename: str
    format: str = ""
    width_px: int = 0
    height_px: int = 0
    page: int = 1
    films_by: FilmsBy = "colours"
    count: int | None = None

    @classmethod
    def picture(cls, data: bytes, filename: str, form: str, width_px: int, height_px: int) -> Brought:
        """A picture."""
        return cls("picture", hashlib.sha256(data).hexdigest(), data, filename, form, width_px, height_px)

    @classmethod
    def file(cls, data: bytes, filename: str, look: FirstLook | None = None) -> Brought:
        """A vector file, and how it is brought in."""
        first = look or FirstLook(1)
        digest = hashlib.sha256(data).hexdigest()
        return cls("file", digest, data, filename, page=first.page, films_by=first.films_by, count=first.count)


@dataclass(frozen=True)
class HistoryEntry:
    """A line of the history: a state of the design, or of its own sheets.

    `current` is where both stand, later ones can be redone; `design` is the revision that the design had then.
    """

    whose: Whose
    revision: int
    design: int
    label: str
    created: str
    current: bool


@dataclass(frozen=True)
class Design:
    """A design as it stands; `undoes` and `redoes` say what undo and redo would take back and make again, if anything,
    in the design or its own sheets.
    """

    id: str
    revision: Revision
    undoes: str | None
    redoes: str | None


class DesignBook:
    """All designs in one database. Wherever a design is named, one of its versions can be: gladstack.store.refs."""

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
        """Whether a design with this id exists, with the version that is named."""
        try:
            with self._database.read() as db:
                self._head(db, design)
        except UnknownDesignError:
            return False
        return True

    def get(self, design: str, *, or_motif: bool = False) -> Design:
        """The design as it stands; with `or_motif` the motif where the version is gone. Raises UnknownDesignError."""
        with self._database.read() as db:
            try:
                revision = self._head(db, design)
            except UnknownDesignError:
                if not or_motif:
                    raise
                design, _ = parts_of(design)
                revision = self._head(db, design)
            undoes, redoes = line.last_done(db, design), line.first_left(db, design)
            return Design(design, revision, line.label_of(undoes), line.label_of(redoes))

    def newest(self, design: str) -> tuple[int, int | None]:
        """The revisions at which a design and its own sheets, if it has any, stand. Raises UnknownDesignError."""
        with self._database.read() as db:
            row = db.execute("SELECT head FROM designs WHERE id = ?", (parts_of(design)[0],)).fetchone()
            sheets = db.execute("SELECT head FROM jobs WHERE (own_of, own_version) = (?, ?)", own_of(design)).fetchone()
        if row is None:
            raise UnknownDesignError("There is no such design.", "Open one from the list of designs.")
        return int(row[0]), int(sheets[0]) if sheets else None

    def revision(self, design: str, revision: int) -> Revision:
        """One revision of a design. Raises UnknownDesignError."""
        with self._database.read() as db:
            return read_revision(db, design, revision)

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
            motif = edited(head.motif, head.version, edit)
            if motif != head.motif:
                text = _EDIT.dump_json(edit).decode()
                label = described(head.motif, head.version, edit, motif)
                append_revision(db, parts_of(design)[0], head.id, motif, text, label, brought)
        return self.get(design, or_motif=True)

    def undo(self, design: str, base: int, sheets: int | None = None) -> Design:
        """Takes back what was done last in the design or its own sheets; does nothing at the first state of both.

        `sheets` is the revision of the sheets that was seen, if any. Raises StaleRevisionError, AtCutterError.
        """
        with self._database.write() as db:
            self._expect_both(db, design, base, sheets)
            if step := line.last_done(db, design):
                line.take_back(db, design, step)
        return self.get(design, or_motif=True)

    def redo(self, design: str, base: int, sheets: int | None = None) -> Design:
        """Makes again what was taken back last; does nothing if there is nothing. Raises as `undo` does."""
        with self._database.write() as db:
            self._expect_both(db, design, base, sheets)
            if step := line.first_left(db, design):
                line.make_again(db, design, step)
        return self.get(design, or_motif=True)

    def go_to(self, design: str, base: int, revision: int, whose: Whose = "design", sheets: int | None = None) -> Design:
        """Goes to any state of the history, so that every step between can be undone or redone. Raises as `undo` does.

        A state that no longer is on the line is made the design's again by itself.
        """
        with self._database.write() as db:
            head = self._expect_both(db, design, base, sheets)
            back, ahead = line.done(db, design), line.left(db, design)
            states = [(step.whose, step.revision) for step in (*back, *ahead)]
            first = next((step.before for step in (*back, *ahead) if step.whose == "design"), head.id)
            if (whose, revision) in states or (whose, revision) == ("design", first):
                wanted = states.index((whose, revision)) + 1 if (whose, revision) in states else 0
                for step in reversed(back[wanted:]):
                    line.take_back(db, design, step)
                for step in ahead[: max(0, wanted - len(back))]:
                    line.make_again(db, design, step)
            else:
                own, _ = parts_of(design)
                db.execute("UPDATE designs SET head = ? WHERE id = ?", (read_revision(db, own, revision).id, own))
        return self.get(design, or_motif=True)

    def history(self, design: str) -> list[HistoryEntry]:
        """All states from the first to the last that can be redone, the oldest first."""
        with self._database.read() as db:
            head = self._head(db, design)
            back, ahead = line.done(db, design), line.left(db, design)
            first = next((step.before for step in (*back, *ahead) if step.whose == "design"), head.id)
            began = read_revision(db, parts_of(design)[0], first)
        out = [HistoryEntry("design", first, first, began.label, began.created, not back)]
        for n, step in enumerate((*back, *ahead), 1):
            of_design = step.revision if step.whose == "design" else out[-1].design
            out.append(HistoryEntry(step.whose, step.revision, of_design, step.label, step.created, n == len(back)))
        return out

    def _head(self, db: sqlite3.Connection, design: str) -> Revision:
        row = db.execute("SELECT head FROM designs WHERE id = ?", (parts_of(design)[0],)).fetchone()
        if row is None:
            raise UnknownDesignError("There is no such design.", "Open one from the list of designs.")
        return read_revision(db, design, int(row[0]))

    def _expect(self, db: sqlite3.Connection, design: str, base: int) -> Revision:
        head = self._head(db, design)
        if head.id != base:
            raise StaleRevisionError(
                "This design was changed in another window since you last saw it.",
                "It has been brought up to date here; make your change again.",
            )
        return head

    def _expect_both(self, db: sqlite3.Connection, design: str, base: int, sheets: int | None) -> Revision:
        head = self._expect(db, design, base)
        row = db.execute("SELECT head FROM jobs WHERE (own_of, own_version) = (?, ?)", own_of(design)).fetchone()
        if sheets is not None and row and row[0] != sheets:
            raise StaleRevisionError(
                "The sheets of this design were changed in another window since you last saw them.",
                "They have been brought up to date here; make your change again.",
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
        line.forget_left(db, design)
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
