"""Painting the shapes of an SVG file: fills by both rules, strokes, open paths, and the colours they are taken for."""

from __future__ import annotations

import re
from dataclasses import replace
from typing import cast
from xml.etree.ElementTree import Element

import numpy as np
import shapely
from shapely import MultiPolygon

from gladstack.core.base import tolerances
from gladstack.core.base.errors import VectorError
from gladstack.core.drawing.drawing import (
    LIMITS,
    MAX_COORDINATE_MM,
    MM_PER_PX,
    Painted,
    filled,
    require_near,
)
from gladstack.core.drawing.svg_document import tag_of
from gladstack.core.drawing.svg_paths import PathFaultError, Run, closed_chain, outline_data, runs, subpaths_in
from gladstack.core.drawing.svg_reader import SHAPES, DrawnOnce, Reader
from gladstack.core.drawing.svg_style import ROOT, Style, colour_of, style_of
from gladstack.core.drawing.svg_values import length_of, number_of
from gladstack.core.drawing.tints import LEAST_SEEN
from gladstack.core.geometry import overlay
from gladstack.core.geometry.crossings import count_crossings
from gladstack.core.geometry.curves import (
    GRID_MM,
    IDENTITY,
    Curve,
    FloatArray,
    Matrix,
    curve_of,
    curves_of,
    on_grid,
    transform_chain,
    transform_curve,
    transform_points,
)
from gladstack.core.geometry.rings import FillRule
from gladstack.core.geometry.shapes import clean
from gladstack.core.geometry.strokes import Pen, dash_count, stroked

_HREF = "{http://www.w3.org/1999/xlink}href"


_DRAWN_BY = (
    "fill-rule", "stroke-width", "stroke-linecap", "stroke-linejoin", "stroke-miterlimit", "stroke-dasharray",
    "stroke-dashoffset", "vector-effect", "font-size",
)  # fmt: skip
_OUTLINE = ("d", "points", "x", "y", "width", "height", "rx", "ry", "r", "cx", "cy", "x1", "y1", "x2", "y2")
"""The properties and attributes that the areas of a shape depend on."""
NOTHING = MultiPolygon()


def paint_shape(element: Element, tag: str, style: Style, matrix: Matrix, clip: MultiPolygon | None, reader: Reader) -> None:
    """Paints one shape. Raises VectorError if the file asks for too much."""
    if style.get("visibility") in ("hidden", "collapse"):
        return
    paint, line = _paint_of(element, "fill", style, reader), _paint_of(element, "stroke", style, reader)
    fill = paint[0] if paint else None
    stroke = line[0] if line and not reader.bare else None
    look = (
        tag,
        *map(element.get, _OUTLINE),
        reader.view,
        matrix[:4],
        fill is not None,
        stroke is not None,
        *(style.get(name) for name in _DRAWN_BY),
    )
    if (drawn := reader.drawn.get(look)) is not None:
        drawn = _again(drawn, matrix, reader)
    else:
        drawn = _drawn(element, tag, style, matrix, fill, stroke, clip, reader)
        # What is painted as the file says lies alike wherever it is placed.
        if reader.ends.how == "as-told":
            reader.drawn[look] = drawn
    reader.open_paths += drawn.open_paths
    if fill is not None:
        _add(fill, drawn.fill, drawn.curves, clip, reader, _seen(drawn.fill, paint, reader))
    if stroke is not None and not drawn.stroke.is_empty:
        _add(stroke, drawn.stroke, (), clip, reader, _seen(drawn.stroke, line, reader))


def _drawn(
    element: Element,
    tag: str,
    style: Style,
    matrix: Matrix,
    fill: str | None,
    stroke: str | None,
    clip: MultiPolygon | None,
    reader: Reader,
) -> DrawnOnce:
    """The areas that a shape fills and strokes."""
    courses = courses_of(element, tag, matrix, reader)
    left_open = [not closed and bool(np.any(chain.start != chain.end)) for chain, closed in courses]
    if reader.ends.how != "as-told" and any(left_open):
        courses = _paint_open(courses, left_open, fill, stroke, matrix, clip, reader)
    filled_in, drawn_over, points = NOTHING, NOTHING, 0
    curves: tuple[Curve, ...] = ()
    if fill is not None:
        chains = [on_grid(transform_chain(closed_chain(chain), matrix)) for chain, _ in courses]
        curves = tuple(curves_of(chains, tolerances.FLATTEN_MM))
        points = sum(len(c.points) for c in curves)
        reader.budget.take("points", points)
        rule: FillRule = "evenodd" if style.get("fill-rule") == "evenodd" else "nonzero"
        filled_in = filled(curves, rule, reader.budget) if curves else NOTHING
    if stroke is not None and courses:
        drawn_over = _stroke_shape(element, courses, style, matrix, reader)
    return DrawnOnce(matrix[4:], filled_in, curves, drawn_over, points, sum(left_open))


