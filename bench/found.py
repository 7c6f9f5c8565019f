"""Pictures as they are found: clip art saved, resized, blurred, shadowed, dithered, held against the drawing itself.

python -m bench.found [--every N] [--case NAME]
"""

from __future__ import annotations

import argparse
import io
import re
import time
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import cache, partial

import cv2
import numpy as np
import numpy.typing as npt
import vtracer
from PIL import Image

from bench.clip_art import clip_art
from bench.drawings import Drawing
from bench.measure import (
    WIDTH_MM,
    commands_in,
    commands_of,
    crisp,
    nearest_labels,
    our_svg,
    render,
    with_view_box,
)
from gladstack.core.base.colour import Rgb, delta_e, from_hex
from gladstack.core.base.errors import GladStackError
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.separate import TraceOptions, find_colours, planar_map_of
from gladstack.core.picture.tidy import tidied
from gladstack.warm import warm

WIDTH = 512
_LEAST_SHARE = 0.001
_APART = 2.0
_SAME = 12.0
"""A colour found stands for a true one no farther away (delta-E)."""
_RIM_PX = 1.0

Pixels = npt.NDArray[np.uint8]
Labels = npt.NDArray[np.int8]


def encoded(image: Image.Image, quality: int | None) -> bytes:
    """A picture as a JPEG of some quality, or as PNG."""
    return _jpeg(image, quality) if quality else _saved(image, "PNG")


def _jpeg(image: Image.Image, quality: int) -> bytes:
    return _saved(image, "JPEG", quality=quality)


def _saved(image: Image.Image, form: str, **how: int) -> bytes:
    out = io.BytesIO()
    image.save(out, form, **how)
    return out.getvalue()


def plain(drawing: Drawing) -> Image.Image:
    """The drawing as a picture."""
    return render(drawing.svg(), WIDTH).convert("RGB")


def _motif(drawing: Drawing) -> Pixels:
    """The drawing without its ground, RGBA."""
    return np.array(render(re.sub(r"<rect[^>]*/>", "", drawing.svg(), count=1), WIDTH).convert("RGBA"))


def _laid(motif: Pixels, ground: npt.NDArray[np.float64]) -> Image.Image:
    alpha = motif[..., 3:] / 255
    return Image.fromarray((motif[..., :3] * alpha + ground * (1 - alpha)).round().clip(0, 255).astype(np.uint8))


def shadowed(drawing: Drawing) -> Image.Image:
    """With a soft shadow, or a glow where the ground is dark; how soft, how far and how strong differs."""
    rng = np.random.default_rng(len(drawing.name) * 31 + sum(map(ord, drawing.name)))
    motif = _motif(drawing)
    ground = np.array(from_hex(drawing.background), float)
    dark = ground.mean() < 100
    shift = np.array([[1, 0, 0 if dark else rng.uniform(2, 9)], [0, 1, 0 if dark else rng.uniform(3, 12)]], np.float32)
    cast = cv2.GaussianBlur(cv2.warpAffine(motif[..., 3], shift, (WIDTH, WIDTH)), (0, 0), rng.uniform(4, 10)) / 255
    if dark:
        cast = np.minimum(1.0, cast * 1.6)
    toward = np.array((255, 250, 220) if dark else (0, 0, 0), float)
    share = (cast * rng.uniform(0.3, 0.6))[..., None]
    return _laid(motif, ground * (1 - share) + toward * share)


def on_grade(drawing: Drawing) -> Image.Image:
    """On a ground that goes from one colour to another, straight across or outwards."""
    rng = np.random.default_rng(sum(map(ord, drawing.name)))
    y, x = np.mgrid[0:WIDTH, 0:WIDTH] / WIDTH
    turn = rng.uniform(0, 2 * np.pi)
    along = (x - 0.5) * np.cos(turn) + (y - 0.5) * np.sin(turn) + 0.5
    t = np.clip(along if rng.random() < 0.6 else np.hypot(x - 0.5, y - 0.45) * 1.4, 0, 1)[..., None]
    a = rng.uniform(120, 255, 3)
    b = np.clip(a + rng.choice([-1, 1]) * rng.uniform(30, 110, 3), 20, 255)
    return _laid(_motif(drawing), a * (1 - t) + b * t)


