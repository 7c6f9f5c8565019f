"""Designs and their builds together: what a route needs, in one call each."""

from __future__ import annotations

import threading
from collections.abc import Callable

from gladstack.api.views import (
    BuiltView,
    DesignLineView,
    DesignView,
    RegionsView,
    built_view,
    design_view,
    line_view,
    regions_view,
)
from gladstack.core.errors import MendError, RecipeError
from gladstack.core.svg import path_data
from gladstack.recipe.apply import apply_edit
from gladstack.recipe.art_pieces import Assets
from gladstack.recipe.arts import LetteringArt, PictureArt, RegionArt, ShapeArt, VectorArt
from gladstack.recipe.build import Built, build
from gladstack.recipe.describe import art_name
from gladstack.recipe.edits import AddArt, AddMend, Edit, SetFinish
from gladstack.recipe.memo import Memo
from gladstack.recipe.models import Finish, Recipe
from gladstack.recipe.pieces import pieces_of, regions_of_art
from gladstack.recipe.source import Clock
from gladstack.recipe.values import Method, changed
from gladstack.recipe.vectors import is_vector, picture_within
from gladstack.store.designs import Design, DesignBook
from gladstack.store.fonts import FontShelf, ShelfFont


class Workshop:
    """The store and the memo that every build shares. Builds run one at a time: the cores are few."""

    def __init__(self, store: DesignBook, fonts: FontShelf) -> None:
        self.store = store
        self.fonts = fonts
        self._assets = Assets(picture=store.picture, font=fonts.data, file=store.file)
        self._memo = Memo()
        self._lock = threading.Lock()

    def build(self, recipe: Recipe) -> Built:
        """What follows from a recipe. Raises GladStackError."""
        with self._lock:
            return build(recipe, self._assets, self._memo)

    def lines(self) -> list[DesignLineView]:
        """All designs, the last changed first."""
        return [line_view(line) for line in self.store.lines()]

    def start(self, data: bytes, filename: str, name: str, width_mm: float, method: Method) -> DesignView:
        """A new design from a picture or a vector file. If it cannot be built, nothing is kept of it."""

        def begin(art: PictureArt | VectorArt) -> DesignView:
            recipe = Recipe(name=name, arts=(changed(art, id=f"{art.kind}-1"),), method=method)
            self.build(recipe)
            brought = "vector file" if isinstance(art, VectorArt) else "picture"
            return self._view(self.store.create(recipe, label=f"Brought in the {brought}"))

        return self._with_file(data, filename, width_mm, begin)

    def _with_file(
        self, data: bytes, filename: str, width_mm: float, use: Callable[[PictureArt | VectorArt], DesignView]
    ) -> DesignView:
        """Keeps a file, and uses it as art: a picture, a vector file, or the picture that a vector file merely wraps.

        If that fails, the file is forgotten again.
        """
        held = picture_within(data) if is_vector(data) else data
        if held is None:
            file = self.store.add_file(data)
            return self._or_forget(self.store.drop_unused_file, file, lambda: use(VectorArt(file=file, filename=filename)))
        told = filename if held is data else f"{filename}, the picture in it"
        picture = self.store.add_picture(held, told)
        art = PictureArt(picture=picture, filename=told[:300], width_mm=width_mm)
        return self._or_forget(self.store.drop_unused_picture, picture, lambda: use(art))

    @staticmethod
    def _or_forget(forget: Callable[[str], None], digest: str, use: Callable[[], DesignView]) -> DesignView:
        try:
            return use()
        except Exception:
            forget(digest)
            raise

    def start_plain(self, name: str, art: LetteringArt | ShapeArt, method: Method) -> DesignView:
        """A new design from lettering or a plain shape."""
        recipe = Recipe(name=name, arts=(changed(art, id=f"{art.kind}-1"),), method=method)
        self.build(recipe)
        return self._view(self.store.create(recipe, label=f"Began with {art_name(art)}"))

    def add_picture(self, design: str, base: int, data: bytes, filename: str, width_mm: float) -> DesignView:
        """Another picture or vector file for a design. If it cannot be built, nothing is kept of it."""
        return self._with_file(data, filename, width_mm, lambda art: self.edit(design, base, AddArt(art=art)))

    def add_pattern(self, design: str, base: int, data: bytes, film: str) -> DesignView:
        """A film patterned with a picture."""
        picture = self.store.add_picture(data)
        finish = Finish(kind="patterned", pattern="picture", picture=picture, scale_mm=20.0)
        edit = SetFinish(film=film, finish=finish)
        return self._or_forget(self.store.drop_unused_picture, picture, lambda: self.edit(design, base, edit))

    def attempt(self, design: str, base: int, edit: Edit) -> BuiltView:
        """What an edit made on revision `base` would lead to."""
        recipe = self.store.revision(design, base).recipe
        return built_view(self.build(apply_edit(recipe, edit)))

    def sample(self, font: ShelfFont) -> str:
        """A font's name drawn in it, as path data."""
        art = LetteringArt(text=font.name, font=font.key, height_mm=10, align="left")
        with self._lock:
            pieces = self._memo.get(f"sample:{font.key}", lambda: pieces_of(art, self._assets, self._clock()))
        return path_data([c.chain for c in pieces.curves])

    def _clock(self) -> Clock:
        return Clock(self._memo, lambda stage: None)

    def open(self, design: str) -> DesignView:
        """A design as it stands."""
        return self._view(self.store.get(design))

    def edit(self, design: str, base: int, edit: Edit) -> DesignView:
        """Makes an edit, if what it leads to can be built, and a step of mending if it finds something to do."""
        current = self.store.get(design)
        if current.revision.id == base:
            built = self.build(apply_edit(current.revision.recipe, edit))
            if isinstance(edit, AddMend):
                _require_use(edit, built)
        return self._view(self.store.edit(design, base, edit))

    def undo(self, design: str, base: int) -> DesignView:
        """One step back."""
        return self._view(self.store.undo(design, base))

    def redo(self, design: str, base: int) -> DesignView:
        """One step forward."""
        return self._view(self.store.redo(design, base))

    def go_to(self, design: str, base: int, revision: int) -> DesignView:
        """To any state of the history."""
        return self._view(self.store.go_to(design, base, revision))

    def regions(self, design: str, art: str) -> RegionsView:
        """The regions of an art of a design as it stands. Raises RecipeError if it has none."""
        found = self.store.get(design).revision.recipe.art(art)
        with self._lock:
            regions = regions_of_art(found, self._assets, self._clock()) if found is not None else None
        if regions is None:
            raise RecipeError("This art does not come as regions.", "Choose a picture, line art or a vector file.")
        return regions_view(regions)

    def built(self, design: str) -> tuple[Design, Built]:
        """A design and its build."""
        found = self.store.get(design)
        return found, self.build(found.revision.recipe)

    def _view(self, design: Design) -> DesignView:
        return design_view(design, self.store.history(design.id), self.build(design.revision.recipe))


def _require_use(edit: AddMend, built: Built) -> None:
    """Raises MendError if the step that an edit adds finds nothing to do."""
    pieces = next(a for a in built.arts if a.id == edit.art)
    art = built.recipe.art(edit.art)
    added = art.mends[-1].id if isinstance(art, RegionArt) else ""
    for step, why in pieces.idle:
        if step == added:
            raise MendError(why)
