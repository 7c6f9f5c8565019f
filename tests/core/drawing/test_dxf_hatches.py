"""What DXF files fill, draw twice, and hold besides outlines."""

from __future__ import annotations

import io
import math

import ezdxf
import pytest
from ezdxf.document import Drawing as Document
from hypothesis import given
from hypothesis import strategies as st

from gladstack.core.drawing.drawing import Drawing
from gladstack.core.drawing.dxf_read import read_dxf

RED, BLUE = 1, 5
SQUARE = [(0.0, 0.0), (40.0, 0.0), (40.0, 40.0), (0.0, 40.0)]
HOLE = [(10.0, 10.0), (30.0, 10.0), (30.0, 30.0), (10.0, 30.0)]


def new() -> Document:
    document = ezdxf.new("R2010")  # type: ignore[attr-defined]
    document.units = 4
    return document


def read(document: Document) -> Drawing:
    out = io.StringIO()
    document.write(out)
    return read_dxf(out.getvalue().encode())


def hatched(document: Document, loops: list[list[tuple[float, float]]], colour: int = RED) -> None:
    hatch = document.modelspace().add_hatch(color=colour)
    for loop in loops:
        hatch.paths.add_polyline_path(loop, is_closed=True)


def told(drawing: Drawing) -> dict[str, str]:
    return {remark.code: remark.text for remark in drawing.remarks}


def area(drawing: Drawing, colour: str = "#ff0000") -> float:
    return sum(float(item.shape.area) for item in drawing.items if item.colour == colour)


@pytest.mark.parametrize("outlined", [False, True])
def test_what_is_hatched_is_an_area_with_its_openings(outlined: bool) -> None:
    document = new()
    if outlined:
        # The outline is drawn as well, in lines of its own: that takes nothing away.
        for a, b in zip(SQUARE, [*SQUARE[1:], SQUARE[0]], strict=True):
            document.modelspace().add_line(a, b, dxfattribs={"color": BLUE})
    hatched(document, [SQUARE, HOLE])
    drawing = read(document)
    assert area(drawing) == pytest.approx(1600 - 400)
    assert area(drawing, "#0000ff") == pytest.approx(1600 if outlined else 0)
    assert drawing.width_mm == pytest.approx(40)


@given(st.floats(5, 200), st.floats(5, 200), st.floats(-300, 300))
def test_a_hatch_bounded_by_an_arc_is_as_large_as_it_is_drawn(width: float, height: float, x: float) -> None:
    document = new()
    hatch = document.modelspace().add_hatch(color=RED)
    edges = hatch.paths.add_edge_path()
    edges.add_ellipse((x, 3), (width / 2, 0), ratio=min(1.0, height / width))
    drawing = read(document)
    a, b = width / 2, min(height, width) / 2
    # Its edge is nowhere off by a hundredth.
    assert area(drawing) == pytest.approx(math.pi * a * b, abs=0.01 * math.pi * (a + b))


def test_solid_faces_are_areas() -> None:
    document = new()
    # The corners of a solid are told crosswise.
    document.modelspace().add_solid([(0, 0), (20, 0), (0, 10), (20, 10)], dxfattribs={"color": RED})
    assert area(read(document)) == pytest.approx(200)


def test_what_is_no_outline_is_told() -> None:
    document = new()
    hatched(document, [SQUARE])
    space = document.modelspace()
    for text in ("HILL", "TOP"):
        space.add_text(text)
    space.add_point((3, 3))
    assert told(read(document))["kinds"] == "It holds what is no outline, which was left out: 2 texts, 1 point."


def test_lines_of_two_colours_on_each_other_are_told_and_those_of_one_layer_count_once() -> None:
    document = new()
    space = document.modelspace()
    for layer, colour in (("cut", RED), ("again", RED), ("crease", BLUE)):
        document.layers.add(layer)
        # The other way round from another corner is another line to a reader; the same one back is not.
        corners = SQUARE if layer == "cut" else SQUARE[::-1]
        for a, b in zip(corners, [*corners[1:], corners[0]], strict=True):
            space.add_line(a, b, dxfattribs={"color": colour, "layer": layer})
    drawing = read(document)
    assert told(drawing)["twice"] == "4 lines were drawn twice: one of each is kept."
    assert told(drawing)["both"].startswith("4 lines are drawn in two colours")
    assert (area(drawing), area(drawing, "#0000ff")) == (pytest.approx(1600), pytest.approx(1600))
