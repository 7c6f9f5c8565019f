"""What was cut of a job, as it is sent."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field


class FilmUsedView(BaseModel):
    """How much of a material a cut took: mm off rolls, and whole sheets and offcuts."""

    model_config = {"from_attributes": True}
    material: str
    rolls_mm: float
    pieces: float


class CopiesView(BaseModel):
    """So many copies of a design."""

    design: str
    name: str
    copies: int


class CutRecordView(BaseModel):
    """One cut of a job: when it began and ended, whether it was brought to its end, what was made, what film it took."""

    id: int
    began: str
    ended: str
    whole: bool
    copies: list[CopiesView]
    films: list[FilmUsedView]


class AgainWanted(BaseModel):
    """How a job that was cut is to be cut again: as it is, as under a record, or just the rest that was added since."""

    base: Annotated[int, Field(ge=0, le=2**53)]
    rest: bool = False
    record: Annotated[int, Field(ge=0, le=2**53)] | None = None
