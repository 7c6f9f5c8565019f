"""The app: routes, door, problems, and the built front end."""

from __future__ import annotations

import asyncio
import re
from collections.abc import AsyncIterator, Callable
from contextlib import asynccontextmanager
from importlib import resources
from pathlib import Path, PurePath
from typing import Annotated, Any, TypeVar

from fastapi import Depends, FastAPI, File, Form, Header, Query, Request, UploadFile
from fastapi.middleware.gzip import GZipMiddleware
from fastapi.responses import FileResponse, Response
from fastapi.staticfiles import StaticFiles
from pydantic import BaseModel, Field

from gladstack import __version__
from gladstack.api import problems
from gladstack.api.cut_routes import CutDesk, add_cut_routes
from gladstack.api.font_routes import FontDesk, add_font_routes
from gladstack.api.guard import COOKIE, Door, Guard, address_of
from gladstack.api.jobs import JobDesk
from gladstack.api.list_routes import ListDesk, add_list_routes
from gladstack.api.names import NamesDesk, add_names_routes
from gladstack.api.parcels import ParcelDesk, add_parcel_routes
from gladstack.api.problems import PROBLEMS, problem
from gladstack.api.queue_routes import Tickets, add_queue_routes
from gladstack.api.request_log import RequestLog
from gladstack.api.shop_routes import add_shop_routes
from gladstack.api.views import BuiltView, DesignView, HistoryView, LikeView, RegionsView
from gladstack.api.waiting import while_there
from gladstack.api.workshop import Workshop
from gladstack.core.base.errors import LengthError
from gladstack.core.base.text import readable_line
from gladstack.core.base.units import parse_length
from gladstack.core.picture.decode import MAX_BYTES
from gladstack.machine.link import Link
from gladstack.machine.operator import Operator
from gladstack.recipe.edit.base import words_of
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.arts import LetteringArt, ShapeArt
from gladstack.recipe.model.recipe import Ground, GroundKind
from gladstack.recipe.model.values import MAX_WIDTH_MM, MIN_WIDTH_MM, Colour, FilmKey, Method, Name
from gladstack.shop.shelf.cutters import NARROW
from gladstack.store.cuts import CutBook
from gladstack.store.database import CUTTER, DESIGNS, KEPT, Database
from gladstack.store.designs import DesignBook
from gladstack.store.fonts import FontShelf
from gladstack.store.jobs import JobBook
from gladstack.store.listing import Listing
from gladstack.store.parcels import ParcelBook
from gladstack.store.shelf import Shelf
from gladstack.work.crew import Crew
from gladstack.work.kept import forget_other_versions

T = TypeVar("T")
_CORNERS = r"^(?:[01]|[01]?\.\d{1,8})(?:,(?:[01]|[01]?\.\d{1,8})){7}$"
_MEDIA = {"PNG": "image/png", "JPEG": "image/jpeg", "GIF": "image/gif", "WEBP": "image/webp", "BMP": "image/bmp"}


_MOST_HELD = 10_000
_TABLE = Ground().colour
"""The folder of the simulated cutter's film."""
Revision = Annotated[int, Field(ge=0, le=2**53)]
"""The number of a revision."""


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


class WordsLike(BaseModel):
    """Words that are to take the place of what an art gives to a film, at a revision."""

    revision: Revision
    film: FilmKey
    text: Annotated[str, Field(min_length=1, max_length=200, pattern=r"\S")]


class Start(BaseModel):
    """A new design that begins with lettering or a plain shape."""

    name: Name | None = None
    art: LetteringArt | ShapeArt = Field(discriminator="kind")
    method: Method = "adhesive"
    ground: Ground = Ground()


class BaseRevision(BaseModel):
    """The revision a step is taken from."""

    base: Revision


class Jump(BaseRevision):
    """A step to any revision of the history."""

    revision: Revision


class Knock(BaseModel):
    """The token that the door asks for."""

    token: Annotated[str, Field(max_length=200)]


