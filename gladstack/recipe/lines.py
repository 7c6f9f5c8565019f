"""Line art as art: the stages from a picture of lines to claimed regions."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.curves import Curve
from gladstack.core.joints import clean
from gladstack.core.lineart import INK, PAPER, find_lines, trace_lines
from gladstack.core.picture import decode_picture
from gladstack.core.planar import PlanarMap
from gladstack.core.separate import TraceOptions
from gladstack.core.trace import OUTSIDE
from gladstack.recipe.arts import LineArt
from gladstack.recipe.memo import key_of
from gladstack.recipe.regions import Claimed, claim
from gladstack.recipe.source import Clock, PictureLoader


@dataclass(frozen=True)
class TracedLines:
    """The planar map of a picture of lines, and what its threshold is and was proposed to be."""

    map: PlanarMap
    threshold: int
    proposed: int
    size_px: tuple[int, int]

    @property
    def curves(self) -> tuple[Curve, ...]:
        """The curves of all edges, in mm."""
        return tuple(a.curve for a in self.map.arcs)


def trace(art: LineArt, load: PictureLoader, clock: Clock) -> TracedLines:
    """The traced picture, remembered under just the choices that it needs."""
    key = key_of("lines", art.picture, art.threshold, art.width_mm, art.detail_mm, art.smoothing_mm, art.speck_mm)

    def work() -> TracedLines:
        picture = clock.run("decode", art.picture, lambda: decode_picture(load(art.picture), art.filename), heavy=True)
        lines = find_lines(picture.rgb, art.threshold)
        options = TraceOptions(art.detail_mm, art.smoothing_mm, art.speck_mm)
        map_ = trace_lines(lines, mm_per_px=art.width_mm / picture.width_px, options=options)
        return TracedLines(map_, lines.threshold, lines.proposed, (picture.width_px, picture.height_px))

    return clock.run("map", key, work)


def claimed_lines(art: LineArt, traced: TracedLines) -> Claimed:
    """Whose areas are whose: the ink's film, the pins', and those that still wait."""
    map_ = traced.map
    outer = {a.left for a in map_.arcs if a.right == OUTSIDE} | {a.right for a in map_.arcs if a.left == OUTSIDE}
    enclosed = [map_.areas[k] for k in np.flatnonzero(map_.labels == PAPER) if int(k) not in outer]
    ink = [map_.areas[k] for k in np.flatnonzero(map_.labels == INK)]
    regions: list[tuple[str | None, Polygon]] = [(None, p) for p in enclosed if not p.is_empty]
    claimed = claim(regions, art.pins, art.width_mm)
    by_film = dict(claimed.by_film)
    if art.ink != "none":
        shape: shapely.Geometry = shapely.union_all(ink)
        if art.ink == "solid":
            shape = shapely.union_all([Polygon(p.exterior) for p in shapely.get_parts(shape)])
        own = by_film.get(art.ink_film, MultiPolygon())
        by_film[art.ink_film] = clean(shapely.union(shape, own))
    return Claimed(by_film, claimed.waiting, claimed.lost)
