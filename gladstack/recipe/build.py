"""Recipe in, everything out: the build, memoised by stage.

Stages: decode -> palette -> labels -> map -> layers -> joints -> curves -> proof -> sheets. Each is remembered under a hash
of just its inputs, so an edit only redoes what it touches; a joint, an order, a name or a sheet never goes near the pixels.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np
import shapely
from shapely import MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core import tolerances
from gladstack.core.colour import from_hex, to_hex
from gladstack.core.errors import RecipeError
from gladstack.core.joints import Joint, JointKind, Upper, cut_shape, meets
from gladstack.core.order import film_names, propose_order
from gladstack.core.outlines import CurveIndex, Outline, outline_of
from gladstack.core.palette import Palette
from gladstack.core.planar import PlanarMap
from gladstack.core.proof import max_thickness, overlap, wrong_area
from gladstack.core.sheets import Box, Film, Placement, place_on_sheet, with_marks
from gladstack.core.trace import OUTSIDE
from gladstack.core.units import format_length
from gladstack.recipe.memo import Memo, key_of
from gladstack.recipe.models import FilmChoice, Recipe
from gladstack.recipe.source import Clock, PictureLoader, Source, nearest_colour, trace_picture

Role = Literal["film", "background", "dropped", "merged", "empty"]


@dataclass(frozen=True)
class Notice:
    """Something the maker should know: a stable code, a sentence, and the layer it is about (None: the design)."""

    code: str
    text: str
    layer: int | None = None


@dataclass(frozen=True)
class ColourInfo:
    """A colour of the palette: what became of it, and its share of the picture."""

    colour: str
    share: float
    role: Role
    into: str | None
    picked: bool


@dataclass(frozen=True)
class BuiltLayer:
    """A film of the stack with everything that follows for it; geometry in design millimetres."""

    colour: str
    name: str
    slug: str
    shape: MultiPolygon
    cut: MultiPolygon
    outline: Outline
    film: Film
    placement: Placement


@dataclass(frozen=True)
class BuiltJoint:
    """The joint of two layers that meet, and where it was chosen."""

    lower: int
    upper: int
    joint: Joint
    source: Literal["pair", "film", "design"]


@dataclass(frozen=True)
class Built:
    """All that follows from a recipe. Layers run from the ground up."""

    recipe: Recipe
    width_mm: float
    height_mm: float
    frame: Box
    flat: bool
    lossy: bool
    colours: tuple[ColourInfo, ...]
    proposed_order: tuple[str, ...]
    layers: tuple[BuiltLayer, ...]
    joints: tuple[BuiltJoint, ...]
    wrong_area_ratio: float
    max_thickness: int
    notices: tuple[Notice, ...]
    seconds: dict[str, float]


@dataclass(frozen=True)
class _Draft:
    label: int
    colour: str
    key: str
    shape: MultiPolygon


def build(
    recipe: Recipe, load: PictureLoader, memo: Memo | None = None, tell: Callable[[str], None] = lambda stage: None
) -> Built:
    """Everything that follows from `recipe`; `load` gives a picture's bytes for its hash.

    The same recipe always gives the same result; `memo` only saves time. `tell` hears each stage that really has to work,
    and may raise to give up. Raises GladStackError.
    """
    clock = Clock(memo or Memo(), tell)
    notices: list[Notice] = []
    source = trace_picture(recipe, load, clock)
    if not source.palette.flat:
        notices.append(_not_flat(source.palette))
    roles, drafts = _layers(recipe, source, clock, notices)
    names = _names(recipe, drafts)
    joints = _joints(recipe, drafts, clock)
    cut_keys, cuts = _cuts(drafts, joints, clock)
    index = clock.run("curves", key_of("index", source.key), lambda: CurveIndex(source.map))
    outlines = [
        clock.run("curves", key_of(source.key, k), lambda c=c: outline_of(c, index))  # type: ignore[misc]
        for k, c in zip(cut_keys, cuts, strict=True)
    ]
    wrong, thickness = _figures(drafts, joints, cut_keys, cuts, clock)
    width = recipe.art.width_mm
    height = width * source.size_px[1] / source.size_px[0]
    frame = _frame(cuts, width, height)
    films = [_film_of(recipe, d) for d in drafts]
    placements = [
        clock.run(
            "sheets",
            key_of(frame if recipe.marks else k, recipe.marks, f.method, f.width_mm, f.height_mm, f.margin_mm),
            lambda c=c, f=f: place_on_sheet(with_marks(frame) if recipe.marks else _bounds(c), f),  # type: ignore[misc]
        )
        for k, c, f in zip(cut_keys, cuts, films, strict=True)
    ]
    layers = tuple(
        BuiltLayer(d.colour, n, _slug(k, n), d.shape, c, o, f, p)
        for k, (d, n, c, o, f, p) in enumerate(zip(drafts, names, cuts, outlines, films, placements, strict=True))
    )
    notices += _fit_notices(recipe, layers)
    met = tuple(
        j for j in joints
        if clock.run("joints", key_of("meet", drafts[j.lower].key, drafts[j.upper].key),
                     lambda j=j: meets(drafts[j.lower].shape, drafts[j.upper].shape))  # type: ignore[misc]
    )  # fmt: skip
    wrong_ratio = wrong / max(1e-9, sum(d.shape.area for d in drafts))
    if wrong_ratio > tolerances.WRONG_AREA_RATIO:
        notices.append(Notice("wrong-area", f"The films differ from the wanted picture in {wrong:.2f} mm²."))
    proposed = tuple(d.colour for d in _proposed(drafts, source, clock))
    return Built(
        recipe, width, height, frame, source.palette.flat, source.palette.lossy, roles, proposed, layers, met,
        wrong_ratio, thickness, tuple(notices), dict(clock.seconds),
    )  # fmt: skip


def _layers(
    recipe: Recipe, source: Source, clock: Clock, notices: list[Notice]
) -> tuple[tuple[ColourInfo, ...], list[_Draft]]:
    """What became of every colour, and the films from the ground up."""
    colours, separation = source.palette.colours, recipe.separation
    dropped = {nearest_colour(colours, c) for c in separation.dropped}
    drafts: list[_Draft] = []
    roles: list[Role] = []
    for k, rgb in enumerate(colours):
        background = k == source.background and (source.transparent or separation.background != "keep")
        outside_only = background and not source.transparent and separation.background == "outside"
        if source.merged[k] != k:
            roles.append("merged")
        elif k in dropped:
            roles.append("dropped")
        elif background and not outside_only:
            roles.append("background")
        else:
            key = key_of(source.key, k, outside_only)
            shape = clock.run("layers", key, lambda k=k, o=outside_only: _shape(source.map, k, inside_only=o))  # type: ignore[misc]
            if shape.is_empty:
                roles.append("background" if outside_only else "empty")
            else:
                roles.append("film")
                drafts.append(_Draft(k, to_hex(rgb), key, shape))
    picked = {nearest_colour(colours, c) for c in separation.picked}
    infos = tuple(
        ColourInfo(
            to_hex(rgb), float(source.shares[k]), roles[k],
            to_hex(colours[int(source.merged[k])]) if roles[k] == "merged" else None, k in picked,
        )
        for k, rgb in enumerate(colours)
        if not (source.transparent and k == 0) and not (roles[k] == "empty" and separation.count is None)
    )  # fmt: skip
    for info in infos:
        if info.role == "empty":
            notices.append(Notice("film-empty", f"{info.colour} only occurs in specks, so it has no film."))
    return infos, _ordered(recipe, _proposed(drafts, source, clock))


def _shape(map_: PlanarMap, label: int, *, inside_only: bool) -> MultiPolygon:
    if not inside_only:
        return map_.shape_of(label)
    touching = {a.left for a in map_.arcs if a.right == OUTSIDE} | {a.right for a in map_.arcs if a.left == OUTSIDE}
    kept = [map_.areas[k] for k in np.flatnonzero(map_.labels == label) if int(k) not in touching]
    return MultiPolygon([p for p in kept if not p.is_empty])


def _proposed(drafts: list[_Draft], source: Source, clock: Clock) -> list[_Draft]:
    by_colour = sorted(drafts, key=lambda d: d.label)
    order = clock.run(
        "layers", key_of("order", [d.key for d in by_colour]), lambda: propose_order([d.shape for d in by_colour])
    )
    return [by_colour[k] for k in order]


def _ordered(recipe: Recipe, proposed: list[_Draft]) -> list[_Draft]:
    """The maker's order, with films it does not know put just above what they would lie on by proposal."""
    colours = tuple(from_hex(d.colour) for d in proposed)
    known: list[int] = []
    for wanted in recipe.order:
        found = nearest_colour(colours, wanted)
        if found is not None and found not in known:
            known.append(found)
    for k in range(len(proposed)):
        if k not in known:
            below = [known.index(j) for j in range(k) if j in known]
            known.insert(max(below) + 1 if below else 0, k)
    return [proposed[k] for k in known]


