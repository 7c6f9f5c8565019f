"""Typed edits: each a small command that `apply.apply_edit` applies to a recipe."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from gladstack.core.base.units import Unit
from gladstack.core.picture.palette import MAX_COLOURS
from gladstack.recipe.model.arts import Art, Background, LetteringArt
from gladstack.recipe.model.makings import Making, OutlineShadow
from gladstack.recipe.model.mends import Mend
from gladstack.recipe.model.pins import Pin
from gladstack.recipe.model.recipe import Finish, Ground, JointRule, SheetChoice
from gladstack.recipe.model.values import (
    Colour,
    Degrees,
    DetailMm,
    Factor,
    FilmKey,
    Frozen,
    Id,
    Method,
    Name,
    OffsetMm,
    PlaceMm,
    WidthMm,
)


class OfPicture(Frozen):
    """An edit of one picture; `art` may be left out where the design has only one."""

    art: Id | None = None


class RenameDesign(Frozen):
    """Give the design another name."""

    kind: Literal["rename-design"] = "rename-design"
    name: Name


class Resize(OfPicture):
    """Set the picture's width at the finished size."""

    kind: Literal["resize"] = "resize"
    width_mm: WidthMm


class ShowUnit(Frozen):
    """Choose the unit that lengths are shown in."""

    kind: Literal["show-unit"] = "show-unit"
    unit: Unit


class CountColours(OfPicture):
    """Ask for a number of colours, background included; None takes the proposed number."""

    kind: Literal["count-colours"] = "count-colours"
    count: Annotated[int, Field(ge=1, le=MAX_COLOURS)] | None


class PickColour(OfPicture):
    """Make a colour of the picture one of the films."""

    kind: Literal["pick-colour"] = "pick-colour"
    colour: Colour


class UnpickColour(OfPicture):
    """Take a picked colour back."""

    kind: Literal["unpick-colour"] = "unpick-colour"
    colour: Colour


class MergeColours(OfPicture):
    """Make two colours one film."""

    kind: Literal["merge-colours"] = "merge-colours"
    colour: Colour
    into: Colour


class PartColours(OfPicture):
    """Undo the merging of a colour."""

    kind: Literal["part-colours"] = "part-colours"
    colour: Colour


class DropColour(OfPicture):
    """Leave a colour out of the decal."""

    kind: Literal["drop-colour"] = "drop-colour"
    colour: Colour


class KeepColour(OfPicture):
    """Bring a dropped colour back."""

    kind: Literal["keep-colour"] = "keep-colour"
    colour: Colour


class TreatBackground(OfPicture):
    """Drop the background, drop it only outside, or keep it as a film."""

    kind: Literal["treat-background"] = "treat-background"
    background: Background


class SetDetail(OfPicture):
    """Set how closely edges are followed, how much they are smoothed and what counts as a speck."""

    kind: Literal["set-detail"] = "set-detail"
    detail_mm: DetailMm | None = None
    smoothing_mm: DetailMm | None = None
    speck_mm: DetailMm | None = None


class RenameFilm(Frozen):
    """Name a film; None goes back to the proposed name."""

    kind: Literal["rename-film"] = "rename-film"
    film: FilmKey
    name: Name | None


class OrderFilms(Frozen):
    """Put the films in this order, from the ground up."""

    kind: Literal["order-films"] = "order-films"
    order: Annotated[tuple[FilmKey, ...], Field(max_length=128)]


class SetJoint(Frozen):
    """Set the design's default joint."""

    kind: Literal["set-joint"] = "set-joint"
    rule: JointRule


class SetFilmJoint(Frozen):
    """Set a film's joint with all that lie on it; None goes back to the default."""

    kind: Literal["set-film-joint"] = "set-film-joint"
    film: FilmKey
    rule: JointRule | None


class SetPairJoint(Frozen):
    """Set the joint of two films; None goes back to the film's or the default."""

    kind: Literal["set-pair-joint"] = "set-pair-joint"
    a: FilmKey
    b: FilmKey
    rule: JointRule | None


class SetMethod(Frozen):
    """Choose adhesive or heat-transfer film: for the design, or for one film (None: as the design)."""

    kind: Literal["set-method"] = "set-method"
    method: Method | None
    film: FilmKey | None = None


class SetSheet(Frozen):
    """Choose sheet size and margin: for the design, or for one film (None: as the design)."""

    kind: Literal["set-sheet"] = "set-sheet"
    sheet: SheetChoice | None
    film: FilmKey | None = None


class SetMarks(Frozen):
    """Put registration marks on every sheet, or none."""

    kind: Literal["set-marks"] = "set-marks"
    marks: bool


class AddArt(Frozen):
    """Bring lettering, a plain shape or another picture onto the stack; it is given an id."""

    kind: Literal["add-art"] = "add-art"
    art: Art


class ChangeArts(Frozen):
    """Give one or more pieces of art new choices or places, each as a whole, found by its id."""

    kind: Literal["change-arts"] = "change-arts"
    arts: Annotated[tuple[Art, ...], Field(min_length=1, max_length=200)]


class CopyArt(Frozen):
    """Put a copy of an art beside it."""

    kind: Literal["copy-art"] = "copy-art"
    art: Id
    dx_mm: PlaceMm = 5.0
    dy_mm: PlaceMm = 5.0


