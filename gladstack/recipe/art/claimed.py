"""Art that comes as regions, from what it paints to pieces: bridges, regions, claims, mends, fewer nodes, and its place."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from shapely import MultiPolygon, Polygon

from gladstack.core.base.plane import box_around
from gladstack.core.films.mends import Shapes
from gladstack.core.films.regions import NOTHING, Claimed, Painting, Regions, Unclaimed, as_painted, claim, regions_of
from gladstack.core.geometry import overlay
from gladstack.core.geometry.common_edges import drawn_once
from gladstack.core.geometry.curves import IDENTITY, Curve, Matrix, box_under, transform_curve, transform_points
from gladstack.core.geometry.outlines import CurveIndex, outline_of
from gladstack.core.geometry.shapes import clean, placed
from gladstack.core.geometry.simplify import simplify
from gladstack.core.plan.blade import cutting_seconds
from gladstack.recipe.art.given import ArtPiece, ArtPieces, RegionFacts, Saving, Zones, one_shape
from gladstack.recipe.art.mended import Idle, Mended, bridged, mended
from gladstack.recipe.art.origin import Origin
from gladstack.recipe.model.arts import RegionArt
from gladstack.recipe.model.mends import Bridge
from gladstack.stages.engine import Stages, constant, part
from gladstack.stages.laid import Shape, laid, laid_by, run_laid
from gladstack.stages.memo import Keyed, key_of


@dataclass(frozen=True)
class Finished:
    """Shapes by film in the art's own mm, after claims, mends and simplifying; `curves` are those that simplifying drew."""

    by_film: Shapes
    pushed: Shapes
    curves: tuple[Curve, ...] = ()
    saving: Saving | None = None


@dataclass(frozen=True)
class Sized:
    """Shapes by film in their size on the stack, each with the zones in which it has its way below."""

    by_film: tuple[tuple[str, Shape, Zones], ...]
    holes: Shape


def regions_in(art: RegionArt, origin: Origin, stages: Stages) -> tuple[Keyed[Regions], Keyed[tuple[Idle, ...]]]:
    """The regions of an art after its bridges, and the bridges that found nothing to join."""
    painting, idle = _bridged(art, origin, stages)
    return stages.run("art", regions_of, painting), idle


def _bridged(art: RegionArt, origin: Origin, stages: Stages) -> tuple[Keyed[Painting], Keyed[tuple[Idle, ...]]]:
    bridges = tuple(m for m in art.mends if isinstance(m, Bridge))
    if not bridges:
        return origin.painting, constant(())
    made = stages.run("art", bridged, origin.painting, bridges)
    return part(made, "painting", lambda m: m[0]), part(made, "idle", lambda m: m[1])


def region_pieces(art: RegionArt, origin: Origin, stages: Stages) -> ArtPieces:
    """The pieces of an art whose regions belong to films by colour or claim, moved to where it lies."""
    painting, idle_bridges = _bridged(art, origin, stages)
    size = painting.value.size_mm
    regions = stages.run("art", regions_of, painting)
    claims = tuple(pin.claim(size[0]) for pin in art.pins)
    asked = claims or painting.value.waits
    claimed = stages.run("art", claim, regions, claims) if asked else stages.run("art", as_painted, painting)
    steps = tuple(m for m in art.mends if m.on and not isinstance(m, Bridge))
    done = stages.run("art", mended, part(claimed, "films", lambda c: c.by_film), steps, size[0])
    redrawn = any(m.on for m in art.mends) or any(pin.becomes == "middle" for pin in art.pins)
    finished = stages.run("art", _finished, done, origin.curves, origin.silhouette, art.simplify_mm, redrawn)
    matrix, lay = art.place.matrix, art.place.laid
    sized = stages.run("art", _sized, finished, claimed, art.place.sized).value
    # All but a silhouette, which lies under the rest, overlap nowhere.
    apart = None if origin.silhouette else key_of("apart", finished.key, matrix)
    shared = origin.shared and not (claims or art.mends or art.simplify_mm > 0)
    pieces = [
        ArtPiece(
            film, laid(shape, lay, stages), planar=apart, shared=shared, mapped=True, zones=_laid_zones(zones, lay, stages)
        )
        for film, shape, zones in sized.by_film
    ]
    if art.as_film is not None or art.opening:
        pieces = _as_one(art, [p.shape for p in pieces], stages)
    if not sized.holes.value.is_empty:
        pieces.append(ArtPiece(None, laid(sized.holes, lay, stages)))
    gone = [p.shape for p in painting.value.painted if p.film is None and not p.behind and not p.shape.is_empty]
    plain = art.simplify_mm <= 0 and not redrawn
    curves = origin.curves if plain else stages.run("art", _all_curves, origin.curves, finished)
    page = box_under((0.0, 0.0, *size), matrix)
    idle = (*idle_bridges.value, *done.value.idle)
    waiting = stages.run("art", _moved_waiting, part(claimed, "waiting", lambda c: c.waiting), matrix)
    return ArtPieces(
        art.id,
        tuple(pieces),
        laid_by(_moved_curves, _sized_curves(curves, art.place.sized, stages), lay, stages),
        box_around([p.shape.value.bounds for p in pieces]) or page,
        origin.facts.value,
        RegionFacts(regions, claimed.value.held, waiting.value, finished.value.saving, size[0], claimed.value.lost),
        page,
        laid(stages.run("art", placed, _put_together(gone), art.place.sized), lay, stages) if gone else None,
        size[0],
        idle,
    )


