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


def plain_fault(fault: Mapping[str, Any]) -> str:
    """What a check of the data holds against it, in plain words."""
    kind, said, bounds = str(fault["type"]), str(fault["msg"]), fault.get("ctx") or {}
    if kind in _PLAIN:
        return _PLAIN[kind]
    if kind.startswith(("float", "int")):
        return "it must be a number." if kind.startswith("float") else "it must be a whole number."
    if kind in ("greater_than_equal", "greater_than"):
        return f"it must be at least {bounds.get('ge', bounds.get('gt'))}."
    if kind in ("less_than_equal", "less_than"):
        return f"it must be at most {bounds.get('le', bounds.get('lt'))}."
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


def said_plainly(fault: Mapping[str, Any]) -> str:
    """One fault of a validation: the field it is about, and what is wrong."""
    field = next((str(p) for p in reversed(fault["loc"]) if isinstance(p, str) and p not in _WRAPPERS), "")
    name = field.removesuffix("_mm").replace("_", " ").replace("-", " ").capitalize()
    what = plain_fault(fault).rstrip(".")
    return f"{name}: {what}." if name else f"{what[:1].upper()}{what[1:]}."


@contextmanager
def said_of_what_was_asked() -> Iterator[None]:
    """What a maker asked for is checked within: raises RecipeError in place of a ValidationError."""
    try:
        yield
    except ValidationError as fault:
        raise RecipeError(said_plainly(fault.errors()[0])) from fault


_WRAPPERS = ("body", "edit")
