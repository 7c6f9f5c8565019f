"""Lettering: lines of text set in fonts."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import BeforeValidator, Field, StringConstraints, model_validator

from gladstack.recipe.model.arts.base import Asset, FontKey, OneFilmArt
from gladstack.recipe.model.fields import shown
from gladstack.recipe.model.values import MOTIF, Degrees, Factor, FilmKey, Frozen, OffsetMm, SizeMm, changed, clean_words

_MOST_SHOWN = 30
Tag = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9]{4}$")]


OneLetter = Annotated[str, StringConstraints(min_length=1, max_length=1, pattern=r"\S")]


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
    the line to be as wide as; with `spread` its letters are set farther apart for that, in place of being scaled. Its
    letters go to its `film`, but for those that have one of their own.
    """

    font: FontKey | None = None
    axes: Axes = ()
    height_mm: SizeMm | None = None
    width_mm: SizeMm | None = None
    like: Annotated[int, Field(ge=0, le=99)] | None = None
    spacing_mm: Annotated[OffsetMm, MOTIF] | None = None
    spread: bool = False
    film: FilmKey | None = None


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


class PairGap(Frozen):
    """How much farther apart (nearer, if negative) two letters are set wherever the second follows the first, in every line
    and in every name that a list fills in.
    """

    first: OneLetter
    second: OneLetter
    mm: Annotated[OffsetMm, MOTIF]


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
    pairs: Annotated[tuple[PairGap, ...], Field(max_length=200)] = ()
    films: Annotated[tuple[LetterFilm, ...], Field(max_length=2000)] = ()
    weld: bool = True
    room_mm: SizeMm | None = None

    @model_validator(mode="after")
    def _one_fit(self) -> LetteringArt:
        if self.fit_width_mm is not None and self.fit_height_mm is not None:
            raise ValueError("give either a width or a height to fit, the other follows")
        return self

    @property
    def words(self) -> str:
        """All its words in one line."""
        return " ".join(shown(self.text).split())

    @property
    def title(self) -> str:
        """Its first words in quotes."""
        return f"“{self.words[:_MOST_SHOWN]}{'…' if len(self.words) > _MOST_SHOWN else ''}”"

    @property
    def assets(self) -> tuple[Asset, ...]:
        """Its fonts."""
        keys = dict.fromkeys((self.font, *(style.font for style in self.lines)))
        return tuple(("font", key) for key in keys if key)

    @property
    def named_films(self) -> tuple[str, ...]:
        """Those of single lines and letters last."""
        of_lines = (line.film for line in self.lines if line.film is not None)
        return (*super().named_films, *of_lines, *(span.film for span in self.films))

    def opened(self) -> Self:
        """All its letters as one hole."""
        return changed(super().opened(), films=(), lines=tuple(changed(line, film=None) for line in self.lines))

    def in_film(self, film: str) -> Self:
        """All its letters in one film."""
        return changed(super().in_film(film), films=())
