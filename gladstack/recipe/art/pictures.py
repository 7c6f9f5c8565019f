"""Pictures as art: separated, and what they paint."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from shapely import MultiPolygon

from gladstack.core.base.colour import delta_e, from_hex, nearest_colour, to_hex
from gladstack.core.films.regions import Paint, Painting
from gladstack.core.geometry.curves import Curve
from gladstack.core.picture.planar import PlanarMap
from gladstack.core.picture.separate import Separated, TraceOptions, find_colours, give_labels, separate
from gladstack.core.picture.tidy import tidied
from gladstack.core.picture.trace import OUTSIDE
from gladstack.recipe.art.given import Assets, ColourInfo, Facts, PictureFacts, PictureSeen, Role
from gladstack.recipe.art.origin import Origin, decoded
from gladstack.recipe.model.arts import Background, PictureArt, Separation
from gladstack.stages.engine import Stages, part

_SAME_GROUND = 6.0

_SEEN_THROUGH = 0.0002
"""Enclosed areas that are all smaller shares of the page than this are the ground seen through letters."""
_LEAST_ENCLOSED_MM2 = 0.5
"""Smaller enclosed areas of the background's colour are no film unless they are asked for: nobody could weed them."""


def picture_origin(art: PictureArt, assets: Assets, stages: Stages, ground: str | None) -> Origin:
    """A picture on a `ground` of some colour (None: not known), separated into its colours."""
    choices = art.separation
    picture = decoded(art, assets, stages)
    only = choices.picked if choices.rest != "found" else ()
    count = None if only else choices.count
    tidy = stages.run("tidy", tidied, picture, choices.as_is, choices.bands)
    palette = stages.run("palette", find_colours, tidy, count, choices.picked, choices.held)
    labels = stages.run("labels", give_labels, tidy, palette, choices.as_is, choices.rims)
    options = TraceOptions(choices.detail_mm, choices.smoothing_mm, choices.speck_mm)
    merges = tuple((m.colour, m.into) for m in choices.merges)
    source = stages.costly(
        "map", separate, tidy, palette, labels, merges, art.width_mm, options, only if choices.rest == "nearest" else ()
    )
    roles = stages.run("art", roles_of, source, choices.dropped, choices.background, choices.picked, only, ground)
    painting = stages.run("art", picture_painting, source, roles, art.width_mm)
    facts = stages.run("art", picture_facts, source, roles, choices, art.id, art.width_mm, ground)
    return Origin(source, painting, part(source, "curves", _edges), facts, shared=True)


def _edges(source: Separated) -> tuple[Curve, ...]:
    return tuple(a.curve for a in source.map.arcs)


Roles = Sequence[tuple[Role, MultiPolygon]]
"""What became of each colour of a picture, and its shape."""


def picture_painting(source: Separated, roles: Roles, width_mm: float) -> Painting:
    """What every colour of a picture paints; those that are no film paint for nobody."""
    size = (width_mm, width_mm * source.size_px[1] / source.size_px[0])
    painted = [
        Paint(to_hex(rgb) if role == "film" else None, to_hex(rgb), shape, role == "background")
        for rgb, (role, shape) in zip(source.palette.colours, roles, strict=True)
        if not shape.is_empty
    ]
    return Painting(size, tuple(painted), waits=False)


