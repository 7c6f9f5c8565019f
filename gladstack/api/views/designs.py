"""What the screen is sent: designs and what is built from them, as plain models."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, model_validator

from gladstack.api.base.problems import Problem
from gladstack.api.views.findings import BoxView, FindingView, View
from gladstack.core.films.joints import JointKind
from gladstack.core.films.regions import Becomes, Under
from gladstack.core.picture.tidy import Kind
from gladstack.recipe.edit.versions import Own
from gladstack.recipe.model.arts import Art, Background, LetteringArt, Merge
from gladstack.recipe.model.recipe import Finish, Recipe


class HistoryView(View):
    """A line of the history: a state of the design or of its sheets, and the revision of the design then."""

    whose: Literal["design", "sheets"]
    revision: int
    design: int
    label: str
    created: str
    current: bool


class ColourView(View):
    """A colour of a picture, its share of it (0 to 1), and what became of it."""

    art: str
    colour: str
    share: float
    role: Literal["film", "background", "dropped", "merged", "empty"]
    into: str | None
    picked: bool


class BitView(BaseModel):
    """A small piece of a film: its area and a point within it."""

    x_mm: float
    y_mm: float
    area_mm2: float


class GapView(BaseModel):
    """Where two pieces of a film come nearest to each other, and how far apart they are."""

    x1_mm: float
    y1_mm: float
    x2_mm: float
    y2_mm: float
    mm: float


class LayerView(BaseModel):
    """A film of the stack; `path` is its cut shape in thousandths of a millimetre, `before` that before it was heavier;
    `small` its smallest pieces and `gaps` those between pieces that nearly touch.

    These four are null where the asker said that it holds them, by their `key`.
    """

    key: str
    film: str
    colour: str
    finish: Finish
    name: str
    path: str | None
    before: str | None
    pieces: int
    small: list[BitView] | None
    gaps: list[GapView] | None
    area_mm2: float
    cut_length_mm: float
    nodes: int
    seconds: float
    mirrored: bool


class PenView(BaseModel):
    """What a pen draws on a film, in thousandths of a millimetre."""

    film: str
    colour: str
    on: str
    name: str
    how: Literal["outlines", "filled"]
    pen: str | None
    line_mm: float
    path: str


class LeftOutView(View):
    """A film that is not cut."""

    film: str
    colour: str
    name: str


class HoleView(BaseModel):
    """A hole of an outline shadow: its outline (path data, mm), a point within it, and whether it is filled."""

    making: str
    path: str
    x_mm: float
    y_mm: float
    filled: bool


class JointView(BaseModel):
    """The joint of two layers that meet, and where it was chosen."""

    lower: int
    upper: int
    kind: JointKind
    mm: float
    source: Literal["pair", "film", "design", "made"]


class LetterView(BaseModel):
    """A letter that can be taken hold of: the index of its character, and its box."""

    index: int
    text: str
    box: BoxView


class UnclaimedView(View):
    """A region that no film has: which it is, a point within it and its area."""

    region: int
    x_mm: float
    y_mm: float
    area_mm2: float


class ThresholdView(BaseModel):
    """The grey level below which line art is ink, as taken and as proposed."""

    taken: int
    proposed: int


class ClaimView(BaseModel):
    """What was said of a region, by its index."""

    region: int
    film: str | None
    becomes: Becomes
    under: Under


class SavingView(View):
    """What simplifying came to: nodes and seconds at the blade before and after, and how far edges moved at most."""

    nodes_before: int
    nodes_after: int
    seconds_before: float
    seconds_after: float
    deviation_mm: float


class DoneView(BaseModel):
    """Something that was put right in a picture, and in how many places."""

    kind: Kind
    count: int


class ArtView(BaseModel):
    """A piece of art on the stack: its name, the box of what is seen of it, the page it came on, its letters, the outline of
    an opening, which no film shows, line art's threshold as taken and as proposed, and of the regions it comes as the
    claims and those that still wait. `least` is the colour of a picture that goes first if one fewer is asked for,
    `behind` that of its background, and `background` what became of that;
    `films` are those it gives to; `done` is what was put right in a picture before its colours were found.

    `layers` are those of its file; `alike` are pairs of the file's colours that hardly differ; `regions_key` changes
    whenever its regions do. Letters are null where the asker said that it holds them, by `letters_key`; `line_scales`
    are how many times as large as it was told each line is set.
    """

    id: str
    name: str
    box: BoxView
    page: BoxView | None
    letters_key: str
    letters: list[LetterView] | None
    opening: str
    file_colours: list[str]
    layers: list[str]
    alike: list[Merge]
    open_paths: int
    pages: int
    fixed_size: bool
    regions_key: str
    claims: list[ClaimView]
    saving: SavingView | None
    waiting: list[UnclaimedView]
    threshold: ThresholdView | None
    least: str | None
    behind: str | None
    background: Background | None
    own_width_mm: float
    line_scales: list[float]
    films: list[str]
    done: list[DoneView]


class RegionView(BaseModel):
    """A region of an art, in the art's own mm: its outline, for pointing at; the film it has by itself and its colour in the
    source; a point within it in shares of the art's width; its area, its extent, and the diameter of a disc of its area;
    within how many outlines it lies and the closest of these.
    """

    path: str
    film: str | None
    colour: str | None
    x: float
    y: float
    area_mm2: float
    width_mm: float
    height_mm: float
    across_mm: float
    depth: int
    parent: int
    waits: bool


class LikeView(BaseModel):
    """Words in one font where a film lies: the lettering to be brought in, the font's name, how much of their ink is common
    (0 to 1), and the words as path data (mm) with their box.
    """

    lettering: LetteringArt
    name: str
    share: float
    path: str
    box: BoxView


class RegionsView(BaseModel):
    """All regions of an art."""

    key: str
    width_mm: float
    regions: list[RegionView]


class BuiltView(BaseModel):
    """All that follows from the recipe; layers from the ground up.

    `box` is the extent of the films, which is the decal's size, `plain` that of its art before films were thickened and
    without shadows; `page` takes in the pages of its art.
    """

    box: BoxView
    page: BoxView
    plain: BoxView
    width_mm: float
    height_mm: float
    arts: list[ArtView]
    flat: bool
    lossy: bool
    colours: list[ColourView]
    proposed_order: list[str]
    layers: list[LayerView]
    left_out: list[LeftOutView]
    pens: list[PenView]
    joints: list[JointView]
    holes: list[HoleView]
    wrong_area_ratio: float
    max_thickness: int
    findings: list[FindingView]
    seconds: dict[str, float]


class SentRecipe(Recipe):
    """A recipe as it is sent: art that the asker said it holds is null, and known by its key."""

    arts: tuple[Art | None, ...]  # type: ignore[assignment]

    @model_validator(mode="after")
    def _hangs_together(self) -> SentRecipe:
        return self


class NewestView(BaseModel):
    """The revisions at which a design and its own sheets, if it has any, stand: so a window finds out what others did."""

    revision: int
    sheets: int | None


class DecisionView(View):
    """Something that a version decides for itself: what, of which film (None: of the design) and what that is called, how it
    is called, as the version has it and as the motif does.
    """

    what: Own
    film: str | None
    of: str
    says: str
    own: str
    motif: str


class DesignView(BaseModel):
    """A design as it stands, with what is built from it; `art_keys` are the keys of its art, in order.

    `version` is the one of its versions that is shown (None: the motif itself), and `decides` what that has of its own.

    Nothing is built where the change could not alter any shape: then it is asked for by itself. `trouble` says why a design
    could not be built; it can still be undone.
    """

    id: str
    revision: int
    recipe: SentRecipe
    art_keys: list[str]
    undoes: str | None
    redoes: str | None
    version: str | None
    decides: list[DecisionView]
    trouble: Problem | None
    built: BuiltView | None