class RemoveArt(Frozen):
    """Take an art off the stack, and whatever was made of it alone."""

    kind: Literal["remove-art"] = "remove-art"
    art: Id


class ScaleArt(Frozen):
    """Make an art larger or smaller in proportion, about a point of the stack."""

    kind: Literal["scale-art"] = "scale-art"
    art: Id
    factor: Factor
    x_mm: PlaceMm
    y_mm: PlaceMm


class TreatPicture(Frozen):
    """Take a picture for line art, or line art for a picture of flat colours; its place and width stay."""

    kind: Literal["treat-picture"] = "treat-picture"
    art: Id
    treatment: Literal["lines", "colours"]


class OfRegions(Frozen):
    """An edit of an art that comes as regions."""

    art: Id


class ClaimRegions(OfRegions):
    """Say of the regions at some points whose they are, or what becomes of them."""

    kind: Literal["claim-regions"] = "claim-regions"
    pins: Annotated[tuple[Pin, ...], Field(min_length=1, max_length=5000)]


class AddMend(OfRegions):
    """Mend an art by one more step; it is given an id."""

    kind: Literal["add-mend"] = "add-mend"
    mend: Mend


class ChangeMend(OfRegions):
    """Give a step of mending new choices, as a whole; so it is switched off and on, too."""

    kind: Literal["change-mend"] = "change-mend"
    mend: Mend


class RemoveMend(OfRegions):
    """Take a step of mending away."""

    kind: Literal["remove-mend"] = "remove-mend"
    mend: Id


class OrderMends(OfRegions):
    """Put the steps of mending in this order."""

    kind: Literal["order-mends"] = "order-mends"
    order: Annotated[tuple[Id, ...], Field(max_length=500)]


class ReplaceFilm(OfRegions):
    """Let a badly separated film of an art go, and put lettering, or an outline shadow of other films, in its place."""

    kind: Literal["replace-film"] = "replace-film"
    film: FilmKey
    lettering: LetteringArt | None = None
    shadow: OutlineShadow | None = None

    @model_validator(mode="after")
    def _by_one(self) -> ReplaceFilm:
        if (self.lettering is None) == (self.shadow is None):
            raise ValueError("a film is replaced by lettering or by a shadow")
        return self


class AddMaking(Frozen):
    """Make a shadow, stitch line or band on a film of its own or another; it is given an id.

    `colour` is that of a film which is new.
    """

    kind: Literal["add-making"] = "add-making"
    making: Making
    colour: Colour | None = None


class ChangeMaking(Frozen):
    """Give a making new choices, as a whole."""

    kind: Literal["change-making"] = "change-making"
    making: Making


class RemoveMaking(Frozen):
    """Take a making away, and whatever was made of its film alone."""

    kind: Literal["remove-making"] = "remove-making"
    making: Id


class SetFilmColour(Frozen):
    """Show a film in another colour; None goes back to its own."""

    kind: Literal["set-film-colour"] = "set-film-colour"
    film: FilmKey
    colour: Colour | None


class ThickenFilm(Frozen):
    """Make a film's shape heavier all round, or lighter."""

    kind: Literal["thicken-film"] = "thicken-film"
    film: FilmKey
    mm: OffsetMm


class LeaveOut(Frozen):
    """Leave a film out of what is cut, or take it in again."""

    kind: Literal["leave-out"] = "leave-out"
    film: FilmKey
    left_out: bool


class SetFinish(Frozen):
    """Choose how a film looks; nothing of it is cut."""

    kind: Literal["set-finish"] = "set-finish"
    film: FilmKey
    finish: Finish


class SetGround(Frozen):
    """Choose what the decal is shown on."""

    kind: Literal["set-ground"] = "set-ground"
    ground: Ground


class TurnDesign(Frozen):
    """Turn everything on the stack clockwise, or mirror it left to right first."""

    kind: Literal["turn-design"] = "turn-design"
    turn_deg: Degrees = 0.0
    mirror: bool = False


class ScaleDesign(Frozen):
    """Scale everything on the stack; joints, shadows and lines keep their millimetres, or scale too."""

    kind: Literal["scale-design"] = "scale-design"
    factor: Factor
    lengths: Literal["keep", "scale"] = "keep"


Edit = Annotated[
    RenameDesign | Resize | ShowUnit | CountColours | PickColour | UnpickColour | MergeColours | PartColours | DropColour
    | KeepColour | TreatBackground | SetDetail | RenameFilm | OrderFilms | SetJoint | SetFilmJoint | SetPairJoint
    | SetMethod | SetSheet | SetMarks | AddArt | ChangeArts | CopyArt | RemoveArt | ScaleArt | TreatPicture | AddMaking
    | ChangeMaking | RemoveMaking | SetFilmColour | ThickenFilm | LeaveOut | SetFinish | SetGround | TurnDesign
    | ScaleDesign | ClaimRegions | AddMend | ChangeMend | RemoveMend | OrderMends | ReplaceFilm,
    Field(discriminator="kind"),
]  # fmt: skip

_PLAIN = RenameDesign | ShowUnit | RenameFilm | SetMarks | SetSheet | SetMethod | SetGround | SetFinish


def needs_geometry(edit: Edit) -> bool:
    """Whether an edit may change any shape, so that it is only made if what it leads to can be built."""
    return not isinstance(edit, _PLAIN)
