"""What is in a picture and in none of its areas is found; what is there is not told of."""

from __future__ import annotations

import io
from itertools import product
from pathlib import Path

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image, ImageDraw, ImageFont

from bench.clip_art import clip_art
from bench.found import CASES
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.echoes import without_echoes
from gladstack.core.picture.lossy_palette import SOFT, Noise, noise_of
from gladstack.core.picture.lost import find_lost
from gladstack.core.picture.separate import TraceOptions, find_colours, give_labels, separate
from gladstack.core.picture.tidy import tidied
from tests.examples import examples, some

CLIP = {d.name: d for d in clip_art()}
LETTERS = Path(__file__).parents[3] / "gladstack" / "fonts" / "averia-serif-bold.ttf"
WHITE, RED, INK = (255, 255, 255), (200, 60, 40), (20, 24, 40)


@pytest.mark.parametrize(
    ("case", "name"), some(list(product(["PNG", "JPEG 75", "WebP 50", "rescale 0.6"], ["face-1", "boat-2", "bird-4"])))
)
def test_nothing_is_told_of_what_came_out_right(case: str, name: str) -> None:
    tidy = tidied(decode_picture(CASES[case](CLIP[name])))
    palette = find_colours(tidy)
    made = separate(tidy, palette, give_labels(tidy, palette), (), 120, TraceOptions())
    assert made.lost.share < 2e-4


@settings(max_examples=examples(40), deadline=None)
@given(st.integers(2, 14), st.integers(2, 14), st.integers(14, 60), st.integers(14, 60), st.booleans())
def test_whatever_is_left_out_is_told_with_its_place(w: int, h: int, x: int, y: int, noisy: bool) -> None:
    rgb = np.full((90, 90, 3), WHITE, np.uint8)
    rgb[70:] = RED
    painted = np.where(rgb[..., 1] < 100, 1, 0).astype(np.int16)
    if y + h >= 66:
        y = 66 - h - 4
    rgb[y : y + h, x : x + w] = INK
    if noisy:
        noise = np.random.default_rng(1).normal(0, 2, rgb.shape)
        rgb = np.clip(rgb + noise, 0, 255).astype(np.uint8)
    lost = find_lost(rgb, painted, (WHITE, RED), Noise(2.0, 0.5) if noisy else SOFT, None)
    (kind,) = lost.kinds
    left, top, right, bottom = kind.places[0].box
    assert left <= x + 1
    assert top <= y + 1
    assert right >= x + w - 1
    assert bottom >= y + h - 1
    assert abs(lost.pixels - w * h) <= 0.2 * w * h + 4
    assert np.linalg.norm(np.array(kind.colour) - INK) < 25
    if min(w, h) <= 6 or min(w, h) >= 10:
        assert kind.what == ("area" if min(w, h) >= 10 else "thin")


@pytest.mark.parametrize("sigma", [0.6, 1.0, 2.0])
def test_soft_edges_are_no_loss(sigma: float) -> None:
    rgb = np.full((80, 80, 3), WHITE, np.uint8)
    rgb[20:60, 20:60] = INK
    painted = np.where(rgb[..., 0] < 100, 1, 0).astype(np.int16)
    soft = np.asarray(cv2.GaussianBlur(rgb, (0, 0), sigma))
    assert find_lost(soft, painted, (WHITE, INK), SOFT, None).pixels == 0


def test_what_was_given_away_on_purpose_is_not_lost() -> None:
    rgb = np.full((40, 40, 3), WHITE, np.uint8)
    rgb[10:20, 10:20] = INK
    known = np.zeros((40, 40), bool)
    known[8:22, 8:22] = True
    painted = np.zeros((40, 40), np.int16)
    assert find_lost(rgb, painted, (WHITE,), SOFT, known).pixels == 0
    assert find_lost(rgb, painted, (WHITE,), SOFT, None).pixels == 100


@pytest.mark.parametrize("by", [0.15, 0.35])
def test_a_band_that_sharpening_made_is_no_colour(by: float) -> None:
    own, across = np.array((90, 100, 200)), np.array((250, 240, 220))
    rgb = np.empty((60, 60, 3), np.uint8)
    rgb[:, :30], rgb[:, 30:] = across, own
    band = np.clip(own + by * (own - across), 0, 255).astype(np.uint8)
    rgb[:, 30:32] = band
    colours = [tuple(int(v) for v in c) for c in (across, own, band)]
    assert without_echoes(rgb, colours) == colours[:2]  # type: ignore[arg-type]
    # As an area of its own it is one.
    rgb[:, 30:45] = band
    assert without_echoes(rgb, colours) == colours  # type: ignore[arg-type]


def _with_words(colour: tuple[int, int, int]) -> bytes:
    """Two lines of words of a colour beside a large thing in ink, on white, through JPEG 75."""
    big = Image.new("RGB", (1600, 1600), WHITE)
    pen = ImageDraw.Draw(big)
    pen.ellipse([300, 100, 1300, 900], fill=INK)
    font = ImageFont.truetype(io.BytesIO(LETTERS.read_bytes()), 100)
    pen.text((200, 1000), "Open evening", fill=colour, font=font)
    pen.text((200, 1200), "May to June", fill=colour, font=font)
    out = io.BytesIO()
    big.resize((400, 400), Image.Resampling.BOX).save(out, "JPEG", quality=75)
    return out.getvalue()


@pytest.mark.parametrize(("share", "told"), [(1.0, False), (0.65, True), (0.5, True), (0.06, True)])
def test_words_given_to_a_film_darker_than_they_are_or_to_the_ground_are_told(share: float, told: bool) -> None:
    mixed = [round(255 + (ink - 255) * share) for ink in INK]
    colour = (mixed[0], mixed[1], mixed[2])
    rgb = decode_picture(_with_words(colour)).rgb
    # Painted as if there were but two films, with all that is at least half as dark as the words in the ink.
    half = (255 + colour[1]) / 2
    painted = (rgb[..., 1] < (half if share > 0.1 else 128)).astype(np.int16)
    lost = find_lost(rgb, painted, (WHITE, INK), noise_of(rgb, "JPEG", None), None)
    words = [k for k in lost.kinds for p in k.places if p.box[1] > 240]
    assert bool(words) == told
    if told and share > 0.1:
        assert np.linalg.norm(np.array(words[0].colour) - colour) < 40
