"""Lengths as makers write them ("3mm", "1/8in", "0.05"), and as the screen shows them."""

from __future__ import annotations

import re
from typing import Literal

from gladstack.core.base.errors import LengthError

Unit = Literal["mm", "in"]
INCH_TO_MM = 25.4
_UNIT_TO_MM = {"mm": 1.0, "cm": 10.0, "in": INCH_TO_MM, "inch": INCH_TO_MM, '"': INCH_TO_MM}
_LENGTH = re.compile(
    r"^\s*(?:(?:(?P<whole>\d+)\s+)?(?P<over>\d+)/(?P<under>\d+)|(?P<number>\d+(?:[.,]\d*)?|[.,]\d+))"
    r"\s*(?P<unit>mm|cm|inch|in|\")?\s*$",
    re.IGNORECASE | re.ASCII,
)


def parse_length(text: str, *, unit: Unit = "mm") -> float:
    """The length in millimetres that `text` means; a bare number is read in `unit`.

    Fractions ("1/8in", "1 1/2 in"), a decimal comma, and mm, cm, in or " are understood.
    Raises LengthError for anything else.

    >>> parse_length("1/8in")
    3.175
    >>> parse_length("1 1/2", unit="in")
    38.1
    """
    found = _LENGTH.match(text)
    if not found:
        raise LengthError(f"“{text.strip()}” is not a length.", "Write it like 3mm, 0.4, 1/8in or 1 1/2in.")
    if found["over"]:
        if int(found["under"]) == 0:
            raise LengthError(f"“{text.strip()}” divides by zero.", "Write the length like 1/8in.")
        value = float(found["whole"] or 0) + float(found["over"]) / float(found["under"])
    else:
        value = float(found["number"].replace(",", "."))
    return round(value * _UNIT_TO_MM[(found["unit"] or unit).lower()], 9)


def parse_size(text: str) -> tuple[float, float]:
    """Width and height in millimetres of a size like "305x305mm" or "12x24in".

    A unit after the second number holds for both. Raises LengthError.

    >>> parse_size("12x24in")
    (304.8, 609.6)
    """
    parts = re.split(r"[x×]", text.strip(), flags=re.IGNORECASE)
    if len(parts) != 2:
        raise LengthError(f"“{text.strip()}” is not a size.", "Write it like 305x305mm or 12x24in.")
    tail = re.search(r"(mm|cm|inch|in|\")\s*$", parts[1], re.IGNORECASE)
    head = parts[0] if re.search(r"[a-z\"]\s*$", parts[0], re.IGNORECASE) or not tail else parts[0] + tail[1]
    return parse_length(head), parse_length(parts[1])


def format_length(mm: float, unit: Unit = "mm") -> str:
    """`mm` for reading: a tenth of a millimetre below a metre, or thousandths of an inch."""
    return f"{mm:.1f} mm" if unit == "mm" else f"{mm / INCH_TO_MM:.3f} in"


def fine_length(mm: float, unit: Unit = "mm") -> str:
    """A short length for reading, to a hundredth of a millimetre, without noughts that say nothing."""
    return f"{round(mm, 2):g} mm" if unit == "mm" else format_length(mm, unit)


def temperature(celsius: float, unit: Unit = "mm") -> str:
    """A temperature for reading: in Fahrenheit where lengths are in inches."""
    return f"{celsius:.0f} °C" if unit == "mm" else f"{celsius * 9 / 5 + 32:.0f} °F"


def format_area(mm2: float, unit: Unit = "mm") -> str:
    """`mm2` for reading, in the square of a unit."""
    return f"{mm2:.2f} mm²" if unit == "mm" else f"{mm2 / INCH_TO_MM**2:.4f} in²"


def rough_area(mm2: float) -> str:
    """`mm2` for reading at a glance: whole square millimetres from ten on."""
    return f"{mm2:.1f} mm²" if mm2 < 10 else f"{mm2:.0f} mm²"
