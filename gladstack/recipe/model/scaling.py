"""How lengths follow when a design is scaled: each field's type says it, and nothing else decides."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import cache
from typing import Annotated, Any, get_args, get_origin

from pydantic.fields import FieldInfo

from gladstack.recipe.model.values import Frozen, M, Scales, changed


@cache
def scales_of(model: type[Frozen]) -> dict[str, Scales]:
    """What is said of the fields of a model that hold a length or an area."""
    found = {name: _said(field) for name, field in model.model_fields.items()}
    return {name: scales for name, scales in found.items() if scales is not None}


def scaled_by_type(model: M, factor: float, *, added: bool, keep: Sequence[str] = ()) -> M:
    """The model, and all in it but what is to `keep`, `factor` times as large; what was added to the motif if wanted."""
    own = scales_of(type(model))
    changes: dict[str, Any] = {}
    for name in type(model).model_fields.keys() - keep:
        value = getattr(model, name)
        said = own.get(name)
        if said is not None:
            if value is not None and said.power and (added or not said.added):
                changes[name] = value * factor**said.power
        elif (new := _scaled_within(value, factor, added)) is not value:
            changes[name] = new
    return changed(model, **changes) if changes else model


def _scaled_within(value: Any, factor: float, added: bool) -> Any:
    if isinstance(value, Frozen):
        return scaled_by_type(value, factor, added=added)
    if isinstance(value, tuple) and any(isinstance(one, Frozen) for one in value):
        return tuple(_scaled_within(one, factor, added) for one in value)
    return value


def _said(field: FieldInfo) -> Scales | None:
    """What a field says, or its type; the outermost word counts."""
    said = [one for one in field.metadata if isinstance(one, Scales)]
    return said[-1] if said else next(_said_within(field.annotation), None)


def _said_within(annotation: Any) -> Iterator[Scales]:
    if get_origin(annotation) is Annotated:
        yield from reversed([one for one in get_args(annotation)[1:] if isinstance(one, Scales)])
    for argument in get_args(annotation):
        if get_origin(annotation) is not tuple:
            yield from _said_within(argument)
