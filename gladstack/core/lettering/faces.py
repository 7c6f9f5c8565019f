"""Fonts as sources of outlines: opening them, shaping runs of text, and the closed curves of each glyph.

Shaping is HarfBuzz's; WOFF and WOFF2 are unpacked with fontTools. Outlines are in font units with y down.
"""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt
import uharfbuzz as hb
from fontTools.ttLib import TTFont, TTLibError

from gladstack.core.base.errors import FontError
from gladstack.core.base.reading import reader
from gladstack.core.geometry.curves import Chain, bounds_of_pieces, line_pieces
from gladstack.core.geometry.rings import nest_chains

FloatArray = npt.NDArray[np.float64]

MAX_FONT_BYTES = 20 * 2**20
_SFNT = (b"\x00\x01\x00\x00", b"OTTO", b"true")
_CAPITALS = "HEIXZ"
_MOST_OUTLINES, _MOST_PIECES = 600, 20_000
REGULAR = 400.0


@dataclass(frozen=True)
class Glyph:
    """The closed curves of one glyph in font units, y down, how they nest, and the box of its ink (None: no ink).

    Contours a glyph's own file lets cross have no `nesting`: they must be resolved once they are flattened.
    """

    contours: tuple[Chain, ...]
    nesting: tuple[tuple[int, tuple[int, ...]], ...] | None
    box: tuple[float, float, float, float] | None


@dataclass(frozen=True)
class ShapedGlyph:
    """A glyph set by the shaper: which, for which character of the run, its offset and advance in font units."""

    glyph: int
    cluster: int
    dx: float
    dy: float
    advance: float


@dataclass(frozen=True)
class Face:
    """An opened font at one place of its axes, if it has any. `cap_height` is that of its capitals, all in font units."""

    family: str
    style: str
    units_per_em: int
    cap_height: float
    font: hb.Font = field(repr=False, compare=False)
    cache: dict[int, Glyph] = field(default_factory=dict, repr=False, compare=False)

    def glyph(self, gid: int) -> Glyph:
        """The outlines of a glyph, read once. Raises FontError if they are too many."""
        if gid not in self.cache:
            self.cache[gid] = _read_glyph(self.font, gid)
        return self.cache[gid]

    def has(self, character: str) -> bool:
        """Whether the font has a glyph for this character, or needs none for it."""
        return not character.isprintable() or bool(self.font.get_nominal_glyph(ord(character)))


@reader(FontError, "This font", "Bring in another font.")
def open_face(data: bytes, axes: tuple[tuple[str, float], ...] = ()) -> Face:
    """A font from the bytes of a TTF, OTF, WOFF or WOFF2 file, at a place of its `axes` (tag, value). Raises FontError.

    Where no weight is told, a font with an axis of weight is 400, as everywhere in print and on pages.
    """
    if len(data) > MAX_FONT_BYTES:
        raise FontError("This font file is larger than 20 MB.", "Take a font for one script only.")
    if data[:4] == b"ttcf":
        raise FontError("This file holds several fonts.", "Take the fonts out and bring in one.")
    data = sfnt_of(data)
    if data[:4] not in _SFNT:
        raise FontError("This is not a font file that can be read.", "Bring in a TTF, OTF, WOFF or WOFF2 font.")
    try:
        table = TTFont(io.BytesIO(data), lazy=True)
        names = table["name"]
        units = int(table["head"].unitsPerEm)
        outlines = any(tag in table for tag in ("glyf", "CFF ", "CFF2"))
        family, style = names.getBestFamilyName() or "Font", names.getBestSubFamilyName() or ""
        capital = float(getattr(table["OS/2"], "sCapHeight", 0) or 0) if "OS/2" in table else 0.0
    except Exception as fault:  # any parser error in a file from outside means the same to the maker
        raise FontError("This font file is broken.", "Bring in another copy of it.") from fault
    if not outlines or not 16 <= units <= 16384:
        raise FontError("This font has no outlines to cut, only pictures of letters.", "Bring in an outline font.")
    font = hb.Font(hb.Face(data))
    if font.face.has_var_data:
        told = dict(axes)
        font.set_variations({axis.tag: told.get(axis.tag, _usual(axis)) for axis in font.face.axis_infos})
    # The style in the name of a font that can be varied is only where its maker began.
    face = Face(str(family)[:80], "" if font.face.has_var_data else str(style)[:80], units, 1.0, font)
    return Face(face.family, face.style, units, _cap_height(face, capital), font, face.cache)


def sfnt_of(data: bytes) -> bytes:
    """A font file's bytes, unpacked if they are WOFF or WOFF2. Raises FontError."""
    return _unpacked(data) if data[:4] in (b"wOFF", b"wOF2") else data


