"""Stock: the pieces of film that a shop has. How much is left of each follows from a ledger; nothing is overwritten."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gladstack.recipe.model.values import Frozen, Id, SheetMm

PieceKind = Literal["roll", "sheet", "offcut"]
Left = Annotated[float, Field(ge=0.0, le=500_000.0, allow_inf_nan=False)]


class Piece(Frozen):
    """A piece of film, or several alike: `left` is the mm left on a roll, and the number of sheets or offcuts.

    Film runs off a roll along `length_mm`, which for a roll is what was on it when it came.
    """

    id: Id
    material: Id
    kind: PieceKind
    width_mm: SheetMm
    length_mm: Left
    left: Left

    @property
    def reach_mm(self) -> float:
        """How long a piece of it can be."""
        return self.left if self.kind == "roll" else self.length_mm


class Use(Frozen):
    """What a sheet of a plan takes of a piece of stock: mm off a roll, or one of its sheets or offcuts."""

    piece: Id
    amount: Left


class Gain(Frozen):
    """An offcut that a sheet of a plan leaves."""

    material: Id
    width_mm: SheetMm
    length_mm: SheetMm
