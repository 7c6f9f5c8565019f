"""Lines on paper: whether a picture is drawn in them, and its grey levels evened so that ink parts from paper."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from gladstack.core.base.colour import to_lab
from gladstack.core.picture import pixels
from gladstack.core.picture.decode import Picture

ByteArray = npt.NDArray[np.uint8]

_BLOCKS = 20
"""The paper's brightness is told from so many blocks across; lighting changes slowly."""
_PAPER_RANK = 88.0
_NOISY = 2.5
"""Grey levels of noise above which the picture is smoothed before its edges are placed."""

_HARD_SMOOTHING_PX = 1.4
_STANDS_OUT, _SPECKLED_SHARE, _DESCREEN_PX = 50, 0.15, 1.6
"""A scan is made of dots if so many of its pixels stand out from all around them by so many levels; they are blurred."""


@dataclass(frozen=True)
class Lines:
    """Line art evened out: grey levels with paper near 255, and the threshold between ink and paper that was taken.

    `rough` says that its edges are noisy or stepped, and are to be followed less closely; `dotted` that it is made of
    fine dots, which were blurred.
    """

    grey: ByteArray
    threshold: int
    proposed: int
    rough: bool
    dotted: bool = False


def find_lines(rgb: ByteArray, threshold: int | None = None) -> Lines:
    """The evened picture, and the threshold: the proposed one lies half-way between the ink's grey and the paper's."""
    evened = even_paper(rgb)
    dotted = pixels.speckled_share(np.repeat(evened[..., None], 3, axis=2), _STANDS_OUT) > _SPECKLED_SHARE
    if dotted:
        evened = np.asarray(cv2.GaussianBlur(evened, (0, 0), _DESCREEN_PX), np.uint8)
    noise = _noise(evened)
    if noise > _NOISY:
        evened = np.asarray(cv2.GaussianBlur(evened, (0, 0), min(1.4, 0.5 + 0.06 * noise)), np.uint8)
    hard = _is_hard(evened)
    if hard:
        # Staircases without greys tell nothing finer than pixels; smoothed, their middle does.
        evened = np.asarray(cv2.GaussianBlur(evened, (0, 0), _HARD_SMOOTHING_PX), np.uint8)
    split, _ = cv2.threshold(evened, 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    dark, light = evened[evened <= split], evened[evened > split]
    ink = float(np.percentile(dark, 30)) if dark.size else 0.0
    paper = float(np.median(light)) if light.size else 255.0
    proposed = int(np.clip(round((ink + paper) / 2), 1, 254))
    taken = threshold if threshold is not None else proposed
    return Lines(np.asarray(evened, np.uint8), taken, proposed, hard or noise > _NOISY, dotted)


def even_paper(rgb: ByteArray) -> ByteArray:
    """Grey levels divided by the paper's own brightness round them, so that shade and tint of the paper vanish."""
    grey = cv2.cvtColor(np.ascontiguousarray(rgb), cv2.COLOR_RGB2GRAY)
    height, width = grey.shape
    step = max(8, min(height, width) // _BLOCKS)
    rows, columns = -(-height // step), -(-width // step)
    padded = np.pad(grey, ((0, rows * step - height), (0, columns * step - width)), mode="edge")
    blocks = padded.reshape(rows, step, columns, step).swapaxes(1, 2).reshape(rows, columns, -1)
    paper = np.percentile(blocks, _PAPER_RANK, axis=2).astype(np.float32)
    # Blocks within broad ink know nothing of the paper: they take it from their neighbours.
    paper = cv2.dilate(paper, np.ones((3, 3), np.uint8))
    floor = 0.45 * float(np.percentile(paper, 90))
    paper[paper < floor] = float(np.percentile(paper, 90))
    paper = cv2.GaussianBlur(paper, (0, 0), 1.0)
    local = cv2.resize(paper, (columns * step, rows * step), interpolation=cv2.INTER_CUBIC)[:height, :width]
    return np.asarray(np.clip(grey * (255.0 / np.maximum(local, 1.0)), 0, 255), np.uint8)


def _is_hard(grey: ByteArray) -> bool:
    """Whether edges are drawn without in-between greys, as bitmaps of one bit are."""
    dark = grey < 128
    edges = np.count_nonzero(dark[:, 1:] != dark[:, :-1])
    between = np.count_nonzero((grey > 40) & (grey < 215))
    return bool(between < 0.1 * edges)


def _noise(grey: ByteArray) -> float:
    """The noise of flat parts in grey levels (Immerkaer 1996), by the median, which lines hardly move."""
    kernel = np.array([[1, -2, 1], [-2, 4, -2], [1, -2, 1]], np.float32)
    response = np.abs(cv2.filter2D(grey.astype(np.float32), -1, kernel))
    flat = response[grey < 250] if np.count_nonzero(grey < 250) > grey.size // 3 else response
    return float(np.median(flat) / 0.6745 / 6.0)


_TINTED, _TINTED_SHARE, _ONE_TINT = 14.0, 0.02, 0.93
"""Line art has no more than this share of pixels whose tint is farther than that (CIELAB a, b) from the paper's,
unless all of them lean the same way."""
_BETWEEN, _BETWEEN_SHARE = (0.25, 0.75), 0.004
"""Between ink and paper lie only edges: areas of greys, a pixel and more from both, are no more than this share."""
_LEAST_INK, _MOST_INK = 0.004, 0.4
_THIN_SHARE = 0.035
"""Lines are on average no thicker than this share of the picture's shorter side."""
_SAMPLE_PX = 1200
_THINNED = 4


def drawn_in_lines(picture: Picture) -> bool:
    """Whether a picture is line art; one that is transparent has its paper left out already, and is not."""
    return picture.key is None and is_line_art(picture.rgb)


def is_line_art(rgb: ByteArray) -> bool:
    """Whether a picture is drawn in lines of one ink on paper, be it grey, tinted, noisy or unevenly lit.

    Told by what it lacks: a second tint, areas of grey between ink and paper, and broad ink.
    """
    scale = _SAMPLE_PX / max(rgb.shape[:2])
    if scale < 1:
        rgb = np.asarray(cv2.resize(rgb, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA), np.uint8)
    rgb = np.ascontiguousarray(rgb)
    # A thinned grid tells tints as well as every pixel does.
    lab = to_lab(cv2.GaussianBlur(rgb, (0, 0), 1.5)[::_THINNED, ::_THINNED])
    tint = lab[..., 1:] - np.median(lab[..., 1:].reshape(-1, 2), axis=0)
    # Dark ink shows little of the paper's tint; ink that has one of its own has it everywhere.
    strong = np.hypot(tint[..., 0], tint[..., 1])
    far = strong > _TINTED
    if float(np.mean(far)) > _TINTED_SHARE and np.hypot(*(tint[far] / strong[far][:, None]).mean(axis=0)) < _ONE_TINT:
        return False
    lines = find_lines(rgb)
    dark = lines.grey < lines.threshold
    share = float(dark.mean())
    if not _LEAST_INK < share < _MOST_INK:
        return False
    ink, paper = float(np.median(lines.grey[dark])), float(np.median(lines.grey[~dark]))
    if paper - ink < 60:
        return False
    level = (lines.grey.astype(np.float32) - ink) / (paper - ink)
    between = ((level > _BETWEEN[0]) & (level < _BETWEEN[1])).astype(np.uint8)
    # Edges, soft ones too, are thin: what is left of greys when a rim is taken off are areas.
    if float(cv2.erode(between, np.ones((5, 5), np.uint8)).mean()) > _BETWEEN_SHARE:
        return False
    contours, _ = cv2.findContours(dark.astype(np.uint8), cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
    around = sum(len(c) for c in contours)
    return bool(2.0 * float(dark.sum()) / max(1, around) < _THIN_SHARE * min(dark.shape))