def _usual(axis: hb.OTVarAxisInfo) -> float:
    """Where an axis stands if nothing is told."""
    if axis.tag != "wght":
        return float(axis.default_value)
    return float(min(max(REGULAR, axis.min_value), axis.max_value))


def _unpacked(data: bytes) -> bytes:
    try:
        packed = TTFont(io.BytesIO(data))
        packed.flavor = None
        out = io.BytesIO()
        packed.save(out)
    except (TTLibError, Exception) as fault:
        raise FontError("This font file is broken.", "Bring in another copy of it.") from fault
    return out.getvalue()


def _cap_height(face: Face, told: float) -> float:
    """The height of flat capitals as drawn; what the font tells of it, or a guess, where it has none."""
    for letter in _CAPITALS:
        gid = face.font.get_nominal_glyph(ord(letter))
        box = face.glyph(gid).box if gid else None
        if box is not None and box[1] < 0:
            return -box[1]
    return told or 0.7 * face.units_per_em


def shape_run(
    face: Face,
    text: str,
    *,
    rtl: bool,
    script: str | None = None,
    ligatures: bool = True,
    forms: Sequence[tuple[int, int, str, int]] = (),
) -> list[ShapedGlyph]:
    """The glyphs of a run of one direction and `script` (None: as it looks), from left to right; clusters are indices into
    `text`. `forms` are features of the font that letters are set with: first, end, tag, and which form of several.
    """
    buffer = hb.Buffer()
    buffer.add_codepoints([ord(c) for c in text])
    buffer.guess_segment_properties()
    if script is not None:
        buffer.script = script
    buffer.direction = "rtl" if rtl else "ltr"
    features: dict[str, bool | int | Sequence[tuple[int, int, bool | int]]] = {}
    if not ligatures:
        features.update(liga=False, clig=False)
    for tag in dict.fromkeys(tag for _, _, tag, _ in forms):
        features[tag] = [(first, end, value) for first, end, own, value in forms if own == tag]
    hb.shape(face.font, buffer, features)
    return [
        ShapedGlyph(info.codepoint, info.cluster, pos.x_offset, -pos.y_offset, pos.x_advance)
        for info, pos in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True)
    ]


class _Pen:
    """Collects a glyph's closed contours as cubics, with y turned down."""

    def __init__(self) -> None:
        self.contours: list[Chain] = []
        self._pieces: list[FloatArray] = []
        self._straight: list[bool] = []
        self._here = self._start = np.zeros(2)

    def move_to(self, x: float, y: float, _: object = None) -> None:
        self.close_path()
        self._here = self._start = np.array([x, -y])

    def line_to(self, x: float, y: float, _: object = None) -> None:
        to = np.array([x, -y])
        if np.any(to != self._here):
            self._add(line_pieces(np.array([self._here, to]))[0], straight=True)

    def quadratic_to(self, cx: float, cy: float, x: float, y: float, _: object = None) -> None:
        control, to = np.array([cx, -cy]), np.array([x, -y])
        first, last = self._here + (control - self._here) * 2 / 3, to + (control - to) * 2 / 3
        self._add(np.array([self._here, first, last, to]), straight=False)

    def cubic_to(self, ax: float, ay: float, bx: float, by: float, x: float, y: float, _: object = None) -> None:
        self._add(np.array([self._here, [ax, -ay], [bx, -by], [x, -y]], dtype=np.float64), straight=False)

    def close_path(self, _: object = None) -> None:
        if self._pieces:
            self.line_to(self._start[0], -self._start[1])
            self.contours.append(Chain(np.array(self._pieces), np.array(self._straight)))
        self._pieces, self._straight = [], []

    def _add(self, piece: FloatArray, *, straight: bool) -> None:
        self._pieces.append(piece)
        self._straight.append(straight)
        self._here = piece[3]


def _read_glyph(font: hb.Font, gid: int) -> Glyph:
    pen = _Pen()
    funcs = hb.DrawFuncs()
    funcs.set_move_to_func(pen.move_to)
    funcs.set_line_to_func(pen.line_to)
    funcs.set_quadratic_to_func(pen.quadratic_to)
    funcs.set_cubic_to_func(pen.cubic_to)
    funcs.set_close_path_func(pen.close_path)
    font.draw_glyph(gid, funcs, None)
    pen.close_path()
    contours = tuple(pen.contours)
    if len(contours) > _MOST_OUTLINES or sum(len(c.pieces) for c in contours) > _MOST_PIECES:
        raise FontError("A letter of this font has too many outlines to be cut.", "Choose a plainer font.")
    if not contours:
        return Glyph((), (), None)
    box = bounds_of_pieces(np.concatenate([c.pieces for c in contours]))
    return Glyph(contours, nest_chains(contours), box)
