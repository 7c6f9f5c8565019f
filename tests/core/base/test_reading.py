"""What readers did not foresee is told like any other fault, with its trace for the log."""

from __future__ import annotations

import io

import ezdxf
import pytest

from gladstack.core.base.errors import GladStackError, VectorError
from gladstack.core.base.reading import reader
from gladstack.recipe.art.vectors import read_vector

HEAD = '<svg xmlns="http://www.w3.org/2000/svg" width="50mm" height="50mm" viewBox="0 0 50 50">'
RECT = '<rect width="20" height="20"/>'


def svg(body: str) -> bytes:
    return f"{HEAD}{body}</svg>".encode()


@reader(VectorError, "This file", "Save it again.")
def read(what: str) -> str:
    if what == "fault":
        raise VectorError("It is torn.", "Mend it.")
    if what == "deep":
        return read_deep(what)
    if what == "memory":
        raise MemoryError
    if what == "native memory":
        raise ValueError("std::bad_alloc")
    return {"known": "read"}[what]


def read_deep(what: str) -> str:
    return read_deep(what)


def test_a_reader_raises_nothing_but_its_own_errors() -> None:
    assert read("known") == "read"
    with pytest.raises(VectorError, match="torn") as own:
        read("fault")
    assert own.value.trace == ""
    with pytest.raises(VectorError, match="too deeply nested"):
        read("deep")
    with pytest.raises(VectorError, match="not foreseen") as unforeseen:
        read("unknown")
    assert "KeyError" in unforeseen.value.trace
    for asked, kind in (("memory", MemoryError), ("native memory", ValueError)):
        with pytest.raises(kind):
            read(asked)


@pytest.mark.parametrize(
    "body",
    [
        "<style>" + ":not(" * 3000 + "a" + ")" * 3000 + "{fill:red}</style>" + RECT,
        "<style>" + "a " * 30000 + "{fill:red}</style>" + RECT,
        f'<rect width="20" height="20" style="fill:{"var(--a," * 5000}red"/>',
    ],
)
def test_deep_styles_are_refused_in_words(body: str) -> None:
    with pytest.raises(VectorError, match="nested"):
        read_vector(svg(body))


def test_arcs_of_next_to_no_radius_are_lines() -> None:
    drawn = read_vector(svg('<path d="M5 5A1e-320 1e-320 0 0 1 40 40L5 40Z"/>'))
    plain = read_vector(svg('<path d="M5 5L40 40L5 40Z"/>'))
    assert [shape.shape.area for shape in drawn.items] == pytest.approx([shape.shape.area for shape in plain.items])


@pytest.mark.parametrize("unit", ["99", "-1", "12345"])
def test_a_unit_the_format_does_not_know_tells_nothing(unit: str) -> None:
    made, out = ezdxf.new(), io.StringIO()  # type: ignore[attr-defined]
    made.modelspace().add_circle((5, 5), 4)
    made.write(out)
    text = out.getvalue()
    at = text.index("\n", text.index(" 70", text.index("$INSUNITS")))
    data = text[: at + 1] + unit + text[text.index("\n", at + 1) :]
    assert not read_vector(data.encode()).told


def test_what_is_quoted_can_always_be_sent() -> None:
    assert str(GladStackError("“\ud800” is not a length.", "Try \udfff.")).encode("utf-8")
