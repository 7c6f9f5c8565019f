"""Art that comes as regions, from what it paints to pieces: bridges, regions, claims, mends, fewer nodes, and its place."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.geometry import overlay
from gladstack.core.geometry.curves import Curve, Matrix, transform_curve, transform_points
from gladstack.core.geometry.outlines import CurveIndex, outline_of
from gladstack.core.geometry.shapes import clean
from gladstack.core.geometry.simplify import simplify
from gladstack.core.plan.blade import cutting_seconds
from gladstack.recipe.art.given import NOTHING, ArtPieces, Box, Notice, Piece, Saving
from gladstack.recipe.art.mended import Shapes, bridged, mended
from gladstack.recipe.art.regions import Claimed, Painting, Regions, Unclaimed, claim, regions_of
from gladstack.recipe.art.separated import Clock
from gladstack.recipe.model.arts import RegionArt
from gladstack.recipe.model.mends import Bridge
from gladstack.stages.memo import content_of, key_of

IDENTITY: Matrix = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)


@dataclass(frozen=True)
class Origin:
    """An art as its source has it: what it paints, the curves of all edges, and what the maker should know.

    `silhouette` is a film that is cut as a solid silhouette under all the rest.
    """

    painting: Painting
    curves: tuple[Curve, ...]
    notices: tuple[tuple[str, str], ...] = ()
    file_colours: tuple[str, ...] = ()
    alike: tuple[tuple[str, str], ...] = ()
    open_paths: int = 0
    threshold: tuple[int, int] | None = None
    silhouette: str | None = None


@dataclass(frozen=True)
class _Result:
    """What claims and mends come to, in the art's own mm."""

    key: str
    claimed: Claimed
    by_film: Shapes
    pushed: Shapes
    curves: tuple[Curve, ...]
    idle: tuple[tuple[str, str], ...]
    saving: Saving | None


def regions_in(art: RegionArt, origin: Origin, clock: Clock) -> tuple[Regions, tuple[tuple[str, str], ...]]:
    """The regions of an art after its bridges, and the bridges that found nothing to join."""
    bridges = [m for m in art.mends if isinstance(m, Bridge)]
    key = key_of("regions", origin.painting.key, bridges)

    def work() -> tuple[Regions, tuple[tuple[str, str], ...]]:
        painting, idle = bridged(origin.painting, bridges)
        return regions_of(painting), idle

    return clock.run("art", key, work)


def claimed_pieces(art: RegionArt, origin: Origin, clock: Clock, key: str) -> ArtPieces:
    """The pieces of an art whose regions belong to films by colour or claim, moved to where it lies."""
    regions, idle_bridges = regions_in(art, origin, clock)
    made = _made(art, origin, regions, clock)
    idle = (*idle_bridges, *made.idle)
    matrix = art.place.matrix
    claimed = made.claimed
    solid, open_ = placed(claimed.solid, matrix), placed(claimed.open, matrix)
    # Pieces are told apart by what they are, so that a claim leaves all films alone that it does not change.
    zones = (content_of(solid), content_of(open_))
    # All but a silhouette, which lies under the rest, overlap nowhere.
    apart = None if origin.silhouette else key_of("apart", made.key, matrix)
    pieces = [
        Piece(
            film, shape, key_of(film, content_of(shape), zones, content_of(pushed)), planar=apart, mapped=True,
            solid=solid, open=open_, pushed=pushed,
        )
        for film, own in made.by_film.items()
        if not (shape := placed(own, matrix)).is_empty
        for pushed in (placed(made.pushed.get(film, NOTHING), matrix),)
    ]  # fmt: skip
    if not claimed.holes.is_empty:
        holes = placed(claimed.holes, matrix)
        pieces.append(Piece(None, holes, key_of("holes", content_of(holes))))
    points = transform_points(np.array([(w.x_mm, w.y_mm) for w in claimed.waiting], float).reshape(-1, 2), matrix)
    scale = abs(art.place.scale_x * art.place.scale_y)
    waiting = tuple(
        Unclaimed(w.region, float(x), float(y), w.area_mm2 * scale)
        for (x, y), w in zip(points, claimed.waiting, strict=True)
    )
    return ArtPieces(
        art.id,
        key,
        tuple(pieces),
        tuple(c if matrix == IDENTITY else transform_curve(c, matrix) for c in made.curves),
        box_of(origin.painting.size_mm, matrix),
        notices=_notices(art, origin, claimed, idle),
        file_colours=origin.file_colours,
        alike=origin.alike,
        open_paths=origin.open_paths,
        waiting=waiting,
        threshold=origin.threshold,
        framed=True,
        regions_key=regions.key,
        curves_key=key_of("curves", origin.painting.key if art.simplify_mm <= 0 else made.key, matrix),
        pins=claimed.pins,
        idle=idle,
        saving=made.saving,
        own_width_mm=origin.painting.size_mm[0],
    )


