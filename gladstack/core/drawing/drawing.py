"""A foreign vector file as read: painted shapes in millimetres, and what the maker should know about it."""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Literal

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base.errors import VectorError
from gladstack.core.base.findings import Finding
from gladstack.core.geometry import overlay
from gladstack.core.geometry.crossings import count_crossings
from gladstack.core.geometry.curves import Curve
from gladstack.core.geometry.rings import FillRule, as_multi, fill, nest_rings, polygons_of
from gladstack.core.geometry.shapes import clean, cut_away

FloatArray = npt.NDArray[np.float64]
IndexArray = npt.NDArray[np.int64]

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
    """A vector file: its size in mm as it tells it, what it paints, and what the maker should know.

    `told` says whether the file itself gives a real length; else the size is a reading of bare pixels. `pictures` counts
    embedded pictures, the first of which is `picture`; `open_paths` counts paths that do not close.
    """

    width_mm: float
    height_mm: float
    told: bool
    items: tuple[Painted, ...]
    findings: tuple[Finding, ...] = ()
    pictures: int = 0
    picture: bytes | None = None
    open_paths: int = 0


_LEFT_OUT = ("open", "numbers", "picture", "text", "outside", "veil", "overhang")
"""What a reader had to leave out is worth a look before cutting."""


def findings_of(told: Mapping[str, str]) -> tuple[Finding, ...]:
    """What a reader has to tell, by code."""
    return tuple(Finding(code, text, "mind" if code in _LEFT_OUT else "note") for code, text in told.items())


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
    "colours": (300, "colours", "Give it fewer colours, or bring it in as a picture."),
}
MAX_COORDINATE_MM = 10_000.0
MM_PER_PX = 25.4 / 96
"""A CSS pixel."""
_SAMPLES = 400
_FEW_OVER = 8
_FEW_POINTS = 400
"""A lone ring of so many points is soonest checked by itself."""


def require_near(points: FloatArray) -> None:
    """Raises VectorError if any of `points` (..., 2), in mm, is no number or farther than 10 m from the origin."""
    if points.size and not bool(np.abs(points).max() <= MAX_COORDINATE_MM):
        raise VectorError("This drawing reaches more than 10 m from its origin.", "Save it at its real size.")


def filled(curves: Sequence[Curve], rule: FillRule, budget: Budget | None = None) -> MultiPolygon:
    """The area that closed curves bound. Raises VectorError if they cross each other beyond the budget."""
    rings = [c.points for c in curves]
    if len(rings) == 1 and len(rings[0]) <= _FEW_POINTS and (lone := Polygon(rings[0])).is_valid:
        return MultiPolygon([lone])
    if (nesting := nest_rings(rings, rule)) is not None:
        return MultiPolygon(polygons_of(curves, nesting))
    crossings = count_crossings(rings, LIMITS["crossings"][0])
    (budget or Budget()).take("crossings", crossings)
    return as_multi(fill(curves, rule))


def visible(items: Sequence[Painted], budget: Budget | None = None) -> dict[str, MultiPolygon]:
    """For each colour, from the first painted on, the area where it is seen when all is painted in order.

    Neighbours in the order that have one colour count as one; each is cut by what is painted over it in other colours.
    Raises VectorError if too many lie on one another.
    """
    runs = [(colour, _together(own)) for colour, own in _by_run(items)]
    if len(runs) < 2:
        return dict(runs)
    pieces = [(k, p) for k, (_, shape) in enumerate(runs) for p in shape.geoms]
    shapes = np.array([p for _, p in pieces], dtype=object)
    rank = np.array([k for k, _ in pieces], np.int64)
    names = list(dict.fromkeys(item.colour for item in items))
    colour = np.array([names.index(runs[k][0]) for k in rank.tolist()], np.int64)
    tree = shapely.STRtree(shapes)
    (budget or Budget()).take("overlaps", _overlaps(shapes, tree))
    lower, upper = tree.query(shapes, predicate="intersects")
    over = (rank[upper] > rank[lower]) & (colour[upper] != colour[lower])
    lower, upper = lower[over], upper[over]
    seen: dict[str, list[Polygon]] = {name: [] for name in names}
    for k, kept in enumerate(_uncovered(shapes, lower, upper)):
        seen[names[colour[k]]] += list(kept.geoms)
    return {name: as_multi(parts) for name, parts in seen.items()}


def _uncovered(shapes: npt.NDArray[Any], lower: IndexArray, upper: IndexArray) -> list[MultiPolygon]:
    """Each shape without those over it, told in pairs sorted by the lower one.

    A shape with few over it loses them one by one, all shapes at once; one with many loses their union.
    """
    begin = np.searchsorted(lower, np.arange(len(shapes) + 1))
    count = np.diff(begin)
    left = shapes.copy()
    few = count <= _FEW_OVER
    for turn in range(int(count[few].max(initial=0))):
        own = np.flatnonzero(few & (count > turn))
        left[own] = overlay.differences(left[own], shapes[upper[begin[own] + turn]])
    for k in np.flatnonzero(~few):
        left[k] = cut_away(MultiPolygon([shapes[k]]), list(shapes[upper[begin[k] : begin[k + 1]]]))
    return [clean(one) if n else MultiPolygon([one]) for one, n in zip(left, count, strict=True)]


def _together(items: Sequence[Painted]) -> MultiPolygon:
    return items[0].shape if len(items) == 1 else as_multi([p for item in items for p in item.shape.geoms])


def _by_run(items: Sequence[Painted]) -> Iterator[tuple[str, list[Painted]]]:
    for colour, own in itertools.groupby(items, key=lambda item: item.colour):
        yield colour, list(own)


def _overlaps(shapes: npt.NDArray[Any], tree: shapely.STRtree) -> int:
    """About how many pairs of shapes have boxes that meet, told from a sample."""
    if not len(shapes):
        return 0
    chosen = np.unique(np.linspace(0, len(shapes) - 1, min(_SAMPLES, len(shapes))).astype(np.int64))
    return round(len(tree.query(shapes[chosen])[0]) * len(shapes) / len(chosen) / 2)
