"""The font shelf: the fonts that ship with the app, and those the maker has added."""

from __future__ import annotations

import hashlib
import sqlite3
from dataclasses import dataclass
from datetime import UTC, datetime

from gladstack.core.base.errors import FontError
from gladstack.recipe.model.fonts import SHIPPED, shipped_font
from gladstack.store.database import Database


@dataclass(frozen=True)
class ShelfFont:
    """A font on the shelf: its key, its name and manner, and whether the maker added it."""

    key: str
    name: str
    manner: str
    own: bool


class FontShelf:
    """All fonts that lettering can be set in."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def add(self, data: bytes, family: str, style: str) -> ShelfFont:
        """Keeps a font's bytes once, by content hash; `family` and `style` are what it calls itself."""
        with self._database.write() as db:
            return self.keep(db, data, family, style)

    def keep(self, db: sqlite3.Connection, data: bytes, family: str, style: str) -> ShelfFont:
        """The same within a transaction."""
        digest = hashlib.sha256(data).hexdigest()
        db.execute(
            "INSERT OR IGNORE INTO fonts (hash, family, style, data, added) VALUES (?, ?, ?, ?, ?)",
            (digest, family, style, data, datetime.now(UTC).isoformat(timespec="milliseconds")),
        )
        return _own(digest, family, style)

    def fonts(self) -> list[ShelfFont]:
        """The maker's own fonts, the newest first, then those that ship with the app."""
        with self._database.read() as db:
            rows = db.execute("SELECT hash, family, style FROM fonts ORDER BY added DESC").fetchall()
        return [_own(*row) for row in rows] + [ShelfFont(f.key, f.name, f.manner, False) for f in SHIPPED]

    def data(self, key: str) -> bytes:
        """A font's bytes. Raises FontError if there is none by this key."""
        if len(key) != 64:
            return shipped_font(key)
        with self._database.read() as db:
            row = db.execute("SELECT data FROM fonts WHERE hash = ?", (key,)).fetchone()
        if row is None:
            raise FontError("A font of this design is not on the shelf.", "Add it again, or choose another.")
        return bytes(row[0])


def _own(digest: str, family: str, style: str) -> ShelfFont:
    name = family if style in ("", "Regular") else f"{family} {style}"
    return ShelfFont(digest, name, "my own", True)
