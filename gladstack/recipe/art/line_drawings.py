"""Line art as art: from a picture of lines to what it paints."""

from __future__ import annotations

import numpy as np
from shapely import MultiPolygon

from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.line_art import INK, find_lines, trace_lines
from gladstack.core.picture.separate import TraceOptions
from gladstack.recipe.art.claimed import Origin
from gladstack.recipe.art.regions import Painted, Painting
from gladstack.recipe.art.separated import NOISY, Clock, PictureLoader
from gladstack.recipe.model.arts import LineArt
from gladstack.stages.memo import key_of

INK_COLOUR = "#000000"
_TRACED = ("picture", "threshold", "width_mm", "detail_mm", "smoothing_mm", "speck_mm")
"""The choices that the trace depends on."""


def origin_of_lines(art: LineArt, load: PictureLoader, clock: Clock) -> Origin:
    """The traced ink, remembered under just the choices that it needs."""
    trace_key = key_of("lines", [getattr(art, k) for k in _TRACED])

    def trace() -> Origin:
        picture = clock.run("decode", art.picture, lambda: decode_picture(load(art.picture), art.filename))
        lines = find_lines(picture.rgb, art.threshold)
        options = TraceOptions(art.detail_mm, art.smoothing_mm, art.speck_mm)
        map_ = trace_lines(lines, mm_per_px=art.width_mm / picture.width_px, options=options)
        ink = MultiPolygon([p for k in np.flatnonzero(map_.labels == INK) if not (p := map_.areas[k]).is_empty])
        size = (art.width_mm, art.width_mm * picture.height_px / picture.width_px)
        painting = Painting(trace_key, size, (Painted(None, INK_COLOUR, ink),), waits=True)
        curves = tuple(a.curve for a in map_.arcs)
        notices = (("noisy", NOISY),) if lines.dotted else ()
        return Origin(painting, curves, notices, threshold=(lines.threshold, lines.proposed))

    traced = clock.run("map", trace_key, trace, costly=True)
    (ink,) = traced.painting.painted
    film = None if art.ink == "none" else art.ink_film
    key = key_of(trace_key, film)
    painting = Painting(key, traced.painting.size_mm, (Painted(film, ink.colour, ink.shape),), waits=True)
    silhouette = art.ink_film if art.ink == "solid" else None
    return Origin(painting, traced.curves, traced.notices, threshold=traced.threshold, silhouette=silhouette)
