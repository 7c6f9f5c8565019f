"""Applying edits to recipes: pure, and refusing what contradicts the recipe."""

from __future__ import annotations

import difflib
import re

from pydantic import ValidationError

from gladstack.core.base.errors import RecipeError
from gladstack.recipe.edit import edits
from gladstack.recipe.edit.apply_regions import apply_to_regions, resized
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.edit.scale import scaled, scaled_art, turned
from gladstack.recipe.model.arts import (
    NEW,
    AnyArt,
    LetterFilm,
    LetteringArt,
    LetterTweak,
    LineArt,
    Merge,
    OneFilmArt,
    PictureArt,
    RegionArt,
)
from gladstack.recipe.model.makings import DropShadow, Making, OutlineShadow
from gladstack.recipe.model.recipe import FilmChoice, JointRule, PairJoint, Recipe, SheetChoice
from gladstack.recipe.model.values import changed


def apply_edit(recipe: Recipe, edit: Edit) -> Recipe:
    """`recipe` with one edit made. Raises RecipeError if the edit contradicts it."""
    try:
        return _of_picture(recipe, edit) if isinstance(edit, edits.OfPicture) else _of_design(recipe, edit)
    except ValidationError as fault:
        raise RecipeError(fault.errors()[0]["msg"].removeprefix("Value error, ") + ".") from fault


def picture_of(recipe: Recipe, art: str | None) -> PictureArt:
    """The picture an edit is about: the one with this id, or the first. Raises RecipeError."""
    found = next((p for p in recipe.pictures() if art in (None, p.id)), None)
    if found is None:
        raise RecipeError("This design has no such picture.", "Bring a picture in first.")
    return found


def _of_picture(recipe: Recipe, edit: edits.OfPicture) -> Recipe:
    art = picture_of(recipe, edit.art)
    separation = art.separation
    if isinstance(edit, edits.Resize):
        return _art(recipe, resized(art, changed(art, width_mm=edit.width_mm)))
    changes: dict[str, object] = {}
    match edit:
        case edits.CountColours(count=count):
            if count is not None and count < len(separation.picked):
                raise RecipeError(
                    f"{len(separation.picked)} colours were picked by hand, so {count} is too few.",
                    "Take a pick back first.",
                )
            changes = {"count": count}
        case edits.PickColour(colour=colour):
            changes = {"picked": tuple(dict.fromkeys([*separation.picked, colour]))}
        case edits.UnpickColour(colour=colour):
            changes = {"picked": tuple(c for c in separation.picked if c != colour)}
        case edits.MergeColours(colour=colour, into=into):
            changes = {"merges": _merged(separation.merges, colour, into)}
        case edits.PartColours(colour=colour):
            changes = {"merges": tuple(m for m in separation.merges if m.colour != colour)}
        case edits.DropColour(colour=colour):
            changes = {"dropped": tuple(dict.fromkeys([*separation.dropped, colour]))}
        case edits.KeepColour(colour=colour):
            changes = {"dropped": tuple(c for c in separation.dropped if c != colour)}
        case edits.TreatBackground(background=background):
            changes = {"background": background}
        case edits.SetDetail():
            changes = {k: v for k, v in edit.model_dump(exclude={"kind", "art"}).items() if v is not None}
    return _art(recipe, changed(art, separation=changed(separation, **changes)))


