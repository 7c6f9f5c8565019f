"""Pages of PDF files as SVG: their paths, letters, clips and pictures, in the order they are painted.

PDFium reads the pages (pypdfium2). What it finds is written as plain SVG in points, so that strokes, dashes, clips and
see-through colours have one reader for both kinds of file. PDFium must not be called by two threads at once.
"""

from __future__ import annotations

import base64
import ctypes
import io
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import Any
from xml.sax.saxutils import quoteattr

import pypdfium2 as pdfium
import pypdfium2.raw as raw

from gladstack.core.base.errors import VectorError
from gladstack.core.drawing.pdf_layers import hidden_on, layer_of
from gladstack.core.geometry.curves import IDENTITY, Matrix, compose

_MOST_PAGES, _MOST_OBJECTS, _MOST_DEPTH = 2000, 50_000, 12
_MOST_POINTS = 400_000
_MOST_PICTURE_BYTES = 20 * 2**20
_HAIR = 0.2
"""A line of no width is drawn as thin as a printer can; here so many points."""
_CAPS, _JOINS = ("butt", "round", "square"), ("miter", "round", "bevel")
_INVISIBLE = (3, 7)
_TEXT, _PATH, _IMAGE, _SHADING, _FORM = 1, 2, 3, 4, 5
_LARGER = "Save only the page that is wanted."


@dataclass(frozen=True)
class PdfPage:
    """A page as SVG, how many pages there are, and what could not be read of it: how many of each kind."""

    svg: bytes
    pages: int
    left_out: tuple[tuple[str, int], ...]


@dataclass
class _Reader:
    """What is gathered while a page is walked."""

    out: list[str] = field(default_factory=list)
    clips: list[str] = field(default_factory=list)
    left_out: dict[str, int] = field(default_factory=dict)
    letters: dict[int, list[int]] = field(default_factory=dict)
    page: Any = None
    text: Any = None
    upright: Matrix = IDENTITY
    pictures: int = 0
    objects: int = 0
    points: int = 0

    def leave_out(self, what: str) -> None:
        self.left_out[what] = self.left_out.get(what, 0) + 1


def pdf_page(data: bytes, number: int = 1) -> PdfPage:
    """A page (from 1) of a PDF file. Raises VectorError."""
    try:
        document = pdfium.PdfDocument(data)
    except pdfium.PdfiumError as fault:
        locked = "password" in str(fault).lower()
        said = "This PDF file is locked with a password." if locked else "This PDF file is damaged."
        raise VectorError(said, "Save it again without one." if locked else "Export it again.") from fault
    try:
        count = len(document)
        if not 1 <= count <= _MOST_PAGES:
            raise VectorError(f"This PDF file has {count:,} pages.", _LARGER)
        if number > count:
            raise VectorError(f"This PDF file has no page {number}, but {count}.", "Choose another page.")
        page = document[number - 1]
        return _page(page, count)
    except pdfium.PdfiumError as fault:
        raise VectorError(f"Page {number} of this PDF file is damaged.", "Export it again.") from fault
    finally:
        document.close()


def _page(page: Any, count: int) -> PdfPage:
    left, bottom, right, top = page.get_cropbox()
    width, height = right - left, top - bottom
    turned = page.get_rotation()
    upright: Matrix = {
        0: (1.0, 0.0, 0.0, -1.0, -left, top),
        90: (0.0, 1.0, 1.0, 0.0, -bottom, -left),
        180: (-1.0, 0.0, 0.0, 1.0, right, -bottom),
        270: (0.0, -1.0, -1.0, 0.0, top, right),
    }[turned]
    if turned in (90, 270):
        width, height = height, width
    reader = _Reader(page=page, text=raw.FPDFText_LoadPage(page.raw), upright=upright)
    try:
        for k in range(raw.FPDFText_CountChars(reader.text)):
            owner = raw.FPDFText_GetTextObject(reader.text, k)
            if owner:
                reader.letters.setdefault(_address(owner), []).append(k)
        gone = hidden_on(page)
        hidden = {k for own in gone for k in own}
        for _ in gone:
            reader.leave_out("hidden")
        for k in range(raw.FPDFPage_CountObjects(page.raw)):
            if k not in hidden:
                _object(raw.FPDFPage_GetObject(page.raw, k), upright, reader, 0)
    finally:
        raw.FPDFText_ClosePage(reader.text)
    svg = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:.6g}pt" height="{height:.6g}pt" '
        f'viewBox="0 0 {width:.6g} {height:.6g}"><defs>{"".join(reader.clips)}</defs>{"".join(reader.out)}</svg>'
    )
    return PdfPage(svg.encode(), count, tuple(reader.left_out.items()))


def _address(handle: Any) -> int:
    return ctypes.cast(handle, ctypes.c_void_p).value or 0


