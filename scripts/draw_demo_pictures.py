"""Draws the demo pictures: the open evening of a small hill-top observatory.

Run `.venv/bin/python scripts/draw_demo_pictures.py` to draw them again; the results are kept in gladstack/demo/pictures.
"""

from __future__ import annotations

import io
import math
import random
from pathlib import Path

import numpy as np
import resvg_py
from fontTools.pens.svgPathPen import SVGPathPen
from fontTools.pens.transformPen import TransformPen
from fontTools.ttLib import TTFont
from PIL import Image

from gladstack.recipe.model.fonts import shipped_font

FOLDER = Path(__file__).parent.parent / "gladstack" / "demo" / "pictures"
EXAMPLES = FOLDER.parent / "examples"


def star(x: float, y: float, outer: float, inner: float, rays: int, fill: str, turn: float = 0.0) -> str:
    points = []
    for k in range(2 * rays):
        r, a = (inner if k % 2 else outer), math.radians(turn) + math.pi * k / rays
        points.append(f"{x + r * math.sin(a):.3f},{y - r * math.cos(a):.3f}")
    return f'<polygon points="{" ".join(points)}" fill="{fill}"/>'


def night_owl() -> str:
    """An owl with a telescope on a crescent moon; six colours on white."""
    navy, brown, tan, cream, gold, teal = "#1c2747", "#6f4528", "#c08a53", "#fbf1d9", "#f0b429", "#2f8f8b"
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 200"><rect width="200" height="200" fill="#ffffff"/>'
        f'<path d="M128 26A82 82 0 1 0 174 132A68 68 0 1 1 128 26Z" fill="{gold}"/>'
        f'<path d="M74 64C74 40 92 34 104 34C118 34 136 42 136 66L138 108C138 134 122 148 104 148C86 148 72 134 72 110Z" '
        f'fill="{brown}"/>'
        f'<path d="M73 66L68 30L96 42Z" fill="{brown}"/><path d="M135 66L141 30L113 42Z" fill="{brown}"/>'
        f'<path d="M86 104C86 92 96 88 105 88C114 88 124 92 124 104C124 126 116 140 105 140C94 140 86 126 86 104Z" fill="{tan}"/>'
        f'<circle cx="90" cy="66" r="14.5" fill="{cream}"/><circle cx="120" cy="66" r="14.5" fill="{cream}"/>'
        f'<circle cx="91" cy="66" r="6.5" fill="{navy}"/><circle cx="119" cy="66" r="6.5" fill="{navy}"/>'
        f'<path d="M99 76L111 76L105 90Z" fill="{gold}"/>'
        f'<path d="M70 92C58 104 58 128 72 138C80 126 80 104 70 92Z" fill="{navy}"/>'
        f'<path d="M139 92C151 104 151 128 137 138C130 126 130 104 139 92Z" fill="{navy}"/>'
        f'<path d="M118 118L176 76L184 87L126 129Z" fill="{teal}"/><path d="M172 74L186 64L196 78L182 88Z" fill="{navy}"/>'
        f'<path d="M112 122L120 116L128 127L120 133Z" fill="{navy}"/>'
        f'<path d="M96 146L92 158M104 148L104 160M112 147L116 158" stroke="{gold}" stroke-width="4" fill="none"/>'
        + star(158, 36, 12, 4.4, 5, gold, 10) + star(182, 118, 7, 2.2, 4, teal) + star(150, 168, 8, 2.6, 4, gold)
        + "</svg>"
    )  # fmt: skip


def hill_top() -> str:
    """The dome on its hill at dusk, for a window; transparent around, five colours."""
    rng = random.Random(4)
    night, hill, dome, light, rust = "#22305c", "#2c5a46", "#cfd6dd", "#f6cf65", "#b4532f"
    dots = "".join(
        f'<circle cx="{100 + 78 * r * math.cos(a):.2f}" cy="{92 - 70 * r * math.sin(a):.2f}" r="{0.9 + rng.random() * 1.1:.2f}" '
        f'fill="{light}"/>'
        for r, a in ((0.35 + 0.6 * rng.random(), math.pi * (0.08 + 0.84 * rng.random())) for _ in range(16))
    )
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 200">'
        '<clipPath id="round"><circle cx="100" cy="100" r="92"/></clipPath><g clip-path="url(#round)">'
        f'<rect width="200" height="200" fill="{night}"/>{dots}'
        f'<path d="M0 124C40 108 70 118 100 116C134 114 160 104 200 124L200 200L0 200Z" fill="{hill}"/>'
        f'<path d="M72 118L72 96L128 96L128 118C110 122 90 122 72 118Z" fill="{dome}"/>'
        f'<path d="M68 96A32 32 0 0 1 132 96Z" fill="{dome}"/>'
        f'<path d="M98 96L109.5 60L121 62L111 96Z" fill="{night}"/><path d="M103 92L120 50L127 53L110 94Z" fill="{rust}"/>'
        f'<path d="M94 119L94 104A6 6 0 0 1 106 104L106 119Z" fill="{rust}"/>'
        f'<path d="M66 96L134 96L134 99.5L66 99.5Z" fill="{rust}"/>'
        f'<path d="M0 150C50 138 80 156 104 150C134 142 160 140 200 146L200 172C160 176 130 162 100 166C70 170 40 172 0 166Z" '
        f'fill="{light}"/>'
        + star(54, 56, 9, 2.8, 4, light) + star(150, 62, 6, 2, 4, light)
        + "</g></svg>"
    )  # fmt: skip