def _of_design(recipe: Recipe, edit: Edit) -> Recipe:
    match edit:
        case edits.RenameDesign(name=name):
            return changed(recipe, name=name)
        case edits.ShowUnit(unit=unit):
            return changed(recipe, unit=unit)
        case edits.RenameFilm(film=film, name=name):
            return _film(recipe, film, name=name)
        case edits.OrderFilms(order=order):
            return changed(recipe, order=tuple(dict.fromkeys(order)))
        case edits.SetJoint(rule=rule):
            return changed(recipe, joint=rule)
        case edits.SetFilmJoint(film=film, rule=film_rule):
            return _film(recipe, film, joint=film_rule)
        case edits.SetPairJoint(a=a, b=b, rule=pair_rule):
            return _pair(recipe, a, b, pair_rule)
        case edits.SetMethod(method=method, film=None):
            if method is None:
                raise RecipeError("The design needs a method.", "Choose adhesive or heat-transfer.")
            return changed(recipe, method=method)
        case edits.SetMethod(method=film_method, film=str(film)):
            return _film(recipe, film, method=film_method)
        case edits.SetSheet(sheet=sheet, film=None):
            if sheet is None:
                raise RecipeError("The design needs a sheet size.", "Give its width and height.")
            return changed(recipe, sheet=_checked(sheet))
        case edits.SetSheet(sheet=film_sheet, film=str(film)):
            return _film(recipe, film, sheet=_checked(film_sheet) if film_sheet else None)
        case edits.SetMarks(marks=marks):
            return changed(recipe, marks=marks)
        case edits.SetFilmColour(film=film, colour=colour):
            return _film(recipe, film, colour=colour)
        case edits.ThickenFilm(film=film, mm=mm):
            return _film(recipe, film, thicken_mm=mm)
        case edits.LeaveOut(film=film, left_out=left_out):
            return _film(recipe, film, left_out=left_out)
        case edits.SetFinish(film=film, finish=finish):
            return _film(recipe, film, finish=finish)
        case edits.SetGround(ground=ground):
            return changed(recipe, ground=ground)
        case edits.TurnDesign(turn_deg=turn, mirror=mirror):
            return turned(recipe, turn, mirror=mirror)
        case edits.ScaleDesign(factor=factor, lengths=lengths):
            return scaled(recipe, factor, lengths=lengths == "scale")
        case edits.AddArt() | edits.ChangeArts() | edits.CopyArt() | edits.RemoveArt():
            return _of_arts(recipe, edit)
        case edits.ScaleArt(art=id_, factor=factor, x_mm=x, y_mm=y):
            return _art(recipe, scaled_art(_known(recipe, id_), factor, x, y))
        case edits.TreatPicture(art=id_, treatment=treatment):
            return _art(recipe, _treated(_known(recipe, id_), treatment))
        case edits.ReplaceFilm():
            return _replaced(recipe, edit)
        case edits.OfRegions():
            return _art(recipe, apply_to_regions(recipe, edit))
        case edits.AddMaking() | edits.ChangeMaking() | edits.RemoveMaking():
            return _of_makings(recipe, edit)
    raise AssertionError(edit)


def _of_arts(recipe: Recipe, edit: edits.AddArt | edits.ChangeArts | edits.CopyArt | edits.RemoveArt) -> Recipe:
    match edit:
        case edits.AddArt(art=art):
            return changed(recipe, arts=(*recipe.arts, changed(art, id=_free_id(recipe, art.kind))))
        case edits.ChangeArts(arts=arts):
            out = recipe
            for new in arts:
                old = _known(recipe, new.id)
                if type(old) is not type(new):
                    raise RecipeError("An art cannot become one of another kind.", "Bring in a new one instead.")
                if isinstance(new, LetteringArt) and isinstance(old, LetteringArt):
                    new = _followed(old, new)
                out = _art(out, resized(old, new))
            return out
        case edits.CopyArt(art=id_, dx_mm=dx, dy_mm=dy):
            old = _known(recipe, id_)
            place = changed(old.place, x_mm=old.place.x_mm + dx, y_mm=old.place.y_mm + dy)
            copy = changed(old, id=_free_id(recipe, re.sub(r"-\d+$", "", old.id)), place=place)
            at = [a.id for a in recipe.arts].index(id_) + 1
            return changed(recipe, arts=(*recipe.arts[:at], copy, *recipe.arts[at:]))
        case edits.RemoveArt(art=id_):
            _known(recipe, id_)
            if len(recipe.arts) == 1:
                raise RecipeError("This is the only art of the design.", "Bring in another before taking it away.")
            return _without(changed(recipe, arts=tuple(a for a in recipe.arts if a.id != id_)), {id_}, recipe)


def _replaced(recipe: Recipe, edit: edits.ReplaceFilm) -> Recipe:
    """A film of an art let go, and what is put in its place given to the same film."""
    recipe = _art(recipe, apply_to_regions(recipe, edit))
    if edit.lettering is not None:
        return _of_arts(recipe, edits.AddArt(art=changed(edit.lettering, film=edit.film)))
    if edit.shadow is not None:
        return _of_makings(recipe, edits.AddMaking(making=changed(edit.shadow, film=edit.film)))
    raise AssertionError(edit)


def _treated(art: AnyArt, treatment: str) -> PictureArt | LineArt:
    if not isinstance(art, PictureArt | LineArt):
        raise RecipeError("Only a picture can be taken for line art.", "Bring a picture in first.")
    same = {k: getattr(art, k) for k in (*RegionArt.model_fields, "picture", "width_mm")}
    return LineArt(**same) if treatment == "lines" else PictureArt(**same)


