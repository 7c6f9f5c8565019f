"""What is put right in a picture before its colours are looked for."""

from __future__ import annotations

import io

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from bench.clip_art import clip_art
from bench.found import CASES, colours_right, truth_of
from gladstack.core.picture.decode import decode_picture
from gladstack.core.picture.grades import Veil
from gladstack.core.picture.jpeg_traces import luma_table_of
from gladstack.core.picture.lossy_palette import Noise
from gladstack.core.picture.near_shades import settled
from gladstack.core.picture.rims import without_rims
from gladstack.core.picture.separate import find_colours, give_labels
from gladstack.core.picture.tidy import Tidied, tidied
from tests.examples import examples
from tests.pictures import BY_NAME, encode, photo, picture_of, render

CLIP = {d.name: d for d in clip_art()}


def put_right(case: str, name: str, *as_is: str) -> Tidied:
    return tidied(decode_picture(CASES[case](CLIP[name])), as_is)


@pytest.mark.parametrize("quality", [None, 75])
@pytest.mark.parametrize("name", sorted(BY_NAME))
def test_a_plain_drawing_is_left_alone(name: str, quality: int | None) -> None:
    picture = decode_picture(picture_of(name, 320, quality=quality))
    tidy = tidied(picture)
    assert tidy.done == ()
    assert np.array_equal(tidy.picture.rgb, picture.rgb)


def test_a_photo_is_left_alone() -> None:
    assert tidied(decode_picture(photo())).done == ()


@pytest.mark.parametrize(
    ("case", "kind", "names"),
    [
        ("soft shadow", "shadow", ["cup-1", "badge-3"]),
        ("graded ground", "grade", ["bird-0", "house-1"]),
        ("dither web", "dither", ["face-0", "bird-3"]),
        ("dither 256", "dither", ["cake-3"]),
    ],
)
def test_what_lay_on_the_colours_is_put_right(case: str, kind: str, names: list[str]) -> None:
    right = 0
    for name in names:
        tidy = put_right(case, name)
        assert [d.kind for d in tidy.done] == [kind]
        ground = CLIP[name].background
        found = find_colours(tidy).colours
        kept = found[1:] if tidy.picture.key else found
        right += colours_right(kept, truth_of(CLIP[name]), ground)
    assert right == len(names)


@pytest.mark.parametrize(("case", "kind"), [("soft shadow", "shadow"), ("graded ground", "grade"), ("dither web", "dither")])
def test_what_stays_as_it_came_is_not_touched(case: str, kind: str) -> None:
    picture = decode_picture(CASES[case](CLIP["bird-2"]))
    assert [d.kind for d in tidied(picture).done] == [kind]
    left = tidied(picture, (kind,))
    assert kind not in [d.kind for d in left.done]
    if kind != "dither":
        assert np.array_equal(left.picture.rgb, picture.rgb)


def shadow_of(dx: float, dy: float) -> Veil:
    svg = (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 200"><filter id="s" x="-50%" y="-50%" width="200%" '
        f'height="200%"><feDropShadow dx="{dx}" dy="{dy}" stdDeviation="4" flood-opacity="0.5"/></filter>'
        '<rect width="200" height="200" fill="#ffffff"/><g filter="url(#s)"><path d="M60 50H140V90H110V150H60Z" '
        'fill="#c0392b"/></g></svg>'
    )
    tidy = tidied(decode_picture(encode(render(svg, 400).convert("RGB"))))
    (done,) = tidy.done
    assert done.veil is not None
    return done.veil


@settings(max_examples=examples(12), deadline=None)
@given(st.integers(-7, 7), st.integers(3, 8))
def test_a_shadow_is_told_as_it_fell(dx: int, dy: int) -> None:
    veil = shadow_of(dx, dy)
    # Drawn at 2 px a unit.
    assert veil.dx_px == pytest.approx(2 * dx, abs=5)
    assert veil.dy_px == pytest.approx(2 * dy, abs=5)
    assert not veil.glow


@pytest.mark.parametrize("bands", [1, 2, 4])
def test_a_graded_fill_comes_out_in_as_many_colours_as_asked(bands: int) -> None:
    svg = (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><defs><linearGradient id="g"><stop '
        'stop-color="#ffd84a"/><stop offset="1" stop-color="#d8402a"/></linearGradient></defs><rect width="100" '
        'height="100" fill="#ffffff"/><circle cx="50" cy="45" r="32" fill="url(#g)"/><rect x="20" y="84" width="60" '
        'height="9" fill="#1d2b53"/></svg>'
    )
    tidy = tidied(decode_picture(encode(render(svg, 400).convert("RGB"))), (), bands)
    assert [d.kind for d in tidy.done] == ["fills"]
    assert len(find_colours(tidy).colours) == 2 + bands


