"""PDF pages, plots and pictures of other formats, read as other programs read them."""

from __future__ import annotations

import io
import itertools

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image
from reportlab.lib.pdfencrypt import StandardEncryption
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen import canvas

from bench.pdf_pages import pdf_of, share_off
from gladstack.core.base.errors import PictureError, VectorError
from gladstack.core.drawing.hpgl_read import read_hpgl
from gladstack.core.picture.carried import carried
from gladstack.core.picture.decode import decode_picture
from gladstack.recipe.art.vectors import HowRead, is_vector, looked_at, picture_within, read_vector
from tests.examples import examples


@settings(max_examples=examples(25), deadline=None)
@given(st.integers(0, 100_000))
def test_a_page_is_read_as_another_program_paints_it(seed: int) -> None:
    assert share_off(pdf_of(seed), side_px=700) < 0.001


def test_each_page_is_one_by_itself() -> None:
    data = pdf_of(3, pages=3)
    drawings = [read_vector(data, HowRead(page=n)) for n in (1, 2, 3)]
    assert {d.pages for d in drawings} == {3}
    assert len({(d.width_mm, d.height_mm) for d in drawings}) == 3
    assert all(d.told for d in drawings)
    with pytest.raises(VectorError, match="no page 4"):
        read_vector(data, HowRead(page=4))


def _page(**how: object) -> tuple[canvas.Canvas, io.BytesIO]:
    out = io.BytesIO()
    return canvas.Canvas(out, pagesize=(200, 200), **how), out


def test_a_page_that_only_holds_a_picture_is_that_picture() -> None:
    jpeg = io.BytesIO()
    pixels = np.zeros((64, 64, 3), np.uint8)
    pixels[:, 32:] = (200, 40, 40)
    Image.fromarray(pixels).save(jpeg, "JPEG", quality=80)
    pen, out = _page()
    pen.drawImage(ImageReader(io.BytesIO(jpeg.getvalue())), 20, 20, 160, 160)
    pen.save()
    held = picture_within(out.getvalue())
    assert held is not None
    assert decode_picture(held).rgb.shape == (64, 64, 3)


def test_a_blank_first_page_is_passed_over() -> None:
    pen, out = _page()
    pen.showPage()
    pen.rect(20, 20, 100, 60, stroke=0, fill=1)
    pen.save()
    assert looked_at(out.getvalue()).page == 2
    assert looked_at(PLOT).page == 1
    pen, out = _page()
    pen.showPage()
    pen.save()
    with pytest.raises(VectorError, match="Nothing in this file"):
        looked_at(out.getvalue())


def test_only_sizes_that_are_not_told_can_be_read_otherwise() -> None:
    square = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9" {}><rect width="9" height="9"/></svg>'
    assert read_vector(pdf_of(3)).fixed
    assert read_vector(PLOT).fixed
    assert read_vector(square.format('width="9mm"').encode()).fixed
    assert not read_vector(square.format("").encode()).fixed


def test_words_nobody_sees_are_not_cut() -> None:
    pen, out = _page()
    pen.rect(20, 20, 100, 60, stroke=0, fill=1)
    words = pen.beginText(20, 120)
    words.setTextRenderMode(3)
    words.textLine("hidden")
    pen.drawText(words)
    pen.save()
    (item,) = read_vector(out.getvalue()).items
    assert item.shape.area == pytest.approx(100 * 60 * (25.4 / 72) ** 2, rel=1e-4)


def test_files_that_cannot_be_read_say_so() -> None:
    pen, out = _page(encrypt=StandardEncryption("secret", ownerPassword="more", strength=128))
    pen.rect(0, 0, 50, 50, fill=1)
    pen.save()
    with pytest.raises(VectorError, match="password"):
        read_vector(out.getvalue())
    for bad in (b"%PDF-1.7 nothing more", pdf_of(1)[:600]):
        with pytest.raises(VectorError, match="damaged"):
            read_vector(bad)
    eps = b"%!PS-Adobe-3.0 EPSF-3.0\n"
    assert is_vector(eps)
    with pytest.raises(VectorError, match="PostScript"):
        read_vector(eps)


PLOT = b"IN;SP1;PU400,400;PD2400,400,2400,1400,400,1400,400,400;PU;SP2;PU3000,1000;CI400;PU5000,0;PD6000,0;PU;"


def test_a_plot_is_read_back_pen_by_pen() -> None:
    assert is_vector(PLOT)
    drawing = read_vector(PLOT)
    square, circle = drawing.items
    assert square.shape.area == pytest.approx(50 * 25, abs=1e-6)
    assert circle.shape.area == pytest.approx(np.pi * 10**2, rel=2e-3)
    assert square.colour != circle.colour
    assert drawing.open_paths == 1
    left, top, *_ = shapely.total_bounds([item.shape for item in drawing.items]).tolist()
    assert (left, top) == pytest.approx((0, 0), abs=1e-6)
    assert {f.code for f in drawing.remarks} == {"pens", "open"}


@given(st.lists(st.tuples(st.integers(-5000, 5000), st.integers(-5000, 5000)), min_size=3, max_size=20))
def test_ways_told_by_steps_and_by_places_are_the_same(points: list[tuple[int, int]]) -> None:
    ring = [*points, points[0]]
    there = ",".join(f"{x},{y}" for x, y in ring[1:])
    steps = ",".join(f"{b[0] - a[0]},{b[1] - a[1]}" for a, b in itertools.pairwise(ring))
    begin = f"PU{ring[0][0]},{ring[0][1]};"

    def area(plot: str) -> float:
        try:
            return sum(float(i.shape.area) for i in read_hpgl(plot.encode()).items)
        except VectorError:
            return 0.0

    assert area(f"IN;{begin}PD{there};PU;") == pytest.approx(area(f"IN;{begin}PR;PD{steps};PA;PU;"), abs=1e-6)


def _saved(form: str, **how: object) -> bytes:
    pixels = np.full((40, 60, 3), (240, 200, 40), np.uint8)
    pixels[10:30, 20:40] = (30, 40, 90)
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, form, **how)
    return out.getvalue()


@pytest.mark.parametrize("form", ["TIFF", "AVIF", "HEIF"])
def test_pictures_that_pages_do_not_show_are_carried_over(form: str) -> None:
    if form == "HEIF":
        from pillow_heif import register_heif_opener

        register_heif_opener()
    picture = decode_picture(carried(_saved(form)))
    assert picture.format == ("PNG" if form == "TIFF" else "JPEG")
    assert picture.rgb.shape == (40, 60, 3)
    assert np.abs(picture.rgb[20, 30].astype(int) - (30, 40, 90)).max() < (1 if form == "TIFF" else 25)


def test_clear_pixels_stay_clear_and_damage_is_told() -> None:
    image = Image.new("RGBA", (32, 32), (200, 30, 30, 255))
    image.putpixel((3, 3), (0, 0, 0, 0))
    out = io.BytesIO()
    image.save(out, "TIFF")
    assert decode_picture(carried(out.getvalue())).key is not None
    with pytest.raises(PictureError, match="damaged"):
        carried(_saved("AVIF")[:120], "sky.avif")
    png = _saved("PNG")
    assert carried(png) is png
