"""Reading foreign SVG files (SVG 1.1 and 2 as drawing programs and shops write them) into painted shapes in millimetres.

What is read: groups, transforms, nested documents, use and symbol, style sheets and style attributes, fills by both rules,
strokes with joins, caps and dashes, clip paths, basic shapes, units and viewBox. Gradients become one film of their middle
colour. Text, masks, filters and embedded pictures are told of, not drawn. Nothing outside the file is ever opened.
"""

from __future__ import annotations

import base64
import binascii
import itertools
import re
from collections.abc import Mapping, Sequence
from dataclasses import replace
from xml.etree.ElementTree import Element

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base.errors import VectorError
from gladstack.core.drawing.drawing import (
    AS_TOLD,
    MAX_COORDINATE_MM,
    MM_PER_PX,
    Drawing,
    OpenEnds,
    Painted,
    remarks_of,
)
from gladstack.core.drawing.layers import FilmsBy, layer_name, layers_of
from gladstack.core.drawing.svg_document import MAX_DEPTH, MAX_ELEMENTS, parsed, tag_of
from gladstack.core.drawing.svg_markers import MARKED, corners, marker_matrix, marker_window, markers_of
from gladstack.core.drawing.svg_paint import courses_of, paint_shape
from gladstack.core.drawing.svg_reader import SHAPES, Reader
from gladstack.core.drawing.svg_style import ROOT, Style, is_meant, read_sheets, style_of
from gladstack.core.drawing.svg_values import Faults, box_of, length_of, number_of, transform_of
from gladstack.core.drawing.tints import Tints, tinted
from gladstack.core.geometry import overlay
from gladstack.core.geometry.curves import IDENTITY, Matrix, compose, transform_points
from gladstack.core.geometry.shapes import clean

MAX_COPIES = 5_000
_PASSED_OVER = ("defs", "symbol", "clipPath", "mask", "pattern", "marker", "filter", "linearGradient", "radialGradient",
                "style", "title", "desc", "metadata", "script", "foreignObject", "view", "animate", "set")  # fmt: skip
_VEIL = "Paint that hardly shows (less than 35 %) was left out; it covers {:.1%} of the page."
_SOLID = "See-through paint is taken for solid film; it covers {:.1%} of the page."
_MIXED = "See-through paint over one colour is a film of the colour they make; all of it covers {:.1%} of the page."
_HREF = "{http://www.w3.org/1999/xlink}href"


def read_svg(
    data: bytes,
    px_mm: float = MM_PER_PX,
    ends: OpenEnds = AS_TOLD,
    tints: Tints = "solid",
    by: FilmsBy = "colours",
) -> Drawing:
    """The drawing in an SVG file; `px_mm` is what a bare pixel is taken for, `ends` what becomes of paths left open, `tints`
    what becomes of see-through paint, and `by` whether each colour is a film or each layer.

    Raises VectorError.
    """
    root = parsed(data)
    # Of parts with one id the first is meant, as in every document.
    ids = {e.get("id", ""): e for e in reversed(list(root.iter())) if e.get("id")}
    reader = Reader(ids, read_sheets(root), Faults(root), ends=ends)
    if reader.sheets.unread:
        reader.told["sheet"] = f"Its style sheets hold {reader.sheets.unread} selectors that cannot be read."
    width, height, told, matrix = _page(root, px_mm, reader)
    reader.view = (width / matrix[0], height / matrix[3]) if width > 0 and height > 0 else reader.view
    style = style_of(root, ROOT, reader.sheets)
    for child in root:
        _walk(child, style, matrix, None, 1, reader)
    items = tinted(reader.items, tints)
    layering = layers_of([item.groups for item in items], [item.colour for item in items], reader.labels)
    if by == "layers" and layering.layers:
        items = tuple(replace(item, colour=layering.colour_of(k, item.colour)) for k, item in enumerate(items))
    reader.budget.take("colours", len({item.colour for item in items}))
    if width <= 0 or height <= 0:
        left, top, right, bottom = _extent(items)
        width, height = right - left, bottom - top
    if reader.faults.count:
        reader.told["numbers"] = reader.faults.sentence
    if not items and not reader.pictures:
        why = " ".join(reader.told.values()) or "It paints nothing."
        raise VectorError("Nothing in this file can be cut.", why)
    if not width * height > 0 or max(width, height) > 2 * MAX_COORDINATE_MM:
        raise VectorError(f"The page of this drawing is {width:g} x {height:g} mm.", "Save it at its real size.")
    held = next((p for p in reader.pictures if p), None)
    page = width * height
    shares = dict(reader.shares)
    if tints == "mixed" and shares:
        shares = {"see-through": sum(shares.values())}
    for code, said in (("veil", _VEIL), ("see-through", _SOLID if tints == "solid" else _MIXED)):
        if (share := shares.get(code, 0.0) / page) > 0:
            reader.told[code] = said.format(min(share, 1.0) if share >= 0.0005 else 0.0005)
    remarks = remarks_of(reader.told)
    return Drawing(
        width, height, told, items, remarks, len(reader.pictures), held, reader.open_paths, fixed=told, layering=layering
    )


