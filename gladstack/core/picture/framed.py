"""A part of a picture taken for the whole of it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from gladstack.core.base.errors import PictureError
from gladstack.core.picture.decode import MIN_SIDE_PX, Picture


def framed(picture: Picture, left: float, top: float, right: float, bottom: float) -> Picture:
    """The pixels within a frame, whose sides are told in shares of the picture's width. Raises PictureError.

    The frame is taken to the nearest pixels, and no farther than the picture goes.
    """
    wide = picture.width_px
    x0, x1 = (min(wide, max(0, round(share * wide))) for share in (left, right))
    y0, y1 = (min(picture.height_px, max(0, round(share * wide))) for share in (top, bottom))
    if x1 - x0 < MIN_SIDE_PX or y1 - y0 < MIN_SIDE_PX:
        raise PictureError(
            "There are too few pixels in this frame to find films in.", "Frame a larger part, or take the whole picture."
        )
    return replace(picture, rgb=np.ascontiguousarray(picture.rgb[y0:y1, x0:x1]))