@settings(max_examples=examples(10), deadline=None)
@given(st.sampled_from([45, 50, 60, 70, 75, 80]), st.sampled_from(["badge-1", "house-2", "cake-0", "fish-3"]))
def test_a_jpeg_saved_anew_tells_its_table(quality: int, name: str) -> None:
    image = render(CLIP[name].svg(), 400).convert("RGB")
    saved = Image.open(io.BytesIO(encode(image, "JPEG", quality=quality)))
    assert saved.quantization  # type: ignore[attr-defined]
    true = tuple(saved.quantization[0])  # type: ignore[attr-defined]
    found = luma_table_of(np.array(saved.convert("RGB")))
    assert found is not None
    assert abs(found[1] - true[1]) <= 1
    assert luma_table_of(np.array(image)) is None


@settings(max_examples=examples(30), deadline=None)
@given(st.integers(0, 2**32 - 1), st.integers(2, 5))
def test_dashes_only_ever_go_to_what_is_there(seed: int, count: int) -> None:
    rng = np.random.default_rng(seed)
    labels = np.kron(rng.integers(0, count, (8, 8)), np.ones((12, 12))).astype(np.int16)
    specks = rng.random(labels.shape) < 0.02
    labels[specks] = rng.integers(0, count, int(specks.sum()))
    out, rims, _ = without_rims(labels, count)
    assert set(np.unique(out)) <= set(np.unique(labels))
    assert (rims == 0) == np.array_equal(out, labels)


def test_a_whole_rim_stays_and_a_broken_one_goes() -> None:
    labels = np.zeros((120, 120), np.int16)
    labels[20:100, 20:100] = 1
    whole = labels.copy()
    whole[20:100, 20:22] = 2
    out, rims, kept = without_rims(whole, 3)
    assert np.array_equal(out, whole)
    assert rims == 0
    assert [(rim.label, round(rim.width_px)) for rim in kept] == [(2, 2)]
    out, rims, kept = without_rims(whole, 3, whole=True)
    assert set(np.unique(out)) == {0, 1}
    assert (rims, kept) == (1, ())
    broken = labels.copy()
    for k in range(22, 98, 6):
        broken[k : k + 3, 20:22] = 2
    out, rims, _ = without_rims(broken, 3)
    assert rims == 1
    assert set(np.unique(out)) == {0, 1}


def test_the_border_of_near_shades_is_smoothed_and_no_other() -> None:
    rng = np.random.default_rng(2)
    colours = ((250, 250, 250), (240, 243, 246), (30, 40, 80))
    labels = np.zeros((90, 90), np.int16)
    labels[:, 45:] = 1
    labels[60:] = 2
    clean = np.array(colours, float)[labels]
    rgb = np.clip(clean + rng.normal(0, 3, clean.shape), 0, 255).astype(np.uint8)
    ragged = labels.copy()
    ragged[:58][rng.random((58, 90)) < 0.1] = 1
    out, placed = settled(ragged, rgb, colours, Noise(3.0, 1.0))
    assert np.array_equal(out == 2, ragged == 2)
    assert np.mean(out[:56] != labels[:56]) < 0.2 * np.mean(ragged[:56] != labels[:56])
    assert placed.shape == rgb.shape


@settings(max_examples=examples(25), deadline=None)
@given(st.integers(0, 2**32 - 1), st.integers(8, 90), st.sampled_from([2, 40, 256]))
def test_noise_is_no_dither_and_breaks_nothing(seed: int, side: int, levels: int) -> None:
    rng = np.random.default_rng(seed)
    step = 255 // (levels - 1)
    rgb = (rng.integers(0, levels, (side, side, 3)) * step).astype(np.uint8)
    tidy = tidied(decode_picture(encode(Image.fromarray(rgb))))
    assert tidy.picture.rgb.shape == rgb.shape
    palette = find_colours(tidy)
    assert palette.colours
    grid = give_labels(tidy, palette).grid
    assert grid.shape == (side, side)
    assert 0 <= grid.min() <= grid.max() < len(palette.colours)


def test_a_large_noisy_picture_stays_what_it_is() -> None:
    rgb = (np.random.default_rng(3).integers(0, 2, (300, 300, 3)) * 255).astype(np.uint8)
    picture = decode_picture(encode(Image.fromarray(rgb)))
    assert "dither" not in [d.kind for d in tidied(picture).done]


def test_a_shadow_that_is_half_transparent_comes_off_too() -> None:
    svg = (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 200"><filter id="s" x="-50%" y="-50%" width="200%" '
        'height="200%"><feDropShadow dx="5" dy="6" stdDeviation="4" flood-opacity="0.5"/></filter><g filter="url(#s)">'
        '<path d="M60 50H140V90H110V150H60Z" fill="#c0392b"/><circle cx="80" cy="80" r="12" fill="#f2b632"/></g></svg>'
    )
    tidy = tidied(decode_picture(encode(render(svg, 400))))
    assert [d.kind for d in tidy.done] == ["shadow"]
    # The key, red and gold.
    assert len(find_colours(tidy).colours) == 3
