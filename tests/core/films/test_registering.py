"""A motif brought again is found where it lies: scaled, turned by anything, shifted; edges that cross are not alike."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely
import shapely.affinity
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import MultiPolygon

from gladstack.core.films.registering import Edges, Fit, agreement, near_edges, registered
from gladstack.core.geometry.edge_points import edge_points
from tests.examples import examples

MOTIF = shapely.union_all(
    [shapely.box(0, 0, 40, 8), shapely.box(0, 0, 8, 30), shapely.Point(30, 24).buffer(7), shapely.box(12, 14, 18, 30)]
)


def edges(shape: shapely.Geometry) -> Edges:
    points = edge_points(MultiPolygon(list(shapely.get_parts(shape))), 0.1)
    kept = points.corner == 0
    return Edges(points.at[kept], points.along[kept])


def seen_through(fit: Fit) -> shapely.Geometry:
    """The motif as a picture of it shows it that lies on it by a fit."""
    a, b, c, d, x, y = fit.matrix
    back = np.linalg.inv(np.array([[a, c, x], [b, d, y], [0, 0, 1]]))
    return shapely.affinity.affine_transform(MOTIF, (*back[0, :2], *back[1, :2], back[0, 2], back[1, 2]))


@given(st.floats(0.5, 2), st.sampled_from([0, 90, 180, -90]), st.floats(-8, 8), st.floats(-60, 60), st.floats(-60, 60))
@settings(max_examples=examples(20))
def test_it_is_found_where_it_lies(scale: float, quarter: float, more: float, x: float, y: float) -> None:
    wanted = Fit(scale, quarter + more, x, y)
    found = registered(edges(MOTIF), edges(seen_through(wanted)))
    assert -180 <= found.turn_deg < 180
    assert found.scale == pytest.approx(wanted.scale, rel=2e-3)
    assert math.remainder(found.turn_deg - wanted.turn_deg, 360) == pytest.approx(0, abs=0.15)
    laid = shapely.affinity.affine_transform(seen_through(wanted), [found.matrix[k] for k in (0, 2, 1, 3, 4, 5)])
    assert shapely.hausdorff_distance(laid, MOTIF) < 0.25


def test_edges_agree_only_where_they_run_the_same_way() -> None:
    along = edges(shapely.box(0, 0, 40, 0.5))
    assert agreement(along, along, Fit()).all()
    # Bars across it lie as near, and run another way.
    across = edges(shapely.union_all([shapely.box(k, -5, k + 0.2, 5.5) for k in np.arange(0, 40, 0.4)]))
    met = agreement(along, across, Fit())
    assert met.mean() < 0.1
    assert not agreement(along, along, Fit(y_mm=3.0)).any()


def test_how_much_agrees_near_a_place_is_a_share_of_the_edges_there() -> None:
    old = edges(MOTIF)
    left = old.at[:, 0] < 20
    assert near_edges(old, left, shapely.box(0, 0, 15, 30), 0.5) == 1.0
    assert near_edges(old, left, shapely.Point(30, 24).buffer(8), 0.5) == 0.0
    assert near_edges(old, left, shapely.box(200, 200, 201, 201), 1.0) is None
    # Ten mm to either side of the line between.
    share = near_edges(old, left, shapely.LineString([(10, 0), (30, 0)]), 0.01)
    assert share == pytest.approx(0.5, abs=0.02)