def _again(drawn: DrawnOnce, matrix: Matrix, reader: Reader) -> DrawnOnce:
    """A shape that was drawn before, at another place: the same to the last figure but for a whole step of the grid."""
    dx, dy = (float(np.round((new - old) / GRID_MM) * GRID_MM) for new, old in zip(matrix[4:], drawn.at, strict=True))
    reader.budget.take("points", drawn.points)
    move: Matrix = (1.0, 0.0, 0.0, 1.0, dx, dy)

    def moved(points: FloatArray) -> FloatArray:
        there = transform_points(points, move)
        require_near(there)
        return there

    return replace(
        drawn,
        fill=shapely.transform(drawn.fill, moved),
        curves=tuple(transform_curve(c, move) for c in drawn.curves),
        stroke=shapely.transform(drawn.stroke, moved),
    )


def _seen(shape: MultiPolygon, paint: tuple[str, float] | None, reader: Reader) -> float:
    """How much of paint shows; see-through paint is counted by its area."""
    seen = paint[1] if paint and not reader.bare else 1.0
    if seen < 1:
        kind = "see-through" if seen >= LEAST_SEEN else "veil"
        reader.shares[kind] = reader.shares.get(kind, 0.0) + shape.area
    return min(1.0, seen)


def courses_of(element: Element, tag: str, matrix: Matrix, reader: Reader) -> list[Run]:
    """The runs of a shape's outline; of path data with a fault all that comes before it."""

    before = reader.faults.count

    def read(name: str, default: float, percent_of: float) -> float:
        return reader.number(element, name, default, percent_of)

    data = outline_data(element, tag, reader.view, read)
    if reader.faults.count > before:
        return []
    reader.budget.take("subpaths", subpaths_in(data))
    try:
        courses = runs(data)
    except PathFaultError as fault:
        reader.faults.note(element, f"d, at character {fault.at + 1}:", data[max(0, fault.at - 8) : fault.at + 16])
        courses = fault.runs
    for chain, _ in courses:
        require_near(transform_points(chain.pieces, matrix))
    return courses


def _paint_open(
    courses: list[Run],
    left_open: list[bool],
    fill: str | None,
    stroke: str | None,
    matrix: Matrix,
    clip: MultiPolygon | None,
    reader: Reader,
) -> list[Run]:
    """Paints open paths as the maker chose; returns those that are painted as the file says."""
    own = [transform_chain(c, matrix) for (c, _), yes in zip(courses, left_open, strict=True) if yes]
    if reader.ends.how == "close" and fill is None and stroke is not None:
        curves = [curve_of(on_grid(closed_chain(c)), tolerances.FLATTEN_MM) for c in own]
        _add(stroke, filled(curves, "nonzero"), tuple(curves), clip, reader)
    elif reader.ends.how == "expand" and fill is not None and stroke is None:
        pen = Pen(reader.ends.line_mm, "round", "round")
        paths = [(curve_of(c, tolerances.FLATTEN_MM).points, False) for c in own]
        _add(fill, stroked(paths, pen, tolerances.FLATTEN_MM), (), clip, reader)
    else:
        return courses
    return [course for course, yes in zip(courses, left_open, strict=True) if not yes]


def _add(
    colour: str, shape: MultiPolygon, curves: tuple[Curve, ...], clip: MultiPolygon | None, reader: Reader, seen: float = 1.0
) -> None:
    if clip is not None:
        shape = clean(overlay.intersection(shape, clip))
    if not shape.is_empty:
        reader.budget.take("shapes", 1)
        reader.items.append(Painted(colour, shape, curves, seen, reader.groups))


