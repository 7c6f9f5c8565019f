"""Designs and their builds together: what a route needs, in one call each."""

from __future__ import annotations

import threading

from gladstack.api.views import DesignLineView, DesignView, design_view, line_view
from gladstack.recipe.build import Built, build
from gladstack.recipe.edits import Edit, apply_edit
from gladstack.recipe.memo import Memo
from gladstack.recipe.models import Method, PictureArt, Recipe
from gladstack.store.designs import Design, DesignBook


class Workshop:
    """The store and the memo that every build shares. Builds run one at a time: the cores are few."""

    def __init__(self, store: DesignBook) -> None:
        self.store = store
        self._memo = Memo()
        self._lock = threading.Lock()

    def build(self, recipe: Recipe) -> Built:
        """What follows from a recipe. Raises GladStackError."""
        with self._lock:
            return build(recipe, self.store.picture, self._memo)

    def lines(self) -> list[DesignLineView]:
        """All designs, the last changed first."""
        return [line_view(line) for line in self.store.lines()]

    def start(self, data: bytes, filename: str, name: str, width_mm: float, method: Method) -> DesignView:
        """A new design from a picture. If the picture cannot be built, nothing is kept of it."""
        picture = self.store.add_picture(data, filename)
        recipe = Recipe(name=name, art=PictureArt(picture=picture, filename=filename, width_mm=width_mm), method=method)
        try:
            self.build(recipe)
        except Exception:
            self.store.drop_unused_picture(picture)
            raise
        return self._view(self.store.create(recipe))

    def open(self, design: str) -> DesignView:
        """A design as it stands."""
        return self._view(self.store.get(design))

    def edit(self, design: str, base: int, edit: Edit) -> DesignView:
        """Makes an edit, if what it leads to can be built."""
        current = self.store.get(design)
        if current.revision.id == base:
            self.build(apply_edit(current.revision.recipe, edit))
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

    def built(self, design: str) -> tuple[Design, Built]:
        """A design and its build."""
        found = self.store.get(design)
        return found, self.build(found.revision.recipe)

    def _view(self, design: Design) -> DesignView:
        return design_view(design, self.store.history(design.id), self.build(design.revision.recipe))
