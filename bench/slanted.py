"""Photographs of prints taken aslant, set straight by their corners: films against the drawing's colours, and wrong area.

python -m bench.slanted [--many N] [--show FOLDER]
"""

from __future__ import annotations

import argparse
from concurrent.futures import ProcessPoolExecutor
from functools import partial
from pathlib import Path

import cv2
import numpy as np
from PIL import Image

from bench.clip_art import Drawing, clip_art
from bench.found import truth_of
from bench.kinds import Pixels, _bytes, _grain, _light
from bench.measure import crisp, our_svg, render
from gladstack.core.picture.decode import Picture, decode_picture
from gladstack.core.picture.separate import TraceOptions, find_colours, give_labels, separate
from gladstack.core.picture.straight import Corners, straightened
from gladstack.core.picture.tidy import tidied
from gladstack.warm import warm
from tests.pictures import encode

SIDE_PX = 760
_WIDTH_MM = 120.0


def slanted(seed: int) -> tuple[Drawing, Picture, Corners]:
    """A printed drawing on a table, photographed from aside in falling light: the drawing, the photograph, its corners."""
    rng = np.random.default_rng(5000 + seed)
    drawing = clip_art()[(5 * seed) % 72]
    base = 28 + np.array(render(drawing.svg(), SIDE_PX).convert("RGB")).astype(float) * 0.84
    flat = np.array([[0, 0], [SIDE_PX, 0], [SIDE_PX, SIDE_PX], [0, SIDE_PX]], np.float32)
    turns = np.radians(rng.uniform((-28, -28, -8), (28, 28, 8)))
    square = np.array([(-1, -1, 0), (1, -1, 0), (1, 1, 0), (-1, 1, 0)], float) @ cv2.Rodrigues(turns)[0].T
    at = square[:, :2] / (square[:, 2] + 3.4)[:, None]
    seen = ((at / np.abs(at).max() * 0.47 + 0.5) * SIDE_PX).astype(np.float32)
    table = tuple(float(v) for v in rng.uniform(60, 150, 3))
    photo = cv2.warpPerspective(base, cv2.getPerspectiveTransform(flat, seen), (SIDE_PX, SIDE_PX), borderValue=table)
    photo = photo * _light(rng, SIDE_PX, SIDE_PX, rng.uniform(0.1, 0.35)) * rng.uniform((0.95, 0.9, 0.82), (1.0, 0.98, 0.96))
    photo = cv2.GaussianBlur(photo, (0, 0), rng.uniform(0.6, 1.2)) + _grain(rng, photo.shape, rng.uniform(1.5, 4.0), 0.8)
    data = encode(Image.fromarray(_bytes(photo)), "JPEG", quality=int(rng.integers(75, 95)))
    corners = tuple((float(x) / SIDE_PX, float(y) / SIDE_PX) for x, y in seen)
    return drawing, decode_picture(data), corners


def measured(seed: int, show: Path | None = None) -> tuple[int, float]:
    """How many films more or fewer than the drawing has colours, unasked; and wrong area in % at the right number.

    Print and light shift every colour: each film stands for the colour that it covers most of.
    """
    drawing, photo, corners = slanted(seed)
    truth = truth_of(drawing)
    tidy = tidied(straightened(photo, corners))
    found = find_colours(tidy)
    known = find_colours(tidy, len(truth.needed))
    traced = separate(tidy, known, give_labels(tidy, known), (), _WIDTH_MM, TraceOptions())
    size = truth.labels.shape
    straight = tidy.picture
    drawn = np.array(render(crisp(our_svg(traced.map, known)), size[1]).convert("RGB"))
    # The page is as high as its picture; below it nothing is drawn.
    drawn = drawn[: round(size[1] * straight.height_px / straight.width_px)]
    if show:
        show.mkdir(exist_ok=True)
        Image.fromarray(photo.rgb).save(show / f"slanted-{seed}.png")
        Image.fromarray(drawn).save(show / f"slanted-{seed}-films.png")
    return len(found.colours) - len(truth.needed), 100 * _wrong(drawn, truth.labels)


def _wrong(drawn: Pixels, labels: np.ndarray) -> float:
    if drawn.shape[:2] != labels.shape:
        drawn = np.asarray(cv2.resize(drawn, labels.shape[::-1], interpolation=cv2.INTER_NEAREST), np.uint8)
    codes = drawn.astype(np.int64) @ np.array([1 << 16, 1 << 8, 1])
    films, own = np.unique(codes, return_inverse=True)
    met = np.zeros((len(films), int(labels.max()) + 1), np.int64)
    np.add.at(met, (own.ravel(), labels.ravel()), 1)
    return float(1 - met.max(axis=1).sum() / labels.size)


def main() -> None:
    """Prints how often the number of films is right within one, and how much is wrong at the right number."""
    ask = argparse.ArgumentParser()
    ask.add_argument("--many", type=int, default=24)
    ask.add_argument("--show", type=Path)
    asked = ask.parse_args()
    with ProcessPoolExecutor(2, initializer=warm) as pool:
        told = list(pool.map(partial(measured, show=asked.show), range(asked.many)))
    within = sum(abs(more) <= 1 for more, _ in told)
    wrong = np.array([share for _, share in told])
    print(
        "| photographs set straight | films within one | wrong % at the right number: mean / median / worst |\n|---|---|---|"
    )
    print(f"| {len(told)} | {within} | {wrong.mean():.2f} / {np.median(wrong):.2f} / {wrong.max():.2f} |")


if __name__ == "__main__":
    main()
