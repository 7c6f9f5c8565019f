"""Fields in lettering: words in braces that a list of names fills, such as "{name=Ada}"."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Literal

Fit = Literal["as-is", "narrower", "smaller", "two-lines", "alike"]
"""What becomes of names that are wider than there is room; `alike` sets all of a list as tall as each other."""
_FIELD = re.compile(r"\{([^{}\n=]{1,60})(?:=([^{}\n]{0,200}))?\}")


def fields_in(text: str) -> dict[str, str]:
    """The fields of a text, in order, each with what it shows until it is filled."""
    return {name.strip(): sample or name.strip() for name, sample in _FIELD.findall(text) if name.strip()}


def shown(text: str) -> str:
    """A text with its fields as they show until they are filled."""
    return filled_text(text, {})


def filled_text(text: str, values: Mapping[str, str]) -> str:
    """A text with its fields filled; one that has no value shows what it did before.

    A line of fields that are all to be empty is left out.
    """
    lines = [_FIELD.sub(lambda m: _value(m, values), line) for line in text.split("\n")]
    return "\n".join(lines[k] for k in kept_lines(text, values))


def kept_lines(text: str, values: Mapping[str, str]) -> list[int]:
    """The numbers of the lines of a text that stay when its fields are filled."""
    lines = text.split("\n")
    return [
        k for k, line in enumerate(lines) if not _FIELD.search(line) or _FIELD.sub(lambda m: _value(m, values), line).strip()
    ]


def _value(field: re.Match[str], values: Mapping[str, str]) -> str:
    name = field[1].strip()
    return values[name] if name in values else field[2] or name
