"""Findings: what a check tells, with the edits that mend it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Generic, Literal, TypeVar

from gladstack.core.base.findings import Told

E = TypeVar("E", covariant=True)
"""The edits that mend what is told: those of a design, or those of a job."""

Beside = Literal["art", "palette", "put-right", "stack", "sheets"]
"""What on the screen a finding stands beside: the art it is about, its colours, what was put right in it, films, sheets."""


@dataclass(frozen=True)
class Fix(Generic[E]):
    """An edit that mends it, and what to call it."""

    label: str
    edit: E


@dataclass(frozen=True)
class Finding(Told, Generic[E]):
    """What is told, with what mends it."""

    fixes: tuple[Fix[E], ...] = ()
    beside: Beside = "stack"
