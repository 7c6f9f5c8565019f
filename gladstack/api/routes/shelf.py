"""The shelf: films, what there is of them, and cutters."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, File, Query, UploadFile
from fastapi.responses import Response

from gladstack.api.routes.depends import Jobs
from gladstack.api.views.shop import (
    Counted,
    NewPiece,
    ShelfFilmView,
    ShelfView,
)
from gladstack.recipe.model.faults import said_of_what_was_asked
from gladstack.recipe.model.values import changed
from gladstack.shop.shelf.csv_files import CsvError, read, written
from gladstack.shop.shelf.cutters import Cutter
from gladstack.shop.shelf.materials import Material
from gladstack.shop.shelf.rates import Rates

_MOST_CSV = 2_000_000
ROUTER = APIRouter()


@ROUTER.get("/api/shelf", operation_id="showShelf")
def show_shelf(desk: Jobs, search: Annotated[str, Query(max_length=100)] = "") -> ShelfView:
    """The films of the shelf with what is left of each, and the cutters."""
    return desk.shelf_view(search)


@ROUTER.put("/api/cutters/{cutter}", operation_id="saveCutter")
def save_cutter(cutter: str, wanted: Cutter, desk: Jobs) -> Cutter:
    """Adds a cutter, or changes it; whether it is a simulated one stays as it is."""
    known = next((c for c in desk.shelf.cutters() if c.id == cutter), None)
    with said_of_what_was_asked():
        new = changed(wanted, id=cutter, simulated=known is not None and known.simulated)
    desk.shelf.save_cutter(new)
    return new


@ROUTER.get("/api/rates", operation_id="showRates")
def show_rates(desk: Jobs) -> Rates:
    """What the shop's work costs."""
    return desk.shelf.rates()


@ROUTER.put("/api/rates", operation_id="setRates")
def set_rates(wanted: Rates, desk: Jobs) -> Rates:
    """Says what the shop's work costs."""
    desk.shelf.set_rates(wanted)
    return wanted


@ROUTER.put("/api/films/{film}", operation_id="saveFilm")
def save_film(film: str, wanted: Material, desk: Jobs) -> Material:
    """Adds a film to the shelf, or changes it."""
    with said_of_what_was_asked():
        new = changed(wanted, id=film)
    desk.shelf.save([new])
    return new


@ROUTER.post("/api/films/{film}/copy", operation_id="copyFilm", status_code=201)
def copy_film(film: str, desk: Jobs) -> Material:
    """A copy of a film under a new name."""
    return desk.copy_film(film)


@ROUTER.post("/api/pieces", operation_id="bringPiece", status_code=201)
def bring_piece(wanted: NewPiece, desk: Jobs) -> ShelfFilmView:
    """Film comes in: a roll, sheets or offcuts."""
    desk.shelf.bring(wanted.material, wanted.kind, wanted.width_mm, wanted.length_mm, wanted.count)
    return ShelfFilmView(material=desk.shelf.material(wanted.material), pieces=desk.shelf.pieces(wanted.material))


@ROUTER.post("/api/pieces/{piece}/count", operation_id="countPiece", status_code=204, response_class=Response)
def count_piece(piece: str, counted: Counted, desk: Jobs) -> Response:
    """Says how much of a piece is really left."""
    desk.shelf.correct(piece, counted.left)
    return Response(status_code=204)


@ROUTER.get("/api/shelf.csv", operation_id="takeShelf", response_class=Response)
def take_shelf(desk: Jobs) -> Response:
    """The films as CSV."""
    headers = {"Content-Disposition": 'attachment; filename="shelf.csv"'}
    return Response(written(desk.shelf.materials()), media_type="text/csv; charset=utf-8", headers=headers)


@ROUTER.post("/api/shelf.csv", operation_id="readShelf")
async def read_shelf(desk: Jobs, file: Annotated[UploadFile, File()]) -> ShelfView:
    """Reads films from CSV: those of a known id are changed, others added; all or none."""
    data = await file.read(_MOST_CSV + 1)
    if len(data) > _MOST_CSV:
        raise CsvError("The file is larger than 2 MB.", "Split it into several.")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as fault:
        raise CsvError("The file is not UTF-8 text.", "Save it as CSV in UTF-8.") from fault
    desk.shelf.save(read(text))
    return desk.shelf_view()
