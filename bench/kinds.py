"""What a picture is taken for: flat drawings, marker drawings, halftone prints, photographs of prints, photographs.

python -m bench.kinds [--many N] [--show FOLDER]

Each kind is made up by script, in many hands: what a maker may bring, with its paper, light, dots and grain.
"""

from __future__ import annotations

import argparse
from collections import Counter
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from functools import partial
from pathlib import Path

import cv2
import numpy as np
import numpy.typing as npt
from PIL import Image

from bench.clip_art import clip_art
from bench.measure import render
from bench.scenes import cartoon, lines, words
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.kinds import kind_of
from gladstack.warm import warm
from tests.pictures import encode

Pixels = npt.NDArray[np.uint8]
Floats = npt.NDArray[np.float64]


def _bytes(values: Floats) -> Pixels:
    return np.asarray(np.clip(np.rint(values), 0, 255), np.uint8)


def _light(rng: np.random.Generator, h: int, w: int, depth: float) -> Floats:
    """Uneven light: a slope and a soft spot."""
    y, x = np.mgrid[0:h, 0:w] / max(h, w)
    turn = rng.uniform(0, 2 * np.pi)
    slope = (x - 0.5) * np.cos(turn) + (y - 0.5) * np.sin(turn)
    spot = np.exp(-((x - rng.uniform(0.2, 0.8)) ** 2 + (y - rng.uniform(0.2, 0.8)) ** 2) / 0.3)
    return np.asarray((1 - depth * (0.5 - slope)) * (1 - 0.4 * depth * (1 - spot)))[..., None]


def _grain(rng: np.random.Generator, shape: tuple[int, ...], levels: float, soft: float = 0.7) -> Floats:
    noise = cv2.GaussianBlur(rng.normal(0, 1, shape), (0, 0), soft).reshape(shape)
    return np.asarray(noise / max(1e-6, noise.std()) * levels)


def flat(seed: int) -> Pixels:
    """Clip art, cartoons, lines and words, as PNG or JPEG of several qualities."""
    rng = np.random.default_rng(seed)
    made = (clip_art()[seed % 72].svg(), cartoon(seed).svg(), words(seed).svg(), lines(seed).svg())[seed % 4]
    image = render(made, int(rng.integers(300, 700))).convert("RGB")
    how = int(rng.integers(0, 4))
    data = encode(image) if how == 0 else encode(image, "JPEG", quality=(60, 75, 90)[how - 1])
    return decode_picture(data).rgb


def marker(seed: int) -> Pixels:
    """Strokes of a marker on toned paper: streaky, bleeding at the ends, unevenly lit."""
    rng = np.random.default_rng(1000 + seed)
    side = int(rng.integers(500, 900))
    ink = np.ones((side, side), np.float64)
    width = rng.uniform(0.009, 0.018) * side
    for _ in range(int(rng.integers(6, 14))):
        points = rng.uniform(0.1, 0.9, (4, 2)) * side
        t = np.linspace(0, 1, 400)[:, None]
        path = (
            (1 - t) ** 3 * points[0] + 3 * t * (1 - t) ** 2 * points[1] + 3 * t**2 * (1 - t) * points[2] + t**3 * points[3]
        )
        stroke = np.zeros((side, side), np.uint8)
        cv2.polylines(stroke, [np.rint(path * 8).astype(np.int32)], False, 255, max(1, round(width)), cv2.LINE_AA, 3)
        for end in (path[0], path[-1]):
            cv2.circle(
                stroke,
                (round(end[0] * 8), round(end[1] * 8)),
                round(width * rng.uniform(0.55, 0.8) * 8),
                255,
                -1,
                cv2.LINE_AA,
                3,
            )
        body = stroke / 255.0
        streaks = 1 - 0.28 * np.abs(_grain(rng, (side, side), 0.6, 2.0))
        ink *= 1 - body * np.clip(rng.uniform(0.8, 0.95) * streaks, 0, 1)
    bleed = cv2.GaussianBlur(ink, (0, 0), rng.uniform(0.8, 1.8))
    ink = np.minimum(ink, 0.35 * bleed + 0.65 * ink)
    colour = np.array(((20, 20, 24), (24, 28, 60), (52, 24, 20))[seed % 3], float)
    paper = np.array(((250, 248, 244), (238, 226, 200), (226, 216, 196), (232, 234, 236))[seed % 4], float)
    image = paper * ink[..., None] + colour * (1 - ink[..., None])
    image = image * _light(rng, side, side, rng.uniform(0, 0.3)) + _grain(rng, (side, side, 1), rng.uniform(1, 4))
    return _bytes(image)