def _of_makings(recipe: Recipe, edit: edits.AddMaking | edits.ChangeMaking | edits.RemoveMaking) -> Recipe:
    match edit:
        case edits.AddMaking(making=making, colour=colour):
            id_ = _free_id(recipe, making.kind)
            film = id_ if making.film == NEW else making.film
            if film == id_:
                # A shadow is solid under what casts it unless the maker wants otherwise.
                shadow = isinstance(making, OutlineShadow | DropShadow)
                rule = JointRule(kind="full", mm=0.0) if shadow else None
                recipe = _film(recipe, film, colour=colour or "#25231e", joint=rule)
            return changed(recipe, makings=(*recipe.makings, changed(making, id=id_, film=film)))
        case edits.ChangeMaking(making=making):
            if all(m.id != making.id for m in recipe.makings):
                raise RecipeError("This shadow or line is no longer there.", "Add another.")
            return changed(recipe, makings=tuple(making if m.id == making.id else m for m in recipe.makings))
        case edits.RemoveMaking(making=id_):
            gone = [m for m in recipe.makings if m.id == id_]
            if not gone:
                raise RecipeError("This shadow or line is no longer there.")
            kept = changed(recipe, makings=tuple(m for m in recipe.makings if m.id != id_))
            return _without(kept, set(), recipe)


def _without(recipe: Recipe, arts: set[str], before: Recipe) -> Recipe:
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
        arts_left = tuple(_let_go(a, lost) for a in recipe.arts)
        films = tuple(f for f in recipe.films if f.film not in lost)
        pairs = tuple(p for p in recipe.pairs if p.a not in lost and p.b not in lost)
        order = tuple(f for f in recipe.order if f not in lost)
        new = changed(recipe, makings=tuple(makings), arts=arts_left, films=films, pairs=pairs, order=order)
        if new == recipe:
            return recipe
        recipe = new


def _let_go(art: AnyArt, lost: set[str]) -> AnyArt:
    """An art without references to what has gone."""
    kept = changed(art, inside=None) if art.inside in lost else art
    if isinstance(kept, OneFilmArt) and lost & set(kept.without):
        return changed(kept, without=tuple(ref for ref in kept.without if ref not in lost))
    return kept


def _followed(old: LetteringArt, new: LetteringArt) -> LetteringArt:
    """New words with the nudges and films of those letters that are still there."""
    if old.text == new.text or (new.letters, new.films) != (old.letters, old.films):
        return new
    moved: dict[int, int] = {}
    for block in difflib.SequenceMatcher(None, old.text, new.text, autojunk=False).get_matching_blocks():
        moved |= {block.a + k: block.b + k for k in range(block.size)}
    letters = tuple(LetterTweak(**{**t.model_dump(), "index": moved[t.index]}) for t in old.letters if t.index in moved)
    films = []
    for span in old.films:
        kept = [moved[k] for k in range(span.start, min(span.end, len(old.text))) if k in moved]
        if kept:
            films.append(LetterFilm(start=min(kept), end=max(kept) + 1, film=span.film))
    return changed(new, letters=letters, films=tuple(films))


def _known(recipe: Recipe, id_: str) -> AnyArt:
    found = recipe.art(id_)
    if found is None:
        raise RecipeError("This art is no longer on the stack.", "Bring it in again, or undo.")
    return found


def _free_id(recipe: Recipe, stem: str) -> str:
    taken = {a.id for a in recipe.arts} | {m.id for m in recipe.makings} | set(recipe.film_keys())
    return next(name for k in range(1, 10_000) if (name := f"{stem}-{k}") not in taken)


def _art(recipe: Recipe, art: AnyArt) -> Recipe:
    return changed(recipe, arts=tuple(art if a.id == art.id else a for a in recipe.arts))


def _film(recipe: Recipe, film: str, **changes: object) -> Recipe:
    new = changed(recipe.film(film), **changes)
    others = tuple(f for f in recipe.films if f.film != film)
    return changed(recipe, films=others if new == FilmChoice(film=film) else (*others, new))


def _pair(recipe: Recipe, a: str, b: str, rule: JointRule | None) -> Recipe:
    if a == b:
        raise RecipeError("A film has no joint with itself.", "Choose two films.")
    others = tuple(p for p in recipe.pairs if {p.a, p.b} != {a, b})
    return changed(recipe, pairs=(*others, PairJoint(a=a, b=b, rule=rule)) if rule else others)


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


def _checked(sheet: SheetChoice) -> SheetChoice:
    if 2 * sheet.margin_mm >= min(sheet.width_mm, sheet.height_mm):
        raise RecipeError(
            f"Margins of {sheet.margin_mm:g} mm leave nothing of a {sheet.width_mm:g} x {sheet.height_mm:g} mm sheet.",
            "Make the margin smaller.",
        )
    return sheet
