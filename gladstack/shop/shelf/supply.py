"""Which pieces of stock things are laid on: the smallest offcut that holds all, else a sheet, else a length off the roll."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from gladstack.core.plan.laying import Item, Room, Spot
from gladstack.core.plan.nest import Nested, first_answer, nest
from gladstack.core.plan.pack import Forms
from gladstack.shop.shelf.cutters import Cutter
from gladstack.shop.shelf.materials import Material
from gladstack.shop.shelf.shelf import Shop
from gladstack.shop.shelf.stock import Piece

TO_BUY = "to-buy"
_MOST_OFFCUTS_TRIED = 4
_DENSEST = 0.92
_TO_BUY_MM = 50_000.0


@dataclass
class Supply:
    """What is left of the stock while a plan is made; each sheet laid takes its piece out."""

    shop: Shop
    cutter: Cutter
    taken: dict[str, float] = field(default_factory=dict)

    def pieces(self, material: Material, margin_mm: float, chosen: str | None) -> list[Piece]:
        """What is there of a material, the piece chosen by hand first; last, film that would have to be bought."""
        held = [
            p.model_copy(update={"left": p.left - self.taken.get(p.id, 0.0)})
            for p in self.shop.pieces_of(material.id)
            if p.left - self.taken.get(p.id, 0.0) > (2 * margin_mm + 5.0 if p.kind == "roll" else 0.0)
        ]
        held.sort(key=lambda p: p.id != chosen)
        widest = max(
            (p.width_mm for p in self.shop.pieces if p.material == material.id and p.kind != "offcut"), default=None
        )
        buy = Piece(
            id=TO_BUY, material=material.id, kind="roll", width_mm=min(widest or self.cutter.width_mm, self.cutter.width_mm),
            length_mm=_TO_BUY_MM, left=_TO_BUY_MM,
        )  # fmt: skip
        return [*held, buy]

    def take(self, piece: Piece, amount: float) -> None:
        """Takes so many mm off a roll, or so many sheets."""
        if piece.id != TO_BUY:
            self.taken[piece.id] = self.taken.get(piece.id, 0.0) + amount

    def room(self, piece: Piece, margin_mm: float) -> Room:
        """How far a piece, in this cutter, reaches within its margins."""
        length, width = self.size(piece)
        return Room(length - 2 * margin_mm, width - 2 * margin_mm)

    def size(self, piece: Piece) -> tuple[float, float]:
        """Length and width of a piece as far as the cutter takes it."""
        return min(piece.reach_mm, self.cutter.length_mm), min(piece.width_mm, self.cutter.width_mm)

    def margin(self, material: Material) -> float:
        """The margin that a material and the cutter need all round."""
        return max(material.margin_mm, self.cutter.side_margin_mm, self.cutter.end_margin_mm)


@dataclass(frozen=True)
class Load:
    """A piece of stock with what lies on it: spots within its margins, by the items' places in the list."""

    piece: Piece
    spots: tuple[tuple[int, Spot], ...]
    length_mm: float


def laid_on_stock(
    items: Sequence[Item],
    material: Material,
    supply: Supply,
    spacing_mm: float,
    seconds: int,
    chosen: str | None,
    margin: float,
) -> tuple[list[Load], list[int]]:
    """Items on as few pieces of stock as it goes; and those that fit on none."""
    loads: list[Load] = []
    left = list(range(len(items)))
    forms = Forms(spacing_mm)
    while left:
        here = [items[k] for k in left]
        pieces = supply.pieces(material, margin, chosen)
        load = _next_load(here, forms, pieces, supply, margin, spacing_mm, seconds)
        if load is None:
            return loads, left
        named = tuple((left[k], spot) for k, spot in load.spots)
        loads.append(Load(load.piece, named, load.length_mm))
        supply.take(load.piece, load.length_mm + 2 * margin if load.piece.kind == "roll" else 1.0)
        placed = {k for k, _ in named}
        left = [k for k in left if k not in placed]
    return loads, []


def _next_load(
    items: Sequence[Item],
    forms: Forms,
    pieces: Sequence[Piece],
    supply: Supply,
    margin: float,
    spacing_mm: float,
    seconds: int,
) -> Load | None:
    """The next piece to lay on: the first that holds all, else the one that holds most."""
    area = sum(i.shape.area for i in items)
    best: tuple[float, Piece, Nested] | None = None
    tried = 0
    for piece in pieces:
        room = supply.room(piece, margin)
        if room.length_mm <= 0 or room.width_mm <= 0:
            continue
        roomy = area <= _DENSEST * room.length_mm * room.width_mm
        if piece.kind == "offcut" and (not roomy or tried >= _MOST_OFFCUTS_TRIED):
            continue
        tried += piece.kind == "offcut"
        found = first_answer(items, room, spacing_mm, forms)
        if all(s is not None for s in found.spots):
            better = nest(items, room, spacing_mm, seconds, found) if seconds else found
            return _load(piece, better)
        held = sum(i.shape.area for i, s in zip(items, found.spots, strict=True) if s is not None)
        if held > 0 and piece.kind != "offcut" and (best is None or held > best[0] * 1.02):
            best = held, piece, found
    return _load(best[1], best[2]) if best else None


def _load(piece: Piece, found: Nested) -> Load:
    spots = tuple((k, s) for k, s in enumerate(found.spots) if s is not None)
    return Load(piece, spots, math.ceil(found.length_mm * 100 - 1e-6) / 100)


def widest_room(material: Material, supply: Supply, margin: float) -> Room:
    """The largest room any piece of a material has, with what would have to be bought where there is none."""
    pieces = supply.pieces(material, margin, None)
    whole = [p for p in pieces if p.kind != "offcut" and p.id != TO_BUY] or pieces[-1:]
    rooms = np.array([(r.width_mm, r.length_mm) for r in (supply.room(p, margin) for p in whole)])
    k = int(np.argmax(rooms[:, 0] * 1e6 + rooms[:, 1]))
    return Room(float(rooms[k, 1]), float(rooms[k, 0]))
