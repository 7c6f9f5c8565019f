"""What all art has: its place, what it is made of, and how it relates to films and other art."""

from __future__ import annotations

import math
from abc import abstractmethod
from typing import Annotated, Literal, Self

from pydantic import Field, StringConstraints

from gladstack.core.geometry.curves import Matrix
from gladstack.recipe.model.mends import Brush, DrawArea, Mend
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
    Id,
    OffsetMm,
    PlaceMm,
    changed,
)

FontKey = Annotated[str, StringConstraints(pattern=r"^([0-9a-f]{64}|[a-z][a-z0-9-]{0,39})$")]
"""A font that ships with the app, by name, or one of the maker's own, by content hash."""
NEW = "new"
"""The id of an art or making that is to be given one."""
Asset = tuple[Literal["picture", "file", "font"], str]
"""Something an art is made from, by its kind and hash (a font by its key)."""


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
        """From the art's own millimetres to the stack's: first `sized`, then `laid`."""
        a, b, c, d, x, y = self.laid
        return a * self.scale_x, b * self.scale_x, c * self.scale_y, d * self.scale_y, x, y

    @property
    def sized(self) -> Matrix:
        """From the art's own millimetres to its size on the stack."""
        return self.scale_x, 0.0, 0.0, self.scale_y, 0.0, 0.0

    @property
    def laid(self) -> Matrix:
        """From the art in its size to where it lies, turned and mirrored as it is."""
        turn = math.radians(self.turn_deg)
        cos, sin = (1.0, 0.0) if self.turn_deg % 360 == 0 else (math.cos(turn), math.sin(turn))
        side = -1.0 if self.mirrored else 1.0
        return cos * side, sin * side, -sin, cos, self.x_mm, self.y_mm


class Merge(Frozen):
    """Two colours are one film: what is `colour` counts as `into`."""

    colour: Colour
    into: Colour


class AnyArt(Frozen):
    """What is the same for every kind of art: where it lies, what it is kept inside of, and what is mended in it."""

    id: Id = NEW
    inside: FilmKey | None = None
    mends: Annotated[tuple[Mend, ...], Field(max_length=500)] = ()
    place: Place = Place()

    @property
    @abstractmethod
    def title(self) -> str:
        """The art in a few words."""

    @property
    def assets(self) -> tuple[Asset, ...]:
        """What it is made from."""
        return ()

    @property
    @abstractmethod
    def named_films(self) -> tuple[str, ...]:
        """The films it names, in the order in which they come to be."""

    @abstractmethod
    def opened(self) -> Self:
        """The same art cut out of everything, down to the ground."""

    @abstractmethod
    def in_film(self, film: str) -> Self:
        """The same art, all of it part of one film."""

    @abstractmethod
    def apart_from(self, other: str) -> Self:
        """The same art without any relation to another."""

    def without_lost(self, lost: set[str]) -> Self:
        """The same art without references to what has gone."""
        return changed(self, inside=None) if self.inside in lost else self

    def scaled_in_place(self, factor: float) -> Place | None:
        """Where it lies once it is `factor` times as large; None if its own measures grow instead."""
        return None

    def _mended_films(self) -> tuple[str, ...]:
        painted = (mend.film for mend in self.mends if isinstance(mend, Brush) and mend.mode == "add")
        return (*painted, *(mend.film for mend in self.mends if isinstance(mend, DrawArea) and mend.film is not None))


class RegionArt(AnyArt):
    """Art that comes as regions, each with a film by its colour or waiting for one, unless a pin says otherwise.

    Its origin is its top-left corner. `mends` put right what its source got wrong; `simplify_mm` is how far its edges may
    move for the sake of fewer nodes (0: not at all). `inside` keeps only what falls within another art or film. With
    `as_film` all of it is part of one film; as an `opening` it is cut out of everything, down to the ground. `strayed` are
    claims that found no like region when its source was replaced: they claim nothing until they are put back.
    """

    filename: Filename = ""
    pins: Annotated[tuple[Pin, ...], Field(max_length=5000)] = ()
    strayed: Annotated[tuple[Pin, ...], Field(max_length=5000)] = ()
    simplify_mm: Annotated[DetailMm, MOTIF] = 0.0
    as_film: FilmKey | None = None
    opening: bool = False

    @property
    def named_films(self) -> tuple[str, ...]:
        """The film it is all part of, those that regions were claimed for, and those that were painted."""
        whole = () if self.as_film is None else (self.as_film,)
        return (*whole, *(pin.film for pin in self.pins if pin.film is not None), *self._mended_films())

    @abstractmethod
    def from_source(self, digest: str, filename: str) -> Self:
        """The same art from another picture or file, with nothing of it moved to fit."""

    def opened(self) -> Self:
        """The same art as a hole."""
        return changed(self, opening=True)

    def in_film(self, film: str) -> Self:
        """The same art in one film."""
        return changed(self, as_film=film)

    def apart_from(self, other: str) -> Self:
        """The same art by itself."""
        return changed(self.without_lost({other}), opening=False, as_film=None)


class OneFilmArt(AnyArt):
    """Art whose outlines the maker gives to a film, or takes out of others.

    With `film` it is part of that film. Without, it is an opening: it is cut out of the films it `opens`, made wider by
    `margin_mm`; with none named it goes through everything, down to the ground. `without` names art or films that are left
    open in it: a frame without a design is the design's negative. `mends` change what it gives to films.
    """

    film: FilmKey | None = "#25231e"
    opens: Annotated[tuple[FilmKey, ...], Field(max_length=64)] = ()
    margin_mm: OffsetMm = 0.0
    without: Annotated[tuple[FilmKey, ...], Field(max_length=64)] = ()

    @property
    def named_films(self) -> tuple[str, ...]:
        """Its film, and those that were painted."""
        return (*(() if self.film is None else (self.film,)), *self._mended_films())

    def opened(self) -> Self:
        """The same art as a hole through everything."""
        return changed(self, film=None, opens=(), margin_mm=0.0)

    def in_film(self, film: str) -> Self:
        """The same art in one film."""
        return changed(self, film=film)

    def apart_from(self, other: str) -> Self:
        """The same art by itself."""
        return self.without_lost({other})

    def without_lost(self, lost: set[str]) -> Self:
        """The same art without references to what has gone."""
        kept = super().without_lost(lost)
        if not lost & set(kept.without):
            return kept
        return changed(kept, without=tuple(ref for ref in kept.without if ref not in lost))
