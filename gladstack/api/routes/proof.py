"""The proof of a design: what will go wrong on its film, what a slip bares, what is narrow."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response
from pydantic import BaseModel, Field

from gladstack.api.base.waiting import while_there
from gladstack.api.routes.depends import Jobs, Revision
from gladstack.api.views.findings import PointView
from gladstack.api.views.proof import ProofView, SlippedView, WidthsView, WorseView
from gladstack.proof.helping import ToldPlace
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.values import FilmKey

ROUTER = APIRouter()
Slip = Annotated[float, Query(ge=-20.0, le=20.0, allow_inf_nan=False)]


@ROUTER.get("/api/designs/{design}/proof", operation_id="proofOf", response_model=ProofView)
async def proof_of(design: str, desk: Jobs, request: Request) -> Response:
    """All that is told of a design on the film that its own sheets have it cut from."""
    return Response(await while_there(request, desk.proof(design)), media_type="application/json")


@ROUTER.get("/api/designs/{design}/slip", operation_id="slipFilm")
async def slip_film(design: str, film: FilmKey, x_mm: Slip, y_mm: Slip, desk: Jobs, request: Request) -> SlippedView:
    """What shows through if a film is laid so many mm off its place."""
    return await while_there(request, desk.slipped(design, film, (x_mm, y_mm)))


class Asked(BaseModel):
    """What is told of a revision of a design, and edits of which it is asked whether they mend it."""

    base: Revision
    code: Annotated[str, Field(max_length=40)]
    about: Annotated[str, Field(max_length=60)] | None
    at: PointView | None
    figure: Annotated[float, Field(allow_inf_nan=False)] | None
    edits: Annotated[list[Edit], Field(min_length=1, max_length=8)]


@ROUTER.post("/api/designs/{design}/helping", operation_id="whatHelps")
async def what_helps(design: str, asked: Asked, desk: Jobs, request: Request) -> list[bool]:
    """Which of some edits, each made by itself, mend what is told and make nothing worse; nothing is kept of them."""
    at = (asked.at.x_mm, asked.at.y_mm) if asked.at else None
    told = ToldPlace(asked.code, asked.about, at, asked.figure)
    return await while_there(request, desk.helping(design, asked.base, told, asked.edits))


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
