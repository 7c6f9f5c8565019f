"""Flat vector drawings with known truth, for measuring the separation of colours.

Every drawing is a list of `Shape`s painted in order on a 100 x 100 board. `svg` writes it smooth (as a maker's picture is
made) or with crisp edges (the truth). Nothing here is random without a seed.
"""

from __future__ import annotations

import itertools
import math
import random
from collections.abc import Callable
from dataclasses import dataclass, field


@dataclass(frozen=True)
class Shape:
    """One painted outline: SVG path data, a fill colour, and the true vertices of its sharp corners."""

    path: str
    fill: str
    corners: tuple[tuple[float, float], ...] = ()


@dataclass(frozen=True)
class Drawing:
    """A board of 100 x 100 units with a background colour and shapes painted in order."""

    name: str
    background: str
    shapes: tuple[Shape, ...] = field(default=())

    @property
    def colours(self) -> tuple[str, ...]:
        """The distinct colours, background first."""
        seen = dict.fromkeys([self.background, *(shape.fill for shape in self.shapes)])
        return tuple(seen)

    def svg(self, *, crisp: bool = False) -> str:
        """The drawing as SVG text; `crisp` turns anti-aliasing off."""
        rendering = ' shape-rendering="crispEdges"' if crisp else ""
        body = "".join(f'<path d="{s.path}" fill="{s.fill}" fill-rule="evenodd"/>' for s in self.shapes)
        return (
            f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"{rendering}>'
            f'<rect width="100" height="100" fill="{self.background}"/>{body}</svg>'
        )


def with_corners(shape: Shape, *corners: tuple[float, float]) -> Shape:
    """The shape with those of its vertices named that stay in sight as sharp corners."""
    return Shape(shape.path, shape.fill, corners)


def polygon(points: list[tuple[float, float]], fill: str, *, corners: bool = False) -> Shape:
    """A closed polygon; with `corners`, its vertices count as true corners to be kept."""
    data = "M" + "L".join(f"{x:.4f} {y:.4f}" for x, y in points) + "Z"
    return Shape(data, fill, tuple(points) if corners else ())


def ellipse(cx: float, cy: float, rx: float, ry: float, fill: str) -> Shape:
    """A full ellipse."""
    return Shape(_ellipse_path(cx, cy, rx, ry), fill)


def disc(cx: float, cy: float, r: float, fill: str) -> Shape:
    """A full circle."""
    return ellipse(cx, cy, r, r, fill)


def ring(cx: float, cy: float, outer: float, inner: float, fill: str) -> Shape:
    """A circular band."""
    return Shape(_ellipse_path(cx, cy, outer, outer) + _ellipse_path(cx, cy, inner, inner), fill)


def _ellipse_path(cx: float, cy: float, rx: float, ry: float) -> str:
    return f"M{cx - rx} {cy}A{rx} {ry} 0 1 0 {cx + rx} {cy}A{rx} {ry} 0 1 0 {cx - rx} {cy}Z"


def star(cx: float, cy: float, outer: float, inner: float, rays: int, fill: str, turn: float = 0.0) -> Shape:
    """A star with `rays` points; its outer points are true corners where they do not overlap anything."""
    points = []
    for k in range(2 * rays):
        r = outer if k % 2 == 0 else inner
        a = math.radians(turn) + math.pi * k / rays
        points.append((cx + r * math.sin(a), cy - r * math.cos(a)))
    shape = polygon(points, fill)
    return Shape(shape.path, fill, tuple(points[::2]))


def line(x0: float, y0: float, x1: float, y1: float, width: float, fill: str) -> Shape:
    """A straight bar of the given width."""
    dx, dy = x1 - x0, y1 - y0
    n = math.hypot(dx, dy)
    ox, oy = -dy / n * width / 2, dx / n * width / 2
    return polygon([(x0 + ox, y0 + oy), (x1 + ox, y1 + oy), (x1 - ox, y1 - oy), (x0 - ox, y0 - oy)], fill)


def crescent(cx: float, cy: float, r: float, bite: float, fill: str) -> Shape:
    """A moon: a circle with a bite of radius `bite` out of its right side."""
    return Shape(
        f"M{cx + 0.45 * r} {cy - 0.89303 * r}A{r} {r} 0 1 0 {cx + 0.45 * r} {cy + 0.89303 * r}"
        f"A{bite} {bite} 0 1 1 {cx + 0.45 * r} {cy - 0.89303 * r}Z",
        fill,
    )


