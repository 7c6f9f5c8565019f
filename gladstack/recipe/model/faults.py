"""What a check of the data holds against it, said in plain words."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from typing import Any

from pydantic import ValidationError

from gladstack.core.base.errors import RecipeError

_PLAIN = {
    "missing": "it is missing.",
    "extra_forbidden": "nothing by this name is known here.",
    "json_invalid": "what was sent cannot be read.",
    "string_pattern_mismatch": "it is not written as it should be.",
    "string_type": "it must be text.",
    "string_too_short": "it must not be empty.",
    "bool_type": "it must be yes or no.",
    "bool_parsing": "it must be yes or no.",
    "finite_number": "it must be a number that is not endless.",
}


_UNITS = {"_mm": " mm", "_mm2": " mm²", "_deg": "°", "_s": " s", "_g": " g", "_celsius": " °C"}
"""What a field is measured in, by the end of its name."""


def plain_fault(fault: Mapping[str, Any], unit: str = "") -> str:
    """What a check of the data holds against it, in plain words, with the unit of its limits."""
    kind, said, bounds = str(fault["type"]), str(fault["msg"]), fault.get("ctx") or {}
    if kind in _PLAIN:
        return _PLAIN[kind]
    if kind.startswith(("float", "int")):
        return "it must be a number." if kind.startswith("float") else "it must be a whole number."
    if kind in ("greater_than_equal", "greater_than"):
        return f"it must be at least {_limit(bounds, unit, 'ge', 'gt')}."
    if kind in ("less_than_equal", "less_than"):
        return f"it must be at most {_limit(bounds, unit, 'le', 'lt')}."
    if kind in ("too_long", "string_too_long"):
        return f"there may be at most {bounds.get('max_length')}."
    if kind == "too_short":
        return f"there must be at least {bounds.get('min_length')}."
    if kind in ("literal_error", "enum"):
        return f"it must be {bounds.get('expected')}."
    if kind in ("union_tag_invalid", "union_tag_not_found"):
        return "there is nothing of this kind."
    if kind == "value_error" and "UploadFile" not in said:
        return said.removeprefix("Value error, ")
    return "it must be a file." if "UploadFile" in said else "it is not of the kind that is asked for."


def _limit(bounds: Mapping[str, Any], unit: str, *names: str) -> str:
    """A limit with its unit; what has none may be a number that is no measure, such as a port."""
    limit = next(bounds[name] for name in names if name in bounds)
    if not isinstance(limit, int | float):
        return str(limit)
    return f"{limit:,.10g}{unit}" if unit else f"{limit:.10g}"


def said_plainly(fault: Mapping[str, Any]) -> str:
    """One fault of a validation: the field it is about, and what is wrong."""
    field = next((str(p) for p in reversed(fault["loc"]) if isinstance(p, str) and p not in _WRAPPERS), "")
    end = next((end for end in _UNITS if field.endswith(end)), "")
    name = _CALLED.get(field) or field.removesuffix(end).replace("_", " ").replace("-", " ").capitalize()
    what = plain_fault(fault, _UNITS.get(end, "")).rstrip(".")
    return f"{name}: {what}." if name else f"{what[:1].upper()}{what[1:]}."


@contextmanager
def said_of_what_was_asked() -> Iterator[None]:
    """What a maker asked for is checked within: raises RecipeError in place of a ValidationError."""
    try:
        yield
    except ValidationError as fault:
        raise RecipeError(said_plainly(fault.errors()[0])) from fault


_WRAPPERS = ("body", "edit")
_CALLED = {"x_mm": "Place from left to right", "y_mm": "Place from top to bottom"}
"""Fields whose names say little."""
