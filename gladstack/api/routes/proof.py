"""The proof of a design: what will go wrong on its film, what a slip bares, what is narrow."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response

from gladstack.api.base.waiting import while_there
from gladstack.api.routes.depends import Jobs
from gladstack.api.views.proof import ProofView, SlippedView, WidthsView
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


@ROUTER.get("/api/designs/{design}/widths", operation_id="widthsOf", response_model=list[WidthsView])
async def widths_of(design: str, desk: Jobs, request: Request) -> Response:
    """The narrow stretches of films and their waste."""
    return Response(await while_there(request, desk.widths(design)), media_type="application/json")
