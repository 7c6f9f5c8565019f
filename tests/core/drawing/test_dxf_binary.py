"""DXF files that are not text: read like those that are, and refused where they are damaged."""

from __future__ import annotations

from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory

import ezdxf
import pytest
from ezdxf.document import Drawing
from ezdxf.enums import InsertUnits
from hypothesis import given
from hypothesis import strategies as st

from gladstack.core.base.errors import VectorError
from gladstack.recipe.art.vectors import is_vector, read_vector


def drawn() -> Drawing:
    """A triangle and a circle, in inches."""
    made = ezdxf.new(units=InsertUnits.Inches)  # type: ignore[attr-defined]
    made.modelspace().add_lwpolyline([(0, 0), (2, 0), (2, 1)], close=True, dxfattribs={"color": 1})
    made.modelspace().add_circle((4, 1), 0.5, dxfattribs={"color": 5})
    return made


@cache
def saved(form: str) -> bytes:
    with TemporaryDirectory() as folder:
        path = Path(folder) / "drawing.dxf"
        drawn().saveas(path, fmt=form)
        return path.read_bytes()


def test_a_file_that_is_no_text_is_read_like_one_that_is() -> None:
    assert is_vector(saved("bin"))
    text, binary = read_vector(saved("asc")), read_vector(saved("bin"))
    areas = {item.colour: item.shape.area for item in text.items}
    assert {item.colour: item.shape.area for item in binary.items} == pytest.approx(areas)
    assert max(areas.values()) == pytest.approx(25.4**2, rel=0.01)


@given(st.integers(22, 20_000), st.integers(0, 255))
def test_one_that_is_damaged_is_read_or_refused(at: int, byte: int) -> None:
    data = saved("bin")
    for damaged in (data[: at % len(data)], data[: at % len(data)] + bytes([byte]) + data[at % len(data) + 1 :]):
        try:
            read_vector(damaged)
        except VectorError as fault:
            assert fault.remedy  # noqa: PT017 - either outcome is right, but a refusal helps
