"""The kinds of values that recipes are made of: colours, names, lengths, and the base of all models."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from functools import cached_property
from typing import Annotated, Any, Literal, TypeVar

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, StringConstraints

from gladstack.core.base.errors import LengthError
from gladstack.core.base.text import readable, readable_line
from gladstack.core.base.units import parse_length

Colour = Annotated[str, StringConstraints(pattern=r"^#[0-9a-f]{6}$")]


def clean_text(value: Any) -> Any:
    """Text as one readable line; what is no text stays as it is, to be refused."""
    return readable_line(value) if isinstance(value, str) else value


def clean_words(value: Any) -> Any:
    """Text with readable characters only, in as many lines as it has."""
    return readable(value) if isinstance(value, str) else value


Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120), BeforeValidator(clean_text)]
Filename = Annotated[str, StringConstraints(max_length=300), BeforeValidator(clean_text)]
Hash = Annotated[str, StringConstraints(pattern=r"^[0-9a-f]{64}$")]
Id = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9-]{0,39}$")]
"""What an art, a making or a film without a colour of its own is called in the recipe."""
NAMES_FILM = "names a film"
FilmKey = Annotated[str, StringConstraints(pattern=r"^(#[0-9a-f]{6}|[a-z][a-z0-9-]{0,39})$"), NAMES_FILM]
"""A film: by the colour it has in a picture or in the stack, or by an id where two films have one colour."""
Method = Literal["adhesive", "heat-transfer", "glued"]


def _as_mm(value: object) -> object:
    """Lengths may be written as makers write them ("3mm", "-1/8in"); bare numbers are millimetres."""
    if not isinstance(value, str):
        return value
    text = value.strip()
    try:
        return -parse_length(text[1:]) if text[:1] in ("-", "−") else parse_length(text)
    except LengthError as fault:
        raise ValueError(str(fault)) from fault


_LENGTH = BeforeValidator(_as_mm, json_schema_input_type=float | str)


@dataclass(frozen=True)
class Scales:
    """How a number follows when a design is scaled by f: times f to a power; what is `added` only where that is wanted."""

    power: int
    added: bool = False


MOTIF, ADDED, ADDED_AREA, LIMIT = Scales(1), Scales(1, added=True), Scales(2, added=True), Scales(0)
"""A measure of the motif; one of what is added to it (joints, shadows, treatments), or an area of that; what stays."""

MIN_WIDTH_MM, MAX_WIDTH_MM = 2.0, 5000.0
WidthMm = Annotated[float, Field(ge=MIN_WIDTH_MM, le=MAX_WIDTH_MM, allow_inf_nan=False), _LENGTH, MOTIF]
SizeMm = Annotated[float, Field(ge=0.5, le=MAX_WIDTH_MM, allow_inf_nan=False), _LENGTH, MOTIF]
PlaceMm = Annotated[float, Field(ge=-20_000.0, le=20_000.0, allow_inf_nan=False), _LENGTH, MOTIF]
DetailMm = Annotated[float, Field(ge=0.0, le=20.0, allow_inf_nan=False), _LENGTH, LIMIT]
JointMm = Annotated[float, Field(ge=0.0, le=50.0, allow_inf_nan=False), _LENGTH, ADDED]
OffsetMm = Annotated[float, Field(ge=-200.0, le=200.0, allow_inf_nan=False), _LENGTH, ADDED]
LineMm = Annotated[float, Field(ge=0.05, le=5.0, allow_inf_nan=False), _LENGTH, LIMIT]
StitchMm = Annotated[float, Field(ge=0.1, le=200.0, allow_inf_nan=False), _LENGTH, ADDED]
SheetMm = Annotated[float, Field(ge=10.0, le=50_000.0, allow_inf_nan=False), _LENGTH]
SeamMm = Annotated[float, Field(ge=-50.0, le=200.0, allow_inf_nan=False), _LENGTH]
MarginMm = Annotated[float, Field(ge=0.0, le=500.0, allow_inf_nan=False), _LENGTH]
ClearanceMm = Annotated[float, Field(ge=0.2, le=100.0, allow_inf_nan=False), _LENGTH]
AreaMm2 = Annotated[float, Field(ge=0.0, le=1e6, allow_inf_nan=False), ADDED_AREA]
Degrees = Annotated[float, Field(ge=-720.0, le=720.0, allow_inf_nan=False)]
Factor = Annotated[float, Field(ge=0.01, le=100.0, allow_inf_nan=False)]


class Frozen(BaseModel):
    """A value: never changed in place, no unknown fields."""

    model_config = ConfigDict(frozen=True, extra="forbid", json_schema_serialization_defaults_required=True)

    @cached_property
    def digest(self) -> bytes:
        """A hash of its kind and all it holds."""
        text = f"{type(self).__name__}:{self.model_dump_json()}"
        return hashlib.blake2b(text.encode(), digest_size=16).digest()


M = TypeVar("M", bound=Frozen)


def changed(model: M, **changes: Any) -> M:
    """A copy with some fields changed, checked anew."""
    return type(model).model_validate({**{k: getattr(model, k) for k in type(model).model_fields}, **changes})
