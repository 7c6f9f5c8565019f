"""Art: what is brought onto the stack, each with its place: pictures, lettering and plain shapes."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import BeforeValidator, Field, StringConstraints, model_validator

from gladstack.core.drawing.tints import Tints
from gladstack.core.geometry.curves import Matrix
from gladstack.core.picture.palette import MAX_COLOURS
from gladstack.core.picture.rims import Rims
from gladstack.core.picture.tidy import Kind
from gladstack.recipe.model.mends import Mend
from gladstack.recipe.model.pins import Pin
from gladstack.recipe.model.values import (
    MOTIF,
    Colour,
    Degrees,
    DetailMm,
    Factor,
    Filename,
    FilmKey,
    Frozen,
    Hash,
    Id,
    OffsetMm,
    PlaceMm,
    SizeMm,
    WidthMm,
    clean_words,
)

Beyond = Literal["cut", "keep"]
Background = Literal["auto", "drop", "outside", "keep"]
"""What becomes of a picture's background: dropped everywhere, or outside only, or kept. `auto` drops it outside, and inside
as well where the ground has its colour.
"""
FontKey = Annotated[str, StringConstraints(pattern=r"^([0-9a-f]{64}|[a-z][a-z0-9-]{0,39})$")]
"""A font that ships with the app, by name, or one of the maker's own, by content hash."""
NEW = "new"
"""The id of an art or making that is to be given one."""


class Place(Frozen):
    """Where an art's own origin lies on the stack, and how it is scaled, mirrored left to right, and turned clockwise."""

    x_mm: PlaceMm = 0.0
    y_mm: PlaceMm = 0.0
    turn_deg: Degrees = 0.0
    scale_x: Factor = 1.0
    scale_y: Factor = 1.0
    mirrored: bool = False

    @property
    def matrix(self) -> Matrix:
        """From the art's own millimetres to the stack's."""
        turn = math.radians(self.turn_deg)
        cos, sin = (1.0, 0.0) if self.turn_deg % 360 == 0 else (math.cos(turn), math.sin(turn))
        sx, sy = (-self.scale_x if self.mirrored else self.scale_x), self.scale_y
        return cos * sx, sin * sx, -sin * sy, cos * sy, self.x_mm, self.y_mm


class Merge(Frozen):
    """Two colours are one film: what is `colour` counts as `into`."""

    colour: Colour
    into: Colour


class Separation(Frozen):
    """How a picture is parted into colours.

    `count` includes the background (None: as proposed); `picked` are colours taken from the picture by the maker. With
    `rest` they are the whole palette: what has another colour goes to the nearest of them, or is left out. `held` are
    colours that are not given up when fewer are asked for. What is put right in a picture before (a soft shadow taken off,
    dither undone) stays as it came where `as_is` names it; graded fills come out in so many `bands`; of thin
    `rims` between colours those that are broken are given to their neighbours, or all.
    """

    count: Annotated[int, Field(ge=1, le=MAX_COLOURS)] | None = None
    picked: Annotated[tuple[Colour, ...], Field(max_length=MAX_COLOURS)] = ()
    rest: Literal["found", "nearest", "out"] = "found"
    held: Annotated[tuple[Colour, ...], Field(max_length=64)] = ()
    merges: Annotated[tuple[Merge, ...], Field(max_length=64)] = ()
    dropped: Annotated[tuple[Colour, ...], Field(max_length=64)] = ()
    background: Background = "auto"
    detail_mm: DetailMm = 0.02
    smoothing_mm: DetailMm = 0.0
    speck_mm: DetailMm = 0.4
    as_is: Annotated[tuple[Kind, ...], Field(max_length=8)] = ()
    bands: Annotated[int, Field(ge=1, le=8)] = 1
    rims: Rims = "broken"


class RegionArt(Frozen):
    """Art that comes as regions, each with a film by its colour or waiting for one, unless a pin says otherwise.

    Its origin is its top-left corner. `mends` put right what its source got wrong; `simplify_mm` is how far its edges may
    move for the sake of fewer nodes (0: not at all). `inside` keeps only what falls within another art or film. With
    `as_film` all of it is part of one film; as an `opening` it is cut out of everything, down to the ground.
    """

    id: Id = NEW
    filename: Filename = ""
    pins: Annotated[tuple[Pin, ...], Field(max_length=5000)] = ()
    mends: Annotated[tuple[Mend, ...], Field(max_length=500)] = ()
    simplify_mm: Annotated[DetailMm, MOTIF] = 0.0
    inside: FilmKey | None = None
    as_film: FilmKey | None = None
    opening: bool = False
    place: Place = Place()


class Corner(Frozen):
    """A place on a picture, as shares of its width and height."""

    x: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
    y: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


FourCorners = Annotated[tuple[Corner, ...], Field(min_length=4, max_length=4)]
"""The corners of what a photograph shows: top left, top right, bottom right, bottom left."""