def _as_one(art: RegionArt, shapes: Sequence[Keyed[MultiPolygon]], stages: Stages) -> list[ArtPiece]:
    """All of an art as one piece: of a film, or an opening."""
    if not shapes:
        return []
    whole = run_laid(stages, "art", one_shape, tuple(shapes))
    if art.opening:
        return [ArtPiece(None, whole, opening=True)]
    return [ArtPiece(art.as_film, whole, mapped=True)]


def _put_together(shapes: Sequence[MultiPolygon]) -> MultiPolygon:
    return MultiPolygon([p for s in shapes for p in s.geoms])


def _finished(
    done: Mended, curves: tuple[Curve, ...], silhouette: str | None, simplify_mm: float, redrawn: bool
) -> Finished:
    """Films as they are cut; with `redrawn`, edges that mends have made are drawn once for both sides."""
    shapes = _with_silhouette(done.by_film, silhouette)
    if simplify_mm <= 0 and not redrawn:
        return Finished(shapes, done.pushed)
    index = CurveIndex(curves)
    # The silhouette lies under the rest: its own edges are drawn anew by themselves.
    under = {k: v for k, v in shapes.items() if k == silhouette}
    upper = {k: v for k, v in shapes.items() if k != silhouette}
    if simplify_mm <= 0:
        once = [drawn_once(own, index) for own in (upper, under)]
        by_film = {k: v for one in once for k, v in one.shapes.items()}
        return Finished({k: by_film[k] for k in shapes}, done.pushed, tuple(c for one in once for c in one.curves))
    new = [simplify(own, simplify_mm, index) for own in (upper, under)]
    drawn = tuple(c for one in new for c in one.curves)
    simpler = {k: v for one in new for k, v in one.shapes.items()}
    deviation = max(one.deviation_mm for one in new)
    saving = _saving(shapes, index, simpler, CurveIndex((*curves, *drawn)), deviation)
    return Finished({k: simpler[k] for k in shapes}, done.pushed, drawn, saving)


def _all_curves(curves: tuple[Curve, ...], finished: Finished) -> tuple[Curve, ...]:
    return (*curves, *finished.curves)


def _moved_curves(curves: tuple[Curve, ...], matrix: Matrix) -> tuple[Curve, ...]:
    return tuple(transform_curve(c, matrix) for c in curves)


def _sized_curves(curves: Keyed[tuple[Curve, ...]], size: Matrix, stages: Stages) -> Keyed[tuple[Curve, ...]]:
    return curves if size == IDENTITY else stages.run("art", _moved_curves, curves, size)


def _sized(finished: Finished, claimed: Claimed, size: Matrix) -> Sized:
    solid, open_ = constant(placed(claimed.solid, size)), constant(placed(claimed.open, size))
    by_film = []
    for film, own in finished.by_film.items():
        shape = placed(own, size)
        if not shape.is_empty:
            zones = Zones(solid, open_, constant(placed(finished.pushed.get(film, NOTHING), size)))
            # Shapes are told apart by what they are, so that a claim leaves all films alone that it does not change.
            by_film.append((film, constant(shape), zones))
    return Sized(tuple(by_film), constant(placed(claimed.holes, size)))


def _laid_zones(zones: Zones, lay: Matrix, stages: Stages) -> Zones:
    parts = (zones.solid, zones.open, zones.pushed, zones.kept_off)
    return Zones(*(one if one.value.is_empty else laid(one, lay, stages) for one in parts))


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


def _moved_waiting(waiting: Sequence[Unclaimed], matrix: Matrix) -> tuple[Unclaimed, ...]:
    points = transform_points(np.array([(w.x_mm, w.y_mm) for w in waiting], float).reshape(-1, 2), matrix).tolist()
    scale = abs(matrix[0] * matrix[3] - matrix[1] * matrix[2])
    return tuple(Unclaimed(w.region, x, y, w.area_mm2 * scale) for (x, y), w in zip(points, waiting, strict=True))
