"""Lettering: lines of text set in a font, as placed closed curves for every letter.

A lettering's own millimetres have their origin on the baseline of the first line, where the lines are aligned (at their
left, middle or right), so changing a word leaves the baseline where it is. Lines are parted into runs of one direction and
one script (`directions`), each shaped by its own rules.
"""

from __future__ import annotations

import math
import unicodedata
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base import tolerances
from gladstack.core.base.errors import FontError
from gladstack.core.base.plane import Box
from gladstack.core.geometry import overlay
from gladstack.core.geometry.curves import Curve, Matrix, compose, curves_of, on_grid, transform_chain
from gladstack.core.geometry.rings import as_multi, fill, polygons_of
from gladstack.core.lettering.directions import JOINED, Run, runs_of
from gladstack.core.lettering.faces import Face, Glyph, shape_run
from gladstack.core.lettering.lettering import MAX_LETTERS, Align, Layout, Letter, Lettering, Line, Tweak


@dataclass(frozen=True)
class _Set:
    """A glyph on its line: where it begins, the middle of its advance (mm from the line's start) and its scale."""

    index: int
    text: str
    glyph: Glyph
    x: float
    y: float
    middle: float
    scale: float


def lay_out(lettering: Lettering) -> Layout:
    """Where every letter goes. Raises FontError if the lettering cannot be set like this."""
    if sum(len(line.text) for line in lettering.lines) > MAX_LETTERS:
        raise FontError(f"A lettering may have {MAX_LETTERS} letters at most.", "Split it into two.")
    rows: list[list[_Set]] = []
    missing: dict[tuple[str, str], None] = {}
    lent: dict[tuple[str, str, str], None] = {}
    start, starts = 0, list[int]()
    for line in lettering.lines:
        runs = _runs_by_face(line)
        for run, face in runs:
            seen = [c for c in run.text if unicodedata.category(c) != "Cf"]
            missing.update(dict.fromkeys((c, line.face.family) for c in seen if not face.has(c)))
            if face is not line.face:
                lent.update(
                    dict.fromkeys((c, line.face.family, face.family) for c in seen if face.has(c) and not c.isspace())
                )
        rows.append(_set_line(line, runs, start, _spacing(line, lettering), lettering))
        starts.append(start)
        start += len(line.text) + 1
    factors = _line_factors(lettering.lines, [_ink(row) for row in rows])
    for k, line in enumerate(lettering.lines):
        if line.spread and factors[k] > 1 and (wider := _spread(line, starts[k], rows[k], factors[k], lettering)):
            rows[k], factors[k] = wider, 1.0
    rows = [[_scaled(s, f) for s in row] for row, f in zip(rows, factors, strict=True)]
    rows = [_aligned(row, "centre" if lettering.bend else lettering.align) for row in rows]
    heights = [line.height_mm * f for line, f in zip(lettering.lines, factors, strict=True)]
    baselines = [0.0]
    for height in heights[1:]:
        baselines.append(baselines[-1] + lettering.leading * height)
    set_rows = list(zip(rows, baselines, strict=True))
    factor = _fit(set_rows, lettering)
    letters = [
        replace(letter, matrix=compose((factor, 0, 0, factor, 0, 0), letter.matrix))
        for row, baseline in set_rows
        for letter in _placed(row, baseline, lettering, lettering.tweaks or {}, factor)
        if letter.glyph.box is not None
    ]
    return Layout(tuple(letters), tuple(missing), tuple(lent), tuple(f * factor for f in factors))


def letter_curves(letters: Sequence[Letter], matrix: Matrix) -> list[list[Curve]]:
    """The closed curves of every letter, placed by `matrix` (lettering to design millimetres)."""
    chains = [
        on_grid(transform_chain(c, compose(matrix, letter.matrix))) for letter in letters for c in letter.glyph.contours
    ]
    curves = curves_of(chains, tolerances.FLATTEN_MM)
    out = []
    at = 0
    for letter in letters:
        out.append(curves[at : at + len(letter.glyph.contours)])
        at += len(letter.glyph.contours)
    return out


def letter_shape(letter: Letter, curves: Sequence[Curve]) -> MultiPolygon:
    """The filled shape of one letter from its placed curves."""
    polygons = polygons_of(curves, letter.glyph.nesting) if letter.glyph.nesting is not None else fill(curves)
    if not all(shapely.is_valid(p) for p in polygons):
        polygons = fill(curves)
    return MultiPolygon(polygons)


def weld(shapes: Sequence[MultiPolygon]) -> MultiPolygon:
    """Letters as one shape, without a cut line where they overlap."""
    return as_multi([p for s in shapes for p in s.geoms])


