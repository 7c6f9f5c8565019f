"""Which colours a picture is made of."""

from __future__ import annotations

import numpy as np
import pytest

from gladstack.core.base.colour import delta_e, from_hex
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.lossy_palette import BLIND, lossy_colours
from gladstack.core.picture.palette import MAX_COLOURS, find_palette
from gladstack.core.picture.separate import find_colours
from gladstack.core.picture.tidy import tidied
from tests.pictures import BY_NAME, disc_on_clear, encode, photo, picture_of, render


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


def test_no_more_colours_than_there_are() -> None:
    assert len(find_palette(decode_picture(disc_on_clear()).rgb, count=MAX_COLOURS).colours) < MAX_COLOURS


@pytest.mark.parametrize("quality", [90, 60])
def test_noise_is_not_split_to_make_up_a_number(quality: int) -> None:
    rgb = decode_picture(picture_of("moon-owl", 384, quality=quality)).rgb
    palette = find_palette(rgb, count=12)
    found = np.array(palette.colours)
    apart = [float(delta_e(found[i], found[j])) for i in range(len(found)) for j in range(i)]
    assert min(apart) > 2.0


def test_picked_colours_come_first_and_stay() -> None:
    rgb = decode_picture(picture_of("moon-owl", 256)).rgb
    palette = find_palette(rgb, count=3, picked=((20, 16, 12),))
    assert palette.colours[0] == (20, 16, 12)
    assert len(palette.colours) == 3


def test_transparency_is_one_more_colour_that_occurs_nowhere_else() -> None:
    picture = tidied(decode_picture(disc_on_clear()))
    palette = find_colours(picture)
    assert picture.picture.key == palette.colours[0]
    assert palette.colours[1:] == ((192, 57, 43),)


CUP = (
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><rect width="100" height="100" fill="#ffffff"/>'
    '<path d="M20 30H70V80H20z" fill="#f5f8fa"/><path d="M70 40H84V62H70z" fill="#31393e"/>'
    '<circle cx="45" cy="20" r="9" fill="#c0392b"/></svg>'
)


@pytest.mark.parametrize("how", ["JPEG 90", "JPEG 75", "JPEG 60", "WEBP 50"])
def test_a_wide_film_of_near_white_is_kept_beside_white(how: str) -> None:
    form, quality = how.split()
    data = encode(render(CUP, 512).convert("RGB"), form, quality=int(quality))
    colours = np.array(find_colours(tidied(decode_picture(data))).colours)
    assert len(colours) == 4
    for colour in ("#ffffff", "#f5f8fa", "#31393e", "#c0392b"):
        assert np.min(delta_e(colours, np.array(from_hex(colour)))) < 2.5


def test_a_count_that_is_higher_is_filled_by_what_is_there_before_anything_is_split() -> None:
    dots = "".join(f'<rect x="{8 + 12 * k}" y="90" width="3" height="3" fill="#2f8f8b"/>' for k in range(6))
    data = encode(render(CUP.replace("</svg>", f"{dots}</svg>"), 512).convert("RGB"), "JPEG", quality=75)
    colours = np.array(find_colours(tidied(decode_picture(data)), 5).colours)
    assert np.min(delta_e(colours, np.array(from_hex("#2f8f8b")))) < 8


def test_a_lossy_picture_of_which_only_a_speck_is_quiet_has_no_sure_colour() -> None:
    rgb = (np.random.default_rng(0).integers(0, 2, (40, 40, 3)) * 255).astype(np.uint8)
    rgb[10:14, 10:14] = (90, 90, 90)
    assert lossy_colours(rgb, BLIND) == []


@pytest.mark.parametrize("many", [30, 60])
def test_many_flat_colours_are_all_found_or_folded_to_the_nearest(many: int) -> None:
    rng = np.random.default_rng(4)
    rgb = np.full((320, 320, 3), 255, np.uint8)
    for k in range(many - 1):
        y, x = 4 + 39 * (k // 8), 4 + 39 * (k % 8)
        rgb[y : y + 32, x : x + 32] = rng.integers(0, 240, 3)
    palette = find_palette(rgb)
    assert palette.flat
    assert len(palette.colours) == many
    few = find_palette(rgb, count=12)
    assert few.flat
    assert set(few.colours) <= set(palette.colours)
    assert len(few.colours) == 12