def rimmed(drawing: Drawing, px: float = _RIM_PX) -> Image.Image:
    """With a thin white rim round the motif, on a coloured ground."""
    motif = _motif(drawing)
    wide = 4 * WIDTH
    alpha = cv2.resize(motif[..., 3], (wide, wide), interpolation=cv2.INTER_CUBIC)
    away = cv2.distanceTransform((alpha < 128).astype(np.uint8), cv2.DIST_L2, 5) / 4
    rim = cv2.resize((away <= px).astype(np.float32), (WIDTH, WIDTH), interpolation=cv2.INTER_AREA)[..., None]
    ground = np.array(from_hex(rim_ground(drawing)), float)
    return _laid(motif, ground * (1 - rim) + 255.0 * rim)


def rim_ground(drawing: Drawing) -> str:
    """A coloured ground, so that a white rim shows."""
    return "#7fa6a0" if drawing.background.startswith(("#f", "#e")) else drawing.background


def _web(image: Image.Image) -> bytes:
    return _saved(image.convert("P", palette=Image.Palette.WEB), "GIF")


def _fixed_256(image: Image.Image) -> bytes:
    palette = Image.new("P", (1, 1))
    levels = [(r, g, b) for r in range(8) for g in range(8) for b in range(4)]
    palette.putpalette([v for r, g, b in levels for v in (r * 255 // 7, g * 255 // 7, b * 255 // 3)])
    return _saved(image.quantize(palette=palette, dither=Image.Dither.FLOYDSTEINBERG), "GIF")


def _resized(image: Image.Image) -> Image.Image:
    size = round(0.6 * WIDTH)
    return image.resize((size, size), Image.Resampling.BILINEAR)


def _smaller(image: Image.Image, how: Image.Resampling) -> bytes:
    size = round(0.6 * WIDTH)
    return _saved(image.resize((size, size), how), "PNG")


def _larger(image: Image.Image, by: float) -> bytes:
    """Enlarged from so much smaller, or to so much larger a size."""
    small = image.resize((WIDTH // 3, WIDTH // 3), Image.Resampling.BOX) if by > 2 else image
    size = round(by * small.width)
    return _saved(small.resize((size, size), Image.Resampling.BICUBIC), "PNG")


def _sharpened(image: Image.Image) -> bytes:
    pixels = np.array(image).astype(float)
    soft = cv2.GaussianBlur(pixels, (0, 0), 1.2)
    return _saved(Image.fromarray(np.clip(pixels + 0.8 * (pixels - soft), 0, 255).astype(np.uint8)), "PNG")


def _twice(image: Image.Image) -> bytes:
    return _jpeg(Image.open(io.BytesIO(_jpeg(image, 50))), 50)


def _resaved(image: Image.Image) -> bytes:
    return _saved(Image.open(io.BytesIO(_jpeg(image, 70))).convert("RGB"), "PNG")


def _blurred(image: Image.Image) -> bytes:
    return _saved(Image.fromarray(cv2.GaussianBlur(np.array(image), (0, 0), 1.0)), "PNG")


CASES: dict[str, Callable[[Drawing], bytes]] = {
    "PNG": lambda d: _saved(plain(d), "PNG"),
    "JPEG 75": lambda d: _jpeg(plain(d), 75),
    "JPEG 60": lambda d: _jpeg(plain(d), 60),
    "rescale 0.6": lambda d: _saved(_resized(plain(d)), "PNG"),
    "bicubic 0.6": lambda d: _smaller(plain(d), Image.Resampling.BICUBIC),
    "Lanczos 0.6": lambda d: _smaller(plain(d), Image.Resampling.LANCZOS),
    "sharpened": lambda d: _sharpened(plain(d)),
    "enlarged 1.5x": lambda d: _larger(plain(d), 1.5),
    "enlarged 4x": lambda d: _larger(plain(d), 4),
    "WebP 75": lambda d: _saved(plain(d), "WEBP", quality=75),
    "blur 1 px": lambda d: _blurred(plain(d)),
    "WebP 50": lambda d: _saved(plain(d), "WEBP", quality=50),
    "JPEG 50 twice": lambda d: _twice(plain(d)),
    "JPEG as PNG": lambda d: _resaved(plain(d)),
    "soft shadow": lambda d: _saved(shadowed(d), "PNG"),
    "shadow JPEG 75": lambda d: _jpeg(shadowed(d), 75),
    "graded ground": lambda d: _saved(on_grade(d), "PNG"),
    "graded JPEG 75": lambda d: _jpeg(on_grade(d), 75),
    "dither 256": lambda d: _fixed_256(plain(d)),
    "dither web": lambda d: _web(plain(d)),
    "white rim": lambda d: _saved(rimmed(d), "PNG"),
}
"""How a drawing comes to a maker."""


@dataclass(frozen=True)
class Result:
    """One drawing in one case: per cent of its area that is wrong, path commands, whether its colours are all right."""

    name: str
    wrong: dict[str, float]
    right: dict[str, bool]
    commands: dict[str, int]
    counts: tuple[int, int]
    tracer_wrong: float
    tracer_commands: int
    seconds: float
    tracer_seconds: float


@dataclass(frozen=True)
class Truth:
    """A drawing's true colours as told apart, those that must be found, and its pixels at three times the size."""

    colours: tuple[str, ...]
    needed: tuple[str, ...]
    labels: Labels


@cache
def truth_of(drawing: Drawing) -> Truth:
    """Colours nearer than delta-E 2 are one; those that fill under a thousandth need not be found."""
    pixels = np.array(render(drawing.svg(crisp=True), 3 * WIDTH).convert("RGB"))
    colours: list[str] = []
    for colour in drawing.colours:
        if all(delta_e(np.array(from_hex(colour)), np.array(from_hex(c))) >= _APART for c in colours):
            colours.append(colour)
    labels = nearest_labels(pixels, tuple(colours))
    shares = np.bincount(labels.ravel(), minlength=len(colours)) / labels.size
    needed = tuple(c for c, share in zip(colours, shares, strict=True) if share >= _LEAST_SHARE)
    return Truth(tuple(colours), needed, labels)


def colours_right(found: tuple[Rgb, ...], truth: Truth, ground: str) -> bool:
    """Whether each colour found is another true one, and none that must be is missing; a ground may have any colour."""
    table = np.array([from_hex(c) for c in truth.colours])
    meant = []
    for rgb in found:
        apart = delta_e(table, np.array(rgb))
        if apart.min() > _SAME:
            return False
        meant.append(truth.colours[int(np.argmin(apart))])
    return len(set(meant)) == len(meant) and set(truth.needed) - {ground} <= set(meant)


def run_one(case: str, drawing: Drawing) -> Result:
    """Separates a drawing in one case, with its true number of colours and with none given, and traces it."""
    data = CASES[case](drawing)
    if case == "white rim":
        drawing = Drawing(drawing.name, rim_ground(drawing), drawing.shapes)
    truth = truth_of(drawing)
    picture = decode_picture(data)
    wrong, right, commands, seconds = {}, {}, {}, 0.0
    rim = 1 if case == "white rim" else 0
    counts = [len(truth.needed), 0]
    for way in ("known", "auto"):
        begin = time.perf_counter()
        try:
            tidy = tidied(picture)
            # A graded ground that was dropped is no colour any more.
            asked = len(truth.needed) + (rim and "#ffffff" not in truth.needed) - (tidy.picture.key is not None)
            palette = find_colours(tidy, count=asked if way == "known" else None)
            map_ = planar_map_of(tidy, palette, WIDTH_MM, TraceOptions())
        except GladStackError:
            wrong[way], right[way], commands[way] = 100.0, False, 0
            continue
        if way == "known":
            seconds = time.perf_counter() - begin
        else:
            counts[1] = len(palette.colours)
        colours = palette.colours
        image = np.array(render(crisp(our_svg(map_, palette)), truth.labels.shape[1]).convert("RGBA"))
        behind = tidy.picture.key or _background(image, colours)
        wrong[way] = _wrong(image, colours, behind, drawing, truth, rim=bool(rim))
        spare = rim and "#ffffff" not in truth.needed
        kept = tuple(c for c in colours if c != behind and not (spare and _is_white(c)))
        right[way] = colours_right(kept, truth, drawing.background)
        commands[way] = commands_of(map_)
    begin = time.perf_counter()
    pixels = Image.open(io.BytesIO(data)).convert("RGB")
    traced = vtracer.convert_raw_image_to_svg(_saved(pixels, "PNG"), img_format="png")
    spent = time.perf_counter() - begin
    image = np.array(render(crisp(with_view_box(traced, pixels.width)), truth.labels.shape[1]).convert("RGBA"))
    labels = nearest_labels(image[..., :3], truth.colours)
    return Result(
        drawing.name,
        wrong,
        right,
        commands,
        (counts[0], counts[1]),
        float((labels != truth.labels).mean() * 100),
        commands_in(traced),
        seconds,
        spent,
    )


def _is_white(colour: Rgb) -> bool:
    return float(delta_e(np.array((255, 255, 255)), np.array(colour))) < 1.5


def _background(image: Pixels, colours: tuple[Rgb, ...]) -> Rgb | None:
    """The colour that most of the rim of the picture has."""
    edge = np.concatenate([image[2, :, :3], image[-3, :, :3], image[:, 2, :3], image[:, -3, :3]])
    counts = [int(np.all(edge == np.array(c), axis=1).sum()) for c in colours]
    return colours[int(np.argmax(counts))] if counts else None


def _wrong(
    image: Pixels, colours: tuple[Rgb, ...], behind: Rgb | None, drawing: Drawing, truth: Truth, *, rim: bool
) -> float:
    table = np.array([from_hex(c) for c in truth.colours])
    ground = truth.colours.index(drawing.background)
    codes = image[..., 0].astype(np.int32) << 16 | image[..., 1].astype(np.int32) << 8 | image[..., 2]
    found = np.full(codes.shape, -1, np.int8)
    for rgb in colours:
        meant = ground if rgb == behind else int(np.argmin(delta_e(table, np.array(rgb))))
        found[codes == (rgb[0] << 16 | rgb[1] << 8 | rgb[2])] = meant
    wrong = found != truth.labels
    if rim:
        # The rim itself may be a film or go to either side.
        ours = truth.labels == ground
        away = cv2.distanceTransform(ours.astype(np.uint8), cv2.DIST_L2, 5)
        wrong &= ~(ours & (away <= 3 * (_RIM_PX + 0.5)))
    return float(wrong.mean() * 100)


HEAD = (
    "| case | known: wrong % mean / median / worst | colours right | not asked: wrong % | colours right | "
    "commands to clean PNG | the tracer's commands to ours | time to the tracer's | the tracer's wrong % |\n"
    + "|---" * 9
    + "|"
)


def show(case: str, results: list[Result], clean: dict[str, Result]) -> str:
    """One row of the table."""
    cells = [case]
    for way in ("known", "auto"):
        wrong = np.array([r.wrong[way] for r in results])
        cells.append(f"{wrong.mean():.2f} / {np.median(wrong):.2f} / {wrong.max():.1f}")
        cells.append(f"{np.mean([r.right[way] for r in results]):.0%}")
    ours = sum(r.commands["known"] for r in results)
    cells.append(f"{ours / max(1, sum(clean[r.name].commands['known'] for r in results)):.2f}")
    cells.append(f"{sum(r.tracer_commands for r in results) / max(1, ours):.1f}")
    cells.append(f"{sum(r.seconds for r in results) / sum(r.tracer_seconds for r in results):.1f}")
    cells.append(f"{np.mean([r.tracer_wrong for r in results]):.2f}")
    return f"| {' | '.join(cells)} |"


def main() -> None:
    """Prints the table."""
    ask = argparse.ArgumentParser()
    ask.add_argument("--every", type=int, default=1)
    ask.add_argument("--case", action="append")
    ask.add_argument("--verbose", action="store_true")
    asked = ask.parse_args()
    chosen = clip_art()[:: asked.every]
    print(f"{len(chosen)} drawings at {WIDTH} px; wrong area in %, mean / median / worst, and share with all colours right")
    print(HEAD)
    clean: dict[str, Result] = {}
    with ProcessPoolExecutor(2, initializer=warm) as pool:
        for case in dict.fromkeys(["PNG", *(asked.case or CASES)]):
            results = list(pool.map(partial(run_one, case), chosen))
            clean = clean or {r.name: r for r in results}
            print(show(case, results, clean), flush=True)
            if asked.verbose:
                for r in results:
                    flag = "" if all(r.right.values()) else " <<<"
                    w, c = r.wrong, r.commands
                    print(
                        f"   {r.name:10} known {w['known']:5.2f} auto {w['auto']:5.2f} cmds {c['known']}/{c['auto']} "
                        f"counts {r.counts}{flag}"
                    )


if __name__ == "__main__":
    main()
