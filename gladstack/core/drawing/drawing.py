"""A foreign vector file as read: painted shapes in millimetres, and what the maker should know about it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

import numpy as np
import numpy.typing as npt
from shapely import MultiPolygon, Polygon

from gladstack.core.base.errors import VectorError
from gladstack.core.base.findings import Remark
from gladstack.core.drawing.layers import NO_LAYERS, Layering
from gladstack.core.geometry.crossings import count_crossings
from gladstack.core.geometry.curves import Curve
from gladstack.core.geometry.rings import FillRule, as_multi, fill, nest_rings, polygons_of

FloatArray = npt.NDArray[np.float64]
IndexArray = npt.NDArray[np.int64]

MM_PER_PX = 25.4 / 96
"""A CSS pixel."""
OpenPaths = Literal["as-told", "close", "expand"]


@dataclass(frozen=True)
class OpenEnds:
    """What becomes of paths that do not close: as the file paints them, closed to areas, or lines of `line_mm`.

    In files that list lines by themselves, ends no farther apart than `gap_mm` are joined first.
    """

    how: OpenPaths = "as-told"
    line_mm: float = 1.0
    gap_mm: float = 0.05


AS_TOLD = OpenEnds()


@dataclass(frozen=True)
class Painted:
    """One painted shape, bottom first in its drawing: its colour, its area in mm, the curves of its edge, how much of it
    shows over what lies under it (0 to 1), and the names of the groups round it, the outermost first.
    """

    colour: str
    shape: MultiPolygon
    curves: tuple[Curve, ...]
    seen: float = 1.0
    groups: tuple[str, ...] = ()


@dataclass(frozen=True)
class Drawing:
    """A vector file: its size in mm as it tells it, what it paints, and what the maker should know.

    `told` says whether the file itself gives a real length; else the size is a reading of bare pixels. `pictures` counts
    embedded pictures, the first of which is `picture`; `open_paths` counts paths that do not close, `pages` pages. A `fixed`
    size is told in real lengths and cannot be read otherwise. A bare unit is taken for `bare_mm`. `layering` tells its
    layers, of its items as they are or would be if each layer had one colour.
    """

    width_mm: float
    height_mm: float
    told: bool
    items: tuple[Painted, ...]
    remarks: tuple[Remark, ...] = ()
    pictures: int = 0
    picture: bytes | None = None
    open_paths: int = 0
    pages: int = 1
    fixed: bool = False
    bare_mm: float = MM_PER_PX
    layering: Layering = NO_LAYERS


def remarks_of(told: Mapping[str, str]) -> tuple[Remark, ...]:
    """What a reader has to say, by code."""
    return tuple(Remark(code, text) for code, text in told.items())


@dataclass
class Budget:
    """What a file may ask for, told with its figure before any geometry is worked out."""

    taken: dict[str, int] = field(default_factory=dict)

    def take(self, what: str, count: int) -> None:
        """Counts what is asked for. Raises VectorError beyond the limit."""
        total = self.taken[what] = self.taken.get(what, 0) + count
        limit, noun, remedy = LIMITS[what]
        if total > limit:
            raise VectorError(f"This file holds more than {limit:,} {noun}, too many to work on.", remedy)


_LESS = "Save only what is to be cut, or simplify it first."
LIMITS = {
    "shapes": (10_000, "painted shapes", _LESS),
    "points": (1_000_000, "points", _LESS),
    "subpaths": (20_000, "separate outlines", _LESS),
    "dashes": (10_000, "dashes", "Make the dashes longer, or draw the line whole."),
    "crossings": (60_000, "places where its outlines cross each other", _LESS),
    "overlaps": (30_000, "pairs of shapes, about, that lie on one another", _LESS),
    "colours": (1_000, "colours", "Give it fewer colours, or bring it in as a picture."),
}
MAX_COORDINATE_MM = 10_000.0
_LEAST_RING = 3
"""A closed ring of so many points goes to and fro, or nowhere."""
_FEW_POINTS = 400
"""A lone ring of so many points is soonest checked by itself."""


def require_near(points: FloatArray) -> None:
    """Raises VectorError if any of `points` (..., 2), in mm, is no number or farther than 10 m from the origin."""
    if points.size and not bool(np.abs(points).max() <= MAX_COORDINATE_MM):
        raise VectorError("This drawing reaches more than 10 m from its origin.", "Save it at its real size.")


def filled(curves: Sequence[Curve], rule: FillRule, budget: Budget | None = None) -> MultiPolygon:
    """The area that closed curves bound. Raises VectorError if they cross each other beyond the budget."""
    curves = [c for c in curves if len(c.points) > _LEAST_RING]
    rings = [c.points for c in curves]
    if len(rings) == 1 and len(rings[0]) <= _FEW_POINTS and (lone := Polygon(rings[0])).is_valid:
        return MultiPolygon([lone])
    if (nesting := nest_rings(rings, rule)) is not None:
        return MultiPolygon(polygons_of(curves, nesting))
    crossings = count_crossings(rings, LIMITS["crossings"][0])
    (budget or Budget()).take("crossings", crossings)
    return as_multi(fill(curves, rule))
