"""What only moves, turns or mirrors as a whole is not worked out anew.

A value that is laid knows the one that it is made of, and how it lies. Where all shapes that go into a stage lie alike, the
stage works on those that they are made of, if its result does not depend on where they lie; so it is remembered wherever
they are laid together.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any, TypeVar

from shapely import MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.geometry.curves import IDENTITY, Matrix
from gladstack.core.geometry.shapes import placed
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Keyed

T = TypeVar("T")
Shape = Keyed[MultiPolygon]


class Laid(Keyed[T]):
    """A value that is `base` laid elsewhere, turned or mirrored, all in one size."""

    __slots__ = ("base", "by")

    def __init__(self, value: Keyed[T], base: Keyed[T], by: Matrix) -> None:
        # What is remembered must be worked out: so nothing is left of what it is made of once its value is there.
        super().__init__(value.key, lambda: (base.value, value.value)[1])
        self.base = base
        self.by = by

    @property
    def made_of(self) -> tuple[Keyed[Any], ...]:
        """What it was before it was laid."""
        return (self.base,)


def laid(shape: Shape, by: Matrix | None, stages: Stages) -> Shape:
    """A shape laid by a matrix that keeps its size; as it is, if by none."""
    return laid_by(placed, shape, by, stages)


def laid_by(place: Callable[[T, Matrix], T], base: Keyed[T], by: Matrix | None, stages: Stages) -> Keyed[T]:
    """Any value laid so; `place` tells how."""
    return base if by is None else Laid(stages.run("art", place, base, by), base, by)


def as_drawn(value: Keyed[T]) -> Keyed[T]:
    """A value before it was laid."""
    return value.base if isinstance(value, Laid) else value


def how_laid(*arguments: Any, turned: bool = True) -> Matrix | None:
    """How all shapes among these arguments are laid; None where they are not, or not alike.

    Empty shapes lie anywhere. Without `turned`, shapes that are turned or mirrored do not count as laid alike.
    """
    found = list(_keyed(arguments))
    ways = {one.by for one in found if isinstance(one, Laid)}
    if len(ways) != 1:
        return None
    (by,) = ways
    alike = all(isinstance(one, Laid) or _is_nothing(one) for one in found)
    return by if alike and (turned or by[:4] == IDENTITY[:4]) else None


def unlaid(argument: T, by: Matrix | None) -> T:
    """An argument with those shapes in it that are laid so given as they were before."""
    if isinstance(argument, Laid) and argument.by == by:
        return argument.base  # type: ignore[return-value]
    if type(argument) in (tuple, list):
        return type(argument)(unlaid(one, by) for one in argument)  # type: ignore[return-value, call-arg, attr-defined]
    return argument


def run_alike(
    stages: Stages, group: str, stage: Callable[..., T], *arguments: Any, turned: bool = True
) -> tuple[Keyed[T], Matrix | None]:
    """The value of a stage for shapes that are laid alike as they were before, and how they lie. As such, it must not depend
    on where they lie, nor (`turned`) which way round.
    """
    by = how_laid(*arguments, turned=turned)
    return stages.run(group, stage, *(unlaid(one, by) for one in arguments)), by


def run_laid(stages: Stages, group: str, stage: Callable[..., Any], *arguments: Any, turned: bool = True) -> Shape:
    """The same for a stage that gives a shape, laid as they are."""
    made, by = run_alike(stages, group, stage, *arguments, turned=turned)
    return laid(made, by, stages)


def _keyed(argument: Any) -> Iterator[Keyed[Any]]:
    if isinstance(argument, Keyed):
        yield argument
    elif type(argument) in (tuple, list):
        for one in argument:
            yield from _keyed(one)


def _is_nothing(one: Keyed[Any]) -> bool:
    return isinstance(one.value, BaseGeometry) and one.value.is_empty
