"""Which rules of a style sheet hold, which part of several is meant: each case comes out green if it is read as it should."""

from __future__ import annotations

import pytest

from gladstack.core.drawing.svg_read import read_svg

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
    assert not drawing.findings
