"""Edits of how a picture is separated."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gladstack.core.base.errors import RecipeError
from gladstack.core.base.units import format_length
from gladstack.core.picture.palette import MAX_COLOURS
from gladstack.core.picture.rims import Rims
from gladstack.core.picture.straight import check_corners
from gladstack.core.picture.tidy import NAMES, Kind
from gladstack.recipe.edit.base import AnEdit, film_name, known_art, named, with_art
from gladstack.recipe.edit.scale import resized
from gladstack.recipe.model.arts import Background, FourCorners, LineArt, Merge, PictureArt, RasterArt, RegionArt, shares_of
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.values import Colour, DetailMm, Id, WidthMm, changed


class OfPicture(AnEdit):
    """An edit of one picture; `art` may be left out where the design has only one."""

    art: Id | None = None

    def picture(self, recipe: Recipe) -> PictureArt:
        """The picture it is about. Raises RecipeError."""
        found = next((p for p in recipe.pictures() if self.art in (None, p.id)), None)
        if found is None:
            raise RecipeError("This design has no such picture.", "Bring a picture in first.")
        return found

    def separated(self, recipe: Recipe, **changes: object) -> Recipe:
        """The recipe with some choices of the picture's separation changed."""
        art = self.picture(recipe)
        return with_art(recipe, changed(art, separation=changed(art.separation, **changes)))


class Resize(OfPicture):
    """Set the picture's width at the finished size."""

    kind: Literal["resize"] = "resize"
    width_mm: WidthMm

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the width; mends grow with it."""
        art = self.picture(recipe)
        return with_art(recipe, resized(art, changed(art, width_mm=self.width_mm)))

    def describe(self, recipe: Recipe) -> str:
        """Tells the width."""
        return f"Made it {format_length(self.width_mm, recipe.unit)} wide"


class CountColours(OfPicture):
    """Ask for a number of colours, background included; None takes the proposed number."""

    kind: Literal["count-colours"] = "count-colours"
    count: Annotated[int, Field(ge=1, le=MAX_COLOURS)] | None

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the number, and holds the colours whose films have names. Raises RecipeError if more were picked by hand."""
        picked = self.picture(recipe).separation.picked
        if self.count is not None and self.count < len(picked):
            raise RecipeError(
                f"{len(picked)} colours were picked by hand, so {self.count} is too few.", "Take a pick back first."
            )
        held = tuple(f.film for f in recipe.films if f.name and f.film.startswith("#"))
        return self.separated(recipe, count=self.count, rest="found", held=held[:64])

    def describe(self, recipe: Recipe) -> str:
        """Tells the number."""
        return "Took the proposed number of colours" if self.count is None else f"Asked for {self.count} colours"


class PickColour(OfPicture):
    """Make a colour of the picture a film of its own."""

    kind: Literal["pick-colour"] = "pick-colour"
    colour: Colour

    def apply(self, recipe: Recipe) -> Recipe:
        """Picks it."""
        picked = self.picture(recipe).separation.picked
        return self.separated(recipe, picked=tuple(dict.fromkeys([*picked, self.colour])))

    def describe(self, recipe: Recipe) -> str:
        """Tells the colour."""
        return f"Picked {self.colour} from the picture"


class PickOnly(OfPicture):
    """Make some colours of the picture its whole palette; the rest goes to the nearest of them, is left out, or stays as
    it was found.
    """

    kind: Literal["pick-only"] = "pick-only"
    colours: Annotated[tuple[Colour, ...], Field(min_length=1, max_length=MAX_COLOURS)]
    rest: Literal["found", "nearest", "out"] = "nearest"

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes them; what was said of colours before, and is about one of them, no longer holds."""
        now = self.picture(recipe).separation
        picked = tuple(dict.fromkeys(self.colours))
        merges = tuple(m for m in now.merges if m.colour not in picked)
        dropped = tuple(c for c in now.dropped if c not in picked)
        return self.separated(recipe, picked=picked, rest=self.rest, count=None, merges=merges, dropped=dropped)

    def describe(self, recipe: Recipe) -> str:
        """Tells how many."""
        many = f"{len(self.colours)} colours" if len(self.colours) > 1 else "1 colour"
        return f"Picked {many} from the picture" + (", and no others" if self.rest != "found" else "")


class UnpickColour(OfPicture):
    """Take a picked colour back."""

    kind: Literal["unpick-colour"] = "unpick-colour"
    colour: Colour

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes it back; without any pick, the colours that were found are films again."""
        now = self.picture(recipe).separation
        picked = _less(now.picked, self.colour)
        return self.separated(recipe, picked=picked, rest=now.rest if picked else "found")

    def describe(self, recipe: Recipe) -> str:
        """Tells the colour."""
        return f"Took back the pick {self.colour}"


