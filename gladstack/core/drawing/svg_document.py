"""An SVG file as a document: whole, of a size that can be worked on, and not hostile."""

from __future__ import annotations

from typing import cast
from xml.etree.ElementTree import Element, ParseError

import defusedxml.ElementTree
from defusedxml.common import DefusedXmlException

from gladstack.core.base.errors import VectorError
from gladstack.core.drawing.drawing import Budget
from gladstack.core.drawing.svg_reader import SHAPES

MAX_BYTES = 20 * 2**20
MAX_ELEMENTS = 100_000
MAX_DEPTH = 120


def parsed(data: bytes) -> Element:
    """The root of an SVG document. Raises VectorError for what is no such document, or too large a one."""
    if len(data) > MAX_BYTES:
        raise VectorError("This file is larger than 20 MB.", "Save only what is to be cut.")
    if data[:2] == b"\x1f\x8b":
        raise VectorError("This is a compressed SVG file.", "Save it as plain SVG.")
    try:
        root = defusedxml.ElementTree.fromstring(data)
    except DefusedXmlException as fault:
        raise VectorError("This file defines entities, as hostile files do.", "Save it again as plain SVG.") from fault
    except (ParseError, ValueError, LookupError) as fault:
        raise VectorError(f"This file is not whole XML: {fault}.", "Save it again as plain SVG.") from fault
    if tag_of(root) != "svg":
        raise VectorError("This file is XML, but not an SVG drawing.", "Bring in an SVG, PDF, DXF or HPGL file.")
    count = depth = 0
    level = [root]
    while level:
        count, depth = count + len(level), depth + 1
        if count > MAX_ELEMENTS or depth > MAX_DEPTH:
            raise VectorError("This drawing has too many or too deeply nested parts.", "Save only what is to be cut.")
        level = [child for element in level for child in element]
    Budget().take("shapes", sum(1 for element in root.iter() if tag_of(element) in SHAPES))
    return cast(Element, root)


def tag_of(element: Element) -> str:
    """The name of an element, without its namespace; empty for what is none."""
    return element.tag.split("}")[-1] if isinstance(element.tag, str) else ""
