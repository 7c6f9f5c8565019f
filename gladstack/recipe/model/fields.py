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
    """A text with its fields filled; one that has no value shows what it did before."""
    return _FIELD.sub(lambda m: values.get(m[1].strip()) or m[2] or m[1].strip(), text)
