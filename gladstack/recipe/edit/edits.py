"""All edits, and making one: whatever is chosen on the screen, in a script or by a fix comes through here."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gladstack.recipe.edit.arts import AddArt, ChangeArts, CopyArt, RemoveArt, ScaleArt
from gladstack.recipe.edit.base import AnEdit
from gladstack.recipe.edit.designs import (
    RenameDesign,
    ScaleDesign,
    SetGround,
    SetMethod,
    SetUse,
    ShowUnit,
    TurnDesign,
)
from gladstack.recipe.edit.films import (
    DrawFilm,
    LeaveOut,
    OrderFilms,
    RenameFilm,
    SetFilmColour,
    SetFilmJoint,
    SetFinish,
    SetJoint,
    SetPairJoint,
    TakeMaterial,
    ThickenFilm,
)
from gladstack.recipe.edit.following import followed, moves_of
from gladstack.recipe.edit.framing import FramePicture
from gladstack.recipe.edit.makings import AddMaking, ChangeMaking, RemoveMaking
from gladstack.recipe.edit.pictures import (
    CountColours,
    DropColour,
    KeepColour,
    MergeColours,
    PartColours,
    PickColour,
    PickOnly,
    PutRight,
    Resize,
    SetBands,
    SetDetail,
    SetRims,
    SetStraight,
    TreatBackground,
    TreatPicture,
    UnpickColour,
)
from gladstack.recipe.edit.pieces import (
    CloseGap,
    CloseGaps,
    LetRepairsGo,
    RepairFilm,
    SetSmall,
    SettlePiece,
    TidyFilm,
)
from gladstack.recipe.edit.regions import AddMend, ChangeMend, ClaimRegions, OrderMends, RemoveMend, ReplaceFilm
from gladstack.recipe.edit.relate import RelateArts
from gladstack.recipe.edit.sources import PutClaimsBack, ReplaceSource
from gladstack.recipe.edit.versioning import AddVersion, FollowMotif, RemoveVersion, RenameVersion
from gladstack.recipe.edit.versions import as_version, folded, known_version
from gladstack.recipe.model.faults import said_of_what_was_asked
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.values import Name, changed

OneEdit = Annotated[
    RenameDesign | Resize | ShowUnit | CountColours | PickColour | PickOnly | UnpickColour | MergeColours
    | PartColours | DropColour | KeepColour | TreatBackground | SetDetail | RenameFilm | OrderFilms | SetJoint
    | SetFilmJoint | SetPairJoint | SetUse | SetMethod | AddArt | ChangeArts | CopyArt | RemoveArt
    | ScaleArt | TreatPicture | AddMaking | ChangeMaking | RemoveMaking | SetFilmColour | ThickenFilm | LeaveOut
    | DrawFilm | SetFinish | SetGround | TurnDesign | ScaleDesign | ClaimRegions | AddMend | ChangeMend | RemoveMend
    | OrderMends | ReplaceFilm | RelateArts | TakeMaterial | TidyFilm | SettlePiece | CloseGaps | CloseGap | SetSmall
    | RepairFilm | LetRepairsGo | ReplaceSource | PutClaimsBack | PutRight | SetBands | SetRims | SetStraight | FramePicture
    | AddVersion | RenameVersion | RemoveVersion | FollowMotif,
    Field(discriminator="kind"),
]  # fmt: skip


class Several(AnEdit):
    """Many edits as one step of the history, under one name."""

    kind: Literal["several"] = "several"
    name: Name
    edits: Annotated[tuple[OneEdit, ...], Field(min_length=1, max_length=200)]

    def apply(self, recipe: Recipe) -> Recipe:
        """Makes all of them in their order, or none."""
        for edit in self.edits:
            recipe = edit.apply(recipe)
        return recipe

    def describe(self, recipe: Recipe) -> str:
        """Tells the name they go by."""
        return self.name


Edit = Annotated[OneEdit | Several, Field(discriminator="kind")]


def apply_edit(recipe: Recipe, edit: AnEdit) -> Recipe:
    """`recipe` with one edit made. Raises RecipeError if the edit contradicts it."""
    with said_of_what_was_asked():
        return edit.apply(recipe)


def edited(motif: Recipe, version: str | None, edit: AnEdit) -> Recipe:
    """The motif after an edit made in one of its versions, or (None) in itself. Raises RecipeError."""
    if version is None:
        return apply_edit(motif, edit)
    if edit.of_motif:
        with said_of_what_was_asked():
            return edit.in_motif(motif, known_version(motif, version).factor).apply(motif)
    if isinstance(edit, Several):
        for one in edit.edits:
            motif = edited(motif, version, one)
        return motif
    with said_of_what_was_asked():
        old = as_version(motif, version)
        new = edit.apply(old)
        if isinstance(edit, ScaleDesign):
            # Art and makings are the motif's: with joints and the like, just the version's own lengths grow.
            plain = changed(edit, lengths="keep").apply(old)
            new = changed(new, arts=plain.arts, makings=plain.makings, versions=motif.versions)
        if isinstance(edit, ChangeArts):
            # Points that went with the art are the motif's still, or the version's own, as they were.
            motif = followed(motif, moves_of(old.arts, new.arts), 1.0 / known_version(motif, version).factor)
            new, old = changed(new, versions=motif.versions), changed(old, films=new.films, makings=new.makings)
        return folded(motif, version, old, new)


def described(motif: Recipe, version: str | None, edit: AnEdit, led_to: Recipe) -> str:
    """What the history calls an edit made in a version: with the version's name where it alone was changed."""
    if version is None or edit.of_motif:
        return edit.describe(motif)
    own, label = known_version(motif, version), edit.describe(as_version(motif, version))
    return f"{own.name}: {label}"[:200] if changed(led_to, versions=motif.versions) == motif else label


def needs_geometry(edit: AnEdit) -> bool:
    """Whether an edit may change any shape, so that it is only made if what it leads to can be built."""
    return any(map(needs_geometry, edit.edits)) if isinstance(edit, Several) else not edit.plain
