"""Layers of vector files: known by their names, each a film of its own where the maker wants it."""

from __future__ import annotations

import io
from collections.abc import Sequence

import ezdxf
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.core.drawing.layers import layer_name, layers_of
from gladstack.recipe.art.vectors import FEWER_COLOURS, HowRead, looked_at, read_and_seen, read_vector
from tests.examples import examples

SHADES = ["#111111", "#c0392b", "#2e8b57"]
LABEL = 'xmlns:own="urn:own" own:label'


def svg(*groups: tuple[str, str]) -> bytes:
    """Layers with a square of a colour each, side by side."""
    layers = "".join(
        f'<g {LABEL}="{name}"><path fill="{colour}" d="M{20 * k} 0h10v10h-10z"/></g>'
        for k, (name, colour) in enumerate(groups)
    )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="40mm" viewBox="0 0 200 40">{layers}</svg>'.encode()
    )


def dxf(*layers: str) -> bytes:
    """A square on each layer, all in the colour of paper."""
    document = ezdxf.new(units=4)  # type: ignore[attr-defined]
    for k, layer in enumerate(layers):
        if layer not in document.layers:
            document.layers.add(layer)
        square = [(20 * k, 0), (20 * k + 10, 0), (20 * k + 10, 10), (20 * k, 10)]
        document.modelspace().add_lwpolyline(square, close=True, dxfattribs={"layer": layer})
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()


def test_layers_of_one_colour_each_are_films_called_by_their_names() -> None:
    data = svg(("Night sky", "#1d2b53"), ("Dome", "#c0392b"), ("Door", "#c0392b"))
    assert looked_at(data).films_by == "layers"
    read = read_and_seen(data, HowRead(by="layers"))
    assert [name for _, name in read.names] == ["Night sky", "Dome", "Door"]
    assert len({colour for colour, _ in read.names}) == 3
    assert [round(shape.area) for _, shape in read.seen] == [100, 100, 100]
    # By colours the two red layers are one film, which has no layer's name.
    by_colour = read_and_seen(data)
    assert [round(shape.area) for _, shape in by_colour.seen] == [100, 200]
    assert by_colour.names == ()


def test_colours_that_are_each_on_a_layer_of_their_own_are_called_by_it_either_way() -> None:
    data = svg(("Sky", "#1d2b53"), ("Dome", "#c0392b"))
    assert read_and_seen(data).names == (("#1d2b53", "Sky"), ("#c0392b", "Dome"))


def test_layers_of_many_colours_are_films_by_colour_unless_chosen() -> None:
    data = svg(("Owl", "#1d2b53"), ("Owl", "#c0392b"), ("Tree", "#2e8b57"))
    assert looked_at(data).films_by == "colours"
    assert [layer.name for layer in read_vector(data).layering.layers] == ["Owl", "Tree"]
    read = read_and_seen(data, HowRead(by="layers"))
    assert [round(shape.area) for _, shape in read.seen] == [200, 100]


def test_lines_of_one_colour_on_several_layers_are_films_of_their_own() -> None:
    data = dxf("CUT_outer", "CUT_inner", "0")
    assert looked_at(data).films_by == "layers"
    read = read_and_seen(data, HowRead(by="layers"))
    assert dict(read.names).keys() <= {colour for colour, _ in read.seen}
    assert [name for _, name in read.names] == ["CUT outer", "CUT inner"]
    assert sorted(round(shape.area) for _, shape in read.seen) == [100, 100, 100]


@settings(max_examples=examples(40), deadline=None)
@given(
    st.lists(
        st.tuples(st.sampled_from("ABCDE"), st.sampled_from(["#111111", "#c0392b", "#2e8b57"])), min_size=1, max_size=10
    )
)
def test_by_layers_as_much_is_cut_as_by_colours(groups: list[tuple[str, str]]) -> None:
    data = svg(*groups)
    by_colour, by_layer = (
        shapely.union_all([shape for _, shape in read_and_seen(data, HowRead(by=by)).seen])  # type: ignore[arg-type]
        for by in ("colours", "layers")
    )
    assert by_colour.symmetric_difference(by_layer).area < 1e-9


@pytest.mark.parametrize(
    ("told", "name"),
    [("Layer_x0020_2", "Layer 2"), ("g1234", ""), ("path-12", ""), ("Night_sky", "Night sky"), ("_x32_", ""), ("", "")],
)
def test_what_programs_call_their_groups_is_no_name(told: str, name: str) -> None:
    assert layer_name(told) == name


