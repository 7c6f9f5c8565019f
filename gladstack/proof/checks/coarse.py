"""Pictures with too few pixels for the size they are cut at."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding
from gladstack.recipe.edit.edits import Edit

_EDGE_PX = 0.34
"""An edge is found to about a third of a pixel, where a picture is clean."""
_SEEN_MM = 0.15
"""An edge that is off by more is seen."""


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.picture is None:
        return
    art, _, seen = read.picture
    mm_per_px = seen.mm_per_px * max(abs(art.place.scale_x), abs(art.place.scale_y))
    off = _EDGE_PX * mm_per_px
    if off <= _SEEN_MM:
        return
    wide = art.width_mm * abs(art.place.scale_x)
    yield Finding(
        "coarse",
        f"This picture has {1 / mm_per_px:.1f} pixels a millimetre at {wide:.0f} mm: its edges may be off by {off:.2f} mm.",
        "mind" if off > 2 * _SEEN_MM else "note",
        measure=Measure(round(off, 3), _SEEN_MM, "mm"),
        helps=f"Cut it no wider than about {wide * _SEEN_MM / off:.0f} mm, or bring in a copy with more pixels.",
    )


CHECK = ArtCheck(("coarse",), _findings, "art", "what an eye sees of an edge")