def blob(rng: random.Random, cx: float, cy: float, r: float, fill: str, wobble: float = 0.3, lobes: int = 7) -> Shape:
    """A smooth closed curve through `lobes` wobbling points (Catmull-Rom as cubics)."""
    pts = []
    for k in range(lobes):
        a = 2 * math.pi * k / lobes
        q = r * (1 + wobble * (rng.random() * 2 - 1))
        pts.append((cx + q * math.cos(a), cy + q * math.sin(a)))
    data = f"M{pts[0][0]:.4f} {pts[0][1]:.4f}"
    for k in range(lobes):
        p0, p1, p2, p3 = (pts[(k + i - 1) % lobes] for i in range(4))
        c1 = (p1[0] + (p2[0] - p0[0]) / 6, p1[1] + (p2[1] - p0[1]) / 6)
        c2 = (p2[0] - (p3[0] - p1[0]) / 6, p2[1] - (p3[1] - p1[1]) / 6)
        data += f"C{c1[0]:.4f} {c1[1]:.4f} {c2[0]:.4f} {c2[1]:.4f} {p2[0]:.4f} {p2[1]:.4f}"
    return Shape(data + "Z", fill)


def wave(rng: random.Random, level: float, swing: float, fill: str) -> Shape:
    """A hill line across the whole board, filled to the bottom."""
    xs = [-5 + 110 * k / 6 for k in range(7)]
    ys = [level + swing * (rng.random() * 2 - 1) for _ in xs]
    data = f"M-5 105L{xs[0]:.3f} {ys[0]:.3f}"
    for k in range(6):
        mid = (xs[k] + xs[k + 1]) / 2
        data += f"C{mid:.3f} {ys[k]:.3f} {mid:.3f} {ys[k + 1]:.3f} {xs[k + 1]:.3f} {ys[k + 1]:.3f}"
    return Shape(data + "L105 105Z", fill)


def _moon_owl() -> Drawing:
    navy, cream, brown, tan, gold, dark = "#1d2b53", "#fff4d6", "#6b4226", "#b07a4a", "#f2b632", "#14100c"
    return Drawing(
        "moon-owl",
        "#ffffff",
        (
            crescent(48, 50, 42, 38, gold),
            ellipse(56, 52, 18, 24, brown),
            with_corners(polygon([(40, 34), (41, 20), (52, 30)], brown), (41, 20)),
            with_corners(polygon([(72, 34), (71, 20), (60, 30)], brown), (71, 20)),
            ellipse(56, 60, 11, 14, tan),
            disc(49, 42, 7, cream),
            disc(63, 42, 7, cream),
            disc(49, 42, 3.2, dark),
            disc(63, 42, 3.2, dark),
            with_corners(polygon([(53, 47), (59, 47), (56, 54)], gold), (56, 54)),
            line(30, 78, 82, 76, 2.2, navy),
        ),
    )


def _dome() -> Drawing:
    return Drawing(
        "dome",
        "#f7f7f2",
        (
            Shape("M0 80C20 66 35 62 50 62C70 62 85 70 100 78L100 100L0 100Z", "#3f6b4f"),
            polygon([(30, 64), (70, 64), (70, 42), (30, 42)], "#c9d1d9"),
            Shape("M28 42A22 22 0 0 1 72 42Z", "#8894a3"),
            polygon([(47, 42), (53, 42), (64, 22), (58, 18)], "#22303c"),
            polygon([(45, 64), (55, 64), (55, 50), (45, 50)], "#a4452c"),
            disc(82, 18, 7, "#f4c95d"),
        ),
    )


def _constellation() -> Drawing:
    rng = random.Random(5)
    points = [(12, 20), (30, 34), (46, 28), (60, 44), (82, 38), (74, 66), (52, 70), (60, 44)]
    shapes = [line(*a, *b, 0.7, "#7fb2d9") for a, b in itertools.pairwise(points)]
    shapes += [disc(x, y, 1.6 + rng.random(), "#fdf6e3") for x, y in points]
    shapes += [star(24, 76, 10, 3, 4, "#e8b23a"), star(84, 84, 7, 2, 5, "#e8b23a", 10)]
    return Drawing("constellation", "#101a3a", tuple(shapes))


def _ringed_planet() -> Drawing:
    return Drawing(
        "ringed-planet",
        "#fafafa",
        (
            disc(50, 50, 26, "#d9803f"),
            Shape("M26.5 40C40 45 60 45 73.5 40L75.4 45C60 51 40 51 24.6 45Z", "#e9a76b"),
            Shape("M25 57C42 63 60 62 75 56L72 64C60 69 40 69 29 65Z", "#b65c26"),
            Shape("M4 58C20 76 80 60 96 40C90 34 82 32 74 34L75 38C80 38 84 38 88 41C76 54 30 66 13 57Z", "#5a3d7a"),
            disc(14, 16, 3, "#5a3d7a"),
            disc(88, 84, 4.5, "#2d2140"),
        ),
    )


