"""The formats that sheets are written in, and cutters take."""

from __future__ import annotations

from enum import StrEnum


class Format(StrEnum):
    """The formats a sheet can be written in; what each is stands in `shop/files/formats.py`."""

    SVG = "svg"
    SVG_LINES = "svg-lines"
    DXF = "dxf"
    PDF = "pdf"
    HPGL = "hpgl"
    HPGL_BLADE = "hpgl-blade"
    PNG = "png"
