"""Applying the edits of art that comes as regions: claims, mends, and films that are replaced."""

from __future__ import annotations

from gladstack.core.base.errors import RecipeError
from gladstack.recipe.edit import edits
from gladstack.recipe.edit.scale import grown_mends
from gladstack.recipe.model.arts import AnyArt, LineArt, PictureArt, RegionArt
from gladstack.recipe.model.mends import LetGo, Mend
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.values import changed


def apply_to_regions(recipe: Recipe, edit: edits.OfRegions) -> RegionArt:
    """The art of an edit with the edit made. Raises RecipeError."""
    art = recipe.art(edit.art)
    if not isinstance(art, RegionArt):
        raise RecipeError("This art has no regions.", "Choose a picture, line art or a vector file.")
    match edit:
        case edits.ClaimRegions(pins=pins):
            # A point that is claimed again keeps only its last claim.
            fresh = {(p.x, p.y) for p in pins}
            return changed(art, pins=(*(p for p in art.pins if (p.x, p.y) not in fresh), *pins))
        case edits.AddMend(mend=mend):
            return changed(art, mends=(*art.mends, changed(mend, id=_free_id(art, mend.kind))))
        case edits.ChangeMend(mend=mend):
            _known(art, mend.id)
            return changed(art, mends=tuple(mend if m.id == mend.id else m for m in art.mends))
        case edits.RemoveMend(mend=id_):
            _known(art, id_)
            return changed(art, mends=tuple(m for m in art.mends if m.id != id_))
        case edits.OrderMends(order=order):
            by_id = {m.id: m for m in art.mends}
            if sorted(order) != sorted(by_id):
                raise RecipeError("The order must name every step of mending once.")
            return changed(art, mends=tuple(by_id[id_] for id_ in order))
        case edits.ReplaceFilm(film=film):
            return changed(art, mends=(*art.mends, LetGo(id=_free_id(art, "let-go"), film=film)))
    raise AssertionError(edit)


def resized(old: AnyArt, new: AnyArt) -> AnyArt:
    """An art changed, with the lengths of its mends grown as its width has, if they were not changed themselves."""
    if not isinstance(old, PictureArt | LineArt) or not isinstance(new, PictureArt | LineArt):
        return new
    if old.width_mm == new.width_mm or (old.mends, old.simplify_mm) != (new.mends, new.simplify_mm):
        return new
    return grown_mends(new, new.width_mm / old.width_mm)


def _known(art: RegionArt, id_: str) -> Mend:
    found = next((m for m in art.mends if m.id == id_), None)
    if found is None:
        raise RecipeError("This step of mending is no longer there.", "Undo, or draw it anew.")
    return found


def _free_id(art: RegionArt, stem: str) -> str:
    taken = {m.id for m in art.mends}
    return next(name for k in range(1, 10_000) if (name := f"{stem}-{k}") not in taken)
