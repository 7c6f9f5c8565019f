"""The app: routes, guard, problems, and the built front end."""

from __future__ import annotations

import re
from importlib import resources
from pathlib import Path, PurePath
from typing import Annotated

from fastapi import Depends, FastAPI, File, Form, Request, UploadFile
from fastapi.responses import FileResponse, Response
from fastapi.staticfiles import StaticFiles
from pydantic import BaseModel, Field

from gladstack import __version__
from gladstack.api import problems
from gladstack.api.guard import Guard
from gladstack.api.problems import PROBLEMS
from gladstack.api.views import BuiltView, DesignLineView, DesignView, RegionsView, View
from gladstack.api.workshop import Workshop
from gladstack.core.errors import LengthError
from gladstack.core.fonts import MAX_FONT_BYTES
from gladstack.core.picture import MAX_BYTES
from gladstack.core.units import parse_length
from gladstack.recipe.arts import LetteringArt, ShapeArt
from gladstack.recipe.edits import Edit
from gladstack.recipe.files import pack_zip, stack_file
from gladstack.recipe.values import MAX_WIDTH_MM, MIN_WIDTH_MM, FilmKey, Method, Name
from gladstack.store.database import Database
from gladstack.store.designs import DesignBook
from gladstack.store.fonts import FontShelf

_MEDIA = {"PNG": "image/png", "JPEG": "image/jpeg", "GIF": "image/gif", "WEBP": "image/webp", "BMP": "image/bmp"}


class MadeEdit(BaseModel):
    """An edit, and the revision it was made on."""

    base: int
    edit: Edit


class Start(BaseModel):
    """A new design that begins with lettering or a plain shape."""

    name: Name = "Untitled"
    art: LetteringArt | ShapeArt = Field(discriminator="kind")
    method: Method = "adhesive"


class FontView(View):
    """A font of the shelf; `sample` is its name drawn in itself, as path data about 10 units high."""

    key: str
    name: str
    manner: str
    own: bool
    sample: str


class Step(BaseModel):
    """The revision a step is taken from."""

    base: int


class Jump(Step):
    """A step to any revision of the history."""

    revision: Annotated[int, Field(ge=1)]


def _workshop(request: Request) -> Workshop:
    workshop: Workshop = request.app.state.workshop
    return workshop


Shop = Annotated[Workshop, Depends(_workshop)]


def create_app(data: Path, *, front_end: Path | None = None) -> FastAPI:
    """The app on the designs in folder `data`; `front_end` is the built front end, if it is to be served."""
    app = FastAPI(title="Glad Stack", version=__version__, docs_url=None, redoc_url=None, responses=PROBLEMS)
    database = Database(data / "gladstack.sqlite3")
    app.state.workshop = Workshop(DesignBook(database), FontShelf(database))
    app.add_middleware(Guard)
    problems.install(app)
    _add_routes(app)
    if front_end is not None:
        _add_front_end(app, front_end)
    return app


def built_front_end() -> Path | None:
    """Where the front end was built to, if it was."""
    folder = Path(str(resources.files("gladstack") / "web_dist"))
    return folder if (folder / "index.html").is_file() else None