def _hills() -> Drawing:
    rng = random.Random(11)
    fills = ["#cfe3ef", "#a8cbd9", "#7fae9d", "#5c8f6d", "#3c6e50", "#27503b", "#173629"]
    return Drawing(
        "hills",
        "#fbe9d0",
        (disc(70, 24, 11, "#f08a4b"), *(wave(rng, 34 + 9 * k, 6, f) for k, f in enumerate(fills))),
    )


def _near_shades() -> Drawing:
    rng = random.Random(3)
    return Drawing(
        "near-shades",
        "#e9e4d8",
        (
            blob(rng, 32, 36, 22, "#8c2f39"),
            blob(rng, 60, 50, 26, "#9c3d45"),
            blob(rng, 62, 50, 13, "#7a2631"),
            blob(rng, 34, 74, 15, "#31628a"),
            disc(40, 74, 7, "#3b6f9a"),
            star(80, 80, 13, 5, 5, "#e9b949"),
        ),
    )


def _checker() -> Drawing:
    fills = ["#30343f", "#e3655b", "#5b8e7d", "#f4e285"]
    shapes = []
    for r in range(4):
        for c in range(4):
            x, y = 14 + 18 * c, 14 + 18 * r
            shapes.append(polygon([(x, y), (x + 18, y), (x + 18, y + 18), (x, y + 18)], fills[(r + 2 * c) % 4]))
    return Drawing("checker", "#ffffff", tuple(shapes))


def _rosette() -> Drawing:
    fills = ["#264653", "#2a9d8f", "#e9c46a", "#f4a261", "#e76f51"]
    shapes = []
    for k in range(15):
        a0, a1 = math.radians(24 * k + 3), math.radians(24 * k + 27)
        shapes.append(
            polygon(
                [
                    (50, 50),
                    (50 + 44 * math.cos(a0), 50 + 44 * math.sin(a0)),
                    (50 + 44 * math.cos(a1), 50 + 44 * math.sin(a1)),
                ],
                fills[k % 5],
            )
        )
    shapes.append(disc(50, 50, 13, "#ffffff"))
    return Drawing("rosette", "#f1faee", tuple(shapes))


def _thin_lines() -> Drawing:
    shapes = [line(8, 12 + 9 * k, 92, 8 + 11 * k, 0.45 + 0.22 * k, "#22223b") for k in range(8)]
    shapes += [ring(50, 50, 34, 33.2, "#c1121f"), ring(50, 50, 22, 20.6, "#669bbc")]
    return Drawing("thin-lines", "#fdf0d5", tuple(shapes))


def _dots() -> Drawing:
    fills = ["#d62246", "#4b1d3f", "#17bebb", "#edb88b"]
    shapes = []
    for r in range(8):
        for c in range(8):
            shapes.append(disc(10 + 11.4 * c, 10 + 11.4 * r, 0.8 + 0.08 * (r * 8 + c), fills[(r + c) % 4]))
    return Drawing("dots", "#fafaff", tuple(shapes))


def _sharp() -> Drawing:
    shapes = [star(26, 28, 22, 6, 5, "#bc4749"), star(74, 28, 21, 9, 7, "#386641")]
    for k, width in enumerate((6, 9, 13)):
        x = 14 + 26 * k
        shapes.append(polygon([(x, 92), (x + width, 92), (x + width / 2 + 4, 58)], "#6a994e", corners=False))
        shapes.append(Shape("M0 0Z", "#6a994e", ((x + width / 2 + 4, 58),)))
    shapes.append(polygon([(86, 60), (95, 94), (80, 94)], "#a7c957", corners=False))
    return Drawing("sharp", "#f2e8cf", tuple(shapes))


def _targets() -> Drawing:
    fills = ["#003049", "#d62828", "#f77f00", "#fcbf49", "#eae2b7"]
    shapes = [disc(36, 38, 32 - 5.5 * k, fills[k % 5]) for k in range(5)]
    shapes += [disc(76, 76, 20 - 3.4 * k, fills[(k + 2) % 5]) for k in range(5)]
    return Drawing("targets", "#ffffff", tuple(shapes))


