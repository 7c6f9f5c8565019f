"""Laying a layer's cut shape on its own sheet of film: place, mirroring, registration marks, and whether it fits."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from gladstack.core.base.plane import Box
from gladstack.core.geometry.curves import Chain, Matrix, line_chain, transform_chain

MARK_MM = 5.0
MARK_ARM_MM = 1.0
MARK_DISTANCE_MM = 4.0


@dataclass(frozen=True)
class Sheet:
    """A sheet of film: adhesive is cut as seen, heat-transfer mirrored because it is cut from the back."""

    method: Literal["adhesive", "heat-transfer"]
    width_mm: float
    height_mm: float
    margin_mm: float

    @property
    def mirrored(self) -> bool:
        """Whether the cut is flipped left to right."""
        return self.method == "heat-transfer"


@dataclass(frozen=True)
class Placement:
    """Where a cut shape lies on its sheet.

    `matrix` takes design millimetres to sheet millimetres (SVG order). `over_width_mm` and `over_height_mm` are how much
    too large it is for the room between the margins; both 0 if it fits. `fits_turned` tells of a quarter turn.
    """

    matrix: Matrix
    width_mm: float
    height_mm: float
    over_width_mm: float
    over_height_mm: float
    fits_turned: bool

    @property
    def fits(self) -> bool:
        """Whether all of it lies within the margins."""
        return self.over_width_mm == 0 and self.over_height_mm == 0


def place_on_sheet(extent: Box, sheet: Sheet) -> Placement:
    """Puts `extent` (left, top, right, bottom) into the sheet's top-left corner, inside the margin, mirrored if need be."""
    left, top, right, bottom = extent
    width, height = right - left, bottom - top
    room_w, room_h = sheet.width_mm - 2 * sheet.margin_mm, sheet.height_mm - 2 * sheet.margin_mm
    over = (_excess(width, room_w), _excess(height, room_h))
    m = sheet.margin_mm
    if sheet.mirrored:
        matrix = (-1.0, 0.0, 0.0, 1.0, round(m + right, 4), round(m - top, 4))
    else:
        matrix = (1.0, 0.0, 0.0, 1.0, round(m - left, 4), round(m - top, 4))
    turned = not _excess(height, room_w) and not _excess(width, room_h)
    return Placement(matrix, width, height, *over, fits_turned=any(over) and turned)


def _excess(size: float, room: float) -> float:
    return max(0.0, round(size - room, 3))


def registration_marks(frame: Box) -> tuple[Chain, ...]:
    """Three crosses outside `frame`, the same for every layer; the missing fourth corner shows a turned or flipped film."""
    left, top, right, bottom = frame
    d = MARK_DISTANCE_MM + MARK_MM / 2
    return tuple(_cross(x, y) for x, y in ((left - d, top - d), (right + d, top - d), (left - d, bottom + d)))


def with_marks(frame: Box) -> Box:
    """`frame` widened by the room that its registration marks take."""
    d = MARK_DISTANCE_MM + MARK_MM
    return frame[0] - d, frame[1] - d, frame[2] + d, frame[3] + d


def _cross(x: float, y: float) -> Chain:
    a, b = MARK_ARM_MM / 2, MARK_MM / 2
    corners = [(-a, -b), (a, -b), (a, -a), (b, -a), (b, a), (a, a), (a, b), (-a, b), (-a, a), (-b, a), (-b, -a), (-a, -a)]
    points = np.round(np.array([*corners, corners[0]]) + np.array([x, y]), 4)
    return line_chain(points)


def put_on_sheet(rings: tuple[Chain, ...], placement: Placement) -> tuple[Chain, ...]:
    """Chains moved from the design to the sheet."""
    return tuple(transform_chain(ring, placement.matrix) for ring in rings)
