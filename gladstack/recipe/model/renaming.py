"""Films called anew wherever a recipe names them: the type of a field says that it does."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from typing import Annotated, Any, get_args, get_origin

from gladstack.recipe.model.values import NAMES_FILM, Frozen, M, changed


def films_renamed(model: M, names: Mapping[str, str]) -> M:
    """The model, and all in it, with films called by their new names."""
    naming = _naming(type(model))
    changes: dict[str, Any] = {}
    for name in type(model).model_fields:
        value = getattr(model, name)
        new = _renamed(value, names) if name in naming else _renamed_within(value, names)
        if new is not value and new != value:
            changes[name] = new
    return changed(model, **changes) if changes else model


def _renamed(value: Any, names: Mapping[str, str]) -> Any:
    if isinstance(value, tuple):
        return tuple(_renamed(one, names) for one in value)
    return names.get(value, value) if isinstance(value, str) else value


def _renamed_within(value: Any, names: Mapping[str, str]) -> Any:
    if isinstance(value, Frozen):
        return films_renamed(value, names)
    if isinstance(value, tuple):
        return tuple(_renamed_within(one, names) for one in value)
    return value


@cache
def _naming(model: type[Frozen]) -> frozenset[str]:
    return frozenset(
        name for name, field in model.model_fields.items() if NAMES_FILM in field.metadata or _names_film(field.annotation)
    )


def _names_film(annotation: Any) -> bool:
    if get_origin(annotation) is Annotated and NAMES_FILM in get_args(annotation)[1:]:
        return True
    return any(_names_film(one) for one in get_args(annotation))