def _stroke_shape(element: Element, courses: list[Run], style: Style, matrix: Matrix, reader: Reader) -> MultiPolygon:
    """The stroke drawn in the element's own units, then placed, so that an uneven scale bends the pen as it should."""
    scale = max(abs(matrix[0] * matrix[3] - matrix[1] * matrix[2]) ** 0.5, 1e-9)
    steady = style.get("vector-effect") == "non-scaling-stroke"
    here, after = (matrix, IDENTITY) if steady else (IDENTITY, matrix)
    tolerance = tolerances.FLATTEN_MM / (1.0 if steady else scale)
    unit = MM_PER_PX if steady else 1.0
    whole = float(np.hypot(*reader.view) / 2**0.5)

    def length(name: str, default: float) -> float:
        found = length_of(style.get(name), whole)
        if found is None and style.get(name):
            reader.faults.note(element, name, style[name])
        return (default if found is None else found) * unit

    pen = Pen(
        length("stroke-width", 1.0),
        cast("object", style.get("stroke-linecap", "butt")),  # type: ignore[arg-type]
        "miter" if style.get("stroke-linejoin", "miter") not in ("round", "bevel") else style["stroke-linejoin"],  # type: ignore[arg-type]
        max(1.0, number_of(style.get("stroke-miterlimit"), 4.0)),
        _dashes(element, style, whole, unit, reader),
        length("stroke-dashoffset", 0.0),
    )
    if pen.width * (1.0 if steady else scale) > MAX_COORDINATE_MM:
        raise VectorError("This drawing has a stroke more than 10 m wide.", "Save it at its real size.")
    paths = [(curve_of(transform_chain(chain, here), tolerance).points, closed) for chain, closed in courses]
    reader.budget.take("points", sum(len(p) for p, _ in paths))
    reader.budget.take("crossings", count_crossings([p for p, _ in paths], LIMITS["crossings"][0]))
    if pen.dashes:
        lengths = [float(np.hypot(*np.diff(p, axis=0).T).sum()) for p, _ in paths]
        reader.budget.take("dashes", sum(dash_count(one, pen) for one in lengths))
    shape = stroked(paths, pen, tolerance)
    return clean(shapely.transform(shape, lambda p: transform_points(p, after)))


def _dashes(element: Element, style: Style, whole: float, unit: float, reader: Reader) -> tuple[float, ...]:
    told = style.get("stroke-dasharray", "none").strip()
    words = [] if told in ("none", "") else re.findall(r"[^\s,]+", told)
    reader.budget.take("dashes", len(words))
    lengths = [length_of(w, whole) for w in words]
    if any(v is None or v < 0 for v in lengths):
        reader.faults.note(element, "stroke-dasharray", told)
        return ()
    return tuple(v * unit for v in lengths if v is not None)


def _paint_of(element: Element, kind: str, style: Style, reader: Reader) -> tuple[str, float] | None:
    """The colour that a fill or stroke is taken for, and how much of it shows (0 to 1); None if there is none."""
    value = style.get(kind, "none").strip()
    seen = number_of(style.get(f"{kind}-opacity"), 1.0, 1.0) * number_of(style.get("-seen"), 1.0)
    if seen == 0:
        return None
    found = re.match(r"url\(\s*['\"]?#([^'\")]+)['\"]?\s*\)\s*(.*)", value)
    if found:
        source = reader.ids.get(found[1])
        colour = _middle_colour(source, style, reader, 0) if source is not None else None
        if colour is not None:
            return colour, seen
        value = found[2] or "none"
    try:
        paint = colour_of(value, style)
    except ValueError:
        reader.faults.note(element, kind, value)
        paint = ("#000000", 1.0) if kind == "fill" else None
    if paint is None or paint[1] == 0:
        return None
    return paint[0], paint[1] * seen


def _middle_colour(source: Element, style: Style, reader: Reader, depth: int) -> str | None:
    """The mean colour of a gradient's stops; of a pattern the first plain fill in it."""
    if depth > 8:
        return None
    if tag_of(source) == "pattern":
        if any(tag_of(e) == "image" for e in source.iter()):
            reader.told["pattern"] = "A pattern holds a picture, which has no outlines to cut: separate that as a picture."
            return None
        reader.told["pattern"] = "A pattern became one film of its first colour."
        fills = (style_of(e, ROOT, reader.sheets).get("fill", "none") for e in source.iter() if tag_of(e) in SHAPES)
        return next((c[0] for c in (_plain_colour(f, style) for f in fills) if c), None)
    stops = [style_of(e, style, reader.sheets) for e in source if tag_of(e) == "stop"]
    colours = [c for c in (_plain_colour(s.get("stop-color", "#000000"), s) for s in stops) if c]
    if not colours:
        target = source.get("href") or source.get(_HREF) or ""
        found = reader.ids.get(target[1:]) if target.startswith("#") else None
        return _middle_colour(found, style, reader, depth + 1) if found is not None else None
    reader.told["gradient"] = "A gradient became one film of its middle colour."
    rgb = np.array([[int(c[0][k : k + 2], 16) for k in (1, 3, 5)] for c in colours]).mean(axis=0)
    return "#{:02x}{:02x}{:02x}".format(*(round(v) for v in rgb))


def _plain_colour(value: str, style: Style) -> tuple[str, float] | None:
    try:
        return colour_of(value, style)
    except ValueError:
        return None