def _stained_glass() -> Drawing:
    rng = random.Random(21)
    fills = ["#ef476f", "#ffd166", "#06d6a0", "#118ab2", "#8338ec", "#fb5607"]
    shapes = []
    for r in range(4):
        for c in range(4):
            x, y = 5 + 22.5 * c, 5 + 22.5 * r
            j = [1.5 * rng.random() for _ in range(8)]
            shapes.append(
                polygon(
                    [
                        (x + j[0], y + j[1]),
                        (x + 21 - j[2], y + j[3]),
                        (x + 21 - j[4], y + 21 - j[5]),
                        (x + j[6], y + 21 - j[7]),
                    ],
                    fills[rng.randrange(6)],
                )
            )
    shapes += [disc(50, 50, 15, "#073b4c"), disc(50, 50, 12, "#ffd166")]
    return Drawing("stained-glass", "#073b4c", tuple(shapes))


def _night_badge() -> Drawing:
    rng = random.Random(8)
    shapes = [disc(50, 50, 46, "#11213f"), ring(50, 50, 43, 40.5, "#e8d7a3")]
    shapes += [disc(24 + 52 * rng.random(), 18 + 34 * rng.random(), 0.7 + rng.random() * 0.8, "#ffffff") for _ in range(14)]
    shapes += [
        Shape("M14 68C30 56 46 60 58 64C70 67 80 64 88.5 62A40 40 0 0 1 14.4 68.5Z", "#2b4a3a"),
        Shape("M40 62A11 11 0 0 1 62 62L62 65L40 65Z", "#b9c3cf"),
        line(51, 56, 63, 42, 2.4, "#7a8796"),
        star(70, 30, 6, 1.6, 4, "#f6c945"),
    ]
    return Drawing("night-badge", "#ffffff", tuple(shapes))


def _overlapping_blobs() -> Drawing:
    rng = random.Random(14)
    fills = ["#f94144", "#f3722c", "#f8961e", "#f9c74f", "#90be6d", "#43aa8b", "#577590", "#3d348b"]
    shapes = [
        blob(rng, 20 + 60 * rng.random(), 20 + 60 * rng.random(), 10 + 12 * rng.random(), fills[k % 8], 0.35, 6 + k % 4)
        for k in range(14)
    ]
    return Drawing("overlapping-blobs", "#ffffff", tuple(shapes))


def _greys() -> Drawing:
    fills = ["#2b2b2b", "#555555", "#808080", "#aaaaaa", "#d4d4d4"]
    shapes = [disc(30 + 10 * k, 40 + 5 * (k % 2), 18 - 2 * k, f) for k, f in enumerate(fills)]
    shapes += [polygon([(10, 70), (90, 70), (90, 92), (10, 92)], "#2b2b2b"), line(12, 81, 88, 81, 3, "#aaaaaa")]
    return Drawing("greys", "#ffffff", tuple(shapes))


def _telescope() -> Drawing:
    return Drawing(
        "telescope",
        "#fffdf7",
        (
            line(50, 58, 30, 94, 2.6, "#6d4c41"),
            line(50, 58, 70, 94, 2.6, "#6d4c41"),
            line(50, 58, 50, 96, 2.2, "#6d4c41"),
            polygon([(18, 66), (26, 74), (74, 34), (66, 26)], "#c0392b"),
            polygon([(66, 26), (74, 34), (86, 24), (74, 14)], "#922b21"),
            polygon([(18, 66), (26, 74), (22, 78), (14, 70)], "#2c3e50"),
            disc(50, 58, 4.4, "#f1c40f"),
            disc(50, 58, 1.5, "#2c3e50"),
            star(22, 22, 9, 2.5, 4, "#f1c40f"),
        ),
    )


def _lens_flags() -> Drawing:
    rng = random.Random(33)
    fills = ["#0b3954", "#bfd7ea", "#ff6663", "#e0ff4f", "#5c415d", "#7f9172", "#c2a878", "#2e5339", "#f5e9e2"]
    shapes: list[Shape] = []
    for k in range(9):
        cx, cy = 18 + 32 * (k % 3), 18 + 32 * (k // 3)
        shapes.append(polygon([(cx - 13, cy - 13), (cx + 13, cy - 13), (cx + 13, cy + 13), (cx - 13, cy + 13)], fills[k]))
        shapes.append(blob(rng, cx, cy, 8, fills[(k + 4) % 9], 0.25))
        shapes.append(disc(cx + 2, cy - 1, 2.2, fills[(k + 7) % 9]))
    return Drawing("lens-flags", "#ffffff", tuple(shapes))


_MAKERS: tuple[Callable[[], Drawing], ...] = (
    _moon_owl, _dome, _constellation, _ringed_planet, _hills, _near_shades, _checker, _rosette, _thin_lines, _dots,
    _sharp, _targets, _stained_glass, _night_badge, _overlapping_blobs, _greys, _telescope, _lens_flags,
)  # fmt: skip


def drawings() -> tuple[Drawing, ...]:
    """Every drawing of the bench, in a fixed order."""
    return tuple(make() for make in _MAKERS)
