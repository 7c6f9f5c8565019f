"""The kinds of film: how each goes onto the ground and is cut, what it may lie over, and what may lie on it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Literal

from pydantic import Field

from gladstack.recipe.model.recipe import Finish
from gladstack.recipe.model.uses import USES, Use
from gladstack.recipe.model.values import Frozen, Method


class Kind(StrEnum):
    """The kinds of film there are."""

    ADHESIVE = "adhesive"
    REMOVABLE = "removable"
    PRINTABLE = "printable"
    SMOOTH = "smooth"
    STRETCH = "stretch"
    PRINTABLE_CLOTH = "printable-cloth"
    GLITTER = "glitter"
    FLOCK = "flock"
    FOIL = "foil"
    METALLIC = "metallic"
    REFLECTIVE = "reflective"
    GLOW = "glow"
    PUFF = "puff"
    STENCIL = "stencil"
    CARD = "card"
    PAPER = "paper"
    PEN = "pen"


Seconds = Annotated[float, Field(ge=0.0, le=600.0, allow_inf_nan=False)]


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


Kinds = frozenset[Kind]
_STUCK: Kinds = frozenset({Kind.ADHESIVE, Kind.REMOVABLE, Kind.PRINTABLE})
_PASTED: Kinds = frozenset({Kind.CARD, Kind.PAPER})
_EVEN: Kinds = frozenset({Kind.SMOOTH, Kind.STRETCH, Kind.PRINTABLE_CLOTH})
_PRESSED: Kinds = _EVEN | {Kind.GLITTER, Kind.FLOCK, Kind.FOIL, Kind.METALLIC, Kind.REFLECTIVE, Kind.GLOW}
_NONE: Kinds = frozenset()
_MATTE, _KNIFE = Finish(), BladeSetting()


@dataclass(frozen=True)
class KindOfFilm:
    """What a film of a kind brings with it, which the maker can change: what is known in the trade of films of its kind.

    It may lie `over` some kinds, and some may lie on it (`under`); at most `most` films lie on one another where it is on
    top. Ends of parts and corners of waste that are sharper than `least_tip_deg` are torn.
    What is `unasked` is taken for a film by itself, by its colour; what is not is for the maker to choose. What does not
    come `in_pieces` is not counted on the shelf.
    """

    says: str
    method: Method | Literal["drawn"] = "adhesive"
    over: Kinds = _NONE
    under: Kinds = _NONE
    most: int = 4
    finish: Finish = _MATTE
    blade: BladeSetting = _KNIFE
    press: Press | None = None
    spacing_mm: float = 2.0
    least_part_mm: float = 0.8
    least_waste_mm: float = 0.8
    least_tip_deg: float = 20.0
    grain: Literal["free", "half", "none"] = "free"
    cost_m2: float = 10.0
    unasked: bool = True
    uses: tuple[Use, ...] = ()
    in_pieces: bool = True

    @property
    def face(self) -> Literal["front", "back"]:
        """What is pressed is cut from the back."""
        return "back" if self.method == "heat-transfer" else "front"

    def offered_for(self, use: Use) -> bool:
        """Whether it is offered for a use: for those named, else for all that go onto the ground as it does."""
        if self.uses:
            return use in self.uses
        return USES[use].method == self.method and use is not Use.STENCIL


def _pressed(says: str, *, over: Kinds = _EVEN, most: int = 2, unasked: bool = True, **more: object) -> KindOfFilm:
    usual: dict[str, object] = {"press": Press(), "blade": BladeSetting(force_g=110), "spacing_mm": 2.5, "cost_m2": 18.0}
    return KindOfFilm(says, "heat-transfer", over, most=most, unasked=unasked, **(usual | more))  # type: ignore[arg-type]


_ROUGH = BladeSetting(force_g=180, speed_mm_s=60.0, angle_deg=60)
_THICK = BladeSetting(force_g=320, speed_mm_s=40.0, passes=2, angle_deg=60, offset_mm=0.3)

KINDS: Mapping[Kind, KindOfFilm] = {
    Kind.ADHESIVE: KindOfFilm(
        "Adhesive, permanent", over=frozenset({Kind.ADHESIVE, Kind.PRINTABLE}) | _PASTED, under=_STUCK,
    ),
    # What sticks for good pulls off what does not.
    Kind.REMOVABLE: KindOfFilm(
        "Adhesive, removable", over=_STUCK | _PASTED, under=frozenset({Kind.REMOVABLE}), most=3, cost_m2=8.0,
        least_part_mm=1.2, least_waste_mm=1.0, unasked=False,
    ),
    Kind.PRINTABLE: KindOfFilm(
        "Adhesive, printable", over=frozenset({Kind.ADHESIVE}), under=_STUCK, most=3, cost_m2=14.0, unasked=False,
    ),
    Kind.SMOOTH: _pressed("Heat-transfer, smooth", under=_PRESSED, most=4),
    Kind.STRETCH: _pressed(
        "Heat-transfer, stretch", under=frozenset({Kind.STRETCH}), over=frozenset({Kind.STRETCH}), unasked=False,
        press=Press(celsius=145, tack_s=3, full_s=12, peel="warm"),
    ),
    Kind.PRINTABLE_CLOTH: _pressed("Heat-transfer, printable", under=_EVEN, unasked=False, cost_m2=22.0),
    Kind.GLITTER: _pressed(
        "Heat-transfer, glitter", least_tip_deg=28.0, finish=Finish(kind="glitter"), blade=_ROUGH,
        spacing_mm=3.0, least_part_mm=1.5,
        least_waste_mm=1.2, cost_m2=28.0, press=Press(celsius=155, full_s=15, peel="warm"),
    ),
    Kind.FLOCK: _pressed(
        "Heat-transfer, flock", least_tip_deg=28.0, finish=Finish(kind="flock"), grain="none",
        spacing_mm=3.0, least_part_mm=1.5,
        least_waste_mm=1.2, cost_m2=24.0, press=Press(celsius=160, tack_s=4, full_s=17, peel="cold", behind_s=8),
    ),
    Kind.FOIL: _pressed(
        "Heat-transfer, foil", finish=Finish(kind="foil"), grain="half", cost_m2=31.0,
        press=Press(celsius=150, full_s=12, peel="cold"),
    ),
    Kind.METALLIC: _pressed("Heat-transfer, metallic", finish=Finish(kind="metallic"), grain="half", cost_m2=26.0),
    Kind.REFLECTIVE: _pressed(
        "Heat-transfer, reflective", grain="half", cost_m2=38.0, blade=_ROUGH, least_part_mm=1.2, unasked=False,
        press=Press(celsius=150, full_s=15, peel="cold"),
    ),
    Kind.GLOW: _pressed("Heat-transfer, glow in the dark", cost_m2=36.0, least_part_mm=1.2, blade=_ROUGH, unasked=False),
    # It rises when it is hot: nothing even can lie under it or on it.
    Kind.PUFF: _pressed(
        "Heat-transfer, puff", over=_NONE, most=1, least_part_mm=2.0, least_waste_mm=2.0, spacing_mm=3.0, cost_m2=30.0,
        press=Press(celsius=150, tack_s=0, full_s=12, peel="cold"), unasked=False,
    ),
    Kind.STENCIL: KindOfFilm(
        "Stencil film", over=_NONE, under=_NONE, most=1, spacing_mm=4.0, least_part_mm=2.0, least_waste_mm=1.5, cost_m2=6.0,
        uses=(Use.STENCIL,),
    ),
    Kind.CARD: KindOfFilm(
        "Card", "glued", over=_PASTED, under=_STUCK | _PASTED, most=8, blade=_THICK, spacing_mm=3.0, least_part_mm=1.5,
        least_waste_mm=1.5, grain="half", cost_m2=4.0,
    ),
    Kind.PAPER: KindOfFilm(
        "Paper", "glued", over=_PASTED, under=_STUCK | _PASTED, most=8, blade=BladeSetting(force_g=140, speed_mm_s=80.0),
        spacing_mm=2.5, least_part_mm=1.2, least_waste_mm=1.2, grain="half", cost_m2=2.0,
    ),
    Kind.PEN: KindOfFilm("Pen", "drawn", cost_m2=0.0, in_pieces=False),
}  # fmt: skip
"""Every kind: a new one is added above and here; the shelf, the screen and the API follow."""
