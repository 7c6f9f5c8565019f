"""Small shapes whose tint JPEG has smeared are told apart by how light they are."""

from __future__ import annotations

from importlib import resources
from pathlib import Path

import cv2
import numpy as np

from gladstack.core.picture.by_luma import told_by_luma
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.lossy_palette import Noise
from gladstack.core.picture.separate import find_colours, give_labels
from gladstack.core.picture.tidy import tidied

NOISE = Noise(3.6, 1.5)
WHITE, RED, BLUE = (255, 255, 255), (201, 87, 63), (101, 115, 209)
WORDS = (160, 545, 450, 562)
"""Where the badge says "EVERY CLEAR FRIDAY ON THE HILL": left, top, right, bottom in pixels."""
BADGE = Path(str(resources.files("gladstack.demo"))) / "pictures" / "watch-badge.jpg"


def test_letters_of_a_small_line_are_what_is_dark() -> None:
    tidy = tidied(decode_picture(BADGE.read_bytes()))
    palette = find_colours(tidy)
    left, top, right, bottom = WORDS
    grid = give_labels(tidy, palette).grid[top:bottom, left:right]
    red = np.linalg.norm(np.array(palette.colours, float)[grid] - np.array(RED), axis=2) < 40
    luma = cv2.cvtColor(np.ascontiguousarray(tidy.picture.rgb[top:bottom, left:right]), cv2.COLOR_RGB2GRAY)
    middle = (255 + 114) / 2
    # Where lightness is plain, it tells what the letters cover.
    plain = np.abs(luma - middle) > 25
    wrong = (red != (luma < middle)) & plain
    assert wrong.sum() <= 0.01 * red.sum()


def test_a_third_colour_that_is_not_known_is_left_as_it_was() -> None:
    rgb = np.full((60, 60, 3), 255, np.uint8)
    rgb[:, :30] = BLUE
    rgb[20:40, 26:36] = (125, 220, 190)
    labels = np.zeros((60, 60), np.int16)
    labels[:, :30] = 1
    labels[20:40, 26:36] = 1
    assert np.array_equal(told_by_luma(labels, rgb, (WHITE, BLUE), NOISE), labels)


def test_colours_that_are_as_light_as_each_other_are_not_told_apart_so() -> None:
    rng = np.random.default_rng(4)
    rgb = rng.integers(0, 256, (40, 40, 3)).astype(np.uint8)
    labels = rng.integers(0, 2, (40, 40)).astype(np.int16)
    assert np.array_equal(told_by_luma(labels, rgb, ((200, 90, 60), (60, 150, 110)), NOISE), labels)


def test_a_hole_filled_by_mistake_opens_again_and_a_plain_area_stays() -> None:
    rgb = np.full((40, 40, 3), 255, np.uint8)
    rgb[8:18, 8:18] = RED
    rgb[11:14, 11:14] = (250, 236, 232)
    labels = np.zeros((40, 40), np.int16)
    labels[8:18, 8:18] = 1
    told = told_by_luma(labels, rgb, (WHITE, RED), NOISE)
    assert not told[11:14, 11:14].any()
    told[11:14, 11:14] = 1
    assert np.array_equal(told, labels)