class MergeColours(OfPicture):
    """Make two colours one film."""

    kind: Literal["merge-colours"] = "merge-colours"
    colour: Colour
    into: Colour

    def apply(self, recipe: Recipe) -> Recipe:
        """Merges them."""
        return self.separated(recipe, merges=_merged(self.picture(recipe).separation.merges, self.colour, self.into))

    def describe(self, recipe: Recipe) -> str:
        """Tells both."""
        return f"Made {film_name(recipe, self.colour)} and {film_name(recipe, self.into)} one film"


class PartColours(OfPicture):
    """Make a merged colour a film of its own again."""

    kind: Literal["part-colours"] = "part-colours"
    colour: Colour

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the merge back."""
        merges = self.picture(recipe).separation.merges
        return self.separated(recipe, merges=tuple(m for m in merges if m.colour != self.colour))

    def describe(self, recipe: Recipe) -> str:
        """Tells the colour."""
        return f"Made {film_name(recipe, self.colour)} a film of its own again"


class DropColour(OfPicture):
    """Cut nothing of a colour."""

    kind: Literal["drop-colour"] = "drop-colour"
    colour: Colour

    def apply(self, recipe: Recipe) -> Recipe:
        """Drops it."""
        dropped = self.picture(recipe).separation.dropped
        return self.separated(recipe, dropped=tuple(dict.fromkeys([*dropped, self.colour])))

    def describe(self, recipe: Recipe) -> str:
        """Tells the colour."""
        return f"Dropped {film_name(recipe, self.colour)}"


class KeepColour(OfPicture):
    """Bring a dropped colour back."""

    kind: Literal["keep-colour"] = "keep-colour"
    colour: Colour

    def apply(self, recipe: Recipe) -> Recipe:
        """Brings it back."""
        return self.separated(recipe, dropped=_less(self.picture(recipe).separation.dropped, self.colour))

    def describe(self, recipe: Recipe) -> str:
        """Tells the colour."""
        return f"Brought back {film_name(recipe, self.colour)}"


class TreatBackground(OfPicture):
    """Drop the background everywhere, or only where it touches the picture's edge, or keep it as a film."""

    kind: Literal["treat-background"] = "treat-background"
    background: Background

    def apply(self, recipe: Recipe) -> Recipe:
        """Treats it so."""
        return self.separated(recipe, background=self.background)

    def describe(self, recipe: Recipe) -> str:
        """Tells how."""
        dropped = {
            "auto": "Took the proposal for the background",
            "drop": "Dropped the background everywhere",
            "outside": "Dropped the background outside only",
        }
        return dropped.get(self.background, "Kept the background as a film")


class SetDetail(OfPicture):
    """Set how closely edges are followed and what counts as a speck; what is left out stays."""

    kind: Literal["set-detail"] = "set-detail"
    detail_mm: DetailMm | None = None
    smoothing_mm: DetailMm | None = None
    speck_mm: DetailMm | None = None

    def _lengths(self) -> dict[str, float]:
        return self.model_dump(exclude={"kind", "art"}, exclude_none=True)

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes what is given."""
        return self.separated(recipe, **self._lengths())

    def describe(self, recipe: Recipe) -> str:
        """Tells what was given."""
        return "Set " + ", ".join(f"{k.removesuffix('_mm')} {v:g} mm" for k, v in self._lengths().items())


class PutRight(OfPicture):
    """Put something right in a picture before its colours are found, or leave it as it came."""

    kind: Literal["put-right"] = "put-right"
    what: Kind
    done: bool

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes it so."""
        now = self.picture(recipe).separation.as_is
        kept = tuple(k for k in now if k != self.what)
        return self.separated(recipe, as_is=kept if self.done else (*kept, self.what))

    def describe(self, recipe: Recipe) -> str:
        """Tells what."""
        name = NAMES[self.what]
        return f"{name} put right" if self.done else f"{name} left as it came"