def _choice(recipe: Recipe, colour: str) -> FilmChoice:
    """The maker's choices for a film: those for exactly its colour, else for the nearest one."""
    exact = recipe.film(colour)
    if exact != FilmChoice(colour=colour) or not recipe.films:
        return exact
    found = nearest_colour(tuple(from_hex(f.colour) for f in recipe.films), colour)
    return recipe.films[found] if found is not None else exact


def _names(recipe: Recipe, drafts: list[_Draft]) -> list[str]:
    by_label = sorted(drafts, key=lambda d: d.label)
    names = film_names([from_hex(d.colour) for d in by_label])
    proposed = {d.label: name for d, name in zip(by_label, names, strict=True)}
    return [_choice(recipe, d.colour).name or proposed[d.label] for d in drafts]


def _slug(position: int, name: str) -> str:
    plain = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:40] or "film"
    return f"{position + 1:02d}-{plain}"


def _film_of(recipe: Recipe, draft: _Draft) -> Film:
    choice = _choice(recipe, draft.colour)
    sheet = choice.sheet or recipe.sheet
    return Film(choice.method or recipe.method, sheet.width_mm, sheet.height_mm, sheet.margin_mm)


def _joints(recipe: Recipe, drafts: list[_Draft], clock: Clock) -> list[BuiltJoint]:
    """The joint of every pair: the pair's own, else the lower film's, else the design's."""
    colours = tuple(from_hex(d.colour) for d in drafts)
    pairs = {}
    for p in recipe.pairs:
        a, b = nearest_colour(colours, p.a), nearest_colour(colours, p.b)
        if a is not None and b is not None and a != b:
            pairs[frozenset((a, b))] = p.rule.joint()
    out = []
    for i, draft in enumerate(drafts):
        own = _choice(recipe, draft.colour).joint
        for j in range(i + 1, len(drafts)):
            if (pair := pairs.get(frozenset((i, j)))) is not None:
                out.append(BuiltJoint(i, j, pair, "pair"))
            elif own is not None:
                out.append(BuiltJoint(i, j, own.joint(), "film"))
            else:
                out.append(BuiltJoint(i, j, recipe.joint.joint(), "design"))
    return out


