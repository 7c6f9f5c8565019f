"""Curves fitted to new edges keep to them between their points."""

from __future__ import annotations

import numpy as np
import shapely
from hypothesis import given
from hypothesis import strategies as st

from gladstack.core.base import tolerances
from gladstack.core.geometry.curves import flatten_chain
from gladstack.core.geometry.new_edges import fit_edges

FEW = np.array(
    [
        (-2.9197, -14.647),
        (-2.9163, -14.5886),
        (-3.1123, -14.5834),
        (-3.2237, -14.5191),
        (-3.3787, -14.5259),
        (-3.5389, -14.5017),
    ]
)
LIMIT = 2 * tolerances.CURVE_FIT_MM + tolerances.FLATTEN_MM


def strays(points: np.ndarray, *, closed: bool) -> float:  # type: ignore[type-arg]
    drawn = flatten_chain(fit_edges(points, closed=closed), 0.001)
    return float(shapely.distance(shapely.points(drawn), shapely.linestrings(points)).max())


def test_a_few_points_are_not_passed_by_on_a_detour() -> None:
    assert strays(FEW, closed=False) <= LIMIT


@given(
    st.lists(st.tuples(st.floats(0.05, 0.6), st.floats(-0.5, 0.5)), min_size=3, max_size=40),
    st.booleans(),
)
def test_no_edge_leaves_the_way_it_was_fitted_to(steps: list[tuple[float, float]], closed: bool) -> None:
    turns = np.cumsum([turn for _, turn in steps])
    ways = np.array([(length * np.cos(t), length * np.sin(t)) for (length, _), t in zip(steps, turns, strict=True)])
    points = np.vstack([(0.0, 0.0), np.cumsum(ways, axis=0)])
    if closed:
        points = np.vstack([points, points[0]])
    assert strays(points, closed=closed) <= LIMIT