def _workshop(request: Request, held: Annotated[str, Header(max_length=_MOST_HELD)] = "") -> Workshop:
    """The workshop, told by the header `Held` which keys the asker has the contents of already."""
    workshop: Workshop = request.app.state.workshop
    return workshop.holding(frozenset(held.split(","))) if held else workshop


Shop = Annotated[Workshop, Depends(_workshop)]


def create_app(data: Path, *, front_end: Path | None = None, crew: Crew | None = None, door: Door | None = None) -> FastAPI:
    """The app on the designs in folder `data`; `front_end` is the built front end, if it is to be served.

    A `crew` that is given is the caller's to close; else the app has one of its own. Raises StoreError.
    """
    own = crew or Crew()

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        own.start()
        yield
        await asyncio.get_running_loop().run_in_executor(None, cutter.close)
        if crew is None:
            await asyncio.get_running_loop().run_in_executor(None, own.close)

    app = FastAPI(
        title="Glad Stack", version=__version__, docs_url=None, redoc_url=None, responses=PROBLEMS, lifespan=lifespan
    )
    database = Database(data / DESIGNS)
    store = DesignBook(database)
    listing = Listing(database)
    listing.empty()
    store.sweep()
    forget_other_versions(data / KEPT)
    app.state.workshop = Workshop(data, store, listing, FontShelf(database), own)
    app.state.desk = JobDesk(data, store, JobBook(database), Shelf(database), own)
    cutter = Link(data / CUTTER, NARROW)
    operator = Operator(CutBook(database), app.state.desk.shelf, cutter)
    app.state.cut_desk = CutDesk(operator, app.state.desk)
    app.state.door = door or Door()
    app.add_middleware(GZipMiddleware, minimum_size=2_000, compresslevel=2)
    app.add_middleware(Tickets, crew=own)
    app.add_middleware(Guard, door=app.state.door)
    app.add_middleware(RequestLog)
    problems.install(app)
    _add_design_routes(app)
    _add_other_routes(app)
    add_font_routes(app, FontDesk(data, app.state.workshop.fonts, own))
    add_list_routes(app, ListDesk(listing, app.state.workshop))
    add_shop_routes(app)
    add_cut_routes(app)
    add_parcel_routes(app, ParcelDesk(ParcelBook(database), app.state.workshop, app.state.desk))
    add_names_routes(app, NamesDesk(app.state.workshop, app.state.desk))
    add_queue_routes(app, own)
    if front_end is not None:
        _add_front_end(app, front_end)
    return app


def built_front_end() -> Path | None:
    """Where the front end was built to, if it was."""
    folder = Path(str(resources.files("gladstack") / "web_dist"))
    return folder if (folder / "index.html").is_file() else None


def _json(body: bytes, status: int = 200) -> Response:
    return Response(body, status, media_type="application/json")


