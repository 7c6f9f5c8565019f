"""Materials: the films a shop has, as it knows them; how much there is of each is told by the stock."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gladstack.recipe.model.recipe import Finish
from gladstack.recipe.model.values import Colour, Frozen, Id, MarginMm, Method, Name

Kind = Literal[
    "adhesive", "removable", "smooth", "glitter", "flock", "foil", "metallic", "stencil", "card",
]  # fmt: skip
"""Adhesive for good and removable; heat-transfer smooth, glitter, flock, foil and metallic; stencil film and card."""
PRESSED: frozenset[str] = frozenset({"smooth", "glitter", "flock", "foil", "metallic"})
ANY = "any"
"""The choice of no material: any film of the film's colour."""

Share = Annotated[float, Field(ge=0.0, le=0.1, allow_inf_nan=False)]
Seconds = Annotated[float, Field(ge=0.0, le=600.0, allow_inf_nan=False)]
WidthOfPart = Annotated[float, Field(ge=0.0, le=20.0, allow_inf_nan=False)]


class BladeSetting(Frozen):
    """How a film is cut: force in grams, speed in mm/s, passes, the blade's angle and how far its tip trails."""

    force_g: Annotated[int, Field(ge=5, le=2000)] = 90
    speed_mm_s: Annotated[float, Field(ge=5.0, le=1500.0)] = 120.0
    passes: Annotated[int, Field(ge=1, le=6)] = 1
    angle_deg: Literal[30, 45, 60] = 45
    offset_mm: Annotated[float, Field(ge=0.0, le=2.0)] = 0.25


class Press(Frozen):
    """How a film is pressed: degrees Celsius, seconds to tack and in full, and how its carrier comes off.

    `bears_celsius` and `bears_s` are the most it takes, in all its presses (None: 10 degrees more, twice its full time).
    With `behind_s` it is pressed from behind at last.
    """

    celsius: Annotated[int, Field(ge=60, le=250)] = 150
    bears_celsius: Annotated[int, Field(ge=60, le=260)] | None = None
    tack_s: Seconds = 4.0
    full_s: Seconds = 15.0
    bears_s: Seconds | None = None
    peel: Literal["hot", "warm", "cold"] = "warm"
    behind_s: Seconds = 0.0

    @property
    def most_celsius(self) -> int:
        """The hottest it bears."""
        return self.celsius + 10 if self.bears_celsius is None else max(self.celsius, self.bears_celsius)

    @property
    def most_s(self) -> float:
        """The longest it bears, in all."""
        return 2 * self.full_s if self.bears_s is None else max(self.full_s, self.bears_s)


class Material(Frozen):
    """One film of the shelf.

    It is cut from its `face`: what is cut from the back is cut mirrored. `least_part_mm` and `least_waste_mm` are the
    narrowest part and the narrowest waste it bears; `shrink_along` and `shrink_across` the share it loses at each press.
    """

    id: Id
    name: Name
    kind: Kind = "adhesive"
    colour: Colour
    finish: Finish = Finish()
    face: Literal["front", "back"] = "front"
    cost_m2: Annotated[float, Field(ge=0.0, le=10_000.0, allow_inf_nan=False)] = 0.0
    blade: BladeSetting = BladeSetting()
    spacing_mm: MarginMm = 2.0
    margin_mm: MarginMm = 5.0
    least_part_mm: WidthOfPart = 0.8
    least_waste_mm: WidthOfPart = 0.8
    lies_over: Annotated[tuple[Kind, ...], Field(max_length=9)] = ()
    grain: Literal["free", "half", "none"] = "free"
    press: Press | None = None
    shrink_along: Share = 0.0
    shrink_across: Share = 0.0
    retired: bool = False

    @property
    def mirrored(self) -> bool:
        """Whether it is cut mirrored."""
        return self.face == "back"

    @property
    def method(self) -> Method:
        """How it goes onto the ground."""
        return "heat-transfer" if self.kind in PRESSED else "adhesive"


def any_film(colour: str, method: Method, margin_mm: float = 6.0) -> Material:
    """What stands for a film that no material was chosen for."""
    pressed = method == "heat-transfer"
    return Material(
        id=f"any-{colour[1:]}" + ("-pressed" if pressed else ""),
        name=f"Any film of {colour}",
        kind="smooth" if pressed else "adhesive",
        colour=colour,
        face="back" if pressed else "front",
        margin_mm=margin_mm,
        press=Press() if pressed else None,
    )
