"""Drawings with outlines, thin lines and small words, with known truth: what is thin, and where its middle runs."""

from __future__ import annotations

import io
import math
from dataclasses import dataclass
from functools import cache

import numpy as np
import numpy.typing as npt
from fontTools.pens.boundsPen import BoundsPen
from fontTools.pens.svgPathPen import SVGPathPen
from fontTools.pens.transformPen import TransformPen
from fontTools.ttLib import TTFont

from bench.clip_art import Hand
from bench.drawings import Shape, blob, disc, ellipse, polygon, star
from gladstack.core.base.colour import Rgb, delta_e, from_hex
from gladstack.recipe.model.fonts import shipped_font

SIDE = 512
SCALE = 3
_SAME = 12.0
_WIDTH_OFF = 0.25
_WORDS = ("OPEN", "Night", "Hill", "Stars", "Moon", "Dome", "Comet", "Lens", "Orbit", "Dusk", "Watch", "Helper")
_FONTS = ("inter-black", "roboto-slab", "comfortaa", "bebas-neue", "averia-serif", "comic-neue")

Labels = npt.NDArray[np.int8]
Mask = npt.NDArray[np.bool_]


@dataclass(frozen=True)
class Stroke:
    """A painted path in board units (512 wide): filled, or stroked `width` wide; `thin` things are looked for."""

    path: str
    fill: str | None = None
    stroke: str | None = None
    width: float = 0.0
    letter: bool = False
    box: tuple[float, float, float, float] = (0.0, 0.0, 0.0, 0.0)


@dataclass(frozen=True)
class Scene:
    """Strokes painted in order; `inks` are the colours of thin things."""

    name: str
    background: str
    strokes: tuple[Stroke, ...]
    inks: tuple[str, ...]
    caps_px: float = 0.0

    @property
    def colours(self) -> tuple[str, ...]:
        """The distinct colours, background first."""
        own = [c for s in self.strokes for c in (s.fill, s.stroke) if c]
        return tuple(dict.fromkeys([self.background, *own]))

    def svg(self, *, sharp: bool = False, middles: bool = False) -> str:
        """The scene as SVG; `sharp` without anti-aliasing, with `middles` the middle line of each stroke marked."""
        body = []
        for s in self.strokes:
            ink = (
                f' stroke="{s.stroke}" stroke-width="{s.width}" stroke-linejoin="round" stroke-linecap="round"'
                if s.stroke
                else ""
            )
            body.append(f'<path d="{s.path}" fill="{s.fill or "none"}" fill-rule="evenodd"{ink}/>')
            if middles and s.stroke:
                body.append(f'<path d="{s.path}" fill="none" stroke="#ff01fe" stroke-width="0.4"/>')
        how = ' shape-rendering="crispEdges"' if sharp else ""
        return (
            f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {SIDE} {SIDE}"{how}>'
            f'<rect width="{SIDE}" height="{SIDE}" fill="{self.background}"/>{"".join(body)}</svg>'
        )


_STEP = SIDE / 100


def _grown(shape: Shape) -> str:
    """A shape of the 100 board as path data of this one."""
    out, number = [], ""

    def flush() -> None:
        nonlocal number
        if number:
            out.append(number)
            number = ""

    for ch in shape.path:
        if ch.isalpha():
            flush()
            out.append(ch)
        elif ch in " ,":
            flush()
        elif ch == "-" and number:
            flush()
            number = ch
        else:
            number += ch
    flush()
    scaled, command, seen = [], "", 0
    for token in out:
        if token.isalpha():
            command, seen = token, 0
            scaled.append(token)
            continue
        flag = command == "A" and seen % 7 in (2, 3, 4)
        scaled.append(token if flag else f"{float(token) * _STEP:.3f}")
        seen += 1
    return " ".join(scaled)