def _add_design_routes(app: FastAPI) -> None:
    @app.post("/api/designs", operation_id="startDesign", status_code=201, response_model=DesignView)
    async def start_design(
        shop: Shop,
        request: Request,
        picture: Annotated[UploadFile, File()],
        width: Annotated[str, Form(max_length=40)] = "120mm",
        method: Annotated[Method, Form()] = "adhesive",
        ground: Annotated[GroundKind, Form()] = "table",
        ground_colour: Annotated[Colour, Form()] = _TABLE,
    ) -> Response:
        """A new design from a picture, `width` wide (such as 120mm or 4 1/2in), to lie on a ground."""
        filename = _filename(picture)
        name = re.sub(r"[_\s]+", " ", PurePath(filename).stem).strip()[:120] or "Untitled"
        wide = _width(width)
        data = await picture.read(MAX_BYTES + 1)
        on = Ground(kind=ground, colour=ground_colour)
        return _json(await while_there(request, shop.start(data, filename, name, wide, method, on)), 201)

    @app.post("/api/designs/plain", operation_id="startPlain", status_code=201, response_model=DesignView)
    async def start_plain(shop: Shop, request: Request, start: Start) -> Response:
        """A new design from lettering or a plain shape."""
        return _json(
            await while_there(
                request, shop.start_plain(start.name or words_of(start.art), start.art, start.method, start.ground)
            ),
            201,
        )

    @app.get("/api/designs/{design}", operation_id="openDesign", response_model=DesignView)
    async def open_design(design: str, shop: Shop, request: Request) -> Response:
        """A design as it stands, with all that is built from it."""
        return _json(await while_there(request, shop.open(design)))

    @app.get("/api/designs/{design}/revisions/{revision}/built", operation_id="builtOf", response_model=BuiltView)
    async def built_of(design: str, revision: Revision, shop: Shop, request: Request) -> Response:
        """What is built from one revision of a design."""
        return _json(await while_there(request, shop.built(design, revision)))

    @app.get("/api/designs/{design}/history", operation_id="historyOf")
    def history_of(design: str, shop: Shop) -> list[HistoryView]:
        """Every step of a design, the oldest first."""
        return shop.history(design)

    @app.post("/api/designs/{design}/edits", operation_id="editDesign", response_model=DesignView)
    async def edit_design(design: str, made: MadeEdit, shop: Shop, request: Request) -> Response:
        """Makes one edit."""
        return _json(await while_there(request, shop.edit(design, made.base, made.edit)))

    @app.get("/api/designs/{design}/arts/{art}/regions", operation_id="listRegions", response_model=RegionsView)
    async def list_regions(
        design: str, art: str, shop: Shop, request: Request, revision: Annotated[Revision, Query()]
    ) -> Response:
        """The regions an art comes as at a revision, whoever has claimed them."""
        return _json(await while_there(request, shop.regions(design, art, revision)))

    @app.post("/api/designs/{design}/tries", operation_id="tryEdit", response_model=BuiltView)
    async def try_edit(design: str, made: MadeEdit, shop: Shop, request: Request) -> Response:
        """What an edit would lead to, while a control is still being handled; nothing is kept of it."""
        return _json(await while_there(request, shop.attempt(design, made.base, made.edit)))

    @app.post("/api/designs/{design}/outcomes", operation_id="drawOutcomes", response_model=list[str])
    async def draw_outcomes(design: str, wanted: Outcomes, shop: Shop, request: Request) -> list[str]:
        """What each of some edits would lead to within a box, as small SVGs; nothing is kept of them."""
        return await while_there(request, shop.outcomes(design, wanted.base, wanted.edits, wanted.box))

    @app.post("/api/designs/{design}/arts/{art}/words-like", operation_id="wordsLike", response_model=list[LikeView])
    async def words_like(design: str, art: str, words: WordsLike, shop: Shop, request: Request) -> list[LikeView]:
        """Words in the fonts of the shelf where an art's part of a film lies, the nearest ink first."""
        return await while_there(request, shop.words_like(design, words.revision, art, words.film, words.text))

    @app.post("/api/designs/{design}/pictures", operation_id="addPicture", response_model=DesignView)
    async def add_picture(
        design: str,
        shop: Shop,
        request: Request,
        picture: Annotated[UploadFile, File()],
        base: Annotated[Revision, Form()],
        width: Annotated[str, Form(max_length=40)] = "60mm",
    ) -> Response:
        """Brings another picture onto the stack."""
        wide = _width(width)
        data = await picture.read(MAX_BYTES + 1)
        return _json(await while_there(request, shop.add_picture(design, base, data, _filename(picture), wide)))

    @app.post("/api/designs/{design}/undo", operation_id="undo", response_model=DesignView)
    async def undo(design: str, step: BaseRevision, shop: Shop, request: Request) -> Response:
        """Takes the last edit back."""
        return _json(await while_there(request, shop.undo(design, step.base)))

    @app.post("/api/designs/{design}/redo", operation_id="redo", response_model=DesignView)
    async def redo(design: str, step: BaseRevision, shop: Shop, request: Request) -> Response:
        """Makes an edit again that was taken back."""
        return _json(await while_there(request, shop.redo(design, step.base)))

    @app.post("/api/designs/{design}/go-to", operation_id="goTo", response_model=DesignView)
    async def go_to(design: str, jump: Jump, shop: Shop, request: Request) -> Response:
        """Goes to any state of the history."""
        return _json(await while_there(request, shop.go_to(design, jump.base, jump.revision)))

    @app.post("/api/designs/{design}/patterns", operation_id="addPattern", response_model=DesignView)
    async def add_pattern(
        design: str,
        shop: Shop,
        request: Request,
        picture: Annotated[UploadFile, File()],
        base: Annotated[Revision, Form()],
        film: Annotated[FilmKey, Form()],
    ) -> Response:
        """Shows a film patterned with a picture."""
        data = await picture.read(MAX_BYTES + 1)
        return _json(await while_there(request, shop.add_pattern(design, base, data, film)))


