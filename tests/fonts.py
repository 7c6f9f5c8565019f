"""A small font that can be varied, made by script."""

from __future__ import annotations

import io

from fontTools.fontBuilder import FontBuilder
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib.tables.TupleVariation import TupleVariation


def bars_font() -> bytes:
    """A font whose one letter, I, is a bar as wide as its weight: 100 units at weight 100, 900 at 900; made thin."""
    pen = TTGlyphPen(None)
    for k, at in enumerate([(0, 0), (0, 700), (100, 700), (100, 0)]):
        (pen.lineTo if k else pen.moveTo)(at)
    pen.closePath()
    build = FontBuilder(1000, isTTF=True)
    build.setupGlyphOrder([".notdef", "I"])
    build.setupCharacterMap({ord("I"): "I"})
    build.setupGlyf({".notdef": TTGlyphPen(None).glyph(), "I": pen.glyph()})
    build.setupHorizontalMetrics({".notdef": (1000, 0), "I": (1000, 0)})
    build.setupHorizontalHeader(ascent=800, descent=-200)
    build.setupNameTable({"familyName": "Bars", "styleName": "Thin"})
    build.setupFvar(
        [("wght", 100, 100, 900, "Weight")],
        [{"location": {"wght": 400}, "stylename": "Regular"}, {"location": {"wght": 900}, "stylename": "Black"}],
    )
    wider = [(0, 0), (0, 0), (800, 0), (800, 0), (0, 0), (0, 0), (0, 0), (0, 0)]
    build.setupGvar({"I": [TupleVariation({"wght": (0, 1, 1)}, wider)]})
    build.setupOS2(sCapHeight=700)
    build.setupPost()
    out = io.BytesIO()
    build.save(out)
    return out.getvalue()
