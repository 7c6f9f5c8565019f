"""The job sheet as pages: a page to pin over the press, the sheets as they lie, the placement map and small parts at 1:1."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import numpy as np

from gladstack.core.base.units import format_length
from gladstack.core.geometry.curves import Chain, Matrix, line_chain, transform_chain
from gladstack.core.geometry.outlines import Part
from gladstack.core.write.pages import INK, SOFT, DrawnItem, Page, Text, Type
from gladstack.core.write.pdf import PAPER_MM, cut_pages
from gladstack.shop.papers.job_sheet import Assembly, JobSheet, SheetEntry, lost_easily, minutes, size_of
from gladstack.shop.papers.numbers import MapNumber
from gladstack.shop.plan.furnish import box_chain

PageSize = Literal["A4", "Letter"]
_EDGE = 14.0
_LINE = 4.6
_BODY = 3.5
_BAR = 6.0
_NUMBER_MM, _SMALL_MM = 2.4, 1.6
_MOST_SMALL = 400


class _Flow:
    """Pages being filled from the top down."""

    def __init__(self, paper: PageSize, font: Type, title: str) -> None:
        self.width, self.height = PAPER_MM[paper]
        self.font = font
        self.title = title
        self.pages: list[list[Text | DrawnItem]] = []
        self.y = 0.0
        self.new_page()

    @property
    def room(self) -> float:
        return self.width - 2 * _EDGE

    def new_page(self) -> None:
        self.pages.append([])
        self.y = _EDGE

    def need(self, height: float) -> None:
        if self.y + height > self.height - _EDGE and self.y > _EDGE:
            self.new_page()

    def add(self, *marks: Text | DrawnItem) -> None:
        self.pages[-1] += marks

    def text(
        self, text: str, size: float = _BODY, *, bold: bool = False, colour: str = INK, x: float = _EDGE,
        width: float | None = None, gap: float = 1.3,
    ) -> None:  # fmt: skip
        """Wrapped text at the cursor."""
        for line in self.font.wrapped(text, width or self.width - _EDGE - x, size, bold=bold):
            self.need(size * gap)
            self.y += size * gap
            self.add(Text(x, self.y, line, size, bold, colour))

    def heading(self, text: str) -> None:
        self.need(16)
        self.y += 7
        self.text(text, 4.6, bold=True)
        self.y += 1.2
        self.add(DrawnItem((_line(_EDGE, self.y, self.width - _EDGE, self.y),), None, SOFT, 0.2))
        self.y += 1.0

    def tick(self, text: str, *, x: float = _EDGE, width: float | None = None) -> None:
        """A box to tick, with what it is for."""
        lines = self.font.wrapped(text, (width or self.width - _EDGE - x) - 6, _BODY)
        self.need(_LINE * len(lines) + 1)
        self.add(DrawnItem((box_chain((x, self.y + 1.4, x + 3.2, self.y + 4.6)),), None, INK, 0.25))
        for line in lines:
            self.y += _LINE
            self.add(Text(x + 5.6, self.y - 0.3, line, _BODY))
        self.y += 0.8

    def done(self) -> list[Page]:
        out = []
        for k, marks in enumerate(self.pages):
            foot = Text(_EDGE, self.height - 7, self.title, 2.8, colour=SOFT)
            number = Text(self.width - _EDGE, self.height - 7, f"{k + 1}", 2.8, colour=SOFT, align="right")
            out.append(Page(self.width, self.height, (*marks, foot, number)))
        return out


def job_pages(sheet: JobSheet, font: Type, paper: PageSize = "A4") -> list[Page]:
    """All pages of a job sheet."""
    flow = _Flow(paper, font, f"{sheet.name} · job sheet")
    flow.text(sheet.name, 8.0, bold=True)
    for line in sheet.order:
        flow.text(line, 4.2)
    flow.y += 1
    flow.text(_totals(sheet), 3.8, colour=SOFT)
    if sheet.price:
        flow.text(sheet.price, 4.2, bold=True)
    for assembly in sheet.designs:
        _assembled(flow, sheet, assembly)
    if sheet.notes:
        flow.heading("Mind")
        for note in sheet.notes:
            flow.text(f"• {note}")
    # A heading stays with the first of what it is over.
    flow.need(70)
    flow.heading("Sheets to cut, in this order")
    for entry in sheet.sheets:
        _sheet(flow, sheet, entry)
    if sheet.ticks:
        _ticks(flow, sheet.ticks)
    pages = flow.done()
    for assembly in sheet.designs[:12]:
        pages += _placement(assembly, sheet, paper)
    return pages + _small_parts(sheet, font, paper)


def _totals(sheet: JobSheet) -> str:
    film = ", ".join(f"{format_length(length, sheet.unit)} of {name}" for name, length, _ in sheet.used)
    cost = f" · film for {sheet.cost:.2f}" if sheet.cost > 0 else ""
    times = f"cutting {minutes(sheet.cut_s)}, weeding about {minutes(sheet.weed_s)}"
    pressing = f", putting together about {minutes(sheet.press_s)}"
    return f"{film}{cost} · {times}{pressing}"


def _assembled(flow: _Flow, sheet: JobSheet, made: Assembly) -> None:
    copies = f"{made.copies} copies" if made.copies > 1 else "one copy"
    flow.heading(f"{made.name}: {size_of(made, sheet.unit)}, {copies}, on a {made.ground}")
    high = _BAR * len(made.films) + 8
    flow.need(max(high + 8, 30))
    top, page = flow.y, len(flow.pages)
    left, wide = _EDGE, 62.0
    # The stack from the side: the ground at the bottom, the top film at the top.
    y = flow.y + 3
    for film in reversed(made.films):
        flow.add(DrawnItem((box_chain((left, y, left + 30, y + _BAR - 0.8)),), film.colour, INK, 0.15))
        name = flow.font.shortened(f"{film.name}, sheet {', '.join(map(str, film.sheets))}", wide - 33, 3.0)
        flow.add(Text(left + 32, y + 3.6, name, 3.0))
        y += _BAR
    ground = flow.font.shortened(f"the {made.ground}", 28, 3.0)
    flow.add(
        DrawnItem((_line(left, y + 0.4, left + 34, y + 0.4),), None, INK, 0.6), Text(left, y + 4, ground, 3.0, colour=SOFT)
    )
    bottom = y + 6
    flow.y = top
    x = left + wide + 6
    flow.text(made.work.heading, _BODY, bold=True, x=x)
    for step in made.work.steps:
        flow.tick(step.text, x=x)
    for told in made.work.schedule.told if made.work.schedule else ():
        flow.text(f"Mind: {told}", _BODY, bold=True, x=x)
    if made.place:
        flow.text(f"It goes {format_length(made.from_mm, sheet.unit)} {made.place}, in the middle.", x=x)
    if len(flow.pages) == page:
        flow.y = max(flow.y, bottom)


def _sheet(flow: _Flow, sheet: JobSheet, entry: SheetEntry) -> None:
    wide, high = 84.0, 44.0
    flow.need(high + 6)
    flow.y += 3
    scale = min(wide / entry.length_mm, high / entry.width_mm)
    onto = (scale, 0.0, 0.0, scale, _EDGE, flow.y)
    film = box_chain((0.0, 0.0, entry.length_mm, entry.width_mm))
    flow.add(
        DrawnItem((transform_chain(film, onto),), "#ffffff", SOFT, 0.2),
        DrawnItem(tuple(transform_chain(c, onto) for c in entry.outlines), entry.colour, INK, 0.08),
        DrawnItem(tuple(transform_chain(c, onto) for c in entry.lines), None, SOFT, 0.1),
        *_numbers(entry.numbers, onto, _SMALL_MM),
    )
    top = flow.y
    x = _EDGE + wide + 6
    flow.text(f"{entry.number}. {entry.name}", 4.2, bold=True, x=x)
    flow.text(f"{entry.material}, {entry.piece}, {format_length(entry.width_mm, sheet.unit)} wide", x=x)
    if entry.mirrored:
        flow.text("Cut mirrored, face down on its carrier" if entry.face_down else "Cut mirrored", bold=True, x=x)
    if entry.on_mat:
        flow.text("On the mat", bold=True, x=x)
    used = format_length(entry.used_mm, sheet.unit)
    passes = f", {entry.passes} passes" if entry.passes > 1 else ""
    flow.text(f"Takes {used}. Force {entry.force_g} g, {entry.speed_mm_s:.0f} mm/s, {entry.angle_deg}° blade{passes}.", x=x)
    small = f", {entry.small} of them easy to lose" if entry.small else ""
    flow.text(f"{entry.parts} part{'s' if entry.parts != 1 else ''}{small}. Cutting {minutes(entry.cut_s)}.", x=x)
    flow.y += 1.2
    for k, what in enumerate(("loaded", "test cut", "cut", "weeded")):
        at = x + 21 * k
        flow.add(DrawnItem((box_chain((at, flow.y, at + 3.2, flow.y + 3.2)),), None, INK, 0.25))
        flow.add(Text(at + 4.4, flow.y + 2.8, what, 3.2))
    flow.y += 4
    flow.y = max(flow.y, top + high + 2)


def _ticks(flow: _Flow, ticks: Sequence[str]) -> None:
    columns = 3
    wide = flow.room / columns
    rows = -(-len(ticks) // columns)
    flow.need(16 + 6 * min(rows, 12))
    flow.heading("To tick off")
    per_page = max(1, int((flow.height - _EDGE - flow.y) // 6))
    for begin in range(0, rows, per_page):
        if begin:
            flow.new_page()
            per_page = max(1, int((flow.height - 2 * _EDGE) // 6))
        top = flow.y
        here = ticks[begin * columns : (begin + per_page) * columns]
        for k, name in enumerate(here):
            x, y = _EDGE + (k % columns) * wide, top + (k // columns) * 6
            flow.add(DrawnItem((box_chain((x, y + 1, x + 3.2, y + 4.2)),), None, INK, 0.25))
            flow.add(Text(x + 5, y + 3.9, flow.font.shortened(name, wide - 8, _BODY), _BODY))
        flow.y = top + (-(-len(here) // columns)) * 6


def _placement(made: Assembly, sheet: JobSheet, paper: PageSize) -> list[Page]:
    """The decal at its true size with its centre lines, and the line it is measured from where that is near."""
    left, top, right, bottom = made.frame
    pad = 6.0
    near = made.from_mm if made.place and made.from_mm <= 120 else 0.0
    above = near if made.ground == "shirt" else 0.0
    beside = near if made.ground == "mug" else 0.0
    below = near if made.ground not in ("shirt", "mug") else 0.0
    dx, dy = pad + beside - left, pad + above - top
    # What is laid from behind is placed from there as well.
    across = (-1.0, right + pad + beside) if made.through else (1.0, dx)
    onto = (across[0], 0.0, 0.0, 1.0, across[1], dy)
    w, h = right - left + 2 * pad + beside, bottom - top + 2 * pad + above + below
    films = [DrawnItem(tuple(_moved(f.parts, onto)), f.colour, INK, 0.1) for f in made.films]
    cx, cy = (left + right) / 2 + dx, (top + bottom) / 2 + dy
    lines = [_line(cx, 0.0, cx, h), _line(0.0, cy, w, cy)]
    from_line = [
        *([_line(0.0, pad, w, pad)] if above else []),
        *([_line(pad, 0.0, pad, h)] if beside else []),
        *([_line(0.0, h - pad, w, h - pad)] if below else []),
    ]
    drawn: list[Text | DrawnItem] = [
        *films,
        DrawnItem(tuple(lines), None, "#6d3468", 0.2, (3.0, 2.0)),
        DrawnItem(tuple(from_line), None, INK, 0.5),
    ]
    drawn += _numbers(made.numbers, onto, _NUMBER_MM)
    seen = "laid, from behind the glass" if made.through else "seen"
    where = f" · {format_length(made.from_mm, sheet.unit)} {made.place}" if made.place else ""
    return cut_pages(f"{made.name} at its true size, as it is {seen}{where}", w, h, drawn, paper)


def _numbers(numbers: Sequence[MapNumber], onto: Matrix, size_mm: float) -> list[Text]:
    """Numbers beside their parts, small enough to tell them apart."""
    a, b, c, d, e, f = onto
    return [
        Text(a * n.x_mm + c * n.y_mm + e + 0.3, b * n.x_mm + d * n.y_mm + f + size_mm / 3, str(n.number), size_mm, bold=True)
        for n in numbers
    ]


def _small_parts(sheet: JobSheet, font: Type, paper: PageSize) -> list[Page]:
    """Small parts at their true size, to lay them out on as they are weeded."""
    parts = [(made, p) for made in sheet.designs for p in made.small]
    if not parts:
        return []
    flow = _Flow(paper, font, f"{sheet.name} · small parts at their true size")
    flow.heading("Small parts at their true size: lay them out here")
    shown = parts[:_MOST_SMALL]
    if len(parts) > len(shown):
        flow.text(f"The first {len(shown)} of {len(parts)}.", colour=SOFT)
    x, deep, film = _EDGE, 0.0, ""
    for made, part in shown:
        name = f"{made.name}, {part.film}"
        if name != film:
            flow.y += deep + (3 if film else 0)
            flow.need(20)
            flow.text(f"{name}: {lost_easily([p for m, p in parts if m is made and p.film == part.film])}", bold=True)
            flow.y += 2
            x, deep, film = _EDGE, 0.0, name
        left, top, right, bottom = part.box
        w, h = right - left, bottom - top
        if x + w > flow.width - _EDGE:
            flow.y, x, deep = flow.y + deep + 3, _EDGE, 0.0
        if flow.y + h > flow.height - _EDGE:
            flow.new_page()
            x, deep = _EDGE, 0.0
        onto = (1.0, 0.0, 0.0, 1.0, x - left, flow.y - top)
        flow.add(DrawnItem(tuple(_moved((part.outline,), onto)), None, INK, 0.15))
        number = "" if part.number is None else str(part.number)
        flow.add(Text(x + w + 0.5, flow.y + h / 2 + _NUMBER_MM / 3, number, _NUMBER_MM, bold=True))
        x, deep = x + w + 5, max(deep, h)
    return flow.done()


def _moved(parts: Sequence[Part], onto: Matrix) -> list[Chain]:
    return [transform_chain(c, onto) for p in parts for c in (p.shell, *p.holes)]


def _line(x0: float, y0: float, x1: float, y1: float) -> Chain:
    return line_chain(np.array([(x0, y0), (x1, y1)]))
