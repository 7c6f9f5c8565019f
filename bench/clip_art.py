"""Clip art drawn by script, with known truth: motifs in many hands, with near shades, near-whites, thin parts and gloss.

Twelve motifs, each drawn from six seeds; colours, sizes and places differ from seed to seed.
"""

from __future__ import annotations

import colorsys
import math
import random
from collections.abc import Callable
from functools import cache

import numpy as np

from bench.drawings import Drawing, Shape, blob, crescent, disc, ellipse, line, polygon, ring, star
from bench.measure import render
from gladstack.core.base.colour import delta_e, from_hex

SEEDS = 6
LEAST_SHARE = 0.0012
APART = 2.1
_NEAR_WHITE = ("#f5f8fa", "#f6f3ec", "#eef2f4", "#f4f4f4", "#fdf4e3")
_DARK = ("#292f33", "#31373d", "#2b1d14", "#1b2440", "#3b2a45", "#14171a")


class Hand:
    """What one drawing is made with: its chance, and its colours, each asked for by what it is for."""

    def __init__(self, seed: int) -> None:
        self.rng = random.Random(seed)
        self.hue = self.rng.random()

    def base(self, turn: float = 0.0) -> str:
        """A strong colour, its hue so far round from the drawing's own."""
        hue = (self.hue + turn + self.rng.uniform(-0.04, 0.04)) % 1
        return _hex(colorsys.hls_to_rgb(hue, self.rng.uniform(0.4, 0.68), self.rng.uniform(0.45, 0.9)))

    def shade(self, colour: str, by: float | None = None) -> str:
        """The same a little darker or lighter, as a drawing's shaded side is."""
        factor = 1 + (by if by is not None else self.rng.choice([-0.3, -0.18, -0.1, -0.07, 0.12]))
        rgb = [int(colour[k : k + 2], 16) / 255 for k in (1, 3, 5)]
        return _hex([min(1.0, c * factor) if factor < 1 else 1 - (1 - c) / factor for c in rgb])

    def pale(self) -> str:
        """A near-white."""
        return self.rng.choice(_NEAR_WHITE)

    def dark(self) -> str:
        """A near-black."""
        return self.rng.choice(_DARK)

    def between(self, low: float, high: float) -> float:
        """A number in a range."""
        return self.rng.uniform(low, high)


def _hex(rgb: tuple[float, ...] | list[float]) -> str:
    return "#" + "".join(f"{max(0, min(255, round(255 * c))):02x}" for c in rgb)


def arc_stroke(cx: float, cy: float, r: float, start: float, end: float, width: float, fill: str) -> Shape:
    """A bent bar: part of a circle's outline, angles in degrees clockwise from the right."""
    steps = max(4, int(abs(end - start) / 6))
    angles = [math.radians(start + (end - start) * k / steps) for k in range(steps + 1)]
    outer = [(cx + (r + width / 2) * math.cos(a), cy + (r + width / 2) * math.sin(a)) for a in angles]
    inner = [(cx + (r - width / 2) * math.cos(a), cy + (r - width / 2) * math.sin(a)) for a in reversed(angles)]
    return polygon(outer + inner, fill)


def box(x: float, y: float, width: float, height: float, r: float, fill: str) -> Shape:
    """A rectangle with round corners."""
    return Shape(
        f"M{x + r} {y}H{x + width - r}A{r} {r} 0 0 1 {x + width} {y + r}V{y + height - r}A{r} {r} 0 0 1 {x + width - r} "
        f"{y + height}H{x + r}A{r} {r} 0 0 1 {x} {y + height - r}V{y + r}A{r} {r} 0 0 1 {x + r} {y}Z",
        fill,
    )


def _cup(h: Hand) -> list[Shape]:
    body, drink, band = h.pale(), h.base(0.4), h.base()
    steam = h.shade(h.pale(), -0.12)
    w = h.between(40, 52)
    x = 46 - w / 2
    return [
        ellipse(48, 88, w * 0.75, 6, h.shade(band, -0.25)),
        ring(x + w + 4, 58, 13, 8, h.shade(body, -0.1)),
        Shape(f"M{x} 36H{x + w}V66C{x + w} 82 {x + w - 10} 88 46 88C{x + 10} 88 {x} 82 {x} 66Z", body),
        polygon([(x, 58), (x + w, 58), (x + w, 66), (x, 66)], band),
        ellipse(46, 36, w / 2, 6.5, h.shade(body, -0.1)),
        ellipse(46, 37, w / 2 - 3, 4.6, drink),
        *(arc_stroke(36 + 9 * k, 20, 6, 100, 260, h.between(1.2, 2.6), steam) for k in range(2)),
    ]


