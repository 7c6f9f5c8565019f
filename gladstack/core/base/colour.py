"""Colours: hex text, CIELAB, and the difference between two of them.

sRGB to CIELAB after IEC 61966-2-1 and CIE 15 (D65 white); differences as CIE76 delta-E, which suffices to tell
the flat, well-parted colours of a picture, and as CIEDE2000, by which films are matched to them.
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


def _linear(rgb: npt.ArrayLike) -> FloatArray:
    """The light of sRGB bytes, 0 to 1."""
    unit = np.asarray(rgb, dtype=np.float64) / 255.0
    return cast(FloatArray, np.where(unit <= 0.04045, unit / 12.92, ((unit + 0.055) / 1.055) ** 2.4))


def to_lab(rgb: npt.ArrayLike) -> FloatArray:
    """CIELAB of sRGB bytes; shape (..., 3) in and out."""
    xyz = _linear(rgb) @ _RGB_TO_XYZ.T / _WHITE_D65
    f = np.where(xyz > 0.008856, np.cbrt(xyz), 7.787 * xyz + 16 / 116)
    lab = np.stack([116 * f[..., 1] - 16, 500 * (f[..., 0] - f[..., 1]), 200 * (f[..., 1] - f[..., 2])], axis=-1)
    return cast(FloatArray, lab)


def delta_e(a: npt.ArrayLike, b: npt.ArrayLike) -> FloatArray:
    """CIE76 difference of two sRGB colours (or of arrays of them, broadcast)."""
    return cast(FloatArray, np.linalg.norm(to_lab(a) - to_lab(b), axis=-1))


def delta_e_2000(a: npt.ArrayLike, b: npt.ArrayLike) -> FloatArray:
    """CIEDE2000 difference of two sRGB colours (or of arrays of them, broadcast): nearest to what an eye takes as alike.

    After G. Sharma, W. Wu, E. N. Dalal, "The CIEDE2000 color-difference formula" (2005), with all weights 1.
    """
    return lab_delta_e_2000(to_lab(a), to_lab(b))


def lab_delta_e_2000(a: FloatArray, b: FloatArray) -> FloatArray:
    """CIEDE2000 difference of CIELAB colours, shape (..., 3) broadcast."""
    (l1, a1, b1), (l2, a2, b2) = np.moveaxis(a, -1, 0), np.moveaxis(b, -1, 0)
    chroma = (np.hypot(a1, b1) + np.hypot(a2, b2)) / 2
    g = 0.5 * (1 - np.sqrt(chroma**7 / (chroma**7 + 25.0**7)))
    c1, c2 = np.hypot((1 + g) * a1, b1), np.hypot((1 + g) * a2, b2)
    h1, h2 = (np.degrees(np.arctan2(y, (1 + g) * x)) % 360 for x, y in ((a1, b1), (a2, b2)))
    grey = c1 * c2 == 0
    turn = (h2 - h1 + 180) % 360 - 180
    # Hues just opposite: the formula turns the way that keeps the sign of their difference.
    turn = np.where(np.isclose(np.abs(h2 - h1), 180), h2 - h1, turn)
    turn = np.where(grey, 0.0, turn)
    dl, dc, dh = l2 - l1, c2 - c1, 2 * np.sqrt(c1 * c2) * np.sin(np.radians(turn) / 2)
    light, c = (l1 + l2) / 2, (c1 + c2) / 2
    hue = np.where(np.abs(h1 - h2) <= 180, (h1 + h2) / 2, np.where(h1 + h2 < 360, (h1 + h2 + 360) / 2, (h1 + h2 - 360) / 2))
    hue = np.where(grey, h1 + h2, hue)
    t = (
        1 - 0.17 * np.cos(np.radians(hue - 30)) + 0.24 * np.cos(np.radians(2 * hue))
        + 0.32 * np.cos(np.radians(3 * hue + 6)) - 0.20 * np.cos(np.radians(4 * hue - 63))
    )  # fmt: skip
    sl = 1 + 0.015 * (light - 50) ** 2 / np.sqrt(20 + (light - 50) ** 2)
    sc, sh = 1 + 0.045 * c, 1 + 0.015 * c * t
    bend = np.sin(np.radians(60 * np.exp(-(((hue - 275) / 25) ** 2)))) * 2 * np.sqrt(c**7 / (c**7 + 25.0**7))
    x, y, z = dl / sl, dc / sc, dh / sh
    return cast(FloatArray, np.sqrt(np.maximum(0.0, x**2 + y**2 + z**2 - bend * y * z)))


_HUES = (
    (15, "Rose"), (42, "Red"), (68, "Orange"), (106, "Yellow"), (125, "Lime"), (165, "Green"), (215, "Teal"),
    (292, "Blue"), (330, "Violet"), (350, "Pink"), (361, "Rose"),
)  # fmt: skip


_TO_CONES = np.array(
    [[0.4122214708, 0.5363325363, 0.0514459929], [0.2119034982, 0.6806995451, 0.1073969566],
     [0.0883024619, 0.2817188376, 0.6299787005]]
)  # fmt: skip
_TO_OKLAB_AB = np.array([[1.9779984951, -2.4285922050, 0.4505937099], [0.0259040371, 0.7827717662, -0.8086757660]])
_BLUE_ENDS = 280.0
_STRONG = 75.0


def _is_blue(rgb: Rgb) -> bool:
    """Whether a colour between blue and violet is a blue: CIELAB's hues turn to violet there as blues grow strong.

    By its hue in OKLab (B. Ottosson, "A perceptual color space for image processing", 2020).
    """
    a, b = _TO_OKLAB_AB @ np.cbrt(_TO_CONES @ _linear(rgb))
    return bool(np.degrees(np.arctan2(b, a)) % 360 < _BLUE_ENDS)


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
    base = next(name for limit, name in _HUES if hue < limit)
    if base in ("Blue", "Violet") and hue > 255:
        base = "Blue" if _is_blue(rgb) else "Violet"
    if light < 26 and base == "Blue" and hue > 255:
        return "Navy"
    if base in ("Yellow", "Lime") and light < 58:
        base = "Olive"
    if base == "Rose" and light > 55:
        base = "Pink"
    if base in ("Violet", "Pink") and 318 < hue < 350 and chroma > 80:
        base = "Magenta"
    # A strong colour is neither called dark, however little light it gives, nor light: pure blue is blue.
    weak = chroma < _STRONG and base not in ("Yellow", "Lime")
    shade = "Light " if light > 74 and weak else "Dark " if light < 36 and weak else ""
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
