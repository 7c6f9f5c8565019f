"""The font shelf: the fonts that ship with the app, and those the maker has added."""

from __future__ import annotations

import hashlib
import json
import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass

from gladstack.core.base.errors import FontError
from gladstack.recipe.model.fonts import SHIPPED, shipped_font
from gladstack.store.database import Database, now


@dataclass(frozen=True)
class ShelfFont:
    """A font on the shelf: its key, its name and manner, whether the maker added it, and the maker's tags."""

    key: str
    name: str
    manner: str
    own: bool
    tags: tuple[str, ...] = ()


class FontShelf:
    """All fonts that lettering can be set in."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def add(self, data: bytes, family: str, style: str) -> ShelfFont:
        """Keeps a font's bytes once, by content hash; `family` and `style` are what it calls itself."""
        with self._database.write() as db:
            return self.keep(db, data, family, style)

    def keep(self, db: sqlite3.Connection, data: bytes, family: str, style: str) -> ShelfFont:
        """The same within a transaction. A font that was removed is on the shelf again."""
        digest = hashlib.sha256(data).hexdigest()
        db.execute(
            "INSERT INTO fonts (hash, family, style, data, added) VALUES (?, ?, ?, ?, ?)"
            " ON CONFLICT (hash) DO UPDATE SET removed = NULL",
            (digest, family, style, data, now()),
        )
        return self._own(db, digest)

    def fonts(self) -> list[ShelfFont]:
        """The maker's own fonts, the newest first, then those that ship with the app."""
        with self._database.read() as db:
            rows = db.execute(f"SELECT {_COLUMNS} FROM fonts WHERE removed IS NULL ORDER BY added DESC").fetchall()
        return [_font(*row) for row in rows] + [ShelfFont(f.key, f.name, f.manner, False) for f in SHIPPED]

    def change(self, key: str, name: str, tags: Sequence[str]) -> ShelfFont:
        """Gives one of the maker's fonts a name and tags. Raises FontError."""
        with self._database.write() as db:
            self._own(db, key)
            db.execute("UPDATE fonts SET name = ?, tags = ? WHERE hash = ?", (name, json.dumps(list(tags)), key))
            return self._own(db, key)

    def used_in(self, key: str) -> list[str]:
        """The names of the designs that are set in a font as they stand now."""
        with self._database.read() as db:
            rows = db.execute(
                "SELECT json_extract(r.recipe, '$.name') FROM designs d JOIN revisions r ON r.id = d.head"
                " WHERE d.binned IS NULL AND instr(r.recipe, ?) ORDER BY r.created DESC",
                (key,),
            ).fetchall()
        return [str(name) for (name,) in rows]

    def remove(self, key: str) -> None:
        """Takes one of the maker's fonts off the shelf; it stays for designs that are, or ever were, set in it.

        Raises FontError.
        """
        with self._database.write() as db:
            self._own(db, key)
            used = db.execute("SELECT 1 FROM revisions WHERE instr(recipe, ?) LIMIT 1", (key,)).fetchone()
            if used:
                db.execute("UPDATE fonts SET removed = ? WHERE hash = ?", (now(), key))
            else:
                db.execute("DELETE FROM fonts WHERE hash = ?", (key,))

    def data(self, key: str) -> bytes:
        """A font's bytes. Raises FontError if there is none by this key."""
        if len(key) != 64:
            return shipped_font(key)
        with self._database.read() as db:
            row = db.execute("SELECT data FROM fonts WHERE hash = ?", (key,)).fetchone()
        if row is None:
            raise FontError("A font of this design is not on the shelf.", "Add it again, or choose another.")
        return bytes(row[0])

    @staticmethod
    def _own(db: sqlite3.Connection, key: str) -> ShelfFont:
        row = db.execute(f"SELECT {_COLUMNS} FROM fonts WHERE hash = ? AND removed IS NULL", (key,)).fetchone()
        if row is None:
            raise FontError("There is no font of your own by this key.", "Fonts that ship with the app stay as they are.")
        return _font(*row)


_COLUMNS = "hash, family, style, name, tags"


def _font(digest: str, family: str, style: str, name: str, tags: str) -> ShelfFont:
    told = family if style in ("", "Regular") else f"{family} {style}"
    return ShelfFont(digest, name or told, "my own", True, tuple(json.loads(tags)))
