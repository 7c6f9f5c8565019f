"""Words whose colour lies between their ground and another film's: found right, told, or neither.

python -m bench.between [--every N]
"""

from __future__ import annotations

import argparse
import io
import random
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from bench.measure import WIDTH_MM
from gladstack.core.base.colour import Rgb, delta_e
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.separate import TraceOptions, find_colours, give_labels, separate
from gladstack.core.picture.tidy import tidied
from gladstack.warm import warm

FONTS = tuple(sorted(p for p in Path("gladstack/fonts").iterdir() if p.suffix in (".ttf", ".otf")))
_GROUNDS: tuple[Rgb, ...] = ((255, 255, 255), (245, 225, 170), (20, 30, 60), (30, 90, 60))
_FILMS: tuple[Rgb, ...] = ((20, 20, 25), (190, 30, 30), (250, 240, 230), (240, 190, 30), (20, 60, 140))
_WORDS_BOX = (140, 375, 505, 470)
_SIDE, _FINER = 512, 4
_SAME = 10.0
_SCENES = 16
_SIZES, _SHARES, _QUALITIES = (14, 20, 28), (0.35, 0.5, 0.65), (None, 90, 75)


def _mixed(ground: Rgb, film: Rgb, share: float) -> Rgb:
    r, g, b = (round(a + (c - a) * share) for a, c in zip(ground, film, strict=True))
    return r, g, b


def scene(index: int, share: float, size_px: int, quality: int | None) -> tuple[bytes, Rgb]:
    """A saved picture with a large thing in a film's colour and words in a mix of that and the ground; the words' colour."""
    ground = _GROUNDS[index % len(_GROUNDS)]
    films = [c for c in _FILMS if float(delta_e(np.array(c), np.array(ground))) > 25]
    film = films[index // 4 % len(films)]
    rest = [c for c in films if c != film]
    colour, second = _mixed(ground, film, share), rest[index % len(rest)]
    big = Image.new("RGB", (_SIDE * _FINER, _SIDE * _FINER), ground)
    pen = ImageDraw.Draw(big)
    pen.ellipse([400, 300, 1500, 1300], fill=film)
    pen.rectangle([150, 1400, 500, 1700], fill=second)
    font = ImageFont.truetype(str(FONTS[random.Random(index).randrange(len(FONTS))]), size_px * _FINER)
    pen.text((600, 1500), "Open evening", fill=colour, font=font)
    pen.text((560, 1680), "May to June", fill=colour, font=font)
    out = io.BytesIO()
    image = big.resize((_SIDE, _SIDE), Image.Resampling.BOX)
    if quality:
        image.save(out, "JPEG", quality=quality)
    else:
        image.save(out, "PNG")
    return out.getvalue(), colour


def outcome(job: tuple[int, float, int, int | None]) -> str:
    """What became of the words: "right", "told" or "silent"."""
    data, colour = scene(*job)
    tidy = tidied(decode_picture(data))
    palette = find_colours(tidy)
    made = separate(tidy, palette, give_labels(tidy, palette), (), WIDTH_MM, TraceOptions())
    left, top, right, bottom = _WORDS_BOX
    places = [p.box for kind in made.lost.kinds for p in kind.places]
    if any(b[0] < right and b[2] > left and b[1] < bottom and b[3] > top for b in places):
        return "told"
    if any(done.kind in ("shadow", "glow") for done in made.done):
        return "told"
    return "right" if float(delta_e(np.array(palette.colours), np.array(colour)).min()) < _SAME else "silent"


def main() -> None:
    """Prints, for each way of saving and size, what became of the words."""
    ask = argparse.ArgumentParser()
    ask.add_argument("--every", type=int, default=2)
    asked = ask.parse_args()
    print("| saved | letters | right | told | silent |\n|---|---|---|---|---|")
    with ProcessPoolExecutor(2, initializer=warm) as pool:
        for quality in _QUALITIES:
            for size in _SIZES:
                jobs = [(i, share, size, quality) for share in _SHARES for i in range(0, _SCENES, asked.every)]
                ends = list(pool.map(outcome, jobs))
                row = " | ".join(str(ends.count(end)) for end in ("right", "told", "silent"))
                print(f"| {f'JPEG {quality}' if quality else 'PNG'} | {size} px | {row} |", flush=True)


if __name__ == "__main__":
    main()