def wanderers() -> str:
    """A parade of made-up planets for a mug; twelve colours and a cream ground."""
    ground = "#f7f1e3"
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 320 160"><rect width="320" height="160" fill="{ground}"/>'
        '<path d="M0 124C60 108 100 134 160 122C220 110 260 132 320 116L320 160L0 160Z" fill="#263a5e"/>'
        '<path d="M0 140C70 128 120 150 180 138C230 130 270 148 320 136L320 160L0 160Z" fill="#16233f"/>'
        '<circle cx="42" cy="56" r="27" fill="#d9643a"/><path d="M17 46C30 52 52 52 67 46A27 27 0 0 1 68.6 60C50 66 30 64 15.4 59A27 '
        '27 0 0 1 17 46Z" fill="#f0a35e"/><circle cx="50" cy="72" r="4.5" fill="#8f3a24"/>'
        '<circle cx="112" cy="72" r="17" fill="#3f9c93"/><path d="M97 66C104 60 112 68 120 62C124 60 126 62 127 66C122 74 108 72 '
        '101 78C97 78 95 72 97 66Z" fill="#a9d7c4"/>'
        '<circle cx="184" cy="52" r="31" fill="#e3b341"/><path d="M154 60C170 68 198 68 214 60A31 31 0 0 1 208 71C194 76 174 76 160 '
        '71A31 31 0 0 1 154 60Z" fill="#c4892a"/><path d="M140 66C150 82 210 74 230 40C226 34 220 32 214 33L216 38C219 38 221 39 222 '
        '42C206 64 160 74 146 63Z" fill="#7b4b94"/>'
        '<circle cx="258" cy="70" r="13" fill="#6d83c4"/><circle cx="298" cy="52" r="15" fill="#b9c4d6"/>'
        '<circle cx="292" cy="48" r="3.4" fill="#8f3a24"/><circle cx="302" cy="58" r="2.6" fill="#8f3a24"/>'
        + star(82, 26, 7, 2.2, 4, "#7b4b94") + star(242, 24, 8, 2.6, 4, "#d9643a") + star(274, 108, 5, 1.8, 4, "#e3b341")
        + star(96, 116, 5, 1.8, 4, "#3f9c93") + "</svg>"
    )  # fmt: skip


def lettered(text: str, font: str, caps: float, x: float, y: float, fill: str) -> str:
    """A line of capitals set from a font that ships with the app, its middle at x, its baseline at y."""
    face = TTFont(io.BytesIO(shipped_font(font)))
    glyphs, cmap = face.getGlyphSet(), face.getBestCmap()
    factor = caps / (face["OS/2"].sCapHeight or 0.7 * face["head"].unitsPerEm)
    names = [cmap[ord(ch)] for ch in text]
    x -= sum(glyphs[name].width for name in names) * factor / 2
    out = []
    for name in names:
        pen = SVGPathPen(glyphs)
        glyphs[name].draw(TransformPen(pen, (factor, 0, 0, -factor, x, y)))
        out.append(f'<path d="{pen.getCommands()}" fill="{fill}"/>')
        x += glyphs[name].width * factor
    return "".join(out)


