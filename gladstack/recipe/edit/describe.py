"""What an edit did, in the maker's words: the lines that the history shows."""

from __future__ import annotations

from collections.abc import Callable

from gladstack.core.base.units import format_length
from gladstack.recipe.edit import edits
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.arts import AnyArt, LetteringArt, LineArt, OneFilmArt, PictureArt, RegionArt, ShapeArt, VectorArt
from gladstack.recipe.model.pins import Pin
from gladstack.recipe.model.recipe import JointRule, Recipe

_FIELDS = {
    "font": "font", "height_mm": "letter height", "spacing_mm": "letter spacing", "leading": "line spacing",
    "align": "alignment", "fit_width_mm": "width", "fit_height_mm": "height", "bend": "bend of the baseline",
    "lines": "single lines", "letters": "single letters", "films": "films of letters", "weld": "weld", "film": "film",
    "opens": "what it opens", "margin_mm": "margin", "inside": "what it is kept inside",
    "without": "what it leaves open", "form": "form",
    "width_mm": "width", "filename": "picture", "separation": "separation",
    "reading": "size", "merges": "films", "dropped": "films", "pins": "claims",
    "simplify_mm": "simplifying", "mends": "mending", "open_paths": "open paths", "line_mm": "width of lines",
    "threshold": "threshold", "ink": "ink", "ink_film": "film of the ink",
}  # fmt: skip
_MENDS = {
    "bridge": "bridge", "cut-away": "cut", "brush": "stroke of the brush", "smooth": "smoothed edge",
    "straighten": "straight edge", "push": "pushed edge", "take-over": "take-over", "let-go": "film let go",
}  # fmt: skip
_MAKINGS = {"outline-shadow": "outline shadow", "drop-shadow": "drop shadow", "stitch-line": "stitches", "band": "band"}


def describe_edit(edit: Edit, recipe: Recipe) -> str:
    """One line for the history; `recipe` is the one the edit was applied to."""

    def film(key: str) -> str:
        return recipe.film(key).name or key

    def rule(r: JointRule | None) -> str:
        if r is None:
            return "as the default"
        return "butt" if r.kind == "butt" else f"{r.kind} {r.mm:g} mm"

    match edit:
        case edits.RenameDesign(name=name):
            return f"Named the design “{name}”"
        case edits.Resize(width_mm=width):
            return f"Made it {format_length(width, recipe.unit)} wide"
        case edits.ShowUnit(unit=unit):
            return f"Showed lengths in {'inches' if unit == 'in' else 'millimetres'}"
        case edits.CountColours(count=count):
            return "Took the proposed number of colours" if count is None else f"Asked for {count} colours"
        case edits.PickColour(colour=colour):
            return f"Picked {colour} from the picture"
        case edits.UnpickColour(colour=colour):
            return f"Took back the pick {colour}"
        case edits.MergeColours(colour=colour, into=into):
            return f"Made {film(colour)} and {film(into)} one film"
        case edits.PartColours(colour=colour):
            return f"Made {film(colour)} a film of its own again"
        case edits.DropColour(colour=colour):
            return f"Dropped {film(colour)}"
        case edits.KeepColour(colour=colour):
            return f"Brought back {film(colour)}"
        case edits.TreatBackground(background=background):
            dropped = {"drop": "Dropped the background", "outside": "Dropped the background outside only"}
            return dropped.get(background, "Kept the background as a film")
        case edits.SetDetail():
            given = edit.model_dump(exclude={"kind", "art"}, exclude_none=True)
            return "Set " + ", ".join(f"{k.removesuffix('_mm')} {v:g} mm" for k, v in given.items())
        case edits.RenameFilm(film=key, name=name):
            return f"Named {film(key)} “{name}”" if name else f"Gave {film(key)} its proposed name"
        case edits.OrderFilms():
            return "Reordered the stack"
        case edits.SetJoint(rule=r):
            return f"Default joint: {rule(r)}"
        case edits.SetFilmJoint(film=key, rule=r):
            return f"Joint of {film(key)} with what lies on it: {rule(r)}"
        case edits.SetPairJoint(a=a, b=b, rule=r):
            return f"Joint of {film(a)} and {film(b)}: {rule(r)}"
        case edits.SetMethod(method=method, film=k):
            return f"{film(k) if k else 'Design'}: {method or 'method as the design'} film"
        case edits.SetSheet(sheet=sheet, film=k):
            size = f"{sheet.width_mm:g} × {sheet.height_mm:g} mm" if sheet else "as the design"
            return f"Sheet of {film(k) if k else 'every film'}: {size}"
        case edits.SetMarks(marks=marks):
            return "Added registration marks" if marks else "Removed registration marks"
        case edits.SetFilmColour(film=key, colour=colour):
            return f"{film(key)} is shown in {colour or 'its own colour'}"
        case edits.ThickenFilm(film=key, mm=mm):
            said = "own weight" if mm == 0 else f"{abs(mm):g} mm {'heavier' if mm > 0 else 'lighter'}"
            return f"{film(key)}: {said}"
        case edits.LeaveOut(film=key, left_out=left_out):
            return f"{'Left out' if left_out else 'Took in again'} {film(key)}"
        case edits.SetFinish(film=key, finish=finish):
            return f"{film(key)} looks {finish.kind}"
        case edits.SetGround(ground=ground):
            return f"Shown on {'the light table' if ground.kind == 'table' else ground.kind}, {ground.colour}"
        case edits.TurnDesign(turn_deg=turn, mirror=mirror):
            return "Mirrored the design" if mirror else f"Turned the design by {turn:g}°"
        case edits.ScaleDesign(factor=factor, lengths=lengths):
            return f"Scaled the design to {factor:.4g}, " + ("joints too" if lengths == "scale" else "joints as they were")
        case edits.AddArt(art=art):
            return f"Brought in {art_name(art)}"
        case edits.ChangeArts(arts=arts):
            return _changed(arts, recipe)
        case edits.CopyArt(art=id_):
            return f"Copied {_named(recipe, id_)}"
        case edits.RemoveArt(art=id_):
            return f"Took away {_named(recipe, id_)}"
        case edits.ScaleArt(art=id_, factor=factor):
            return f"Scaled {_named(recipe, id_)} to {factor:.4g}"
        case edits.TreatPicture(art=id_, treatment=treatment):
            return f"Took {_named(recipe, id_)} for {'line art' if treatment == 'lines' else 'flat colours'}"
        case edits.ClaimRegions(pins=pins):
            return _claims(pins, film)
        case edits.AddMend(mend=mend):
            return f"Mended: {_MENDS[mend.kind]}"
        case edits.ChangeMend(mend=mend):
            return f"Changed a step of mending: {_MENDS[mend.kind]}"
        case edits.RemoveMend(art=id_, mend=mend_id):
            return f"Took away a step of mending: {_mend(recipe, id_, mend_id)}"
        case edits.OrderMends():
            return "Reordered the mending"
        case edits.ReplaceFilm(film=key, lettering=lettering):
            return f"Replaced {film(key)} by {'lettering' if lettering else 'a shadow'}"
        case edits.AddMaking(making=making):
            return f"Made {_MAKINGS[making.kind]}"
        case edits.ChangeMaking(making=making):
            return f"Changed {_MAKINGS[making.kind]}"
        case edits.RemoveMaking(making=id_):
            gone = next((m for m in recipe.makings if m.id == id_), None)
            return f"Took away {_MAKINGS[gone.kind] if gone else 'a making'}"
    raise AssertionError(edit)


