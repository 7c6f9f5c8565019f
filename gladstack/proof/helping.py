"""Whether a fix helps: what it is for is gone, and nothing worse has come of it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from gladstack.core.base.plane import Point
from gladstack.proof.finding import Finding


@dataclass(frozen=True)
class ToldPlace:
    """A finding by what tells it from others: its code, the film or art it is about, its place and its figure."""

    code: str
    about: str | None
    at: Point | None
    figure: float | None


_SAME_PLACE_MM = 1.0
_LESS = 0.98
"""What is left of a measure that was mended in part is told still, but is smaller."""


def place_of(finding: Finding[Any]) -> Point | None:
    """Where a finding is, as one point."""
    place = finding.place
    if place is None or place.at is not None:
        return place.at if place else None
    if place.box:
        left, top, right, bottom = place.box
        return (left + right) / 2, (top + bottom) / 2
    return place.outlines[0][0] if place.outlines else None


def still_told(code: str, about: str | None, at: Point | None, figure: float | None, after: Sequence[Finding[Any]]) -> bool:
    """Whether a finding is still among others: of the same kind, about the same film, at the same place and no smaller.

    What bares an area is gone from its place as soon as less of it shows, wherever that is.
    """
    for one in after:
        if (one.code, one.about) != (code, about):
            continue
        spot = place_of(one)
        near = at is None or spot is None or math.dist(at, spot) <= _SAME_PLACE_MM
        area = one.measure is not None and one.measure.unit == "mm2" and figure is not None
        if area and one.measure is not None and figure is not None:
            if one.measure.figure >= _LESS * figure:
                return True
        elif near:
            return True
    return False


def no_worse(before: Sequence[Finding[Any]], after: Sequence[Finding[Any]]) -> bool:
    """Whether no more will fail than before, and no more will or may fail."""
    return _at_least(after, "stop") <= _at_least(before, "stop") and _at_least(after, "mind") <= _at_least(before, "mind")


def eased(told: ToldPlace, before: Sequence[Finding[Any]], after: Sequence[Finding[Any]]) -> bool:
    """Whether less will fail than before, if what was told will; less will or may fail, if it may; and never more."""
    own = [one.severity for one in before if still_told(told.code, told.about, told.at, told.figure, [one])]
    if not no_worse(before, after):
        return False
    gravest = "stop" if "stop" in own else "mind"
    return not {"stop", "mind"} & set(own) or _at_least(after, gravest) < _at_least(before, gravest)


def _at_least(found: Sequence[Finding[Any]], severity: str) -> int:
    grave = ("stop",) if severity == "stop" else ("stop", "mind")
    return sum(one.severity in grave for one in found)


def worse(before: Sequence[Finding[Any]], after: Sequence[Finding[Any]]) -> tuple[tuple[Finding[Any], int], ...]:
    """What will or may fail more often than before: by kind and film one finding of each, and how many more, gravest first.

    What only becomes graver counts as well.
    """
    held = [_by_kind(found) for found in (before, after)]
    out = []
    for (severity, code, about), now in held[1].items():
        more = len(now) - len(held[0].get((severity, code, about), ()))
        if more > 0:
            out.append((now[0], more))
    return tuple(sorted(out, key=lambda one: (one[0].severity != "stop", -one[1])))


def _by_kind(found: Sequence[Finding[Any]]) -> dict[tuple[str, str, str | None], list[Finding[Any]]]:
    out: dict[tuple[str, str, str | None], list[Finding[Any]]] = {}
    for one in found:
        if one.severity != "note":
            out.setdefault((one.severity, one.code, one.about), []).append(one)
    return out