def _face(h: Hand) -> list[Shape]:
    skin, dark = h.base(0.1), h.dark()
    cheek, teeth = h.shade(skin, -0.14), h.pale()
    eye = h.between(3, 5)
    return [
        disc(50, 50, 38, skin),
        ellipse(29, 60, 6, 4, cheek),
        ellipse(71, 60, 6, 4, cheek),
        Shape("M28 62C36 84 64 84 72 62Z", dark),
        Shape("M31 63C40 68 60 68 69 63L67 67C60 72 40 72 33 67Z", teeth),
        ellipse(50, 76, 8, 3.4, h.base(0.9)),
        ellipse(37, 42, eye, eye * 1.5, dark),
        ellipse(63, 42, eye, eye * 1.5, dark),
        disc(38.5, 39, eye / 2.8, teeth),
        disc(64.5, 39, eye / 2.8, teeth),
        arc_stroke(37, 36, 9, 210, 330, h.between(1.2, 2.2), h.shade(dark, 0.2)),
        arc_stroke(63, 36, 9, 210, 330, h.between(1.2, 2.2), h.shade(dark, 0.2)),
    ]


def _fish(h: Hand) -> list[Shape]:
    body, fin = h.base(), h.base(0.45)
    belly = h.shade(body, 0.12)
    scales = [arc_stroke(46 + 7 * k, 46 + 5 * (k % 2), 4, 90, 270, 1.1, h.shade(body, -0.18)) for k in range(4)]
    return [
        polygon([(70, 50), (94, 32), (90, 50), (94, 68)], fin),
        Shape("M40 34C46 18 58 18 64 34Z", h.shade(fin)),
        ellipse(44, 50, 34, 20, body),
        Shape("M14 58C28 74 60 74 74 57C58 64 32 64 14 58Z", belly),
        *scales,
        disc(26, 44, 5, h.pale()),
        disc(25, 44, 2.6, h.dark()),
        *(disc(12 + 4 * k, 20 - 5 * k, 1.2 + 0.7 * k, h.shade(fin, 0.3)) for k in range(3)),
    ]


def _house(h: Hand) -> list[Shape]:
    wall, roof, glass = h.pale(), h.base(), h.base(0.55)
    side = h.shade(wall, -0.06)
    panes = [box(24 + 34 * k, 54, 14, 14, 0.8, glass) for k in range(2)]
    bars = [line(31 + 34 * k, 54, 31 + 34 * k, 68, 1.2, wall) for k in range(2)]
    return [
        polygon([(0, 86), (100, 82), (100, 100), (0, 100)], h.base(0.3)),
        polygon([(64, 22), (72, 22), (72, 40), (64, 34)], h.shade(roof, -0.25)),
        polygon([(16, 48), (84, 48), (84, 88), (16, 88)], wall),
        polygon([(62, 48), (84, 48), (84, 88), (62, 88)], side),
        polygon([(8, 50), (50, 16), (92, 50)], roof),
        polygon([(50, 16), (92, 50), (72, 50)], h.shade(roof, -0.1)),
        *panes,
        *bars,
        box(43, 62, 14, 26, 1, h.base(0.1)),
        disc(54, 76, 1.1, h.pale()),
    ]


def _badge(h: Hand) -> list[Shape]:
    outer, inner, mark = h.base(), h.pale(), h.base(0.5)
    rays = h.rng.choice([10, 14, 18])
    return [
        star(50, 50, 45, 39, rays, outer),
        disc(50, 50, 35, h.shade(outer, 0.15)),
        disc(50, 50, 31, inner),
        ring(50, 50, 28.5, 27.5, mark),
        star(50, 48, 20, 8, 5, mark),
        star(50, 48, 12, 5, 5, h.shade(mark, -0.1)),
        polygon([(18, 66), (82, 66), (78, 74), (82, 82), (18, 82), (22, 74)], h.dark()),
        *(line(28, 71 + 3 * k, 72, 71 + 3 * k, h.between(0.7, 1.4), inner) for k in range(3)),
    ]


