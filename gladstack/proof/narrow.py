"""Findings of places that are too narrow: what is said of them, where they are, and what puts them right."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal, TypeVar

from shapely import Polygon

from gladstack.core.base.findings import Measure, Severity, Whereabouts
from gladstack.core.base.plane import Point
from gladstack.core.base.tolerances import RESOLVED_MM
from gladstack.core.films.repairs import SURELY_MM, How
from gladstack.core.geometry.holes import widest
from gladstack.core.geometry.runs import Run
from gladstack.proof.check import CutRead
from gladstack.proof.finding import Fix
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.edit.pieces import RepairFilm, SettlePiece
from gladstack.recipe.model.recipe import RepairedPlace

T = TypeVar("T")

SLACK_MM = 0.005
"""What is narrower than its limit by no more is not told: widths are measured no closer."""
MOST_TOLD = 60
"""No more places of one kind are told of a film; the narrowest come first."""
_FAILS = 0.5
"""What is narrower than this share of what the film bears will not hold."""


def too_narrow(runs: Sequence[Run], limit_mm: float) -> list[Run]:
    """Those that are narrower than the limit for certain; notches that no cutter resolves are none."""
    seen = (run for run in runs if max(run.mm, run.length_mm) >= RESOLVED_MM)
    return [run for run in seen if run.mm < limit_mm - SLACK_MM]


def severity_of(mm: float, limit_mm: float) -> Severity:
    """How grave a width is for a limit."""
    return "stop" if mm < _FAILS * limit_mm else "mind"


def place_of(run: Run) -> Whereabouts:
    """Where a run is narrowest, and between which points."""
    return Whereabouts(at=run.at, across=run.sides)


def repair(read: CutRead, label: str, how: How, limit_mm: float, at: Point | None) -> Fix[Edit]:
    """Puts one place of a film right, or all of a kind."""
    x, y = at or (None, None)
    mm = round(limit_mm + SURELY_MM, 3)
    return Fix(label, RepairFilm(film=read.film.film, repair=RepairedPlace(how=how, mm=mm, x_mm=x, y_mm=y)))


def settled(film: str, part: Polygon, how: Literal["drop", "merge"]) -> SettlePiece:
    """What happens to one part of a film."""
    at = part.point_on_surface()
    return SettlePiece(film=film, x_mm=at.x, y_mm=at.y, how=how)


def dropped(film: str, part: Polygon) -> Fix[Edit]:
    """One part of a film dropped."""
    return Fix("Drop it", settled(film, part, "drop"))


LONG = 4.0
"""What is no longer than so many times the narrowest width is tiny where it is narrow; what is longer is a thin part."""


def tiny_width(area: Polygon, limit_mm: float) -> float | None:
    """How wide a small part or hole is where it is widest, if that is below a limit; None where it is not tiny."""
    left, top, right, bottom = area.bounds
    if max(right - left, bottom - top) > LONG * limit_mm:
        return None
    wide = widest(area, limit_mm)
    return wide if wide < limit_mm - SLACK_MM else None


def first(found: Sequence[T]) -> Sequence[T]:
    """As many as are told, of what begins with the worst."""
    return found[:MOST_TOLD]


def measured(run: Run, limit_mm: float) -> Measure:
    """Its width against a limit."""
    return Measure(round(run.mm, 3), limit_mm, "mm")
