"""The shelf: materials and pieces of film. What is left of a piece follows from a ledger that is only ever added to."""

from __future__ import annotations

import secrets
import sqlite3
from collections.abc import Iterable, Sequence

from gladstack.core.base.errors import GladStackError
from gladstack.shop.shelf.cutters import CUTTERS, Cutter
from gladstack.shop.shelf.materials import Material
from gladstack.shop.shelf.rates import Rates
from gladstack.shop.shelf.shelf import Shop
from gladstack.shop.shelf.stock import Gain, Piece, PieceKind, Use
from gladstack.store.database import Database, now

_LEFT = "(SELECT coalesce(sum(change), 0) FROM ledger WHERE piece = p.id)"


class UnknownFilmError(GladStackError):
    """No material or piece of film has this id."""

    code = "unknown-film"


class StockError(GladStackError):
    """There is not enough of a film for what is to be taken, or a change of the shelf contradicts it."""

    code = "stock"


class Shelf:
    """All materials and pieces of one database."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def materials(self) -> list[Material]:
        """All materials, retired ones too, by name."""
        with self._database.read() as db:
            rows = db.execute("SELECT body FROM materials ORDER BY json_extract(body, '$.name'), id").fetchall()
        return [Material.model_validate_json(body) for (body,) in rows]

    def material(self, id_: str) -> Material:
        """One material. Raises UnknownFilmError."""
        with self._database.read() as db:
            row = db.execute("SELECT body FROM materials WHERE id = ?", (id_,)).fetchone()
        if row is None:
            raise UnknownFilmError("There is no such film on the shelf.", "Choose another from the shelf.")
        return Material.model_validate_json(row[0])

    def add(self, materials: Sequence[Material], pieces: Sequence[Piece] = ()) -> None:
        """Puts materials on the shelf, with pieces of them. Raises StockError if one is there already."""
        with self._database.write() as db:
            for material in materials:
                if db.execute("SELECT 1 FROM materials WHERE id = ?", (material.id,)).fetchone():
                    raise StockError(f"“{material.id}” is on the shelf already.", "Give it another id.")
                add_material(db, material)
            for piece in pieces:
                _add_piece(db, piece, "came in")

    def save(self, materials: Iterable[Material]) -> None:
        """Changes materials, or adds them; all or none."""
        with self._database.write() as db:
            for material in materials:
                add_material(db, material)

    def pieces(self, *materials: str, spent: bool = False, before_cut: int | None = None) -> list[Piece]:
        """The pieces there are of some materials, or of all; those used up too if they are wanted.

        With `before_cut`, as they stood before a job was marked as cut.
        """
        where = f"WHERE p.material IN ({','.join('?' * len(materials))})" if materials else ""
        with self._database.read() as db:
            rows = db.execute(
                "SELECT p.id, p.material, p.kind, p.width_mm, p.length_mm, coalesce(sum(l.change), 0) FROM pieces p"
                " LEFT JOIN ledger l ON l.piece = p.id"
                " AND (? IS NULL OR l.id < coalesce((SELECT min(id) FROM ledger WHERE cut = ?), 9e18))"
                f" {where} GROUP BY p.id" + ("" if spent else " HAVING coalesce(sum(l.change), 0) > 1e-6"),
                (before_cut, before_cut, *materials),
            ).fetchall()
        return [_piece(*row) for row in rows]

    def shop(self, before_cut: int | None = None) -> Shop:
        """The shop as it stands; for a job that is cut already, with the stock as it was before that."""
        return Shop(tuple(self.materials()), tuple(self.cutters()), tuple(self.pieces(before_cut=before_cut)), self.rates())

    def cutters(self) -> list[Cutter]:
        """All cutters: those that come with the app, and the maker's own."""
        with self._database.read() as db:
            rows = db.execute("SELECT body FROM cutters ORDER BY json_extract(body, '$.name'), id").fetchall()
        own = {c.id: c for c in (Cutter.model_validate_json(body) for (body,) in rows)}
        return [*(own.pop(c.id, c) for c in CUTTERS), *own.values()]

    def save_cutter(self, cutter: Cutter) -> None:
        """Adds a cutter, or changes it."""
        with self._database.write() as db:
            db.execute(
                "INSERT INTO cutters (id, body) VALUES (?, ?) ON CONFLICT (id) DO UPDATE SET body = excluded.body",
                (cutter.id, cutter.model_dump_json()),
            )

    def rates(self) -> Rates:
        """What the shop's work costs."""
        with self._database.read() as db:
            row = db.execute("SELECT body FROM rates WHERE id = 1").fetchone()
        return Rates.model_validate_json(row[0]) if row else Rates()

    def set_rates(self, rates: Rates) -> None:
        """Says what the shop's work costs."""
        with self._database.write() as db:
            db.execute(
                "INSERT INTO rates (id, body) VALUES (1, ?) ON CONFLICT (id) DO UPDATE SET body = excluded.body",
                (rates.model_dump_json(),),
            )

    def bring(self, material: str, kind: PieceKind, width_mm: float, length_mm: float, count: float) -> Piece:
        """Puts film on the shelf: a roll, or so many sheets or offcuts. Raises UnknownFilmError."""
        self.material(material)
        amount = length_mm if kind == "roll" else count
        id_ = f"{kind}-{secrets.token_hex(5)}"
        piece = Piece(id=id_, material=material, kind=kind, width_mm=width_mm, length_mm=length_mm, left=amount)
        with self._database.write() as db:
            _add_piece(db, piece, "came in")
        return piece

    def correct(self, piece: str, left: float, why: str = "counted") -> None:
        """Says how much is really left of a piece: the difference goes into the ledger. Raises UnknownFilmError."""
        with self._database.write() as db:
            row = db.execute(f"SELECT {_LEFT} FROM pieces p WHERE p.id = ?", (piece,)).fetchone()
            if row is None:
                raise UnknownFilmError("There is no such piece of film.", "Look at the shelf again.")
            if abs(left - row[0]) > 1e-9:
                _note(db, piece, left - row[0], why)

    def ledger(self, piece: str) -> list[tuple[float, str, str]]:
        """All changes of a piece: amount, why, when."""
        with self._database.read() as db:
            rows = db.execute("SELECT change, why, created FROM ledger WHERE piece = ? ORDER BY id", (piece,)).fetchall()
        return [(float(change), str(why), str(created)) for change, why, created in rows]


