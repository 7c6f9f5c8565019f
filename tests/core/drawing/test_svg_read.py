"""Foreign SVG files: each construct against an independent renderer, and hostile files refused."""

from __future__ import annotations

import re
from pathlib import Path

import numpy as np
import pytest
import shapely
from shapely import MultiPolygon

from gladstack.core.base.errors import VectorError
from gladstack.core.drawing.drawing import Drawing, OpenEnds, OpenPaths
from gladstack.core.drawing.seen import visible
from gladstack.core.drawing.svg_read import read_svg
from tests.pictures import render

WIDTH = 1600
HEAD = (
    '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="80mm" height="60mm" '
    'viewBox="0 0 80 60">'
)
CORPUS = sorted((Path(__file__).parent / "svg").glob("*.svg"))


def painted(drawing: Drawing) -> str:
    """What was read, painted in order."""

    def path(shape: MultiPolygon) -> str:
        rings = [r for p in shape.geoms for r in (p.exterior, *p.interiors)]
        return "".join("M" + "L".join(f"{x:.4f} {y:.4f}" for x, y in r.coords) + "z" for r in rings)

    body = "".join(f'<path fill="{i.colour}" fill-rule="evenodd" d="{path(i.shape)}"/>' for i in drawing.items)
    return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {drawing.width_mm} {drawing.height_mm}">{body}</svg>'


def whole(body: str) -> str:
    return f"{HEAD}{body}</svg>"


@pytest.mark.parametrize("path", CORPUS, ids=lambda p: p.stem)
def test_what_is_read_is_what_another_renderer_paints(path: Path) -> None:
    drawing = read_svg(path.read_bytes())
    assert (drawing.width_mm, drawing.height_mm) == pytest.approx((80, 60))
    theirs = np.array(render(path.read_text().replace('mm"', '"'), WIDTH).convert("RGBA")).astype(float)
    ours = np.array(render(painted(drawing), WIDTH).convert("RGBA"))
    area = (theirs[..., 3] / 255).sum()
    assert area > 0
    assert (np.abs(theirs - ours).max(axis=2) / 255).sum() / area < 0.003


@pytest.mark.parametrize("path", CORPUS, ids=lambda p: p.stem)
def test_what_is_seen_of_each_colour_overlaps_nowhere(path: Path) -> None:
    items = read_svg(path.read_bytes()).items
    seen = list(visible(items).values())
    assert all(s.is_valid for s in seen)
    whole_area = shapely.union_all([i.shape for i in items]).area
    assert sum(s.area for s in seen) == pytest.approx(whole_area, rel=1e-6)


@pytest.mark.parametrize(
    ("size", "expected", "told"),
    [
        ('width="80mm" height="60mm" viewBox="0 0 800 600"', (80, 60), True),
        ('width="4in" height="2in"', (101.6, 50.8), True),
        ('width="96" height="48" viewBox="0 0 10 5"', (25.4, 12.7), False),
        ('viewBox="0 0 96 192"', (25.4, 50.8), False),
        ('width="100%" height="100%" viewBox="0 0 96 96"', (25.4, 25.4), False),
        ('width="72pt" height="36pt"', (25.4, 12.7), True),
    ],
)
def test_the_real_size_is_what_the_file_tells(size: str, expected: tuple[float, float], told: bool) -> None:
    text = f'<svg xmlns="http://www.w3.org/2000/svg" {size}><rect width="2" height="2"/></svg>'
    drawing = read_svg(text.encode())
    assert (drawing.width_mm, drawing.height_mm) == pytest.approx(expected)
    assert drawing.told is told


OPEN = (
    '<path d="M5 5H35V25" fill="none" stroke="#c0392b" stroke-width="2"/><path d="M45 5H75V25" fill="#1d2b53"/>'
    '<path d="M5 35H35V55z" fill="none" stroke="#2f8f8b" stroke-width="1"/>'
)


@pytest.mark.parametrize(
    ("how", "red", "navy"), [("as-told", 30 * 2 + 20 * 2, 300.0), ("close", 300.0, 300.0), ("expand", 100.0, 50 + 0.79)]
)
def test_open_paths_are_painted_closed_or_expanded_as_chosen(how: OpenPaths, red: float, navy: float) -> None:
    drawing = read_svg(whole(OPEN).encode(), ends=OpenEnds(how, 1.0))
    assert drawing.open_paths == 2
    areas = {i.colour: i.shape.area for i in drawing.items}
    assert areas["#c0392b"] == pytest.approx(red, rel=0.02)
    assert areas["#1d2b53"] == pytest.approx(navy, rel=0.02)
    assert areas["#2f8f8b"] == pytest.approx(30 + 20 + 36.06, rel=0.03)


