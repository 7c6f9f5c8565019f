"""Drawings with outlines, thin lines and small words, with known truth: what is thin, and where its middle runs.

python -m bench.outlined [--quality N] [--show FOLDER]
"""

from __future__ import annotations

import argparse
import io
import math
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from functools import cache, partial
from pathlib import Path

import cv2
import numpy as np
import numpy.typing as npt
from fontTools.pens.boundsPen import BoundsPen
from fontTools.pens.svgPathPen import SVGPathPen
from fontTools.pens.transformPen import TransformPen
from fontTools.ttLib import TTFont
from PIL import Image

from bench.clip_art import Hand
from bench.drawings import Shape, blob, disc, ellipse, polygon, star
from bench.measure import WIDTH_MM, crisp, our_svg, render
from gladstack.core.base.colour import Rgb, delta_e, from_hex
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.separate import TraceOptions, find_colours, planar_map_of
from gladstack.core.picture.tidy import tidied
from gladstack.recipe.model.fonts import shipped_font
from gladstack.warm import warm

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


def saved(scene: Scene, quality: int | None, subsampling: int = 2) -> bytes:
    """The scene as PNG, or as JPEG (4:2:0 with `subsampling` 2, 4:4:4 with 0)."""
    image = render(scene.svg(), SIDE).convert("RGB")
    out = io.BytesIO()
    if quality is None:
        image.save(out, "PNG")
    else:
        image.save(out, "JPEG", quality=quality, subsampling=subsampling)
    return out.getvalue()


@dataclass(frozen=True)
class Truth:
    """Masks of each ink at three times the size, and of the middles of its strokes that are seen."""

    ink: dict[str, Mask]
    middle: Mask


@cache
def truth_of(scene: Scene) -> Truth:
    """What is truly there."""
    pixels = np.array(render(scene.svg(sharp=True), SCALE * SIDE).convert("RGB"))
    marked = np.array(render(scene.svg(sharp=True, middles=True), SCALE * SIDE).convert("RGB"))
    ink = {c: np.all(pixels == np.array(from_hex(c)), axis=2) for c in scene.inks}
    return Truth(ink, np.all(marked == (255, 1, 254), axis=2))


@dataclass(frozen=True)
class Told:
    """One scene as it came out: ink colours found, of how many; pieces of ink, true and ours; length of middle line, and
    how much of it is missing or of a wrong width; letters there, of how many, and counters; colours that stand for nothing.
    """

    name: str
    inks: tuple[int, int] = (0, 0)
    pieces: tuple[int, int] = (0, 0)
    length: int = 0
    gaps: int = 0
    off: int = 0
    letters: tuple[int, int] = (0, 0)
    false: int = 0
    whole: bool = True
    image: npt.NDArray[np.uint8] = field(default_factory=lambda: np.zeros((0, 0, 3), np.uint8), repr=False)


def painted(data: bytes, count: int | None = None) -> tuple[npt.NDArray[np.uint8], tuple[Rgb, ...]]:
    """A picture's films laid on one another at three times the size, and its colours."""
    tidy = tidied(decode_picture(data))
    palette = find_colours(tidy, count=count)
    map_ = planar_map_of(tidy, palette, WIDTH_MM, TraceOptions())
    image = np.array(render(crisp(our_svg(map_, palette)), SCALE * SIDE).convert("RGB"))
    return image, palette.colours


def judge(scene: Scene, quality: int | None, subsampling: int = 2, *, keep: bool = False) -> Told:
    """Separates a scene with no number of colours asked for, and holds it against the truth."""
    image, colours = painted(saved(scene, quality, subsampling))
    truth = truth_of(scene)
    table = np.array([from_hex(c) for c in scene.colours])
    false = 0
    for rgb in colours:
        false += float(delta_e(table, np.array(rgb)).min()) > _SAME
    found = 0
    ours_all, true_all = np.zeros(image.shape[:2], bool), np.zeros(image.shape[:2], bool)
    for ink, mask in truth.ink.items():
        apart = delta_e(np.array(colours), np.array(from_hex(ink)))
        found += float(apart.min()) <= _SAME
        # Each colour found stands for the true one it is nearest to.
        for rgb in colours:
            nearest = scene.colours[int(np.argmin(delta_e(table, np.array(rgb))))]
            if nearest == ink:
                ours_all |= np.all(image == np.array(rgb), axis=2)
        true_all |= mask
    letters, whole_letters = _letters(scene, image, colours, table)
    pieces = (_pieces(true_all), _pieces(ours_all))
    gaps, off, length = _along(true_all, ours_all, truth.middle)
    whole = pieces[1] <= pieces[0] and off <= 0.01 * max(1, length)
    return Told(
        scene.name,
        (found, len(truth.ink)),
        pieces,
        length,
        gaps,
        off,
        (whole_letters, letters),
        false,
        whole,
        image if keep else np.zeros((0, 0, 3), np.uint8),
    )


def _pieces(mask: Mask) -> int:
    count, _, stats, _ = cv2.connectedComponentsWithStats(mask.astype(np.uint8), connectivity=8)
    return int(np.count_nonzero(stats[1:, cv2.CC_STAT_AREA] >= 4 * SCALE * SCALE)) if count > 1 else 0


