"""Numbers, lengths and transforms of an SVG file, and what is told of those that cannot be read."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, field
from xml.etree.ElementTree import Element

from gladstack.core.geometry.curves import IDENTITY, Matrix, compose

NUMBER = r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?"
_LENGTH = re.compile(rf"\s*({NUMBER})\s*(px|mm|cm|in|pt|pc|q|em|ex|rem|%)?\s*$", re.IGNORECASE)
_NUMBER = re.compile(NUMBER)
_PX = {
    "": 1.0, "px": 1.0, "mm": 96 / 25.4, "cm": 960 / 25.4, "in": 96.0, "pt": 96 / 72, "pc": 16.0, "q": 96 / 101.6,
    "em": 16.0, "ex": 8.0, "rem": 16.0,
}  # fmt: skip
_MOST, _LEAST = 1e9, 1e-12
"""Numbers beyond these are no measure of anything that is cut."""
_MOST_TOLD = 4
_MOST_TRANSFORMS = 1000
_ANGLES = {"": 1.0, "deg": 1.0, "rad": 180 / math.pi, "grad": 0.9, "turn": 360.0}


@dataclass
class Faults:
    """Values that cannot be read, and where they stand."""

    root: Element
    places: list[str] = field(default_factory=list)
    count: int = 0

    def note(self, element: Element, name: str, value: str) -> None:
        """Takes down that an attribute of an element cannot be read."""
        self.count += 1
        if len(self.places) < _MOST_TOLD:
            shown = value if len(value) <= 40 else value[:37] + "..."
            self.places.append(f"{place_of(element, self.root)} {name}=“{' '.join(shown.split())}”")

    @property
    def sentence(self) -> str:
        """What is told of them all."""
        more = f" and {self.count - len(self.places)} more" if self.count > len(self.places) else ""
        return f"It holds values that cannot be read, which were left out: {'; '.join(self.places)}{more}."


def place_of(element: Element, root: Element) -> str:
    """Where an element stands: by its id, else by its number among those of its kind."""
    tag = element.tag.split("}")[-1] if isinstance(element.tag, str) else "element"
    if element.get("id"):
        return f"{tag} “{element.get('id')}”"
    alike = (e for e in root.iter() if e.tag == element.tag)
    number = next((k for k, e in enumerate(alike, 1) if e is element), None)
    return f"{tag} {number}" if number else tag


def length_of(value: str | None, percent_of: float = 100.0) -> float | None:
    """A CSS length in user units (px at 96 to the inch); None if it is none, or not of this world."""
    found = _LENGTH.match(value or "")
    if found is None:
        return None
    unit = (found[2] or "").lower()
    return _sound(float(found[1]) * (percent_of / 100 if unit == "%" else _PX[unit]))


def number_of(value: str | None, default: float = 0.0, percent_of: float = 100.0) -> float:
    """A CSS length as `length_of` reads it; `default` if it cannot be read."""
    found = length_of(value, percent_of)
    return default if found is None else found


def numbers_of(text: str) -> list[float] | None:
    """All numbers of a list; None if one of them is none, or not of this world."""
    words = text.replace(",", " ").split()
    out = [_sound(float(w)) if _NUMBER.fullmatch(w) else None for w in words]
    return None if None in out else [v for v in out if v is not None]


def box_of(text: str | None) -> tuple[float, float, float, float] | None:
    """A viewBox; None if there is none that has a size."""
    values = numbers_of(text or "")
    if values is None or len(values) != 4 or values[2] <= 0 or values[3] <= 0:
        return None
    return values[0], values[1], values[2], values[3]


def _sound(value: float) -> float | None:
    if not math.isfinite(value) or abs(value) > _MOST or 0 < abs(value) < _LEAST:
        return None
    return value


def transform_of(text: str | None) -> Matrix | None:
    """The matrix of a transform list; None if it cannot be read, which is as good as none."""
    rest = (text or "").strip()
    if rest in ("", "none"):
        return IDENTITY
    parts = rest.split(")")
    if len(parts) > _MOST_TRANSFORMS or parts[-1].strip(" ,\t\r\n"):
        return None
    matrix = IDENTITY
    for part in parts[:-1]:
        name, bracket, arguments = part.strip(" ,\t\r\n").partition("(")
        values = _arguments(arguments, name.strip()) if bracket else None
        one = _one_transform(name.strip(), values) if values is not None else None
        if one is None:
            return None
        matrix = compose(matrix, one)
    return matrix if all(math.isfinite(v) and abs(v) <= _MOST for v in matrix) else None


def _arguments(text: str, name: str) -> list[float] | None:
    out = []
    for word in text.replace(",", " ").split():
        found = re.fullmatch(rf"({NUMBER})(deg|rad|grad|turn|px)?", word)
        if found is None or (value := _sound(float(found[1]))) is None:
            return None
        unit = found[2] or ""
        out.append(value * _ANGLES[unit] if unit in _ANGLES and (name == "rotate" or name.startswith("skew")) else value)
    return out


def _one_transform(name: str, v: list[float]) -> Matrix | None:
    match name, len(v):
        case "matrix", 6:
            return v[0], v[1], v[2], v[3], v[4], v[5]
        case "translate", 1 | 2:
            return 1.0, 0.0, 0.0, 1.0, v[0], v[1] if len(v) == 2 else 0.0
        case "translateX", 1:
            return 1.0, 0.0, 0.0, 1.0, v[0], 0.0
        case "translateY", 1:
            return 1.0, 0.0, 0.0, 1.0, 0.0, v[0]
        case "scale", 1 | 2:
            return v[0], 0.0, 0.0, v[-1], 0.0, 0.0
        case "rotate", 1 | 3:
            cos, sin = math.cos(math.radians(v[0])), math.sin(math.radians(v[0]))
            turn: Matrix = (cos, sin, -sin, cos, 0.0, 0.0)
            if len(v) == 1:
                return turn
            return compose((1.0, 0.0, 0.0, 1.0, v[1], v[2]), compose(turn, (1.0, 0.0, 0.0, 1.0, -v[1], -v[2])))
        case "skewX", 1:
            return 1.0, 0.0, math.tan(math.radians(v[0])), 1.0, 0.0, 0.0
        case "skewY", 1:
            return 1.0, math.tan(math.radians(v[0])), 0.0, 1.0, 0.0, 0.0
    return None
