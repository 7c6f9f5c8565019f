"""Pictures in formats that pages do not show (TIFF, AVIF, HEIC), carried over to one that they do.

What a camera or a page packed with loss stays marked as such: it becomes a JPEG of high quality, else a PNG.
"""

from __future__ import annotations

import io
from pathlib import PurePath

from PIL import Image, ImageOps, UnidentifiedImageError

from gladstack.core.base.errors import PictureError
from gladstack.core.picture.decode import MAX_BYTES, MAX_PIXELS

_TIFF = (b"II*\x00", b"MM\x00*")
_HEIF = (b"heic", b"heix", b"hevc", b"hevx", b"heim", b"heis", b"mif1", b"msf1")
_AVIF = (b"avif", b"avis")
_QUALITY, _OPAQUE = 95, 255


def carried(data: bytes, filename: str = "") -> bytes:
    """The bytes of a picture, carried over if it is TIFF, AVIF or HEIC, else as they are. Raises PictureError."""
    form = _form(data)
    if form is None or len(data) > MAX_BYTES:
        return data
    if form == "HEIF":
        # A library that is needed for this format alone.
        from pillow_heif import register_heif_opener

        register_heif_opener()
    try:
        image = Image.open(io.BytesIO(data), formats=(form,))
        width, height = image.size
        if width * height > MAX_PIXELS:
            raise PictureError(f"The picture is {width} x {height} px.", "At most 4096 x 4096 px can be brought in.")
        image.load()
        upright = ImageOps.exif_transpose(image) or image
        out = io.BytesIO()
        profile = {"icc_profile": held} if (held := image.info.get("icc_profile")) else {}
        clear = "A" in upright.getbands() and min(upright.getchannel("A").tobytes()) < _OPAQUE
        if form == "TIFF" or clear:
            plain = upright if upright.mode in ("L", "LA", "P", "RGB", "RGBA", "I;16") else upright.convert("RGB")
            plain.save(out, "PNG", compress_level=3, **(profile if upright.mode == plain.mode else {}))
        else:
            upright.convert("RGB").save(out, "JPEG", quality=_QUALITY, subsampling=0, **profile)
        return out.getvalue()
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, EOFError, Image.DecompressionBombError) as fault:
        name = PurePath(filename).name
        subject = f"“{name}”" if name else "This file"
        raise PictureError(f"{subject} is a damaged {form} picture.", "Export it again, as PNG if it can be.") from fault


def _form(data: bytes) -> str | None:
    if data[:4] in _TIFF:
        return "TIFF"
    if data[4:8] == b"ftyp":
        return "AVIF" if data[8:12] in _AVIF or b"avif" in data[8:40] else "HEIF" if data[8:12] in _HEIF else None
    return None
