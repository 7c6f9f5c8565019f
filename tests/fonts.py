"""Small fonts made by script: one that can be varied, and one too heavy to be drawn."""

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


def crowded_font() -> bytes:
    """A whole font of which every letter holds 4,000 crossing outlines."""
    pen = TTGlyphPen(None)
    for k in range(4000):
        x, y = 7 * (k % 100), 7 * (k // 100)
        for n, at in enumerate([(x, y), (x + 90, y + 11), (x + 13, y + 95)]):
            (pen.lineTo if n else pen.moveTo)(at)
        pen.closePath()
    glyph = pen.glyph()
    letters = [chr(c) for c in range(65, 123)]
    names = [f"u{ord(c):04x}" for c in letters]
    build = FontBuilder(1000, isTTF=True)
    build.setupGlyphOrder([".notdef", *names])
    build.setupCharacterMap({ord(c): name for c, name in zip(letters, names, strict=True)})
    build.setupGlyf({".notdef": TTGlyphPen(None).glyph(), **dict.fromkeys(names, glyph)})
    build.setupHorizontalMetrics(dict.fromkeys([".notdef", *names], (1000, 0)))
    build.setupHorizontalHeader(ascent=800, descent=-200)
    build.setupNameTable({"familyName": "Crowd", "styleName": "Regular"})
    build.setupOS2(sCapHeight=700)
    build.setupPost()
    out = io.BytesIO()
    build.save(out)
    return out.getvalue()