def _object(thing: Any, outer: Matrix, reader: _Reader, depth: int) -> None:
    reader.objects += 1
    if reader.objects > _MOST_OBJECTS or depth > _MOST_DEPTH:
        raise VectorError("This page has too many or too deeply nested parts.", "Save only what is to be cut.")
    kind = raw.FPDFPageObj_GetType(thing)
    opened = _layered(thing, reader) + _clipped(thing, outer, reader)
    if kind == _PATH:
        _path(thing, outer, reader)
    elif kind == _TEXT:
        _letters(thing, reader)
    elif kind == _IMAGE:
        _picture(thing, outer, reader)
    elif kind == _FORM:
        inner = compose(outer, _matrix_of(thing))
        for k in range(raw.FPDFFormObj_CountObjects(thing)):
            _object(raw.FPDFFormObj_GetObject(thing, k), inner, reader, depth + 1)
    elif kind == _SHADING:
        reader.leave_out("shadings")
    reader.out.append("</g>" * opened)


def _layered(thing: Any, reader: _Reader) -> int:
    """Opens a group for the layer that a thing is on; whether it did."""
    name = layer_of(thing)
    if not name:
        return 0
    reader.out.append(f'<g xmlns:own="urn:own" own:label={quoteattr(name)}>')
    return 1


def _clipped(thing: Any, outer: Matrix, reader: _Reader) -> int:
    """Opens a group for each clip of a thing; how many."""
    clip = raw.FPDFPageObj_GetClipPath(thing)
    count = raw.FPDFClipPath_CountPaths(clip) if clip else 0
    opened = 0
    for k in range(max(0, count)):
        segments = raw.FPDFClipPath_CountPathSegments(clip, k)
        drawn = _drawn((raw.FPDFClipPath_GetPathSegment(clip, k, n) for n in range(segments)), reader)
        if not drawn:
            continue
        name = f"c{len(reader.clips)}"
        reader.clips.append(f'<clipPath id="{name}"><path d="{drawn}" transform="{_matrix_text(outer)}"/></clipPath>')
        reader.out.append(f'<g clip-path="url(#{name})">')
        opened += 1
    return opened


def _path(thing: Any, outer: Matrix, reader: _Reader) -> None:
    mode, strokes = ctypes.c_int(), ctypes.c_int()
    raw.FPDFPath_GetDrawMode(thing, mode, strokes)
    if not mode.value and not strokes.value:
        return
    drawn = _drawn((raw.FPDFPath_GetPathSegment(thing, k) for k in range(raw.FPDFPath_CountSegments(thing))), reader)
    if not drawn:
        return
    style = ['fill="none"']
    if mode.value:
        colour = _colour(lambda *c: raw.FPDFPageObj_GetFillColor(thing, *c))
        if colour is None:
            reader.leave_out("patterns")
        else:
            rule = "evenodd" if mode.value == 1 else "nonzero"
            style = [f'fill="{colour[0]}" fill-opacity="{colour[1]:.4g}" fill-rule="{rule}"']
    if strokes.value and (colour := _colour(lambda *c: raw.FPDFPageObj_GetStrokeColor(thing, *c))) is not None:
        style.append(f'stroke="{colour[0]}" stroke-opacity="{colour[1]:.4g}" {_pen(thing)}')
    reader.out.append(f'<path d="{drawn}" transform="{_matrix_text(compose(outer, _matrix_of(thing)))}" {" ".join(style)}/>')


def _pen(thing: Any) -> str:
    width = ctypes.c_float()
    raw.FPDFPageObj_GetStrokeWidth(thing, width)
    cap, join = raw.FPDFPageObj_GetLineCap(thing), raw.FPDFPageObj_GetLineJoin(thing)
    told = [
        f'stroke-width="{max(width.value, _HAIR):.6g}"',
        f'stroke-linecap="{_CAPS[cap] if 0 <= cap < 3 else "butt"}"',
        f'stroke-linejoin="{_JOINS[join] if 0 <= join < 3 else "miter"}" stroke-miterlimit="10"',
    ]
    count = raw.FPDFPageObj_GetDashCount(thing)
    if count > 0:
        dashes, phase = (ctypes.c_float * count)(), ctypes.c_float()
        raw.FPDFPageObj_GetDashArray(thing, dashes, count)
        raw.FPDFPageObj_GetDashPhase(thing, phase)
        if any(d > 0 for d in dashes):
            told.append(f'stroke-dasharray="{" ".join(f"{d:.6g}" for d in dashes)}" stroke-dashoffset="{phase.value:.6g}"')
    return " ".join(told)