def shares_of(corners: tuple[Corner, ...]) -> tuple[tuple[float, float], ...]:
    """Corners as plain pairs of shares."""
    return tuple((corner.x, corner.y) for corner in corners)


class PictureArt(RegionArt):
    """A picture brought in: its content hash, how wide it is, and how it is separated. Each of its colours is a film.

    A photograph taken aslant is put straight by its `corners`.
    """

    kind: Literal["picture"] = "picture"
    picture: Hash
    corners: FourCorners | None = None
    width_mm: WidthMm
    separation: Separation = Separation()


class OneFilmArt(Frozen):
    """Art whose outlines the maker gives to a film, or takes out of others.

    With `film` it is part of that film. Without, it is an opening: it is cut out of the films it `opens`, made wider by
    `margin_mm`; with none named it goes through everything, down to the ground. `without` names art or films that are left
    open in it: a frame without a design is the design's negative. `mends` change what it gives to films.
    """

    id: Id = NEW
    film: FilmKey | None = "#25231e"
    opens: Annotated[tuple[FilmKey, ...], Field(max_length=64)] = ()
    margin_mm: OffsetMm = 0.0
    inside: FilmKey | None = None
    without: Annotated[tuple[FilmKey, ...], Field(max_length=64)] = ()
    mends: Annotated[tuple[Mend, ...], Field(max_length=500)] = ()
    place: Place = Place()


Tag = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9]{4}$")]


class Axis(Frozen):
    """A place on an axis of a font that has some, by its tag ("wght": how heavy)."""

    tag: Tag
    value: Annotated[float, Field(ge=-100_000, le=100_000, allow_inf_nan=False)]


class LetterForm(Frozen):
    """Another form that a font has for letters, by the feature's tag ("swsh": swashes), and which of several."""

    tag: Tag
    value: Annotated[int, Field(ge=0, le=99)] = 1


Axes = Annotated[tuple[Axis, ...], Field(max_length=64)]
Forms = Annotated[tuple[LetterForm, ...], Field(max_length=64)]


class LineStyle(Frozen):
    """What one line has of its own, axes only with a font of its own. `width_mm` is that of its ink; `like` is the index of
    the line to be as wide as.
    """

    font: FontKey | None = None
    axes: Axes = ()
    height_mm: SizeMm | None = None
    width_mm: SizeMm | None = None
    like: Annotated[int, Field(ge=0, le=99)] | None = None


class BendChoice(Frozen):
    """A baseline on a circle, over its top or under along its bottom."""

    radius_mm: SizeMm
    sense: Literal["over", "under"] = "over"


class LetterTweak(Frozen):
    """One letter nudged, turned, scaled, in other forms; `index` counts the characters of the text, line ends included."""

    index: Annotated[int, Field(ge=0)]
    dx_mm: Annotated[OffsetMm, MOTIF] = 0.0
    dy_mm: Annotated[OffsetMm, MOTIF] = 0.0
    turn_deg: Degrees = 0.0
    scale: Factor = 1.0
    forms: Forms = ()


class LetterFilm(Frozen):
    """The letters from `start` up to, not including, `end` belong to a film of their own."""

    start: Annotated[int, Field(ge=0)]
    end: Annotated[int, Field(ge=1)]
    film: FilmKey


class LetteringArt(OneFilmArt):
    """Lines of text in a font. Its origin is on the first baseline, where the lines are aligned.

    `direction` is which way its lines read (auto: each as its first letter does). `axes` say how heavy, wide and so on a
    font is that can be varied; `forms` are other forms of letters that all of it is set in.

    `height_mm` is that of the capitals; `leading` is from baseline to baseline in such heights. `fit_width_mm` or
    `fit_height_mm` scale the whole to that extent of ink. Words in braces are fields that a list of names fills:
    "{name=Ada}" shows Ada until then; what is filled in may be `room_mm` wide (None: as wide as what is shown).
    """

    kind: Literal["lettering"] = "lettering"
    text: Annotated[str, StringConstraints(min_length=1, max_length=2000, pattern=r"\S"), BeforeValidator(clean_words)]
    font: FontKey = "inter-black"
    axes: Axes = ()
    forms: Forms = ()
    height_mm: SizeMm = 20.0
    spacing_mm: Annotated[OffsetMm, MOTIF] = 0.0
    leading: Annotated[float, Field(ge=0.2, le=10.0, allow_inf_nan=False)] = 1.6
    align: Literal["left", "centre", "right"] = "centre"
    direction: Literal["auto", "ltr", "rtl"] = "auto"
    fit_width_mm: SizeMm | None = None
    fit_height_mm: SizeMm | None = None
    bend: BendChoice | None = None
    lines: Annotated[tuple[LineStyle, ...], Field(max_length=100)] = ()
    letters: Annotated[tuple[LetterTweak, ...], Field(max_length=2000)] = ()
    films: Annotated[tuple[LetterFilm, ...], Field(max_length=2000)] = ()
    weld: bool = True
    room_mm: SizeMm | None = None

    @model_validator(mode="after")
    def _one_fit(self) -> LetteringArt:
        if self.fit_width_mm is not None and self.fit_height_mm is not None:
            raise ValueError("give either a width or a height to fit, the other follows")
        return self


