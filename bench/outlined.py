"""How well outlines, thin lines and small words come out of pictures as they are saved, against the drawings themselves.

python -m bench.outlined [--many N] [--quality N ...] [--subsampling 0] [--show FOLDER]
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
from PIL import Image

from bench.measure import WIDTH_MM, crisp, our_svg, render
from bench.scenes import SIDE, Scene, cartoon, lines, words
from gladstack.core.base.colour import Rgb, delta_e, from_hex
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.separate import TraceOptions, find_colours, planar_map_of
from gladstack.core.picture.tidy import tidied
from gladstack.warm import warm

SCALE = 3
_SAME = 12.0
_WIDTH_OFF = 0.25
_QUALITIES = (100, 50, 62, 75, 85, 95)
_HEAD = (
    "| kind | saved | ink colours found | outlines whole | pieces, ours / true | gaps, off width per 1000 px "
    "| letters whole | false colours |"
)

Mask = npt.NDArray[np.bool_]


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
    gaps, off, length = _along(true_all, ours_all, truth.middle, max(s.width for s in scene.strokes))
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


def _along(true: Mask, ours: Mask, middle: Mask, width: float) -> tuple[int, int, int]:
    """Along the middle line: places where nothing is within 1 px, those where the width is off by a quarter, and its length.

    Where lines of `width` px meet there is no width to speak of, so these places are left out.
    """
    there = cv2.distanceTransform(true.astype(np.uint8), cv2.DIST_L2, 5)
    met = (there > SCALE * (0.56 * width + 0.3)).astype(np.uint8)
    reach = 2 * round(SCALE * (width + 2)) + 1
    middle = middle & (cv2.dilate(met, np.ones((reach, reach), np.uint8)) == 0)
    if not middle.any():
        return 0, 0, 0
    found = cv2.distanceTransform(ours.astype(np.uint8), cv2.DIST_L2, 5)
    near = np.ones((2 * SCALE + 1, 2 * SCALE + 1), np.uint8)
    ratio = cv2.dilate(found, near)[middle] / np.maximum(cv2.dilate(there, near)[middle], 0.5)
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
        head = f'viewBox="{x0} {y0} {x1 - x0} {y1 - y0}" shape-rendering="crispEdges"'
        svg = f'<svg xmlns="http://www.w3.org/2000/svg" {head}><path d="{s.path}"/></svg>'
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


def row(kind: str, quality: int | None, told: list[Told]) -> str:
    """One row of the table."""
    total = max(1, sum(t.length for t in told)) / SCALE / 1000
    cells = [
        kind,
        f"JPEG {quality}" if quality else "PNG",
        f"{sum(t.inks[0] for t in told)} of {sum(t.inks[1] for t in told)}",
        f"{np.mean([t.whole for t in told]):.0%}",
        f"{sum(t.pieces[1] for t in told)} / {sum(t.pieces[0] for t in told)}",
        f"{sum(t.gaps for t in told) / SCALE / total:.1f}, {sum(t.off for t in told) / SCALE / total:.1f}",
        f"{sum(t.letters[0] for t in told)} of {sum(t.letters[1] for t in told)}",
        f"{sum(t.false for t in told)}",
    ]
    return f"| {' | '.join(cells)} |"


def main() -> None:
    """Prints what came of outlines, lines and words at several qualities."""
    ask = argparse.ArgumentParser()
    ask.add_argument("--many", type=int, default=24)
    ask.add_argument("--quality", type=int, action="append")
    ask.add_argument("--subsampling", type=int, default=2)
    ask.add_argument("--show", type=Path)
    ask.add_argument("--verbose", action="store_true")
    asked = ask.parse_args()
    print(_HEAD + "\n" + "|---" * 8 + "|")
    with ProcessPoolExecutor(2, initializer=warm) as pool:
        for quality in (None if q == 100 else q for q in (asked.quality or _QUALITIES)):
            for make in (cartoon, lines, words):
                chosen = [make(k) for k in range(asked.many)]
                one = partial(judge, quality=quality, subsampling=asked.subsampling, keep=bool(asked.show))
                told = list(pool.map(one, chosen))
                print(row(make.__name__, quality, told), flush=True)
                for scene, t in zip(chosen, told, strict=True):
                    if asked.verbose:
                        print(f"    {t.name:12} inks {t.inks} pieces {t.pieces} gaps {t.gaps} off {t.off} of {t.length} "
                              f"letters {t.letters} false {t.false}")  # fmt: skip
                    if asked.show:
                        asked.show.mkdir(exist_ok=True)
                        Image.fromarray(t.image).save(asked.show / f"{scene.name}-{quality}.png")


if __name__ == "__main__":
    main()
