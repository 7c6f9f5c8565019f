"""Reading foreign SVG files (SVG 1.1 and 2 as drawing programs and shops write them) into painted shapes in millimetres.

What is read: groups, transforms, nested documents, use and symbol, style sheets and style attributes, fills by both rules,
strokes with joins, caps and dashes, clip paths, basic shapes, units and viewBox. Gradients become one film of their middle
colour. Text, masks, filters and embedded pictures are told of, not drawn. Nothing outside the file is ever opened.
"""

from __future__ import annotations

import base64
import binascii
import re
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import cast
from xml.etree.ElementTree import Element, ParseError

import defusedxml.ElementTree
import numpy as np
import shapely
from defusedxml.common import DefusedXmlException
from shapely import MultiPolygon
from svgelements import Matrix as SvgMatrix

from gladstack.core import overlay, tolerances
from gladstack.core.curves import (
    Chain,
    Curve,
    Matrix,
    compose,
    curve_of,
    on_grid,
    transform_chain,
    transform_points,
)
from gladstack.core.drawing import AS_TOLD, Drawing, OpenEnds, Painted, filled
from gladstack.core.errors import VectorError
from gladstack.core.joints import clean
from gladstack.core.rings import FillRule
from gladstack.core.strokes import Pen, stroked
from gladstack.core.svg_paths import closed_chain, outline_data, runs
from gladstack.core.svg_style import ROOT, Rule, Style, colour_of, number_of, read_sheet, style_of

MAX_BYTES = 20 * 2**20
MAX_ELEMENTS = 100_000
MAX_DEPTH = 120
MAX_COPIES = 5_000
MAX_COORDINATE_MM = 100_000.0
MM_PER_PX = 25.4 / 96
_IDENTITY: Matrix = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)
_SHAPES = ("path", "rect", "circle", "ellipse", "line", "polyline", "polygon")
_PASSED_OVER = ("defs", "symbol", "clipPath", "mask", "pattern", "marker", "filter", "linearGradient", "radialGradient",
                "style", "title", "desc", "metadata", "script", "foreignObject", "view", "animate", "set")  # fmt: skip
_HREF = "{http://www.w3.org/1999/xlink}href"


@dataclass
class _Reader:
    ids: dict[str, Element]
    rules: list[Rule]
    view: tuple[float, float] = (100.0, 100.0)
    items: list[Painted] = field(default_factory=list)
    told: dict[str, str] = field(default_factory=dict)
    pictures: list[bytes | None] = field(default_factory=list)
    steps: int = 0
    ends: OpenEnds = AS_TOLD
    open_paths: int = 0
    copies: int = 0
    above: list[Element] = field(default_factory=list)


def read_svg(data: bytes, px_mm: float = MM_PER_PX, ends: OpenEnds = AS_TOLD) -> Drawing:
    """The drawing in an SVG file; `px_mm` is what a bare pixel is taken for, `ends` what becomes of paths left open.

    Raises VectorError.
    """
    root = _parsed(data)
    reader = _Reader({e.get("id", ""): e for e in root.iter() if e.get("id")}, [], ends=ends)
    for element in root.iter():
        if _tag(element) == "style":
            reader.rules += read_sheet("".join(element.itertext()))
    width, height, told, matrix = _page(root, px_mm)
    reader.view = (width / matrix[0], height / matrix[3]) if width > 0 and height > 0 else reader.view
    style = style_of(root, "svg", ROOT, reader.rules)
    reader.above.append(root)
    for child in root:
        _walk(child, style, matrix, None, 1, reader)
    if not np.isfinite(_reach(reader.items)) or _reach(reader.items) > MAX_COORDINATE_MM:
        raise VectorError("This drawing reaches more than 100 m from its origin.", "Save it at its real size.")
    if width <= 0 or height <= 0:
        left, top, right, bottom = _extent(reader.items)
        width, height = right - left, bottom - top
    if not reader.items and not reader.pictures:
        why = " ".join(reader.told.values()) or "It paints nothing."
        raise VectorError("Nothing in this file can be cut.", why)
    held = next((p for p in reader.pictures if p), None)
    notices = tuple(reader.told.items())
    return Drawing(width, height, told, tuple(reader.items), notices, len(reader.pictures), held, reader.open_paths)


