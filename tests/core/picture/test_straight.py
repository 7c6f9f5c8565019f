"""A photograph set straight: proportions from any side, places back where they were, and corners that make no sense."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from gladstack.core.base.errors import PictureError
from gladstack.core.picture.decode import Picture
from gladstack.core.picture.straight import check_corners, proportion, straightened

WHOLE = ((0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0))
SIZE = (800, 600)


def seen_by_a_camera(shape: float, turns: tuple[float, float, float], focal: float) -> np.ndarray:
    """Where the corners of a rectangle, turned about three axes, lie in a photograph of `SIZE`."""
    corners = np.array([(-shape, -1, 0), (shape, -1, 0), (shape, 1, 0), (-shape, 1, 0)]) / max(1.0, shape)
    turned = corners @ cv2.Rodrigues(np.radians(turns))[0].T
    depth = turned[:, 2] + 4.0
    return turned[:, :2] / depth[:, None] * focal + np.array(SIZE) / 2


@given(st.floats(0.4, 2.5), st.tuples(st.floats(-35, 35), st.floats(-35, 35), st.floats(-20, 20)), st.floats(500, 900))
def test_a_rectangle_has_its_own_proportions_from_any_side(
    shape: float, turns: tuple[float, float, float], focal: float
) -> None:
    found = proportion(seen_by_a_camera(shape, turns, focal), SIZE)
    # Seen aslant one way only, the focal length cannot be told, and the usual one is taken.
    assert found == pytest.approx(shape, rel=0.02 if min(map(abs, turns[:2])) > 12 else 0.2)


def test_what_was_drawn_comes_back_where_it_was() -> None:
    page = np.full((240, 320, 3), 250, np.uint8)
    cv2.circle(page, (80, 60), 30, (200, 30, 40), -1)
    cv2.rectangle(page, (180, 120), (290, 210), (20, 60, 160), -1)
    corners = np.array([(90, 70), (520, 110), (560, 430), (60, 400)], np.float32)
    flat = np.array([(0, 0), (320, 0), (320, 240), (0, 240)], np.float32)
    photo = cv2.warpPerspective(page, cv2.getPerspectiveTransform(flat, corners), (640, 480), borderValue=(90, 90, 90))
    shares = tuple((float(x) / 640, float(y) / 480) for x, y in corners)
    straight = straightened(Picture(photo, None, "PNG"), shares).rgb
    back = cv2.resize(straight, (320, 240), interpolation=cv2.INTER_AREA)
    inside = (slice(4, -4), slice(4, -4))
    off = np.abs(back[inside].astype(int) - page[inside]).max(axis=2) > 60
    # Only the edges may differ, by the width of a pixel.
    assert off.mean() < 0.006


def test_the_corners_of_the_picture_itself_change_nothing() -> None:
    rgb = np.random.default_rng(3).integers(0, 255, (60, 80, 3), np.uint8)
    assert np.array_equal(straightened(Picture(rgb, None, "PNG"), WHOLE).rgb, rgb)


@pytest.mark.parametrize(
    "corners",
    [
        ((0.1, 0.1), (0.9, 0.9), (0.9, 0.1), (0.1, 0.9)),
        ((0.1, 0.1), (0.1, 0.9), (0.9, 0.9), (0.9, 0.1)),
        ((0.1, 0.1), (0.12, 0.1), (0.12, 0.12), (0.1, 0.12)),
        ((0.1, 0.1), (0.5, 0.1), (0.9, 0.1), (0.5, 0.9)),
        ((0.5, 0.5),) * 4,
    ],
    ids=["crossed", "the wrong way round", "tiny", "three in a line", "one place"],
)
def test_corners_that_go_round_nothing_are_refused(corners: tuple[tuple[float, float], ...]) -> None:
    with pytest.raises(PictureError, match="do not go round"):
        check_corners(corners)


@given(st.tuples(*(st.tuples(st.floats(0, 0.35), st.floats(0, 0.35)) for _ in range(4))))
def test_any_corners_taken_make_a_picture_of_some_size(offs: tuple[tuple[float, float], ...]) -> None:
    corners = tuple((abs(x - dx), abs(y - dy)) for (x, y), (dx, dy) in zip(WHOLE, offs, strict=True))
    picture = Picture(np.zeros((30, 40, 3), np.uint8), None, "PNG")
    straight = straightened(picture, corners)
    assert 8 <= straight.width_px <= 400
    assert 8 <= straight.height_px <= 400