def cartoon(seed: int) -> Scene:
    """Five to eight overlapping areas, each with the same outline: dark on light, or light on dark."""
    h = Hand(seed * 7 + 3)
    width = (2, 3, 4, 5, 6, 7, 9, 12)[seed % 8]
    light = seed % 5 == 4
    ink = h.pale() if light else h.dark()
    ground = h.dark() if light else h.rng.choice(["#ffffff", "#ffffff", "#fdf4e3", h.shade(h.base(0.5), 0.3)])
    if light and float(delta_e(np.array(from_hex(ink)), np.array(from_hex(ground)))) < 30:
        ink = "#ffffff"
    fills = [_inked(h, ink, 0.13 * k) for k in range(5)]
    body: list[Stroke] = []

    def add(shape: Shape, fill: str | None = None) -> None:
        body.append(Stroke(_grown(shape), fill or h.rng.choice(fills), ink, float(width)))

    kind = seed % 4
    if kind == 0:
        # A bear-like head: ears, face, muzzle, eyes, and a mouth that is a line.
        add(disc(26, 24, 12, ""), fills[0]), add(disc(74, 24, 12, ""), fills[0])
        add(disc(26, 24, 6, ""), fills[1]), add(disc(74, 24, 6, ""), fills[1])
        add(ellipse(50, 54, 36, 34, ""), fills[0])
        add(ellipse(50, 68, 17, 13, ""), fills[1])
        add(ellipse(50, 62, 5, 3.5, ""), fills[2])
        body.append(Stroke(_grown(Shape("M50 65L50 71", "")), None, ink, float(width)))
        body.append(Stroke(_grown(Shape("M41 72C44 78 56 78 59 72", "")), None, ink, float(width)))
        add(disc(36, 46, 4.5, ""), fills[3]), add(disc(64, 46, 4.5, ""), fills[3])
    elif kind == 1:
        # A fish with rings for scales, fins, and stripes that taper.
        add(polygon([(68, 50), (94, 28), (88, 50), (94, 72)], ""), fills[1])
        add(Shape("M36 32C44 12 58 12 66 32Z", ""), fills[2])
        add(ellipse(44, 50, 34, 22, ""), fills[0])
        add(disc(26, 44, 8, ""), "#ffffff" if not light else fills[3])
        for k in range(4):
            add(disc(42 + 9 * (k % 2) + 4 * k, 44 + 12 * (k % 2), 4.2, ""), fills[3])
        body.append(Stroke(_grown(polygon([(60, 33), (63, 33), (61.6, 66)], "")), ink))
        for k in range(3):
            add(disc(12 + 6 * k, 22 - 6 * k, 3 + k, ""), fills[4])
    elif kind == 2:
        # Overlapping blobs.
        for _ in range(h.rng.randint(5, 8)):
            add(blob(h.rng, h.between(25, 75), h.between(25, 75), h.between(12, 26), "", 0.25, 8))
        add(star(h.between(30, 70), h.between(30, 70), 15, 7, 5, ""), fills[2])
    else:
        # A house of straight lines that meet.
        add(Shape("M14 44L86 44L86 88L14 88Z", ""), fills[0])
        add(polygon([(8, 46), (50, 14), (92, 46)], ""), fills[1])
        add(Shape("M42 58L58 58L58 88L42 88Z", ""), fills[2])
        for x in (22, 64):
            add(Shape(f"M{x} 54L{x + 14} 54L{x + 14} 68L{x} 68Z", ""), fills[3])
            body.append(Stroke(_grown(Shape(f"M{x + 7} 54L{x + 7} 68M{x} 61L{x + 14} 61", "")), None, ink, float(width)))
        add(disc(50, 34, 6, ""), fills[4])
    return Scene(f"cartoon-{seed}", ground, tuple(body), (ink,))


def _inked(h: Hand, ink: str, turn: float) -> str:
    """A strong colour that stands out from the ink."""
    for _ in range(40):
        colour = h.base(turn)
        if abs(_luma(from_hex(colour)) - _luma(from_hex(ink))) > 60:
            return colour
    return "#8fbf9f"


