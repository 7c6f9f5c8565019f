"""Lengths as makers write them, from the table that the screen's reader is held to as well."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from gladstack.core.base.errors import LengthError
from gladstack.core.base.text import readable, readable_line
from gladstack.core.base.units import parse_length

TABLE = json.loads((Path(__file__).parents[2] / "cases" / "lengths.json").read_text())


@pytest.mark.parametrize(("text", "unit", "mm"), TABLE)
def test_lengths_are_read_or_refused(text: str, unit: str, mm: float | None) -> None:
    if mm is None:
        with pytest.raises(LengthError):
            parse_length(text, unit=unit)  # type: ignore[arg-type]
    else:
        assert parse_length(text, unit=unit) == pytest.approx(mm)  # type: ignore[arg-type]


def test_text_loses_what_no_file_can_hold() -> None:
    assert readable("a\x00b\ufffec\ud800\td\ne") == "abc\td\ne"
    assert readable_line("two\r\nlines\u2028and\ttabs\x1b") == "two lines and tabs"
    assert readable("🦉 ö 中") == "🦉 ö 中"
