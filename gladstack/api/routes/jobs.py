"""Jobs: what is cut of which designs, their plans and files."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response
from pydantic import BaseModel

from gladstack.api.base.waiting import while_there
from gladstack.api.routes.depends import Jobs, Revision
from gladstack.api.routes.zips import zip_answer
from gladstack.api.views.had import HadView
from gladstack.api.views.records import AgainWanted, CutRecordView
from gladstack.api.views.shop import (
    CloserAnswer,
    CloserWanted,
    FormatView,
    JobListView,
    JobView,
    NewJob,
    PlanView,
    PutAnswer,
    PutWanted,
)
from gladstack.core.write.pdf import Paper
from gladstack.shop.files.formats import OUTPUTS, PLAIN
from gladstack.shop.jobs.edits import AnyJobEdit
from gladstack.shop.papers.job_pages import PageSize
from gladstack.shop.shelf.formats import Format

ROUTER = APIRouter()


class JobEditMade(BaseModel):
    """An edit of a job, and the revision it was made on."""

    base: Revision
    edit: AnyJobEdit


class JobSheetView(BaseModel):
    """The pages of a job sheet as SVG, the same as are printed."""

    pages: list[str]


class JobStep(BaseModel):
    """The revision a step is taken from."""

    base: Revision


@ROUTER.get("/api/jobs", operation_id="listJobs")
def list_jobs(
    desk: Jobs,
    search: Annotated[str, Query(max_length=200)] = "",
    most: Annotated[int, Query(ge=1, le=5000)] = 50,
) -> JobListView:
    """The jobs whose names hold all words that are searched for, the last changed first, and how many there are."""
    return desk.lines(search, most)


@ROUTER.post("/api/jobs", operation_id="startJob", status_code=201)
def start_job(wanted: NewJob, desk: Jobs) -> JobView:
    """Begins a job of some designs."""
    return desk.begin(wanted)


@ROUTER.get("/api/designs/{design}/job", operation_id="ownJob")
def own_job(design: str, desk: Jobs) -> JobView:
    """A design's own sheets, which are a job of one."""
    return desk.own_job(design)


@ROUTER.get("/api/designs/{design}/arts/{art}/had", operation_id="coloursIHave")
async def colours_i_have(design: str, art: str, desk: Jobs, request: Request) -> HadView:
    """What a picture's colours become if only films of the shelf are taken; nothing is changed by it."""
    return await while_there(request, desk.had(design, art))


@ROUTER.get("/api/jobs/{job}", operation_id="openJob")
def open_job(job: str, desk: Jobs) -> JobView:
    """A job as it stands."""
    return desk.open(job)


@ROUTER.post("/api/jobs/{job}/edits", operation_id="editJob")
def edit_job(job: str, made: JobEditMade, desk: Jobs) -> JobView:
    """Makes one edit of a job."""
    return desk.edit(job, made.base, made.edit)


@ROUTER.post("/api/jobs/{job}/undo", operation_id="undoJob")
def undo_job(job: str, step: JobStep, desk: Jobs) -> JobView:
    """Takes the last edit of a job back."""
    return desk.step(lambda: desk.jobs.undo(job, step.base))


@ROUTER.post("/api/jobs/{job}/redo", operation_id="redoJob")
def redo_job(job: str, step: JobStep, desk: Jobs) -> JobView:
    """Makes an edit of a job again."""
    return desk.step(lambda: desk.jobs.redo(job, step.base))


@ROUTER.get("/api/jobs/{job}/plan", operation_id="planOf", response_model=PlanView)
async def plan_of(job: str, desk: Jobs, request: Request) -> Response:
    """The plan of a job, drawn."""
    return Response(await while_there(request, desk.plan(job)), media_type="application/json")


@ROUTER.post("/api/jobs/{job}/closer", operation_id="layCloser")
async def lay_closer(job: str, wanted: CloserWanted, desk: Jobs, request: Request) -> CloserAnswer:
    """Looks for a shorter layout for so many seconds, and takes the best found."""
    return await while_there(request, desk.closer(job, wanted.base, wanted.seconds))


@ROUTER.post("/api/jobs/{job}/parts", operation_id="putPart")
async def put_part(job: str, wanted: PutWanted, desk: Jobs, request: Request) -> PutAnswer:
    """Puts a nested part by hand, pins it, or lets it go."""
    return await while_there(request, desk.put(job, wanted))


@ROUTER.post("/api/jobs/{job}/cut", operation_id="markCut")
async def mark_cut(job: str, step: JobStep, desk: Jobs, request: Request) -> JobView:
    """Says that a job was cut: what it took is taken off the shelf, what it left comes in."""
    return await while_there(request, desk.mark_cut(job, step.base))


@ROUTER.post("/api/jobs/{job}/uncut", operation_id="unmarkCut")
def unmark_cut(job: str, step: JobStep, desk: Jobs) -> JobView:
    """Undoes that."""
    return desk.step(lambda: desk.jobs.unmark_cut(job, step.base))


@ROUTER.post("/api/jobs/{job}/again", operation_id="cutAgain")
def cut_again(job: str, wanted: AgainWanted, desk: Jobs) -> JobView:
    """Makes a job that was cut ready to be cut again; what was cut stays a record."""
    return desk.step(lambda: desk.jobs.again(job, wanted.base, rest=wanted.rest, record=wanted.record))


@ROUTER.get("/api/jobs/{job}/records", operation_id="cutRecords")
def cut_records(job: str, desk: Jobs) -> list[CutRecordView]:
    """What was cut of a job, the last first."""
    return desk.records(job)


@ROUTER.get("/api/formats", operation_id="listFormats")
def list_formats() -> list[FormatView]:
    """The formats that sheets can be written in, and which of them are taken if none is named."""
    return [FormatView(format=kind, says=one.says, usual=kind in PLAIN) for kind, one in OUTPUTS.items()]


@ROUTER.get("/api/jobs/{job}/sheets.zip", operation_id="takeSheets", response_class=Response)
async def take_sheets(
    job: str,
    desk: Jobs,
    request: Request,
    formats: Annotated[list[Format] | None, Query(max_length=len(Format))] = None,
    paper: Paper = "film",
    sheets: Annotated[list[int] | None, Query(max_length=1000)] = None,
) -> Response:
    """Sheets in the formats that are wanted, the decals and the order of assembly; or only some sheets; as a ZIP."""
    wanted = desk.files(job, list(dict.fromkeys(formats or PLAIN)), paper, sheets or [])
    name, packed = await while_there(request, wanted)
    return zip_answer(name, packed)


@ROUTER.get("/api/jobs/{job}/job-sheet", operation_id="showJobSheet")
async def show_job_sheet(job: str, desk: Jobs, request: Request, paper: PageSize = "A4") -> JobSheetView:
    """The job sheet's pages, drawn."""
    return JobSheetView(pages=await while_there(request, desk.job_sheet(job, paper)))


@ROUTER.get("/api/jobs/{job}/job-sheet.pdf", operation_id="takeJobSheet", response_class=Response)
async def take_job_sheet(job: str, desk: Jobs, request: Request, paper: PageSize = "A4") -> Response:
    """The job sheet as PDF."""
    made = await while_there(request, desk.job_sheet_pdf(job, paper))
    headers = {"Content-Disposition": 'inline; filename="job-sheet.pdf"'}
    return Response(made, media_type="application/pdf", headers=headers)
