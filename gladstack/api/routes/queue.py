"""How work stands: a request's place in the queue and how far it has come, and whether every lane works."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Path
from pydantic import BaseModel

from gladstack.api.routes.depends import Workers

ROUTER = APIRouter()


class WaitingView(BaseModel):
    """A request that waits or is worked on: how many are done before it, and how many of its steps are done, if any."""

    before: int
    done: int
    of: int


class LaneView(BaseModel):
    """A lane of work: whether its worker runs, how much waits, and how many workers were replaced since the start."""

    lane: str
    alive: bool
    waiting: int
    replaced: int


class HealthView(BaseModel):
    """Whether the app is well."""

    well: bool
    lanes: list[LaneView]


@ROUTER.get("/api/waiting/{ticket}", operation_id="howItStands")
async def how_it_stands(crew: Workers, ticket: Annotated[str, Path(pattern=r"^[0-9a-z-]{8,40}$")]) -> WaitingView | None:
    """How a request stands that was sent with this ticket; null if nothing of it waits or is worked on."""
    found = crew.standing(ticket)
    return WaitingView.model_validate(vars(found)) if found else None


@ROUTER.get("/api/health", operation_id="health")
async def health(crew: Workers) -> HealthView:
    """Whether every worker runs; one that ended is replaced when it is needed next."""
    lanes = [LaneView.model_validate(vars(lane)) for lane in crew.health()]
    return HealthView(well=all(lane.alive for lane in lanes), lanes=lanes)
