"""Materials: the films a shop has, as it knows them; how much there is of each is told by the stock."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Literal

from pydantic import Field

from gladstack.recipe.model.recipe import Finish
from gladstack.recipe.model.values import Colour, Frozen, Id, MarginMm, Method, Name


class Kind(StrEnum):
    """The kinds of film there are."""

    ADHESIVE = "adhesive"
    REMOVABLE = "removable"
    SMOOTH = "smooth"
    GLITTER = "glitter"
    FLOCK = "flock"
    FOIL = "foil"
    METALLIC = "metallic"
    STENCIL = "stencil"
    CARD = "card"


@dataclass(frozen=True)
class KindOfFilm:
    """What is the same for all films of a kind: what it is called, how it goes onto the ground, the face it is cut from."""

    says: str
    method: Method = "adhesive"

    @property
    def face(self) -> Literal["front", "back"]:
        """What is pressed is cut from the back."""
        return "back" if self.method == "heat-transfer" else "front"


KINDS: Mapping[Kind, KindOfFilm] = {
    Kind.ADHESIVE: KindOfFilm("Adhesive, permanent"),
    Kind.REMOVABLE: KindOfFilm("Adhesive, removable"),
    Kind.SMOOTH: KindOfFilm("Heat-transfer, smooth", "heat-transfer"),
    Kind.GLITTER: KindOfFilm("Heat-transfer, glitter", "heat-transfer"),
    Kind.FLOCK: KindOfFilm("Heat-transfer, flock", "heat-transfer"),
    Kind.FOIL: KindOfFilm("Heat-transfer, foil", "heat-transfer"),
    Kind.METALLIC: KindOfFilm("Heat-transfer, metallic", "heat-transfer"),
    Kind.STENCIL: KindOfFilm("Stencil film"),
    Kind.CARD: KindOfFilm("Card"),
}
"""Every kind: a new one is added above and here; the shelf, the screen and the API follow."""
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
    kind: Kind = Kind.ADHESIVE
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
        return KINDS[self.kind].method


def any_film(colour: str, method: Method, margin_mm: float = 6.0) -> Material:
    """What stands for a film that no material was chosen for."""
    pressed = method == "heat-transfer"
    kind = Kind.SMOOTH if pressed else Kind.ADHESIVE
    return Material(
        id=f"any-{colour[1:]}" + ("-pressed" if pressed else ""),
        name=f"Any film of {colour}",
        kind=kind,
        colour=colour,
        face=KINDS[kind].face,
        margin_mm=margin_mm,
        press=Press() if pressed else None,
    )
