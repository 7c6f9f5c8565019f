"""Soft shadows, glows, graded grounds and graded fills: found, and made flat, so that the colours are spent on the motif."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base.colour import Rgb, delta_e, to_lab
from gladstack.core.picture.smooth import ByteArray, FloatArray, SmoothAreas, flattened
from gladstack.core.picture.windows import greatest

_EDGE_SHARE = 0.1
"""A graded area that makes up so much of the picture's rim is ground."""
_VEIL_SHARE = 0.004
_VEIL_LEVELS = 5.0
_VEIL_OFF = 5.0
_TAIL_LEVELS = 3.0
_FAINTEST_LEVELS = 8.0
_FAINTEST_NOISE = 4.0
_TAIL_SHARE = 0.001
_STEEP_LEVELS = 4.5
_LEVEL_SLOPE = 0.12
_NOISY_SLOPE = 0.09
_PLATEAU_SHARE = 0.003
_PALE_PX = 21
_NOISY_PX = 24
_ENCLOSED_PX = 12
_GROUND_SHARE = 0.3
"""Where one value makes up more than this of the ground, the ground is that, and the rest a shadow or a glow on it."""
_MOST_VEIL = 0.6
_FILL_SHARE = 0.0015
_MOST_FILLS = 40
_MOST_GRADED = 0.6
"""A picture of which more than this is graded is a photo."""
_SMOOTH_SHARE = 0.6
"""A drawing is smooth over more of its area than this; a photo is not."""
_ONE_FILL = 7.0
_SAMPLE = 20_000
_PLAIN_SHARE = 0.0005
_MOTIF_SHARE = 0.015
_COARSE_PX = 64
_ISLAND_LEVELS = 8.0

BoolArray = npt.NDArray[np.bool_]


@dataclass(frozen=True)
class Veil:
    """A soft shadow or glow that lay on the ground: its colour, and how far (px) it was shifted and blurred."""

    colour: Rgb
    dx_px: float
    dy_px: float
    soft_px: float
    glow: bool


@dataclass(frozen=True)
class GradedGround:
    """A picture whose ground was made flat. `mask` is where the ground was; `veil` what was taken off it, if it had one
    colour; else it was a grade."""

    rgb: ByteArray
    mask: BoolArray
    veil: Veil | None


def flat_ground(areas: SmoothAreas, strength: float, key: Rgb | None) -> GradedGround | None:
    """A picture with a soft shadow or glow taken off its ground, or a graded ground made `key`; None if it has neither."""
    rim = np.concatenate([areas.labels[0], areas.labels[-1], areas.labels[:, 0], areas.labels[:, -1]])
    counts = np.bincount(rim[rim >= 0], minlength=areas.count)
    wide = [int(k) for k in np.argsort(-counts) if counts[k] >= _EDGE_SHARE * len(rim)]
    if not wide:
        return None
    ground = _common(areas.values(wide[0]))
    if ground is not None and (found := _unveiled(areas, wide, ground, strength)):
        return found
    graded = [k for k in wide if areas.is_graded(k)]
    if key is None or wide[0] not in graded:
        return None
    mask = np.isin(areas.labels, graded)
    surface = _surface(areas, mask)
    for k in range(areas.count):
        if k not in graded:
            own = areas.pixels[k]
            if np.abs(areas.values(k) - surface.reshape(-1, 3)[own]).mean() <= _ISLAND_LEVELS + strength:
                mask.ravel()[own] = True
    if not _has_motif(areas, mask):
        return None
    made = flattened(areas, mask, _filled(key, areas.rgb.shape), _reach(strength), 4.0 + 2 * strength)
    return GradedGround(made, mask, None)


def _has_motif(areas: SmoothAreas, ground: BoolArray) -> bool:
    """Whether plain colours lie on a graded ground: without any it is a photo, or nothing but a grade."""
    least = _PLAIN_SHARE * ground.size
    plain = sum(
        len(own)
        for k, own in enumerate(areas.pixels)
        if len(own) >= least and not ground.ravel()[own[0]] and not areas.is_graded(k)
    )
    return plain >= _MOTIF_SHARE * ground.size


def _filled(colour: npt.ArrayLike, shape: tuple[int, ...]) -> FloatArray:
    return np.broadcast_to(np.asarray(colour, np.float32), shape).copy()


