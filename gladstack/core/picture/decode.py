"""A picture from its bytes: checked before it is decoded, upright, in sRGB bytes.

A transparent picture is laid on a *key colour* that occurs nowhere in it. Half-covered edge pixels then become ordinary
mixes of a film's colour and the key, so transparency needs no case of its own further on: it is one more flat colour,
and always background.
"""

from __future__ import annotations

import io
from dataclasses import dataclass, replace
from pathlib import PurePath

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageCms, ImageOps, UnidentifiedImageError

from gladstack.core.base.colour import Rgb
from gladstack.core.base.errors import PictureError
from gladstack.core.base.reading import reader

MAX_BYTES = 40 * 2**20
MAX_PIXELS = 4096 * 4096 + 4096
MIN_SIDE_PX = 8
FORMATS = ("PNG", "JPEG", "GIF", "WEBP", "BMP")
_SUFFIX_FORMATS = {".png": "PNG", ".jpg": "JPEG", ".jpeg": "JPEG", ".gif": "GIF", ".webp": "WEBP", ".bmp": "BMP"}
KEYS: tuple[Rgb, ...] = (
    (255, 0, 255), (0, 255, 0), (0, 255, 255), (255, 255, 0), (255, 0, 0), (0, 0, 255), (255, 255, 255), (0, 0, 0),
)  # fmt: skip
# Below this alpha a pixel counts as see-through when it is decided whether the picture has any transparency at all.
_OPAQUE_ALPHA = 250


@dataclass(frozen=True)
class Picture:
    """Decoded pixels: `rgb` is (height, width, 3) uint8; `key` is the colour that stands for transparency, or None.

    `table` is the luma table that a JPEG was saved with.
    """

    rgb: npt.NDArray[np.uint8]
    key: Rgb | None
    format: str
    table: tuple[int, ...] | None = None

    @property
    def width_px(self) -> int:
        """Columns of pixels."""
        return int(self.rgb.shape[1])

    @property
    def height_px(self) -> int:
        """Rows of pixels."""
        return int(self.rgb.shape[0])


@reader(PictureError, "This picture", "Save it again as PNG.")
def decode_picture(data: bytes, filename: str = "") -> Picture:
    """The picture held in `data`; `filename` only serves to catch a wrong suffix.

    Size limits are checked on the header, before any pixel is decoded. Raises PictureError for an empty, unknown,
    mislabelled, truncated, tiny or too large file.
    """
    image = _open(data, filename)
    found = image.format or ""
    try:
        image.load()
        upright = ImageOps.exif_transpose(image) or image
        luma = (getattr(image, "quantization", None) or {}).get(0)
        return replace(_to_picture(upright, found), table=tuple(luma) if luma else None)
    except PictureError:
        raise
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError, MemoryError, EOFError) as fault:
        raise PictureError(
            f"The {found} picture is damaged or cut short ({_first_line(fault)}).",
            "Export or download it again, then bring in the new file.",
        ) from fault


@reader(PictureError, "This picture", "Save it again as PNG.")
def picture_header(data: bytes, filename: str = "") -> tuple[str, int, int]:
    """Format, width and height in pixels, from the header alone; raises PictureError as `decode_picture` does."""
    image = _open(data, filename)
    return image.format or "", image.width, image.height


