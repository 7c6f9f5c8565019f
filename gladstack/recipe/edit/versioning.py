"""Edits of versions: another size or use of the motif, and what of it is to follow the motif again."""

from __future__ import annotations

from typing import ClassVar, Literal

from gladstack.core.base.errors import RecipeError
from gladstack.recipe.edit.base import AnEdit, film_name, free_id
from gladstack.recipe.edit.versions import Own, known_version
from gladstack.recipe.model.recipe import FILM_OWN, Ground, OwnFilm, Recipe, Version, joint_for
from gladstack.recipe.model.uses import Use
from gladstack.recipe.model.values import Factor, FilmKey, Id, Name, changed

OWN_SAYS: dict[Own, str] = {
    "size": "size",
    "use": "use",
    "ground": "ground",
    "joint": "joint",
    "pairs": "joints of two films",
    "small_mm2": "limit for small pieces",
    "method": "way onto the ground",
    "thicken_mm": "heavier or lighter",
    "keep_size": "size kept",
    "small": "small pieces",
    "pieces": "single pieces",
    "close_mm": "gaps closed",
    "closed": "gaps closed by hand",
    "repairs": "thin places mended",
    "left_out": "left out",
    "material": "material",
}


class OfVersions(AnEdit):
    """An edit of the design's versions, which means the same in whichever of them it is made."""

    of_motif: ClassVar[bool] = True

    @staticmethod
    def with_version(recipe: Recipe, version: Version) -> Recipe:
        """The recipe with a version in place of that of the same id."""
        return changed(recipe, versions=tuple(version if v.id == version.id else v for v in recipe.versions))


class AddVersion(OfVersions):
    """Make a version `factor` times as large as the motif, for a use and a ground (None: the motif's).

    It begins with what the version `like` decides for itself, and with the joint that is usual for another use.
    """

    plain: ClassVar[bool] = True
    kind: Literal["add-version"] = "add-version"
    name: Name
    factor: Factor = 1.0
    use: Use | None = None
    ground: Ground | None = None
    like: Id | None = None

    def apply(self, recipe: Recipe) -> Recipe:
        """Adds it. Raises RecipeError for a name that another has."""
        if self.name in {v.name for v in recipe.versions}:
            raise RecipeError(f"There is a version “{self.name}” already.", "Give it another name.")
        id_ = free_id({v.id for v in recipe.versions}, "v")
        like = Version(id=id_, name=self.name) if self.like is None else known_version(recipe, self.like)
        use = self.use if self.use != recipe.use else None
        ground = self.ground if self.ground != recipe.ground else None
        new = changed(like, id=id_, name=self.name, factor=self.factor, use=use, ground=ground)
        if use is not None and use != like.use and joint_for(use) != recipe.joint:
            new = changed(new, joint=joint_for(use))
        return changed(recipe, versions=(*recipe.versions, new))

    def describe(self, recipe: Recipe) -> str:
        """Tells its name."""
        return f"Made the version “{self.name}”"


class RenameVersion(OfVersions):
    """Give a version another name."""

    plain: ClassVar[bool] = True
    kind: Literal["rename-version"] = "rename-version"
    version: Id
    name: Name

    def apply(self, recipe: Recipe) -> Recipe:
        """Names it. Raises RecipeError for a name that another has."""
        held = known_version(recipe, self.version)
        if self.name in {v.name for v in recipe.versions if v.id != held.id}:
            raise RecipeError(f"There is a version “{self.name}” already.", "Give it another name.")
        return self.with_version(recipe, changed(held, name=self.name))

    def describe(self, recipe: Recipe) -> str:
        """Tells both names."""
        return f"Named the version “{self.name}”"


class RemoveVersion(OfVersions):
    """Take a version away; its sheets come back with it."""

    plain: ClassVar[bool] = True
    kind: Literal["remove-version"] = "remove-version"
    version: Id

    def apply(self, recipe: Recipe) -> Recipe:
        """Removes it."""
        held = known_version(recipe, self.version)
        return changed(recipe, versions=tuple(v for v in recipe.versions if v.id != held.id))

    def describe(self, recipe: Recipe) -> str:
        """Tells its name."""
        return f"Removed the version “{known_version(recipe, self.version).name}”"


class FollowMotif(OfVersions):
    """Let a version follow the motif again in one thing, of a film or (None) of the design."""

    kind: Literal["follow-motif"] = "follow-motif"
    version: Id
    what: Own
    film: FilmKey | None = None

    def apply(self, recipe: Recipe) -> Recipe:
        """Takes its decision back."""
        held = known_version(recipe, self.version)
        if self.what == "size":
            return self.with_version(recipe, changed(held, factor=1.0))
        if self.what not in FILM_OWN or self.film is None:
            return self.with_version(recipe, changed(held, **{self.what: None}))
        films = (self._without(own) if own.choice.film == self.film else own for own in held.films)
        return self.with_version(recipe, changed(held, films=tuple(own for own in films if own is not None)))

    def _without(self, own: OwnFilm) -> OwnFilm | None:
        left = tuple(f for f in own.decides if f != self.what)
        return changed(own, decides=left) if left else None

    def describe(self, recipe: Recipe) -> str:
        """Tells the version, the film and what follows."""
        of = f"{film_name(recipe, self.film)}, " if self.film else ""
        return f"{known_version(recipe, self.version).name}: {of}{OWN_SAYS[self.what]} as the motif"
