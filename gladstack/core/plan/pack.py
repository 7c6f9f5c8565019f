"""Laying items on film that may hold others already, each as near to the film's beginning as it goes.

Film is a grid of cells. What lies there takes every cell that it touches; an item asks for every cell within the spacing
of it, so whatever the cells say is free is free indeed. Holes of parts are free cells like any others, and so small items
come to lie in them. The largest item goes first (bottom-left fill; Burke et al. 2006).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry.base import BaseGeometry

from gladstack.core.base.compiled import jit
from gladstack.core.geometry.curves import transform_points
from gladstack.core.plan.laying import Item, Room, Spot, moved

Cells = npt.NDArray[np.uint8]
IndexArray = npt.NDArray[np.int64]
FloatArray = npt.NDArray[np.float64]
Rings = list[FloatArray]
"""The outline of a polygon, and those of its holes."""

_MOST_CELLS = 160_000
_FINEST_MM = 0.5
_REACH = 0.7072
"""Half a cell's diagonal: a cell is touched by a shape only if its middle lies within this many cells of it."""
_SHIFT = 6
_ROUNDED = 1 / (1 << _SHIFT)
"""What is drawn is rounded to this share of a cell."""


@dataclass(frozen=True)
class Filled:
    """Where items lie, by their place in the list; None where there is no room for one."""

    spots: tuple[Spot | None, ...]
    length_mm: float


def fill(
    items: Sequence[Item],
    room: Room,
    spacing_mm: float,
    taken: Sequence[BaseGeometry] = (),
    cell_mm: float | None = None,
    forms: Forms | None = None,
) -> Filled:
    """Lays items into the room beside what is `taken` already (given where it lies).

    No two come nearer than the spacing, and nothing out of the room. The same items always lie the same way; `forms` keeps
    what is worked out of them for another room.
    """
    h = cell_mm or _cell_of(items, room, spacing_mm)
    pad = math.ceil((spacing_mm / h) + 2)
    grid = np.zeros((math.floor(room.length_mm / h) + 2 * pad, math.floor(room.width_mm / h) + 2 * pad), np.uint8)
    for shape in taken:
        _draw(grid, shape, _REACH * h, h, pad)
    order = sorted(range(len(items)), key=lambda k: -_size(items[k]))
    forms = forms or Forms(spacing_mm)
    begin: dict[tuple[int, float], int] = {}
    spots: list[Spot | None] = [None] * len(items)
    boxes: list[tuple[int, int, int]] = []
    reach = 0.0
    for k in order:
        best: tuple[int, int, int, float] | None = None
        for turn in items[k].turns:
            form = forms.of(items[k], turn, h)
            # A copy fits nowhere that its like did not fit.
            known = (items[k].form, turn)
            first = begin.get(known, 0) if items[k].form >= 0 else 0
            if form.is_box:
                # Nor does a box where a smaller one did not.
                first = max([first, *(x for a, c, x in boxes if a <= form.along and c <= form.across)])
            x, y = _first_fit(grid, form.cells, form.along, form.across, first, pad)
            begin[known] = x if x >= 0 else grid.shape[0]
            if form.is_box:
                boxes = [b for b in boxes if not (b[0] >= form.along and b[1] >= form.across and b[2] <= begin[known])]
                boxes.append((form.along, form.across, begin[known]))
            if x >= 0 and (best is None or (x + form.along, y) < (best[0], best[2])):
                best = x + form.along, x, y, turn
        if best is None:
            continue
        _, x, y, turn = best
        form = forms.of(items[k], turn, h)
        spot = spots[k] = Spot(turn, x * h - form.left, y * h - form.top)
        if form.is_box:
            grid[_box_cells((x * h, y * h), form.size, _REACH * h, h, pad)] = 1
        else:
            _draw(grid, moved(items[k].shape, spot.matrix), _REACH * h, h, pad)
        reach = max(reach, (x + form.along) * h)
    return Filled(tuple(spots), reach)


def free_spot(item: Item, room: Room, spacing_mm: float, taken: Sequence[BaseGeometry], near: Spot) -> Spot | None:
    """The spot closest to `near`, turned as there, at which an item lies in the room and clear of what is taken."""
    h = max(_FINEST_MM, math.sqrt(room.length_mm * room.width_mm / _MOST_CELLS))
    pad = math.ceil((spacing_mm / h) + 2)
    grid = np.zeros((math.floor(room.length_mm / h) + 2 * pad, math.floor(room.width_mm / h) + 2 * pad), np.uint8)
    for shape in taken:
        _draw(grid, shape, _REACH * h, h, pad)
    form = Forms(spacing_mm).of(item, near.turn_deg, h)
    x, y = _nearest_fit(
        grid, form.cells, form.along, form.across, (near.x_mm + form.left) / h, (near.y_mm + form.top) / h, pad
    )
    return None if x < 0 else Spot(near.turn_deg, x * h - form.left, y * h - form.top)


def _cell_of(items: Sequence[Item], room: Room, spacing_mm: float) -> float:
    """Cells as fine as a first answer has time for."""
    area = sum((i.shape.area + i.shape.length * spacing_mm / 2) for i in items)
    length = min(room.length_mm, 2.5 * area / max(room.width_mm, 1.0) + 100.0)
    return max(_FINEST_MM, math.sqrt(length * room.width_mm / _MOST_CELLS))


def _size(item: Item) -> float:
    left, top, right, bottom = item.shape.bounds
    return float((right - left) * (bottom - top))


@dataclass(frozen=True)
class _Form:
    """An item turned one way: the cells it asks for, from its corner, how many it takes itself, and where its corner is."""

    cells: IndexArray
    along: int
    across: int
    left: float
    top: float
    size: tuple[float, float]
    is_box: bool


