"""A picture becomes a planar map of flat colours: palette, labels, specks, arcs, curves."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base import tolerances
from gladstack.core.base.colour import Rgb, delta_e, from_hex, nearest_colour
from gladstack.core.picture.arcs import fit_arcs
from gladstack.core.picture.areas import calmed, find_regions, label_of_regions, merge_specks, part_touching_corners
from gladstack.core.picture.background import border_background
from gladstack.core.picture.by_luma import told_by_luma
from gladstack.core.picture.kinds import PictureKind
from gladstack.core.picture.labels import label_pixels
from gladstack.core.picture.lossy_palette import SOFT
from gladstack.core.picture.lost import NOTHING_LOST, Lost, find_lost
from gladstack.core.picture.near_shades import settled
from gladstack.core.picture.palette import Palette, find_palette
from gladstack.core.picture.planar import PlanarMap, build_planar_map
from gladstack.core.picture.rims import Rim, Rims, without_rims
from gladstack.core.picture.thin_labels import thin_labelled
from gladstack.core.picture.tidy import Done, Tidied
from gladstack.core.picture.trace import trace_arcs

_LOSSY_FIT_PX = 0.4
_LOSSY_SMOOTHING_PX = 1.0
_TINT_SHARE = 0.45
"""How much tint counts beside brightness when an edge is placed in a JPEG, which stores tint at half the resolution."""


@dataclass(frozen=True)
class TraceOptions:
    """How closely to follow the picture, in millimetres at the finished size.

    `detail_mm` is the largest deviation of a curve, `smoothing_mm` the width of the smoothing along edges, and areas
    narrower and lower than `speck_mm` are merged into their surroundings. None is ever finer than the pixels allow.
    """

    detail_mm: float = 0.02
    smoothing_mm: float = 0.0
    speck_mm: float = 0.4


@dataclass(frozen=True)
class Separated:
    """A picture traced, and what its colours mean.

    `merged[k]` is the label that colour k of the palette counts as, `shares` the part of the picture each has, `background`
    the colour proposed as such. `noisy` says that it is made of dots rather than of areas; `done` is what was put right;
    `rims` are whole thin lines of a colour between others; `lost` is what is in the picture and in none of its areas;
    `kind` is what it was taken for.
    """

    palette: Palette
    map: PlanarMap
    merged: npt.NDArray[np.int16]
    shares: npt.NDArray[np.float64]
    background: int | None
    transparent: bool
    size_px: tuple[int, int]
    noisy: bool = False
    done: tuple[Done, ...] = ()
    rims: tuple[Rim, ...] = ()
    lost: Lost = NOTHING_LOST
    kind: PictureKind = "flat"


Rest = Literal["found", "nearest", "out"]
"""What becomes of colours that were not picked: films as found, part of the nearest that was, or nothing."""


def find_colours(tidy: Tidied, count: int | None = None, picked: Sequence[str] = (), held: Sequence[str] = ()) -> Palette:
    """The palette of a picture; the key colour of a transparent one comes first and is not counted."""
    picture = tidy.picture
    keep = (picture.key,) if picture.key else ()
    of = tuple(map(from_hex, picked))
    marks = tuple(map(from_hex, held))
    return find_palette(picture.rgb, count=count, picked=of, keep=keep, held=marks, noise=tidy.noise)


@dataclass(frozen=True)
class Labelled:
    """The colour of every pixel; whether the picture was made of crumbs; what was put right besides, and the whole thin
    rims there are. `pixels` are those that tell where edges run (None: the picture's own); `given` what went
    to another colour.
    """

    grid: npt.NDArray[np.int16]
    crumbled: bool
    done: tuple[Done, ...] = ()
    pixels: npt.NDArray[np.float32] | None = None
    rims: tuple[Rim, ...] = ()
    given: npt.NDArray[np.bool_] | None = None


def give_labels(tidy: Tidied, palette: Palette, as_is: Collection[str] = (), rims: Rims = "broken") -> Labelled:
    """The colour of every pixel. Rims of which only dashes are left, or all of them, go to what lies beside them, but for
    those `as_is`.
    """
    plain = palette.flat and not palette.noisy
    grid = label_pixels(palette.working, palette.colours, lossy=palette.lossy, flat=plain)
    grid, crumbled = calmed(grid, noisy=palette.noisy)
    if not plain:
        return Labelled(grid, crumbled)
    placed = None
    if palette.noise is not None:
        grid, placed = settled(grid, tidy.picture.rgb, palette.colours, palette.noise)
    noise = palette.noise or SOFT
    grid, held = thin_labelled(grid, tidy.picture.rgb, palette.colours, noise)
    if palette.noise is not None and palette.noise.halved:
        # What is thinner than a pixel is never as dark or light as its colour: that was looked for above.
        grid = np.where(held, grid, told_by_luma(grid, tidy.picture.rgb, palette.colours, palette.noise))
    if "rims" in as_is:
        return Labelled(grid, crumbled, (), placed)
    left, gone, whole = without_rims(grid, len(palette.colours), whole=rims == "all", held=held)
    given = left != grid if gone else None
    return Labelled(left, crumbled, (Done("rims", gone),) if gone else (), placed, whole, given)


def separate(
    tidy: Tidied,
    palette: Palette,
    labelled: Labelled,
    merges: Sequence[tuple[str, str]],
    width_mm: float,
    options: TraceOptions,
    only: Sequence[str] = (),
) -> Separated:
    """The planar map of a picture `width_mm` wide; of each merge (colour, into) the first counts as the second.

    Where there are `only` some colours, all others but the background count as the nearest of these.
    """
    picture, labels = tidy.picture, labelled.grid
    merged = _merged(palette, merges)
    if only:
        edge = np.concatenate([labels[0], labels[-1], labels[:, 0], labels[:, -1]])
        behind = 0 if picture.key is not None else border_background(edge)
        merged = _folded(palette, merged, only, behind)
    size = (picture.width_px, picture.height_px)
    pixels = picture.rgb if labelled.pixels is None else labelled.pixels
    mm_per_px = width_mm / size[0]
    cleaned = without_specks(pixels, palette, labels, merged, mm_per_px=mm_per_px, options=options)
    map_ = map_labels(pixels, palette, labels, cleaned, merged, mm_per_px=mm_per_px, options=options)
    lost = _lost(tidy, palette, labelled, cleaned, merged)
    border = merged[np.concatenate([labels[0], labels[-1], labels[:, 0], labels[:, -1]])]
    shares = np.bincount(labels.ravel(), minlength=len(palette.colours)) / labels.size
    transparent = picture.key is not None
    background = 0 if transparent else border_background(border)
    noisy = palette.noisy or (labelled.crumbled and palette.flat)
    return Separated(
        palette.without_pixels(), map_, merged, shares, background, transparent, size, noisy, tidy.done + labelled.done,
        labelled.rims, lost, tidy.kind,
    )  # fmt: skip


def planar_map_of(tidy: Tidied, palette: Palette, width_mm: float, options: TraceOptions) -> PlanarMap:
    """The planar map of a picture that is `width_mm` wide, every colour of the palette by itself."""
    return separate(tidy, palette, give_labels(tidy, palette), (), width_mm, options).map


def _merged(palette: Palette, merges: Sequence[tuple[str, str]]) -> npt.NDArray[np.int16]:
    """For every colour of the palette the one it counts as."""
    target = np.arange(len(palette.colours), dtype=np.int16)
    for colour, into in merges:
        a, b = nearest_colour(palette.colours, colour), nearest_colour(palette.colours, into)
        if a is not None and b is not None and a != b:
            target[a] = b
    for _ in range(len(target)):
        target = target[target]
    return target


def _folded(
    palette: Palette, merged: npt.NDArray[np.int16], only: Sequence[str], behind: int | None
) -> npt.NDArray[np.int16]:
    """For every colour of the palette one of `only` some, or the background."""
    kept = sorted({k for c in only if (k := nearest_colour(palette.colours, c)) is not None})
    table = np.array([palette.colours[k] for k in kept])
    target = merged.copy()
    for k, colour in enumerate(palette.colours):
        if k not in kept and k != behind:
            target[k] = kept[int(np.argmin(delta_e(table, np.array(colour))))]
    return target[target]


def _lost(
    tidy: Tidied, palette: Palette, labelled: Labelled, cleaned: npt.NDArray[np.int16], merged: npt.NDArray[np.int16]
) -> Lost:
    """What is in the picture and in none of its areas; what became part of another colour by choice is not."""
    if not palette.flat or palette.noisy:
        return NOTHING_LOST
    shown = np.where(cleaned == merged[labelled.grid], labelled.grid, cleaned)
    return find_lost(tidy.picture.rgb, shown, palette.colours, palette.noise or SOFT, labelled.given)


def without_specks(
    rgb: npt.NDArray[np.uint8] | npt.NDArray[np.float32],
    palette: Palette,
    labels: npt.NDArray[np.int16],
    merged: npt.NDArray[np.int16],
    *,
    mm_per_px: float,
    options: TraceOptions,
) -> npt.NDArray[np.int16]:
    """Labels as they are traced: merged, without specks, and without areas that only touch at a corner."""
    if palette.noisy:
        rgb = palette.working
    joined = merged[labels] if np.any(merged != np.arange(len(merged))) else labels
    cleaned = merge_specks(joined, max(options.speck_mm / mm_per_px, 1.5))
    if cleaned is labels:
        cleaned = labels.copy()
    table = np.array(palette.colours, np.float32)
    for _ in range(6):
        if part_touching_corners(cleaned, rgb, table) == 0:
            break
    return cleaned


def map_labels(
    rgb: npt.NDArray[np.uint8] | npt.NDArray[np.float32],
    palette: Palette,
    labels: npt.NDArray[np.int16],
    cleaned: npt.NDArray[np.int16],
    merged: npt.NDArray[np.int16],
    *,
    mm_per_px: float,
    options: TraceOptions,
) -> PlanarMap:
    """The planar map of pixels that are labelled, and cleaned by `without_specks`."""
    if palette.noisy:
        rgb = palette.working
    regions, count = find_regions(cleaned)
    pixels, colours = _edge_space(rgb, palette.colours, lossy=palette.lossy)
    # An edge lies where the colours that are there meet, whatever film they become part of.
    shown = np.where(cleaned == merged[labels], labels, cleaned)
    traced = trace_arcs(regions, shown, pixels, colours)
    tolerance = max(options.detail_mm / mm_per_px, _LOSSY_FIT_PX if palette.lossy else tolerances.ARC_FIT_PX)
    smoothing = max(options.smoothing_mm / mm_per_px, _LOSSY_SMOOTHING_PX if palette.lossy else tolerances.SMOOTHING_PX)
    fitted = fit_arcs(traced, rgb.shape[1], rgb.shape[0], tolerance_px=tolerance, smoothing_px=smoothing)
    own = label_of_regions(cleaned, regions, count)
    return build_planar_map(traced, fitted, own, mm_per_px=mm_per_px, flatten_mm=tolerances.FLATTEN_MM)


def _edge_space(
    rgb: npt.NDArray[np.uint8] | npt.NDArray[np.float32], colours: tuple[Rgb, ...], *, lossy: bool
) -> tuple[npt.NDArray[np.float32] | npt.NDArray[np.uint8], npt.NDArray[np.float64]]:
    """Pixels and colours in the linear space where an edge's mix is measured."""
    table = np.array(colours, np.float64)
    if not lossy:
        return rgb, table
    matrix = np.array([[0.299, 0.587, 0.114], [-0.169, -0.331, 0.5], [0.5, -0.419, -0.081]])
    matrix[1:] *= _TINT_SHARE
    pixels = cv2.transform(rgb.astype(np.float32), matrix)
    return np.ascontiguousarray(pixels, dtype=np.float32), table @ matrix.T