def _add_other_routes(app: FastAPI) -> None:
    @app.get("/api/pictures/{digest}", operation_id="originalPicture", response_class=Response)
    async def original_picture(
        digest: str, shop: Shop, corners: Annotated[str | None, Query(pattern=_CORNERS)] = None
    ) -> Response:
        """A picture as it was brought in, by its hash; or set straight by four corners, "x,y,x,y,x,y,x,y" as shares."""
        cached = {"Cache-Control": "private, max-age=3600"}
        if corners is not None:
            return Response(await shop.straight_picture(digest, corners), media_type="image/jpeg", headers=cached)
        media = _MEDIA[shop.store.picture_format(digest)]
        return Response(shop.store.picture(digest), media_type=media, headers=cached)

    @app.post("/api/door", operation_id="knock", status_code=204, response_class=Response)
    def knock(request: Request, given: Knock) -> Response:
        """Brings the token once; the browser keeps it from then on."""
        door: Door = request.app.state.door
        if door.token is not None and not door.opens_for(given.token, address_of(request.scope)):
            return problem(401, "token", "Not the token", "This is not the token.", "It was given when the app was started.")
        answer = Response(status_code=204)
        if door.token is not None:
            answer.set_cookie(COOKIE, door.key, max_age=30 * 86400, httponly=True, samesite="strict")
        return answer


def _filename(upload: UploadFile) -> str:
    return readable_line(PurePath(upload.filename or "").name)[:300]


def _width(text: str) -> float:
    width = parse_length(text)
    if not MIN_WIDTH_MM <= width <= MAX_WIDTH_MM:
        raise LengthError(
            f"{width:g} mm is no width for a decal.", f"Choose between {MIN_WIDTH_MM:g} mm and {MAX_WIDTH_MM:g} mm."
        )
    return width


class _Lasting(StaticFiles):
    """Files that are named by their contents, and so never change."""

    def file_response(self, *args: Any, **options: Any) -> Response:
        """The file, to be kept by the browser."""
        answer = super().file_response(*args, **options)
        answer.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return answer


def _add_front_end(app: FastAPI, folder: Path) -> None:
    app.mount("/assets", _Lasting(directory=folder / "assets"), name="assets")

    def index() -> FileResponse:
        return FileResponse(folder / "index.html", headers={"Cache-Control": "no-cache"})

    for path in ("/", "/shelf", "/help", "/design/{rest:path}", "/job/{rest:path}", "/names/{rest:path}"):
        app.add_api_route(path, index, include_in_schema=False, response_class=FileResponse)
    app.mount("/examples", StaticFiles(directory=folder / "examples", check_dir=False), name="examples")
    for name in ("icon.svg", "NOTICES.txt"):
        if (folder / name).is_file():
            app.add_api_route(f"/{name}", _file(folder / name), include_in_schema=False, response_class=FileResponse)


def _file(path: Path) -> Callable[[], FileResponse]:
    return lambda: FileResponse(path)