def halftone(seed: int) -> Pixels:
    """A drawing printed in dots: black ones, or four inks at four angles."""
    rng = np.random.default_rng(2000 + seed)
    side = int(rng.integers(420, 700))
    base = np.array(render(clip_art()[(7 * seed) % 72].svg(), side).convert("RGB")).astype(float) / 255
    pitch = rng.uniform(4.5, 9.0)
    y, x = np.mgrid[0 : 2 * side, 0 : 2 * side] / 2.0

    def dots(tone: Floats, turn: float) -> Floats:
        u = (x * np.cos(turn) + y * np.sin(turn)) * 2 * np.pi / pitch
        v = (-x * np.sin(turn) + y * np.cos(turn)) * 2 * np.pi / pitch
        screen = 0.5 + 0.25 * (np.cos(u) + np.cos(v))
        big = cv2.resize(tone, (2 * side, 2 * side), interpolation=cv2.INTER_LINEAR)
        return np.asarray(cv2.resize((big > screen).astype(float), (side, side), interpolation=cv2.INTER_AREA))

    if seed % 2:
        tone = 1 - (0.299 * base[..., 0] + 0.587 * base[..., 1] + 0.114 * base[..., 2])
        image = np.repeat((255 * (1 - 0.92 * dots(tone, np.radians(45))))[..., None], 3, axis=2)
    else:
        image = np.full((side, side, 3), 255.0)
        for c, turn in enumerate((15, 75, 0)):
            image[..., c] *= 1 - 0.9 * dots(1 - base[..., c], np.radians(turn))
    return _bytes(image + _grain(rng, (side, side, 1), rng.uniform(0, 3)))


def print_photo(seed: int) -> Pixels:
    """A printed drawing, photographed: light that falls off, tinted, soft, with grain, as JPEG."""
    rng = np.random.default_rng(3000 + seed)
    side = int(rng.integers(500, 900))
    source = clip_art()[(5 * seed) % 72].svg() if seed % 3 else cartoon(seed).svg()
    base = np.array(render(source, side).convert("RGB")).astype(float)
    base = 28 + base * 0.84
    image = base * _light(rng, side, side, rng.uniform(0.2, 0.45)) * rng.uniform((0.95, 0.9, 0.82), (1.0, 0.98, 0.96))
    corners = np.array([[0, 0], [side, 0], [side, side], [0, side]], np.float32)
    moved = corners + rng.uniform(-0.04, 0.04, (4, 2)).astype(np.float32) * side
    image = cv2.warpPerspective(  # type: ignore[assignment]
        image, cv2.getPerspectiveTransform(corners, moved), (side, side), borderMode=cv2.BORDER_REPLICATE
    )
    image = cv2.GaussianBlur(image, (0, 0), rng.uniform(0.6, 1.3)) + _grain(rng, (side, side, 3), rng.uniform(1.5, 4.5), 0.8)
    return decode_picture(encode(Image.fromarray(_bytes(image)), "JPEG", quality=int(rng.integers(70, 95)))).rgb


def photograph(seed: int) -> Pixels:
    """A scene without plain colours: hills in haze, clouds, leaves, lit balls, with texture and grain."""
    rng = np.random.default_rng(4000 + seed)
    h, w = int(rng.integers(400, 700)), int(rng.integers(400, 700))
    image = np.zeros((h, w, 3))
    for scale, weight in ((90, 1.0), (35, 0.7), (12, 0.45), (4, 0.3)):
        for c in range(3):
            image[..., c] += _grain(rng, (h, w), weight, scale)
    image = 128 + 42 * image
    top = np.linspace(1, 0, h)[:, None, None]
    image = 0.65 * image + 0.35 * (top * rng.uniform(140, 255, 3) + (1 - top) * rng.uniform(10, 120, 3))
    y, x = np.mgrid[0:h, 0:w]
    for _ in range(int(rng.integers(0, 7))):
        cx, cy, r = rng.uniform(0, w), rng.uniform(0, h), rng.uniform(0.06, 0.22) * h
        away = np.hypot(x - cx, y - cy) / r
        lit = np.clip(1.1 - np.hypot(x - cx + 0.4 * r, y - cy + 0.4 * r) / (1.6 * r), 0.1, 1)[..., None]
        body = np.clip((1 - away) * r / 2, 0, 1)[..., None]
        image = image * (1 - body) + body * lit * rng.uniform(60, 255, 3)
    image = image + _grain(rng, (h, w, 3), rng.uniform(1, 6))
    return decode_picture(encode(Image.fromarray(_bytes(image)), "JPEG", quality=int(rng.integers(70, 95)))).rgb


KINDS: dict[str, Callable[[int], Pixels]] = {
    "flat": flat, "line-art": marker, "halftone": halftone, "print": print_photo, "photograph": photograph,
}  # fmt: skip


def _told(kind: str, seed: int) -> str:
    return kind_of(KINDS[kind](seed)).kind


def main() -> None:
    """Prints, for each kind, what its pictures were taken for."""
    ask = argparse.ArgumentParser()
    ask.add_argument("--many", type=int, default=40)
    ask.add_argument("--show", type=Path)
    asked = ask.parse_args()
    with ProcessPoolExecutor(2, initializer=warm) as pool:
        for kind in KINDS:
            told = list(pool.map(partial(_told, kind), range(asked.many), chunksize=4))
            right = sum(one == kind for one in told)
            wrong = [f"{k}: {one}" for k, one in enumerate(told) if one != kind]
            print(f"| {kind} | {right} of {len(told)} | {dict(Counter(told))} | {', '.join(wrong[:8])} |", flush=True)
            if asked.show:
                asked.show.mkdir(exist_ok=True)
                for seed in range(4):
                    Image.fromarray(KINDS[kind](seed)).save(asked.show / f"{kind}-{seed}.png")


if __name__ == "__main__":
    main()
