"""Lines that mix directions and scripts: the order that is seen, numbers the right way round, one script a run."""

from __future__ import annotations

import pytest
from bidi import get_base_level, get_display
from hypothesis import given
from hypothesis import strategies as st

from gladstack.core.lettering.directions import runs_of


def seen(text: str, direction: str = "auto") -> str:
    """A line as it is seen from left to right."""
    return "".join(r.text[::-1] if r.leftward else r.text for r in runs_of(text, direction))  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("text", "shown"),
    [
        ("טלפון 050-1234567", "050-1234567 ןופלט"),
        ("שעה 12:30", "12:30 העש"),
        ("מחיר 1/2 ק״ג", "ג״ק 1/2 ריחמ"),
        ("المبلغ 1,234.50 ريال", "لاير 1,234.50 غلبملا"),
        ("שלום hello, 12:30!", "!hello, 12:30 םולש"),
        ("Tel. 050-1234567 שלום", "Tel. 050-1234567 םולש"),
        ("Ada 12:30", "Ada 12:30"),
    ],
)
def test_lines_are_seen_as_the_standard_orders_them(text: str, shown: str) -> None:
    assert seen(text) == shown


def test_a_line_reads_the_way_it_is_told_to() -> None:
    assert seen("Ada שלום!") == "Ada םולש!"
    assert seen("Ada שלום!", "rtl") == "!םולש Ada"
    assert seen("שלום Ada", "ltr") == "םולש Ada"


LETTERS = st.text(st.sampled_from("abאבגשعس0١2 ,.:/-+()!%"), min_size=1, max_size=30)


@given(LETTERS, st.sampled_from(("auto", "ltr", "rtl")))
def test_every_letter_is_there_once_and_in_the_order_of_the_library(text: str, direction: str) -> None:
    runs = runs_of(text, direction)  # type: ignore[arg-type]
    assert sorted(k for r in runs for k in range(r.first, r.first + len(r.text))) == list(range(len(text)))
    base = {"ltr": "L", "rtl": "R"}.get(direction) or "LR"[get_base_level(text) % 2]
    assert seen(text, direction) == get_display(text, base_dir=base)


@pytest.mark.parametrize(
    ("text", "scripts"),
    [
        ("Ada क्षत्रिय", [("Ada ", "Latn"), ("क्षत्रिय", "Deva")]),
        ("12 Ada", [("12 Ada", "Latn")]),
        ("Ελλάδα, Россия", [("Ελλάδα, ", "Grek"), ("Россия", "Cyrl")]),
        ("12:30", [("12:30", None)]),
        ("", []),
    ],
)
def test_each_run_has_one_script(text: str, scripts: list[tuple[str, str | None]]) -> None:
    assert [(r.text, r.script) for r in runs_of(text)] == scripts
