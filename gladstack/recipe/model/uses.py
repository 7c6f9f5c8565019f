"""Ways of use: what a decal is for, from which all follows that turns it round: mirror, order, films offered, papers."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import TYPE_CHECKING

# The command line names the uses before it loads what recipes are read with.
if TYPE_CHECKING:
    from gladstack.recipe.model.values import Method


class Use(StrEnum):
    """The ways of use there are."""

    SURFACE = "surface"
    GLASS = "glass"
    PRESSED = "heat-transfer"
    STENCIL = "stencil"
    CARD = "card"


@dataclass(frozen=True)
class WayOfUse:
    """What is the same for all decals of a use: what it is called, and how film goes on.

    What is `seen_through` is looked at from the side that sticks: its films are cut mirrored, and the film that is seen on
    top goes onto the glass first.
    `slip_mm` is how far a hand lays a film off its place. Of a stencil `parts_go`: the waste is what is laid down.
    """

    says: str
    method: Method = "adhesive"
    slip_mm: float = 0.6
    seen_through: bool = False
    parts_go: bool = False

    @property
    def mirrored(self) -> bool:
        """Whether its usual films are cut mirrored: what is pressed is cut from its back."""
        return self.seen_through or self.method == "heat-transfer"


USES: Mapping[Use, WayOfUse] = {
    Use.SURFACE: WayOfUse("On a surface"),
    Use.GLASS: WayOfUse("Read through glass", seen_through=True),
    Use.PRESSED: WayOfUse("Heat-transfer", method="heat-transfer", slip_mm=0.4),
    Use.STENCIL: WayOfUse("Stencil", slip_mm=0.0, parts_go=True),
    Use.CARD: WayOfUse("Card", method="glued"),
}  # fmt: skip
"""Every use: a new one is added above and here; recipes, command line, API and screen follow."""

_USUAL: Mapping[Method, Use] = {"adhesive": Use.SURFACE, "heat-transfer": Use.PRESSED, "glued": Use.CARD}


def usual_use(method: Method) -> Use:
    """The use that a method is usual for."""
    return _USUAL[method]
