"""Typed edits: each a small command that a pure function applies to a recipe.

Every edit says what it did in the maker's words; that line is what the history shows.
"""

from __future__ import annotations

from typing import Annotated, Literal, TypeVar

from pydantic import Field

from gladstack.core.errors import RecipeError
from gladstack.core.palette import MAX_COLOURS
from gladstack.core.units import Unit, format_length
from gladstack.recipe.models import (
    Background,
    Colour,
    DetailMm,
    FilmChoice,
    Frozen,
    JointRule,
    Merge,
    Method,
    Name,
    PairJoint,
    Recipe,
    SheetChoice,
    WidthMm,
)

M = TypeVar("M", bound=Frozen)


class RenameDesign(Frozen):
    """Give the design another name."""

    kind: Literal["rename-design"] = "rename-design"
    name: Name


class Resize(Frozen):
    """Set the picture's width at the finished size."""

    kind: Literal["resize"] = "resize"
    width_mm: WidthMm


class ShowUnit(Frozen):
    """Choose the unit that lengths are shown in."""

    kind: Literal["show-unit"] = "show-unit"
    unit: Unit


class CountColours(Frozen):
    """Ask for a number of colours, background included; None takes the proposed number."""

    kind: Literal["count-colours"] = "count-colours"
    count: Annotated[int, Field(ge=1, le=MAX_COLOURS)] | None


class PickColour(Frozen):
    """Make a colour of the picture one of the films."""

    kind: Literal["pick-colour"] = "pick-colour"
    colour: Colour


class UnpickColour(Frozen):
    """Take a picked colour back."""

    kind: Literal["unpick-colour"] = "unpick-colour"
    colour: Colour


class MergeColours(Frozen):
    """Make two colours one film."""

    kind: Literal["merge-colours"] = "merge-colours"
    colour: Colour
    into: Colour


class PartColours(Frozen):
    """Undo the merging of a colour."""

    kind: Literal["part-colours"] = "part-colours"
    colour: Colour


class DropColour(Frozen):
    """Leave a colour out of the decal."""

    kind: Literal["drop-colour"] = "drop-colour"
    colour: Colour


class KeepColour(Frozen):
    """Bring a dropped colour back."""

    kind: Literal["keep-colour"] = "keep-colour"
    colour: Colour


class TreatBackground(Frozen):
    """Drop the background, drop it only outside, or keep it as a film."""

    kind: Literal["treat-background"] = "treat-background"
    background: Background


class SetDetail(Frozen):
    """Set how closely edges are followed, how much they are smoothed and what counts as a speck."""

    kind: Literal["set-detail"] = "set-detail"
    detail_mm: DetailMm | None = None
    smoothing_mm: DetailMm | None = None
    speck_mm: DetailMm | None = None


class RenameFilm(Frozen):
    """Name a film; None goes back to the proposed name."""

    kind: Literal["rename-film"] = "rename-film"
    colour: Colour
    name: Name | None


class OrderFilms(Frozen):
    """Put the films in this order, from the ground up."""

    kind: Literal["order-films"] = "order-films"
    order: Annotated[tuple[Colour, ...], Field(max_length=64)]


class SetJoint(Frozen):
    """Set the design's default joint."""

    kind: Literal["set-joint"] = "set-joint"
    rule: JointRule


class SetFilmJoint(Frozen):
    """Set a film's joint with all that lie on it; None goes back to the default."""

    kind: Literal["set-film-joint"] = "set-film-joint"
    colour: Colour
    rule: JointRule | None


class SetPairJoint(Frozen):
    """Set the joint of two films; None goes back to the film's or the default."""

    kind: Literal["set-pair-joint"] = "set-pair-joint"
    a: Colour
    b: Colour
    rule: JointRule | None


class SetMethod(Frozen):
    """Choose adhesive or heat-transfer film: for the design, or for one film (None: as the design)."""

    kind: Literal["set-method"] = "set-method"
    method: Method | None
    colour: Colour | None = None


class SetSheet(Frozen):
    """Choose sheet size and margin: for the design, or for one film (None: as the design)."""

    kind: Literal["set-sheet"] = "set-sheet"
    sheet: SheetChoice | None
    colour: Colour | None = None


