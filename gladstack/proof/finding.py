"""Findings: what a check tells, with the edits that mend it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Generic, Literal, TypeVar

from gladstack.core.base.findings import Told

E = TypeVar("E", covariant=True)
"""The edits that mend what is told: those of a design, or those of a job."""

When = Literal["source", "blade", "weeding", "laying", "sheets"]
"""When it happens: it is in what was brought in, at the blade, in weeding, when films are laid, on the sheets."""

Beside = Literal["art", "palette", "put-right", "stack", "sheets", "proof"]
"""What on the screen a finding stands beside: the art it is about, its colours, what was put right in it, films, sheets."""


USUALLY: Mapping[Beside, When] = {
    "art": "source", "palette": "source", "put-right": "source", "stack": "blade", "sheets": "sheets", "proof": "blade",
}  # fmt: skip
"""When what stands beside something on the screen happens, where nothing else is said."""


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
    when: When = "blade"
