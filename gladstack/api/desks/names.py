"""Lists of names: read, checked row by row, looked at, and made a job of."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from gladstack.api.desks.building import Builder
from gladstack.api.desks.jobs import JobDesk
from gladstack.api.tasks import designs as design_tasks
from gladstack.api.tasks.designs import DesignWork
from gladstack.api.views.shop import JobView
from gladstack.recipe.art.fields import fields_of, usual_fit
from gladstack.recipe.model.fields import Fit
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.values import SizeMm
from gladstack.shop.jobs.names import MOST_BYTES, MOST_ROWS, CheckedRow, names_job
from gladstack.work import costs

MOST_READINGS = 8
Text = Annotated[str, Field(max_length=200)]
Values = Annotated[dict[Annotated[str, Field(max_length=60)], Text], Field(max_length=40)]


class MendedRow(BaseModel):
    """What was mended by hand in a row: its words, and what becomes of it if it is too wide."""

    values: Values | None = None
    fit: Fit | None = None
    left_out: bool = False


class NamesWanted(BaseModel):
    """A list as text, what becomes of long names (None: as proposed), and what was mended by hand in rows, by number."""

    text: Annotated[str, Field(max_length=MOST_BYTES)]
    fit: Fit | None = None
    mended: Annotated[dict[int, MendedRow], Field(max_length=MOST_ROWS)] = {}


class NamesRowView(BaseModel):
    """A row of a list in the design: what is wrong with it, if anything, how wide it is of how much, and where all
    are alike, how tall the capitals of each field are.
    """

    number: int
    values: dict[str, str]
    copies: int
    fit: Fit
    problem: str
    told: str
    width_mm: float
    room_mm: float
    capitals_mm: dict[str, float]
    left_out: bool


class NamesView(BaseModel):
    """A list read: the design's fields, what becomes of long names, its rows."""

    fields: list[str]
    fit: Fit
    rows: list[NamesRowView]


class NameWanted(BaseModel):
    """The words of one row to look at."""

    values: Values
    fit: Fit = "as-is"
    capitals_mm: Annotated[dict[Annotated[str, Field(max_length=60)], SizeMm], Field(max_length=40)] = {}
    nth: Annotated[int, Field(ge=0, le=MOST_ROWS)] = 0


class ReadingView(BaseModel):
    """What a file reads as in one encoding."""

    name: str
    text: str


class ListText(BaseModel):
    """What a file may read as, the likeliest first; just one where its encoding is known."""

    readings: list[ReadingView]


class NamesDesk:
    """Lists of names for designs."""

    def __init__(self, builder: Builder, desk: JobDesk) -> None:
        self.builder = builder
        self.desk = desk

    async def checked(self, design: str, wanted: NamesWanted) -> NamesView:
        """Every row of a list laid into a design."""
        rows, recipe, left_out = await self._rows(design, wanted)
        return NamesView(
            fields=list(fields_of(recipe)),
            fit=wanted.fit or usual_fit(recipe),
            rows=[
                NamesRowView(
                    number=r.number, values=dict(r.row.values), copies=r.row.copies, fit=r.fit, problem=r.problem,
                    told=r.told, width_mm=r.width_mm, room_mm=r.room_mm,
                    capitals_mm=dict(r.capitals_mm), left_out=r.number in left_out,
                )
                for r in rows
            ],
        )  # fmt: skip

    async def look(self, design: str, wanted: NameWanted) -> bytes:
        """One row built, as SVG."""
        held = await run_in_threadpool(self.builder.store.get, design)
        job = DesignWork(self.builder.data, held.revision.recipe)
        cost = costs.building_s(1)
        return await self.builder.crew.run(
            cost, "This name", design_tasks.name_look, job, wanted.values, wanted.fit, wanted.capitals_mm
        )

    async def job(self, design: str, wanted: NamesWanted) -> JobView:
        """A job of all rows that can be cut."""
        rows, _, left_out = await self._rows(design, wanted)
        held = await run_in_threadpool(self.builder.store.get, design)
        name = f"{held.revision.recipe.name[:100]}: names"
        made = names_job(name, design, held.revision.id, [r for r in rows if r.number not in left_out])
        return await run_in_threadpool(lambda: self.desk.view_of(self.desk.jobs.create(made, label="Began with a list")))

    async def _rows(self, design: str, wanted: NamesWanted) -> tuple[list[CheckedRow], Recipe, set[int]]:
        held = await run_in_threadpool(self.builder.store.get, design)
        recipe = held.revision.recipe
        job = DesignWork(self.builder.data, recipe)
        mended = {k: (tuple(m.values.items()) if m.values is not None else None, m.fit) for k, m in wanted.mended.items()}
        rows = await self.builder.light_first(
            "This list", design, design_tasks.names_checked, job, wanted.text, wanted.fit or usual_fit(recipe), mended
        )
        left_out = {k for k, m in wanted.mended.items() if m.left_out}
        return rows, recipe, left_out
