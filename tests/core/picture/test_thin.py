"""Outlines, lines and letters out of pictures that came through JPEG."""

from __future__ import annotations

from itertools import product

import numpy as np
import pytest

from bench.outlined import judge, painted, saved
from bench.scenes import Scene, Stroke, cartoon, words
from gladstack.core.base.colour import delta_e, from_hex
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.lossy_palette import SOFT, Noise
from gladstack.core.picture.ridges import find_ridges, from_ycc, ground_of, to_ycc, ycc_pixels
from gladstack.core.picture.thin_labels import thin_labelled
from tests.examples import some


@pytest.mark.parametrize(("seed", "quality"), some(list(product([3, 6, 10, 11, 12], [62, 85]))))
def test_outlines_stay_whole_and_of_steady_width(seed: int, quality: int) -> None:
    told = judge(cartoon(seed), quality)
    assert told.inks[0] == told.inks[1]
    assert told.pieces[1] <= told.pieces[0]
    assert told.gaps == 0
    assert told.off <= 0.02 * told.length


@pytest.mark.parametrize("seed", some([1, 2, 4, 9]))
def test_small_words_are_found_with_their_colour(seed: int) -> None:
    told = judge(words(seed), 75)
    assert told.inks[0] == told.inks[1]
    assert told.letters[0] >= 0.9 * told.letters[1]
    assert told.false == 0


RING = "M150 256A106 106 0 1 0 362 256A106 106 0 1 0 150 256Z"
CROSS = "M60 60L452 452M452 60L60 452"
TAPER = "M40 250L470 253L40 256Z"


@pytest.mark.parametrize(("ink", "ground"), [("#1b2440", "#f4f4f4"), ("#fdf4e3", "#2f4858")])
@pytest.mark.parametrize(("name", "path", "width"), [("ring", RING, 4.0), ("cross", CROSS, 3.0), ("taper", TAPER, 0.0)])
def test_rings_crossings_and_tapers_come_out_in_one_piece(name: str, path: str, width: float, ink: str, ground: str) -> None:
    area = Stroke("M90 90H300V420H90Z", "#c8553d" if ground == "#f4f4f4" else "#355f8a")
    line = Stroke(path, None, ink, width) if width else Stroke(path, ink)
    told = judge(Scene(name, ground, (area, line), (ink,)), 60)
    assert told.inks == (1, 1)
    assert told.pieces == (1, 1)


def test_no_colour_is_made_up_where_nothing_is_thin() -> None:
    areas = (Stroke("M60 60H260V300H60Z", "#d9643a"), Stroke("M200 200H460V460H200Z", "#3f9c93"))
    _, colours = painted(saved(Scene("plain", "#ffffff", areas, ()), 60))
    assert len(colours) == 3


@pytest.mark.parametrize("ink", ["#14171a", "#822456", "#0b5d3b"])
def test_the_colour_of_a_line_is_read_through_halved_tint(ink: str) -> None:
    scene = Scene("read", "#ffe08a", (Stroke(RING, None, ink, 3.0),), (ink,))
    picture = decode_picture(saved(scene, 85))
    noise = Noise(2.0, 0.5)
    ycc = ycc_pixels(picture.rgb)
    known = (from_hex("#ffe08a"),)
    ridges = find_ridges(ycc, ground_of(picture.rgb, ycc, known, noise), known, noise)
    assert len(ridges.y) > 400
    assert ridges.dark.all()
    read = from_ycc(np.median(ridges.colour, axis=0))
    assert float(delta_e(np.round(read), np.array(from_hex(ink)))) < 9


def test_colours_go_to_brightness_and_back() -> None:
    rng = np.random.default_rng(3)
    rgb = rng.integers(0, 256, (200, 3))
    assert np.allclose(from_ycc(to_ycc(rgb)), rgb, atol=0.05)


def test_a_clean_picture_keeps_its_labels_but_for_gaps_in_lines() -> None:
    rgb = np.full((60, 60, 3), 255, np.uint8)
    rgb[30, 5:55] = 20
    labels = np.zeros((60, 60), np.int16)
    labels[30, 5:55] = 1
    labels[30, 20:24] = 0
    out, _ = thin_labelled(labels, rgb, ((255, 255, 255), (20, 20, 20)), SOFT)
    assert (out[30, 5:55] == 1).all()
    assert np.count_nonzero(out) == 50
