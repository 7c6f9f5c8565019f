"""Printed pages: text and paths at their places in mm, y down. PDF to print and SVG to look at are drawn from the same."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal
from xml.sax.saxutils import escape

from fontTools.ttLib import TTFont

from gladstack.core.base.plane import Box
from gladstack.core.base.text import readable_line
from gladstack.core.geometry.curves import Chain
from gladstack.core.write.svg import number, path_data

INK = "#25231e"
SOFT = "#6b665a"


@dataclass(frozen=True)
class Text:
    """A line of text, its baseline beginning, in the middle, or ending at (x, y); turned clockwise about that point."""

    x: float
    y: float
    text: str
    size_mm: float = 3.6
    bold: bool = False
    colour: str = INK
    align: Literal["left", "middle", "right"] = "left"
    turn_deg: float = 0.0


@dataclass(frozen=True)
class DrawnItem:
    """Chains filled (even-odd), drawn as lines of a width, or both; only what lies in `clip` shows."""

    chains: tuple[Chain, ...]
    fill: str | None = None
    line: str | None = INK
    width_mm: float = 0.1
    dash_mm: tuple[float, ...] = ()
    clip: Box | None = None


@dataclass(frozen=True)
class Page:
    """One page."""

    width_mm: float
    height_mm: float
    marks: tuple[Text | DrawnItem, ...]


class Type:
    """The font of pages in two weights, from its files' bytes."""

    def __init__(self, regular: bytes, bold: bytes) -> None:
        self.regular = regular
        self.bold = bold

    @cached_property
    def _widths(self) -> tuple[dict[int, float], dict[int, float]]:
        return _advances(self.regular), _advances(self.bold)

    def width(self, text: str, size_mm: float, *, bold: bool = False) -> float:
        """How wide a line of text is, in mm."""
        widths = self._widths[bold]
        return size_mm * sum(widths.get(ord(c), 0.5) for c in text)

    def wrapped(self, text: str, width_mm: float, size_mm: float, *, bold: bool = False) -> list[str]:
        """Text in lines no wider than so much; a longer word stays whole."""
        lines: list[str] = []
        line = ""
        for word in text.split():
            longer = f"{line} {word}" if line else word
            if line and self.width(longer, size_mm, bold=bold) > width_mm:
                lines.append(line)
                line = word
            else:
                line = longer
        return [*lines, line] if line else lines

    def shortened(self, text: str, width_mm: float, size_mm: float, *, bold: bool = False) -> str:
        """Text that fits into a width, the rest of it left out."""
        if self.width(text, size_mm, bold=bold) <= width_mm:
            return text
        while text and self.width(f"{text}…", size_mm, bold=bold) > width_mm:
            text = text[:-1]
        return f"{text.rstrip()}…"


def _advances(data: bytes) -> dict[int, float]:
    font = TTFont(io.BytesIO(data))
    em = font["head"].unitsPerEm
    widths = font["hmtx"]
    return {code: widths[name][0] / em for code, name in font.getBestCmap().items()}


def page_svg(page: Page, name: str, family: str = "Source Sans 3 Variable, sans-serif") -> str:
    """A page as SVG, a unit to the mm; `name` tells its clips from those of other pages shown beside it."""
    rows = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {number(page.width_mm)} {number(page.height_mm)}" '
        f'font-family="{escape(family)}" style="font-variant-numeric: tabular-nums">'
    ]
    for k, mark in enumerate(page.marks):
        rows.append(_text(mark) if isinstance(mark, Text) else _drawn(mark, f"{name}-clip{k}"))
    return "\n".join([*rows, "</svg>"])


_ANCHOR = {"left": "start", "middle": "middle", "right": "end"}


def _text(mark: Text) -> str:
    x, y = number(mark.x), number(mark.y)
    turn = f' transform="rotate({number(mark.turn_deg)} {x} {y})"' if mark.turn_deg else ""
    weight = ' font-weight="600"' if mark.bold else ""
    return (
        f'<text x="{x}" y="{y}" font-size="{number(mark.size_mm)}" fill="{mark.colour}"{weight} '
        f'text-anchor="{_ANCHOR[mark.align]}"{turn}>{escape(readable_line(mark.text))}</text>'
    )


def _drawn(mark: DrawnItem, clip: str) -> str:
    line = f'stroke="{mark.line}" stroke-width="{number(mark.width_mm)}"' if mark.line else ""
    dash = f' stroke-dasharray="{" ".join(map(number, mark.dash_mm))}"' if mark.dash_mm else ""
    path = f'<path d="{open_path_data(mark.chains)}" fill="{mark.fill or "none"}" fill-rule="evenodd" {line}{dash}/>'
    if mark.clip is None:
        return path
    left, top, right, bottom = mark.clip
    box = f'<rect x="{number(left)}" y="{number(top)}" width="{number(right - left)}" height="{number(bottom - top)}"/>'
    return f'<clipPath id="{clip}">{box}</clipPath><g clip-path="url(#{clip})">{path}</g>'


def open_path_data(chains: Sequence[Chain]) -> str:
    """SVG path data of chains; only those that end where they begin are closed."""
    return "".join(path_data([c]) if is_closed(c) else path_data([c]).removesuffix("Z") for c in chains if len(c))


def is_closed(chain: Chain) -> bool:
    """Whether a chain ends where it begins."""
    return len(chain) > 1 and bool((chain.start == chain.end).all())