class Forms:
    """The forms of items for one spacing. Those of a numbered form are made once, as long as the cells stay as large."""

    def __init__(self, spacing_mm: float) -> None:
        self._spacing = spacing_mm
        self._h = 0.0
        self._made: dict[tuple[int, float], _Form] = {}
        self._asked: dict[int, list[Rings]] = {}

    def of(self, item: Item, turn: float, h: float) -> _Form:
        """The form of an item turned, on cells of `h` mm."""
        if h != self._h:
            self._h = h
            self._made.clear()
            self._asked.clear()
        if item.form < 0:
            return self._form(item, turn, h)
        key = item.form, turn
        if key not in self._made:
            self._made[key] = self._form(item, turn, h)
        return self._made[key]

    def _asks(self, item: Item, h: float) -> list[Rings]:
        if item.form < 0 or item.form not in self._asked:
            self._asked[item.form] = _grown(item.shape, self._spacing + _REACH * h)
        return self._asked[item.form]

    def _form(self, item: Item, turn: float, h: float) -> _Form:
        matrix = Spot(turn, 0.0, 0.0).matrix
        points = transform_points(np.asarray(shapely.get_coordinates(item.shape)), matrix)
        (left, top), (right, bottom) = points.min(axis=0).tolist(), points.max(axis=0).tolist()
        size = (right - left, bottom - top)
        along, across = math.ceil(size[0] / h - 1e-9), math.ceil(size[1] / h - 1e-9)
        is_box = item.shape.area >= (1 - 1e-9) * size[0] * size[1]
        if is_box:
            x, y = _box_cells((0.0, 0.0), size, self._spacing + _REACH * h, h, 0)
            return _Form(_cells_between(x.start, x.stop, y.start, y.stop), along, across, left, top, size, is_box)
        margin = math.ceil(self._spacing / h) + 2
        grid = np.zeros((along + 2 * margin, across + 2 * margin), np.uint8)
        for rings in self._asks(item, h):
            _take(grid, [transform_points(r, matrix) - (left, top) for r in rings], h, margin)
        return _Form(_far_first(np.argwhere(grid) - margin), along, across, left, top, size, is_box)


def _far_first(cells: IndexArray) -> IndexArray:
    """Cells far from the middle come first: they meet others first."""
    far = np.abs(cells - cells.mean(axis=0)).sum(axis=1)
    return np.ascontiguousarray(cells[np.argsort(-far, kind="stable")])


@lru_cache(128)
def _cells_between(x0: int, x1: int, y0: int, y1: int) -> IndexArray:
    """All cells of a rectangle: hundreds of boxes for names come to the same few."""
    return _far_first(np.argwhere(np.ones((x1 - x0, y1 - y0), np.bool_)) + np.array([x0, y0]))


def _box_cells(
    corner: tuple[float, float], size: tuple[float, float], grown_mm: float, h: float, pad: int
) -> tuple[slice, slice]:
    """The cells whose middle lies in a box grown by so much on each side, its corners left square."""
    low = [math.ceil((c - grown_mm) / h - 0.5 - _ROUNDED) + pad for c in corner]
    high = [math.floor((c + s + grown_mm) / h - 0.5 + _ROUNDED) + pad + 1 for c, s in zip(corner, size, strict=True)]
    return slice(low[0], high[0]), slice(low[1], high[1])


def _draw(grid: Cells, shape: BaseGeometry, grown_mm: float, h: float, pad: int) -> None:
    """Takes the cells whose middle lies in a shape grown by so much."""
    for rings in _grown(shape, grown_mm):
        _take(grid, rings, h, pad)


def _grown(shape: BaseGeometry, by_mm: float) -> list[Rings]:
    """The rings of each polygon of a shape grown by so much."""
    polygons = shapely.get_parts(shape.buffer(by_mm, quad_segs=4))
    return [[np.asarray(r.coords) for r in (p.exterior, *p.interiors)] for p in polygons]


def _take(grid: Cells, rings: Rings, h: float, pad: int) -> None:
    """Takes the cells whose middle lies in a polygon."""
    # OpenCV's pixels have their middles at whole numbers, and y first.
    points = [np.round(((r / h + pad - 0.5) * (1 << _SHIFT))[:, ::-1]).astype(np.int32) for r in rings]
    cv2.fillPoly(grid, points, 1, cv2.LINE_8, _SHIFT)


@jit
def _first_fit(grid: Cells, cells: IndexArray, along: int, across: int, first: int, pad: int) -> tuple[int, int]:
    for x in range(first, grid.shape[0] - 2 * pad - along + 1):
        for y in range(grid.shape[1] - 2 * pad - across + 1):
            if _fits(grid, cells, x + pad, y + pad):
                return x, y
    return -1, -1


@jit
def _nearest_fit(
    grid: Cells, cells: IndexArray, along: int, across: int, near_x: float, near_y: float, pad: int
) -> tuple[int, int]:
    best, at_x, at_y = np.inf, -1, -1
    for x in range(grid.shape[0] - 2 * pad - along + 1):
        for y in range(grid.shape[1] - 2 * pad - across + 1):
            off = (x - near_x) ** 2 + (y - near_y) ** 2
            if off < best and _fits(grid, cells, x + pad, y + pad):
                best, at_x, at_y = off, x, y
    return at_x, at_y


@jit
def _fits(grid: Cells, cells: IndexArray, x: int, y: int) -> bool:
    for k in range(cells.shape[0]):
        i, j = x + cells[k, 0], y + cells[k, 1]
        if 0 <= i < grid.shape[0] and 0 <= j < grid.shape[1] and grid[i, j]:
            return False
    return True
