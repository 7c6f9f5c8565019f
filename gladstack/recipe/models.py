"""The recipe: what the maker chose, and nothing that can be computed from it.

Colours are the handle by which choices hold on to films: a choice about "#c0392b" concerns the film whose colour is nearest
to it, so it survives another number of colours or another tracing.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, StringConstraints, field_validator

from gladstack.core.errors import LengthError
from gladstack.core.joints import Joint, JointKind
from gladstack.core.palette import MAX_COLOURS
from gladstack.core.units import Unit, parse_length

Colour = Annotated[str, StringConstraints(pattern=r"^#[0-9a-f]{6}$")]
Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]
Method = Literal["adhesive", "heat-transfer"]
Background = Literal["drop", "outside", "keep"]


def _as_mm(value: object) -> object:
    """Lengths may be written as makers write them ("3mm", "1/8in"); bare numbers are millimetres."""
    if not isinstance(value, str):
        return value
    try:
        return parse_length(value)
    except LengthError as fault:
        raise ValueError(str(fault)) from fault


_LENGTH = BeforeValidator(_as_mm, json_schema_input_type=float | str)

MIN_WIDTH_MM, MAX_WIDTH_MM = 2.0, 5000.0
WidthMm = Annotated[float, Field(ge=MIN_WIDTH_MM, le=MAX_WIDTH_MM, allow_inf_nan=False), _LENGTH]
DetailMm = Annotated[float, Field(ge=0.0, le=20.0, allow_inf_nan=False), _LENGTH]
JointMm = Annotated[float, Field(ge=0.0, le=50.0, allow_inf_nan=False), _LENGTH]
SheetMm = Annotated[float, Field(ge=10.0, le=50_000.0, allow_inf_nan=False), _LENGTH]
MarginMm = Annotated[float, Field(ge=0.0, le=500.0, allow_inf_nan=False), _LENGTH]


class Frozen(BaseModel):
    """A value: never changed in place, no unknown fields."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class PictureArt(Frozen):
    """A picture brought in: its content hash, its name as a file, and how wide it is to be."""

    kind: Literal["picture"] = "picture"
    picture: Annotated[str, StringConstraints(pattern=r"^[0-9a-f]{64}$")]
    filename: Annotated[str, StringConstraints(max_length=300)] = ""
    width_mm: WidthMm


class Merge(Frozen):
    """Two colours are one film: what is `colour` counts as `into`."""

    colour: Colour
    into: Colour


class Separation(Frozen):
    """How the picture is parted into colours.

    `count` includes the background (None: as proposed); `picked` are colours taken from the picture by the maker.
    """

    count: Annotated[int, Field(ge=1, le=MAX_COLOURS)] | None = None
    picked: Annotated[tuple[Colour, ...], Field(max_length=MAX_COLOURS)] = ()
    merges: Annotated[tuple[Merge, ...], Field(max_length=64)] = ()
    dropped: Annotated[tuple[Colour, ...], Field(max_length=64)] = ()
    background: Background = "drop"
    detail_mm: DetailMm = 0.02
    smoothing_mm: DetailMm = 0.0
    speck_mm: DetailMm = 0.4


class JointRule(Frozen):
    """A joint as chosen; `mm` is the lap or the gap, and means nothing for butt."""

    kind: Literal["butt", "lap", "gap", "full"] = "butt"
    mm: JointMm = 0.4

    def joint(self) -> Joint:
        """The core's joint."""
        return Joint(JointKind(self.kind), 0.0 if self.kind == "butt" else self.mm)


class SheetChoice(Frozen):
    """A sheet of film: its size and the margin to keep."""

    width_mm: SheetMm = 305.0
    height_mm: SheetMm = 305.0
    margin_mm: MarginMm = 6.0


class FilmChoice(Frozen):
    """What the maker chose for the film of one colour; None leaves it to the design's default or to the proposal."""

    colour: Colour
    name: Name | None = None
    joint: JointRule | None = None
    method: Method | None = None
    sheet: SheetChoice | None = None


class PairJoint(Frozen):
    """The joint of just these two films, whichever of them lies lower."""

    a: Colour
    b: Colour
    rule: JointRule


class Recipe(Frozen):
    """One design, as all its choices."""

    version: Literal[1] = 1
    name: Name
    art: PictureArt
    unit: Unit = "mm"
    method: Method = "adhesive"
    separation: Separation = Separation()
    order: Annotated[tuple[Colour, ...], Field(max_length=64)] = ()
    films: Annotated[tuple[FilmChoice, ...], Field(max_length=64)] = ()
    joint: JointRule = JointRule()
    pairs: Annotated[tuple[PairJoint, ...], Field(max_length=2048)] = ()
    sheet: SheetChoice = SheetChoice()
    marks: bool = False

    @field_validator("order")
    @classmethod
    def _once_each(cls, order: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(dict.fromkeys(order))

    def film(self, colour: str) -> FilmChoice:
        """The choices for exactly this colour, empty if none were made."""
        return next((f for f in self.films if f.colour == colour), FilmChoice(colour=colour))
