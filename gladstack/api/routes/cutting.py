"""Cutting: a job at the cutter, and the steps there."""

from __future__ import annotations

from fastapi import APIRouter, Request

from gladstack.api.base.waiting import while_there
from gladstack.api.routes.depends import Cutting
from gladstack.api.views.cutting import BeginCut, CutStep, CutView

ROUTER = APIRouter()


@ROUTER.get("/api/jobs/{job}/cutting", operation_id="showCutting")
def show_cutting(job: str, desk: Cutting) -> CutView | None:
    """How far a job at the cutter is; null if it is not there."""
    return desk.view(job)


@ROUTER.post("/api/jobs/{job}/cutting", operation_id="beginCutting")
async def begin_cutting(job: str, wanted: BeginCut, desk: Cutting, request: Request) -> CutView | None:
    """Takes a job to the cutter."""
    return await while_there(request, desk.begin(job, wanted.base))


@ROUTER.post("/api/jobs/{job}/cutting/steps", operation_id="stepCutting")
def step_cutting(job: str, step: CutStep, desk: Cutting) -> CutView | None:
    """One step at the cutter; null once cutting was ended."""
    return desk.step(job, step)
