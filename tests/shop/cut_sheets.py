"""A sheet to be cut, as small as tests need it."""

from __future__ import annotations

from typing import Any

from gladstack.shop.cut.cutting import SheetCut


def square(x: float, y: float = 0.0) -> tuple[tuple[float, float], ...]:
    """Ten mm wide and high, from a corner."""
    return ((x, y), (x + 10, y), (x + 10, y + 10), (x, y + 10), (x, y))


def cut_sheet(**told: Any) -> SheetCut:
    """A sheet of 400 mm of a red roll, with what is told of it."""
    return SheetCut.model_validate(
        {
            "number": 1, "name": "Red", "file": "red", "material": "red", "material_name": "Red", "colour": "#c0392b",
            "mirrored": False, "piece": "p", "kind": "roll", "bought": False, "width_mm": 300, "length_mm": 400,
            "length_used_mm": 150, "reach_mm": 400, "margin_mm": 5, "spacing_mm": 2, "speed_mm_s": 100, "force_g": 90,
            "passes": 1, "angle_deg": 45, "offset_mm": 0.25, "overcut_mm": 0.5, "keep_mm": 60, "gains": (), **told,
        }
    )  # fmt: skip
