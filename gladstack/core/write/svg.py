"""Writing cut shapes as SVG: real millimetres, lines and cubic Beziers, one group for each layer."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from xml.sax.saxutils import escape, quoteattr

import numpy as np

from gladstack.core.base.plane import Box
from gladstack.core.base.text import readable, readable_line
from gladstack.core.geometry.curves import Chain

_HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n'


@dataclass(frozen=True)
class SvgLayer:
    """A named group: `slug` is its id, `colour` its fill (#rrggbb), `rings` what is cut."""

    slug: str
    name: str
    colour: str
    rings: tuple[Chain, ...]


_DIGITS = 4
_PAIR = "%.10g %.10g"
"""Of rounded coordinates these are all digits there are, up to a kilometre, and no idle zeros."""
_LINE, _CURVE = "L" + _PAIR, "C" + " ".join([_PAIR] * 3)


def number(value: float) -> str:
    """A coordinate to a tenth of a micrometre, without idle zeros."""
    text = f"{value:.4f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text


def path_data(rings: Sequence[Chain]) -> str:
    """SVG path data of closed chains: M, L, C and Z, absolute."""
    out = []
    for ring in rings:
        if not len(ring):
            continue
        # Adding nothing takes the sign off a nought.
        rows = (np.round(ring.pieces.reshape(-1, 8), _DIGITS) + 0.0).tolist()
        lines = ring.straight.tolist()
        values = [v for row, straight in zip(rows, lines, strict=True) for v in (row[6:] if straight else row[2:])]
        form = "".join(["M", _PAIR, *[_LINE if straight else _CURVE for straight in lines], "Z"])
        out.append(form % (*rows[0][:2], *values))
    return "".join(out)


def stack_svg(title: str, box: Box, layers: Sequence[SvgLayer], notes: str = "") -> str:
    """The whole decal: a group for each layer, bottom first, in real millimetres; `box` is its extent."""
    return _document(title, notes, box, [_group(layer) for layer in layers])


@dataclass(frozen=True)
class SvgGroup:
    """Cut lines under an id, a path each (SVG path data); filled in a colour, or drawn as hairlines of one."""

    id: str
    paths: tuple[str, ...]
    fill: str | None = None
    stroke: str = "#c2185b"


def film_svg(title: str, notes: str, length_mm: float, width_mm: float, groups: Sequence[SvgGroup]) -> str:
    """One piece of film, x along it and y across it, in real millimetres."""
    drawn = []
    for group in groups:
        look = (
            f'fill="{group.fill}" fill-rule="evenodd"'
            if group.fill
            else f'fill="none" stroke="{group.stroke}" stroke-width="0.1"'
        )
        paths = "\n".join(f'<path d="{d}"/>' for d in group.paths)
        drawn.append(f"<g id={quoteattr(readable_line(group.id))} {look}>\n{paths}\n</g>")
    return _document(title, notes, (0.0, 0.0, length_mm, width_mm), drawn)


def _group(layer: SvgLayer) -> str:
    slug, name = quoteattr(readable_line(layer.slug)), escape(readable_line(layer.name))
    return (
        f'<g id={slug} fill="{layer.colour}"><title>{name}</title>'
        f'<path fill-rule="evenodd" d="{path_data(layer.rings)}"/></g>'
    )


def _document(title: str, notes: str, box: Box, groups: list[str]) -> str:
    left, top = number(box[0]), number(box[1])
    w, h = number(box[2] - box[0]), number(box[3] - box[1])
    desc = f"<desc>{escape(readable(notes))}</desc>\n" if notes else ""
    return (
        f'{_HEAD}<svg xmlns="http://www.w3.org/2000/svg" width="{w}mm" height="{h}mm" viewBox="{left} {top} {w} {h}">\n'
        f"<title>{escape(readable_line(title))}</title>\n{desc}" + "\n".join(groups) + "\n</svg>\n"
    )