def _add_routes(app: FastAPI) -> None:
    @app.get("/api/designs", operation_id="listDesigns")
    def list_designs(shop: Shop) -> list[DesignLineView]:
        """All designs, the last changed first."""
        return shop.lines()

    @app.post("/api/designs", operation_id="startDesign", status_code=201)
    def start_design(
        shop: Shop,
        picture: Annotated[UploadFile, File()],
        width: Annotated[str, Form(max_length=40)] = "120mm",
        method: Annotated[Method, Form()] = "adhesive",
    ) -> DesignView:
        """A new design from a picture, `width` wide (such as 120mm or 4 1/2in)."""
        filename = PurePath(picture.filename or "").name[:300]
        name = re.sub(r"[_\s]+", " ", PurePath(filename).stem).strip()[:120] or "Untitled"
        return shop.start(picture.file.read(MAX_BYTES + 1), filename, name, _width(width), method)

    @app.post("/api/designs/plain", operation_id="startPlain", status_code=201)
    def start_plain(shop: Shop, start: Start) -> DesignView:
        """A new design from lettering or a plain shape."""
        return shop.start_plain(start.name, start.art, start.method)

    @app.get("/api/designs/{design}", operation_id="openDesign")
    def open_design(design: str, shop: Shop) -> DesignView:
        """A design as it stands, with all that is built from it."""
        return shop.open(design)

    @app.post("/api/designs/{design}/edits", operation_id="editDesign")
    def edit_design(design: str, made: MadeEdit, shop: Shop) -> DesignView:
        """Makes one edit."""
        return shop.edit(design, made.base, made.edit)

    @app.get("/api/designs/{design}/arts/{art}/regions", operation_id="listRegions")
    def list_regions(design: str, art: str, shop: Shop) -> RegionsView:
        """The regions an art comes as, whoever has claimed them."""
        return shop.regions(design, art)

    @app.post("/api/designs/{design}/tries", operation_id="tryEdit")
    def try_edit(design: str, made: MadeEdit, shop: Shop) -> BuiltView:
        """What an edit would lead to, while a control is still being handled; nothing is kept of it."""
        return shop.attempt(design, made.base, made.edit)

    @app.post("/api/designs/{design}/pictures", operation_id="addPicture")
    def add_picture(
        design: str,
        shop: Shop,
        picture: Annotated[UploadFile, File()],
        base: Annotated[int, Form()],
        width: Annotated[str, Form(max_length=40)] = "60mm",
    ) -> DesignView:
        """Brings another picture onto the stack."""
        filename = PurePath(picture.filename or "").name[:300]
        return shop.add_picture(design, base, picture.file.read(MAX_BYTES + 1), filename, _width(width))

    @app.post("/api/designs/{design}/undo", operation_id="undo")
    def undo(design: str, step: Step, shop: Shop) -> DesignView:
        """Takes the last edit back."""
        return shop.undo(design, step.base)

    @app.post("/api/designs/{design}/redo", operation_id="redo")
    def redo(design: str, step: Step, shop: Shop) -> DesignView:
        """Makes an edit again that was taken back."""
        return shop.redo(design, step.base)

    @app.post("/api/designs/{design}/go-to", operation_id="goTo")
    def go_to(design: str, jump: Jump, shop: Shop) -> DesignView:
        """Goes to any state of the history."""
        return shop.go_to(design, jump.base, jump.revision)

    @app.post("/api/designs/{design}/patterns", operation_id="addPattern")
    def add_pattern(
        design: str,
        shop: Shop,
        picture: Annotated[UploadFile, File()],
        base: Annotated[int, Form()],
        film: Annotated[FilmKey, Form()],
    ) -> DesignView:
        """Shows a film patterned with a picture."""
        return shop.add_pattern(design, base, picture.file.read(MAX_BYTES + 1), film)

    @app.get("/api/pictures/{digest}", operation_id="originalPicture", response_class=Response)
    def original_picture(digest: str, shop: Shop) -> Response:
        """A picture as it was brought in, by its hash."""
        media = _MEDIA[shop.store.picture_format(digest)]
        return Response(shop.store.picture(digest), media_type=media, headers={"Cache-Control": "private, max-age=3600"})

    @app.get("/api/designs/{design}/look.svg", operation_id="showDesign", response_class=Response)
    def show_design(design: str, shop: Shop) -> Response:
        """The decal as it stands, as one SVG."""
        _, built = shop.built(design)
        return Response(stack_file(built), media_type="image/svg+xml", headers={"Cache-Control": "no-cache"})

    @app.get("/api/fonts", operation_id="listFonts")
    def list_fonts(shop: Shop) -> list[FontView]:
        """All fonts of the shelf, the maker's own first."""
        return [FontView(**vars(font), sample=shop.sample(font)) for font in shop.fonts.fonts()]

    @app.post("/api/fonts", operation_id="addFont", status_code=201)
    def add_font(shop: Shop, font: Annotated[UploadFile, File()]) -> FontView:
        """Puts a TTF, OTF, WOFF or WOFF2 font on the shelf."""
        added = shop.fonts.add(font.file.read(MAX_FONT_BYTES + 1))
        return FontView(**vars(added), sample=shop.sample(added))

    @app.get("/api/designs/{design}/files.zip", operation_id="takeFiles", response_class=Response)
    def take_files(design: str, shop: Shop) -> Response:
        """Sheets, layered decal and order of assembly as a ZIP."""
        found, built = shop.built(design)
        plain = re.sub(r"[^a-z0-9]+", "-", found.revision.recipe.name.lower()).strip("-")[:60] or "design"
        headers = {"Content-Disposition": f'attachment; filename="{plain}.zip"'}
        return Response(pack_zip(built), media_type="application/zip", headers=headers)


def _width(text: str) -> float:
    width = parse_length(text)
    if not MIN_WIDTH_MM <= width <= MAX_WIDTH_MM:
        raise LengthError(
            f"{width:g} mm is no width for a decal.", f"Choose between {MIN_WIDTH_MM:g} mm and {MAX_WIDTH_MM:g} mm."
        )
    return width


def _add_front_end(app: FastAPI, folder: Path) -> None:
    app.mount("/assets", StaticFiles(directory=folder / "assets"), name="assets")

    def index() -> FileResponse:
        return FileResponse(folder / "index.html", headers={"Cache-Control": "no-cache"})

    for path in ("/", "/design/{rest:path}"):
        app.add_api_route(path, index, include_in_schema=False, response_class=FileResponse)
    icon = folder / "icon.svg"
    if icon.is_file():
        app.add_api_route("/icon.svg", lambda: FileResponse(icon), include_in_schema=False, response_class=FileResponse)
