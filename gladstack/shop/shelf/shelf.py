"""The shop as it stands: its materials, cutters and stock, as one value that never changes."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
import numpy.typing as npt

from gladstack.core.base.colour import delta_e_2000, from_hex
from gladstack.core.base.errors import GladStackError
from gladstack.recipe.model.uses import Use
from gladstack.shop.shelf.cutters import CUTTERS, Cutter
from gladstack.shop.shelf.materials import Material
from gladstack.shop.shelf.rates import Rates
from gladstack.shop.shelf.stock import Piece


class ShopError(GladStackError):
    """Something that is named is not on the shelf."""

    code = "shop"


@dataclass(frozen=True)
class Near:
    """A material and how far its colour is from a wanted one, in delta-E (CIE 2000)."""

    material: Material
    delta_e: float


_FREE = Rates()


@dataclass(frozen=True)
class Shop:
    """Materials, cutters, pieces of stock, and what work costs."""

    materials: tuple[Material, ...] = ()
    cutters: tuple[Cutter, ...] = CUTTERS
    pieces: tuple[Piece, ...] = ()
    rates: Rates = _FREE

    def material(self, id_: str) -> Material | None:
        """The material of this id, retired ones too."""
        return next((m for m in self.materials if m.id == id_), None)

    def cutter(self, id_: str) -> Cutter:
        """The cutter of this id. Raises ShopError."""
        found = next((c for c in self.cutters if c.id == id_), None)
        if found is None:
            raise ShopError(f"There is no cutter “{id_}” on the shelf.", "Choose another for this job.")
        return found

    def pieces_of(self, material: str) -> list[Piece]:
        """What there is of a material, the smallest offcut first, then sheets, then rolls."""
        rank = {"offcut": 0, "sheet": 1, "roll": 2}
        held = [p for p in self.pieces if p.material == material and p.left > 0]
        return sorted(held, key=lambda p: (rank[p.kind], p.width_mm * p.length_mm, p.id))

    def pen(self, colour: str, line_mm: float, chosen: str | None, farthest: float) -> Material | None:
        """The pen that was chosen, else the one of a width nearest to a colour, no farther off than that; or None."""
        pens = [m for m in self.materials if m.is_pen]
        own = next((m for m in pens if m.id == chosen), None)
        held = [m for m in pens if not m.retired and abs(m.line_mm - line_mm) < 1e-6]
        if own is not None or not held:
            return own
        apart = _apart(tuple(m.colour for m in held), colour)
        best = int(np.argmin(apart))
        return held[best] if apart[best] <= farthest else None

    def nearest(self, colour: str, use: Use, most: int = 3) -> list[Near]:
        """The materials offered for a use that are nearest to a colour, retired ones left out."""
        if (colour, use) not in self._near:
            held = [m for m in self.materials if not m.retired and m.suits(use)]
            apart = _apart(tuple(m.colour for m in held), colour) if held else np.zeros(0)
            order = np.argsort(apart, kind="stable")
            self._near[colour, use] = [Near(held[int(k)], round(float(apart[k]), 2)) for k in order]
        return self._near[colour, use][:most]

    @cached_property
    def _near(self) -> dict[tuple[str, Use], list[Near]]:
        """What was asked for before: a list of names asks for the same many times over."""
        return {}


@lru_cache(1024)
def _apart(colours: tuple[str, ...], colour: str) -> npt.NDArray[np.float64]:
    """How far colours are from one, in delta-E (CIE 2000): a list of names asks for the same many times over."""
    return delta_e_2000(np.array([from_hex(c) for c in colours]), np.array([from_hex(colour)]))
