"""Colours: hex text, CIELAB, and the difference between two of them.

sRGB to CIELAB after IEC 61966-2-1 and CIE 15 (D65 white); difference as CIE76 delta-E, which suffices for the flat,
well-parted colours of films.
"""

from __future__ import annotations

import re
from functools import lru_cache
from typing import cast

import numpy as np
import numpy.typing as npt

from gladstack.core.base.errors import RecipeError

Rgb = tuple[int, int, int]
FloatArray = npt.NDArray[np.float64]

_RGB_TO_XYZ = np.array(
    [[0.4124564, 0.3575761, 0.1804375], [0.2126729, 0.7151522, 0.0721750], [0.0193339, 0.1191920, 0.9503041]]
)
_WHITE_D65 = np.array([0.95047, 1.0, 1.08883])
_HEX = re.compile(r"^#?([0-9a-f]{6})$", re.IGNORECASE)


def to_hex(rgb: Rgb) -> str:
    """`#rrggbb` for three bytes."""
    return "#{:02x}{:02x}{:02x}".format(*rgb)


def from_hex(text: str) -> Rgb:
    """Three bytes for `#rrggbb`. Raises RecipeError for anything else."""
    found = _HEX.match(text.strip())
    if not found:
        raise RecipeError(f"“{text}” is not a colour.", "Write it like #1d2b53.")
    value = int(found[1], 16)
    return value >> 16, (value >> 8) & 255, value & 255


def to_lab(rgb: npt.ArrayLike) -> FloatArray:
    """CIELAB of sRGB bytes; shape (..., 3) in and out."""
    unit = np.asarray(rgb, dtype=np.float64) / 255.0
    linear = np.where(unit <= 0.04045, unit / 12.92, ((unit + 0.055) / 1.055) ** 2.4)
    xyz = linear @ _RGB_TO_XYZ.T / _WHITE_D65
    f = np.where(xyz > 0.008856, np.cbrt(xyz), 7.787 * xyz + 16 / 116)
    lab = np.stack([116 * f[..., 1] - 16, 500 * (f[..., 0] - f[..., 1]), 200 * (f[..., 1] - f[..., 2])], axis=-1)
    return cast(FloatArray, lab)


def delta_e(a: npt.ArrayLike, b: npt.ArrayLike) -> FloatArray:
    """CIE76 difference of two sRGB colours (or of arrays of them, broadcast)."""
    return cast(FloatArray, np.linalg.norm(to_lab(a) - to_lab(b), axis=-1))


_HUES = (
    (15, "Rose"), (42, "Red"), (68, "Orange"), (100, "Yellow"), (125, "Lime"), (165, "Green"), (215, "Teal"),
    (292, "Blue"), (330, "Violet"), (350, "Pink"), (361, "Rose"),
)  # fmt: skip


@lru_cache(1024)
def colour_name(rgb: Rgb) -> str:
    """A plain English name that a maker would recognise on a roll of film, e.g. "Dark blue" or "Cream".

    It serves to propose a name for a film; several colours may share one.
    """
    light, a, b = (float(v) for v in to_lab(rgb))
    chroma = float(np.hypot(a, b))
    hue = float(np.degrees(np.arctan2(b, a))) % 360
    if light > 84 and 3.5 < chroma < 32 and 60 < hue < 115:
        return "Cream"
    if light > 96 and chroma < 6:
        return "White"
    if light < 14 and chroma < 14:
        return "Black"
    if chroma < 9:
        return "Light grey" if light > 72 else "Dark grey" if light < 38 else "Grey"
    if 35 < hue < 90 and light < 58 and chroma < 55:
        return "Dark brown" if light < 30 else "Brown"
    if 55 < hue < 95 and chroma < 45:
        return "Sand"
    if 70 < hue < 95 and chroma >= 45:
        return "Gold"
    if light < 26 and 255 < hue < 320:
        return "Navy"
    base = next(name for limit, name in _HUES if hue < limit)
    shade = "Light " if light > 74 and base not in ("Yellow", "Lime") else "Dark " if light < 36 else ""
    return (shade + base.lower()).capitalize() if shade else base


SAME_COLOUR = 12.0
"""A choice about a colour holds for the nearest film within this delta-E."""


@lru_cache(4096)
def nearest_colour(colours: tuple[Rgb, ...], wanted: str) -> int | None:
    """Index of the colour that a choice about `wanted` (#rrggbb) holds for, None if there is none near enough."""
    if not colours:
        return None
    apart = np.atleast_1d(delta_e(np.array(colours), np.array(from_hex(wanted))))
    best = int(np.argmin(apart))
    return best if apart[best] <= SAME_COLOUR else None
