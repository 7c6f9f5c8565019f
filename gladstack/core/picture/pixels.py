"""The loops over pixels, compiled. Nothing here decides anything: thresholds come from the callers."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base.compiled import jit
from gladstack.core.picture import windows

Bytes = npt.NDArray[np.uint8]


@jit
def near_flat_share(rgb: Any) -> float:
    """Among pixels whose 2 x 2 block varies by at most 12 levels, the share that is not exactly flat.

    About 0 for a clean flat picture, large for a JPEG or a gradient.
    """
    h, w, _ = rgb.shape
    step = max(1, int(np.sqrt(h * w / 1_000_000)))
    near = 0
    rough = 0
    for y in range(0, h - 1, step):
        for x in range(w - 1):
            spread = 0
            for c in range(3):
                a, b, d, e = int(rgb[y, x, c]), int(rgb[y, x + 1, c]), int(rgb[y + 1, x, c]), int(rgb[y + 1, x + 1, c])
                spread = max(spread, max(a, b, d, e) - min(a, b, d, e))
            if spread <= 12:
                near += 1
                if spread > 1:
                    rough += 1
    return rough / max(1, near)


@jit
def sloping_share(rgb: Any) -> float:
    """Share of pixels that differ from the one 4 px to the right, or below, by 1 to 12 levels, in a thinned grid."""
    h, w, _ = rgb.shape
    step = max(1, int(np.sqrt(h * w / 100_000)))
    found = 0
    seen = 0
    for y in range(0, h - 4, step):
        for x in range(0, w - 4, step):
            seen += 1
            apart = 0
            for c in range(3):
                apart = max(apart, int(abs(np.int64(rgb[y, x, c]) - np.int64(rgb[y, x + 4, c]))))
                apart = max(apart, int(abs(np.int64(rgb[y, x, c]) - np.int64(rgb[y + 4, x, c]))))
            if 1 <= apart <= 12:
                found += 1
    return found / max(1, seen)


@jit
def speckled_share(rgb: Any, least: int) -> float:
    """Share of pixels that stand out by `least` levels from three of four neighbours: dither, grain and noise.

    Lines and text do so at their tips and slants only, JPEG hardly anywhere.
    """
    h, w, _ = rgb.shape
    step = max(1, int(np.sqrt(h * w / 1_000_000)))
    found = 0
    seen = 0
    for y in range(1, h - 1, step):
        for x in range(1, w - 1):
            seen += 1
            beside = 0
            for k in range(4):
                v, u = (y - 1, x) if k == 0 else (y + 1, x) if k == 1 else (y, x - 1) if k == 2 else (y, x + 1)
                apart = 0
                for c in range(3):
                    # Unsigned bytes would wrap round below nought.
                    apart = max(apart, int(abs(np.int64(rgb[y, x, c]) - np.int64(rgb[v, u, c]))))
                if apart >= least:
                    beside += 1
            if beside >= 3:
                found += 1
    return found / max(1, seen)


@jit
def _is_flat(rgb: Any, y: int, x: int, tolerance: int) -> bool:
    for c in range(3):
        centre = int(rgb[y, x, c])
        for dy in range(-1, 2):
            for dx in range(-1, 2):
                if abs(int(rgb[y + dy, x + dx, c]) - centre) > tolerance:
                    return False
    return True


@jit
def _flat_runs(rgb: Any, flat: Any, codes: Any, counts: Any) -> int:
    h, w, _ = rgb.shape
    n = 0
    for y in range(1, h - 1):
        last = -1
        for x in range(1, w - 1):
            if not flat[y, x]:
                continue
            code = (int(rgb[y, x, 0]) << 16) | (int(rgb[y, x, 1]) << 8) | int(rgb[y, x, 2])
            if code != last:
                if n == codes.shape[0]:
                    return n
                codes[n] = code
                counts[n] = 0
                last = code
                n += 1
            counts[n - 1] += 1
    return n


def flat_colour_counts(rgb: Bytes) -> tuple[npt.NDArray[np.int64], npt.NDArray[np.int64]]:
    """Colours (as 24-bit numbers) of pixels whose 3 x 3 neighbourhood is flat, and how many pixels have each."""
    room = rgb.shape[0] * rgb.shape[1] // 2 + 1
    runs, lengths = np.empty(room, np.int32), np.empty(room, np.int32)
    kernel = np.ones((3, 3), np.uint8)
    off = cv2.max(cv2.subtract(cv2.dilate(rgb, kernel), rgb), cv2.subtract(rgb, cv2.erode(rgb, kernel)))
    n = _flat_runs(rgb, windows.greatest(np.asarray(off, np.uint8)) <= 1, runs, lengths)
    codes, where = np.unique(runs[:n], return_inverse=True)
    return codes.astype(np.int64), np.bincount(where, lengths[:n], len(codes)).astype(np.int64)


@jit
def explained_share(rgb: Any, colours: Any, reach: float) -> float:
    """Share of the pixels within `reach` levels (Euclid) of one of `colours`, over a thinned grid."""
    h, w, _ = rgb.shape
    step = max(1, int(np.sqrt(h * w / 60_000)))
    hits = 0
    seen = 0
    for y in range(0, h, step):
        for x in range(0, w, step):
            seen += 1
            for k in range(colours.shape[0]):
                d = 0.0
                for c in range(3):
                    d += (float(rgb[y, x, c]) - colours[k, c]) ** 2
                if d <= reach * reach:
                    hits += 1
                    break
    return hits / max(1, seen)


@jit
def nearest_colour(rgb: Any, colours: Any, reach: float) -> Any:
    """For each pixel the index of the nearest of `colours`, -1 if none is within `reach` levels (Euclid)."""
    h, w, _ = rgb.shape
    out = np.empty((h, w), np.int16)
    count = colours.shape[0]
    for y in range(h):
        last = 0
        last_code = -1
        for x in range(w):
            code = (int(rgb[y, x, 0]) << 16) | (int(rgb[y, x, 1]) << 8) | int(rgb[y, x, 2])
            if code != last_code:
                best = reach * reach
                last = -1
                for k in range(count):
                    r, g, b = rgb[y, x, 0] - colours[k, 0], rgb[y, x, 1] - colours[k, 1], rgb[y, x, 2] - colours[k, 2]
                    d = r * r + g * g + b * b
                    if d <= best:
                        best = d
                        last = k
                last_code = code
            out[y, x] = last
    return out


def sigma_filter(rgb: Bytes, spread: int) -> Bytes:
    """Each pixel becomes the mean of those in its 5 x 5 window within `spread` levels in every channel (Lee 1983)."""
    # Where the whole window lies within the spread, as in most of a drawing, the mean is a plain one.
    rough = windows.spread(rgb, 5) > spread
    return np.asarray(_sigma_filter(rgb, spread, rough, cv2.blur(rgb, (5, 5), borderType=cv2.BORDER_REPLICATE)), np.uint8)


@jit
def _sigma_filter(rgb: Any, spread: int, rough: Any, plain: Any) -> Any:
    h, w, _ = rgb.shape
    out = plain.copy()
    for y in range(h):
        y0, y1 = max(0, y - 2), min(h, y + 3)
        for x in range(w):
            if not rough[y, x]:
                continue
            x0, x1 = max(0, x - 2), min(w, x + 3)
            r, g, b = int(rgb[y, x, 0]), int(rgb[y, x, 1]), int(rgb[y, x, 2])
            sr = sg = sb = n = 0
            for v in range(y0, y1):
                for u in range(x0, x1):
                    p, q, s = int(rgb[v, u, 0]), int(rgb[v, u, 1]), int(rgb[v, u, 2])
                    if abs(p - r) <= spread and abs(q - g) <= spread and abs(s - b) <= spread:
                        sr += p
                        sg += q
                        sb += s
                        n += 1
            out[y, x, 0] = (sr + n // 2) // n
            out[y, x, 1] = (sg + n // 2) // n
            out[y, x, 2] = (sb + n // 2) // n
    return out


@jit
def _quiet_cells(rgb: Any, quiet: int, counts: Any, sums: Any) -> None:
    h, w, _ = rgb.shape
    for y in range(1, h - 1):
        for x in range(1, w - 1):
            if _is_flat(rgb, y, x, quiet):
                r, g, b = int(rgb[y, x, 0]), int(rgb[y, x, 1]), int(rgb[y, x, 2])
                cell = ((r >> 2) << 12) | ((g >> 2) << 6) | (b >> 2)
                counts[cell] += 1
                sums[cell, 0] += r
                sums[cell, 1] += g
                sums[cell, 2] += b


def quiet_modes(rgb: Bytes, quiet: int) -> tuple[npt.NDArray[np.float64], npt.NDArray[np.float64]]:
    """Mean colours and crowding of the occupied cells (4 levels wide) of pixels in places varying by `quiet` levels."""
    counts = np.zeros(1 << 18, np.int64)
    sums = np.zeros((1 << 18, 3), np.int64)
    _quiet_cells(rgb, quiet, counts, sums)
    return _cell_means(counts, sums)


def _cell_means(
    counts: npt.NDArray[np.int64], sums: npt.NDArray[np.int64]
) -> tuple[npt.NDArray[np.float64], npt.NDArray[np.float64]]:
    cells = np.flatnonzero(counts)
    crowd = counts[cells].astype(np.float64)
    return sums[cells] / crowd[:, None], crowd