def roles_of(
    source: Separated,
    dropped: Sequence[str],
    choice: Background,
    picked: Sequence[str] = (),
    only: Sequence[str] = (),
    ground: str | None = None,
) -> Roles:
    """What became of each colour, and its shape, on a `ground` of some colour. One that was picked is never background;
    where `only` some are wanted, the others are dropped.
    """
    background = settled_background(source, choice, ground)
    colours = source.palette.colours
    taken = {nearest_colour(colours, c) for c in picked}
    wanted = {nearest_colour(colours, c) for c in only} or set(range(len(colours)))
    gone = {nearest_colour(colours, c) for c in dropped}
    out: list[tuple[Role, MultiPolygon]] = []
    for k in range(len(colours)):
        behind = k == source.background and (source.transparent or (background != "keep" and k not in taken))
        outside_only = behind and not source.transparent and background == "outside"
        shape = MultiPolygon() if source.merged[k] != k else _shape(source.map, k, inside_only=outside_only)
        if outside_only and choice == "auto":
            shape = MultiPolygon([p for p in shape.geoms if p.area >= _LEAST_ENCLOSED_MM2])
        role: Role = "film"
        if source.merged[k] != k:
            role = "merged"
        elif k in gone:
            role = "dropped"
        elif behind and not outside_only:
            role = "background"
        elif k not in wanted:
            role = "dropped"
        elif shape.is_empty:
            role = "background" if outside_only else "empty"
        out.append((role, shape))
    return out


def picture_facts(
    source: Separated, roles: Roles, choices: Separation, art: str, width_mm: float, ground: str | None = None
) -> Facts:
    """What is known of a picture."""
    colours = source.palette.colours
    became = [role for role, _ in roles]
    picked = {nearest_colour(colours, c) for c in choices.picked}
    infos = tuple(
        ColourInfo(
            art, to_hex(rgb), float(source.shares[k]), became[k],
            to_hex(colours[int(source.merged[k])]) if became[k] == "merged" else None, k in picked,
        )
        for k, rgb in enumerate(colours)
        if not (source.transparent and k == 0) and not (became[k] == "empty" and choices.count is None)
    )  # fmt: skip
    mm_per_px = width_mm / source.size_px[0]
    seen = PictureSeen(
        source.kind, mm_per_px, source.palette.explained, source.noisy,
        tuple((to_hex(colours[rim.label]), rim.width_px * mm_per_px) for rim in source.rims if became[rim.label] == "film"),
        source.lost.kinds, settled_background(source, choices.background, ground), _enclosed_mm2(source),
    )  # fmt: skip
    least = source.palette.least
    return PictureFacts(
        infos, source.palette.flat, source.palette.lossy, seen, to_hex(least) if least else None, source.done,
        source.lost.pixels * mm_per_px**2, source.lost.share, _ground_colour(source),
    )  # fmt: skip


def settled_background(source: Separated, choice: Background, ground: str | None) -> Background:
    """What becomes of the background: as chosen, or as proposed for a ground of some colour."""
    if choice != "auto":
        return choice
    own = _ground_colour(source)
    same = (
        own is not None
        and ground is not None
        and delta_e(np.array(from_hex(own)), np.array(from_hex(ground))) < _SAME_GROUND
    )
    return "drop" if same or _seen_through(source) else "outside"


def _seen_through(source: Separated) -> bool:
    """Whether all that is enclosed of the background is small, as the insides of letters are."""
    if source.background is None or source.transparent:
        return False
    inside = _shape(source.map, source.background, inside_only=True).geoms
    page = sum(area.area for area in source.map.areas)
    return all(p.area < _SEEN_THROUGH * page for p in inside)


def _ground_colour(source: Separated) -> str | None:
    """The colour of a picture's background, if it has one that is painted."""
    if source.background is None or source.transparent:
        return None
    return to_hex(source.palette.colours[source.background])


def _enclosed_mm2(source: Separated) -> float:
    """How much of the background's colour is enclosed."""
    if source.background is None or source.transparent:
        return 0.0
    return float(_shape(source.map, source.background, inside_only=True).area)


def _shape(map_: PlanarMap, label: int, *, inside_only: bool) -> MultiPolygon:
    if not inside_only:
        return map_.shape_of(label)
    touching = {a.left for a in map_.arcs if a.right == OUTSIDE} | {a.right for a in map_.arcs if a.left == OUTSIDE}
    kept = [map_.areas[k] for k in np.flatnonzero(map_.labels == label) if int(k) not in touching]
    return MultiPolygon([p for p in kept if not p.is_empty])