class Rectangle(Frozen):
    """A rectangle with rounded corners."""

    form: Literal["rectangle"] = "rectangle"
    width_mm: SizeMm = 60.0
    height_mm: SizeMm = 40.0
    radius_mm: Annotated[DetailMm | SizeMm, MOTIF] = 0.0


class Ellipse(Frozen):
    """An ellipse, or a circle."""

    form: Literal["ellipse"] = "ellipse"
    width_mm: SizeMm = 50.0
    height_mm: SizeMm = 50.0


class RegularPolygon(Frozen):
    """A regular polygon with its corners on a circle."""

    form: Literal["polygon"] = "polygon"
    sides: Annotated[int, Field(ge=3, le=60)] = 6
    across_mm: SizeMm = 50.0


class Star(Frozen):
    """A star; `inner` is where its notches lie, as a share of its radius."""

    form: Literal["star"] = "star"
    points: Annotated[int, Field(ge=3, le=60)] = 5
    across_mm: SizeMm = 50.0
    inner: Annotated[float, Field(ge=0.05, le=0.98)] = 0.42


class Heart(Frozen):
    """A heart."""

    form: Literal["heart"] = "heart"
    width_mm: SizeMm = 50.0
    height_mm: SizeMm = 46.0


class RingShape(Frozen):
    """A circular band."""

    form: Literal["ring"] = "ring"
    across_mm: SizeMm = 60.0
    band_mm: SizeMm = 4.0

    @model_validator(mode="after")
    def _has_hole(self) -> RingShape:
        if 2 * self.band_mm >= self.across_mm:
            raise ValueError("the band must be narrower than half the ring")
        return self


class Ribbon(Frozen):
    """A banner ribbon whose ends hang lower by `fold_mm`."""

    form: Literal["ribbon"] = "ribbon"
    width_mm: SizeMm = 100.0
    height_mm: SizeMm = 30.0
    fold_mm: SizeMm = 8.0

    @model_validator(mode="after")
    def _has_panel(self) -> Ribbon:
        if self.fold_mm >= 0.6 * self.height_mm:
            raise ValueError("the ends cannot hang lower than 0.6 of the ribbon's height")
        return self


Form = Annotated[Rectangle | Ellipse | RegularPolygon | Star | Heart | RingShape | Ribbon, Field(discriminator="form")]


class ShapeArt(OneFilmArt):
    """A plain shape about its own middle."""

    kind: Literal["shape"] = "shape"
    form: Form


class VectorArt(RegionArt):
    """A vector file: its content hash. Each of its colours is a film.

    `reading` says what its bare units are taken for, where it tells no real size. Its open paths are cut as the file paints
    them, or closed to areas, or expanded to lines of `line_mm`. What lies beyond its page is cut off, or kept. Its
    see-through paint is taken for solid or, over one colour, mixed with it. With `count` its nearest colours become one film
    until so many are left. Of a file with pages, `page` is the one that is cut.
    """

    kind: Literal["vector"] = "vector"
    file: Hash
    page: Annotated[int, Field(ge=1, le=2000)] = 1
    reading: Literal["as-told", "72-dpi", "90-dpi", "96-dpi", "mm"] = "as-told"
    open_paths: Literal["as-told", "close", "expand"] = "as-told"
    line_mm: Annotated[DetailMm, Field(ge=0.05)] = 1.0
    beyond: Beyond = "cut"
    tints: Tints = "solid"
    count: Annotated[int, Field(ge=1, le=1000)] | None = None
    merges: Annotated[tuple[Merge, ...], Field(max_length=64)] = ()
    dropped: Annotated[tuple[Colour, ...], Field(max_length=64)] = ()


class LineArt(RegionArt):
    """A picture of lines on paper: its ink is a film, and each area it encloses waits for one.

    `threshold` is the grey level (0 to 255, paper evened to white) below which is ink; None takes the proposed one. Ink is
    cut as `lines`, as a `solid` silhouette with the areas filled, or not at all.
    """

    kind: Literal["line-art"] = "line-art"
    picture: Hash
    corners: FourCorners | None = None
    width_mm: WidthMm
    threshold: Annotated[int, Field(ge=1, le=254)] | None = None
    ink: Literal["lines", "solid", "none"] = "lines"
    ink_film: FilmKey = "#14100c"
    detail_mm: DetailMm = 0.02
    smoothing_mm: DetailMm = 0.0
    speck_mm: DetailMm = 0.6


AnyArt = RegionArt | OneFilmArt
Art = Annotated[PictureArt | LetteringArt | ShapeArt | VectorArt | LineArt, Field(discriminator="kind")]