def unwelded(shapes: Sequence[MultiPolygon]) -> MultiPolygon:
    """Letters cut each for itself: where two overlap, both cut lines run, and what lies between them falls out."""
    out: shapely.Geometry = MultiPolygon()
    for shape in shapes:
        out = overlay.union(overlay.difference(out, shape), overlay.difference(shape, out))
    return MultiPolygon([p for p in shapely.get_parts(out) if isinstance(p, Polygon)])


def overlapping(shapes: Sequence[MultiPolygon]) -> list[tuple[int, int]]:
    """Pairs of letters that overlap in more than an edge."""
    a, b = shapely.STRtree(shapes).query(shapes, predicate="intersects")
    return [
        (int(i), int(j))
        for i, j in zip(a, b, strict=True)
        if i < j and shapely.intersection(shapes[i], shapes[j]).area > tolerances.AREA_MM2
    ]


def _runs_by_face(line: Line) -> list[tuple[Run, Face]]:
    """The runs of a line from left to right, each with the font it is set in: the line's own, one that has all of a run, or
    letter by letter the first that has it.
    """
    out: list[tuple[Run, Face]] = []
    for run in runs_of(line.text, line.direction):
        faces = (line.face, *line.others)
        whole = next((f for f in faces if all(map(f.has, run.text))), None)
        if whole is not None:
            out.append((run, whole))
            continue
        parts: list[tuple[Run, Face]] = []
        for k, character in enumerate(run.text):
            before = parts[-1] if parts else None
            joins = before is not None and (unicodedata.category(character)[0] == "M" or character.isspace())
            wanted = (before[1], *faces) if before is not None and joins else faces
            face = next((f for f in wanted if f.has(character)), line.face)
            if before is not None and before[1] is face:
                parts[-1] = (replace(before[0], text=before[0].text + character), face)
            else:
                parts.append((replace(run, first=run.first + k, text=character), face))
        out.extend(reversed(parts) if run.leftward else parts)
    return out


def _set_line(line: Line, runs: Sequence[tuple[Run, Face]], start: int, spacing: float, lettering: Lettering) -> list[_Set]:
    """The letters of one line from x = 0 rightwards, in mm."""
    tweaks, pairs = lettering.tweaks or {}, lettering.pairs or {}
    apart = spacing != 0 or any(first + second in line.text for first, second in pairs)
    out: list[_Set] = []
    x = 0.0
    for run, face in runs:
        scale = line.height_mm / face.cap_height
        before = None
        forms = [(0, len(run.text), tag, value) for tag, value in line.forms]
        for k in range(len(run.text)):
            tweak = tweaks.get(start + run.first + k)
            forms += [(k, k + 1, tag, value) for tag, value in tweak.forms] if tweak else []
        shaping = shape_run(face, run.text, rtl=run.leftward, script=run.script, ligatures=not apart, forms=forms)
        for shaped in shaping:
            index = run.first + shaped.cluster
            if (before is None and out) or (
                before is not None and before != index and _apart(line.text, run, before, index)
            ):
                x += spacing
            if before is not None and abs(index - before) == 1:
                x += pairs.get((line.text[min(before, index)], line.text[max(before, index)]), 0.0)
            before = index
            if not face.has(line.text[index]):
                continue
            glyph = face.glyph(shaped.glyph)
            middle = x + 0.5 * shaped.advance * scale
            out.append(_Set(start + index, line.text[index], glyph, x + shaped.dx * scale, shaped.dy * scale, middle, scale))
            x += shaped.advance * scale
    return out


def _spacing(line: Line, lettering: Lettering) -> float:
    return lettering.spacing_mm if line.spacing_mm is None else line.spacing_mm


def _spread(line: Line, start: int, row: Sequence[_Set], factor: float, lettering: Lettering) -> list[_Set] | None:
    """The letters of a line so far apart that its ink is so many times as wide; None if it has but one."""
    left, right = _ink(row)
    wanted = factor * (right - left)
    runs = _runs_by_face(line)
    # Spaced letters make no ligatures: what they come to is measured as they will be set.
    first = _spacing(line, lettering) or _HAIR_MM
    narrow, wide = (_ink(_set_line(line, runs, start, first + more, lettering)) for more in (0.0, 1.0))
    each = (wide[1] - wide[0]) - (narrow[1] - narrow[0])
    if each < _HAIR_MM:
        return None
    return _set_line(line, runs, start, first + (wanted - (narrow[1] - narrow[0])) / each, lettering)


_HAIR_MM = 1e-6


