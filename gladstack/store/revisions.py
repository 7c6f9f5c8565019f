"""States of a design as they are kept, and as they are for one of its versions."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from gladstack.core.base.errors import GladStackError
from gladstack.recipe.edit.edits import Edit, edited
from gladstack.recipe.edit.versions import as_version
from gladstack.recipe.model.recipe import Recipe
from gladstack.store.refs import parts_of


class UnknownDesignError(GladStackError):
    """No design has this id."""

    code = "unknown-design"


@dataclass(frozen=True)
class Revision:
    """One state of a design: its recipe, and what was done to reach it.

    The `recipe` is that of the version that was asked for, of which None is the `motif` itself.
    """

    id: int
    parent: int | None
    label: str
    created: str
    recipe: Recipe
    motif: Recipe
    version: str | None = None

    @property
    def title(self) -> str:
        """What it is called: the design's name, and the version's."""
        named = next((v.name for v in self.motif.versions if v.id == self.version), None)
        return self.recipe.name if named is None else f"{self.recipe.name}, {named}"[:120].rstrip()

    def led_to(self, edit: Edit) -> Recipe:
        """The recipe of the version that was asked for after an edit. Raises RecipeError."""
        motif = edited(self.motif, self.version, edit)
        return motif if self.version is None else as_version(motif, self.version)


def read_revision(db: sqlite3.Connection, ref: str, revision: int) -> Revision:
    """A revision of a design or one of its versions. Raises UnknownDesignError."""
    design, version = parts_of(ref)
    row = db.execute(
        "SELECT id, parent, label, created, recipe FROM revisions WHERE design = ? AND id = ?", (design, revision)
    ).fetchone()
    if row is None:
        raise UnknownDesignError("There is no such state of this design.", "Choose one from its history.")
    motif = Recipe.model_validate_json(row[4])
    if version is None:
        return Revision(row[0], row[1], row[2], row[3], motif, motif)
    if all(v.id != version for v in motif.versions):
        raise UnknownDesignError("There is no such version of this design.", "Open the design, and choose one there.")
    return Revision(row[0], row[1], row[2], row[3], as_version(motif, version), motif, version)
