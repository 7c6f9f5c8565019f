"""What is told of a design: how grave it is, where it is, its figure and limit, and what helps."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from gladstack.core.base.plane import Box, Point

Severity = Literal["stop", "mind", "note"]
"""`stop`: cut like this the decal is not what was wanted; `mind`: look before you cut; `note`: good to know."""


MeasureUnit = Literal["mm", "mm2", "deg", ""]


@dataclass(frozen=True)
class Remark:
    """What a reader of files has to say of one, under a stable code."""

    code: str
    text: str


@dataclass(frozen=True)
class Whereabouts:
    """Where it is, in mm: a point, a box, or outlines (closed, without the last point repeated).

    `across` are the two points of an edge between which it is measured.
    """

    at: Point | None = None
    box: Box | None = None
    outlines: tuple[tuple[Point, ...], ...] = ()
    across: tuple[Point, Point] | None = None


@dataclass(frozen=True)
class Measure:
    """A figure and the limit it is held against, in one unit: "mm", "mm2", "deg", or "" for a count or share.

    `limit_from` names what sets the limit, as a setting of the design, a material or a cutter.
    """

    figure: float
    limit: float
    unit: MeasureUnit = ""
    limit_from: str = ""


@dataclass(frozen=True)
class Told:
    """What is told under a stable code; `about` is the film or art it is about (None: the design)."""

    code: str
    text: str
    severity: Severity = "note"
    about: str | None = None
    place: Whereabouts | None = None
    measure: Measure | None = None
    helps: str = ""
