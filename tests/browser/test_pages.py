"""A PDF file by hand: brought in, another page of it taken, and a drawing pasted as text."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from reportlab.pdfgen import canvas
from selenium.webdriver.support.ui import Select

from tests.browser.counted import Counted

MM = 72 / 25.4


def test_the_second_page_of_a_pdf(maker: Counted, within: Callable[[int], None], tmp_path: Path) -> None:
    path = tmp_path / "signs.pdf"
    pen = canvas.Canvas(str(path), pagesize=(100 * MM, 80 * MM))
    pen.setFillColorRGB(0.8, 0.1, 0.1)
    pen.circle(50 * MM, 40 * MM, 20 * MM, stroke=0, fill=1)
    pen.showPage()
    pen.setFillColorRGB(0.1, 0.2, 0.6)
    pen.rect(10 * MM, 10 * MM, 60 * MM, 30 * MM, stroke=0, fill=1)
    pen.setFont("Helvetica-Bold", 30)
    pen.drawString(12 * MM, 55 * MM, "Dome")
    pen.save()
    made = maker.file(path)
    assert made["built"]["width_mm"] == pytest.approx(40, abs=0.01)
    maker.see_text("This file has 2 pages. This is page 1.")
    maker.press("Page 2")
    made = maker.built_when(lambda d: d["recipe"]["arts"][0]["page"] == 2, "the page was not taken")
    (layer,) = made["built"]["layers"]
    assert layer["colour"] == "#1a3399"
    assert layer["pieces"] == 5
    maker.undo()
    maker.built_when(lambda d: d["built"]["width_mm"] == pytest.approx(40, abs=0.01), "undo does not give the page back")
    maker.go_to("Art")
    page = Select(maker.see('//label[span[normalize-space()="Page"]]//select'))
    assert [option.text for option in page.options] == ["1 of 2", "2 of 2"]
    within(6)


def test_a_drawing_that_was_copied_as_text(maker: Counted) -> None:
    svg = (
        '<svg xmlns="http://www.w3.org/2000/svg" width="50mm" height="20mm" viewBox="0 0 50 20">'
        '<rect width="50" height="20" fill="#1f7a7a"/></svg>'
    )
    maker.browser.execute_script(
        "const held = new DataTransfer(); held.setData('text/plain', arguments[0]);"
        "document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: held, bubbles: true }));",
        svg,
    )
    maker.see("//canvas")
    made = maker.built_when(lambda d: d["built"], "nothing was made of it")
    assert made["built"]["width_mm"] == pytest.approx(50, abs=1e-6)
    assert made["built"]["layers"][0]["colour"] == "#1f7a7a"