_BECOMES = {
    "open": "left open", "hole": "a hole through everything", "dropped": "dropped", "merged": "merged with a neighbour",
    "outer": "only the outer line", "inner": "only the inner line", "middle": "the line in the middle",
    "own": "as it was",
}  # fmt: skip


def _claims(pins: tuple[Pin, ...], film: Callable[[str], str]) -> str:
    many = f"{len(pins)} regions" if len(pins) > 1 else "A region"
    told = {film(p.film) if p.film else _BECOMES[p.becomes] for p in pins}
    return f"{many}: {' and '.join(sorted(told))}"


def _mend(recipe: Recipe, art_id: str, mend: str) -> str:
    art = recipe.art(art_id)
    found = next((m for m in art.mends if m.id == mend), None) if isinstance(art, RegionArt) else None
    return _MENDS[found.kind] if found else mend


def art_name(art: AnyArt) -> str:
    """An art in a few words."""
    if isinstance(art, LetteringArt):
        words = " ".join(art.text.split())
        return f"“{words[:30]}{'…' if len(words) > 30 else ''}”"
    if isinstance(art, ShapeArt):
        return art.form.form
    if isinstance(art, OneFilmArt):
        return "art"
    kinds = {PictureArt: "picture", VectorArt: "vector file", LineArt: "line art"}
    return art.filename or kinds[type(art)]


def _named(recipe: Recipe, id_: str) -> str:
    found = recipe.art(id_)
    return art_name(found) if found else id_


def _changed(arts: tuple[AnyArt, ...], recipe: Recipe) -> str:
    """What changed in some art: its words, its place, or the choices that differ."""
    if len(arts) > 1:
        return f"Placed {len(arts)} pieces of art"
    new, old = arts[0], recipe.art(arts[0].id)
    if old is None or type(new) is not type(old):
        return f"Changed {art_name(new)}"
    differ = [f for f in type(new).model_fields if getattr(new, f) != getattr(old, f)]
    if "text" in differ:
        return f"Wrote {art_name(new)}"
    if differ == ["place"]:
        own = {f for f in type(new.place).model_fields if getattr(new.place, f) != getattr(old.place, f)}
        words = {"scale_x": "Scaled", "scale_y": "Scaled", "mirrored": "Mirrored", "turn_deg": "Turned"}
        said = next((words[f] for f in ("turn_deg", "mirrored", "scale_x", "scale_y") if f in own), "Moved")
        return f"{said} {art_name(new)}"
    return f"{art_name(new)}: {', '.join(_FIELDS.get(f, f) for f in differ) or 'nothing'} changed"
