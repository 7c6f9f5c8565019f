"""A picture of the cases of `bench.found`: each drawing as it is found, and as its films lie on one another.

python -m bench.found_sheet docs/bench-cases.png
"""

from __future__ import annotations

import sys

import numpy as np
from PIL import Image, ImageDraw

from bench.clip_art import clip_art
from bench.found import CASES
from bench.kinds import KINDS
from bench.measure import WIDTH_MM, crisp, our_svg, render
from bench.outlined import saved
from bench.scenes import cartoon, lines, words
from gladstack.core.picture.decode import Picture, decode_picture
from gladstack.core.picture.separate import TraceOptions, find_colours, planar_map_of
from gladstack.core.picture.tidy import tidied

SHOWN = (
    ("JPEG 60", "cup-2"), ("rescale 0.6", "house-1"), ("JPEG 50 twice", "cat-3"), ("soft shadow", "bird-2"),
    ("graded ground", "fish-1"), ("dither web", "face-1"), ("dither 256", "flower-3"), ("white rim", "cake-2"),
)  # fmt: skip
SCENES = (
    (cartoon(3), 62), (cartoon(11), 62), (cartoon(9), 75), (words(2), 75), (words(4), 75), (lines(4), 85),
)  # fmt: skip
PRINTS = (("halftone", 1), ("print", 2))
_SIDE = 190
_GAP = 8
_HEAD = 16


def sheet() -> Image.Image:
    """Every case in a column: as it is found above, its films below."""
    wide = len(SHOWN) * (_SIDE + _GAP) + _GAP
    band = _HEAD + 2 * (_SIDE + _GAP) + _GAP
    out = Image.new("RGB", (wide, 2 * band), "#ffffff")
    draw = ImageDraw.Draw(out)
    by_name = {d.name: d for d in clip_art()}
    given = [(case, decode_picture(CASES[case](by_name[name]))) for case, name in SHOWN]
    given += [(f"{s.name.split('-')[0]}, JPEG {quality}", decode_picture(saved(s, quality))) for s, quality in SCENES]
    given += [(kind, Picture(KINDS[kind](seed), None, "PNG")) for kind, seed in PRINTS]
    for k, (case, picture) in enumerate(given):
        tidy = tidied(picture)
        palette = find_colours(tidy)
        films = render(crisp(our_svg(planar_map_of(tidy, palette, WIDTH_MM, TraceOptions()), palette)), 3 * _SIDE)
        x, y = _GAP + k % len(SHOWN) * (_SIDE + _GAP), k // len(SHOWN) * band
        draw.text((x, y + 2), case, fill="#25231e")
        out.paste(Image.fromarray(picture.rgb).resize((_SIDE, _SIDE), Image.Resampling.LANCZOS), (x, y + _HEAD))
        pixels = np.array(films.convert("RGB"))
        if tidy.picture.key is not None:
            # What is dropped shows the paper.
            pixels[np.all(pixels == np.array(tidy.picture.key), axis=2)] = 255
        small = Image.fromarray(pixels).resize((_SIDE, _SIDE), Image.Resampling.LANCZOS)
        out.paste(small, (x, y + _HEAD + _SIDE + _GAP))
    return out


if __name__ == "__main__":
    sheet().save(sys.argv[1], optimize=True)
