"""Designs: begun, opened, edited, tried, and gone back and forth in."""

from __future__ import annotations

import re
from pathlib import PurePath
from typing import Annotated

from fastapi import APIRouter, File, Form, Request, UploadFile
from fastapi.responses import Response
from pydantic import BaseModel, Field

from gladstack.api.base.waiting import while_there
from gladstack.api.routes.depends import Designs, HeldKeys, Revision, filename_of
from gladstack.api.views.compared import FilmChangeView
from gladstack.api.views.designs import BuiltView, DesignView, HistoryView, NewestView
from gladstack.core.base.errors import LengthError
from gladstack.core.base.units import parse_length
from gladstack.core.picture.decode import MAX_BYTES
from gladstack.recipe.edit.arts import name_from
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.arts import LetteringArt, ShapeArt
from gladstack.recipe.model.recipe import Ground, GroundKind
from gladstack.recipe.model.uses import Use
from gladstack.recipe.model.values import MAX_WIDTH_MM, MIN_WIDTH_MM, Colour, FilmKey, Name
from gladstack.store.line import Whose

_TABLE = Ground().colour
ROUTER = APIRouter()


class MadeEdit(BaseModel):
    """An edit, and the revision it was made on."""

    base: Revision
    edit: Edit


Mm = Annotated[float, Field(ge=-1e5, le=1e5, allow_inf_nan=False)]


class Outcomes(BaseModel):
    """Edits to be tried on a revision, each by itself, and the box of the stack that is looked at (mm)."""

    base: Revision
    edits: Annotated[list[Edit], Field(min_length=1, max_length=16)]
    box: tuple[Mm, Mm, Mm, Mm]


class Start(BaseModel):
    """A new design that begins with lettering or a plain shape."""

    name: Name | None = None
    art: LetteringArt | ShapeArt = Field(discriminator="kind")
    use: Use = Use.SURFACE
    ground: Ground = Ground()


class BaseRevision(BaseModel):
    """The revision a step is taken from, and that of the design's sheets, where they were seen."""

    base: Revision
    sheets: Revision | None = None


class Jump(BaseRevision):
    """A step to any state of the history."""

    revision: Revision
    whose: Whose = "design"


@ROUTER.post("/api/designs", operation_id="startDesign", status_code=201, response_model=DesignView)
async def start_design(
    desk: Designs,
    held: HeldKeys,
    request: Request,
    picture: Annotated[UploadFile, File()],
    width: Annotated[str, Form(max_length=40)] = "120mm",
    use: Annotated[Use, Form()] = Use.SURFACE,
    ground: Annotated[GroundKind, Form()] = "table",
    ground_colour: Annotated[Colour, Form()] = _TABLE,
) -> Response:
    """A new design from a picture, `width` wide (such as 120mm or 4 1/2in), to lie on a ground."""
    filename = filename_of(picture)
    name = re.sub(r"[_\s]+", " ", PurePath(filename).stem).strip()[:120] or "Untitled"
    wide = _width(width)
    data = await picture.read(MAX_BYTES + 1)
    on = Ground(kind=ground, colour=ground_colour)
    return _json(await while_there(request, desk.start(data, filename, name, wide, use, on, held)), 201)


@ROUTER.post("/api/designs/plain", operation_id="startPlain", status_code=201, response_model=DesignView)
async def start_plain(desk: Designs, held: HeldKeys, request: Request, start: Start) -> Response:
    """A new design from lettering or a plain shape."""
    return _json(
        await while_there(
            request, desk.start_plain(start.name or _name_of(start.art), start.art, start.use, start.ground, held)
        ),
        201,
    )


@ROUTER.get("/api/designs/{design}", operation_id="openDesign", response_model=DesignView)
async def open_design(design: str, desk: Designs, held: HeldKeys, request: Request) -> Response:
    """A design as it stands, with all that is built from it."""
    return _json(await while_there(request, desk.open(design, held)))


@ROUTER.get("/api/designs/{design}/revisions/{revision}/built", operation_id="builtOf", response_model=BuiltView)
async def built_of(design: str, revision: Revision, desk: Designs, held: HeldKeys, request: Request) -> Response:
    """What is built from one revision of a design."""
    return _json(await while_there(request, desk.built(design, revision, held)))


@ROUTER.get("/api/designs/{design}/revisions/{revision}/compared", operation_id="comparedTo")
async def compared_to(
    design: str, revision: Revision, now: Revision, desk: Designs, request: Request
) -> list[FilmChangeView]:
    """What of a design's films is cut otherwise in revision `now` than it was in `revision`."""
    return await while_there(request, desk.compared(design, revision, now))