def test_what_cannot_be_cut_is_told() -> None:
    body = """<defs><linearGradient id="g"><stop offset="0" stop-color="#ff0000"/>
        <stop offset="1" stop-color="#0000ff"/></linearGradient></defs><rect width="20" height="20" fill="url(#g)"/>
        <text x="1" y="9">Moon</text>
        <rect x="30" width="9" height="9" opacity=".5"/>
        <use href="http://elsewhere.example/a.svg#b"/>"""
    drawing = read_svg(whole(body).encode())
    assert {f.code for f in drawing.remarks} == {"gradient", "text", "see-through", "outside"}
    assert drawing.items[0].colour in ("#800080", "#7f007f", "#80007f", "#7f0080")


def test_a_file_that_only_wraps_a_picture_says_so_and_hands_it_over() -> None:
    import base64

    from tests.pictures import picture_of

    data = picture_of("dome", 64)
    body = f'<image width="80" height="60" href="data:image/png;base64,{base64.b64encode(data).decode()}"/>'
    drawing = read_svg(whole(body).encode())
    assert (drawing.items, drawing.pictures, drawing.picture) == ((), 1, data)


HOSTILE = {
    "entities": '<?xml version="1.0"?><!DOCTYPE s [<!ENTITY a "x"><!ENTITY b "&a;&a;">]>' + whole("<g>&b;</g>"),
    "outside entity": '<!DOCTYPE s [<!ENTITY a SYSTEM "file:///etc/passwd">]>' + whole("<text>&a;</text>"),
    "depth": whole("<g>" * 500 + '<rect width="1" height="1"/>' + "</g>" * 500),
    "copies of copies": whole(
        '<defs><g id="a0"><rect width="1" height="1"/></g>'
        + "".join(f'<g id="a{k}">' + f'<use href="#a{k - 1}"/>' * 10 + "</g>" for k in range(1, 9))
        + '</defs><use href="#a8"/>'
    ),
    "a ring of copies": whole('<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g>'),
    "huge coordinates": whole('<rect x="1e12" width="5" height="5"/>'),
    "not whole": whole("<g>")[:-8],
    "no drawing": "<html><body/></html>",
    "nothing": whole(""),
    "no XML": "hello",
}


@pytest.mark.parametrize("name", HOSTILE)
def test_hostile_and_broken_files_are_refused_with_a_reason(name: str) -> None:
    with pytest.raises(VectorError) as refused:
        read_svg(HOSTILE[name].encode())
    assert refused.value.remedy or name == "nothing"
    assert not re.search(r"Traceback|0x", str(refused.value))


def test_a_fault_in_path_data_leaves_the_rest() -> None:
    drawing = read_svg(whole('<path d="M0 0L10 x" fill="red"/><rect width="9" height="9" fill="#1d2b53"/>').encode())
    assert drawing.items[-1].colour == "#1d2b53"


SQUARE = '<rect width="20" height="20" {} />'


@pytest.mark.parametrize(
    ("style", "colour"),
    [
        ('fill="rgba(10, 20, 30, 0.5)"', "#0a141e"),
        ('fill="rgb(10 20 30)"', "#0a141e"),
        ('fill="rgb(10.4, 20.4, 29.6)"', "#0a141e"),
        ('fill="hsl(120, 50%, 50%)"', "#40bf40"),
        ('fill="#0a141ecc"', "#0a141e"),
        ('color="#0a141e" fill="currentColor"', "#0a141e"),
        ('class="loud" style="fill: red"', "#0a141e"),
        ('class="within"', "#0a141e"),
        ('class="other"', "#0a141e"),
        ('class="not"', "#000000"),
    ],
)
def test_colours_and_rules_are_read_as_the_standards_say(style: str, colour: str) -> None:
    sheet = """<style>/* } */ .loud { fill: #0a141e !important } @media screen { .within { fill: rgb(10 20 30) } }
        @media print { .not { fill: blue } } rect:not(.loud, .within, .not)[width="20"] { fill: #0a141e }</style>"""
    drawing = read_svg(whole((sheet if "class" in style else "") + SQUARE.format(style)).encode())
    assert [i.colour for i in drawing.items] == [colour]


