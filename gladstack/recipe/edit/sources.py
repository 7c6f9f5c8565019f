"""Another picture or file of the same motif in place of an art's, with the maker's choices where they belong."""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping
from functools import partial
from typing import Annotated, ClassVar, Literal

from pydantic import Field

from gladstack.core.base.errors import RecipeError
from gladstack.recipe.edit.base import known_art, named, with_art
from gladstack.recipe.edit.regions import OfRegions
from gladstack.recipe.model.arts import Merge, PictureArt, Place, RasterArt, RegionArt, Separation
from gladstack.recipe.model.mends import with_points
from gladstack.recipe.model.pins import ArtPoint
from gladstack.recipe.model.recipe import Recipe, Version
from gladstack.recipe.model.renaming import films_renamed
from gladstack.recipe.model.scaling import scaled_by_type
from gladstack.recipe.model.values import (
    MAX_WIDTH_MM,
    MIN_WIDTH_MM,
    Colour,
    Degrees,
    Filename,
    Frozen,
    Hash,
    Id,
    PlaceMm,
    changed,
)

_SQUARE = 1e-6


class Laid(Frozen):
    """How a new source lies on the old, both in their own mm: scaled, turned clockwise, then shifted."""

    scale: Annotated[float, Field(ge=0.1, le=10.0, allow_inf_nan=False)] = 1.0
    turn_deg: Degrees = 0.0
    x_mm: PlaceMm = 0.0
    y_mm: PlaceMm = 0.0


class ReplaceSource(OfRegions):
    """Make an art of another picture or file, laid on the old one.

    `pins` are where its claims come to lie, in their order, in shares of the new source's width; those in `strayed` found no
    like region, and claim nothing until they are put back. Steps of mending in `idle` are switched off. `colours` says which
    films come in other colours. The widths are those of the old and new source in their own mm.
    """

    of_motif: ClassVar[bool] = True
    kind: Literal["replace-source"] = "replace-source"
    source: Hash
    filename: Filename = ""
    laid: Laid = Laid()
    width_mm: Annotated[float, Field(gt=0, allow_inf_nan=False)]
    new_width_mm: Annotated[float, Field(gt=0, allow_inf_nan=False)]
    pins: Annotated[tuple[ArtPoint, ...], Field(max_length=5000)] = ()
    strayed: Annotated[tuple[int, ...], Field(max_length=5000)] = ()
    idle: Annotated[tuple[Id, ...], Field(max_length=500)] = ()
    colours: Annotated[tuple[Merge, ...], Field(max_length=256)] = ()

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes it. Raises RecipeError where it was worked out for other claims, or cannot lie as it should."""
        old = self.regions(recipe)
        if len(self.pins) != len(old.pins) or any(k >= len(old.pins) for k in self.strayed):
            raise RecipeError("What is claimed of the art has changed meanwhile.", "Choose the new source once more.")
        art = self._moved(old)
        pins = [changed(pin, x=at.x, y=at.y) for pin, at in zip(old.pins, self.pins, strict=True)]
        gone = set(self.strayed)
        art = changed(
            art,
            pins=tuple(p for k, p in enumerate(pins) if k not in gone),
            strayed=(*art.strayed, *(p for k, p in enumerate(pins) if k in gone)),
            mends=tuple(changed(m, on=False) if m.id in self.idle else m for m in art.mends),
        )
        names = {c.colour: c.into for c in self.colours}
        if isinstance(art, PictureArt):
            art = changed(art, separation=_recoloured(art.separation, names))
        return _renamed(with_art(recipe, art), recipe, self.art, names)

    def in_motif(self, recipe: Recipe, factor: float) -> ReplaceSource:
        """Pictures are larger in a version by their own measures; a file by its place alone."""
        if not isinstance(recipe.art(self.art), RasterArt):
            return self
        laid = changed(self.laid, x_mm=self.laid.x_mm / factor, y_mm=self.laid.y_mm / factor)
        return changed(self, laid=laid, width_mm=self.width_mm / factor, new_width_mm=self.new_width_mm / factor)

    def describe(self, recipe: Recipe) -> str:
        """Tells by what."""
        return f"Replaced {named(recipe, self.art)} by {self.filename or 'another'}"

    def _moved(self, old: RegionArt) -> RegionArt:
        """The art from its new source, where that lies; with what is told in shares of its width told in the new one's."""
        art = old.from_source(self.source, self.filename)
        laid, place = self.laid, old.place
        if abs(place.scale_x - place.scale_y) > _SQUARE and abs(laid.turn_deg) > _SQUARE:
            raise RecipeError(
                "This art is wider or taller than it was drawn, so it cannot be turned to fit.",
                "Set its width and height back in proportion, or leave the turn at 0.",
            )
        a, b, c, d, x, y = place.matrix
        at_x, at_y = a * laid.x_mm + c * laid.y_mm + x, b * laid.x_mm + d * laid.y_mm + y
        turn = place.turn_deg + (-laid.turn_deg if place.mirrored else laid.turn_deg)
        turn = (turn + 180.0) % 360.0 - 180.0
        if isinstance(art, RasterArt):
            wide = min(MAX_WIDTH_MM, max(MIN_WIDTH_MM, art.width_mm * laid.scale))
            art = changed(art, width_mm=wide)
            scale = 1.0
        else:
            # A file has no measures of its own: its place grows, and lengths within it are told as they were drawn.
            scale = laid.scale
            smaller = scaled_by_type(art, 1 / scale, added=False)
            art = changed(art, mends=smaller.mends, simplify_mm=smaller.simplify_mm)
        new = Place(
            x_mm=round(at_x, 6), y_mm=round(at_y, 6), turn_deg=round(turn, 6), mirrored=place.mirrored,
            scale_x=place.scale_x * scale, scale_y=place.scale_y * scale,
        )  # fmt: skip
        return changed(
            art, place=new, mends=tuple(with_points(m, self._moved_point) for m in art.mends),
            strayed=tuple(changed(p, x=(at := self._moved_point(p)).x, y=at.y) for p in art.strayed),
        )  # fmt: skip

    def _moved_point(self, point: ArtPoint) -> ArtPoint:
        laid = self.laid
        x, y = point.x * self.width_mm - laid.x_mm, point.y * self.width_mm - laid.y_mm
        turn = math.radians(laid.turn_deg)
        cos, sin = math.cos(turn) / laid.scale, math.sin(turn) / laid.scale
        return ArtPoint(x=(cos * x + sin * y) / self.new_width_mm, y=(cos * y - sin * x) / self.new_width_mm)