def _page(root: Element, px_mm: float, reader: Reader) -> tuple[float, float, bool, Matrix]:
    """Width and height in mm, whether the file tells them, and the matrix from user units to mm."""
    box = _view_box(root, reader)
    told_width, told_height = root.get("width"), root.get("height")
    real = bool(re.search(r"(mm|cm|in|pt|pc|q)\s*$", (told_width or "").strip(), re.IGNORECASE))
    px = MM_PER_PX if real else px_mm
    width, height = (_side(root, name, reader) for name in ("width", "height"))
    if box is None:
        return (width or 0.0) * px, (height or 0.0) * px, real, (px, 0.0, 0.0, px, 0.0, 0.0)
    wide = (box[2] if width is None or "%" in (told_width or "") else width) * px
    high = wide * box[3] / box[2] if height is None or "%" in (told_height or "") else height * px
    return wide, high, real, _fitted(box, wide, high, root.get("preserveAspectRatio", ""))


def _view_box(element: Element, reader: Reader) -> tuple[float, float, float, float] | None:
    told = element.get("viewBox")
    box = box_of(told)
    if told is not None and box is None:
        reader.faults.note(element, "viewBox", told)
    return box


def _side(root: Element, name: str, reader: Reader) -> float | None:
    told = root.get(name)
    found = length_of(told) if told not in (None, "auto") else None
    if told not in (None, "auto") and found is None:
        reader.faults.note(root, name, told or "")
    return found


def _fitted(box: Sequence[float], width: float, height: float, how: str) -> Matrix:
    """The matrix that puts a viewBox into a width and height, after `preserveAspectRatio`."""
    sx, sy = width / box[2], height / box[3]
    if "none" not in how:
        sx = sy = max(sx, sy) if "slice" in how else min(sx, sy)
    spare_x, spare_y = width - box[2] * sx, height - box[3] * sy
    share_x = 0.0 if "xMin" in how else 1.0 if "xMax" in how else 0.5
    share_y = 0.0 if "YMin" in how else 1.0 if "YMax" in how else 0.5
    return sx, 0.0, 0.0, sy, spare_x * share_x - box[0] * sx, spare_y * share_y - box[1] * sy


def _walk(element: Element, inherited: Style, matrix: Matrix, clip: MultiPolygon | None, depth: int, reader: Reader) -> None:
    tag = tag_of(element)
    reader.steps += 1
    if reader.steps > MAX_ELEMENTS or depth > MAX_DEPTH:
        raise VectorError("This drawing repeats its parts without end.", "Save it with its copies made real.")
    if tag in _PASSED_OVER or not tag or not is_meant(element):
        return
    style = style_of(element, inherited, reader.sheets)
    seen = number_of(inherited.get("-seen"), 1.0) * number_of(style.get("opacity"), 1.0, 1.0)
    if style.get("display") == "none" or seen == 0:
        return
    style["-seen"] = f"{seen:.4f}"
    matrix = compose(matrix, _transform(element, style, reader))
    if not reader.bare:
        clip = _clipped(element, style, matrix, clip, depth, reader)
        _tell_of_effects(style, reader)
    _walk_into(element, tag, style, matrix, clip, depth, reader)


def _walk_into(
    element: Element, tag: str, style: Style, matrix: Matrix, clip: MultiPolygon | None, depth: int, reader: Reader
) -> None:
    if tag in ("g", "a", "switch"):
        around, name = reader.groups, _called(element, reader)
        reader.groups = (*around, name) if name else around
        # Of a switch the first part is drawn that is meant for the reader.
        meant = (c for c in element if tag_of(c) and is_meant(c))
        for child in itertools.islice(meant, 1) if tag == "switch" else element:
            _walk(child, style, matrix, clip, depth + 1, reader)
        reader.groups = around
    elif tag == "svg":
        _walk_nested(element, style, matrix, clip, depth, reader)
    elif tag == "use":
        _walk_use(element, style, matrix, clip, depth, reader)
    elif tag in SHAPES:
        paint_shape(element, tag, style, matrix, clip, reader)
        if tag in MARKED and not reader.bare and (marks := markers_of(style, reader.ids)):
            _walk_markers(element, tag, style, matrix, clip, depth, marks, reader)
    elif tag == "image":
        reader.pictures.append(_embedded(element))
        reader.told["picture"] = "It holds a picture, which has no outlines to cut: separate that as a picture."
    elif tag in ("text", "tspan", "flowRoot"):
        reader.told["text"] = "Its text has no outlines: turn text into paths before saving, or set it here as lettering."


def _called(element: Element, reader: Reader) -> str:
    """What a group is called: by the label that a drawing program gives a layer, in a namespace of its own, or by its id."""
    labels = (value for key, value in element.attrib.items() if key.startswith("{") and key.endswith("}label"))
    if label := layer_name(next(labels, "")):
        reader.labels.add(label)
        return label
    return layer_name(element.get("data-name") or element.get("id") or "")