def watch_badge() -> str:
    """A bear at a telescope under the words of the evening: every part with one dark outline."""
    ink, fur, snout, sky, moon, tube, grass = "#2b2230", "#a9714b", "#ecd3ad", "#7fb3d5", "#f4d35e", "#c8553d", "#6a994e"
    line = f'stroke="{ink}" stroke-width="5" stroke-linejoin="round" stroke-linecap="round"'
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 640 640"><rect width="640" height="640" fill="#ffffff"/>'
        f'<circle cx="320" cy="300" r="250" fill="{sky}" {line}/><circle cx="450" cy="160" r="52" fill="{moon}" {line}/>'
        f'<path d="M92 400C180 350 300 390 380 372C460 356 520 372 548 400A250 250 0 0 1 92 400Z" fill="{grass}" {line}/>'
        f'<path d="M330 262L520 190L536 232L346 304Z" fill="{tube}" {line}/><path d="M512 180L544 168L566 226L534 238Z" '
        f'fill="{ink}" {line}/><path d="M420 290L390 430M432 288L470 430" fill="none" {line}/>'
        f'<ellipse cx="236" cy="400" rx="92" ry="86" fill="{fur}" {line}/><circle cx="166" cy="206" r="34" fill="{fur}" {line}/>'
        f'<circle cx="306" cy="206" r="34" fill="{fur}" {line}/><circle cx="166" cy="206" r="16" fill="{snout}" {line}/>'
        f'<circle cx="306" cy="206" r="16" fill="{snout}" {line}/><ellipse cx="236" cy="272" rx="100" ry="88" fill="{fur}" '
        f'{line}/><ellipse cx="236" cy="310" rx="46" ry="36" fill="{snout}" {line}/><ellipse cx="236" cy="292" rx="16" ry="11" '
        f'fill="{ink}"/><path d="M236 304L236 320M212 322C220 336 252 336 260 322" fill="none" {line}/>'
        f'<circle cx="196" cy="250" r="11" fill="{ink}"/><circle cx="276" cy="250" r="11" fill="{ink}"/>'
        f'<path d="M300 372C330 350 340 330 352 300" fill="none" stroke="{ink}" stroke-width="34" stroke-linecap="round"/>'
        f'<path d="M300 372C330 350 340 330 352 300" fill="none" stroke="{fur}" stroke-width="24" stroke-linecap="round"/>'
        f'<path d="M60 486H580L556 530L580 574H60L84 530Z" fill="#ffffff" {line}/>'
        + lettered("OPEN EVENING", "inter-black", 34, 320, 534, ink)
        + lettered("EVERY CLEAR FRIDAY ON THE HILL", "inter-black", 13, 320, 560, tube)
        + "</svg>"
    )  # fmt: skip


def colouring_page() -> str:
    """The dome on its hill as a colouring page: black lines on paper."""
    stars = "".join(
        star(x, y, r, 0.42 * r, 5, "#fff", t).replace("/>", ' stroke="#000"/>')
        for x, y, r, t in ((18, 20, 6, 8), (80, 18, 7, -12), (66, 34, 4, 20))
    )
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><rect width="100" height="100" fill="#fff"/>'
        '<g fill="none" stroke="#000" stroke-width="1.3" stroke-linejoin="round">'
        '<rect x="4" y="4" width="92" height="92" rx="6"/><path d="M4 74Q30 52 50 60T96 66"/><path d="M4 86Q40 70 96 82"/>'
        f'<circle cx="34" cy="28" r="9"/>{stars}'
        '<path d="M38 62V50H64V66M36 50a15 15 0 0 1 30 0zM49 36L52 35 60 50H54z"/><rect x="47" y="54" width="7" height="7"/>'
        "</g></svg>"
    )


def broken_lines() -> str:
    """Moon, planet and star drawn with a pen that ran dry: none of their outlines closes."""

    def arc(x: float, y: float, r: float, gap_from: float, gap_to: float) -> str:
        ends = [(x + r * math.cos(math.radians(a)), y + r * math.sin(math.radians(a))) for a in (gap_to, gap_from)]
        return f"M{ends[0][0]:.2f} {ends[0][1]:.2f}A{r} {r} 0 1 1 {ends[1][0]:.2f} {ends[1][1]:.2f}"

    rays = [(76 + r * math.sin(k * math.pi / 5), 26 - r * math.cos(k * math.pi / 5)) for k, r in enumerate([15, 6.3] * 5)]
    (x, y), (u, v) = rays[:2]
    begun, ended = ((x + t * (u - x), y + t * (v - y)) for t in (0.64, 0.38))
    corners = "L".join(f"{x:.2f} {y:.2f}" for x, y in [begun, *rays[1:], rays[0], ended])
    body = (
        f'<path d="{arc(38, 44, 28, -75, -45)}"/><circle cx="30" cy="36" r="5"/><circle cx="46" cy="54" r="7"/>'
        f'<path d="{arc(76, 74, 13, 150, 185)}"/><path d="M{corners}"/>'
    )
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100" viewBox="0 0 100 100">'
        '<rect width="100" height="100" fill="#fff"/>'
        f'<g fill="none" stroke="#111" stroke-width="1.6" stroke-linejoin="round" stroke-linecap="butt">{body}</g></svg>'
    )


