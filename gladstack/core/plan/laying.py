"""What is laid on film, where, and in how much room.

On film x runs along it (off the roll) and y across it, in millimetres, from the corner that lies within the margins.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.base.plane import Box
from gladstack.core.geometry.curves import Matrix

FloatArray = npt.NDArray[np.float64]

ANY_TURN: tuple[float, ...] = tuple(float(k) for k in range(0, 360, 15))
"""The turns of film that may lie any way round."""
QUARTERS = (0.0, 90.0, 180.0, 270.0)
HALF_TURNS = (0.0, 180.0)
UNTURNED = (0.0,)


@dataclass(frozen=True)
class Room:
    """How far film reaches within its margins: along it and across it."""

    length_mm: float
    width_mm: float


@dataclass(frozen=True)
class Item:
    """What moves as one: its shape where it would lie unmoved, and the turns in degrees (clockwise) that it may take.

    Items of the same `form` have the same shape, copies of one another.
    """

    shape: MultiPolygon
    turns: tuple[float, ...] = UNTURNED
    form: int = -1


@dataclass(frozen=True)
class Spot:
    """Where an item lies: turned about the origin, then moved."""

    turn_deg: float
    x_mm: float
    y_mm: float

    @property
    def matrix(self) -> Matrix:
        """The rigid motion, as in SVG; quarter turns are exact."""
        c, s = turn_of(self.turn_deg)
        return c, s, -s, c, self.x_mm, self.y_mm


def turn_of(degrees: float) -> tuple[float, float]:
    """Cosine and sine of a turn; quarter turns come out exact."""
    quarters = degrees / 90.0
    if quarters == round(quarters):
        return ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[round(quarters) % 4]
    return math.cos(math.radians(degrees)), math.sin(math.radians(degrees))


def moved(shape: BaseGeometry, matrix: Matrix) -> BaseGeometry:
    """A shape under an affine matrix."""
    a, b, c, d, e, f = matrix

    def move(x: FloatArray, y: FloatArray) -> tuple[FloatArray, FloatArray]:
        return a * x + c * y + e, b * x + d * y + f

    return shapely.transform(shape, move, interleaved=False)


def lies_in(box: Box, room: Room, tolerance_mm: float = 1e-6) -> bool:
    """Whether a box lies within the room."""
    left, top, right, bottom = box
    t = tolerance_mm
    return left >= -t and top >= -t and right <= room.length_mm + t and bottom <= room.width_mm + t


def length_used(shapes: Sequence[BaseGeometry]) -> float:
    """How far along the film shapes reach."""
    return max((float(s.bounds[2]) for s in shapes if not s.is_empty), default=0.0)