def _walk_nested(
    element: Element, style: Style, matrix: Matrix, clip: MultiPolygon | None, depth: int, reader: Reader
) -> None:
    """A document within the document, or a symbol made real."""
    box = _view_box(element, reader)
    inner: Matrix = (1.0, 0.0, 0.0, 1.0, reader.number(element, "x"), reader.number(element, "y"))
    if box is not None:
        source = reader.sizes.get(element, element)
        width, height = (
            reader.number(source, n, b, v) for n, b, v in zip(("width", "height"), box[2:], reader.view, strict=True)
        )
        if width <= 0 or height <= 0:
            return
        inner = compose(inner, _fitted(box, width, height, element.get("preserveAspectRatio", "")))
    for child in element:
        _walk(child, style, compose(matrix, inner), clip, depth + 1, reader)


def _walk_use(element: Element, style: Style, matrix: Matrix, clip: MultiPolygon | None, depth: int, reader: Reader) -> None:
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
    matrix = compose(matrix, (1.0, 0.0, 0.0, 1.0, reader.number(element, "x"), reader.number(element, "y")))
    if tag_of(found) == "symbol":
        own = style_of(found, style, reader.sheets)
        # A symbol takes its size from the copy of it that is drawn.
        reader.sizes[found] = element
        _walk_nested(found, own, matrix, clip, depth + 1, reader)
    else:
        _walk(found, style, matrix, clip, depth + 1, reader)


def _walk_markers(
    element: Element, tag: str, style: Style, matrix: Matrix, clip: MultiPolygon | None, depth: int,
    marks: Mapping[str, Element], reader: Reader,
) -> None:  # fmt: skip
    """Draws the markers of a path at its corners; what they hold takes its style from the markers, not from the path."""
    width = number_of(style.get("stroke-width"), 1.0)
    for corner in corners(courses_of(element, tag, matrix, reader)):
        marker = marks.get(corner.name)
        own = marker_matrix(marker, corner, width) if marker is not None else None
        if marker is None or own is None:
            continue
        reader.copies += 1
        if reader.copies > MAX_COPIES:
            raise VectorError("This drawing repeats its parts without end.", "Save it with its copies made real.")
        inner = {**style_of(marker, ROOT, reader.sheets), "-seen": style.get("-seen", "1")}
        placed = compose(matrix, own)
        within = _meeting(clip, marker_window(marker), placed)
        for child in marker:
            _walk(child, inner, placed, within, depth + 1, reader)


def _meeting(clip: MultiPolygon | None, window: Polygon | None, matrix: Matrix) -> MultiPolygon | None:
    """What of the plane may be painted within a clip and a window, told in units of its own."""
    if window is None:
        return clip
    placed = clean(shapely.transform(window, lambda p: transform_points(p, matrix)))
    return placed if clip is None else clean(overlay.intersection(placed, clip))


def _transform(element: Element, style: Style, reader: Reader) -> Matrix:
    told = style.get("transform")
    found = transform_of(told)
    if found is None:
        reader.faults.note(element, "transform", told or "")
    return found or IDENTITY


def _clipped(
    element: Element, style: Style, matrix: Matrix, clip: MultiPolygon | None, depth: int, reader: Reader
) -> MultiPolygon | None:
    """What of the plane may be painted within an element."""
    found = re.match(r"url\(\s*['\"]?#([^'\")]+)", style.get("clip-path") or "")
    if not found or (source := reader.ids.get(found[1])) is None or tag_of(source) != "clipPath":
        return clip
    if source.get("clipPathUnits") == "objectBoundingBox":
        left, top, right, bottom = _own_box(element, depth, reader)
        matrix = compose(matrix, (right - left, 0.0, 0.0, bottom - top, left, top))
    inner = reader.within(bare=True)
    own = compose(matrix, _transform(source, style_of(source, ROOT, reader.sheets), reader))
    for child in source:
        style = style_of(child, ROOT, reader.sheets) | {"fill": "#000000", "stroke": "none"}
        style["fill-rule"] = style.get("clip-rule", "nonzero")
        placed = compose(own, _transform(child, style, reader))
        if tag_of(child) == "use":
            _walk_use(child, style, placed, None, 2, inner)
        elif tag_of(child) in SHAPES:
            paint_shape(child, tag_of(child), style, placed, None, inner)
    reader.take_over(inner)
    shape = clean(overlay.union_all([i.shape for i in inner.items])) if inner.items else MultiPolygon()
    return shape if clip is None else clean(overlay.intersection(shape, clip))


def _own_box(element: Element, depth: int, reader: Reader) -> tuple[float, float, float, float]:
    """The box of what an element draws, in its own units, strokes and clips left out; worked out once for each element."""
    if element not in reader.boxes:
        inner = reader.within(bare=True)
        _walk_into(element, tag_of(element), {**ROOT, "fill": "#000000"}, IDENTITY, None, depth + 1, inner)
        reader.take_over(inner)
        reader.boxes[element] = _extent([i for i in inner.items if i.curves])
    return reader.boxes[element]


def _tell_of_effects(style: Style, reader: Reader) -> None:
    for effect in ("mask", "filter"):
        if style.get(effect, "none") != "none":
            reader.told[effect] = f"A {effect} was left out: it shades what films cannot."


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