def test_groups_that_only_have_an_id_are_no_films_by_themselves() -> None:
    """Forty stars in forty groups are one film; the names are used where each colour has a group of its own."""
    stars = svg(*((f"star {k}", "#f2b632") for k in range(9))).replace(b'xmlns:own="urn:own" own:label', b"id")
    assert looked_at(stars).films_by == "colours"
    named = svg(("Sky", "#1d2b53"), ("Dome", "#c0392b")).replace(b'xmlns:own="urn:own" own:label', b"id")
    assert looked_at(named).films_by == "colours"
    assert [name for _, name in read_and_seen(named).names] == ["Sky", "Dome"]


def test_what_goes_round_all_there_is_says_nothing() -> None:
    found = layers_of([("Page", "A"), ("Page", "B"), ("Page", "B")], ["#111111", "#c0392b", "#c0392b"], ())
    assert [layer.name for layer in found.layers] == ["A", "B"]
    assert layers_of([("Page",), ("Page",)], ["#111111", "#c0392b"], ()).layers == ()


def test_very_many_colours_come_in_as_few_films() -> None:
    shades = [f"#{(k * 37) % 256:02x}{(k * 91) % 256:02x}{(k * 53) % 256:02x}" for k in range(700)]
    squares = "".join(f'<path fill="{c}" d="M{k % 40} {k // 40}h1v1h-1z"/>' for k, c in enumerate(shades))
    data = f'<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="40mm" viewBox="0 0 40 20">{squares}</svg>'.encode()
    assert looked_at(data).count == FEWER_COLOURS


def pdf(*layers: tuple[str, str], hidden: Sequence[int] = ()) -> bytes:
    """A page with a square for each layer, side by side, in its colour; some of them switched off."""
    first = 5
    inks = ["{:g} {:g} {:g}".format(*(int(colour[k : k + 2], 16) / 255 for k in (1, 3, 5))) for _, colour in layers]
    drawn = " ".join(f"/OC /M{k} BDC {ink} rg {60 * k} 10 40 40 re f EMC" for k, ink in enumerate(inks))
    known = " ".join(f"/M{k} {first + k} 0 R" for k in range(len(layers)))
    listed = " ".join(f"{first + k} 0 R" for k in range(len(layers)))
    off = " ".join(f"{first + k} 0 R" for k in hidden)
    bodies = [
        f"<< /Type /Catalog /Pages 2 0 R /OCProperties << /OCGs [{listed}] /D << /OFF [{off}] /Order [{listed}] >> >> >>",
        "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
        f"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 400 60] /Contents 4 0 R /Resources << /Properties << {known} >> >> >>",
        f"<< /Length {len(drawn)} >>\nstream\n{drawn}\nendstream",
        *(f"<< /Type /OCG /Name <feff{name.encode('utf-16-be').hex()}> >>" for name, _ in layers),
    ]
    out, places = b"%PDF-1.5\n", []
    for number, body in enumerate(bodies, 1):
        places.append(len(out))
        out += f"{number} 0 obj\n{body}\nendobj\n".encode()
    table = "".join(f"{place:010d} 00000 n \n" for place in places)
    end = f"xref\n0 {len(bodies) + 1}\n0000000000 65535 f \n{table}trailer << /Size {len(bodies) + 1} /Root 1 0 R >>\n"
    return out + f"{end}startxref\n{len(out)}\n%%EOF".encode()


def test_layers_of_a_pdf_are_films_called_by_their_names() -> None:
    data = pdf(("Night sky", "#1d2b53"), ("Kuppel & Tür", "#c0392b"), ("Door", "#c0392b"))
    assert looked_at(data).films_by == "layers"
    read = read_and_seen(data, HowRead(by="layers"))
    assert [name for _, name in read.names] == ["Night sky", "Kuppel & Tür", "Door"]


def test_a_layer_that_a_pdf_hides_is_left_out_and_said() -> None:
    data = pdf(("Sky", "#1d2b53"), ("Guides", "#c0392b"), ("Door", "#2e8b57"), hidden=[1])
    drawing = read_vector(data)
    assert [item.groups for item in drawing.items] == [("Sky",), ("Door",)]
    assert any("hides" in remark.text for remark in drawing.remarks)
    shown = read_vector(pdf(("Sky", "#1d2b53"), ("Guides", "#c0392b"), ("Door", "#2e8b57")))
    assert len(shown.items) == 3
    assert shown.remarks == ()
