"""Dots and rings of a picture: an ellipse is drawn as one, whatever a JPEG does to it, and nothing else is."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from gladstack.core.geometry.corners import find_corners
from gladstack.core.geometry.rounds import ellipse_arcs, ellipse_of

Points = np.ndarray


def ellipse(a: float, b: float, turn: float, at: tuple[float, float], noise: float, seed: int) -> Points:
    """Points about one pixel apart along an ellipse, each off by some noise."""
    count = max(9, round(math.pi * (a + b)))
    t = 2 * np.pi * np.arange(count) / count
    x, y = a * np.cos(t), b * np.sin(t)
    c, s = math.cos(turn), math.sin(turn)
    off = np.random.default_rng(seed).normal(0, noise, (count, 2)) if noise else np.zeros((count, 2))
    return np.stack([at[0] + c * x - s * y, at[1] + s * x + c * y], axis=1) + off


def polygon(corners: int, size: float, turn: float) -> Points:
    """Points one pixel apart along a regular polygon."""
    angles = turn + 2 * np.pi * np.arange(corners + 1) / corners
    ends = 50 + size * np.stack([np.cos(angles), np.sin(angles)], axis=1)
    side = math.dist(ends[0], ends[1])
    steps = max(2, round(side))
    share = (np.arange(steps) / steps)[:, None]
    return np.vstack([a + share * (b - a) for a, b in pairwise(ends)])


def drawn(run: Points) -> tuple[Points, list[int]]:
    """Its arcs at many places, and the points that they end at."""
    curves, ends = np.empty((4, 4, 2)), np.empty(4, np.int64)
    count = ellipse_arcs(run, ellipse_of(run), curves, ends)
    t = np.linspace(0, 1, 40)[:, None]
    out = [
        (1 - t) ** 3 * p[0] + 3 * t * (1 - t) ** 2 * p[1] + 3 * t * t * (1 - t) * p[2] + t**3 * p[3] for p in curves[:count]
    ]
    for one, other in zip(out, [*out[1:], out[0]], strict=True):
        assert one[-1] == pytest.approx(other[0], abs=1e-9)
    return np.vstack(out), ends[:count].tolist()


def area_of(ring: Points) -> float:
    """Twice its area, negative where it goes round the other way."""
    x, y = ring.T
    return float(np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y))


SIZES = st.tuples(st.floats(2.5, 60), st.floats(0.4, 1.0), st.floats(0, math.pi))


@given(SIZES, st.tuples(st.floats(0, 4000), st.floats(0, 4000)), st.booleans())
def test_a_clean_ellipse_is_drawn_in_four_arcs(
    size: tuple[float, float, float], at: tuple[float, float], back: bool
) -> None:
    a, share, turn = size
    b = max(2.0, share * a)
    run = ellipse(a, b, turn, at, 0.0, 0)[:: -1 if back else 1].copy()
    points, ends = drawn(run)
    assert ends[-1] == len(run)
    assert len(ends) == 4
    c, s = math.cos(turn), math.sin(turn)
    x, y = (points - at).T
    far = np.hypot((c * x + s * y) / a, (c * y - s * x) / b)
    # Its area is that of the points, which lie on it, and so a little less.
    assert np.abs(far - 1).max() * a < 0.05 * a + 0.02
    # It goes round the same way as its points.
    assert area_of(points - at) * area_of(run - at) > 0


@pytest.mark.parametrize("radius", [3.0, 5.0, 9.0, 30.0])
@pytest.mark.parametrize("seed", range(6))
def test_a_disc_with_the_noise_of_a_jpeg_has_no_corners(radius: float, seed: int) -> None:
    run = ellipse(radius, radius, 0.0, (20.0, 30.0), 0.08, seed)
    points, _ = drawn(run)
    off = np.hypot(*(points - (20, 30)).T) - radius
    assert np.abs(off).max() < 0.35


@pytest.mark.parametrize("corners", [3, 4, 5])
@pytest.mark.parametrize("size", [4.0, 8.0, 30.0])
@pytest.mark.parametrize("turn", [0.0, 0.4])
def test_what_has_corners_is_no_ellipse(corners: int, size: float, turn: float) -> None:
    run = polygon(corners, size, turn)
    assert not ellipse_of(run).any()
    if size > 4:
        assert len(find_corners(run, True)) == corners


@pytest.mark.parametrize(("radius", "corners"), [(0.0, 1), (1.0, 1), (4.5, 0), (7.0, 0)])
def test_a_tip_is_a_corner_and_the_round_joint_of_an_outline_is_none(radius: float, corners: int) -> None:
    """Two sides at 40 degrees, with an arc between them, as it is traced: about one point for each pixel."""
    half = math.radians(20)
    away = radius / math.sin(half)
    turn = math.pi / 2 - half
    arc = [
        (away + radius * math.cos(math.pi + t), radius * math.sin(t))
        for t in np.linspace(-turn, turn, max(2, round(2 * turn * radius)))
    ]
    reach = radius / math.tan(half)
    side = [((reach + k) * math.cos(half), (reach + k) * math.sin(half)) for k in range(1, 30)]
    run = np.array([*[(x, -y) for x, y in side[::-1]], *(arc if radius else [(0.0, 0.0)]), *side])
    assert len(find_corners(run, False)) == corners


def test_few_points_and_none_of_any_extent_are_left() -> None:
    assert not ellipse_of(np.zeros((12, 2))).any()
    assert not ellipse_of(np.array([[0.0, 0], [1, 0], [1, 1]])).any()
    assert not ellipse_of(np.stack([np.arange(12.0), np.zeros(12)], axis=1)).any()
