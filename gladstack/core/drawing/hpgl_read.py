"""Plots in HPGL read back: what each pen draws, as runs of lines (after HP-GL: IN, SP, PU, PD, PA, PR, AA, AR, CI, EA, ER).

Other instructions, of speed, force, labels and the like, draw no line to cut and are passed over.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from gladstack.core.base.errors import VectorError
from gladstack.core.drawing.drawing import AS_TOLD, Drawing, OpenEnds
from gladstack.core.drawing.outlines import outline_drawing
from gladstack.core.geometry.curves import Chain, line_pieces

UNIT_MM = 0.025
"""A plotter unit."""
_BEGINS = re.compile(rb"^[\x00-\x20]*(?:\x1b%-?\d*[AB])?[\s;]*(?:IN|DF|SP ?\d|PU|PD|PA|VS ?\d|IP|BP|RO)[\s;\d,.+-]")
_WORD = re.compile(r"([A-Za-z]{2})([^A-Za-z;\x03]*)")
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)")
_PENS = ("#000000", "#c0392b", "#1f5fa8", "#2e8b57", "#b8860b", "#7a3b8f", "#0f8b8d", "#d35400")
"""Colours for pens 1 to 8: a plot names pens, not colours."""
_MOST_POINTS = 400_000
_MOST_UNITS = 1e9
_TURN_DEG = 5.0
_LABELS = re.compile(r"(LB|SM)[^\x03]*\x03?", re.IGNORECASE)


def is_hpgl(data: bytes) -> bool:
    """Whether bytes look like a plot."""
    return _BEGINS.match(data[:200]) is not None and b"\x00" not in data[:200]


def read_hpgl(data: bytes, ends: OpenEnds = AS_TOLD) -> Drawing:
    """The outlines of a plot, one colour a pen. Raises VectorError."""
    found = [(pen, _chain(points, UNIT_MM)) for pen, points in _runs(data)]
    notices = {"pens": "A plot tells pens, not colours: those shown here are only to tell them apart."} if found else {}
    return replace(outline_drawing(found, ends, notices, told=True, kind="plot"), fixed=True)


def _runs(data: bytes) -> Iterator[tuple[str, list[tuple[float, float]]]]:
    """What is drawn with the pen down: the pen's colour and the points, in plotter units."""
    text = _LABELS.sub("", data.decode("latin-1"))
    here, pen, down, absolute = (0.0, 0.0), 1, False, True
    run: list[tuple[float, float]] = []
    points = 0
    for word, told in _WORD.findall(text):
        name, numbers = word.upper(), [float(v) for v in _NUMBER.findall(told)]
        if numbers and max(map(abs, numbers)) > _MOST_UNITS:
            raise VectorError("This plot has numbers that no plotter reaches.", "Export it again.")
        steps: list[tuple[float, float]] = []
        if name in ("PU", "SP", "IN", "DF") and len(run) > 1:
            yield _colour(pen), run
        if name in ("PU", "SP", "IN", "DF"):
            run, down = [], False
        if name == "PD":
            down = True
        elif name in ("PA", "PR"):
            absolute = name == "PA"
        elif name == "SP":
            pen = int(numbers[0]) if numbers else 0
        elif name in ("IN", "DF"):
            absolute, here = True, ((0.0, 0.0) if name == "IN" else here)
        elif name in ("AA", "AR") and len(numbers) >= 3:
            centre = (numbers[0], numbers[1]) if name == "AA" else (here[0] + numbers[0], here[1] + numbers[1])
            steps = _arc(here, centre, numbers[2], numbers[3] if len(numbers) > 3 else _TURN_DEG)
        elif name in ("CI", "EA", "ER") and numbers:
            closed = _closed(name, here, numbers)
            points += len(closed)
            if closed:
                yield _colour(pen), closed
        if name in ("PU", "PD", "PA", "PR"):
            at = here
            for x, y in zip(numbers[::2], numbers[1::2], strict=False):
                at = (x, y) if absolute else (at[0] + x, at[1] + y)
                steps.append(at)
        points += len(steps)
        if points > _MOST_POINTS:
            raise VectorError(f"This plot has more than {_MOST_POINTS:,} points.", "Save only what is to be cut.")
        if steps and down:
            run = run or [here]
            run += steps
        here = steps[-1] if steps else here
    if len(run) > 1:
        yield _colour(pen), run


def _colour(pen: int) -> str:
    return _PENS[(pen - 1) % len(_PENS)]


def _arc(here: tuple[float, float], centre: tuple[float, float], sweep: float, chord: float) -> list[tuple[float, float]]:
    """Points along an arc from `here`, not itself included."""
    radius = math.dist(here, centre)
    begin = math.atan2(here[1] - centre[1], here[0] - centre[0])
    count = min(720, max(1, math.ceil(abs(sweep) / min(max(abs(chord), 0.5), _TURN_DEG))))
    angles = [begin + math.radians(sweep) * (k + 1) / count for k in range(count)]
    return [(centre[0] + radius * math.cos(a), centre[1] + radius * math.sin(a)) for a in angles]


def _closed(name: str, here: tuple[float, float], numbers: list[float]) -> list[tuple[float, float]]:
    """A circle round the pen's place, or a rectangle from it to a corner."""
    if name == "CI":
        first = (here[0] + numbers[0], here[1])
        return [first, *_arc(first, here, 360.0, 2.0)[:-1], first]
    if len(numbers) < 2:
        return []
    x, y = (numbers[0], numbers[1]) if name == "EA" else (here[0] + numbers[0], here[1] + numbers[1])
    return [here, (x, here[1]), (x, y), (here[0], y), here]


def _chain(points: list[tuple[float, float]], scale: float) -> Chain:
    """A run of lines in mm, y down."""
    xy = np.array(points) * (scale, -scale)
    keep = np.append(True, np.any(np.diff(xy, axis=0) != 0, axis=1))
    xy = xy[keep] if keep.sum() > 1 else xy[:2]
    pieces = line_pieces(xy)
    return Chain(pieces, np.ones(len(pieces), np.bool_))
