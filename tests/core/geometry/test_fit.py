"""Curves fitted to polylines: close, and bent no more than readers draw truly."""

from __future__ import annotations

import numpy as np
import pytest
import shapely

from gladstack.core.geometry.curves import Chain, flatten_chain
from gladstack.core.geometry.fit import fit_polyline

CORNER = np.radians(35.0)


def round_about(radius: float, from_deg: float, to_deg: float) -> np.ndarray:
    turns = np.radians(np.linspace(from_deg, to_deg, 400))
    return radius * np.stack([np.cos(turns), np.sin(turns)], axis=1)


@pytest.mark.parametrize("radius", [2.0, 20.0, 300.0])
@pytest.mark.parametrize("span", [30.0, 120.0, 270.0])
def test_no_piece_turns_by_more_than_80_degrees_and_a_large_one_by_50(radius: float, span: float) -> None:
    points = round_about(radius, 10.0, 10.0 + span)
    pieces, straight = fit_polyline(points, CORNER, 1e9, 0.01, False)
    assert pieces[0, 0] == pytest.approx(points[0])
    assert pieces[-1, 3] == pytest.approx(points[-1])
    turned = 0.0
    for piece in pieces[~straight]:
        begin, end = piece[1] - piece[0], piece[3] - piece[2]
        turn = np.degrees(np.arccos(np.clip(begin @ end / (np.hypot(*begin) * np.hypot(*end)), -1, 1)))
        rise = np.hypot(*(0.375 * (piece[1] + piece[2] - piece[0] - piece[3])))
        assert turn <= (80.0 if rise < 14.0 else 50.0) + 1e-6
        turned += turn
    assert turned == pytest.approx(span, abs=3.0)
    fitted = shapely.LineString(flatten_chain(Chain(pieces, straight), 0.001))
    assert shapely.hausdorff_distance(fitted, shapely.LineString(points), densify=0.01) <= 0.02


def test_few_pieces_are_taken() -> None:
    pieces, _ = fit_polyline(round_about(20.0, 0.0, 90.0), CORNER, 1e9, 0.01, False)
    assert len(pieces) == 2


def test_a_corner_stays_a_corner() -> None:
    legs = np.array([[x, 0.0] for x in np.linspace(0, 10, 20)] + [[10.0, y] for y in np.linspace(0.5, 10, 20)])
    pieces, straight = fit_polyline(legs, CORNER, 1e9, 0.01, False)
    assert straight.all()
    assert any(np.allclose(piece[3], [10.0, 0.0], atol=1e-9) for piece in pieces)