def _bird(h: Hand) -> list[Shape]:
    body, wing, beak = h.base(), h.base(0.08), h.base(0.5)
    return [
        polygon([(66, 58), (96, 50), (92, 64), (70, 70)], h.shade(body, -0.25)),
        blob(h.rng, 48, 56, 28, body, 0.1, 9),
        disc(32, 34, 17, h.shade(body, 0.12)),
        ellipse(50, 66, 16, 12, h.pale()),
        Shape("M44 46C60 40 76 52 74 66C62 72 48 64 44 46Z", wing),
        Shape("M50 50C60 48 68 56 68 63C60 65 52 60 50 50Z", h.shade(wing, -0.08)),
        polygon([(18, 34), (4, 40), (18, 43)], beak),
        disc(27, 31, 4, "#ffffff"),
        disc(26, 31, 2.2, h.dark()),
        line(44, 82, 42, 95, 1.6, beak),
        line(54, 82, 54, 95, 1.6, beak),
    ]


def _bottle(h: Hand) -> list[Shape]:
    glass, label, cap = h.base(0.3), h.pale(), h.base(0.75)
    return [
        box(32, 34, 36, 60, 7, glass),
        Shape("M32 44C32 30 42 30 43 18H57C58 30 68 30 68 44Z", glass),
        box(41, 7, 18, 9, 2, cap),
        box(41, 13, 18, 3, 1, h.shade(cap, -0.15)),
        box(32, 52, 36, 26, 0.5, label),
        star(50, 65, 9, 4, 6, cap),
        line(36, 56, 64, 56, h.between(0.6, 1.1), h.shade(label, -0.3)),
        line(36, 74, 64, 74, h.between(0.6, 1.1), h.shade(label, -0.3)),
        box(60, 36, 4, 14, 2, h.shade(glass, 0.25)),
        box(60, 80, 4, 10, 2, h.shade(glass, 0.25)),
    ]


def _flower(h: Hand) -> list[Shape]:
    petal, heart, leaf = h.base(), h.base(0.4), h.base(0.65)
    other = h.shade(petal)
    n = h.rng.choice([6, 8, 10])
    petals = []
    for k in range(n):
        a = 2 * math.pi * k / n
        petals.append(disc(50 + 20 * math.cos(a), 40 + 20 * math.sin(a), 38 / n * 1.7, petal if k % 2 else other))
    return [
        line(50, 44, 50, 97, 3, leaf),
        Shape("M50 80C36 82 28 74 24 64C38 62 48 70 50 80Z", leaf),
        Shape("M50 86C64 88 74 78 78 68C62 68 52 76 50 86Z", h.shade(leaf)),
        *petals,
        disc(50, 40, 12, heart),
        *(disc(50 + 6 * math.cos(k), 40 + 6 * math.sin(k), 1.1, h.shade(heart, -0.35)) for k in range(7)),
    ]


def _cat(h: Hand) -> list[Shape]:
    fur, dark = h.base(0.05), h.dark()
    inside = h.base(0.9)
    whiskers = [
        line(x0, 62 + 4 * k, x1, 58 + 8 * k, h.between(0.5, 0.9), dark) for k in range(2) for x0, x1 in ((34, 8), (66, 92))
    ]
    return [
        polygon([(16, 12), (42, 28), (20, 48)], fur),
        polygon([(84, 12), (58, 28), (80, 48)], fur),
        polygon([(20, 19), (36, 29), (23, 40)], inside),
        polygon([(80, 19), (64, 29), (77, 40)], inside),
        ellipse(50, 56, 36, 31, fur),
        *(polygon([(46 + 4 * k, 26), (49 + 4 * k, 26), (50, 40)], h.shade(fur, -0.3)) for k in range(-1, 2)),
        ellipse(50, 70, 17, 12, h.pale()),
        ellipse(36, 52, 6, 7.5, h.base(0.45)),
        ellipse(64, 52, 6, 7.5, h.base(0.45)),
        ellipse(36, 52, 2, 6.4, dark),
        ellipse(64, 52, 2, 6.4, dark),
        polygon([(46, 63), (54, 63), (50, 68)], inside),
        *whiskers,
    ]


