"""Mends applied: bridges to what an art paints, all other steps to the films its regions were claimed for.

Of lettering and shapes, what they leave open is mended beside their films.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import assert_never

import numpy as np
import shapely
from shapely import MultiPolygon

from gladstack.core.base.colour import from_hex, nearest_colour
from gladstack.core.base.errors import MendError
from gladstack.core.base.plane import Point
from gladstack.core.films import mends
from gladstack.core.films.mends import Shapes
from gladstack.core.films.regions import Painting
from gladstack.core.geometry import mending, nodes, overlay
from gladstack.core.geometry.curves import Matrix, transform_points
from gladstack.core.geometry.holding import strip
from gladstack.core.geometry.partition import replaced
from gladstack.core.geometry.shapes import clean, cut_away
from gladstack.recipe.model.mends import (
    Bridge,
    Brush,
    CutAway,
    DrawArea,
    DrawEdge,
    LetGo,
    Mend,
    MoveEdge,
    PushEdge,
    PutNode,
    SmoothEdge,
    Straighten,
    TakeOver,
)
from gladstack.recipe.model.pins import ArtPoint

OPENING = ""
"""The key of what is left open, beside those of films: bridges cross it, what is painted or cut away closes it."""
_HOLD_MM = 2.0


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
        start, end = Frame(painting.size_mm[0]).own((step.start, step.end))
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
        # What a bridge closes off can be claimed, even where the source left it unpainted.
        painting = replace(painting, painted=painted, waits=True)
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
    return _run(by_film, [s for s in steps if not isinstance(s, Bridge)], Frame(width_mm))


def mended_in_place(by_film: Shapes, steps: Sequence[Mend], width_mm: float, matrix: Matrix) -> Mended:
    """All steps, bridges too, on shapes that lie on the stack already, of an art that is `width_mm` wide by itself.

    Where steps that find nothing to do were drawn is told in the art's own mm.
    """
    return _run(by_film, steps, Frame(width_mm, matrix))


@dataclass(frozen=True)
class Frame:
    """What points of steps are told in: shares of an art's width; and where its own mm lie on the shapes."""

    width_mm: float
    matrix: Matrix = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)

    @property
    def size(self) -> float:
        """How much larger the shapes are than the art by itself."""
        a, b, c, d, _, _ = self.matrix
        return math.sqrt(abs(a * d - b * c))

    def own(self, points: Sequence[ArtPoint]) -> list[Point]:
        """Points in the art's own mm."""
        return [(p.x * self.width_mm, p.y * self.width_mm) for p in points]

    def at(self, *points: ArtPoint) -> list[Point]:
        """Points where they lie on the shapes."""
        own = np.array(self.own(points), float).reshape(-1, 2)
        return [(x, y) for x, y in transform_points(own, self.matrix).tolist()]


def _run(by_film: Shapes, steps: Sequence[Mend], frame: Frame) -> Mended:
    out = Mended(dict(by_film))
    for step in steps:
        if not step.on:
            continue
        try:
            out = _after(out, step, frame)
        except MendError as fault:
            out = replace(out, idle=(*out.idle, Idle(step.id, str(fault), _where(step, frame))))
    return out


def moved_point(point: Point, matrix: Matrix) -> Point:
    """A point of an art's own mm where it lies on the stack."""
    ((x, y),) = transform_points(np.array([point], float), matrix).tolist()
    return x, y


def _where(step: Mend, frame: Frame) -> Point | None:
    spots = [getattr(step, name) for name in ("start", "at") if hasattr(step, name)]
    drawn = getattr(step, "around", ()) or getattr(step, "path", ()) or spots
    return frame.own(drawn[:1])[0] if drawn else None


