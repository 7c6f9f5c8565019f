"""Pictures are checked before they are decoded, and refused in words that help."""

from __future__ import annotations

import io
import struct
import zlib

import numpy as np
import pytest
from PIL import Image

from gladstack.core.errors import PictureError
from gladstack.core.picture import MAX_BYTES, decode_picture, picture_header
from tests.pictures import disc_on_clear, encode, picture_of


def _bomb(width: int = 60_000, height: int = 60_000) -> bytes:
    """A PNG of a few bytes that claims billions of pixels."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(b"\0" * 1000)) + chunk(b"IEND", b"")


@pytest.mark.parametrize(
    ("data", "filename", "said"),
    [
        (b"", "a.png", "empty"),
        (b"hello, this is a letter", "a.png", "not a picture"),
        (b"<svg xmlns='http://www.w3.org/2000/svg'/>", "a.png", "not a picture"),
        (picture_of("dome", 64, quality=80), "dome.png", "holds a JPEG"),
        (picture_of("dome", 64)[:900], "dome.png", "damaged or cut short"),
        (picture_of("dome", 256, quality=80)[:2500], "", "damaged or cut short"),
        (_bomb(), "a.png", "more than"),
        (_bomb(9000, 4000), "a.png", "9000 x 4000"),
        (b"\x89PNG\r\n\x1a\n" + b"\0" * MAX_BYTES, "a.png", "at most 40 MB"),
        (encode(Image.new("RGB", (3, 40))), "a.png", "only 3 x 40"),
        (encode(Image.new("RGBA", (30, 30), (0, 0, 0, 0))), "a.png", "wholly transparent"),
    ],
)  # fmt: skip
def test_bad_files_are_refused_with_what_helps(data: bytes, filename: str, said: str) -> None:
    with pytest.raises(PictureError, match=said) as fault:
        decode_picture(data, filename)
    assert fault.value.remedy


@pytest.mark.parametrize("form", ["PNG", "JPEG", "GIF", "WEBP", "BMP"])
def test_every_format_is_read(form: str) -> None:
    image = Image.new("RGB", (32, 20), "#c0392b")
    data = encode(image, form)
    picture = decode_picture(data, f"a.{form.lower()}")
    assert (picture.width_px, picture.height_px, picture.key) == (32, 20, None)
    assert picture_header(data) == (form, 32, 20)
    assert np.abs(picture.rgb[10, 16].astype(int) - (0xC0, 0x39, 0x2B)).max() <= 3


@pytest.mark.parametrize("mode", ["L", "P", "1", "LA", "CMYK", "I;16"])
def test_every_pixel_mode_becomes_rgb(mode: str) -> None:
    image = Image.new("RGB", (16, 16), "white")
    if mode == "I;16":
        data = encode(Image.fromarray(np.full((16, 16), 65535, np.uint16)))
    else:
        data = encode(image.convert(mode), "JPEG" if mode == "CMYK" else "PNG")
    assert decode_picture(data).rgb.shape == (16, 16, 3)
    assert decode_picture(data).rgb.min() > 245


def test_a_turned_photo_is_put_upright() -> None:
    exif = Image.Exif()
    exif[0x0112] = 6
    out = io.BytesIO()
    Image.new("RGB", (40, 20), "red").save(out, "JPEG", exif=exif)
    picture = decode_picture(out.getvalue())
    assert (picture.width_px, picture.height_px) == (20, 40)


def test_half_covered_pixels_mix_with_the_key() -> None:
    picture = decode_picture(disc_on_clear())
    assert picture.key is not None
    assert tuple(picture.rgb[0, 0]) == picture.key
    flat = picture.rgb.reshape(-1, 3)
    assert not np.any(np.all(flat == 0, axis=1))
