"""Pictures are checked before they are decoded, and refused in words that help."""

from __future__ import annotations

import io
import struct
import zlib

import numpy as np
import pytest
from PIL import Image

from gladstack.core.base.errors import PictureError
from gladstack.core.picture.decode import MAX_BYTES, decode_picture, picture_header
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


def saved(image: Image.Image, form: str, **options: object) -> bytes:
    out = io.BytesIO()
    image.save(out, form, **options)
    return out.getvalue()


def test_a_colour_profile_is_honoured_and_a_broken_one_passed_over() -> None:
    from PIL import ImageCms

    plain = Image.new("RGB", (16, 16), (180, 90, 60))
    lab = ImageCms.ImageCmsProfile(ImageCms.createProfile("LAB"))
    srgb = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB"))
    # A profile that swaps nothing must leave the colour as it is; one that is no profile of pictures is passed over.
    for profile in (srgb.tobytes(), lab.tobytes(), b"no profile"):
        assert np.abs(decode_picture(saved(plain, "PNG", icc_profile=profile)).rgb.astype(int) - (180, 90, 60)).max() <= 1
    warm = bytearray(srgb.tobytes())
    # The red and blue columns of the profile change places: so must the colours.
    tags = {bytes(warm[k : k + 4]): k for k in range(132, 132 + 12 * int.from_bytes(warm[128:132], "big"), 12)}
    red, blue = tags[b"rXYZ"], tags[b"bXYZ"]
    warm[red + 4 : red + 12], warm[blue + 4 : blue + 12] = warm[blue + 4 : blue + 12], warm[red + 4 : red + 12]
    swapped = decode_picture(saved(plain, "PNG", icc_profile=bytes(warm))).rgb[0, 0]
    assert np.abs(swapped.astype(int) - (60, 90, 180)).max() <= 2


def test_pictures_come_upright_and_in_bytes_whatever_they_were_kept_in() -> None:
    wide = Image.new("RGB", (24, 16), "#1d2b53")
    wide.paste("#f2b632", (0, 0, 12, 16))
    exif = Image.Exif()
    exif[0x0112] = 6
    turned = decode_picture(saved(wide, "PNG", exif=exif))
    assert (turned.width_px, turned.height_px) == (16, 24)
    assert turned.rgb[0, 0].tolist() == [0xF2, 0xB6, 0x32]
    ink = decode_picture(saved(Image.new("CMYK", (16, 16), (0, 255, 255, 0)), "JPEG", quality=95))
    assert ink.rgb[8, 8, 0] > 200
    assert max(ink.rgb[8, 8, 1:]) < 60
    deep = Image.fromarray(np.full((16, 16), 30000, np.uint16))
    assert abs(int(decode_picture(saved(deep, "PNG")).rgb[0, 0, 0]) - 117) <= 1
    clear = wide.convert("P", palette=Image.Palette.ADAPTIVE, colors=2)
    clear.info["transparency"] = clear.getpixel((20, 8))
    assert decode_picture(saved(clear, "PNG", transparency=clear.info["transparency"])).key is not None
