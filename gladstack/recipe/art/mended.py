"""Mends applied: bridges to what an art paints, all other steps to the films its regions were claimed for."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base.colour import from_hex
from gladstack.core.base.errors import MendError
from gladstack.core.geometry import mending, overlay
from gladstack.core.geometry.partition import longest_border, replaced, share_out
from gladstack.core.geometry.shapes import clean, cut_away
from gladstack.recipe.art.regions import Painting
from gladstack.recipe.art.separated import nearest_colour
from gladstack.recipe.model.mends import (
    Bridge,
    Brush,
    CutAway,
    LetGo,
    Mend,
    PushEdge,
    SmoothEdge,
    Straighten,
    TakeOver,
)
from gladstack.recipe.model.pins import ArtPoint
from gladstack.stages.memo import key_of

Shapes = dict[str, MultiPolygon]


@dataclass(frozen=True)
class Mended:
    """Shapes by film after all steps; where films are pushed out under others; and the steps that found nothing to do."""

    by_film: Shapes
    pushed: Shapes = field(default_factory=dict)
    idle: tuple[tuple[str, str], ...] = ()


def bridged(painting: Painting, mends: Sequence[Mend]) -> tuple[Painting, tuple[tuple[str, str], ...]]:
    """The painting with its bridges, and the bridges (id, sentence) that found nothing to join."""
    idle: list[tuple[str, str]] = []
    bridges = [m for m in mends if isinstance(m, Bridge) and m.on]
    for step in bridges:
        start, end = _spots((step.start, step.end), painting.size_mm[0])
        try:
            at = _bridged_film(painting, step, start)
            own = painting.painted[at]
            drawn = MultiPolygon([mending.bridge(own.shape, start, end, step.width_mm, follow=step.follow)])
        except MendError as fault:
            idle.append((step.id, str(fault)))
            continue
        painted = tuple(
            replace(p, shape=clean(overlay.union(p.shape, drawn)) if k == at else cut_away(p.shape, [drawn]))
            for k, p in enumerate(painting.painted)
        )
        painting = replace(painting, painted=painted)
    return (replace(painting, key=key_of(painting.key, bridges)) if bridges else painting), tuple(idle)


def _bridged_film(painting: Painting, step: Bridge, start: mending.Spot) -> int:
    """What a bridge is added to: what its film paints, else what lies next to its start."""
    own = [k for k, p in enumerate(painting.painted) if not p.shape.is_empty and step.film in (None, p.film, p.colour)]
    if not own:
        raise MendError("There is no line here to bridge.", "Begin and end the bridge on lines of one film.")
    apart = shapely.distance(np.array([painting.painted[k].shape for k in own], dtype=object), shapely.Point(start))
    return own[int(np.argmin(apart))]


def mended(by_film: Shapes, mends: Sequence[Mend], width_mm: float) -> Mended:
    """All steps but bridges, in their order. A step that finds nothing to do changes nothing and is told of."""
    out = Mended(dict(by_film))
    for step in mends:
        if not step.on or isinstance(step, Bridge):
            continue
        try:
            out = _after(out, step, width_mm)
        except MendError as fault:
            out = replace(out, idle=(*out.idle, (step.id, str(fault))))
    return out


def _after(now: Mended, step: Mend, width_mm: float) -> Mended:
    shapes = now.by_film
    match step:
        case CutAway():
            zone = mending.enclosed_by(_spots(step.around, width_mm))
            films = [_film(shapes, step.film)] if step.film else list(shapes)
            _require(any(shapely.intersects(shapes[f], zone) for f in films), "There is nothing of it inside the lasso.")
            return replace(now, by_film={k: cut_away(v, [zone]) if k in films else v for k, v in shapes.items()})
        case Brush():
            return replace(now, by_film=_brushed(shapes, step, width_mm))
        case SmoothEdge() | Straighten():
            film = _film(shapes, step.film)
            start, end = _spots((step.start, step.end), width_mm)
            if isinstance(step, Straighten):
                new = mending.straightened(shapes[film], start, end)
            else:
                new = mending.smoothed(shapes[film], start, end, step.reach_mm)
            return replace(now, by_film=replaced(shapes, film, new))
        case PushEdge():
            film = _film(shapes, step.film)
            start, end = _spots((step.start, step.end), width_mm)
            zone = mending.pushed_zone(shapes[film], start, end, step.mm)
            old = now.pushed.get(film, MultiPolygon())
            return replace(now, pushed={**now.pushed, film: clean(overlay.union(old, zone))})
        case TakeOver():
            return replace(now, by_film=_taken_over(shapes, step, width_mm))
        case LetGo():
            film = _film(shapes, step.film)
            rest = {k: v for k, v in shapes.items() if k != film}
            return replace(now, by_film=_closed_over(rest, shapes[film]) if step.close else rest)
        case Bridge():
            return now
    raise AssertionError(step)


def _brushed(shapes: Shapes, step: Brush, width_mm: float) -> Shapes:
    drawn = mending.stroke(_spots(step.path, width_mm), step.width_mm)
    if step.mode == "take":
        film = _film(shapes, step.film)
        _require(shapely.intersects(shapes[film], drawn), "The brush does not meet the film.")
        return {**shapes, film: cut_away(shapes[film], [drawn])}
    found = _found(shapes, step.film)
    film = found if found is not None else step.film
    rest = {k: v if k == film else cut_away(v, [drawn]) for k, v in shapes.items()}
    return {**rest, film: clean(overlay.union(shapes.get(film, MultiPolygon()), drawn))}


def _taken_over(shapes: Shapes, step: TakeOver, width_mm: float) -> Shapes:
    zone = mending.enclosed_by(_spots(step.around, width_mm)) if step.around else None
    film = _film(shapes, step.film) if step.film is not None else None
    if film is not None:
        taken = mending.thin_parts(shapes[film], step.thinner_mm) if step.thinner_mm else shapes[film]
    elif step.thinner_mm:
        taken = mending.gaps_between(list(shapes.values()), step.thinner_mm)
    else:
        _require(zone is not None, "A gap of any width has to be gone round.")
        taken = cut_away(zone or MultiPolygon(), list(shapes.values()))
    if zone is not None:
        taken = clean(overlay.intersection(taken, zone))
    _require(not taken.is_empty, "There is nothing of it here to take over.")
    out = {k: clean(overlay.difference(v, taken)) if k == film else v for k, v in shapes.items()}
    if step.into is not None:
        into = _film(shapes, step.into)
        _require(into != film, "A film cannot take itself over.")
        return {**out, into: clean(overlay.union(out[into], taken))}
    others = [k for k in out if k != film]
    kept: list[Polygon] = []
    for piece in taken.geoms:
        shares = share_out(piece, [out[k] for k in others], leave=False)
        for k, part in zip(others, shares, strict=True):
            if not part.is_empty:
                out[k] = clean(overlay.union(out[k], part))
        if all(part.is_empty for part in shares):
            kept.append(piece)
    if film is not None and kept:
        _require(len(kept) < len(taken.geoms), "No other film lies next to it to take it over.")
        out[film] = clean(overlay.union(out[film], MultiPolygon(kept)))
    return out


def _closed_over(rest: Shapes, gone: MultiPolygon) -> Shapes:
    """`rest` after each piece of `gone` went to the film it has the longest border with."""
    out = dict(rest)
    films = list(rest)
    for piece in gone.geoms:
        best = longest_border(piece, [rest[k] for k in films])
        if best is not None:
            out[films[best]] = clean(overlay.union(out[films[best]], piece))
    return out


def _found(shapes: Shapes, wanted: str) -> str | None:
    """The film that a step is about: the one of just that key, else that of the nearest colour."""
    if wanted in shapes or not wanted.startswith("#"):
        return wanted if wanted in shapes else None
    colours = [k for k in shapes if k.startswith("#")]
    found = nearest_colour(tuple(from_hex(c) for c in colours), wanted) if colours else None
    return colours[found] if found is not None else None


def _film(shapes: Shapes, wanted: str) -> str:
    found = _found(shapes, wanted)
    if found is None:
        raise MendError("The film it is about is no longer in this art.", "Choose another film for the step.")
    return found


def _require(found: bool, why: str) -> None:
    if not found:
        raise MendError(why, "Switch the step off, or draw it anew.")


def _spots(points: Sequence[ArtPoint], width_mm: float) -> list[mending.Spot]:
    return [(p.x * width_mm, p.y * width_mm) for p in points]