class SetBands(OfPicture):
    """Cut graded fills in so many bands of colour; 1 makes each of them one colour."""

    kind: Literal["set-bands"] = "set-bands"
    bands: Annotated[int, Field(ge=1, le=8)]

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the number."""
        now = self.picture(recipe).separation.as_is
        return self.separated(recipe, bands=self.bands, as_is=tuple(k for k in now if k != "fills"))

    def describe(self, recipe: Recipe) -> str:
        """Tells the number."""
        return "Graded fills in one colour each" if self.bands == 1 else f"Graded fills in {self.bands} bands"


class SetRims(OfPicture):
    """Give thin rims between colours to their neighbours: those that are broken, or all."""

    kind: Literal["set-rims"] = "set-rims"
    rims: Rims

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the choice."""
        now = self.picture(recipe).separation.as_is
        return self.separated(recipe, rims=self.rims, as_is=tuple(k for k in now if k != "rims"))

    def describe(self, recipe: Recipe) -> str:
        """Tells the choice."""
        return "Thin rims given to their neighbours" if self.rims == "all" else "Whole thin rims kept"


class SetStraight(AnEdit):
    """Put a photograph straight by the four corners of what it shows; None takes it as it is. Its width stays."""

    kind: Literal["set-straight"] = "set-straight"
    art: Id
    corners: FourCorners | None

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes the corners. Raises RecipeError for art that is no picture, PictureError where they go round nothing."""
        art = known_art(recipe, self.art)
        if not isinstance(art, RasterArt):
            raise RecipeError("Only a picture can be set straight.", "Bring a picture in first.")
        if self.corners is not None:
            check_corners(shares_of(self.corners))
        return with_art(recipe, changed(art, corners=self.corners))

    def describe(self, recipe: Recipe) -> str:
        """Tells what."""
        name = named(recipe, self.art)
        return f"Took {name} as it was photographed" if self.corners is None else f"Set {name} straight"


class TreatPicture(AnEdit):
    """Take a picture for line art, or line art for a picture of flat colours; its place and width stay."""

    kind: Literal["treat-picture"] = "treat-picture"
    art: Id
    treatment: Literal["lines", "colours"]

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes it for that. Raises RecipeError for art that is no picture."""
        art = known_art(recipe, self.art)
        if not isinstance(art, RasterArt):
            raise RecipeError("Only a picture can be treated as line art.", "Bring a picture in first.")
        same = {k: getattr(art, k) for k in (*RegionArt.model_fields, "picture", "corners", "frame", "width_mm")}
        return with_art(recipe, LineArt(**same) if self.treatment == "lines" else PictureArt(**same))

    def describe(self, recipe: Recipe) -> str:
        """Tells for what."""
        return f"Took {named(recipe, self.art)} for {'line art' if self.treatment == 'lines' else 'flat colours'}"


def _less(colours: tuple[str, ...], gone: str) -> tuple[str, ...]:
    return tuple(c for c in colours if c != gone)


def _merged(before: tuple[Merge, ...], colour: str, into: str) -> tuple[Merge, ...]:
    if colour == into:
        raise RecipeError("A colour cannot be merged with itself.", "Choose two colours.")
    merges = {m.colour: m.into for m in before}
    merges[colour] = into
    seen, here = {colour}, into
    while here in merges:
        here = merges[here]
        if here in seen:
            # The maker turns an older merge round: the newer one wins.
            merges.pop(into, None)
            break
        seen.add(here)
    return tuple(Merge(colour=c, into=t) for c, t in merges.items())