def _made(art: RegionArt, origin: Origin, regions: Regions, clock: Clock) -> _Result:
    """Claims, mends and simplifying, each remembered under just what it needs."""
    steps = [m for m in art.mends if m.on and not isinstance(m, Bridge)]
    claims_key = key_of("claims", regions.key, art.pins)
    claimed = clock.run("art", claims_key, lambda: claim(regions, art.pins))
    key = key_of("mended", claims_key, steps, origin.silhouette, art.simplify_mm)

    def work() -> _Result:
        after = mended(claimed.by_film, steps, regions.width_mm)
        shapes = _with_silhouette(after.by_film, origin.silhouette)
        if art.simplify_mm <= 0:
            return _Result(key, claimed, shapes, after.pushed, origin.curves, after.idle, None)
        index = CurveIndex(origin.curves)
        # The silhouette lies under the rest: its own edges are drawn anew by themselves.
        under = {k: v for k, v in shapes.items() if k == origin.silhouette}
        upper = {k: v for k, v in shapes.items() if k != origin.silhouette}
        new = [simplify(part, art.simplify_mm, index) for part in (upper, under)]
        curves = (*origin.curves, *(c for one in new for c in one.curves))
        simpler = {k: v for one in new for k, v in one.shapes.items()}
        saving = _saving(shapes, index, simpler, CurveIndex(curves), max(one.deviation_mm for one in new))
        return _Result(key, claimed, {k: simpler[k] for k in shapes}, after.pushed, curves, after.idle, saving)

    return clock.run("art", key, work)


def _with_silhouette(shapes: Shapes, film: str | None) -> Shapes:
    if film is None or film not in shapes:
        return shapes
    return {**shapes, film: clean(overlay.union_all([Polygon(p.exterior) for p in shapes[film].geoms]))}


def _saving(before: Shapes, index: CurveIndex, after: Shapes, new_index: CurveIndex, deviation_mm: float) -> Saving:
    old = [outline_of(s, index) for s in before.values()]
    new = [outline_of(s, new_index) for s in after.values()]
    return Saving(
        sum(o.nodes for o in old), sum(o.nodes for o in new),
        sum(cutting_seconds(o.rings) for o in old), sum(cutting_seconds(o.rings) for o in new), deviation_mm,
    )  # fmt: skip


def _notices(art: RegionArt, origin: Origin, claimed: Claimed, idle: Sequence[tuple[str, str]]) -> tuple[Notice, ...]:
    out = [Notice(code, text, art.id) for code, text in origin.notices]
    if claimed.lost:
        what = "1 claim no longer meets" if claimed.lost == 1 else f"{claimed.lost} claims no longer meet"
        out.append(Notice("lost-pins", f"{what} a region.", art.id))
    kinds = {m.id: m.kind.replace("-", " ") for m in art.mends}
    out += [Notice("idle-mend", f"A step of mending does nothing ({kinds[id_]}): {why}", art.id) for id_, why in idle]
    return tuple(out)


def box_of(size_mm: tuple[float, float], matrix: Matrix) -> Box:
    """The box on the stack of an art of some size."""
    width, height = size_mm
    corners = transform_points(np.array([[0, 0], [width, 0], [width, height], [0, height]], float), matrix)
    left, top = corners.min(axis=0).tolist()
    right, bottom = corners.max(axis=0).tolist()
    return left, top, right, bottom


def placed(shape: MultiPolygon, matrix: Matrix) -> MultiPolygon:
    """A shape moved from an art's own mm to the stack."""
    if matrix == IDENTITY or shape.is_empty:
        return shape
    moved: MultiPolygon = shapely.transform(shape, lambda p: transform_points(p, matrix))
    return moved if moved.is_valid else clean(shapely.make_valid(moved))