class SetMarks(Frozen):
    """Put registration marks on every sheet, or none."""

    kind: Literal["set-marks"] = "set-marks"
    marks: bool


Edit = Annotated[
    RenameDesign | Resize | ShowUnit | CountColours | PickColour | UnpickColour | MergeColours | PartColours | DropColour
    | KeepColour | TreatBackground | SetDetail | RenameFilm | OrderFilms | SetJoint | SetFilmJoint | SetPairJoint
    | SetMethod | SetSheet | SetMarks,
    Field(discriminator="kind"),
]  # fmt: skip


def apply_edit(recipe: Recipe, edit: Edit) -> Recipe:
    """`recipe` with one edit made. Raises RecipeError if the edit contradicts it."""
    separation = recipe.separation
    match edit:
        case RenameDesign(name=name):
            return _with(recipe, name=name)
        case Resize(width_mm=width):
            return _with(recipe, art=_with(recipe.art, width_mm=width))
        case ShowUnit(unit=unit):
            return _with(recipe, unit=unit)
        case CountColours(count=count):
            if count is not None and count < len(separation.picked):
                raise RecipeError(
                    f"{len(separation.picked)} colours were picked by hand, so {count} is too few.",
                    "Take a pick back first.",
                )
            return _separation(recipe, count=count)
        case PickColour(colour=colour):
            return _separation(recipe, picked=tuple(dict.fromkeys([*separation.picked, colour])))
        case UnpickColour(colour=colour):
            return _separation(recipe, picked=tuple(c for c in separation.picked if c != colour))
        case MergeColours(colour=colour, into=into):
            return _merge(recipe, colour, into)
        case PartColours(colour=colour):
            return _separation(recipe, merges=tuple(m for m in separation.merges if m.colour != colour))
        case DropColour(colour=colour):
            return _separation(recipe, dropped=tuple(dict.fromkeys([*separation.dropped, colour])))
        case KeepColour(colour=colour):
            return _separation(recipe, dropped=tuple(c for c in separation.dropped if c != colour))
        case TreatBackground(background=background):
            return _separation(recipe, background=background)
        case SetDetail():
            given = {k: v for k, v in edit.model_dump(exclude={"kind"}).items() if v is not None}
            return _separation(recipe, **given)
        case RenameFilm(colour=colour, name=name):
            return _film(recipe, colour, name=name)
        case OrderFilms(order=order):
            return _with(recipe, order=tuple(dict.fromkeys(order)))
        case SetJoint(rule=rule):
            return _with(recipe, joint=rule)
        case SetFilmJoint(colour=colour, rule=film_rule):
            return _film(recipe, colour, joint=film_rule)
        case SetPairJoint(a=a, b=b, rule=pair_rule):
            return _pair(recipe, a, b, pair_rule)
        case SetMethod(method=method, colour=None):
            if method is None:
                raise RecipeError("The design needs a method.", "Choose adhesive or heat-transfer.")
            return _with(recipe, method=method)
        case SetMethod(method=film_method, colour=str(colour)):
            return _film(recipe, colour, method=film_method)
        case SetSheet(sheet=sheet, colour=None):
            if sheet is None:
                raise RecipeError("The design needs a sheet size.", "Give its width and height.")
            return _with(recipe, sheet=_checked(sheet))
        case SetSheet(sheet=film_sheet, colour=str(colour)):
            return _film(recipe, colour, sheet=_checked(film_sheet) if film_sheet else None)
        case SetMarks(marks=marks):
            return _with(recipe, marks=marks)
    raise AssertionError(edit)


