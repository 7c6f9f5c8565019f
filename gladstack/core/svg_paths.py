"""Outlines of SVG elements as chains of lines and cubic Beziers."""

from __future__ import annotations

import re
from xml.etree.ElementTree import Element

import numpy as np
from svgelements import Arc, CubicBezier, Move, QuadraticBezier
from svgelements import Path as SvgPath

from gladstack.core.curves import Chain, line_pieces
from gladstack.core.svg_style import number_of


def outline_data(element: Element, tag: str, view: tuple[float, float]) -> str:
    """The outline of a basic shape as path data; percentages are of the `view`, in user units."""

    def n(name: str, default: float = 0.0) -> float:
        across = name in ("x", "width", "cx", "rx", "x1", "x2")
        whole = view[0] if across else view[1] if name != "r" else float(np.hypot(*view) / 2**0.5)
        return number_of(element.get(name), default, whole)

    if tag == "path":
        return element.get("d", "")
    if tag == "rect":
        x, y, w, h = n("x"), n("y"), n("width"), n("height")
        rx = n("rx", n("ry")) if element.get("rx") != "auto" else n("ry")
        ry = n("ry", rx) if element.get("ry") != "auto" else rx
        rx, ry = min(rx, w / 2), min(ry, h / 2)
        if w <= 0 or h <= 0:
            return ""
        if rx <= 0 or ry <= 0:
            return f"M{x} {y}h{w}v{h}h{-w}z"
        arc = f"a{rx} {ry} 0 0 1 "
        return (
            f"M{x + rx} {y}h{w - 2 * rx}{arc}{rx} {ry}v{h - 2 * ry}{arc}{-rx} {ry}h{2 * rx - w}{arc}{-rx} {-ry}"
            f"v{2 * ry - h}{arc}{rx} {-ry}z"
        )
    if tag in ("circle", "ellipse"):
        rx, ry = (n("r"), n("r")) if tag == "circle" else (n("rx"), n("ry"))
        if rx <= 0 or ry <= 0:
            return ""
        x, y = n("cx"), n("cy")
        return f"M{x + rx} {y}A{rx} {ry} 0 0 1 {x - rx} {y}A{rx} {ry} 0 0 1 {x + rx} {y}z"
    if tag == "line":
        return f"M{n('x1')} {n('y1')}L{n('x2')} {n('y2')}"
    points = re.findall(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?", element.get("points", ""), re.IGNORECASE)
    pairs = [f"{x} {y}" for x, y in zip(points[::2], points[1::2], strict=False)]
    return ("M" + "L".join(pairs) + ("z" if tag == "polygon" else "")) if pairs else ""


def runs(data: str) -> list[tuple[Chain, bool]]:
    """The runs of path data as chains, each with whether it is closed. What comes after a fault in the data is left out."""
    try:
        path = SvgPath(data)
    except (ValueError, IndexError, TypeError, AttributeError):
        return []
    runs: list[tuple[list[np.ndarray], list[bool], bool]] = []
    pieces: list[np.ndarray] = []
    straight: list[bool] = []
    closed = False

    def finish() -> None:
        nonlocal pieces, straight, closed
        if pieces:
            runs.append((pieces, straight, closed))
        pieces, straight, closed = [], [], False

    for segment in path:
        if isinstance(segment, Move):
            finish()
        elif isinstance(segment, Arc):
            for cubic in segment.as_cubic_curves():
                pieces.append(_points(cubic.start, cubic.control1, cubic.control2, cubic.end))
                straight.append(False)
        elif isinstance(segment, CubicBezier):
            pieces.append(_points(segment.start, segment.control1, segment.control2, segment.end))
            straight.append(False)
        elif isinstance(segment, QuadraticBezier):
            p, q, r = _points(segment.start, segment.control, segment.end)
            pieces.append(np.array([p, p + (q - p) * 2 / 3, r + (q - r) * 2 / 3, r]))
            straight.append(False)
        elif segment.start is not None and segment.end is not None:
            ends = _points(segment.start, segment.end)
            if np.any(ends[0] != ends[1]) or not pieces:
                pieces.append(line_pieces(ends)[0])
                straight.append(True)
        if type(segment).__name__ == "Close":
            closed = True
            finish()
    finish()
    return [(Chain(np.array(p), np.array(s)), c) for p, s, c in runs if np.all(np.isfinite(np.array(p)))]


def _points(*points: object) -> np.ndarray:
    return np.array([[p.x, p.y] for p in points], dtype=np.float64)  # type: ignore[attr-defined]


def closed_chain(chain: Chain) -> Chain:
    """The chain with a line back to its start, if it does not end there."""
    if np.all(chain.start == chain.end):
        return chain
    back = line_pieces(np.array([chain.end, chain.start]))
    return Chain(np.concatenate([chain.pieces, back]), np.concatenate([chain.straight, [True]]))
