"""Which flat colours a picture is made of.

A *clean* picture (PNG and the like) holds its colours exactly: those of pixels whose 3 x 3 neighbourhood varies by at most
one level, taken by count, and those of lines too thin for one. A *lossy* one (JPEG, resized, blurred) does not: its
colours are told from its noise by `lossy_palette`. A picture that these do not explain (a photo, a gradient) is not flat;
its colours are grouped into as many films as the maker will spend.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base.colour import Rgb, delta_e, to_lab
from gladstack.core.base.errors import RecipeError
from gladstack.core.picture import mixes, pixels
from gladstack.core.picture.background import border_background
from gladstack.core.picture.echoes import without_echoes
from gladstack.core.picture.lossy_palette import DOTS, Noise, lossy_colours, noise_of
from gladstack.core.picture.softness import edge_width
from gladstack.core.picture.thin_colours import with_thin_colours

ByteArray = npt.NDArray[np.uint8]
FloatArray = npt.NDArray[np.float64]
IntArray = npt.NDArray[np.int64]

MAX_COLOURS = 64
_MOST_LOSSY = 24
"""A picture with noise that shows more colours than this is not flat: noise makes up as many."""
DEFAULT_FILMS_NOT_FLAT = 6
_ROUGH_SHARE = 0.02
"""A picture is lossy if more of its nearly flat places than this are not exactly flat."""
_FLAT_SHARE = 0.8
"""A picture is flat if at least this much of it lies near its plain colours; the rest are edges."""
_STANDS_OUT = 20
_SPECKLED_SHARE = 0.25
"""A picture is noisy if more of its pixels than this stand out by so many levels from all around them."""
_DESCREEN_PX = 1.6
"""Blurred by so much, the dots of a dither become the colour they stand for."""
_SUPPRESS_CLEAN = 1.0
"""Colours of a clean picture closer than this delta-E are one."""
_SUPPRESS_LOSSY = 3.0
"""Under JPEG, colours closer than this delta-E to a picked one are the same."""
_SOFT_EDGE_PX = 2.3
"""A picture with wider edges was blurred or enlarged; in a crisp one a plain place of a few px tells a colour."""
_LOOSELY_QUIET = 12
"""Levels by which a place may vary and still lend a further colour, when more are asked for than were found."""


@dataclass(frozen=True)
class Palette:
    """The flat colours of a picture, most common first.

    `flat` says whether the picture is made of flat colours at all; `lossy` whether they are smeared (JPEG); `explained` is
    the share of pixels near one of the colours; `working` the pixels to be labelled (smoothed where lossy). `noisy` says
    that the picture is made of fine dots (dither, grain, noise), which were blurred into what they stand for. `least` is
    the colour that would be given up first if one fewer were asked for; None if none would be. `noise` is that of a lossy
    picture.
    """

    colours: tuple[Rgb, ...]
    flat: bool
    lossy: bool
    explained: float
    working: ByteArray
    noisy: bool = False
    least: Rgb | None = None
    noise: Noise | None = None

    def without_pixels(self) -> Palette:
        """The same without its pixels, for what only needs the colours."""
        return replace(self, working=np.empty((0, 0, 3), np.uint8))


def find_palette(
    rgb: ByteArray,
    *,
    count: int | None = None,
    picked: tuple[Rgb, ...] = (),
    keep: tuple[Rgb, ...] = (),
    held: tuple[Rgb, ...] = (),
    noise: Noise | None = None,
) -> Palette:
    """The colours of `rgb` (height, width, 3 bytes).

    `count` asks for just so many (None: as many as are there); `picked` are colours the maker took from the picture, and
    always come first; `keep` are colours that must not be folded into others (the key of a transparent picture), not
    counted in `count`. Where fewer are asked for, those near `held` and the background are not given up; fewer come back
    where the picture holds no more. `noise` is that of a lossy picture (None: told by its pixels). Raises RecipeError if
    more were picked than asked for.
    """
    raw = rgb
    wanted = None if count is None else count + len(keep)
    noisy = pixels.speckled_share(rgb, _STANDS_OUT) > _SPECKLED_SHARE
    if noisy:
        rgb = np.asarray(cv2.GaussianBlur(rgb, (0, 0), _DESCREEN_PX), np.uint8)
    lossy = noisy or noise == DOTS or pixels.near_flat_share(rgb) > _ROUGH_SHARE
    forced = keep + picked
    if lossy:
        smooth = rgb if noisy else pixels.sigma_filter(pixels.sigma_filter(rgb, 22), 16)
        working: ByteArray = np.asarray(cv2.medianBlur(smooth, 3), np.uint8)
        noise = DOTS if noisy else noise or noise_of(raw, "", None)
        # Under JPEG small true shades look like echoes; its ringing is told from them by `lossy_colours`.
        only_soft = not noisy and noise.strength <= 1
        crisp = only_soft and edge_width(raw) < _SOFT_EDGE_PX
        found = lossy_colours(rgb if noisy else raw, noise, crisp=crisp)
        if not noisy and len(found) <= _MOST_LOSSY:
            found = with_thin_colours(raw, found, noise, crisp=crisp)
            found = without_echoes(raw, found) if only_soft else found
        share = pixels.explained_share(working, np.array(found[:MAX_COLOURS], np.float32), 9.0) if found else 0.0
    else:
        working = rgb
        found, share = _clean_colours(rgb)
    noisiest = lossy and (noise is None or noise.strength > 1)
    flat = share >= _FLAT_SHARE and len(found) <= (_MOST_LOSSY if noisiest else MAX_COLOURS)
    if not flat:
        grouped = _grouped_colours(working, (wanted or DEFAULT_FILMS_NOT_FLAT) - len(forced))
        found = grouped
    every = _combine(forced, found, _SUPPRESS_LOSSY * 2 if lossy else 2.0)[: MAX_COLOURS + len(keep)]
    colours = every
    needed = len(forced)
    if wanted is not None and len(every) != wanted:
        if flat and lossy and noise is not None and len(every) < wanted:
            every += tuple(lossy_colours(rgb if noisy else raw, noise, every, wanted - len(every)))
        # What noise explains is not split to make up a number: fewer are found then.
        known = len(every) <= wanted and flat and lossy
        colours = every if known else _reach(every, wanted, needed, held, working)
    least = _least(every, colours, needed, held, working) if flat else None
    return Palette(colours, flat, lossy or not flat, share, working, noisy, least, noise if lossy else None)


def _least(
    every: tuple[Rgb, ...], colours: tuple[Rgb, ...], needed: int, held: tuple[Rgb, ...], working: ByteArray
) -> Rgb | None:
    """The colour that is given up if one fewer is asked for."""
    if len(colours) > len(every):
        return colours[-1]
    fewer = _fold_to(every, len(colours) - 1, needed, held, working)
    return next((c for c in colours if c not in fewer), None)


def _combine(forced: tuple[Rgb, ...], found: list[Rgb], apart: float) -> tuple[Rgb, ...]:
    rest = [c for c in found if not forced or float(np.min(delta_e(np.array(forced), np.array(c)))) > apart]
    return forced + tuple(rest)


def _clean_colours(rgb: ByteArray) -> tuple[list[Rgb], float]:
    """Exact colours of flat places, most common first, and the share of near-flat pixels that they explain."""
    codes, counts = pixels.flat_colour_counts(rgb)
    if not len(codes):
        return [], 0.0
    order = np.argsort(-counts, kind="stable")
    codes, counts = codes[order], counts[order]
    colours = np.stack([codes >> 16, (codes >> 8) & 255, codes & 255], axis=1)
    labs = to_lab(colours[: 16 * MAX_COLOURS])
    chosen: list[int] = []
    for k in range(len(labs)):
        if counts[k] < 4:
            break
        if not chosen or np.min(np.linalg.norm(labs[chosen] - labs[k], axis=1)) > _SUPPRESS_CLEAN:
            chosen.append(k)
        if len(chosen) > 4 * MAX_COLOURS:
            break
    palette = [_rgb(colours[k]) for k in chosen]
    if not palette:
        return [], 0.0
    palette += _thin_colours(rgb, palette)
    if len(palette) <= _MOST_LOSSY:
        palette = without_echoes(rgb, palette)
    share = pixels.explained_share(rgb, np.array(palette[:MAX_COLOURS], np.float32), 3.0)
    return palette, share


def _thin_colours(rgb: ByteArray, palette: list[Rgb]) -> list[Rgb]:
    """Colours that occur only in lines and dots too thin for a flat place, found where no mix of neighbours explains."""
    found: list[Rgb] = []
    for _ in range(6):
        if not 0 < len(palette) + len(found) <= MAX_COLOURS:
            break
        table = np.array(palette + found, np.float32)
        cores = mixes.strict_cores(pixels.nearest_colour(rgb, table, 2.5))
        codes = mixes.unexplained_colours(rgb, table, cores, 10.0)
        if len(codes) < 8:
            break
        colours = np.stack([codes >> 16, (codes >> 8) & 255, codes & 255], axis=1)
        _values, where, counts = np.unique(codes, return_inverse=True, return_counts=True)
        best = int(np.argmax(counts))
        colour = _rgb(np.median(colours[where == best], axis=0))
        if counts[best] < max(6, 0.04 * len(codes)) or np.min(delta_e(table, np.array(colour))) < 2.0:
            break
        found.append(colour)
    return found


def _grouped_colours(rgb: ByteArray, count: int) -> list[Rgb]:
    """The colours of a picture that is not flat, grouped into `count` (k-means in CIELAB, fixed seed)."""
    if count <= 0:
        return []
    height, width = rgb.shape[:2]
    step = max(1, int(np.sqrt(height * width / 40_000)))
    sample = to_lab(rgb[::step, ::step].reshape(-1, 3)).astype(np.float32)
    cv2.setRNGSeed(7)
    criteria = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 30, 0.3)
    start = np.zeros((len(sample), 1), np.int32)
    _, labels, _ = cv2.kmeans(sample, min(count, len(sample)), start, criteria, 2, cv2.KMEANS_PP_CENTERS)
    flat = rgb[::step, ::step].reshape(-1, 3)
    order = np.argsort(-np.bincount(labels[:, 0], minlength=count))
    found = [np.median(flat[labels[:, 0] == k], axis=0) for k in order if np.any(labels[:, 0] == k)]
    return list(dict.fromkeys(_rgb(c) for c in found))


def _reach(colours: tuple[Rgb, ...], count: int, forced: int, held: tuple[Rgb, ...], working: ByteArray) -> tuple[Rgb, ...]:
    """`colours` folded down or filled up to `count`; the first `forced` and those near `held` are never given up."""
    if count < max(forced, 1):
        raise RecipeError(
            f"{forced} colours were picked, but only {count} asked for.", "Ask for more colours, or take picks back."
        )
    if len(colours) > count:
        fewer = _fold_to(colours, count, forced, held, working)
        if len(fewer) > count:
            raise RecipeError(
                f"{len(fewer)} colours were picked or named, or are the background, and stay.",
                "Merge two of them, or drop one.",
            )
        return fewer
    counts = pixels.quiet_modes(working, _LOOSELY_QUIET)
    current = list(colours)
    cells = counts[0]
    while len(current) < count and len(cells):
        apart = np.min(np.linalg.norm(to_lab(cells)[:, None] - to_lab(np.array(current))[None], axis=2), axis=1)
        gain = np.where(apart > _SUPPRESS_CLEAN, apart**2 * counts[1], 0.0)
        best = int(np.argmax(gain))
        if gain[best] <= 0:
            break
        current.append(_rgb(cells[best]))
    return tuple(current)


def _fold_to(
    colours: tuple[Rgb, ...], count: int, forced: int, held: tuple[Rgb, ...], working: ByteArray
) -> tuple[Rgb, ...]:
    """Ward's merging: again and again the colour whose loss changes the picture least is given up.

    The first `forced`, those near `held`, and the background stay, be they more than `count`.
    """
    nearest = pixels.nearest_colour(working, np.array(colours, np.float32), 1e9)
    weights = np.bincount(nearest.ravel(), minlength=len(colours)).astype(np.float64)
    labs = to_lab(np.array(colours))
    stay = set(range(forced)) | {int(np.argmin(delta_e(np.array(colours), np.array(h)))) for h in held}
    if (behind := border_background(np.concatenate([nearest[0], nearest[-1], nearest[:, 0], nearest[:, -1]]))) is not None:
        stay.add(behind)
    left = list(range(len(colours)))
    while len(left) > max(1, count):
        best: tuple[float, int, int] | None = None
        for lose in left:
            if lose in stay:
                continue
            for keep in left:
                if keep == lose:
                    continue
                a, b = weights[lose] + 1, weights[keep] + 1
                cost = float(a * b / (a + b) * np.sum((labs[lose] - labs[keep]) ** 2))
                if weights[lose] <= weights[keep] or keep in stay:
                    best = min(best, (cost, lose, keep)) if best else (cost, lose, keep)
        if best is None:
            break
        _, lose, keep = best
        weights[keep] += weights[lose]
        left.remove(lose)
    return tuple(colours[k] for k in left)


def _rgb(values: npt.ArrayLike) -> Rgb:
    r, g, b = (round(float(v)) for v in np.asarray(values))
    return r, g, b