def _luma(rgb: Rgb) -> float:
    return 0.299 * rgb[0] + 0.587 * rgb[1] + 0.114 * rgb[2]


def _areas(h: Hand, many: int, away: str) -> list[Stroke]:
    return [
        Stroke(
            _grown(blob(h.rng, h.between(20, 80), h.between(20, 80), h.between(14, 28), "", 0.2, 7)),
            _inked(h, away, 0.2 * k),
        )
        for k in range(many)
    ]


def lines(seed: int) -> Scene:
    """Seven lines of 1 to 3 px in two colours over areas and ground."""
    h = Hand(seed * 11 + 5)
    dark = h.dark()
    second = h.shade(h.base(0.3), -0.45)
    body = _areas(h, 4, dark)
    for k in range(7):
        width = (1.5, 2.0, 2.0, 2.5, 3.0, 3.0, 1.5)[k]
        turn = math.radians(h.between(0, 180))
        cx, cy, r = h.between(120, 390), h.between(120, 390), h.between(70, 150)
        dx, dy = r * math.cos(turn), r * math.sin(turn)
        bend = h.between(-60, 60)
        path = f"M{cx - dx:.1f} {cy - dy:.1f}Q{cx - dy / r * bend:.1f} {cy + dx / r * bend:.1f} {cx + dx:.1f} {cy + dy:.1f}"
        body.append(Stroke(path, None, dark if k % 2 else second, width))
    return Scene(f"lines-{seed}", "#ffffff" if seed % 3 else "#f5f0e0", tuple(body), (dark, second))


def words(seed: int) -> Scene:
    """Eight words over ground and areas in two inks, some of them light on dark."""
    h = Hand(seed * 13 + 1)
    caps = (10, 12, 14, 16, 19, 24)[seed % 6]
    dark = h.dark()
    broad = _inked(h, "#ffffff", 0.3)
    body = [*_areas(h, 3, dark), Stroke("M40 380H472V480H40Z", h.shade(broad, -0.35))]
    font = _FONTS[seed % len(_FONTS)]
    for k in range(8):
        x, y, ink = 40 + 230 * (k % 2), 70 + 80 * (k // 2), dark
        if k >= 6:
            y, ink = 440, "#ffffff"
        body += [
            Stroke(p, ink, letter=True, box=b)
            for p, b in text_paths(font, h.rng.choice(_WORDS), caps, x + h.between(0, 30), y + h.between(-20, 20))
        ]
    return Scene(f"words-{seed}", "#ffffff", tuple(body), (dark, "#ffffff"), caps)


@cache
def _font(key: str) -> TTFont:
    return TTFont(io.BytesIO(shipped_font(key)))


def text_paths(
    key: str, text: str, caps_px: float, x: float, y: float
) -> list[tuple[str, tuple[float, float, float, float]]]:
    """The letters of a text, capitals so tall, its baseline beginning at (x, y)."""
    font = _font(key)
    glyphs, cmap = font.getGlyphSet(), font.getBestCmap()
    factor = caps_px / (getattr(font["OS/2"], "sCapHeight", 0) or 0.7 * font["head"].unitsPerEm)
    out = []
    for ch in text:
        name = cmap[ord(ch)]
        pen = SVGPathPen(glyphs)
        glyphs[name].draw(TransformPen(pen, (factor, 0, 0, -factor, x, y)))
        if commands := pen.getCommands():
            bounds = BoundsPen(glyphs)
            glyphs[name].draw(TransformPen(bounds, (factor, 0, 0, -factor, x, y)))
            out.append((commands, bounds.bounds))
        x += glyphs[name].width * factor
    return out


@cache
def scenes(many: int = 24) -> tuple[Scene, ...]:
    """Cartoons, lines and words in a fixed order."""
    return tuple(make(k) for make in (cartoon, lines, words) for k in range(many))