@pytest.mark.parametrize(
    ("body", "told", "area"),
    [
        ('<path id="roof" d="M0 0H20V20H0z M30 30L40 x L9 9"/>', "path “roof” d, at character", 400),
        ('<rect width="20" height="20"/><rect x="calc(1px)" width="9" height="9"/>', "rect 2 x=“calc(1px)”", 400),
        ('<rect width="20" height="20"/><rect width="1e309" height="9"/>', "rect 2 width=“1e309”", 400),
        ('<rect width="20" height="20"/><rect width="1e-308" height="9"/>', "rect 2 width=“1e-308”", 400),
        ('<g transform="rotate(abc)"><rect width="20" height="20"/></g>', "g 1 transform=“rotate(abc)”", 400),
        ('<svg viewBox="0 0 - 5"><rect width="20" height="20"/></svg>', "svg 2 viewBox=“0 0 - 5”", 400),
        ('<rect width="20" height="20" fill="lab(1 2 3)"/>', "rect 1 fill=“lab(1 2 3)”", 400),
        ('<path d="M0 0A0 5 0 0 1 20 0V20H0z"/>', None, 400),
        ('<rect width="25%" height="50%"/>', None, 20 * 30),
    ],
)
def test_what_cannot_be_read_is_told_with_its_place_and_the_rest_is_drawn(body: str, told: str | None, area: float) -> None:
    drawing = read_svg(whole(body).encode())
    assert sum(i.shape.area for i in drawing.items) == pytest.approx(area)
    numbers = next((f.text for f in drawing.remarks if f.code == "numbers"), None)
    assert (told is None) == (numbers is None)
    assert told is None or told in (numbers or "")


def circles(count: int) -> str:
    return "".join(f"M{50 + r} 30A{r} {r} 0 0 1 {50 - r} 30A{r} {r} 0 0 1 {50 + r} 30z" for r in np.linspace(1, 29, count))


TOO_MUCH = {
    "dashes": '<path d="M0 0H80" stroke="red" stroke-dasharray="0.00001 0.00001"/>',
    "cross each other": '<path d="M' + " ".join(f"{(k * 7919) % 80} {(k * 104729) % 60}" for k in range(3000)) + 'z"/>',
    "separate outlines": '<path d="' + "M0 0h1v1z" * 30_000 + '"/>',
    "painted shapes": '<rect width="1" height="1"/>' * 20_000,
    "colours": "".join(f'<rect fill="#{k:06x}" x="{k % 60}" width="1" height="1"/>' for k in range(1200)),
    "rules": "<style>" + ".a{fill:red}" * 6000 + '</style><rect width="9" height="9"/>',
    "10 m": '<rect width="20000000" height="9"/>',
    "stroke more than 10 m": '<path d="M0 0H9" stroke="red" stroke-width="90000000"/>',
}


@pytest.mark.parametrize("what", TOO_MUCH)
def test_what_asks_for_too_much_is_told_with_its_figure(what: str) -> None:
    with pytest.raises(VectorError, match=what) as refused:
        read_svg(whole(TOO_MUCH[what]).encode())
    assert re.search(r"\d", refused.value.problem)
    assert refused.value.remedy


def test_many_rings_nest_as_they_are_drawn() -> None:
    drawing = read_svg(whole(f'<path fill-rule="evenodd" d="{circles(400)}"/>').encode())
    (item,) = drawing.items
    assert item.shape.is_valid
    assert len(item.shape.geoms) == 200
    radii = np.linspace(1, 29, 400)
    assert item.shape.area == pytest.approx(np.pi * float((radii[1::2] ** 2 - radii[::2] ** 2).sum()), rel=2e-3)


def test_a_clip_in_shares_may_stand_within_others() -> None:
    clip = '<clipPath id="c" clipPathUnits="objectBoundingBox"><rect x=".25" width=".5" height="1"/></clipPath>'
    body = clip + '<g clip-path="url(#c)">' * 20 + '<rect width="40" height="40"/>' + "</g>" * 20
    assert read_svg(whole(body).encode()).items[0].shape.area == pytest.approx(800)


