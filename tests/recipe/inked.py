"""Line art for tests."""

from __future__ import annotations

from shapely import MultiPolygon, box

from tests.recipe.test_vectors import NAVY, RED

INK, TEAL = "#14100c", "#2f8f8b"
HALVES = {
    RED: MultiPolygon([box(0, 0, 50, 60)]),
    INK: MultiPolygon([box(50, 0, 51, 60)]),
    NAVY: MultiPolygon([box(51, 0, 100, 60)]),
}
