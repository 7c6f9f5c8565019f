"""Edits of art: bringing in, changing, copying, taking away."""

from __future__ import annotations

import difflib
import re
from typing import Annotated, Literal

from pydantic import Field

from gladstack.core.base.errors import RecipeError
from gladstack.recipe.edit.base import AnEdit, free_id, ids_of, known_art, named, with_art
from gladstack.recipe.edit.following import followed, moves_of
from gladstack.recipe.edit.scale import resized, scaled_art
from gladstack.recipe.model.arts import Art, LetterFilm, LetteringArt, LetterTweak
from gladstack.recipe.model.fields import shown
from gladstack.recipe.model.makings import Making
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.values import Factor, Id, PlaceMm, changed

_FIELDS = {
    "font": "font", "height_mm": "letter height", "spacing_mm": "letter spacing", "leading": "line spacing",
    "align": "alignment", "fit_width_mm": "width", "fit_height_mm": "height", "bend": "bend of the baseline",
    "lines": "single lines", "letters": "single letters", "pairs": "gaps of letters",
    "films": "films of letters", "weld": "weld", "film": "film",
    "opens": "what it opens", "margin_mm": "margin", "inside": "what it is kept inside",
    "as_film": "film", "opening": "what it opens",
    "without": "what it leaves open", "form": "form",
    "width_mm": "width", "filename": "picture", "separation": "separation",
    "reading": "size", "merges": "films", "dropped": "films", "pins": "claims",
    "simplify_mm": "simplifying", "mends": "mending", "open_paths": "open paths", "line_mm": "width of lines",
    "gap_mm": "gaps that are joined",
    "beyond": "what lies beyond the page",
    "threshold": "threshold", "ink": "ink", "ink_film": "film of the ink",
}  # fmt: skip


class AddArt(AnEdit):
    """Bring lettering, a plain shape or another picture onto the stack; it is given an id."""

    kind: Literal["add-art"] = "add-art"
    art: Art

    def apply(self, recipe: Recipe) -> Recipe:
        """Brings it in."""
        return changed(recipe, arts=(*recipe.arts, changed(self.art, id=free_id(ids_of(recipe), self.art.kind))))

    def describe(self, recipe: Recipe) -> str:
        """Tells what."""
        return f"Brought in {self.art.title}"


class ChangeArts(AnEdit):
    """Give one or more pieces of art new choices or places, each as a whole, found by its id."""

    kind: Literal["change-arts"] = "change-arts"
    arts: Annotated[tuple[Art, ...], Field(min_length=1, max_length=200)]

    def apply(self, recipe: Recipe) -> Recipe:
        """Changes them. Raises RecipeError for art that is gone or would become another kind."""
        before = recipe.arts
        for new in self.arts:
            old = known_art(recipe, new.id)
            if type(old) is not type(new):
                raise RecipeError("An art cannot become one of another kind.", "Bring in a new one instead.")
            if isinstance(new, LetteringArt) and isinstance(old, LetteringArt):
                new = _followed(old, new)
                # A design that is called by its words goes on being called by them.
                if recipe.name == name_from(old) and name_from(new):
                    recipe = changed(recipe, name=name_from(new))
            recipe = with_art(recipe, resized(old, new))
        return followed(recipe, moves_of(before, recipe.arts))

    def describe(self, recipe: Recipe) -> str:
        """Tells what changed: words, place, or the choices that differ."""
        if len(self.arts) > 1:
            return f"Placed {len(self.arts)} pieces of art"
        new, old = self.arts[0], recipe.art(self.arts[0].id)
        if old is None or type(new) is not type(old):
            return f"Changed {new.title}"
        differ = [f for f in type(new).model_fields if getattr(new, f) != getattr(old, f)]
        if "text" in differ:
            return f"Wrote {new.title}"
        if differ == ["mends"]:
            return f"Mended {new.title}"
        if differ == ["place"]:
            own = {f for f in type(new.place).model_fields if getattr(new.place, f) != getattr(old.place, f)}
            words = {"scale_x": "Scaled", "scale_y": "Scaled", "mirrored": "Mirrored", "turn_deg": "Turned"}
            said = next((words[f] for f in ("turn_deg", "mirrored", "scale_x", "scale_y") if f in own), "Moved")
            return f"{said} {new.title}"
        return f"{new.title}: {', '.join(_FIELDS.get(f, f) for f in differ) or 'nothing'} changed"


