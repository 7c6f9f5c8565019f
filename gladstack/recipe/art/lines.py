"""Line art: its ink, and the areas that it encloses."""

from __future__ import annotations

from gladstack.core.films.regions import Paint, Painting
from gladstack.core.geometry.curves import Curve
from gladstack.core.picture.line_art import TracedLines, trace_line_art
from gladstack.core.picture.separate import TraceOptions
from gladstack.recipe.art.given import Assets, Facts, LineFacts
from gladstack.recipe.art.origin import Origin, decoded
from gladstack.recipe.model.arts import LineArt
from gladstack.stages.engine import Stages, part

INK_COLOUR = "#000000"


def line_origin(art: LineArt, assets: Assets, stages: Stages) -> Origin:
    """Line art, traced."""
    picture = decoded(art, assets, stages)
    options = TraceOptions(art.detail_mm, art.smoothing_mm, art.speck_mm)
    source = stages.costly("map", trace_line_art, picture, art.threshold, art.width_mm, options)
    painting = stages.run("art", line_painting, source, None if art.ink == "none" else art.ink_film)
    silhouette = art.ink_film if art.ink == "solid" else None
    return Origin(source, painting, part(source, "curves", _ink_edges), part(source, "facts", line_facts), silhouette)


def _ink_edges(source: TracedLines) -> tuple[Curve, ...]:
    return source.curves


def line_painting(source: TracedLines, film: str | None) -> Painting:
    """What line art paints: its ink, for a film or for none."""
    return Painting(source.size_mm, (Paint(film, INK_COLOUR, source.ink, film is None),), waits=True)


def line_facts(source: TracedLines) -> Facts:
    """What is known of line art."""
    return LineFacts(source.threshold, source.proposed, source.dotted)