def jagged_dome() -> str:
    """The dome on its hill as a tracer of the worst kind leaves it: ten thousand nodes, every one a little off."""

    def ground(x: float) -> float:
        return 94 - 16 * math.exp(-(((x - 60) / 42) ** 2)) - 2 * math.sin(x / 7)

    trees: list[tuple[float, float]] = []
    for k, x in enumerate([*range(3, 26, 5), *range(96, 119, 5)]):
        height, half = 11 + 5 * ((7 * k) % 4) / 3, 2.3
        tiers = [(half * (1 - 0.24 * t), 0.3 + 0.235 * t) for t in range(3)]
        left = [(x - w, ground(x) - height * (h - 0.14)) for w, h in tiers]
        notch = [(x - 0.45 * w, ground(x) - height * (h + 0.03)) for w, h in tiers]
        side = [p for pair in zip(left, notch, strict=True) for p in pair]
        trees += [
            (x - 0.5, ground(x)),
            *side,
            (x, ground(x) - height),
            *((2 * x - a, b) for a, b in reversed(side)),
            (x + 0.5, ground(x)),
        ]
    wood_left, wood_right = [p for p in trees if p[0] < 60], [p for p in trees if p[0] > 60]
    dome = [(60 - 30 * math.cos(t * math.pi / 60), 66 - 34 * math.sin(t * math.pi / 60)) for t in range(61)]
    slit = [(66, 34.5), (69, 62), (75, 62), (72, 37)]
    course = [(0, 110), (0, ground(0)), *wood_left, (28, ground(28)), (28, 66), *dome, (92, 66), (92, ground(92)),
              *wood_right, (120, ground(120)), (120, 110), (0, 110)]  # fmt: skip
    rng = np.random.default_rng(11)

    def rough(corners: list[tuple[float, float]], count: int) -> str:
        xy = np.array(corners)
        at = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(xy, axis=0).T))])
        places = np.linspace(0, at[-1], count, endpoint=False)
        points = np.stack([np.interp(places, at, xy[:, 0]), np.interp(places, at, xy[:, 1])], axis=1)
        points += rng.uniform(-0.03, 0.03, points.shape)
        return "M" + "L".join(f"{x:.3f} {y:.3f}" for x, y in points) + "Z"

    body = rough(course, 9000) + rough([*slit, slit[0]], 1000)
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" width="120mm" height="112mm" viewBox="0 0 120 112">'
        f'<path fill="#1d2b53" fill-rule="evenodd" d="{body}"/></svg>\n'
    )


def scanned(image: Image.Image) -> Image.Image:
    """As a scanner would give it: grey ink, paper shaded to one side, a little noise."""
    rng = np.random.default_rng(3)
    height, width = image.height, image.width
    shade = np.linspace(0.74, 1.0, width)[None, :] * np.linspace(1.0, 0.9, height)[:, None]
    grey = (50 + np.asarray(image.convert("L"), float) * 0.78) * shade + rng.normal(0, 3, (height, width))
    return Image.fromarray(np.clip(grey, 0, 255).astype(np.uint8))


def draw(svg: str, width: int) -> Image.Image:
    return Image.open(io.BytesIO(bytes(resvg_py.svg_to_bytes(svg_string=svg, width=width))))


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    owl = draw(night_owl(), 1024).convert("RGB")
    owl.save(FOLDER / "night-owl.png", optimize=True)
    owl.save(FOLDER / "night-owl.jpg", quality=78)
    draw(watch_badge(), 640).convert("RGB").save(FOLDER / "watch-badge.jpg", quality=62)
    scanned(draw(colouring_page(), 1000)).save(EXAMPLES / "colouring-page.jpg", quality=72)
    draw(broken_lines(), 900).convert("L").save(EXAMPLES / "broken-lines.png", optimize=True)
    (EXAMPLES / "ten-thousand-nodes.svg").write_text(jagged_dome(), encoding="utf-8")
    draw(hill_top(), 900).save(FOLDER / "hill-top.png", optimize=True)
    draw(wanderers(), 1280).convert("RGB").save(FOLDER / "wanderers.png", optimize=True)


if __name__ == "__main__":
    main()