def describe_edit(edit: Edit, recipe: Recipe) -> str:
    """One line for the history; `recipe` is the one the edit was applied to."""

    def film(colour: str) -> str:
        return recipe.film(colour).name or colour

    def rule(r: JointRule | None) -> str:
        if r is None:
            return "as the default"
        return "butt" if r.kind == "butt" else f"{r.kind} {r.mm:g} mm"

    match edit:
        case RenameDesign(name=name):
            return f"Named the design “{name}”"
        case Resize(width_mm=width):
            return f"Made it {format_length(width, recipe.unit)} wide"
        case ShowUnit(unit=unit):
            return f"Showed lengths in {'inches' if unit == 'in' else 'millimetres'}"
        case CountColours(count=count):
            return "Took the proposed number of colours" if count is None else f"Asked for {count} colours"
        case PickColour(colour=colour):
            return f"Picked {colour} from the picture"
        case UnpickColour(colour=colour):
            return f"Took back the pick {colour}"
        case MergeColours(colour=colour, into=into):
            return f"Made {film(colour)} and {film(into)} one film"
        case PartColours(colour=colour):
            return f"Made {film(colour)} a film of its own again"
        case DropColour(colour=colour):
            return f"Dropped {film(colour)}"
        case KeepColour(colour=colour):
            return f"Brought back {film(colour)}"
        case TreatBackground(background=background):
            said = {"drop": "Dropped the background", "outside": "Dropped the background outside only"}
            return said.get(background, "Kept the background as a film")
        case SetDetail():
            given = edit.model_dump(exclude={"kind"}, exclude_none=True)
            return "Set " + ", ".join(f"{k.removesuffix('_mm')} {v:g} mm" for k, v in given.items())
        case RenameFilm(colour=colour, name=name):
            return f"Named {film(colour)} “{name}”" if name else f"Gave {film(colour)} its proposed name"
        case OrderFilms():
            return "Reordered the stack"
        case SetJoint(rule=r):
            return f"Default joint: {rule(r)}"
        case SetFilmJoint(colour=colour, rule=r):
            return f"Joint of {film(colour)} with what lies on it: {rule(r)}"
        case SetPairJoint(a=a, b=b, rule=r):
            return f"Joint of {film(a)} and {film(b)}: {rule(r)}"
        case SetMethod(method=method, colour=c):
            return f"{film(c) if c else 'Design'}: {method or 'method as the design'} film"
        case SetSheet(sheet=sheet, colour=c):
            size = f"{sheet.width_mm:g} × {sheet.height_mm:g} mm" if sheet else "as the design"
            return f"Sheet of {film(c) if c else 'every film'}: {size}"
        case SetMarks(marks=marks):
            return "Added registration marks" if marks else "Removed registration marks"
    raise AssertionError(edit)


def _with(model: M, **changes: object) -> M:
    return type(model).model_validate({**{k: getattr(model, k) for k in type(model).model_fields}, **changes})


def _separation(recipe: Recipe, **changes: object) -> Recipe:
    return _with(recipe, separation=_with(recipe.separation, **changes))


def _film(recipe: Recipe, colour: str, **changes: object) -> Recipe:
    changed = _with(recipe.film(colour), **changes)
    others = tuple(f for f in recipe.films if f.colour != colour)
    return _with(recipe, films=others if changed == FilmChoice(colour=colour) else (*others, changed))


def _pair(recipe: Recipe, a: str, b: str, rule: JointRule | None) -> Recipe:
    if a == b:
        raise RecipeError("A film has no joint with itself.", "Choose two films.")
    others = tuple(p for p in recipe.pairs if {p.a, p.b} != {a, b})
    return _with(recipe, pairs=(*others, PairJoint(a=a, b=b, rule=rule)) if rule else others)


def _merge(recipe: Recipe, colour: str, into: str) -> Recipe:
    if colour == into:
        raise RecipeError("A colour cannot be merged with itself.", "Choose two colours.")
    merges = {m.colour: m.into for m in recipe.separation.merges}
    merges[colour] = into
    seen, here = {colour}, into
    while here in merges:
        here = merges[here]
        if here in seen:
            # The maker turns an older merge round: the newer one wins.
            merges.pop(into, None)
            break
        seen.add(here)
    return _separation(recipe, merges=tuple(Merge(colour=c, into=t) for c, t in merges.items()))


def _checked(sheet: SheetChoice) -> SheetChoice:
    if 2 * sheet.margin_mm >= min(sheet.width_mm, sheet.height_mm):
        raise RecipeError(
            f"Margins of {sheet.margin_mm:g} mm leave nothing of a {sheet.width_mm:g} x {sheet.height_mm:g} mm sheet.",
            "Make the margin smaller.",
        )
    return sheet
