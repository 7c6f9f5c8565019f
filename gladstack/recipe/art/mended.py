"""Mends applied: bridges to what an art paints, all other steps to the films its regions were claimed for."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np
import shapely
from shapely import MultiPolygon

from gladstack.core.base.colour import from_hex, nearest_colour
from gladstack.core.base.errors import MendError
from gladstack.core.base.plane import Point
from gladstack.core.films import mends
from gladstack.core.films.mends import Shapes
from gladstack.core.films.regions import Painting
from gladstack.core.geometry import mending, overlay
from gladstack.core.geometry.partition import replaced
from gladstack.core.geometry.shapes import clean, cut_away
from gladstack.recipe.model.mends import Bridge, Brush, CutAway, LetGo, Mend, PushEdge, SmoothEdge, Straighten, TakeOver
from gladstack.recipe.model.pins import ArtPoint


@dataclass(frozen=True)
class Idle:
    """A step that found nothing to do, why, and where it was drawn, in the art's own mm."""

    step: str
    why: str
    at: Point | None


@dataclass(frozen=True)
class Mended:
    """Shapes by film after all steps; where films are pushed out under others; and the steps that found nothing to do."""

    by_film: Shapes
    pushed: Shapes = field(default_factory=dict)
    idle: tuple[Idle, ...] = ()


def bridged(painting: Painting, bridges: Sequence[Bridge]) -> tuple[Painting, tuple[Idle, ...]]:
    """The painting with its bridges, and those that found nothing to join."""
    idle: list[Idle] = []
    for step in bridges:
        if not step.on:
            continue
        start, end = _points((step.start, step.end), painting.size_mm[0])
        try:
            at = _bridged_film(painting, step, start)
            own = painting.painted[at]
            drawn = MultiPolygon([mending.bridge(own.shape, start, end, step.width_mm, follow=step.follow)])
        except MendError as fault:
            idle.append(Idle(step.id, str(fault), start))
            continue
        painted = tuple(
            replace(p, shape=clean(overlay.union(p.shape, drawn)) if k == at else cut_away(p.shape, [drawn]))
            for k, p in enumerate(painting.painted)
        )
        painting = replace(painting, painted=painted)
    return painting, tuple(idle)


def _bridged_film(painting: Painting, step: Bridge, start: Point) -> int:
    """What a bridge is added to: what its film paints, else what lies next to its start."""
    own = [k for k, p in enumerate(painting.painted) if not p.shape.is_empty and step.film in (None, p.film, p.colour)]
    if not own:
        raise MendError("There is no line here to bridge.", "Begin and end the bridge on lines of one film.")
    apart = shapely.distance(np.array([painting.painted[k].shape for k in own], dtype=object), shapely.Point(start))
    return own[int(np.argmin(apart))]


def mended(by_film: Shapes, steps: Sequence[Mend], width_mm: float) -> Mended:
    """All steps but bridges, in their order. A step that finds nothing to do changes nothing and is told of."""
    out = Mended(dict(by_film))
    for step in steps:
        if not step.on or isinstance(step, Bridge):
            continue
        try:
            out = _after(out, step, width_mm)
        except MendError as fault:
            out = replace(out, idle=(*out.idle, Idle(step.id, str(fault), _where(step, width_mm))))
    return out


def _where(step: Mend, width_mm: float) -> Point | None:
    drawn = getattr(step, "around", ()) or getattr(step, "path", ()) or ((step.start,) if hasattr(step, "start") else ())
    return _points(drawn[:1], width_mm)[0] if drawn else None


def _after(now: Mended, step: Mend, width_mm: float) -> Mended:
    shapes = now.by_film
    match step:
        case CutAway():
            films = [_film(shapes, step.film)] if step.film else list(shapes)
            return replace(now, by_film=mends.cut_out(shapes, films, _points(step.around, width_mm)))
        case Brush(mode="take"):
            film = _film(shapes, step.film)
            return replace(now, by_film=mends.brushed_off(shapes, film, _points(step.path, width_mm), step.width_mm))
        case Brush():
            film = _found(shapes, step.film) or step.film
            return replace(now, by_film=mends.brushed_on(shapes, film, _points(step.path, width_mm), step.width_mm))
        case SmoothEdge() | Straighten():
            film = _film(shapes, step.film)
            start, end = _points((step.start, step.end), width_mm)
            if isinstance(step, Straighten):
                new = mending.straightened(shapes[film], start, end)
            else:
                new = mending.smoothed(shapes[film], start, end, step.reach_mm)
            return replace(now, by_film=replaced(shapes, film, new))
        case PushEdge():
            film = _film(shapes, step.film)
            start, end = _points((step.start, step.end), width_mm)
            zone = mending.pushed_zone(shapes[film], start, end, step.mm)
            old = now.pushed.get(film, MultiPolygon())
            return replace(now, pushed={**now.pushed, film: clean(overlay.union(old, zone))})
        case TakeOver():
            film_or_gap = _film(shapes, step.film) if step.film is not None else None
            into = _film(shapes, step.into) if step.into is not None else None
            around = _points(step.around, width_mm)
            return replace(now, by_film=mends.taken_over(shapes, film_or_gap, into, around, step.thinner_mm))
        case LetGo():
            film = _film(shapes, step.film)
            rest = {k: v for k, v in shapes.items() if k != film}
            return replace(now, by_film=mends.closed_over(rest, shapes[film]) if step.close else rest)
        case Bridge():
            return now
    raise AssertionError(step)


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


def _points(points: Sequence[ArtPoint], width_mm: float) -> list[Point]:
    return [(p.x * width_mm, p.y * width_mm) for p in points]