def _open(data: bytes, filename: str) -> Image.Image:
    if not data:
        raise PictureError("The file is empty.", "Choose a PNG, JPEG, GIF, WebP, BMP, TIFF, AVIF or HEIC picture.")
    if len(data) > MAX_BYTES:
        raise PictureError(
            f"The file is {len(data) / 2**20:.0f} MB; at most {MAX_BYTES // 2**20} MB can be brought in.",
            "Save it as PNG, or bring in a smaller one.",
        )
    try:
        image = Image.open(io.BytesIO(data), formats=FORMATS)
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError) as fault:
        name = PurePath(filename).name
        subject = f"“{name}”" if name else "This file"
        raise PictureError(
            f"{subject} is not a picture that can be read, whatever its name says.",
            "Bring in a PNG, JPEG, GIF, WebP, BMP, TIFF, AVIF or HEIC.",
        ) from fault
    except Image.DecompressionBombError as fault:
        raise _too_large("The picture is") from fault
    expected = _SUFFIX_FORMATS.get(PurePath(filename).suffix.lower())
    if filename and expected and expected != image.format:
        suffix = PurePath(filename).suffix
        raise PictureError(
            f"The file is named {suffix} but holds a {image.format} picture.",
            f"Rename it to end in .{(image.format or '').lower()}, or export it again as {expected}.",
        )
    if image.width * image.height > MAX_PIXELS:
        raise _too_large(f"The picture is {image.width} x {image.height} px,")
    if min(image.width, image.height) < MIN_SIDE_PX:
        raise PictureError(
            f"The picture is only {image.width} x {image.height} px.", f"It needs at least {MIN_SIDE_PX} px each way."
        )
    return image


def _too_large(subject: str) -> PictureError:
    return PictureError(
        f"{subject} more than {MAX_PIXELS // 10**6} million pixels.", "At most 4096 x 4096 px can be brought in."
    )


def _in_srgb(image: Image.Image) -> Image.Image:
    """The picture's colours as sRGB, where it carries a profile that says otherwise; a broken profile counts as none."""
    profile = image.info.get("icc_profile")
    if not profile or image.mode not in ("RGB", "RGBA", "L", "CMYK", "P"):
        return image
    plain = image.convert("RGBA" if "transparency" in image.info else "RGB") if image.mode == "P" else image
    mode = "RGBA" if plain.mode == "RGBA" else "RGB"
    try:
        own = ImageCms.ImageCmsProfile(io.BytesIO(profile))
        made = ImageCms.profileToProfile(plain, own, ImageCms.createProfile("sRGB"), outputMode=mode)
    except (ImageCms.PyCMSError, OSError, ValueError, TypeError):
        return image
    return made or image


def _to_picture(image: Image.Image, found: str) -> Picture:
    image = _in_srgb(image)
    if "A" in image.getbands() or "transparency" in image.info:
        rgba = np.asarray(image.convert("RGBA"))
        if int(rgba[..., 3].min()) < _OPAQUE_ALPHA:
            key = _key_colour(rgba)
            alpha = rgba[..., 3:4].astype(np.uint16)
            laid = (rgba[..., :3] * alpha + np.array(key, np.uint16) * (255 - alpha) + 127) // 255
            return Picture(np.ascontiguousarray(laid.astype(np.uint8)), key, found)
        return Picture(np.ascontiguousarray(rgba[..., :3]), None, found)
    if image.mode.startswith("I") or image.mode == "F":
        wide = np.asarray(image, dtype=np.float64)
        scale = 255.0 / 65535.0 if wide.max() > 255 else 1.0
        image = Image.fromarray((wide * scale).clip(0, 255).astype(np.uint8))
    # Never read-only, or every loop would be compiled once more.
    return Picture(np.array(image.convert("RGB")), None, found)


def _key_colour(rgba: npt.NDArray[np.uint8]) -> Rgb:
    """The corner of the colour cube farthest from every visible colour of the picture."""
    visible = rgba[rgba[..., 3] > 40][:, :3]
    if not len(visible):
        raise PictureError("The picture is wholly transparent.", "Bring in one that shows something.")
    coarse = np.unique(visible >> 4, axis=0).astype(np.float64) * 16 + 8
    distance = [float(np.min(np.linalg.norm(coarse - np.array(key), axis=1))) for key in KEYS]
    return KEYS[int(np.argmax(distance))]


def _first_line(fault: BaseException) -> str:
    return (str(fault).splitlines() or [type(fault).__name__])[0][:120]