def take(db: sqlite3.Connection, cut: int, uses: Sequence[Use], gains: Sequence[Gain], why: str) -> None:
    """Counts down what a job took and adds what it left, within a transaction. Raises StockError if there is too little."""
    for use in uses:
        row = db.execute(f"SELECT {_LEFT}, p.kind FROM pieces p WHERE p.id = ?", (use.piece,)).fetchone()
        left = float(row[0]) if row else 0.0
        if row is None or left + 1e-6 < use.amount:
            unit = "mm" if row and row[1] == "roll" else "left"
            raise StockError(
                f"The shelf has too little of “{use.piece}”: {left:.0f} {unit}, and the job takes {use.amount:.0f}.",
                "Lay the job again with what is there, or count the shelf.",
            )
        _note(db, use.piece, -use.amount, why, cut)
    for gain in gains:
        piece = Piece(
            id=f"offcut-{secrets.token_hex(5)}", material=gain.material, kind="offcut", width_mm=gain.width_mm,
            length_mm=gain.length_mm, left=1,
        )  # fmt: skip
        _add_piece(db, piece, f"left by {why}", cut)


def put_back(db: sqlite3.Connection, cut: int, why: str) -> None:
    """Takes back what a cut did to the shelf, by entries the other way. Raises StockError if an offcut of it is used up."""
    rows = db.execute("SELECT piece, change FROM ledger WHERE cut = ?", (cut,)).fetchall()
    for piece, change in rows:
        (left,) = db.execute("SELECT sum(change) FROM ledger WHERE piece = ?", (piece,)).fetchone()
        if left - change < -1e-6:
            raise StockError(
                "An offcut of this job has been used since, so it cannot be undone.", "Undo the job that used it first."
            )
    for piece, change in rows:
        _note(db, piece, -change, why, cut)


def add_material(db: sqlite3.Connection, material: Material) -> None:
    """Adds or changes a material, within a transaction."""
    db.execute(
        "INSERT INTO materials (id, body, retired) VALUES (?, ?, ?)"
        " ON CONFLICT (id) DO UPDATE SET body = excluded.body, retired = excluded.retired",
        (material.id, material.model_dump_json(), int(material.retired)),
    )


def _add_piece(db: sqlite3.Connection, piece: Piece, why: str, cut: int | None = None) -> None:
    db.execute(
        "INSERT INTO pieces (id, material, kind, width_mm, length_mm) VALUES (?, ?, ?, ?, ?)",
        (piece.id, piece.material, piece.kind, piece.width_mm, piece.length_mm),
    )
    _note(db, piece.id, piece.left, why, cut)


def _note(db: sqlite3.Connection, piece: str, change: float, why: str, cut: int | None = None) -> None:
    db.execute(
        "INSERT INTO ledger (piece, change, why, cut, created) VALUES (?, ?, ?, ?, ?)", (piece, change, why, cut, now())
    )


def _piece(id_: str, material: str, kind: PieceKind, width: float, length: float, left: float) -> Piece:
    # What the table holds was checked when it came in; thousands of pieces are read at once.
    return Piece.model_construct(id=id_, material=material, kind=kind, width_mm=width, length_mm=length, left=round(left, 6))
