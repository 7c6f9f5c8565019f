"""What a shop's work costs: rates that the maker sets once, in the maker's own currency."""

from __future__ import annotations

from typing import Annotated

from pydantic import BeforeValidator, Field, StringConstraints

from gladstack.recipe.model.values import Frozen, clean_text

Rate = Annotated[float, Field(ge=0.0, le=100_000.0, allow_inf_nan=False)]


class Rates(Frozen):
    """An hour of the cutter and of hands, a square metre of transfer tape, what each decal goes on (`blank`), and the margin
    that is added to all of it, in percent.
    """

    currency: Annotated[str, StringConstraints(strip_whitespace=True, max_length=8), BeforeValidator(clean_text)] = ""
    cutter_hour: Rate = 0.0
    hand_hour: Rate = 0.0
    tape_m2: Rate = 0.0
    blank: Rate = 0.0
    margin_percent: Annotated[float, Field(ge=0.0, le=1000.0, allow_inf_nan=False)] = 0.0
