"""The picture stages of the build: decode, palette, labels, map."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import lru_cache
from typing import TypeVar

import numpy as np
import numpy.typing as npt

from gladstack.core.base.colour import Rgb, delta_e, from_hex
from gladstack.core.picture.areas import calmed
from gladstack.core.picture.background import border_background
from gladstack.core.picture.decode import Picture, decode_picture
from gladstack.core.picture.labels import label_pixels
from gladstack.core.picture.palette import Palette
from gladstack.core.picture.planar import PlanarMap
from gladstack.core.picture.separate import TraceOptions, find_colours, map_labels
from gladstack.recipe.model.arts import PictureArt
from gladstack.stages.memo import Memo, key_of

T = TypeVar("T")
PictureLoader = Callable[[str], bytes]

STAGES = ("decode", "palette", "labels", "map", "art", "layers", "joints", "curves", "proof", "sheets")
NOISY = (
    "This picture is made of fine dots (dither, grain or noise), not of flat colours. The dots were smoothed into areas, so "
    "edges and small details are soft: a copy without dots gives cleaner films."
)
SAME_COLOUR = 12.0
"""A choice about a colour holds for the nearest film within this delta-E."""


@dataclass
class Clock:
    """Runs stages through the memo, and keeps the seconds each really worked itself."""

    memo: Memo
    tell: Callable[[str], None]
    seconds: dict[str, float] = field(default_factory=lambda: dict.fromkeys(STAGES, 0.0))
    _within: list[float] = field(default_factory=lambda: [0.0])

    def run(self, stage: str, key: str, compute: Callable[[], T], *, costly: bool = False) -> T:
        """The stage's value for these inputs, computed only if it is not remembered; `costly` as the memo has it."""
        return self.memo.get(f"{stage}:{key}", lambda: self._timed(stage, compute), costly=costly)

    def _timed(self, stage: str, compute: Callable[[], T]) -> T:
        self.tell(stage)
        begin = time.perf_counter()
        self._within.append(0.0)
        try:
            return compute()
        finally:
            spent = time.perf_counter() - begin
            self.seconds[stage] += spent - self._within.pop()
            self._within[-1] += spent


@dataclass(frozen=True)
class Source:
    """The traced picture and what its colours mean."""

    key: str
    palette: Palette
    map: PlanarMap
    merged: npt.NDArray[np.int16]
    shares: npt.NDArray[np.float64]
    background: int | None
    transparent: bool
    size_px: tuple[int, int]
    noisy: bool = False


def trace_picture(art: PictureArt, load: PictureLoader, clock: Clock) -> Source:
    """The traced picture, from the stages that the choices about it need again."""
    separation = art.separation

    def picture() -> Picture:
        return clock.run("decode", art.picture, lambda: decode_picture(load(art.picture), art.filename))

    picked = tuple(from_hex(c) for c in separation.picked)
    colour_key = key_of(art.picture, separation.count, separation.picked)

    def palette() -> Palette:
        def find() -> Palette:
            return find_colours(picture(), count=separation.count, picked=picked)

        return clock.run("palette", colour_key, find)

    def labels() -> tuple[npt.NDArray[np.int16], bool]:
        def label() -> tuple[npt.NDArray[np.int16], bool]:
            found = palette()
            grid = label_pixels(found.working, found.colours, lossy=found.lossy, flat=found.flat and not found.noisy)
            return calmed(grid, noisy=found.noisy)

        return clock.run("labels", colour_key, label)

    merges = [(m.colour, m.into) for m in separation.merges]
    options = TraceOptions(separation.detail_mm, separation.smoothing_mm, separation.speck_mm)
    key = key_of(colour_key, merges, art.width_mm, options.detail_mm, options.smoothing_mm, options.speck_mm)

    def trace() -> Source:
        image, found, (given, crumbled) = picture(), palette(), labels()
        merged = _merged(found, merges)
        size = (image.width_px, image.height_px)
        map_ = map_labels(image.rgb, found, given, merged, mm_per_px=art.width_mm / size[0], options=options)
        border = merged[np.concatenate([given[0], given[-1], given[:, 0], given[:, -1]])]
        shares = np.bincount(given.ravel(), minlength=len(found.colours)) / given.size
        transparent = image.key is not None
        background = 0 if transparent else border_background(border)
        plain, noisy = found.without_pixels(), found.noisy or (crumbled and found.flat)
        return Source(key, plain, map_, merged, shares, background, transparent, size, noisy)

    return clock.run("map", key, trace, costly=True)


def _merged(palette: Palette, merges: list[tuple[str, str]]) -> npt.NDArray[np.int16]:
    """For every colour of the palette the one it counts as."""
    target = np.arange(len(palette.colours), dtype=np.int16)
    for colour, into in merges:
        a, b = nearest_colour(palette.colours, colour), nearest_colour(palette.colours, into)
        if a is not None and b is not None and a != b:
            target[a] = b
    for _ in range(len(target)):
        target = target[target]
    return target


@lru_cache(4096)
def nearest_colour(colours: tuple[Rgb, ...], wanted: str) -> int | None:
    """Index of the colour that a choice about `wanted` holds for, None if there is none near enough."""
    if not colours:
        return None
    apart = np.atleast_1d(delta_e(np.array(colours), np.array(from_hex(wanted))))
    best = int(np.argmin(apart))
    return best if apart[best] <= SAME_COLOUR else None
