"""Lengths, colours, curves, sheets and SVG."""

from __future__ import annotations

import io
import re

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from svgelements import SVG, Path

from gladstack.core.base.colour import colour_name, delta_e, from_hex, to_hex, to_lab
from gladstack.core.base.errors import LengthError, RecipeError
from gladstack.core.base.units import format_length, parse_length, parse_size
from gladstack.core.films.names import film_names
from gladstack.core.films.order import propose_order
from gladstack.core.geometry.curves import Chain, flatten_chain, line_chain, reverse_chain, sub_piece
from gladstack.core.plan.marks import mark, mark_places, with_marks
from gladstack.core.write.svg import SvgLayer, number, stack_svg
from tests.core.shapes import ZOO, as_multi

WAVE = np.array([[0.0, 0.0], [10.0, 20.0], [20.0, -20.0], [30.0, 0.0]])


@pytest.mark.parametrize(
    ("text", "mm"),
    [("3mm", 3), ("0.05", 0.05), ("1/8in", 3.175), ("1 1/2 in", 38.1), ('2"', 50.8), ("1,5 cm", 15), (".4 MM", 0.4)],
)
def test_lengths_are_read_as_makers_write_them(text: str, mm: float) -> None:
    assert parse_length(text) == pytest.approx(mm)


@pytest.mark.parametrize("text", ["", "wide", "3 kg", "-2mm", "1/0in", "1 2", "3mm 4mm", "١٢ monkeys"])
def test_what_is_no_length_is_refused_with_an_example(text: str) -> None:
    with pytest.raises(LengthError) as fault:
        parse_length(text)
    assert "1/8in" in fault.value.remedy


def test_a_bare_number_is_read_in_the_makers_unit() -> None:
    assert parse_length("2", unit="in") == 50.8
    assert parse_size("12x24in") == (304.8, 609.6)
    assert parse_size("305x305mm") == (305, 305)
    with pytest.raises(LengthError):
        parse_size("305mm")


@given(st.floats(0.05, 4000))
def test_a_shown_length_reads_back(mm: float) -> None:
    assert parse_length(format_length(mm, "mm")) == pytest.approx(mm, abs=0.051)
    assert parse_length(format_length(mm, "in")) == pytest.approx(mm, abs=0.0128)


@given(st.tuples(*[st.integers(0, 255)] * 3))
def test_colours_survive_hex_and_have_a_name(rgb: tuple[int, int, int]) -> None:
    assert from_hex(to_hex(rgb)) == rgb
    assert colour_name(rgb)[0].isupper()


def test_colour_space_matches_published_values() -> None:
    assert to_lab((255, 255, 255)) == pytest.approx([100, 0, 0], abs=0.02)
    assert to_lab((255, 0, 0)) == pytest.approx([53.24, 80.09, 67.20], abs=0.05)
    assert float(delta_e((0, 0, 0), (255, 255, 255))) == pytest.approx(100, abs=0.02)
    with pytest.raises(RecipeError):
        from_hex("red")


PLAIN = {
    "Red": "#ff0000 #dc143c #c0392b", "Dark red": "#800000", "Orange": "#ff8c00", "Gold": "#f2b632 #ffd700",
    "Yellow": "#ffff00 #dcc814", "Olive": "#808000 #6b8e23", "Green": "#008000 #00ff00", "Dark green": "#1b5e20",
    "Teal": "#008080 #2f8f8b", "Light blue": "#87ceeb", "Blue": "#0000ff #1e3cc8 #2563eb #4169e1 #3c96e6",
    "Dark blue": "#1e40af", "Navy": "#1d2b53 #191970", "Violet": "#8a2be2 #6a0dad #961ea0", "Dark violet": "#4b0082 #800080",
    "Magenta": "#ff00ff", "Pink": "#ff69b4", "Light pink": "#ffc0cb", "Brown": "#8b4513", "Cream": "#fff4d6",
    "Sand": "#d2b48c", "White": "#ffffff", "Black": "#000000 #0a0a0a",
    "Grey": "#808080", "Light grey": "#c0c0c0", "Dark grey": "#404040",
}  # fmt: skip