@ROUTER.get("/api/designs/{design}/newest", operation_id="newestOf")
def newest_of(design: str, desk: Designs) -> NewestView:
    """Where a design and its own sheets stand."""
    return desk.newest(design)


@ROUTER.get("/api/designs/{design}/history", operation_id="historyOf")
def history_of(design: str, desk: Designs) -> list[HistoryView]:
    """Every step of a design, the oldest first."""
    return desk.history(design)


@ROUTER.post("/api/designs/{design}/edits", operation_id="editDesign", response_model=DesignView)
async def edit_design(design: str, made: MadeEdit, desk: Designs, held: HeldKeys, request: Request) -> Response:
    """Makes one edit."""
    return _json(await while_there(request, desk.edit(design, made.base, made.edit, held)))


@ROUTER.post("/api/designs/{design}/tries", operation_id="tryEdit", response_model=BuiltView)
async def try_edit(design: str, made: MadeEdit, desk: Designs, held: HeldKeys, request: Request) -> Response:
    """What an edit would lead to, while a control is still being handled; nothing is kept of it."""
    return _json(await while_there(request, desk.attempt(design, made.base, made.edit, held)))


@ROUTER.post("/api/designs/{design}/outcomes", operation_id="drawOutcomes", response_model=list[str])
async def draw_outcomes(design: str, wanted: Outcomes, desk: Designs, request: Request) -> list[str]:
    """What each of some edits would lead to within a box, as small SVGs; nothing is kept of them."""
    return await while_there(request, desk.outcomes(design, wanted.base, wanted.edits, wanted.box))


@ROUTER.post("/api/designs/{design}/pictures", operation_id="addPicture", response_model=DesignView)
async def add_picture(
    design: str,
    desk: Designs,
    held: HeldKeys,
    request: Request,
    picture: Annotated[UploadFile, File()],
    base: Annotated[Revision, Form()],
    width: Annotated[str, Form(max_length=40)] = "60mm",
) -> Response:
    """Brings another picture onto the stack."""
    wide = _width(width)
    data = await picture.read(MAX_BYTES + 1)
    return _json(await while_there(request, desk.add_picture(design, base, data, filename_of(picture), wide, held)))


@ROUTER.post("/api/designs/{design}/undo", operation_id="undo", response_model=DesignView)
async def undo(design: str, step: BaseRevision, desk: Designs, held: HeldKeys, request: Request) -> Response:
    """Takes back what was done last, in the design or its sheets."""
    return _json(await while_there(request, desk.undo(design, step.base, step.sheets, held)))


@ROUTER.post("/api/designs/{design}/redo", operation_id="redo", response_model=DesignView)
async def redo(design: str, step: BaseRevision, desk: Designs, held: HeldKeys, request: Request) -> Response:
    """Makes again what was taken back."""
    return _json(await while_there(request, desk.redo(design, step.base, step.sheets, held)))


@ROUTER.post("/api/designs/{design}/go-to", operation_id="goTo", response_model=DesignView)
async def go_to(design: str, jump: Jump, desk: Designs, held: HeldKeys, request: Request) -> Response:
    """Goes to any state of the history."""
    return _json(await while_there(request, desk.go_to(design, jump.base, jump.revision, jump.whose, jump.sheets, held)))


@ROUTER.post("/api/designs/{design}/patterns", operation_id="addPattern", response_model=DesignView)
async def add_pattern(
    design: str,
    desk: Designs,
    held: HeldKeys,
    request: Request,
    picture: Annotated[UploadFile, File()],
    base: Annotated[Revision, Form()],
    film: Annotated[FilmKey, Form()],
) -> Response:
    """Shows a film patterned with a picture."""
    data = await picture.read(MAX_BYTES + 1)
    return _json(await while_there(request, desk.add_pattern(design, base, data, film, held)))


def _name_of(art: LetteringArt | ShapeArt) -> str:
    """What a design that begins with an art is called: its words, or its form."""
    return name_from(art) if isinstance(art, LetteringArt) else art.title.capitalize()


def _json(body: bytes, status: int = 200) -> Response:
    return Response(body, status, media_type="application/json")


def _width(text: str) -> float:
    width = parse_length(text)
    if not MIN_WIDTH_MM <= width <= MAX_WIDTH_MM:
        raise LengthError(
            f"{width:g} mm is no width for a decal.", f"Choose between {MIN_WIDTH_MM:g} mm and {MAX_WIDTH_MM:g} mm."
        )
    return width
