"""Which colour of a picture is background, as a proposal the maker can take or leave."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

_BACKGROUND_SHARE = 0.5
"""A colour that makes up more of the picture's border than this is taken for background."""


def border_background(border_labels: npt.NDArray[np.int16]) -> int | None:
    """The label that most of the picture's border has, if it is plainly background."""
    counts = np.bincount(border_labels)
    best = int(np.argmax(counts))
    return best if counts[best] > _BACKGROUND_SHARE * len(border_labels) else None
