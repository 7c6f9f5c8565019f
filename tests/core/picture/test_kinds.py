"""What a picture is taken for, and prints put right."""

from __future__ import annotations

from itertools import product

import numpy as np
import pytest

from bench.clip_art import clip_art
from bench.kinds import KINDS, halftone, marker, print_photo
from gladstack.core.picture.decode import Picture
from gladstack.core.picture.kinds import kind_of
from gladstack.core.picture.lines import is_line_art
from gladstack.core.picture.prints import evened
from gladstack.core.picture.separate import TraceOptions, find_colours, give_labels, separate
from gladstack.core.picture.tidy import Tidied, tidied
from tests.examples import some


@pytest.mark.parametrize(("kind", "seed"), some(list(product(KINDS, [1, 2, 3, 8]))))
def test_a_picture_is_taken_for_what_it_is(kind: str, seed: int) -> None:
    assert kind_of(KINDS[kind](seed)).kind == kind


@pytest.mark.parametrize("seed", [1, 10, 13])
def test_a_marker_drawing_in_one_tinted_ink_is_line_art(seed: int) -> None:
    assert is_line_art(marker(seed))


def put_right(rgb: np.ndarray, *as_is: str) -> Tidied:
    return tidied(Picture(rgb, None, "PNG"), as_is)


@pytest.mark.parametrize("seed", some([1, 2, 4]))
def test_printed_dots_become_tones(seed: int) -> None:
    tidy = put_right(halftone(seed))
    assert [d.kind for d in tidy.done] == ["halftone"]
    palette = find_colours(tidy)
    made = separate(tidy, palette, give_labels(tidy, palette), (), 120, TraceOptions())
    assert len(made.map.areas) < 120
    assert put_right(halftone(seed), "halftone").done == ()


@pytest.mark.parametrize("seed", some([1, 7, 2, 8]))
def test_a_photographed_print_has_about_as_many_colours_as_the_drawing(seed: int) -> None:
    rgb = print_photo(seed)
    tidy = put_right(rgb)
    assert [d.kind for d in tidy.done] == ["light"]
    found = len(find_colours(tidy).colours)
    true = len(clip_art()[(5 * seed) % 72].colours)
    assert abs(found - true) <= 2
    left = put_right(rgb, "light")
    assert left.done == ()
    assert np.array_equal(left.picture.rgb, rgb)


def test_even_light_is_left_alone() -> None:
    rgb = np.full((200, 200, 3), 220, np.uint8)
    rgb[60:140, 60:140] = (40, 60, 120)
    assert evened(rgb) is None


def test_a_slope_of_light_is_taken_off() -> None:
    page = np.full((240, 240, 3), 230.0)
    page[80:160, 60:180] = (60, 90, 160)
    light = np.linspace(0.6, 1.0, 240)[None, :, None]
    even = evened(np.rint(page * light).astype(np.uint8))
    assert even is not None
    paper = even[10:70, :, 0].astype(float)
    assert paper.max() - paper.min() < 20