def _letters(thing: Any, reader: _Reader) -> None:
    """The letters of a text object as the outlines of their glyphs; PDFium tells their places in the page's coordinates."""
    if raw.FPDFTextObj_GetTextRenderMode(thing) in _INVISIBLE:
        return
    font, size = raw.FPDFTextObj_GetFont(thing), ctypes.c_float()
    raw.FPDFTextObj_GetFontSize(thing, size)
    for k in reader.letters.get(_address(thing), ()):
        code = raw.FPDFText_GetUnicode(reader.text, k)
        if code <= 32 or raw.FPDFText_IsGenerated(reader.text, k) == 1:
            continue
        glyph = raw.FPDFFont_GetGlyphPath(font, code, 1.0)
        count = raw.FPDFGlyphPath_CountGlyphSegments(glyph) if glyph else 0
        drawn = _drawn((raw.FPDFGlyphPath_GetGlyphPathSegment(glyph, n) for n in range(max(0, count))), reader)
        if not drawn:
            if not chr(code).isspace():
                reader.leave_out("letters")
            continue
        held, x, y = raw.FS_MATRIX(), ctypes.c_double(), ctypes.c_double()
        raw.FPDFText_GetMatrix(reader.text, k, held)
        raw.FPDFText_GetCharOrigin(reader.text, k, x, y)
        # Outlines of glyphs are told for letters 1 point high, whatever size is asked for.
        em = size.value
        at: Matrix = (held.a * em, held.b * em, held.c * em, held.d * em, x.value, y.value)
        colour = _colour(lambda *c: raw.FPDFPageObj_GetFillColor(thing, *c)) or ("#000000", 1.0)
        fill = f'fill="{colour[0]}" fill-opacity="{colour[1]:.4g}"'
        reader.out.append(f'<path d="{drawn}" transform="{_matrix_text(compose(reader.upright, at))}" {fill}/>')


def _picture(thing: Any, outer: Matrix, reader: _Reader) -> None:
    """A picture: its bytes as they are kept if they are JPEG, else as PNG."""
    reader.pictures += 1
    href = ""
    if reader.pictures == 1:
        href = _held(thing, reader)
    a, b, c, d, e, f = compose(outer, _matrix_of(thing))
    place = _matrix_text((a, b, -c, -d, e + c, f + d))
    reader.out.append(f'<image width="1" height="1" preserveAspectRatio="none" transform="{place}" href="{href}"/>')


def _held(thing: Any, reader: _Reader) -> str:
    # With its page given it is not taken for ours to free.
    image = pdfium.PdfImage(thing, page=reader.page, pdf=reader.page.pdf)
    try:
        if image.get_filters() == ["DCTDecode"]:
            data = bytes(image.get_data(decode_simple=False))
            kind = "jpeg"
        else:
            out = io.BytesIO()
            image.get_bitmap(render=False).to_pil().save(out, "PNG")
            data, kind = out.getvalue(), "png"
    except (pdfium.PdfiumError, OSError, ValueError, AssertionError):
        return ""
    return f"data:image/{kind};base64,{base64.b64encode(data).decode()}" if len(data) <= _MOST_PICTURE_BYTES else ""


def _colour(read: Callable[..., Any]) -> tuple[str, float] | None:
    """A colour as SVG writes it, and how solid it is."""
    r, g, b, a = ctypes.c_uint(), ctypes.c_uint(), ctypes.c_uint(), ctypes.c_uint()
    if not read(r, g, b, a):
        return None
    return f"#{r.value:02x}{g.value:02x}{b.value:02x}", a.value / 255


def _matrix_of(thing: Any) -> Matrix:
    held = raw.FS_MATRIX()
    if not raw.FPDFPageObj_GetMatrix(thing, held):
        return IDENTITY
    return held.a, held.b, held.c, held.d, held.e, held.f


def _drawn(segments: Iterator[Any], reader: _Reader) -> str:
    """Segments as path data. Raises VectorError if the page has too many points."""
    out: list[str] = []
    curve: list[str] = []
    x, y = ctypes.c_float(), ctypes.c_float()
    for segment in segments:
        reader.points += 1
        if reader.points > _MOST_POINTS:
            raise VectorError(f"This page has more than {_MOST_POINTS:,} points.", "Save only what is to be cut.")
        if not segment or not raw.FPDFPathSegment_GetPoint(segment, x, y):
            continue
        at = f"{x.value:.7g} {y.value:.7g}"
        kind = raw.FPDFPathSegment_GetType(segment)
        if kind == raw.FPDF_SEGMENT_BEZIERTO:
            curve.append(at)
            if len(curve) == 3:
                out.append("C" + " ".join(curve))
                curve = []
        else:
            out.append(("M" if kind == raw.FPDF_SEGMENT_MOVETO else "L") + at)
        if raw.FPDFPathSegment_GetClose(segment):
            out.append("Z")
    return "".join(out) if any(step[0] in "LCZ" for step in out) else ""


def _matrix_text(matrix: Matrix) -> str:
    return f"matrix({' '.join(f'{v:.9g}' for v in matrix)})"