def is_drawn(areas: SmoothAreas) -> bool:
    """Whether a picture is made of smooth areas, as a drawing is."""
    return bool(np.mean(areas.labels >= 0) >= _SMOOTH_SHARE)


def _length(vectors: FloatArray) -> FloatArray:
    """The lengths of vectors of three, (height, width) of (height, width, 3)."""
    a, b, c = vectors[..., 0], vectors[..., 1], vectors[..., 2]
    return np.asarray(np.sqrt(a * a + b * b + c * c), np.float32)


def _reach(strength: float) -> int:
    return 4 if strength <= 1 else 6


def _common(values: ByteArray, share: float = _GROUND_SHARE) -> FloatArray | None:
    """The one value that makes up so much of some pixels, if there is one."""
    values = values[:: max(1, len(values) // _SAMPLE)]
    codes = (values.astype(np.int32) >> 2) @ np.array([1 << 12, 1 << 6, 1])
    counts = np.bincount(codes)
    best = int(np.argmax(counts))
    middle = values[codes == best].mean(axis=0)
    near = np.abs(values - middle).max(axis=1) <= 4
    if near.mean() < share:
        return None
    return np.asarray(np.median(values[near], axis=0), np.float32)


def _unveiled(areas: SmoothAreas, wide: list[int], ground: FloatArray, strength: float) -> GradedGround | None:
    wide = [k for k in wide if np.abs(areas.middle(k) - ground).max() <= _VEIL_LEVELS]
    off = areas.means - ground
    size = _length(off)
    lying_near = np.isin(areas.labels, wide)
    if np.mean(lying_near & (size > _TAIL_LEVELS + strength)) < _TAIL_SHARE:
        return None
    level = _plateaus(areas, size > _VEIL_LEVELS + strength, strength)
    in_ground = lying_near & ~level
    tail = in_ground & (size > _TAIL_LEVELS + strength)
    if tail.mean() < _TAIL_SHARE:
        return None
    # A shadow lies on one line of colours from the ground on, be it dark or light.
    way = (off[tail] / size[tail][:, None]).mean(axis=0)
    way /= max(1e-6, float(np.linalg.norm(way)))
    along = off @ way
    # By Pythagoras, as `way` is one level long.
    beside = np.sqrt(np.maximum(size * size - along * along, 0))
    fits = (beside <= _VEIL_OFF + strength + 0.08 * along) & (along > -_VEIL_LEVELS)
    if np.mean(fits[tail]) < 0.9:
        return None
    # Where it is steep it is not smooth; yet what is flat by itself is no shadow.
    plain = level | np.isin(areas.labels, [k for k in range(areas.count) if k not in wide and not areas.is_ramp(k)])
    joined = (in_ground | (fits & (areas.rough <= _STEEP_LEVELS + strength) & ~plain)).astype(np.uint8)
    _, parts = cv2.connectedComponents(joined, connectivity=4)
    mask = np.isin(parts, np.unique(parts[in_ground])) & (joined > 0)
    lying = mask & (size > _VEIL_LEVELS + strength)
    if not _VEIL_SHARE <= lying.mean() <= _MOST_VEIL * mask.mean() or _common(areas.rgb[lying], 0.5) is not None:
        return None
    # The soft edge of a pale film lies on the line as well; a shadow is wider, and lies elsewhere too.
    side = 5 if strength <= 1 else 9
    wider = cv2.morphologyEx(lying.astype(np.uint8), cv2.MORPH_OPEN, np.ones((side, side), np.uint8)) > 0
    wider &= ~np.asarray(cv2.dilate(level.astype(np.uint8), np.ones((_PALE_PX, _PALE_PX), np.uint8)) > 0)
    if wider.mean() < _VEIL_SHARE:
        return None
    if float(np.percentile(along[wider], 90)) < _FAINTEST_LEVELS + _FAINTEST_NOISE * strength:
        return None
    deepest = float(np.percentile(along[lying], 99)) + 6.0
    mask |= _enclosed(parts, mask, along, deepest)
    made = flattened(areas, mask, _filled(ground, areas.rgb.shape), _reach(strength), 4.0 + 2 * strength)
    shape = (~mask).astype(np.uint8)
    return GradedGround(made, mask, _veil(np.where(mask, np.maximum(along, 0), 0).astype(np.float32), shape, ground, way))


def _enclosed(parts: npt.NDArray[np.int32], mask: BoolArray, along: FloatArray, deepest: float) -> BoolArray:
    """Places the shadow lies in that the motif cuts off from the rest: as deep at most, and not all of one depth."""
    out = np.zeros_like(mask)
    count = int(parts.max()) + 1
    sizes = np.bincount(parts.ravel(), minlength=count)
    taken = np.zeros(count, np.bool_)
    taken[np.unique(parts[mask])] = True
    for k in np.flatnonzero((sizes >= _ENCLOSED_PX) & ~taken).tolist():
        if k == 0:
            continue
        own = parts == k
        low, high = np.percentile(along[own], [10, 90])
        out |= own if high <= deepest and (high - low >= _VEIL_LEVELS or high <= _VEIL_LEVELS) else False
    return out


def _plateaus(areas: SmoothAreas, off: BoolArray, strength: float) -> BoolArray:
    """Level places within smooth areas, of those that are `off` the ground: a pale film whose edge the shadow hides."""
    level = off & (areas.labels >= 0)
    slopes = areas.slopes[level].reshape(-1, 6)
    level[level] = greatest(np.abs(slopes)[None])[0] < _LEVEL_SLOPE + _NOISY_SLOPE * max(0.0, strength - 1)
    count, parts, stats, _ = cv2.connectedComponentsWithStats(level.astype(np.uint8), connectivity=4)
    share = _PLATEAU_SHARE if strength <= 1 else _PLATEAU_SHARE / 3
    large = [k for k in range(1, count) if stats[k, cv2.CC_STAT_AREA] >= share * level.size]
    out = np.asarray(cv2.dilate(np.isin(parts, large).astype(np.uint8), np.ones((5, 5), np.uint8)) > 0)
    if strength <= 1:
        return out
    # Noise hides the rest of it: what lies near and has nearly its colour.
    kernel = np.ones((2 * _NOISY_PX + 1, 2 * _NOISY_PX + 1), np.uint8)
    for k in large:
        x, y, w, h = (int(v) for v in stats[k, :4])
        box = slice(max(0, y - _NOISY_PX), y + h + _NOISY_PX), slice(max(0, x - _NOISY_PX), x + w + _NOISY_PX)
        own = parts[box] == k
        middle = np.median(areas.means[box][own], axis=0)
        like = np.abs(areas.means[box] - middle).max(axis=2) <= _VEIL_LEVELS + 1.5 * strength
        out[box] |= like & np.asarray(cv2.dilate(own.astype(np.uint8), kernel) > 0)
    return out


def _veil(depth: FloatArray, motif: ByteArray, ground: FloatArray, way: FloatArray) -> Veil:
    """Where a shadow came from: the shift of the motif, and its blur, that come nearest to how deep it lies."""
    dx, dy, soft, share = 0.0, 0.0, 0.0, 1.0
    for side, reach, softs in ((64, 4, (0.5, 0.8, 1.2, 1.8, 2.6)), (192, 3, (0.8, 1.0, 1.25))):
        scale = max(1.0, max(depth.shape) / side)
        size = (round(depth.shape[1] / scale), round(depth.shape[0] / scale))
        small = cv2.resize(depth, size, interpolation=cv2.INTER_AREA)
        full = cv2.resize(motif.astype(np.float32), size, interpolation=cv2.INTER_AREA)
        seen = full < 0.02
        best = (np.inf, dx, dy, soft, share)
        for factor in softs:
            blur = max(0.3, factor * soft / scale) if soft else factor
            cast = cv2.GaussianBlur(full, (0, 0), blur)
            for down in range(-reach, reach + 1):
                for right in range(-reach, reach + 1):
                    shift = round(dx / scale) + right, round(dy / scale) + down
                    moved = np.roll(cast, (shift[1], shift[0]), axis=(0, 1))[seen]
                    part = float(moved @ small[seen]) / max(1e-6, float(moved @ moved))
                    miss = float(np.sum((small[seen] - part * moved) ** 2))
                    if miss < best[0]:
                        best = (miss, shift[0] * scale, shift[1] * scale, blur * scale, part)
        _, dx, dy, soft, share = best
    r, g, b = (round(float(c)) for c in np.clip(ground + way * share, 0, 255))
    return Veil((r, g, b), dx, dy, soft, glow=bool(way.sum() > 0))


def _surface(areas: SmoothAreas, mask: BoolArray) -> FloatArray:
    """The ground's colours carried on under everything that lies on it: each place the mean of those round it."""
    height, width = mask.shape
    step = max(1, max(height, width) // _COARSE_PX)
    size = (max(2, width // step), max(2, height // step))
    held = cv2.resize(mask.astype(np.float32), size, interpolation=cv2.INTER_AREA)
    sums = cv2.resize(np.where(mask[..., None], areas.means, 0).astype(np.float32), size, interpolation=cv2.INTER_AREA)
    known = held > 0.05
    values = np.where(known[..., None], sums / np.maximum(held, 1e-6)[..., None], 0).astype(np.float32)
    weight = known.astype(np.float32)
    filled = values
    for sigma in (16.0, 8.0, 4.0, 2.0):
        spread = cv2.GaussianBlur(weight, (0, 0), sigma)
        mean = cv2.GaussianBlur(values * weight[..., None], (0, 0), sigma) / np.maximum(spread, 1e-9)[..., None]
        sure = np.minimum(1.0, 20 * spread)[..., None] if sigma < 16 else 1.0
        filled = np.where(known[..., None], values, sure * mean + (1 - sure) * filled)
    return np.asarray(cv2.resize(filled, (width, height), interpolation=cv2.INTER_LINEAR), np.float32)


@dataclass(frozen=True)
class Fills:
    """A picture whose graded fills were made flat, and how many there were."""

    rgb: ByteArray
    count: int


def flat_fills(areas: SmoothAreas, strength: float, bands: int, left: BoolArray | None = None) -> Fills | None:
    """A picture with every graded fill in one colour, or in so many bands; None if it has none. What is `left` stays."""
    least = _FILL_SHARE * areas.labels.size
    graded = [k for k in range(areas.count) if len(areas.pixels[k]) >= least and areas.is_graded(k)]
    if left is not None:
        graded = [k for k in graded if np.mean(left.ravel()[areas.pixels[k]]) < 0.5]
    spent = sum(len(areas.pixels[k]) for k in graded)
    if not 0 < len(graded) <= _MOST_FILLS or spent > _MOST_GRADED * np.count_nonzero(areas.labels >= 0):
        return None
    target = areas.rgb.astype(np.float32)
    mask = np.isin(areas.labels, graded)
    colours = _fill_colours([areas.values(k) for k in graded])
    for k, colour in zip(graded, colours, strict=True):
        flat = target.reshape(-1, 3)
        flat[areas.pixels[k]] = _in_bands(areas.values(k).astype(np.float32), colour, bands)
    return Fills(flattened(areas, mask, target, _reach(strength), 4.0 + 2 * strength), len(graded))


def _fill_colours(values: list[ByteArray]) -> list[FloatArray]:
    """Each fill's middle colour; fills that are nearly alike get the same."""
    middles = [np.median(v, axis=0).astype(np.float32) for v in values]
    labs = to_lab(np.array(middles))
    own: list[int] = []
    for k in range(len(middles)):
        same = [j for j in own if float(np.linalg.norm(labs[j] - labs[k])) < _ONE_FILL]
        own.append(same[0] if same else k)
    return [middles[k] for k in own]


def _in_bands(values: FloatArray, middle: FloatArray, bands: int) -> FloatArray:
    """A fill in `bands` steps along the way its colour goes, each in its mean colour."""
    if bands < 2:
        return np.broadcast_to(middle, values.shape)
    centred = values - values.mean(axis=0)
    way = np.linalg.svd(centred[:: max(1, len(values) // 2000)], full_matrices=False)[2][0]
    along = centred @ way
    low, high = np.percentile(along, [1, 99])
    step = np.clip(((along - low) / max(1e-6, high - low) * bands).astype(int), 0, bands - 1)
    out = np.empty_like(values)
    for k in range(bands):
        if np.any(step == k):
            out[step == k] = values[step == k].mean(axis=0)
    return out


def key_for(rgb: ByteArray, keys: tuple[Rgb, ...]) -> Rgb:
    """Of some colours the one farthest from all that a picture shows."""
    seen = rgb.reshape(-1, 3)
    codes = (seen[:: max(1, len(seen) // 60_000)] >> 4).astype(np.int32) @ np.array([256, 16, 1])
    found = np.flatnonzero(np.bincount(codes, minlength=4096))
    coarse = np.stack([found >> 8, (found >> 4) & 15, found & 15], axis=1) * 16.0 + 8.0
    apart = [float(np.min(delta_e(coarse, np.array(k)))) for k in keys]
    return keys[int(np.argmax(apart))]