def _parsed(data: bytes) -> Element:
    if len(data) > MAX_BYTES:
        raise VectorError("This file is larger than 20 MB.", "Save only what is to be cut.")
    if data[:2] == b"\x1f\x8b":
        raise VectorError("This is a compressed SVG file.", "Save it as plain SVG.")
    try:
        root = defusedxml.ElementTree.fromstring(data)
    except DefusedXmlException as fault:
        raise VectorError("This file defines entities, as hostile files do.", "Save it anew as plain SVG.") from fault
    except (ParseError, ValueError, LookupError) as fault:
        raise VectorError(f"This file is not whole XML: {fault}.", "Save it anew as plain SVG.") from fault
    if _tag(root) != "svg":
        raise VectorError("This file is XML, but no SVG drawing.", "Bring in an SVG or DXF file.")
    count = depth = 0
    level = [root]
    while level:
        count, depth = count + len(level), depth + 1
        if count > MAX_ELEMENTS or depth > MAX_DEPTH:
            raise VectorError("This drawing has too many or too deeply nested parts.", "Save only what is to be cut.")
        level = [child for element in level for child in element]
    return cast(Element, root)


def _tag(element: Element) -> str:
    return element.tag.split("}")[-1] if isinstance(element.tag, str) else ""


def _page(root: Element, px_mm: float) -> tuple[float, float, bool, Matrix]:
    """Width and height in mm, whether the file tells them, and the matrix from user units to mm."""
    box = [float(v) for v in re.findall(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?", root.get("viewBox", ""), re.IGNORECASE)]
    told_width, told_height = root.get("width"), root.get("height")
    real = bool(re.search(r"(mm|cm|in|pt|pc|q)\s*$", (told_width or "").strip(), re.IGNORECASE))
    px = MM_PER_PX if real else px_mm
    if len(box) != 4 or box[2] <= 0 or box[3] <= 0:
        width, height = number_of(told_width) * px, number_of(told_height) * px
        return width, height, real, (px, 0.0, 0.0, px, 0.0, 0.0)
    relative = "%" in (told_width or "%")
    width = box[2] * px if relative else number_of(told_width, box[2]) * px
    default = width * box[3] / box[2]
    height = default if "%" in (told_height or "%") else number_of(told_height) * px
    return width, height, real, _fitted(box, width, height, root.get("preserveAspectRatio", ""))


def _fitted(box: Sequence[float], width: float, height: float, how: str) -> Matrix:
    """The matrix that puts a viewBox into a width and height, after `preserveAspectRatio`."""
    sx, sy = width / box[2], height / box[3]
    if "none" not in how:
        sx = sy = max(sx, sy) if "slice" in how else min(sx, sy)
    spare_x, spare_y = width - box[2] * sx, height - box[3] * sy
    share_x = 0.0 if "xMin" in how else 1.0 if "xMax" in how else 0.5
    share_y = 0.0 if "YMin" in how else 1.0 if "YMax" in how else 0.5
    return sx, 0.0, 0.0, sy, spare_x * share_x - box[0] * sx, spare_y * share_y - box[1] * sy


def _walk(
    element: Element, inherited: Style, matrix: Matrix, clip: MultiPolygon | None, depth: int, reader: _Reader
) -> None:
    tag = _tag(element)
    reader.steps += 1
    if reader.steps > MAX_ELEMENTS or depth > MAX_DEPTH:
        raise VectorError("This drawing repeats its parts without end.", "Save it with its copies made real.")
    if tag in _PASSED_OVER or not tag:
        return
    style = style_of(element, tag, inherited, reader.rules, reader.above)
    if style.get("display") == "none" or number_of(style.get("opacity"), 1.0) == 0:
        return
    matrix = compose(matrix, _transform(style.get("transform")))
    clip = _clipped(element, style, matrix, clip, depth, reader)
    _tell_of_effects(style, reader)
    reader.above.append(element)
    _walk_into(element, tag, style, matrix, clip, depth, reader)
    reader.above.pop()


def _walk_into(
    element: Element, tag: str, style: Style, matrix: Matrix, clip: MultiPolygon | None, depth: int, reader: _Reader
) -> None:
    if tag in ("g", "a", "switch"):
        for child in element:
            _walk(child, style, matrix, clip, depth + 1, reader)
    elif tag == "svg":
        _walk_nested(element, style, matrix, clip, depth, reader)
    elif tag == "use":
        _walk_use(element, style, matrix, clip, depth, reader)
    elif tag in _SHAPES:
        _paint(element, tag, style, matrix, clip, reader)
    elif tag == "image":
        reader.pictures.append(_embedded(element))
        reader.told["picture"] = "It holds a picture, which has no outlines to cut: separate that as a picture."
    elif tag in ("text", "tspan", "flowRoot"):
        reader.told["text"] = "Its text has no outlines: turn text into paths before saving, or set it here as lettering."


def _walk_nested(
    element: Element, style: Style, matrix: Matrix, clip: MultiPolygon | None, depth: int, reader: _Reader
) -> None:
    """A document within the document, or a symbol made real."""
    x, y = number_of(element.get("x")), number_of(element.get("y"))
    box = [float(v) for v in re.findall(r"[-+.\de]+", element.get("viewBox", ""))]
    inner: Matrix = (1.0, 0.0, 0.0, 1.0, x, y)
    if len(box) == 4 and box[2] > 0 and box[3] > 0:
        width, height = number_of(element.get("width"), box[2]), number_of(element.get("height"), box[3])
        inner = compose(inner, _fitted(box, width, height, element.get("preserveAspectRatio", "")))
    for child in element:
        _walk(child, style, compose(matrix, inner), clip, depth + 1, reader)


def _walk_use(
    element: Element, style: Style, matrix: Matrix, clip: MultiPolygon | None, depth: int, reader: _Reader
) -> None:
    target = element.get("href") or element.get(_HREF) or ""
    if not target.startswith("#"):
        reader.told["outside"] = "It refers to something outside the file, which was left out."
        return
    found = reader.ids.get(target[1:])
    if found is None:
        return
    reader.copies += 1
    if reader.copies > MAX_COPIES:
        raise VectorError("This drawing repeats its parts without end.", "Save it with its copies made real.")
    matrix = compose(matrix, (1.0, 0.0, 0.0, 1.0, number_of(element.get("x")), number_of(element.get("y"))))
    if _tag(found) == "symbol":
        copy = Element("svg", {k: v for k, v in found.attrib.items() if k not in ("x", "y", "transform")})
        copy.extend(list(found))
        for side in ("width", "height"):
            if element.get(side):
                copy.set(side, element.get(side, ""))
        _walk(copy, style, matrix, clip, depth + 1, reader)
    else:
        _walk(found, style, matrix, clip, depth + 1, reader)


def _transform(text: str | None) -> Matrix:
    if not text or text == "none":
        return _IDENTITY
    m = SvgMatrix(text)
    return float(m.a), float(m.b), float(m.c), float(m.d), float(m.e), float(m.f)


def _clipped(
    element: Element, style: Style, matrix: Matrix, clip: MultiPolygon | None, depth: int, reader: _Reader
) -> MultiPolygon | None:
    """What of the plane may be painted within an element."""
    found = re.match(r"url\(\s*['\"]?#([^'\")]+)", style.get("clip-path") or "")
    if not found or (source := reader.ids.get(found[1])) is None or _tag(source) != "clipPath":
        return clip
    if source.get("clipPathUnits") == "objectBoundingBox":
        left, top, right, bottom = _own_box(element, depth, reader)
        matrix = compose(matrix, (right - left, 0.0, 0.0, bottom - top, left, top))
    inner = _Reader(reader.ids, reader.rules, reader.view, steps=reader.steps, copies=reader.copies)
    own = compose(matrix, _transform(source.get("transform")))
    for child in source:
        style = style_of(child, _tag(child), ROOT, reader.rules) | {"fill": "#000000", "stroke": "none"}
        style["fill-rule"] = style.get("clip-rule", "nonzero")
        if _tag(child) == "use":
            _walk_use(child, style, compose(own, _transform(style.get("transform"))), None, 2, inner)
        elif _tag(child) in _SHAPES:
            _paint(child, _tag(child), style, compose(own, _transform(style.get("transform"))), None, inner)
    reader.steps, reader.copies = inner.steps, inner.copies
    shape = clean(overlay.union_all([i.shape for i in inner.items])) if inner.items else MultiPolygon()
    return shape if clip is None else clean(overlay.intersection(shape, clip))


def _own_box(element: Element, depth: int, reader: _Reader) -> tuple[float, float, float, float]:
    """The box of what an element draws, in its own units, strokes left out."""
    inner = _Reader(reader.ids, [], reader.view, steps=reader.steps, copies=reader.copies)
    plain: Style = {**ROOT, "fill": "#000000"}
    bare = Element(
        element.tag, {k: v for k, v in element.attrib.items() if k not in ("transform", "clip-path", "style", "class")}
    )
    bare.extend(list(element))
    _walk(bare, plain, _IDENTITY, None, depth + 1, inner)
    reader.steps, reader.copies = inner.steps, inner.copies
    return _extent([i for i in inner.items if i.curves])


def _tell_of_effects(style: Style, reader: _Reader) -> None:
    for effect in ("mask", "filter"):
        if style.get(effect, "none") != "none":
            reader.told[effect] = f"A {effect} was left out: it shades what films cannot."
    if number_of(style.get("opacity"), 1.0) < 1:
        reader.told["see-through"] = "See-through paint is taken for solid film."


def _paint(element: Element, tag: str, style: Style, matrix: Matrix, clip: MultiPolygon | None, reader: _Reader) -> None:
    if style.get("visibility") in ("hidden", "collapse"):
        return
    courses = runs(outline_data(element, tag, reader.view))
    fill, stroke = _paint_of("fill", style, reader), _paint_of("stroke", style, reader)
    left_open = [not closed and bool(np.any(chain.start != chain.end)) for chain, closed in courses]
    reader.open_paths += sum(left_open)
    if reader.ends.how != "as-told" and any(left_open):
        courses = _paint_open(courses, left_open, fill, stroke, matrix, clip, reader)
    if fill is not None:
        chains = [on_grid(transform_chain(closed_chain(chain), matrix)) for chain, _ in courses]
        curves = [curve_of(c, tolerances.FLATTEN_MM) for c in chains]
        rule: FillRule = "evenodd" if style.get("fill-rule") == "evenodd" else "nonzero"
        _add(fill, filled(curves, rule) if curves else MultiPolygon(), tuple(curves), clip, reader)
    if stroke is not None:
        _add(stroke, _stroke_shape(courses, style, matrix), (), clip, reader)


def _paint_open(
    courses: list[tuple[Chain, bool]],
    left_open: list[bool],
    fill: str | None,
    stroke: str | None,
    matrix: Matrix,
    clip: MultiPolygon | None,
    reader: _Reader,
) -> list[tuple[Chain, bool]]:
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


def _add(colour: str, shape: MultiPolygon, curves: tuple[Curve, ...], clip: MultiPolygon | None, reader: _Reader) -> None:
    if clip is not None:
        shape = clean(overlay.intersection(shape, clip))
    if not shape.is_empty:
        reader.items.append(Painted(colour, shape, curves))


def _stroke_shape(courses: list[tuple[Chain, bool]], style: Style, matrix: Matrix) -> MultiPolygon:
    """The stroke drawn in the element's own units, then placed, so that an uneven scale bends the pen as it should."""
    scale = max(abs(matrix[0] * matrix[3] - matrix[1] * matrix[2]) ** 0.5, 1e-9)
    steady = style.get("vector-effect") == "non-scaling-stroke"
    here, after = (matrix, _IDENTITY) if steady else (_IDENTITY, matrix)
    tolerance = tolerances.FLATTEN_MM / (1.0 if steady else scale)
    unit = MM_PER_PX if steady else 1.0
    dashes = tuple(number_of(d) * unit for d in re.findall(r"[^\s,]+", style.get("stroke-dasharray", "none")) if d != "none")
    pen = Pen(
        number_of(style.get("stroke-width"), 1.0) * unit,
        cast("object", style.get("stroke-linecap", "butt")),  # type: ignore[arg-type]
        "miter" if style.get("stroke-linejoin", "miter") not in ("round", "bevel") else style["stroke-linejoin"],  # type: ignore[arg-type]
        number_of(style.get("stroke-miterlimit"), 4.0),
        dashes,
        number_of(style.get("stroke-dashoffset")) * unit,
    )
    paths = [(curve_of(transform_chain(chain, here), tolerance).points, closed) for chain, closed in courses]
    shape = stroked(paths, pen, tolerance)
    return clean(shapely.transform(shape, lambda p: transform_points(p, after)))


def _paint_of(kind: str, style: Style, reader: _Reader) -> str | None:
    """The colour that a fill or stroke is taken for; None if there is none."""
    value = style.get(kind, "none").strip()
    if number_of(style.get(f"{kind}-opacity"), 1.0) == 0:
        return None
    found = re.match(r"url\(\s*['\"]?#([^'\")]+)['\"]?\s*\)\s*(.*)", value)
    if found:
        source = reader.ids.get(found[1])
        colour = _middle_colour(source, style, reader, 0) if source is not None else None
        if colour is not None:
            return colour
        value = found[2] or "none"
    paint = colour_of(value, style)
    if paint is None or paint[1] == 0:
        return None
    if paint[1] < 1 or number_of(style.get(f"{kind}-opacity"), 1.0) < 1:
        reader.told["see-through"] = "See-through paint is taken for solid film."
    return paint[0]


def _middle_colour(source: Element, style: Style, reader: _Reader, depth: int) -> str | None:
    """The mean colour of a gradient's stops; of a pattern the first plain fill in it."""
    if depth > 8:
        return None
    if _tag(source) == "pattern":
        reader.told["pattern"] = "A pattern became one film of its first colour."
        fills = (style_of(e, _tag(e), ROOT, reader.rules).get("fill", "none") for e in source.iter() if _tag(e) in _SHAPES)
        return next((c[0] for c in (colour_of(f, style) for f in fills) if c), None)
    stops = [style_of(e, "stop", style, reader.rules) for e in source if _tag(e) == "stop"]
    colours = [c for c in (colour_of(s.get("stop-color", "#000000"), s) for s in stops) if c]
    if not colours:
        target = source.get("href") or source.get(_HREF) or ""
        found = reader.ids.get(target[1:]) if target.startswith("#") else None
        return _middle_colour(found, style, reader, depth + 1) if found is not None else None
    reader.told["gradient"] = "A gradient became one film of its middle colour."
    rgb = np.array([[int(c[0][k : k + 2], 16) for k in (1, 3, 5)] for c in colours]).mean(axis=0)
    return "#{:02x}{:02x}{:02x}".format(*(round(v) for v in rgb))


def _embedded(element: Element) -> bytes | None:
    """The bytes of a picture that the file itself carries."""
    found = re.match(r"data:image/[\w+.-]+;base64,(.*)", element.get("href") or element.get(_HREF) or "", re.DOTALL)
    try:
        return base64.b64decode(found[1], validate=False) if found else None
    except (binascii.Error, ValueError):
        return None


def _extent(items: Sequence[Painted]) -> tuple[float, float, float, float]:
    boxes = np.array([i.shape.bounds for i in items] or [(0.0, 0.0, 0.0, 0.0)])
    left, top = boxes[:, :2].min(axis=0).tolist()
    right, bottom = boxes[:, 2:].max(axis=0).tolist()
    return left, top, right, bottom


def _reach(items: Sequence[Painted]) -> float:
    return max((abs(v) for v in _extent(items)), default=0.0)
