"""The shop as it is sent: shelf, jobs, and plans drawn."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from gladstack.api.views.costs import CostsView
from gladstack.api.views.findings import BoxView, PlanFindingView
from gladstack.recipe.model.uses import Use
from gladstack.recipe.model.values import Method
from gladstack.shop.jobs.job import DesignRef, Job, Layout
from gladstack.shop.shelf.cutters import Cutter
from gladstack.shop.shelf.formats import Format
from gladstack.shop.shelf.kinds import KINDS, Kind
from gladstack.shop.shelf.materials import Material, of_kind
from gladstack.shop.shelf.stock import Piece, PieceKind


class ShelfFilmView(BaseModel):
    """A material and what there is of it."""

    material: Material
    pieces: list[Piece]


class FilmKindView(BaseModel):
    """A kind of film: what it is called, how it goes onto the ground, for which uses it is offered, what it may lie over,
    what may lie on it, how many films may lie on one another, and a film of it as it comes; whether it comes in pieces that
    are counted.
    """

    kind: Kind
    says: str
    method: Method | Literal["drawn"]
    in_pieces: bool
    uses: list[Use]
    over: list[Kind]
    under: list[Kind]
    most: int
    usual: Material


def kind_view(kind: Kind) -> FilmKindView:
    """A kind of film as it is sent."""
    k = KINDS[kind]
    return FilmKindView(
        kind=kind, says=k.says, method=k.method, in_pieces=k.in_pieces, uses=[use for use in Use if k.offered_for(use)],
        over=sorted(k.over), under=sorted(k.under), most=k.most, usual=of_kind(kind, "new", "New film", "#1d2b53"),
    )  # fmt: skip


class ShelfView(BaseModel):
    """Materials that match what is searched for, with their pieces; how many match; and all cutters and kinds of film."""

    films: list[ShelfFilmView]
    total: int
    cutters: list[Cutter]
    kinds: list[FilmKindView]


class NearView(BaseModel):
    """A material and how far its colour is, in delta-E."""

    material: str
    name: str
    colour: str
    delta_e: float


class NewPiece(BaseModel):
    """Film that comes in: a roll, or so many sheets or offcuts."""

    material: str
    kind: PieceKind
    width_mm: Annotated[float, Field(ge=10, le=50_000)]
    length_mm: Annotated[float, Field(ge=10, le=500_000)]
    count: Annotated[float, Field(ge=1, le=100_000)] = 1


class Counted(BaseModel):
    """What is really left of a piece."""

    left: Annotated[float, Field(ge=0, le=500_000)]


class JobLineView(BaseModel):
    """A job in the list; `own_of` is the design whose own sheets it is, `whom` it is for and the day it is `due`."""

    model_config = {"from_attributes": True}
    id: str
    name: str
    changed: str
    designs: int
    copies: int
    cut: bool
    own_of: str | None
    whom: str
    due: str | None


class JobListView(BaseModel):
    """The first jobs of those that were searched for, and how many there are."""

    lines: list[JobLineView]
    total: int


class JobView(BaseModel):
    """A job as it stands; `own_of` is the design whose own sheets it is, `stale` are designs changed since they were taken
    into it, and `more` is how many decals it has more than were cut. `undoes` and `redoes` name what undo and redo would
    take back and make again, of sheets or design.
    """

    id: str
    own_of: str | None
    revision: int
    job: Job
    undoes: str | None
    redoes: str | None
    cut: str | None
    at_cutter: bool
    more: int
    stale: list[str]


class SpotView(BaseModel):
    """Where something lies within the margins: turned, then moved."""

    turn_deg: float
    x_mm: float
    y_mm: float


class PartView(BaseModel):
    """A part on its sheet: what it is, its outline there, and for nested ones its spot. `film_name` is what its film is
    called in the design; `letter` is what it is of lettering.
    """

    design: str
    film: str
    film_name: str
    letter: str | None
    part: int
    copy_of: int
    tile: int | None
    cluster: str
    key: str
    path: str
    box: BoxView
    spot: SpotView | None
    pinned: bool


class SheetPlanView(BaseModel):
    """One piece of film with all that is cut from it; x runs along it, and spots count from `origin_mm` in both ways."""

    number: int
    name: str
    material: Material
    mirrored: bool
    face_down: bool
    layout: Layout
    piece: Piece
    bought: bool
    length_mm: float
    width_mm: float
    margin_mm: float
    origin_mm: float
    spacing_mm: float
    length_used_mm: float
    film_used: float
    cost: float
    parts: list[PartView]
    boxes: str
    lines: str
    marks: str
    slug: str
    kept: list[BoxView]
    weed_seconds: float
    pen: str
    lifts: int
    cut_mm: float
    travel_mm: float
    travel_before_mm: float
    seconds: float
    seconds_before: float
    nodes: int


class PlannedFilmView(BaseModel):
    """A film of a design in a plan: its material, how near its colour is, and the nearest others; `said` is what it is
    called where it lies on film.
    """

    design: str
    film: str
    name: str
    colour: str
    material: str
    material_name: str
    use: Use
    near: float | None
    chosen: bool
    to_get: bool
    said: str
    nearest: list[NearView]
    layout: Layout
    mirrored: bool


class SeamView(BaseModel):
    """A seam: where in the design's mm, how far from the decal's left or top edge, and how far the tile before it reaches
    under the next; below zero it leaves a gap.
    """

    at: float
    from_edge: float
    overlap: float


class SeamsView(BaseModel):
    """The seams of a film of a design."""

    design: str
    film: str
    x: list[SeamView]
    y: list[SeamView]


class DecalFilmView(BaseModel):
    """A film of a small decal: the colour it is cut from, and the outline of each of its parts."""

    film: str
    colour: str
    parts: list[str]


class DecalView(BaseModel):
    """A design of a plan, drawn small: its frame and its films from the ground up."""

    design: str
    name: str
    copies: int
    frame: BoxView
    films: list[DecalFilmView]


class PlanView(BaseModel):
    """A plan as it is shown."""

    job: str
    revision: int
    sheets: list[SheetPlanView]
    films: list[PlannedFilmView]
    seams: list[SeamsView]
    decals: list[DecalView]
    length_used_mm: float
    naive_length_mm: float
    film_used: float
    cost: float
    costs: CostsView
    findings: list[PlanFindingView]


class FormatView(BaseModel):
    """A format that sheets can be written in, what it is called, and whether it is taken if none is named."""

    format: Format
    says: str
    usual: bool


class NewJob(BaseModel):
    """A job begun: its name, and designs with their copies."""

    name: Annotated[str, Field(min_length=1, max_length=120)]
    designs: Annotated[list[JobLineDesign], Field(min_length=1, max_length=200)]
    layout: Layout = "nested"


class JobLineDesign(BaseModel):
    """A design to begin a job with."""

    design: DesignRef
    copies: Annotated[int, Field(ge=1, le=500)] = 1


class PutWanted(BaseModel):
    """A nested part, and where it is wanted."""

    base: Annotated[int, Field(ge=0, le=2**53)]
    design: str
    film: str
    part: int
    copy_of: int
    tile: int | None = None
    spot: SpotView | None = None
    pinned: bool | None = None


class PutAnswer(BaseModel):
    """The job with the part put; or why it cannot lie there, and where it would."""

    job: JobView | None
    why: str
    fits: SpotView | None


class CloserWanted(BaseModel):
    """How long to look for a shorter layout."""

    base: Annotated[int, Field(ge=0, le=2**53)]
    seconds: Annotated[int, Field(ge=1, le=60)] = 5


class CloserAnswer(BaseModel):
    """The job as it is then, and how much film is used before and after."""

    job: JobView
    before_mm: float
    after_mm: float


NewJob.model_rebuild()
