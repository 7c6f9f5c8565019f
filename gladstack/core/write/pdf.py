"""PDF: printed pages, and cut lines at 1:1 on a page as large as the film or tiled over sheets of paper with marks."""

from __future__ import annotations

import io
import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

import numpy as np
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from gladstack.core.base.plane import Box
from gladstack.core.base.text import readable_line
from gladstack.core.geometry.curves import Chain, line_chain, transform_chain
from gladstack.core.write.pages import SOFT, DrawnItem, Page, Text, Type, is_closed

PT_PER_MM = 72 / 25.4
Paper = Literal["film", "A4", "Letter"]
PAPER_MM: dict[str, tuple[float, float]] = {"A4": (210.0, 297.0), "Letter": (215.9, 279.4)}
_LONGEST_MM = 5000.0
"""The longest page that readers of PDF take."""
_EDGE_MM = 10.0
"""What printers leave white."""
_OVERLAP_MM = 10.0


def pdf(pages: Sequence[Page], font: Type, title: str) -> bytes:
    """Pages as PDF; the same pages always give the same bytes."""
    names = ("GladSheet", "GladSheetBold")
    for name, data in zip(names, (font.regular, font.bold), strict=True):
        if name not in pdfmetrics.getRegisteredFontNames():
            pdfmetrics.registerFont(TTFont(name, io.BytesIO(data)))
    out = io.BytesIO()
    canvas = Canvas(out, pageCompression=1, invariant=1)
    canvas.setTitle(readable_line(title))
    canvas.setCreator("Glad Stack")
    for page in pages:
        canvas.setPageSize((page.width_mm * PT_PER_MM, page.height_mm * PT_PER_MM))
        for mark in page.marks:
            canvas.saveState()
            if isinstance(mark, Text):
                _text(canvas, mark, page.height_mm, names[mark.bold])
            else:
                _drawn(canvas, mark, page.height_mm)
            canvas.restoreState()
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def _text(canvas: Canvas, mark: Text, height: float, font: str) -> None:
    canvas.setFont(font, mark.size_mm * PT_PER_MM)
    canvas.setFillColor(mark.colour)
    canvas.translate(mark.x * PT_PER_MM, (height - mark.y) * PT_PER_MM)
    if mark.turn_deg:
        canvas.rotate(-mark.turn_deg)
    draw = {"left": canvas.drawString, "middle": canvas.drawCentredString, "right": canvas.drawRightString}[mark.align]
    draw(0, 0, readable_line(mark.text))


def _drawn(canvas: Canvas, mark: DrawnItem, height: float) -> None:
    def at(x: float, y: float) -> tuple[float, float]:
        return x * PT_PER_MM, (height - y) * PT_PER_MM

    if mark.clip is not None:
        left, top, right, bottom = mark.clip
        window = canvas.beginPath()
        window.rect(*at(left, bottom), (right - left) * PT_PER_MM, (bottom - top) * PT_PER_MM)
        canvas.clipPath(window, stroke=0, fill=0)
    path = canvas.beginPath()
    for chain in mark.chains:
        if not len(chain):
            continue
        path.moveTo(*at(*chain.start.tolist()))
        for piece, straight in zip(chain.pieces.tolist(), chain.straight.tolist(), strict=True):
            if straight:
                path.lineTo(*at(*piece[3]))
            else:
                path.curveTo(*at(*piece[1]), *at(*piece[2]), *at(*piece[3]))
        if is_closed(chain):
            path.close()
    if mark.fill:
        canvas.setFillColor(mark.fill)
    if mark.line:
        canvas.setStrokeColor(mark.line)
        canvas.setLineWidth(mark.width_mm * PT_PER_MM)
        canvas.setDash([d * PT_PER_MM for d in mark.dash_mm])
    canvas.drawPath(path, stroke=int(mark.line is not None), fill=int(mark.fill is not None), fillMode=0)


def cut_pages(
    title: str, length_mm: float, width_mm: float, drawn: Sequence[Text | DrawnItem], paper: Paper = "film"
) -> list[Page]:
    """Cut lines of one film at 1:1: on a page of its size, or on paper with a margin, tiled where it is larger.

    Pages of a tiled film overlap; crosses in the corners of each lie on those of its neighbours.
    """
    if paper == "film":
        windows = _windows(length_mm, width_mm, _LONGEST_MM, _LONGEST_MM, 0.0)
        return [
            Page(x1 - x0, y1 - y0, tuple(_shifted(drawn, -x0, -y0, (0.0, 0.0, x1 - x0, y1 - y0))))
            for x0, y0, x1, y1 in windows
        ]
    w, h = PAPER_MM[paper]
    room = [(a - 2 * _EDGE_MM, b - 2 * _EDGE_MM, a, b) for a, b in ((w, h), (h, w))]
    counts = [len(_windows(length_mm, width_mm, a, b, _OVERLAP_MM)) for a, b, _, _ in room]
    a, b, page_w, page_h = room[int(np.argmin(counts))]
    windows = _windows(length_mm, width_mm, a, b, _OVERLAP_MM)
    pages = []
    for k, (x0, y0, x1, y1) in enumerate(windows):
        clip = (_EDGE_MM, _EDGE_MM, _EDGE_MM + x1 - x0, _EDGE_MM + y1 - y0)
        marks: list[Text | DrawnItem] = _shifted(drawn, _EDGE_MM - x0, _EDGE_MM - y0, clip)
        told = f"{title} · page {k + 1} of {len(windows)} · {x0:.0f} to {x1:.0f} mm along, {y0:.0f} to {y1:.0f} across"
        marks.append(Text(_EDGE_MM, page_h - 4.0, told, 2.8, colour=SOFT))
        if len(windows) > 1:
            marks.append(DrawnItem(tuple(_cross(x, y) for x in clip[::2] for y in clip[1::2]), None, SOFT, 0.15))
        pages.append(Page(page_w, page_h, tuple(marks)))
    return pages


def _windows(length: float, width: float, most_x: float, most_y: float, overlap: float) -> list[Box]:
    """Boxes no larger than so much that cover a film, each overlapping the next."""

    def spans(whole: float, most: float) -> list[tuple[float, float]]:
        if whole <= most:
            return [(0.0, whole)]
        count = math.ceil((whole - overlap) / (most - overlap))
        step = (whole - overlap) / count
        return [(k * step, k * step + step + overlap) for k in range(count)]

    return [(x0, y0, x1, y1) for y0, y1 in spans(width, most_y) for x0, x1 in spans(length, most_x)]


def _shifted(marks: Sequence[Text | DrawnItem], dx: float, dy: float, clip: Box) -> list[Text | DrawnItem]:
    """Marks moved onto a page; of lines only what lies within the clip shows, and of text what begins there."""
    out: list[Text | DrawnItem] = []
    for mark in marks:
        if isinstance(mark, Text):
            moved = replace(mark, x=mark.x + dx, y=mark.y + dy)
            if clip[0] <= moved.x <= clip[2] and clip[1] <= moved.y <= clip[3]:
                out.append(moved)
        else:
            chains = tuple(transform_chain(c, (1.0, 0.0, 0.0, 1.0, dx, dy)) for c in mark.chains)
            out.append(DrawnItem(chains, mark.fill, mark.line, mark.width_mm, mark.dash_mm, clip))
    return out


def _cross(x: float, y: float) -> Chain:
    return line_chain(np.array([(x - 3, y), (x + 3, y), (x, y), (x, y - 3), (x, y + 3)]))
