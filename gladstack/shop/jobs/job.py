"""The job: what is to be cut together, on which film, laid how. A document, as a recipe is: choices, nothing computed."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from pydantic import BeforeValidator, Field, StringConstraints, model_validator

from gladstack.core.plan.marks import MarkKind
from gladstack.recipe.model.fields import Fit
from gladstack.recipe.model.values import (
    ClearanceMm,
    Degrees,
    FilmKey,
    Frozen,
    Id,
    MarginMm,
    Name,
    PlaceMm,
    SeamMm,
    SheetMm,
    SizeMm,
    clean_text,
)

DesignRef = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,60}(~[a-z][a-z0-9-]{0,39})?$")]
"""A design, or after a tilde one of its versions: gladstack.store.refs."""
Layout = Literal["register", "whole", "nested"]
"""All films of a design at the same places; each film whole, where it takes least; or part by part."""
Finishing = Literal["front", "each", "behind"]
PressSeconds = Annotated[float, Field(ge=0.0, le=600.0, allow_inf_nan=False)]
Together = Literal["parts", "word", "within", "copy"]
HandMinutes = Annotated[float, Field(ge=0.0, le=100_000.0, allow_inf_nan=False)]
SeamCount = Annotated[int, Field(ge=0, le=400)]
Copies = Annotated[int, Field(ge=1, le=500)]


class Words(Frozen):
    """What stands in one field of a design, and how it is made to fit: with all of a list alike, how tall capitals are."""

    field: Annotated[str, Field(min_length=1, max_length=60)]
    text: Annotated[str, Field(max_length=200)]
    fit: Fit = "as-is"
    capitals_mm: SizeMm | None = None


class JobDesign(Frozen):
    """A design of the job: the design and the revision of it that is cut, its name then, and how many copies.

    Where a list of names is cut, each has its own entry of the same design, with the words that stand in its fields:
    `design` is the entry's own key then, and `of` the design's.
    """

    design: DesignRef
    name: Name
    revision: Annotated[int, Field(ge=0, le=2**53)] | None = None
    copies: Copies = 1
    of: DesignRef | None = None
    words: Annotated[tuple[Words, ...], Field(max_length=40)] = ()

    @property
    def source(self) -> str:
        """The design it is made from."""
        return self.of or self.design


class JobFilm(Frozen):
    """What was chosen for one film of one design; None leaves it to the job's own.

    With `make_up` it is cut larger by what its presses take.
    """

    design: DesignRef
    film: FilmKey
    layout: Layout | None = None
    material: Id | None = None
    marks: bool = True
    reverse_weed: bool = False
    make_up: bool = True


class Weeding(Frozen):
    """Boxes to weed by, at a distance from what they hold; and lines that divide the waste into strips."""

    box: Literal["none", "sheet", "copy", "word", "part"] = "sheet"
    distance_mm: MarginMm = 3.0
    lines: bool = False
    strip_mm: SheetMm = 80.0
    clearance_mm: ClearanceMm = 1.5


class Marks(Frozen):
    """Registration marks: of which kind, how many of the corners, outside or inside the work."""

    kind: MarkKind = "crosses"
    count: Annotated[int, Field(ge=0, le=4)] = 0
    inside: bool = False


class SeamCounts(Frozen):
    """How many seams there are along x and y."""

    x: SeamCount = 0
    y: SeamCount = 0


class PlacedSeam(Frozen):
    """A seam put by hand: of which film (None: of all), along x or y, the how-manieth, and where in the design's mm.

    `of` is how many seams there are then: as long as that many do, there are neither more nor fewer.
    `overlap_mm` is how far the tile before it reaches under the next; below zero, how wide a gap it leaves.
    """

    design: DesignRef
    film: FilmKey | None = None
    axis: Literal["x", "y"]
    index: Annotated[int, Field(ge=0, le=400)]
    at_mm: PlaceMm | None = None
    of: SeamCounts | None = None
    overlap_mm: SeamMm | None = None


class Tiles(Frozen):
    """How designs larger than the film or the cutter are divided."""

    divide: bool = True
    overlap_mm: MarginMm | None = None
    each_film: bool = False
    reach_mm: MarginMm = 40.0
    least_mm: ClearanceMm = 3.0
    most_mm: SheetMm | None = None
    placed: Annotated[tuple[PlacedSeam, ...], Field(max_length=400)] = ()


PartName = tuple[str, str, int, int, int]
"""A part by its design, film, number, copy and tile (-1: whole)."""


class LaidPart(Frozen):
    """Where something nested lies: the part (and of a tiled one the tile) of a film of a copy, on which sheet of its film.

    `key` names the shape it was laid with; of another shape it says nothing. What is `pinned` stays when all is laid anew.
    """

    design: DesignRef
    film: FilmKey
    part: Annotated[int, Field(ge=0, le=100_000)]
    copy_of: Annotated[int, Field(ge=0, le=500)] = 0
    tile: Annotated[int, Field(ge=0, le=10_000)] | None = None
    key: Annotated[str, Field(max_length=40)] = ""
    piece: Id | None = None
    sheet: Annotated[int, Field(ge=0, le=1000)] = 0
    turn_deg: Degrees = 0.0
    x_mm: PlaceMm = 0.0
    y_mm: PlaceMm = 0.0
    pinned: bool = False

    @property
    def name(self) -> PartName:
        """What the part is called."""
        return self.design, self.film, self.part, self.copy_of, -1 if self.tile is None else self.tile


class Pressing(Frozen):
    """How a maker presses, where that is not as the films have it: how long to tack, in full and from behind at last.

    `finish` tells in what order films bond: each is tacked and the last pressed in full (front), each is pressed in full
    before the next (each), or all are tacked and then pressed in full from behind (behind).
    """

    finish: Finishing = "front"

    tack_s: PressSeconds | None = None
    full_s: PressSeconds | None = None
    behind_s: PressSeconds | None = None


class Order(Frozen):
    """For whom a job is cut, by which day it is wanted, and what else is to be known of it."""

    whom: Annotated[str, StringConstraints(strip_whitespace=True, max_length=120), BeforeValidator(clean_text)] = ""
    due: date | None = None
    note: Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000), BeforeValidator(clean_text)] = ""


class KeptTogether(Frozen):
    """Parts of one film of a design that keep their places to each other, in every copy."""

    design: DesignRef
    film: FilmKey
    parts: Annotated[tuple[Annotated[int, Field(ge=0, le=100_000)], ...], Field(min_length=2, max_length=2000)]


class PieceChoice(Frozen):
    """The piece of stock chosen by hand for a material."""

    material: Id
    piece: Id


class Job(Frozen):
    """One job.

    `together` says what keeps its places among nested parts: nothing, the letters of a word, what lies within another part,
    or each copy of a film as a whole (None: words, and copies where there are several); `kept` are parts chosen by hand.
    `share` lays films in register that are of one material on one sheet. `laying_down` and `hinge` say how adhesive films go
    onto their ground, `place_mm` how far from collar, handle or edge, and `pressing` how long a maker presses.
    `hand_min` is how long hands really took, and `priced` puts the price on the job sheet.
    """

    version: Literal[1] = 1
    name: Name
    designs: Annotated[tuple[JobDesign, ...], Field(min_length=1, max_length=500)]
    cutter: Id = "table-300"
    layout: Layout = "register"
    together: Together | None = None
    films: Annotated[tuple[JobFilm, ...], Field(max_length=2000)] = ()
    kept: Annotated[tuple[KeptTogether, ...], Field(max_length=1000)] = ()
    share: bool = False
    pieces: Annotated[tuple[PieceChoice, ...], Field(max_length=1000)] = ()
    weeding: Weeding = Weeding()
    marks: Marks = Marks()
    tiles: Tiles = Tiles()
    slug: bool = False
    test_cut: bool = False
    laying_down: Literal["dry", "wet"] = "dry"
    pressing: Pressing = Pressing()
    order: Order = Order()
    hand_min: HandMinutes | None = None
    priced: bool = False
    hinge: bool = True
    place_mm: Annotated[float, Field(ge=0.0, le=2000.0)] | None = None
    spacing_mm: MarginMm | None = None
    keep_offcuts_mm: SheetMm = 40.0
    laid: Annotated[tuple[LaidPart, ...], Field(max_length=20_000)] = ()

    @model_validator(mode="after")
    def _each_design_once(self) -> Job:
        named = [d.design for d in self.designs]
        if len(set(named)) < len(named):
            raise ValueError("a job names a design twice; give it more copies instead")
        return self

    @property
    def keeps(self) -> Together:
        """What keeps its places among nested parts."""
        if self.together is not None:
            return self.together
        return "copy" if any(d.copies > 1 for d in self.designs) else "word"

    def film(self, design: str, film: str) -> JobFilm:
        """What was chosen for a film, or for that of the design it is made from; or nothing."""
        source = next((d.source for d in self.designs if d.design == design), design)
        found = [f for key in dict.fromkeys((design, source)) for f in self.films if f.design == key and f.film == film]
        return found[0] if found else JobFilm(design=design, film=film)

    def layout_of(self, design: str, film: str) -> Layout:
        """How a film is laid."""
        return self.film(design, film).layout or self.layout
