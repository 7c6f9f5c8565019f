"""Outlines of SVG elements as chains of lines and cubic Beziers."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterator
from xml.etree.ElementTree import Element

import numpy as np
from svgelements import Arc

from gladstack.core.drawing.svg_values import NUMBER
from gladstack.core.geometry.curves import Chain, line_pieces

Reader = Callable[[str, float, float], float]
"""Reads an attribute by name, with a default and what percentages are of."""
_TOKEN = re.compile(rf"\s*,?\s*(?:([MmZzLlHhVvCcSsQqTtAa])|({NUMBER}))")
_FLAG = re.compile(r"\s*,?\s*([01])")
_COUNTS = {"M": 2, "Z": 0, "L": 2, "H": 1, "V": 1, "C": 6, "S": 4, "Q": 4, "T": 2, "A": 7}
_MOST = 1e9
_LEAST_RADIUS = 1e-9
Run = tuple[Chain, bool]
Point = tuple[float, float]


class PathFaultError(ValueError):
    """Path data goes wrong at `at`; `runs` are all before it, which are drawn all the same."""

    def __init__(self, at: int, runs: list[Run]) -> None:
        super().__init__(at)
        self.at = at
        self.runs = runs


def outline_data(element: Element, tag: str, view: tuple[float, float], read: Reader) -> str:
    """The outline of a basic shape as path data; percentages are of the `view`, in user units."""

    def n(name: str, default: float = 0.0) -> float:
        across = name in ("x", "width", "cx", "rx", "x1", "x2")
        whole = view[0] if across else view[1] if name != "r" else float(np.hypot(*view) / 2**0.5)
        return read(name, default, whole)

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
    points = re.findall(NUMBER, element.get("points", ""))
    pairs = [f"{x} {y}" for x, y in zip(points[::2], points[1::2], strict=False)]
    return ("M" + "L".join(pairs) + ("z" if tag == "polygon" else "")) if pairs else ""


def subpaths_in(data: str) -> int:
    """How many runs path data begins, told without reading it."""
    return data.count("M") + data.count("m")


def runs(data: str) -> list[Run]:
    """The runs of path data as chains, each with whether it is closed (SVG 2, section 9.3).

    Raises PathFaultError, with the runs before the fault, for data that goes wrong.
    """
    drawn = _Drawn()
    try:
        for command, values in _segments(data):
            drawn.add(command, values)
    except PathFaultError as fault:
        raise PathFaultError(fault.at, drawn.runs()) from None
    return drawn.runs()


def _segments(data: str) -> Iterator[tuple[str, list[float]]]:
    """Single segments: a command letter, and just as many numbers as it takes. Raises PathFaultError."""
    at, end = 0, len(data.rstrip())
    command = ""
    while at < end:
        found = _TOKEN.match(data, at)
        if found is None or (not command and (found[1] or "") not in ("M", "m")):
            raise PathFaultError(at, [])
        if found[1]:
            command, at = found[1], found.end()
        elif command in "Zz":
            raise PathFaultError(at, [])
        values: list[float] = []
        count = _COUNTS[command.upper()]
        while len(values) < count:
            flag = command in "Aa" and len(values) in (3, 4)
            one = (_FLAG if flag else _TOKEN).match(data, at)
            text = one[1 if flag else 2] if one else None
            if one is None or text is None or not abs(value := float(text)) <= _MOST:
                raise PathFaultError(at, [])
            values.append(value)
            at = one.end()
        yield command, values
        if command in "Mm":
            command = "L" if command == "M" else "l"


class _Drawn:
    """The runs drawn so far, and where the pen is."""

    def __init__(self) -> None:
        self._runs: list[tuple[list[list[Point]], list[bool], bool]] = []
        self._pieces: list[list[Point]] = []
        self._straight: list[bool] = []
        self._here = self._start = (0.0, 0.0)
        self._handle: tuple[str, tuple[float, float]] = ("", (0.0, 0.0))

    def runs(self) -> list[Run]:
        """All runs, the one at work included."""
        self._finish(closed=False)
        return [(Chain(np.array(p), np.array(s)), closed) for p, s, closed in self._runs]

    def add(self, command: str, v: list[float]) -> None:
        """Draws one segment."""
        x, y = self._here
        dx, dy = (x, y) if command.islower() else (0.0, 0.0)
        kind = command.upper()
        handle = ("", (0.0, 0.0))
        if kind == "M":
            self._finish(closed=False)
            self._here = self._start = (v[0] + dx, v[1] + dy)
        elif kind == "Z":
            self._line(self._start)
            self._finish(closed=True)
            self._here = self._start
        elif kind in "LHV":
            to = (v[0] + dx, v[1] + dy) if kind == "L" else (v[0] + dx, y) if kind == "H" else (x, v[0] + dy)
            self._line(to)
        elif kind in "CS":
            first = (v[0] + dx, v[1] + dy) if kind == "C" else self._mirrored("C")
            second, to = (v[-4] + dx, v[-3] + dy), (v[-2] + dx, v[-1] + dy)
            self._curve(first, second, to)
            handle = ("C", second)
        elif kind in "QT":
            middle = (v[0] + dx, v[1] + dy) if kind == "Q" else self._mirrored("Q")
            to = (v[-2] + dx, v[-1] + dy)
            first = (x + (middle[0] - x) * 2 / 3, y + (middle[1] - y) * 2 / 3)
            self._curve(first, (to[0] + (middle[0] - to[0]) * 2 / 3, to[1] + (middle[1] - to[1]) * 2 / 3), to)
            handle = ("Q", middle)
        else:
            self._arc(v[:5], (v[5] + dx, v[6] + dy))
        self._handle = handle

    def _mirrored(self, kind: str) -> tuple[float, float]:
        """The last control point on the other side of the pen, if the segment before was of the same kind."""
        if self._handle[0] != kind:
            return self._here
        return 2 * self._here[0] - self._handle[1][0], 2 * self._here[1] - self._handle[1][1]

    def _line(self, to: tuple[float, float]) -> None:
        if to != self._here or not self._pieces:
            (a, b), (c, d) = self._here, to
            x, y = (c - a) / 3.0, (d - b) / 3.0
            self._pieces.append([self._here, (a + x, b + y), (c - x, d - y), to])
            self._straight.append(True)
        self._here = to

    def _curve(self, first: tuple[float, float], second: tuple[float, float], to: tuple[float, float]) -> None:
        self._pieces.append([self._here, first, second, to])
        self._straight.append(False)
        self._here = to

    def _arc(self, v: list[float], to: tuple[float, float]) -> None:
        if min(abs(v[0]), abs(v[1])) < _LEAST_RADIUS or to == self._here:
            # An arc of no radius is a line (SVG 2, 9.5.1); one that goes nowhere is left out.
            if to != self._here:
                self._line(to)
            return
        arc = Arc(self._here, abs(v[0]), abs(v[1]), v[2] % 360, int(v[3]), int(v[4]), to)
        for cubic in arc.as_cubic_curves():
            points = [(float(p.x), float(p.y)) for p in (cubic.control1, cubic.control2, cubic.end)]
            if all(math.isfinite(c) for p in points for c in p):
                self._curve(points[0], points[1], points[2])
        if self._pieces:
            self._pieces[-1][3] = to
        self._here = to

    def _finish(self, *, closed: bool) -> None:
        if self._pieces:
            self._runs.append((self._pieces, self._straight, closed))
        self._pieces, self._straight = [], []


def closed_chain(chain: Chain) -> Chain:
    """The chain with a line back to its start, if it does not end there."""
    if np.all(chain.start == chain.end):
        return chain
    back = line_pieces(np.array([chain.end, chain.start]))
    return Chain(np.concatenate([chain.pieces, back]), np.concatenate([chain.straight, [True]]))
