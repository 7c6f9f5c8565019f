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
from gladstack.recipe.model.faults import said_of_what_was_asked
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.values import Name

OneEdit = Annotated[
    RenameDesign | Resize | ShowUnit | CountColours | PickColour | PickOnly | UnpickColour | MergeColours
    | PartColours | DropColour | KeepColour | TreatBackground | SetDetail | RenameFilm | OrderFilms | SetJoint
    | SetFilmJoint | SetPairJoint | SetUse | SetMethod | AddArt | ChangeArts | CopyArt | RemoveArt
    | ScaleArt | TreatPicture | AddMaking | ChangeMaking | RemoveMaking | SetFilmColour | ThickenFilm | LeaveOut
    | DrawFilm | SetFinish | SetGround | TurnDesign | ScaleDesign | ClaimRegions | AddMend | ChangeMend | RemoveMend
    | OrderMends | ReplaceFilm | RelateArts | TakeMaterial | TidyFilm | SettlePiece | CloseGaps | CloseGap | SetSmall
    | RepairFilm | LetRepairsGo | ReplaceSource | PutClaimsBack | PutRight | SetBands | SetRims | SetStraight,
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


def needs_geometry(edit: AnEdit) -> bool:
    """Whether an edit may change any shape, so that it is only made if what it leads to can be built."""
    return any(map(needs_geometry, edit.edits)) if isinstance(edit, Several) else not edit.plain
