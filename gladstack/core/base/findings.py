"""Findings: what is told of a design, each with its place, its figure and limit, and what helps."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from gladstack.core.base.plane import Box, Point

Severity = Literal["stop", "mind", "note"]
"""`stop`: cut like this the decal is not what was wanted; `mind`: look before you cut; `note`: good to know."""


@dataclass(frozen=True)
class Place:
    """Where it is, in mm: a point, a box, or outlines (closed, without the last point repeated)."""

    at: Point | None = None
    box: Box | None = None
    outlines: tuple[tuple[Point, ...], ...] = ()


@dataclass(frozen=True)
class Measure:
    """A figure and the limit it is held against, in one unit: "mm", "mm2", or "" for a count or share."""

    figure: float
    limit: float
    unit: Literal["mm", "mm2", ""] = ""


@dataclass(frozen=True)
class Fix:
    """Something that mends it: what to call it, and the edit as it is sent."""

    label: str
    edit: Mapping[str, Any]


@dataclass(frozen=True)
class Finding:
    """What a check or a reader tells, under a stable code; `about` is the film or art it is about (None: the design)."""

    code: str
    text: str
    severity: Severity = "note"
    about: str | None = None
    place: Place | None = None
    measure: Measure | None = None
    helps: str = ""
    fixes: tuple[Fix, ...] = ()