def _after(now: Mended, step: Mend, frame: Frame) -> Mended:
    shapes, size = now.by_film, frame.size
    if OPENING in shapes and not isinstance(step, CutAway | Brush | DrawArea | Bridge):
        # Edges and pieces of films are not drawn into what is left open.
        closed = {k: v for k, v in shapes.items() if k != OPENING}
        done = _after(replace(now, by_film=closed), step, frame)
        return replace(done, by_film={**done.by_film, OPENING: shapes[OPENING]})
    match step:
        case CutAway():
            films = [_film(shapes, step.film)] if step.film else list(shapes)
            return replace(now, by_film=mends.cut_out(shapes, films, mending.enclosed_by(frame.at(*step.around))))
        case Brush(mode="take"):
            film = _film(shapes, step.film)
            drawn = mending.stroke(frame.at(*step.path), step.width_mm * size)
            return replace(now, by_film=mends.taken_off(shapes, film, drawn))
        case Brush():
            drawn = mending.stroke(frame.at(*step.path), step.width_mm * size)
            return replace(now, by_film=mends.put_on(shapes, _film_named(shapes, step.film) or step.film, drawn))
        case DrawArea():
            path, handles = frame.at(*step.path), frame.at(*step.handles)
            drawn = nodes.drawn_area(path, handles, closed=step.closed, width_mm=step.width_mm * size)
            if step.film is None:
                return replace(now, by_film=mends.cut_out(shapes, list(shapes), drawn))
            return replace(now, by_film=mends.put_on(shapes, _film_named(shapes, step.film) or step.film, drawn))
        case SmoothEdge() | Straighten() | MoveEdge() | DrawEdge() | PutNode():
            film = _film(shapes, step.film)
            return replace(now, by_film=replaced(shapes, film, _edge_anew(shapes[film], step, frame)))
        case PushEdge():
            film = _film(shapes, step.film)
            start, end = frame.at(step.start, step.end)
            zone = mending.pushed_zone(shapes[film], start, end, step.mm * size)
            old = now.pushed.get(film, MultiPolygon())
            return replace(now, pushed={**now.pushed, film: clean(overlay.union(old, zone))})
        case TakeOver():
            film_or_gap = _film(shapes, step.film) if step.film is not None else None
            into = _film(shapes, step.into) if step.into is not None else None
            around = frame.at(*step.around)
            return replace(
                now, by_film=mends.taken_over(shapes, film_or_gap, into, around, step.thinner_mm and step.thinner_mm * size)
            )
        case LetGo():
            film = _film(shapes, step.film)
            rest = {k: v for k, v in shapes.items() if k != film}
            return replace(now, by_film=mends.closed_over(rest, shapes[film]) if step.close else rest)
        case Bridge():
            start, end = frame.at(step.start, step.end)
            film = _film(shapes, step.film) if step.film else _nearest_film(shapes, start)
            if film == OPENING:
                across = strip(start, end, (step.width_mm or _HOLD_MM) * size)
                mends.require(shapely.intersects(shapes[film], across), "The bridge does not cross the hole.")
                return replace(now, by_film={**shapes, OPENING: cut_away(shapes[OPENING], [across])})
            drawn = mending.bridge(shapes[film], start, end, step.width_mm and step.width_mm * size, follow=step.follow)
            rest = {k: v if k == film else cut_away(v, [MultiPolygon([drawn])]) for k, v in shapes.items()}
            return replace(now, by_film={**rest, film: clean(overlay.union(shapes[film], drawn))})
    assert_never(step)


EdgeStep = SmoothEdge | Straighten | MoveEdge | DrawEdge | PutNode


def _edge_anew(shape: MultiPolygon, step: EdgeStep, frame: Frame) -> MultiPolygon:
    """A film with its edge as a step has it."""
    if isinstance(step, DrawEdge):
        return mending.drawn_edge(shape, frame.at(*step.path))
    if isinstance(step, PutNode):
        before, at, after, to = frame.at(step.before, step.at, step.after, step.to)
        return nodes.node_put(shape, before, at, after, to, step.form)
    start, end = frame.at(step.start, step.end)
    match step:
        case Straighten():
            return mending.straightened(shape, start, end, frame.at(step.through)[0] if step.through else None)
        case SmoothEdge():
            return mending.smoothed(shape, start, end, step.reach_mm * frame.size)
        case MoveEdge():
            return mending.moved_edge(shape, start, end, step.mm * frame.size)
    assert_never(step)


def _nearest_film(shapes: Shapes, spot: Point) -> str:
    held = [k for k, shape in shapes.items() if not shape.is_empty]
    if not held:
        raise MendError("There is no line here to bridge.", "Begin and end the bridge on lines of one film.")
    return min(held, key=lambda k: float(shapes[k].distance(shapely.Point(spot))))


def _film_named(shapes: Shapes, wanted: str) -> str | None:
    """The film that a step is about: the one of just that key, else that of the nearest colour."""
    if wanted in shapes or not wanted.startswith("#"):
        return wanted if wanted in shapes else None
    colours = [k for k in shapes if k.startswith("#")]
    found = nearest_colour(tuple(from_hex(c) for c in colours), wanted) if colours else None
    return colours[found] if found is not None else None


def _film(shapes: Shapes, wanted: str) -> str:
    found = _film_named(shapes, wanted)
    if found is None:
        raise MendError("The film it is about is no longer in this art.", "Choose another film for the step.")
    return found
