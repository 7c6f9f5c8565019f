"""What is lost is told: things planted in a picture after its areas were found, and how many are told with their place.

python -m bench.lost [--every N]
"""

from __future__ import annotations

import argparse
import random
from concurrent.futures import ProcessPoolExecutor
from functools import partial

import cv2
import numpy as np
from PIL import Image

from bench.clip_art import clip_art
from bench.found import encoded, plain
from bench.measure import WIDTH_MM
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.lossy_palette import SOFT
from gladstack.core.picture.lost import find_lost
from gladstack.core.picture.separate import TraceOptions, find_colours, give_labels, without_specks
from gladstack.core.picture.tidy import tidied
from gladstack.warm import warm

_APART_PX = 16
_OFF_EDGES_PX = 6
_CONTRAST = 90


def planted(index: int, quality: int | None) -> tuple[int, int, bool]:
    """How many bars of 4 px and more were planted in a drawing, how many are told, and whether it tells of any before."""
    drawing, rng = clip_art()[index], random.Random(index)
    tidy = tidied(decode_picture(encoded(plain(drawing), quality)))
    palette = find_colours(tidy)
    own = np.arange(len(palette.colours), dtype=np.int16)
    options = TraceOptions()
    labels = give_labels(tidy, palette).grid
    found = without_specks(tidy.picture.rgb, palette, labels, own, mm_per_px=WIDTH_MM / labels.shape[1], options=options)
    noise = palette.noise or SOFT
    clean = find_lost(tidy.picture.rgb, found, palette.colours, noise, None).pixels > 0
    kernel = np.ones((3, 3), np.uint8)
    inner = cv2.distanceTransform((cv2.dilate(found, kernel) == cv2.erode(found, kernel)).astype(np.uint8), cv2.DIST_L2, 5)
    pixels = np.array(plain(drawing))
    spots: list[tuple[int, int]] = []
    for _ in range(12):
        high, wide = rng.choice([2, 2, 3, 3, 4, 6]), rng.choice([2, 2, 3, 6, 10])
        places = np.argwhere(inner > max(high, wide) + _OFF_EDGES_PX)
        if not len(places):
            break
        y, x = (int(v) for v in places[rng.randrange(len(places))])
        if any(abs(y - v) < _APART_PX and abs(x - u) < _APART_PX for v, u in spots):
            continue
        colour = np.array(palette.colours[found[y, x]], float)
        by = -_CONTRAST if colour.mean() > 128 else _CONTRAST
        pixels[y : y + high, x : x + wide] = np.clip(colour + by, 0, 255)
        spots.append((y, x))
    rgb = decode_picture(encoded(Image.fromarray(pixels), quality)).rgb
    boxes = [p.box for kind in find_lost(rgb, found, palette.colours, noise, None).kinds for p in kind.places]
    told = sum(any(b[0] - 4 <= x <= b[2] + 4 and b[1] - 4 <= y <= b[3] + 4 for b in boxes) for y, x in spots)
    return len(spots), told, clean


def main() -> None:
    """Prints, for each way of saving, how many were planted, and how many are told."""
    ask = argparse.ArgumentParser()
    ask.add_argument("--every", type=int, default=3)
    asked = ask.parse_args()
    print("| saved | planted | told | pictures that told of anything before |\n|---|---|---|---|")
    with ProcessPoolExecutor(2, initializer=warm) as pool:
        for quality in (None, 90, 75, 60):
            rows = list(pool.map(partial(planted, quality=quality), range(0, len(clip_art()), asked.every)))
            told = sum(r[1] for r in rows)
            name = f"JPEG {quality}" if quality else "PNG"
            print(f"| {name} | {sum(r[0] for r in rows)} | {told} | {sum(r[2] for r in rows)} of {len(rows)} |", flush=True)


if __name__ == "__main__":
    main()
