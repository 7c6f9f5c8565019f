"""Pictures for tests, drawn from known vectors."""

from __future__ import annotations

import functools
import io

import numpy as np
import numpy.typing as npt
import resvg_py
from PIL import Image

from bench.drawings import Drawing, drawings

BY_NAME = {d.name: d for d in drawings()}


def render(svg: str, width: int) -> Image.Image:
    """SVG text as an RGBA image, by an independent renderer."""
    return Image.open(io.BytesIO(bytes(resvg_py.svg_to_bytes(svg_string=svg, width=width)))).convert("RGBA")


def encode(image: Image.Image, form: str = "PNG", **options: object) -> bytes:
    out = io.BytesIO()
    image.save(out, form, **options)
    return out.getvalue()


@functools.cache
def picture_of(name: str, width: int = 256, *, quality: int | None = None) -> bytes:
    """A bench drawing as PNG, or as JPEG of the given quality."""
    image = render(BY_NAME[name].svg(), width).convert("RGB")
    return encode(image, "JPEG", quality=quality) if quality else encode(image)


def truth_of(drawing: Drawing, width: int) -> npt.NDArray[np.uint8]:
    """The drawing without anti-aliasing, (width, width, 3)."""
    return np.array(render(drawing.svg(crisp=True), width).convert("RGB"))


def disc_on_clear(size: int = 96) -> bytes:
    """A red disc on a transparent ground, soft-edged."""
    disc = '<circle cx="48" cy="48" r="30" fill="#c0392b"/>'
    return encode(render(f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {size} {size}">{disc}</svg>', size))


def photo(size: int = 160) -> bytes:
    """Something with no flat colour in it: gradients and grain."""
    rng = np.random.default_rng(1)
    y, x = np.mgrid[0:size, 0:size] / size
    base = np.stack([255 * x, 255 * y, 128 + 100 * np.sin(6 * x * y)], axis=-1)
    return encode(Image.fromarray((base + rng.normal(0, 6, base.shape)).clip(0, 255).astype(np.uint8)))