def _along(true: Mask, ours: Mask, middle: Mask) -> tuple[int, int, int]:
    """Along the middle line (in px of the picture): places where nothing is within 1 px, and where the width is off by a quarter."""
    if not middle.any():
        return 0, 0, 0
    there = cv2.distanceTransform(true.astype(np.uint8), cv2.DIST_L2, 5)
    found = cv2.distanceTransform(ours.astype(np.uint8), cv2.DIST_L2, 5)
    size = 2 * SCALE + 1
    near = cv2.dilate(found, np.ones((size, size), np.uint8))
    deep = cv2.dilate(there, np.ones((size, size), np.uint8))
    ratio = near[middle] / np.maximum(deep[middle], 0.5)
    return int(np.count_nonzero(ratio == 0)), int(np.count_nonzero(abs(ratio - 1) > _WIDTH_OFF)), int(middle.sum())


def _letters(
    scene: Scene, image: npt.NDArray[np.uint8], colours: tuple[Rgb, ...], table: npt.NDArray[np.int64]
) -> tuple[int, int]:
    """How many letters there are, and how many of them are there with their counters."""
    many = right = 0
    meant = np.array([int(np.argmin(delta_e(table, np.array(c)))) for c in colours])
    codes = image[..., 0].astype(np.int32) << 16 | image[..., 1].astype(np.int32) << 8 | image[..., 2]
    labels = np.full(codes.shape, -1, np.int16)
    for rgb, k in zip(colours, meant.tolist(), strict=True):
        labels[codes == (rgb[0] << 16 | rgb[1] << 8 | rgb[2])] = k
    for s in scene.strokes:
        if not s.letter or s.fill is None:
            continue
        x0, y0 = math.floor(s.box[0]) - 2, math.floor(s.box[1]) - 2
        x1, y1 = math.ceil(s.box[2]) + 2, math.ceil(s.box[3]) + 2
        svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{x0} {y0} {x1 - x0} {y1 - y0}" shape-rendering="crispEdges"><path d="{s.path}"/></svg>'
        mask = np.array(render(svg, SCALE * (x1 - x0)).convert("RGBA"))[..., 3] > 0
        box = (slice(SCALE * y0, SCALE * y1), slice(SCALE * x0, SCALE * x1))
        ours = (labels[box] == scene.colours.index(s.fill)) & (cv2.dilate(mask.astype(np.uint8), np.ones((7, 7))) > 0)
        same = np.count_nonzero(ours & mask) / mask.sum()
        many += 1
        right += same > 0.6 and _holes(ours) >= _holes(mask)
    return many, right


def _holes(mask: Mask) -> int:
    count, _, stats, _ = cv2.connectedComponentsWithStats(
        np.pad(~mask, 1, constant_values=True).astype(np.uint8), connectivity=4
    )
    return sum(int(stats[k, cv2.CC_STAT_AREA]) >= 4 for k in range(1, count)) - 1


def main() -> None:
    """Prints what came of outlines, lines and words at several qualities."""
    ask = argparse.ArgumentParser()
    ask.add_argument("--many", type=int, default=24)
    ask.add_argument("--quality", type=int, action="append")
    ask.add_argument("--subsampling", type=int, default=2)
    ask.add_argument("--show", type=Path)
    ask.add_argument("--verbose", action="store_true")
    asked = ask.parse_args()
    qualities = [None if q == 100 else q for q in (asked.quality or [100, 50, 62, 75, 85, 95])]
    print(
        "| kind | saved | ink colours found | outlines whole | pieces, ours / true | gaps, off width per 1000 px | letters whole | false colours |"
    )
    print("|---" * 8 + "|")
    with ProcessPoolExecutor(2, initializer=warm) as pool:
        for quality in qualities:
            for make in (cartoon, lines, words):
                chosen = [make(k) for k in range(asked.many)]
                told = list(
                    pool.map(partial(judge, quality=quality, subsampling=asked.subsampling, keep=bool(asked.show)), chosen)
                )
                total = max(1, sum(t.length for t in told)) / SCALE / 1000
                print(
                    f"| {make.__name__} | {'JPEG ' + str(quality) if quality else 'PNG'} | {sum(t.inks[0] for t in told)} of {sum(t.inks[1] for t in told)} "
                    f"| {np.mean([t.whole for t in told]):.0%} | {sum(t.pieces[1] for t in told)} / {sum(t.pieces[0] for t in told)} "
                    f"| {sum(t.gaps for t in told) / SCALE / total:.1f}, {sum(t.off for t in told) / SCALE / total:.1f} "
                    f"| {sum(t.letters[0] for t in told)} of {sum(t.letters[1] for t in told)} | {sum(t.false for t in told)} |",
                    flush=True,
                )
                if asked.verbose:
                    for t in told:
                        print(
                            f"    {t.name:12} inks {t.inks} pieces {t.pieces} gaps {t.gaps} off {t.off} of {t.length} letters {t.letters} false {t.false}"
                        )
                if asked.show:
                    asked.show.mkdir(exist_ok=True)
                    for scene, t in zip(chosen, told, strict=True):
                        Image.fromarray(t.image).resize((SIDE * 2, SIDE * 2), Image.Resampling.LANCZOS).save(
                            asked.show / f"{scene.name}-{quality}.png"
                        )


if __name__ == "__main__":
    main()