class CopyArt(AnEdit):
    """Put a copy of an art beside it."""

    kind: Literal["copy-art"] = "copy-art"
    art: Id
    dx_mm: PlaceMm = 5.0
    dy_mm: PlaceMm = 5.0

    def apply(self, recipe: Recipe) -> Recipe:
        """Copies it."""
        old = known_art(recipe, self.art)
        place = changed(old.place, x_mm=old.place.x_mm + self.dx_mm, y_mm=old.place.y_mm + self.dy_mm)
        copy = changed(old, id=free_id(ids_of(recipe), re.sub(r"-\d+$", "", old.id)), place=place)
        at = [a.id for a in recipe.arts].index(self.art) + 1
        return changed(recipe, arts=(*recipe.arts[:at], copy, *recipe.arts[at:]))

    def describe(self, recipe: Recipe) -> str:
        """Tells what."""
        return f"Copied {named(recipe, self.art)}"


class RemoveArt(AnEdit):
    """Take an art off the stack, and whatever was made of it alone."""

    kind: Literal["remove-art"] = "remove-art"
    art: Id

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes it away. Raises RecipeError for the only art."""
        known_art(recipe, self.art)
        if len(recipe.arts) == 1:
            raise RecipeError("This is the only art of the design.", "Bring in another before taking it away.")
        left = changed(recipe, arts=tuple(a for a in recipe.arts if a.id != self.art))
        return without_lost(left, {self.art}, recipe)

    def describe(self, recipe: Recipe) -> str:
        """Tells what."""
        return f"Took away {named(recipe, self.art)}"


class ScaleArt(AnEdit):
    """Make an art larger or smaller in proportion, about a point of the stack."""

    kind: Literal["scale-art"] = "scale-art"
    art: Id
    factor: Factor
    x_mm: PlaceMm
    y_mm: PlaceMm

    def apply(self, recipe: Recipe) -> Recipe:
        """Scales it."""
        return with_art(recipe, scaled_art(known_art(recipe, self.art), self.factor, self.x_mm, self.y_mm))

    def describe(self, recipe: Recipe) -> str:
        """Tells the factor."""
        return f"Scaled {named(recipe, self.art)} to {100 * self.factor:.4g} %"


def without_lost(recipe: Recipe, arts: set[str], before: Recipe) -> Recipe:
    """The recipe without what hung on art or films that have gone: makings of them alone, and references to them.

    Films of pictures come and go with their colours, so references to them stay.
    """
    while True:
        lost = arts | {f for f in set(before.film_keys()) - set(recipe.film_keys()) if not f.startswith("#")}
        makings: list[Making] = []
        for making in recipe.makings:
            of = tuple(ref for ref in making.of if ref not in lost)
            if of or not making.of:
                makings.append(making if of == making.of else changed(making, of=of))
        arts_left = tuple(a.without_lost(lost) for a in recipe.arts)
        films = tuple(f for f in recipe.films if f.film not in lost)
        pairs = tuple(p for p in recipe.pairs if p.a not in lost and p.b not in lost)
        order = tuple(f for f in recipe.order if f not in lost)
        new = changed(recipe, makings=tuple(makings), arts=arts_left, films=films, pairs=pairs, order=order)
        if new == recipe:
            return recipe
        recipe = new


def name_from(art: LetteringArt) -> str:
    """What a design is called that begins with lettering."""
    return art.words[:60].strip()


def _followed(old: LetteringArt, new: LetteringArt) -> LetteringArt:
    """New words with the nudges and films of those letters that are still there."""
    if old.text == new.text or (new.letters, new.films) != (old.letters, old.films):
        return new
    moved: dict[int, int] = {}
    before, after = shown(old.text), shown(new.text)
    for block in difflib.SequenceMatcher(None, before, after, autojunk=False).get_matching_blocks():
        moved |= {block.a + k: block.b + k for k in range(block.size)}
    letters = tuple(LetterTweak(**{**t.model_dump(), "index": moved[t.index]}) for t in old.letters if t.index in moved)
    films = []
    for span in old.films:
        kept = [moved[k] for k in range(span.start, min(span.end, len(before))) if k in moved]
        if kept:
            films.append(LetterFilm(start=min(kept), end=max(kept) + 1, film=span.film))
    return changed(new, letters=letters, films=tuple(films))
