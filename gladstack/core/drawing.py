"""A foreign vector file as read: painted shapes in millimetres, and what the maker should know about it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import shapely
from shapely import MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core import overlay
from gladstack.core.curves import Chain, Curve
from gladstack.core.joints import clean
from gladstack.core.rings import FillRule, fill, nest_rings, polygons_of

OpenPaths = Literal["as-told", "close", "expand"]


@dataclass(frozen=True)
class OpenEnds:
    """What becomes of paths that do not close: as the file paints them, closed to areas, or lines of `line_mm`."""

    how: OpenPaths = "as-told"
    line_mm: float = 1.0


AS_TOLD = OpenEnds()


@dataclass(frozen=True)
class Painted:
    """One painted shape, bottom first in its drawing: its colour, its area in mm, and the curves of its edge."""

    colour: str
    shape: MultiPolygon
    curves: tuple[Curve, ...]


@dataclass(frozen=True)
class Drawing:
    """A vector file: its size in mm as it tells it, what it paints, and notices (code, sentence).

    `told` says whether the file itself gives a real length; else the size is a reading of bare pixels. `pictures` counts
    embedded pictures, the first of which is `picture`; `open_paths` counts paths that do not close.
    """

    width_mm: float
    height_mm: float
    told: bool
    items: tuple[Painted, ...]
    notices: tuple[tuple[str, str], ...] = ()
    pictures: int = 0
    picture: bytes | None = None
    open_paths: int = 0


def filled(curves: Sequence[Curve], rule: FillRule) -> MultiPolygon:
    """The area that closed curves bound."""
    chains: list[Chain] = [c.chain for c in curves]
    nesting = nest_rings(chains, rule)
    polygons = polygons_of(curves, nesting) if nesting is not None else fill(curves, rule)
    if not all(p.is_valid for p in polygons):
        polygons = fill(curves, rule)
    return clean(overlay.union_all(polygons)) if len(polygons) > 1 else MultiPolygon(polygons)


def visible(items: Sequence[Painted]) -> dict[str, MultiPolygon]:
    """For each colour, from the first painted on, the area where it is seen when all is painted in order."""
    seen: dict[str, list[MultiPolygon]] = {item.colour: [] for item in items}
    above: list[BaseGeometry] = []
    for item in reversed(items):
        hidden = [a for a in above if shapely.intersects(a, item.shape)]
        shape = overlay.difference(item.shape, overlay.union_all(hidden)) if hidden else item.shape
        seen[item.colour].append(clean(shape))
        above.append(item.shape)
    return {colour: clean(overlay.union_all(parts)) for colour, parts in seen.items() if parts}
