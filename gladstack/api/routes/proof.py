"""The proof of a design: what will go wrong on its film, what a slip bares, what is narrow."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response
from pydantic import BaseModel, Field

from gladstack.api.base.waiting import while_there
from gladstack.api.routes.depends import Jobs, Revision
from gladstack.api.views.findings import FindingView, PointView
from gladstack.api.views.proof import ProofView, SlippedView, WidthsView, WorseView
from gladstack.proof.helping import ToldPlace
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.values import FilmKey
from gladstack.shop.jobs.edits import AnyJobEdit

ROUTER = APIRouter()
Slip = Annotated[float, Query(ge=-20.0, le=20.0, allow_inf_nan=False)]


@ROUTER.get("/api/designs/{design}/proof", operation_id="proofOf", response_model=ProofView)
async def proof_of(design: str, desk: Jobs, request: Request) -> Response:
    """All that is told of a design on the film that its own sheets have it cut from."""
    return Response(await while_there(request, desk.proof(design)), media_type="application/json")


@ROUTER.get("/api/designs/{design}/proof/films", operation_id="proofOfFilms", response_model=list[FindingView])
async def proof_of_films(design: str, desk: Jobs, request: Request) -> Response:
    """What the proof tells of each film by itself: there sooner than the whole of it."""
    return Response(await while_there(request, desk.film_findings(design)), media_type="application/json")


@ROUTER.get("/api/designs/{design}/slip", operation_id="slipFilm")
async def slip_film(design: str, film: FilmKey, x_mm: Slip, y_mm: Slip, desk: Jobs, request: Request) -> SlippedView:
    """What shows through if a film is laid so many mm off its place."""
    return await while_there(request, desk.slipped(design, film, (x_mm, y_mm)))


class AskedPlace(BaseModel):
    """What is told of a revision of a design or a job."""

    base: Revision
    code: Annotated[str, Field(max_length=40)]
    about: Annotated[str, Field(max_length=60)] | None
    at: PointView | None
    figure: Annotated[float, Field(allow_inf_nan=False)] | None

    @property
    def told(self) -> ToldPlace:
        """What tells it from others."""
        return ToldPlace(self.code, self.about, (self.at.x_mm, self.at.y_mm) if self.at else None, self.figure)


class Asked(AskedPlace):
    """Edits of a design of which it is asked whether they mend what is told of it."""

    edits: Annotated[list[Edit], Field(min_length=1, max_length=8)]


class AskedOnSheets(AskedPlace):
    """The same for edits of a job."""

    edits: Annotated[list[AnyJobEdit], Field(min_length=1, max_length=8)]


@ROUTER.post("/api/designs/{design}/helping", operation_id="whatHelps")
async def what_helps(design: str, asked: Asked, desk: Jobs, request: Request) -> list[bool]:
    """Which of some edits, each made by itself, mend what is told and make nothing worse; nothing is kept of them."""
    return await while_there(request, desk.helping(design, asked.base, asked.told, asked.edits))


@ROUTER.post("/api/jobs/{job}/helping", operation_id="whatHelpsOnSheets")
async def what_helps_on_sheets(job: str, asked: AskedOnSheets, desk: Jobs, request: Request) -> list[bool]:
    """Which of some edits of a job, each made by itself, mend what is told of its plan; nothing is kept of them."""
    return await while_there(request, desk.helping_on_sheets(job, asked.base, asked.told, asked.edits))


class Proposed(BaseModel):
    """An edit that is not made yet, and the revision that it would be made on."""

    base: Revision
    edit: Edit


@ROUTER.post("/api/designs/{design}/worse", operation_id="whatGetsWorse")
async def what_gets_worse(design: str, proposed: Proposed, desk: Jobs, request: Request) -> list[WorseView]:
    """What will or may fail once an edit is made, and does not now; nothing is kept of it."""
    return await while_there(request, desk.worse_after(design, proposed.base, proposed.edit))


@ROUTER.get("/api/designs/{design}/widths", operation_id="widthsOf", response_model=list[WidthsView])
async def widths_of(design: str, desk: Jobs, request: Request) -> Response:
    """The narrow stretches of films and their waste."""
    return Response(await while_there(request, desk.widths(design)), media_type="application/json")