def _boat(h: Hand) -> list[Shape]:
    hull, sail, sea = h.base(), h.pale(), h.base(0.5)
    return [
        disc(78, 20, 9, h.base(0.2)),
        polygon([(0, 76), (100, 76), (100, 100), (0, 100)], sea),
        *(ellipse(12 + 19 * k, 77, 9, 3.2, h.shade(sea, 0.1)) for k in range(5)),
        line(50, 10, 50, 70, 1.8, h.dark()),
        polygon([(53, 12), (53, 62), (84, 62)], sail),
        polygon([(47, 20), (47, 62), (24, 62)], h.shade(sail, -0.07)),
        Shape("M14 66H88C84 80 76 86 66 86H32C22 86 16 78 14 66Z", hull),
        polygon([(15, 70), (87, 70), (86, 73), (16, 73)], h.shade(hull, 0.3)),
        *(disc(36 + 14 * k, 79, 2.4, sail) for k in range(3)),
    ]


def _cake(h: Hand) -> list[Shape]:
    cake, cream, berry = h.base(0.1), h.pale(), h.base(0.55)
    drips = [disc(22 + 11.2 * k, 52, 5.6, cream) for k in range(6)]
    dots = [disc(h.between(24, 76), h.between(64, 84), 1.3, h.base(0.2 * k)) for k in range(4)]
    return [
        ellipse(50, 88, 42, 7, h.shade(h.pale(), -0.14)),
        box(18, 44, 64, 44, 4, cake),
        box(18, 70, 64, 6, 0.5, h.shade(cake, -0.12)),
        *dots,
        box(18, 38, 64, 14, 4, cream),
        *drips,
        *(disc(30 + 20 * k, 34, 6, berry) for k in range(3)),
        *(disc(28 + 20 * k, 32, 1.4, h.shade(berry, 0.5)) for k in range(3)),
        line(50, 12, 50, 30, 2.2, h.base(0.3)),
        ellipse(50, 9, 2.2, 4, "#ffcc4d"),
    ]


def _night(h: Hand) -> list[Shape]:
    sky, moon = h.dark(), "#ffe8b6"
    stars = [
        star(h.between(6, 94), h.between(6, 50), h.between(1.4, 3.4), 0.8, 4, h.pale(), h.between(0, 40)) for _ in range(7)
    ]
    return [
        box(4, 4, 92, 92, 12, sky),
        Shape("M4 70C24 58 40 62 56 68C70 73 84 70 96 62V84A12 12 0 0 1 84 96H16A12 12 0 0 1 4 84Z", h.shade(sky, 0.12)),
        Shape("M4 82C30 74 60 88 96 78V84A12 12 0 0 1 84 96H16A12 12 0 0 1 4 84Z", h.base(0.35)),
        crescent(66, 30, 15, 14, moon),
        *stars,
        box(24, 58, 22, 18, 1, h.shade(h.base(0.6), 0.2)),
        Shape("M24 60A11 11 0 0 1 46 60Z", h.base(0.6)),
        line(35, 60, 46, 46, 2, moon),
    ]


_MOTIFS: tuple[Callable[[Hand], list[Shape]], ...] = (
    _cup, _face, _fish, _house, _badge, _bird, _bottle, _flower, _cat, _boat, _cake, _night,
)  # fmt: skip
_GROUNDS = ("#ffffff", "#ffffff", "#ffffff", "#fefefe", "#e8eef2", "#2f4858")


@cache
def clip_art() -> tuple[Drawing, ...]:
    """Every drawing, in a fixed order."""
    return tuple(
        _plainly(Drawing(f"{motif.__name__[1:]}-{seed}", _GROUNDS[seed % len(_GROUNDS)], tuple(motif(Hand(97 * seed + k)))))
        for k, motif in enumerate(_MOTIFS)
        for seed in range(SEEDS)
    )


def _plainly(drawing: Drawing) -> Drawing:
    """The same without colours that nobody can tell apart or that hardly show: these become their nearest other one."""
    pixels = np.array(render(drawing.svg(crisp=True), 1024).convert("RGB")).reshape(-1, 3)
    shares = {c: float(np.mean(np.all(pixels == np.array(from_hex(c)), axis=1))) for c in drawing.colours}
    own: dict[str, str] = {}
    for colour in sorted(drawing.colours, key=lambda c: (c != drawing.background, -shares[c])):
        kept = [c for c in own.values() if c != colour]
        apart = [float(delta_e(np.array(from_hex(colour)), np.array(from_hex(c)))) for c in kept]
        alike = bool(kept) and (shares[colour] < LEAST_SHARE or min(apart) < APART)
        own[colour] = kept[int(np.argmin(apart))] if alike else colour
    return Drawing(drawing.name, drawing.background, tuple(Shape(s.path, own[s.fill], s.corners) for s in drawing.shapes))