class PutClaimsBack(OfRegions):
    """Put claims that strayed when a source was replaced back where they were made; or let them go."""

    kind: Literal["put-claims-back"] = "put-claims-back"
    let_go: bool = False

    def apply(self, recipe: Recipe) -> Recipe:
        """Puts them back, or lets them go."""
        art = self.regions(recipe)
        again = () if self.let_go else art.strayed
        fresh = {(p.x, p.y) for p in again}
        kept = tuple(p for p in art.pins if (p.x, p.y) not in fresh)
        return with_art(recipe, changed(art, pins=(*kept, *again), strayed=()))

    def describe(self, recipe: Recipe) -> str:
        """Tells which."""
        return f"{named(recipe, self.art)}: " + ("let old claims go" if self.let_go else "put old claims back")


def _recoloured(separation: Separation, names: Mapping[str, Colour]) -> Separation:
    """A separation that speaks of colours as they are now."""

    def of(colours: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(dict.fromkeys(names.get(c, c) for c in colours))

    merges = tuple(Merge(colour=names.get(m.colour, m.colour), into=names.get(m.into, m.into)) for m in separation.merges)
    return changed(
        separation, picked=of(separation.picked), held=of(separation.held), dropped=of(separation.dropped), merges=merges
    )


def _renamed(recipe: Recipe, before: Recipe, art: Id, names: Mapping[str, str]) -> Recipe:
    """A recipe whose choices go with films that have come in another colour.

    Where other art may be of such a film too, its choices stay as well.
    """
    if not names:
        return recipe
    others = [a for a in before.arts if a.id != art]
    named_too = {film for a in others for film in a.named_films} | {m.film for m in before.makings}
    shared = {was for was in names if was in named_too or any(isinstance(a, RegionArt) for a in others)}
    # What was said of a film that had such a colour before gives way.
    told = {f.film for f in recipe.films}
    gone = {now for was, now in names.items() if was in told and now not in names}
    plain = changed(recipe, arts=(known_art(recipe, art),), films=tuple(f for f in recipe.films if f.film not in gone))
    new = films_renamed(plain, names)
    arts = tuple(new.arts[0] if a.id == art else a for a in recipe.arts)
    if not shared:
        return changed(new, arts=arts)
    films = tuple({f.film: f for f in (*(f for f in recipe.films if f.film in shared), *new.films)}.values())
    pairs = (*(p for p in recipe.pairs if {p.a, p.b} & shared), *new.pairs)
    order = [
        one for film in recipe.order for one in dict.fromkeys([*([film] if film in shared else []), names.get(film, film)])
    ]
    versions = tuple(map(partial(_both, shared), recipe.versions, new.versions))
    return changed(recipe, arts=arts, films=films, pairs=pairs, order=tuple(order), versions=versions)


def _both(shared: Collection[str], before: Version, after: Version) -> Version:
    """What a version decides of films by their new keys, and by the old ones of those that other art is of too."""
    kept = (own for own in before.films if own.choice.film in shared)
    return changed(after, films=tuple({own.choice.film: own for own in (*kept, *after.films)}.values()))