def _apart(text: str, run: Run, a: int, b: int) -> bool:
    """Whether two letters that stand beside each other are spaced: in scripts that join them only words are."""
    return run.script not in JOINED or text[a].isspace() or text[b].isspace()


def _ink(row: Sequence[_Set]) -> tuple[float, float]:
    """Where a line's ink begins and ends, mm; (0, 0) if it has none."""
    ends = [(s.x + s.glyph.box[0] * s.scale, s.x + s.glyph.box[2] * s.scale) for s in row if s.glyph.box is not None]
    return (min(e[0] for e in ends), max(e[1] for e in ends)) if ends else (0.0, 0.0)


def _line_factors(lines: Sequence[Line], ink: Sequence[tuple[float, float]]) -> list[float]:
    widths = [b - a for a, b in ink]

    def wanted(k: int, seen: frozenset[int]) -> float:
        line = lines[k]
        if line.width_mm is not None:
            return line.width_mm
        if line.like is None:
            return widths[k]
        if line.like in seen or not 0 <= line.like < len(lines):
            raise FontError("Lines cannot be made as wide as each other in a ring.", "Give one of them a width.")
        return wanted(line.like, seen | {line.like})

    return [wanted(k, frozenset({k})) / w if w > 0 else 1.0 for k, w in enumerate(widths)]


def _scaled(s: _Set, factor: float) -> _Set:
    if factor == 1.0:
        return s
    return replace(s, x=s.x * factor, y=s.y * factor, middle=s.middle * factor, scale=s.scale * factor)


def _aligned(row: list[_Set], align: Align) -> list[_Set]:
    """The line moved so that its ink starts, has its middle, or ends at x = 0."""
    left, right = _ink(row)
    shift = {"left": left, "centre": 0.5 * (left + right), "right": right}[align]
    return [replace(s, x=s.x - shift, middle=s.middle - shift) for s in row]


def _placed(
    row: Sequence[_Set], baseline: float, lettering: Lettering, tweaks: Mapping[int, Tweak], factor: float = 1.0
) -> list[Letter]:
    """The letters of a line where they go before all is scaled by `factor`, which the nudges of tweaks are told after."""
    out = []
    bend = lettering.bend
    for s in row:
        tweak = tweaks.get(s.index, Tweak())
        if bend is None:
            foot, angle = (s.middle, baseline), 0.0
        else:
            over = bend.sense == "over"
            radius = bend.radius_mm - baseline if over else bend.radius_mm + baseline
            if radius <= 0:
                raise FontError("The lines do not fit round so small a circle.", "Take a larger radius.")
            turn = s.middle / radius
            side = 1.0 if over else -1.0
            foot = (radius * math.sin(turn), side * (bend.radius_mm - radius * math.cos(turn)))
            angle = side * turn
        angle += math.radians(tweak.turn_deg)
        cos, sin, scale = math.cos(angle), math.sin(angle), s.scale * tweak.scale
        dx, dy = (s.x - s.middle) * tweak.scale, s.y * tweak.scale
        matrix = (
            cos * scale,
            sin * scale,
            -sin * scale,
            cos * scale,
            foot[0] + tweak.dx_mm / factor + cos * dx - sin * dy,
            foot[1] + tweak.dy_mm / factor + sin * dx + cos * dy,
        )
        out.append(Letter(s.index, s.text, s.glyph, matrix))
    return out


def ink_box(letters: Sequence[Letter]) -> Box | None:
    """The box of all ink in lettering millimetres, None if there is none."""
    boxes = []
    for letter in letters:
        curves = letter_curves([letter], (1.0, 0.0, 0.0, 1.0, 0.0, 0.0))[0]
        points = np.concatenate([c.points for c in curves])
        boxes.append((*points.min(axis=0).tolist(), *points.max(axis=0).tolist()))
    if not boxes:
        return None
    rows = np.array(boxes)
    left, top = rows[:, :2].min(axis=0).tolist()
    right, bottom = rows[:, 2:].max(axis=0).tolist()
    return left, top, right, bottom


def _fit(rows: Sequence[tuple[Sequence[_Set], float]], lettering: Lettering) -> float:
    """How much all is to be scaled so that its ink gets the wanted width or height.

    Letters that were nudged, turned or scaled by hand count as if they were not, so that a nudge never scales the rest.
    """
    if lettering.width_mm is None and lettering.height_mm is None:
        return 1.0
    plain = [a for row, baseline in rows for a in _placed(row, baseline, lettering, {}) if a.glyph.box is not None]
    box = ink_box(plain)
    if box is None:
        return 1.0
    width, height = box[2] - box[0], box[3] - box[1]
    return lettering.width_mm / width if lettering.width_mm is not None else (lettering.height_mm or height) / height
