"""What steps of mending do to films that do not overlap: shapes by film in, shapes by film out."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base.errors import MendError
from gladstack.core.base.plane import Point
from gladstack.core.geometry import mending, overlay
from gladstack.core.geometry.partition import longest_border, share_out
from gladstack.core.geometry.shapes import clean, cut_away

Shapes = dict[str, MultiPolygon]


def cut_out(shapes: Shapes, films: Sequence[str], zone: MultiPolygon) -> Shapes:
    """All that some films have inside an area, cut away."""
    require(any(shapely.intersects(shapes[f], zone) for f in films), "There is nothing of it inside what was drawn.")
    return {k: cut_away(v, [zone]) if k in films else v for k, v in shapes.items()}


def put_on(shapes: Shapes, film: str, drawn: MultiPolygon) -> Shapes:
    """An area added to a film, which may be new, and taken from all others."""
    rest = {k: v if k == film else cut_away(v, [drawn]) for k, v in shapes.items()}
    return {**rest, film: clean(overlay.union(shapes.get(film, MultiPolygon()), drawn))}


def taken_off(shapes: Shapes, film: str, drawn: MultiPolygon) -> Shapes:
    """An area taken from a film."""
    require(shapely.intersects(shapes[film], drawn), "The brush does not meet the film.")
    return {**shapes, film: cut_away(shapes[film], [drawn])}


def taken_over(
    shapes: Shapes, film: str | None, into: str | None, around: Sequence[Point], thinner_mm: float | None
) -> Shapes:
    """What a film has inside a lasso, or wherever it is thin, given to another film or shared among its neighbours.

    Without `film` it is what no film has. What no neighbour can take stays.
    """
    zone = mending.enclosed_by(around) if around else None
    if film is not None:
        taken = mending.thin_parts(shapes[film], thinner_mm) if thinner_mm else shapes[film]
    elif thinner_mm:
        taken = mending.gaps_between(list(shapes.values()), thinner_mm)
    else:
        require(zone is not None, "A gap of any width has to be gone round.")
        taken = cut_away(zone or MultiPolygon(), list(shapes.values()))
    if zone is not None:
        taken = clean(overlay.intersection(taken, zone))
    require(not taken.is_empty, "There is nothing of it here to take over.")
    out = {k: clean(overlay.difference(v, taken)) if k == film else v for k, v in shapes.items()}
    if into is not None:
        require(into != film, "A film cannot take itself over.")
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
        require(len(kept) < len(taken.geoms), "No other film lies next to it to take it over.")
        out[film] = clean(overlay.union(out[film], MultiPolygon(kept)))
    return out


def closed_over(rest: Mapping[str, MultiPolygon], gone: MultiPolygon) -> Shapes:
    """`rest` after each piece of `gone` went to the film it has the longest border with."""
    out = dict(rest)
    films = list(rest)
    for piece in gone.geoms:
        best = longest_border(piece, [rest[k] for k in films])
        if best is not None:
            out[films[best]] = clean(overlay.union(out[films[best]], piece))
    return out


def require(found: bool, why: str) -> None:
    """Raises MendError unless there is something to do."""
    if not found:
        raise MendError(why, "Switch the step off, or draw it again.")
