"""The inner loops as plain Python, in which every index is checked: run with NUMBA_DISABLE_JIT=1, on small pictures."""

from __future__ import annotations

import io
import random

import numba
import numpy as np
import pytest
import shapely
from PIL import Image, ImageDraw, ImageFilter

from gladstack.core.geometry.runs import narrow_runs
from gladstack.core.geometry.shapes import clean
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.model.arts import Art, LineArt, PictureArt
from gladstack.recipe.model.recipe import Recipe
from tests.pictures import BY_NAME, encode, picture_of

pytestmark = pytest.mark.skipif(
    not numba.config.DISABLE_JIT,  # type: ignore[attr-defined]
    reason="compiled loops check no index",
)
DIGEST = "a" * 64


def made(data: bytes, art: Art | None = None) -> Built:
    art = art or PictureArt(id="p", picture=DIGEST, width_mm=40)
    return build(Recipe(name="Small", arts=(art,)), Assets(picture=lambda key: data))


@pytest.mark.parametrize("quality", [None, 60])
@pytest.mark.parametrize("name", sorted(BY_NAME))
def test_drawings(name: str, quality: int | None) -> None:
    made(picture_of(name, 48, quality=quality))


@pytest.mark.parametrize("size", [(8, 8), (9, 8), (8, 40), (40, 8), (64, 9)])
def test_pictures_as_small_as_they_may_be(size: tuple[int, int]) -> None:
    rng = np.random.default_rng(size[0] * 100 + size[1])
    pixels = rng.choice(np.array([[255, 255, 255], [200, 30, 40], [20, 40, 90]], np.uint8), size[::-1])
    made(encode(Image.fromarray(pixels)))


@pytest.mark.parametrize("seed", range(12))
def test_things_at_the_very_edge(seed: int) -> None:
    """Lines, dots and areas that run out of the picture on every side, blurred, as JPEG or WebP, with clear parts."""
    rng = random.Random(seed)
    w, h = rng.randint(20, 60), rng.randint(20, 60)
    picture = Image.new("RGBA", (w, h), rng.choice(["#ffffff", "#1d2b53", "#00000000"]))
    pen = ImageDraw.Draw(picture)
    for _ in range(rng.randint(2, 9)):
        ends = [rng.randint(-10, 70) for _ in range(4)]
        colour = rng.choice(["#c0392b", "#f2b632", "#2f8f8b", "#14100c", "#ffffff"])
        if rng.random() < 0.6:
            pen.line(ends, colour, rng.randint(1, 4))
        else:
            pen.ellipse((min(ends[0], ends[2]), min(ends[1], ends[3]), max(ends[0], ends[2]), max(ends[1], ends[3])), colour)
    if rng.random() < 0.5:
        picture = picture.filter(ImageFilter.GaussianBlur(rng.uniform(0.3, 1.2)))
    form = rng.choice(["PNG", "JPEG", "WEBP"])
    made(encode(picture if form != "JPEG" else picture.convert("RGB"), form))


@pytest.mark.parametrize("seed", range(4))
def test_line_art(seed: int) -> None:
    rng = random.Random(seed)
    picture = Image.new("L", (70, 60), 255)
    pen = ImageDraw.Draw(picture)
    for _ in range(5):
        x, y = rng.randint(-5, 60), rng.randint(-5, 50)
        pen.ellipse((x, y, x + rng.randint(6, 30), y + rng.randint(6, 30)), outline=0, width=rng.randint(1, 3))
    out = io.BytesIO()
    picture.save(out, "PNG")
    made(out.getvalue(), LineArt(id="p", picture=DIGEST, width_mm=40))


@pytest.mark.parametrize("seed", range(4))
def test_widths(seed: int) -> None:
    """Of bars and rings that lie near one another, at the limit and at many times that."""
    rng = random.Random(seed)
    shapes = [
        shapely.Point(rng.uniform(0, 9), rng.uniform(0, 9)).buffer(rng.uniform(0.4, 2)).boundary.buffer(0.3)
        for _ in range(4)
    ]
    shapes += [shapely.box(x, y, x + rng.uniform(0.1, 6), y + rng.uniform(0.1, 6)) for x, y in ((0, 0), (0, 11), (11, 2))]
    for limit in (0.8, 3.0):
        for inside in (True, False):
            narrow_runs(clean(shapely.union_all(shapes)), limit, inside=inside)


def test_noise() -> None:
    pixels = np.random.default_rng(5).integers(0, 256, (40, 40, 3), np.uint8)
    made(encode(Image.fromarray(pixels), "JPEG", quality=60))
