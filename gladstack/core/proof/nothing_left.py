"""Films of which nothing is left to cut."""

from __future__ import annotations

from collections.abc import Iterator

from shapely import MultiPolygon

from gladstack.core.base.findings import Finding, Place


def nothing_left(film: str, name: str, shape: MultiPolygon, cut: MultiPolygon) -> Iterator[Finding]:
    """Tells of a film that has a shape, but nothing to cut."""
    if not cut.is_empty:
        return
    said = f"Nothing of {name} is left to cut: its joints take all of it."
    yield Finding("nothing-left", said, "stop", film, Place(box=shape.bounds), helps="Give it another joint or place.")