def _cuts(drafts: list[_Draft], joints: list[BuiltJoint], clock: Clock) -> tuple[list[str], list[MultiPolygon]]:
    """Cut shapes and their keys, worked out from the top down."""
    count = len(drafts)
    rule = {(j.lower, j.upper): j.joint for j in joints}
    cuts: list[MultiPolygon] = [MultiPolygon()] * count
    keys = [""] * count
    gap_above = False
    for i in range(count - 1, -1, -1):
        above = [Upper(drafts[j].shape, rule[i, j], disjoint=True) for j in range(i + 1, count)]
        rows = [(drafts[j].key, rule[i, j].kind.value, rule[i, j].mm) for j in range(i + 1, count)]
        laps = any(u.joint.kind in (JointKind.LAP, JointKind.FULL) for u in above)
        covering = keys[i + 1 :] if gap_above and laps else None
        keys[i] = key_of(drafts[i].key, rows, covering)

        def compute(i: int = i, above: list[Upper] = above, covered: bool = covering is not None) -> MultiPolygon:
            cover = shapely.union_all(cuts[i + 1 :]) if covered else None
            return cut_shape(drafts[i].shape, above, cover=cover)  # type: ignore[arg-type]

        cuts[i] = clock.run("joints", keys[i], compute)
        gap_above = gap_above or any(u.joint.kind is JointKind.GAP for u in above)
    return keys, cuts