@pytest.mark.parametrize(("name", "colours"), PLAIN.items())
def test_plain_colours_are_called_what_everybody_calls_them(name: str, colours: str) -> None:
    assert {colour_name(from_hex(colour)) for colour in colours.split()} == {name}


def test_films_called_alike_are_numbered() -> None:
    names = film_names([(20, 30, 80), (22, 32, 84), (250, 250, 250), (24, 34, 88)])
    assert names == ["Navy", "Navy 2", "White", "Navy 3"]


def test_enclosing_shapes_are_proposed_below_what_they_enclose() -> None:
    shapes = [ZOO["disc"], ZOO["island in hole"], ZOO["square"]]
    assert propose_order([as_multi(s) for s in shapes]) == [1, 2, 0]


@given(st.floats(0, 0.98), st.floats(0.01, 1))
def test_a_part_of_a_cubic_lies_on_it(begin: float, share: float) -> None:
    end = begin + (1 - begin) * share
    part = sub_piece(WAVE, begin, end)

    def at(c: np.ndarray, t: float) -> np.ndarray:
        r = 1 - t
        return r**3 * c[0] + 3 * r * r * t * c[1] + 3 * r * t * t * c[2] + t**3 * c[3]

    for t in (0.0, 0.3, 1.0):
        assert at(part, t) == pytest.approx(at(WAVE, begin + (end - begin) * t), abs=1e-9)


def test_flattening_stays_within_its_tolerance_and_reverses() -> None:
    chain = Chain(WAVE[None], np.array([False]))
    coarse, fine = flatten_chain(chain, 0.02), flatten_chain(chain, 1e-6)
    import shapely

    assert shapely.hausdorff_distance(shapely.LineString(coarse), shapely.LineString(fine)) <= 0.02
    assert np.allclose(flatten_chain(reverse_chain(chain), 0.02)[::-1], coarse, atol=1e-9)


def test_marks_lie_outside_the_frame_and_tell_a_flip() -> None:
    frame = (10.0, 20.0, 90.0, 70.0)
    marks = [chain for at in mark_places(frame, 3, inside=False) for chain in mark("crosses", at)]
    centres = [m.pieces[:, 0].mean(axis=0) for m in marks]
    assert len(marks) == 3
    room = with_marks(frame, 3, inside=False)
    for cross in marks:
        x, y = cross.pieces[:, :, 0], cross.pieces[:, :, 1]
        assert room[0] <= x.min()
        assert x.max() <= room[2]
        assert not (x.max() > frame[0] and x.min() < frame[2] and y.max() > frame[1] and y.min() < frame[3])
    mirrored = sorted((100 - c[0], c[1]) for c in centres)
    assert mirrored != sorted((c[0], c[1]) for c in centres)


@pytest.mark.parametrize(("value", "text"), [(1.0, "1"), (-0.00001, "0"), (12.34567, "12.3457"), (100.0, "100")])
def test_numbers_are_written_short(value: float, text: str) -> None:
    assert number(value) == text


def test_written_svg_reads_back_in_real_millimetres() -> None:
    square = line_chain(np.array([[10.0, 10], [40, 10], [40, 30], [10, 30], [10, 10]]))
    layer = SvgLayer("01-sky", 'Sky & "dusk" <blue>', "#223355", (square,))
    text = stack_svg("A & B", (0, 0, 120, 80), [layer])
    read = SVG.parse(io.StringIO(text), ppi=25.4)
    assert (read.width, read.height) == pytest.approx((120, 80), abs=1e-3)
    (path,) = [e for e in read.elements() if isinstance(e, Path)]
    assert path.bbox() == pytest.approx((10, 10, 40, 30), abs=1e-3)
    assert re.search(r'<g id="01-sky" fill="#223355"><title>Sky &amp; "dusk" &lt;blue&gt;</title>', text)
