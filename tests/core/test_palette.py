"""Which colours a picture is made of."""

from __future__ import annotations

import numpy as np
import pytest

from gladstack.core.base.colour import delta_e, from_hex
from gladstack.core.base.errors import RecipeError
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.palette import MAX_COLOURS, find_palette
from gladstack.core.picture.separate import find_colours
from tests.pictures import BY_NAME, disc_on_clear, photo, picture_of


@pytest.mark.parametrize("name", sorted(BY_NAME))
def test_a_clean_picture_gives_exactly_its_colours(name: str) -> None:
    picture = decode_picture(picture_of(name, 512))
    palette = find_palette(picture.rgb)
    assert palette.flat
    assert not palette.lossy
    truth = np.array([from_hex(c) for c in BY_NAME[name].colours])
    assert len(palette.colours) == len(truth)
    for colour in truth:
        assert np.min(delta_e(np.array(palette.colours), colour)) < 1


@pytest.mark.parametrize("name", ["moon-owl", "dome", "targets", "hills", "near-shades"])
def test_a_jpeg_gives_the_same_number_of_colours(name: str) -> None:
    palette = find_palette(decode_picture(picture_of(name, 512, quality=75)).rgb)
    assert palette.lossy
    assert len(palette.colours) == len(BY_NAME[name].colours)


def test_a_photo_is_said_not_to_be_flat_and_is_grouped_into_as_many_as_asked() -> None:
    rgb = decode_picture(photo()).rgb
    assert not find_palette(rgb).flat
    assert len(find_palette(rgb, count=5).colours) == 5


@pytest.mark.parametrize("count", [2, 4, 6])
def test_just_as_many_colours_as_asked_for(count: int) -> None:
    rgb = decode_picture(picture_of("moon-owl", 256)).rgb
    assert len(find_palette(rgb, count=count).colours) == count


def test_more_colours_than_there_are_is_refused() -> None:
    with pytest.raises(RecipeError, match="holds only"):
        find_palette(decode_picture(disc_on_clear()).rgb, count=MAX_COLOURS)


def test_picked_colours_come_first_and_stay() -> None:
    rgb = decode_picture(picture_of("moon-owl", 256)).rgb
    palette = find_palette(rgb, count=3, picked=((20, 16, 12),))
    assert palette.colours[0] == (20, 16, 12)
    assert len(palette.colours) == 3


def test_transparency_is_one_more_colour_that_occurs_nowhere_else() -> None:
    picture = decode_picture(disc_on_clear())
    palette = find_colours(picture)
    assert picture.key == palette.colours[0]
    assert palette.colours[1:] == ((192, 57, 43),)
