"""Routes of the shop: the shelf, jobs, and their plans."""

from __future__ import annotations

import re
from typing import Annotated

from fastapi import Depends, FastAPI, File, Query, Request, UploadFile
from fastapi.responses import Response
from pydantic import BaseModel, Field

from gladstack.api.jobs import JobDesk
from gladstack.api.shop_views import (
    CloserAnswer,
    CloserWanted,
    Counted,
    FormatView,
    JobListView,
    JobView,
    NewJob,
    NewPiece,
    PlanView,
    PutAnswer,
    PutWanted,
    ShelfFilmView,
    ShelfView,
)
from gladstack.api.waiting import while_there
from gladstack.core.write.pdf import Paper
from gladstack.recipe.model.faults import said_of_what_was_asked
from gladstack.recipe.model.values import changed
from gladstack.shop.files.formats import OUTPUTS, PLAIN, Format
from gladstack.shop.jobs.edits import AnyJobEdit
from gladstack.shop.papers.job_pages import PageSize
from gladstack.shop.shelf.csv_files import CsvError, read, written
from gladstack.shop.shelf.materials import Material

_MOST_CSV = 2_000_000
Revision = Annotated[int, Field(ge=0, le=2**53)]


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


def _desk(request: Request) -> JobDesk:
    desk: JobDesk = request.app.state.desk
    return desk


Desk = Annotated[JobDesk, Depends(_desk)]


def add_shop_routes(app: FastAPI) -> None:
    """All routes of the shop."""
    _add_shelf_routes(app)
    _add_job_routes(app)


def _add_shelf_routes(app: FastAPI) -> None:
    @app.get("/api/shelf", operation_id="showShelf")
    def show_shelf(desk: Desk, search: Annotated[str, Query(max_length=100)] = "") -> ShelfView:
        """The films of the shelf with what is left of each, and the cutters."""
        return desk.shelf_view(search)

    @app.put("/api/films/{film}", operation_id="saveFilm")
    def save_film(film: str, wanted: Material, desk: Desk) -> Material:
        """Adds a film to the shelf, or changes it."""
        with said_of_what_was_asked():
            new = changed(wanted, id=film)
        desk.shelf.save([new])
        return new

    @app.post("/api/films/{film}/copy", operation_id="copyFilm", status_code=201)
    def copy_film(film: str, desk: Desk) -> Material:
        """A copy of a film under a new name."""
        return desk.copy_film(film)

    @app.post("/api/pieces", operation_id="bringPiece", status_code=201)
    def bring_piece(wanted: NewPiece, desk: Desk) -> ShelfFilmView:
        """Film comes in: a roll, sheets or offcuts."""
        desk.shelf.bring(wanted.material, wanted.kind, wanted.width_mm, wanted.length_mm, wanted.count)
        return ShelfFilmView(material=desk.shelf.material(wanted.material), pieces=desk.shelf.pieces(wanted.material))

    @app.post("/api/pieces/{piece}/count", operation_id="countPiece", status_code=204, response_class=Response)
    def count_piece(piece: str, counted: Counted, desk: Desk) -> Response:
        """Says how much of a piece is really left."""
        desk.shelf.correct(piece, counted.left)
        return Response(status_code=204)

    @app.get("/api/shelf.csv", operation_id="takeShelf", response_class=Response)
    def take_shelf(desk: Desk) -> Response:
        """The films as CSV."""
        headers = {"Content-Disposition": 'attachment; filename="shelf.csv"'}
        return Response(written(desk.shelf.materials()), media_type="text/csv; charset=utf-8", headers=headers)

    @app.post("/api/shelf.csv", operation_id="readShelf")
    async def read_shelf(desk: Desk, file: Annotated[UploadFile, File()]) -> ShelfView:
        """Reads films from CSV: those of a known id are changed, others added; all or none."""
        data = await file.read(_MOST_CSV + 1)
        if len(data) > _MOST_CSV:
            raise CsvError("The file is larger than 2 MB.", "Part it into several.")
        try:
            text = data.decode("utf-8-sig")
        except UnicodeDecodeError as fault:
            raise CsvError("The file is not UTF-8 text.", "Save it as CSV in UTF-8.") from fault
        desk.shelf.save(read(text))
        return desk.shelf_view()


