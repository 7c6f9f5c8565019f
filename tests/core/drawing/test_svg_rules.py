"""Which rules of a style sheet hold, which part of several is meant: each case comes out green if read as it should."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.core.drawing.svg_read import read_svg
from tests.examples import examples

GREEN = "#00ff00"
BOX = 'width="10" height="10"'


def sheet(rules: str, body: str) -> str:
    return f"<style>{rules}</style>{body}"


CASES = {
    "an attribute": sheet('[data-a="x"]{fill:#0f0}', f'<rect data-a="x" {BOX}/>'),
    "how an attribute begins": sheet('rect[id^="ab"]{fill:#0f0}', f'<rect id="abc" {BOX}/>'),
    "that there is an attribute": sheet("rect[fill]{fill:#0f0}", f'<rect fill="red" {BOX}/>'),
    "a word of an attribute": sheet('[class~="b"]{fill:#0f0}', f'<rect class="a b" {BOX}/>'),
    "an attribute in any case": sheet('[data-a="X" i]{fill:#0f0}', f'<rect data-a="x" {BOX}/>'),
    "a language above": sheet(":lang(en){fill:#0f0}", f'<g xml:lang="en-GB"><rect {BOX}/></g>'),
    "a language without a prefix": sheet(":lang(en){fill:#0f0}", f'<g lang="en"><rect {BOX}/></g>'),
    "another language": sheet("rect{fill:#0f0} :lang(fr){fill:#f00}", f'<rect xml:lang="en" {BOX}/>'),
    "the first of one id": f'<defs><rect id="a" {BOX} fill="#0f0"/><rect id="a" {BOX} fill="#f00"/></defs><use href="#a"/>',
    "a place among others": sheet("rect:nth-child(3){fill:#0f0}", f"<g/><rect {BOX}/>"),
    "what is not": sheet("rect:not(.x){fill:#0f0}", f"<rect {BOX}/>"),
    "what stands before": sheet("g ~ rect{fill:#0f0}", f"<g/><rect {BOX}/>"),
    "the first that is meant": f'<switch><rect systemLanguage="zz" {BOX} fill="red"/><rect systemLanguage="de, en" {BOX} '
    f'fill="#0f0"/><rect {BOX} fill="blue"/></switch>',
    "what is left if none is": f'<switch><rect systemLanguage="zz" {BOX} fill="red"/><rect {BOX} fill="#0f0"/></switch>',
    "what asks for more": f'<switch><g requiredExtensions="x:y"><rect {BOX}/></g><rect {BOX} fill="#0f0"/></switch>',
    "a part for others by itself": f'<rect systemLanguage="zz" {BOX} fill="red"/><rect width="5" height="5" fill="#0f0"/>',
}


@pytest.mark.parametrize("case", CASES)
def test_rules_hold_as_the_standard_says(case: str) -> None:
    page = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10" width="10mm" height="10mm">{CASES[case]}</svg>'
    drawing = read_svg(page.encode())
    assert {item.colour for item in drawing.items} == {GREEN}
    assert not drawing.remarks


@settings(max_examples=examples(30), deadline=None)
@given(
    st.lists(st.tuples(st.floats(0, 80), st.floats(0, 80)), min_size=2, max_size=6), st.sampled_from(["", 'stroke="#00f"'])
)
def test_copies_of_a_part_are_what_the_part_itself_would_be_there(places: list[tuple[float, float]], line: str) -> None:
    star = 'd="M5,0 L8,9 L0,3 L10,3 L2,9Z" fill="#0f0" fill-rule="evenodd"'
    head = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" width="100mm" height="100mm">'
    used = "".join(f'<use href="#s" x="{x:.5f}" y="{y:.5f}"/>' for x, y in places)
    lone = [f'{head}<g transform="translate({x:.5f} {y:.5f})"><path {star} {line}/></g></svg>' for x, y in places]
    copies = read_svg(f'{head}<defs><path id="s" {star} {line}/></defs>{used}</svg>'.encode()).items
    alone = [item for one in lone for item in read_svg(one.encode()).items]
    assert [item.colour for item in copies] == [item.colour for item in alone]
    for a, b in zip(copies, alone, strict=True):
        assert a.shape.area == pytest.approx(b.shape.area, rel=1e-3)
        assert a.shape.bounds == pytest.approx(b.shape.bounds, abs=2e-3)
        assert len(a.curves) == len(b.curves)