def _figures(
    drafts: list[_Draft], joints: list[BuiltJoint], keys: list[str], cuts: list[MultiPolygon], clock: Clock
) -> tuple[float, int]:
    """Wrong area in mm2, and the most films on one another."""
    rule = {(j.lower, j.upper): j.joint for j in joints}
    count = len(drafts)
    wrong = 0.0
    for i in range(count):
        above = [(drafts[j].shape, cuts[j], rule[i, j]) for j in range(i + 1, count)]
        key = key_of("wrong", keys[i:], [(rule[i, j].kind.value, rule[i, j].mm) for j in range(i + 1, count)])
        wrong += clock.run("proof", key, lambda i=i, above=above: wrong_area(drafts[i].shape, cuts[i], above))  # type: ignore[misc]

    def pair(i: int, j: int) -> BaseGeometry:
        if cuts[i] is drafts[i].shape and cuts[j] is drafts[j].shape:
            return MultiPolygon()
        return clock.memo.get(f"proof:{key_of('pair', keys[i], keys[j])}", lambda: overlap(cuts[i], cuts[j]))[0]

    thickness = clock.run("proof", key_of("thickness", keys), lambda: max_thickness(cuts, pair))
    return wrong, thickness


def _frame(cuts: list[MultiPolygon], width: float, height: float) -> Box:
    boxes = [_bounds(c) for c in cuts if not c.is_empty]
    if not boxes:
        return 0.0, 0.0, width, height
    return min(b[0] for b in boxes), min(b[1] for b in boxes), max(b[2] for b in boxes), max(b[3] for b in boxes)


def _bounds(shape: MultiPolygon) -> Box:
    left, top, right, bottom = (0.0, 0.0, 0.0, 0.0) if shape.is_empty else shape.bounds
    return left, top, right, bottom


def _not_flat(palette: Palette) -> Notice:
    return Notice(
        "not-flat",
        f"This picture is not made of flat colours: only {palette.explained:.0%} of it lies near a plain colour. "
        "It was grouped into films; choose how many to spend on it.",
    )


def _fit_notices(recipe: Recipe, layers: tuple[BuiltLayer, ...]) -> list[Notice]:
    out = []
    for k, layer in enumerate(layers):
        if layer.cut.is_empty:
            out.append(Notice("nothing-left", f"Nothing of {layer.name} is left to cut: its joints take all of it.", k))
        p = layer.placement
        if p.fits:
            continue
        over = [
            f"{format_length(mm, recipe.unit)} too {word}"
            for mm, word in ((p.over_width_mm, "wide"), (p.over_height_mm, "high"))
            if mm > 0
        ]
        room = f"{format_length(layer.film.width_mm, recipe.unit)} × {format_length(layer.film.height_mm, recipe.unit)}"
        turned = " It would fit with the sheet laid the other way round." if p.fits_turned else ""
        out.append(Notice("off-sheet", f"{layer.name} does not fit its {room} sheet: {' and '.join(over)}.{turned}", k))
    return out


def require_layers(built: Built) -> None:
    """Raises RecipeError if there is nothing to cut."""
    if not any(not layer.cut.is_empty for layer in built.layers):
        raise RecipeError(
            "Nothing is left to cut: every colour is dropped or smaller than a speck.",
            "Bring a colour back, or take a smaller speck size.",
        )