def _add_job_routes(app: FastAPI) -> None:
    @app.get("/api/jobs", operation_id="listJobs")
    def list_jobs(
        desk: Desk,
        search: Annotated[str, Query(max_length=200)] = "",
        most: Annotated[int, Query(ge=1, le=5000)] = 50,
    ) -> JobListView:
        """The jobs whose names hold all words that are searched for, the last changed first, and how many there are."""
        return desk.lines(search, most)

    @app.post("/api/jobs", operation_id="startJob", status_code=201)
    def start_job(wanted: NewJob, desk: Desk) -> JobView:
        """Begins a job of some designs."""
        return desk.begin(wanted)

    @app.get("/api/designs/{design}/job", operation_id="ownJob")
    def own_job(design: str, desk: Desk) -> JobView:
        """A design's own sheets, which are a job of one."""
        return desk.own_job(design)

    @app.get("/api/jobs/{job}", operation_id="openJob")
    def open_job(job: str, desk: Desk) -> JobView:
        """A job as it stands."""
        return desk.open(job)

    @app.post("/api/jobs/{job}/edits", operation_id="editJob")
    def edit_job(job: str, made: JobEditMade, desk: Desk) -> JobView:
        """Makes one edit of a job."""
        return desk.edit(job, made.base, made.edit)

    @app.post("/api/jobs/{job}/undo", operation_id="undoJob")
    def undo_job(job: str, step: JobStep, desk: Desk) -> JobView:
        """Takes the last edit of a job back."""
        return desk.step(lambda: desk.jobs.undo(job, step.base))

    @app.post("/api/jobs/{job}/redo", operation_id="redoJob")
    def redo_job(job: str, step: JobStep, desk: Desk) -> JobView:
        """Makes an edit of a job again."""
        return desk.step(lambda: desk.jobs.redo(job, step.base))

    @app.get("/api/jobs/{job}/plan", operation_id="planOf", response_model=PlanView)
    async def plan_of(job: str, desk: Desk, request: Request) -> Response:
        """The plan of a job, drawn."""
        return Response(await while_there(request, desk.plan(job)), media_type="application/json")

    @app.post("/api/jobs/{job}/closer", operation_id="layCloser")
    async def lay_closer(job: str, wanted: CloserWanted, desk: Desk, request: Request) -> CloserAnswer:
        """Looks for a shorter layout for so many seconds, and takes the best found."""
        return await while_there(request, desk.closer(job, wanted.base, wanted.seconds))

    @app.post("/api/jobs/{job}/parts", operation_id="putPart")
    async def put_part(job: str, wanted: PutWanted, desk: Desk, request: Request) -> PutAnswer:
        """Puts a nested part by hand, pins it, or lets it go."""
        return await while_there(request, desk.put(job, wanted))

    @app.post("/api/jobs/{job}/cut", operation_id="markCut")
    async def mark_cut(job: str, step: JobStep, desk: Desk, request: Request) -> JobView:
        """Says that a job was cut: what it took is taken off the shelf, what it left comes in."""
        return await while_there(request, desk.mark_cut(job, step.base))

    @app.post("/api/jobs/{job}/uncut", operation_id="unmarkCut")
    def unmark_cut(job: str, step: JobStep, desk: Desk) -> JobView:
        """Undoes that."""
        return desk.step(lambda: desk.jobs.unmark_cut(job, step.base))

    @app.get("/api/formats", operation_id="listFormats")
    def list_formats() -> list[FormatView]:
        """The formats that sheets can be written in, and which of them are taken if none is named."""
        return [FormatView(format=kind, says=one.says, usual=kind in PLAIN) for kind, one in OUTPUTS.items()]

    @app.get("/api/jobs/{job}/sheets.zip", operation_id="takeSheets", response_class=Response)
    async def take_sheets(
        job: str,
        desk: Desk,
        request: Request,
        formats: Annotated[list[Format] | None, Query(max_length=len(Format))] = None,
        paper: Paper = "film",
        sheets: Annotated[list[int] | None, Query(max_length=1000)] = None,
    ) -> Response:
        """Sheets in the formats that are wanted, the decals and the order of assembly; or only some sheets; as a ZIP."""
        wanted = desk.files(job, list(dict.fromkeys(formats or PLAIN)), paper, sheets or [])
        name, packed = await while_there(request, wanted)
        return zip_answer(name, packed)

    @app.get("/api/jobs/{job}/job-sheet", operation_id="showJobSheet")
    async def show_job_sheet(job: str, desk: Desk, request: Request, paper: PageSize = "A4") -> JobSheetView:
        """The job sheet's pages, drawn."""
        return JobSheetView(pages=await while_there(request, desk.job_sheet(job, paper)))

    @app.get("/api/jobs/{job}/job-sheet.pdf", operation_id="takeJobSheet", response_class=Response)
    async def take_job_sheet(job: str, desk: Desk, request: Request, paper: PageSize = "A4") -> Response:
        """The job sheet as PDF."""
        made = await while_there(request, desk.job_sheet_pdf(job, paper))
        headers = {"Content-Disposition": 'inline; filename="job-sheet.pdf"'}
        return Response(made, media_type="application/pdf", headers=headers)


def zip_answer(name: str, packed: bytes, ending: str = ".zip") -> Response:
    """A ZIP to be kept under a name."""
    plain = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:60] or "job"
    headers = {"Content-Disposition": f'attachment; filename="{plain}{ending}"'}
    return Response(packed, media_type="application/zip", headers=headers)