@pytest.mark.parametrize(
    ("body", "colour"),
    [
        ('<rect width="20" height="20" fill="var(--sky, #0a141e)"/>', "#0a141e"),
        ('<g style="--sky: rgb(10 20 30)"><rect width="20" height="20" style="fill: var(--sky, red)"/></g>', "#0a141e"),
        ('<g style="--a: var(--b, #0a141e)"><rect width="20" height="20" fill="var(--a)"/></g>', "#0a141e"),
        ("<style>:root { --c: #0a141e } rect { fill: var(--c) }</style><rect width='20' height='20'/>", "#0a141e"),
        ('<rect width="20" height="20" fill="var(--one, var(--two, rgb(3.9%, 7.8%, 11.8%)))"/>', "#0a141e"),
        ('<g fill="#0a141e"><rect width="20" height="20" fill="inherit"/></g>', "#0a141e"),
        ('<g color="#0a141e"><rect width="20" height="20" fill="currentColor"/></g>', "#0a141e"),
        ('<rect width="20" height="20" style="--x: var(--x)" fill="var(--x, #0a141e)"/>', "#0a141e"),
    ],
)
def test_custom_properties_and_inherited_paint_are_read(body: str, colour: str) -> None:
    assert [i.colour for i in read_svg(whole(body).encode()).items] == [colour]


def test_markers_stand_at_the_corners_as_another_renderer_draws_them() -> None:
    body = """<defs><marker id="m" viewBox="0 0 10 10" refX="5" refY="5" markerWidth="4" markerHeight="4" orient="auto">
        <path d="M0 0L10 5L0 10z" fill="#c0392b"/></marker></defs>
        <path d="M10 30L40 12L70 50" fill="none" stroke="#1d2b53" stroke-width="2" marker-start="url(#m)"
        style="marker-mid: url(#m); marker-end: url(#m)"/>"""
    drawing = read_svg(whole(body).encode())
    red = [i.shape for i in drawing.items if i.colour == "#c0392b"]
    assert len(red) == 3
    assert all(shape.area == pytest.approx(0.5 * 8 * 8, rel=1e-3) for shape in red)
    page = f'<svg xmlns="http://www.w3.org/2000/svg" width="80" height="60" viewBox="0 0 80 60">{body}</svg>'
    picture = np.array(render(page, 800).convert("RGBA")).astype(int)
    drawn = (picture[..., 0] > 150) & (picture[..., 1] < 120) & (picture[..., 2] < 120)
    drawn &= picture[..., 3] > 127
    mm_per_px = 80 / 800
    assert drawn.sum() * mm_per_px**2 == pytest.approx(sum(s.area for s in red), rel=0.04)
    for shape in red:
        x, y = shape.centroid.coords[0]
        assert drawn[round(y / mm_per_px), round(x / mm_per_px)]


@pytest.mark.parametrize(("opacity", "kept"), [("0.3", False), ("0.6", True)])
def test_paint_that_hardly_shows_is_left_out_and_told_with_its_share(opacity: str, kept: bool) -> None:
    veil = f'<g opacity="{opacity}"><rect width="50" height="60" fill="#ffffff"/></g>'
    drawing = read_svg(whole('<rect width="20" height="20" fill="#c0392b"/>' + veil).encode())
    assert ("#ffffff" in {i.colour for i in drawing.items}) == kept
    told = {f.code: f.text for f in drawing.remarks}
    assert "62.5%" in told["see-through" if kept else "veil"]


@pytest.mark.parametrize(
    ("tint", "made"),
    [
        ('<rect x="2" y="2" width="9" height="9" fill="#000000" fill-opacity="0.2"/>', {"#c0392b", "#9a2e22"}),
        ('<rect x="2" y="2" width="9" height="9" fill="#000000" opacity="0.5"/>', {"#c0392b", "#601c16"}),
        ('<rect x="10" y="2" width="30" height="9" fill="#000000" opacity="0.2"/>', {"#c0392b"}),
        ('<rect x="10" y="2" width="30" height="9" fill="#000000" opacity="0.5"/>', {"#c0392b", "#000000"}),
    ],
)
def test_a_tint_over_one_colour_can_be_a_film_of_the_colour_they_make(tint: str, made: set[str]) -> None:
    drawing = read_svg(whole('<rect width="20" height="20" fill="#c0392b"/>' + tint).encode(), tints="mixed")
    assert {item.colour for item in drawing.items} == made
    assert "see-through" in {f.code for f in drawing.remarks}


def test_tints_lie_on_what_the_tints_below_them_make() -> None:
    two = '<rect x="2" y="2" width="9" height="9" fill="#000000" opacity="0.5"/>' * 2
    drawing = read_svg(whole('<rect width="20" height="20" fill="#804020"/>' + two).encode(), tints="mixed")
    assert [item.colour for item in drawing.items] == ["#804020", "#402010", "#201008"]
