"""Line art: ink parted from paper on scans that are grey, noisy and unevenly lit, as a planar map of two labels."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from shapely import MultiPolygon

from gladstack.core.geometry.curves import Curve
from gladstack.core.picture.areas import calmed
from gladstack.core.picture.decode import Picture
from gladstack.core.picture.lines import Lines, find_lines
from gladstack.core.picture.palette import Palette
from gladstack.core.picture.planar import PlanarMap
from gladstack.core.picture.separate import TraceOptions, map_labels, without_specks

PAPER, INK = 0, 1


def trace_lines(lines: Lines, *, mm_per_px: float, options: TraceOptions) -> PlanarMap:
    """The planar map of ink and paper; every area's label is `PAPER` or `INK`."""
    t = float(lines.threshold)
    levels = np.arange(256, dtype=np.float64)
    # The threshold comes to lie half-way between black and white, where edges are placed.
    stretched = np.where(levels < t, levels / t * 127.5, 127.5 + (levels - t) / (255.0 - t) * 127.5)
    grey = np.round(stretched).astype(np.uint8)[lines.grey]
    rgb = np.ascontiguousarray(np.repeat(grey[..., None], 3, axis=2))
    labels, _ = calmed((grey < 128).astype(np.int16), noisy=lines.dotted)
    palette = Palette(((255, 255, 255), (0, 0, 0)), True, lines.rough, 1.0, rgb)
    same = np.arange(2, dtype=np.int16)
    cleaned = without_specks(rgb, palette, labels, same, mm_per_px=mm_per_px, options=options)
    return map_labels(rgb, palette, labels, cleaned, same, mm_per_px=mm_per_px, options=options)


@dataclass(frozen=True)
class TracedLines:
    """Line art traced: its ink, the curves of its edges, its size in mm, the threshold taken and the proposed one."""

    ink: MultiPolygon
    curves: tuple[Curve, ...]
    size_mm: tuple[float, float]
    threshold: int
    proposed: int
    dotted: bool


def trace_line_art(picture: Picture, threshold: int | None, width_mm: float, options: TraceOptions) -> TracedLines:
    """The ink of a picture of lines that is `width_mm` wide."""
    lines = find_lines(picture.rgb, threshold)
    map_ = trace_lines(lines, mm_per_px=width_mm / picture.width_px, options=options)
    ink = MultiPolygon([p for k in np.flatnonzero(map_.labels == INK) if not (p := map_.areas[k]).is_empty])
    size = (width_mm, width_mm * picture.height_px / picture.width_px)
    return TracedLines(ink, tuple(a.curve for a in map_.arcs), size, lines.threshold, lines.proposed, lines.dotted)
