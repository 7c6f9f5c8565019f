"""What a font lets a maker choose: axes it can be varied along, styles with a name, and other forms of letters.

Forms are OpenType features that are off unless asked for; their tags and names follow the OpenType list of features. Which
forms letters have is found by setting the letters with and without.
"""

from __future__ import annotations

import io
import re
from dataclasses import dataclass
from typing import Any

import uharfbuzz as hb
from fontTools.ttLib import TTFont

from gladstack.core.base.text import readable_line
from gladstack.core.lettering.faces import REGULAR, Face, open_face, sfnt_of, shape_run

_NAMES = {
    "swsh": "Swashes", "cswh": "Swashes by context", "salt": "Alternates", "titl": "Titling", "hist": "Historical",
    "dlig": "More ligatures", "hlig": "Historical ligatures", "smcp": "Small capitals", "c2sc": "Capitals to small ones",
    "pcap": "Petite capitals", "c2pc": "Capitals to petite ones", "unic": "Unicase", "onum": "Old-style figures",
    "lnum": "Lining figures", "pnum": "Figures by their width", "tnum": "Figures of one width", "frac": "Fractions",
    "afrc": "Stacked fractions", "ordn": "Ordinals", "sups": "Raised", "subs": "Lowered", "sinf": "Scientific lowered",
    "zero": "Slashed zero", "case": "Marks for capitals", "ornm": "Ornaments", "rand": "By chance",
    "init": "Beginnings", "fina": "Ends",
}  # fmt: skip
_ORDER = tuple(_NAMES)
_NUMBERED = re.compile(r"^(ss|cv)(\d\d)$")
_WORDS = {"ss": "Set", "cv": "Variant"}
_JOINING = ("Arab", "Syrc", "Mong", "Nkoo", "Mand", "Adlm", "Rohg", "Phag")
_MOST_FORMS = 20
_MOST_AXES, _MOST_STYLES = 16, 60
_AXES = {"wght": "Weight", "wdth": "Width", "slnt": "Slant", "ital": "Italic", "opsz": "Made for size"}


@dataclass(frozen=True)
class AxisRange:
    """Something a font can be varied in: its ends, and where it stands unless told."""

    tag: str
    name: str
    least: float
    usual: float
    most: float


@dataclass(frozen=True)
class Style:
    """A place of the axes that has a name."""

    name: str
    at: tuple[tuple[str, float], ...]


@dataclass(frozen=True)
class FormOfLetters:
    """Another form that some letters have, by its feature's tag, and how many of it there are to choose from."""

    tag: str
    name: str
    count: int


@dataclass(frozen=True)
class FontChoices:
    """What a font lets choose, and the forms it has for certain letters."""

    axes: tuple[AxisRange, ...]
    styles: tuple[Style, ...]
    forms: tuple[FormOfLetters, ...]


def font_choices(data: bytes, text: str) -> FontChoices:
    """What a font lets choose, and its forms for the letters of `text`. Raises FontError."""
    face = open_face(data)
    own = face.font.face
    axes: tuple[AxisRange, ...] = ()
    styles: tuple[Style, ...] = ()
    if own.has_var_data:
        axes = tuple(_axis(own, axis) for axis in own.axis_infos[:_MOST_AXES] if not _hidden(axis))
        styles = tuple(_style(own, style) for style in own.named_instances[:_MOST_STYLES])
    names = _feature_names(data)
    found = [FormOfLetters(tag, name, count) for tag, name in names.items() if (count := _count(face, text, tag))]
    return FontChoices(axes, styles, tuple(found))


def shapes_of_form(face: Face, text: str, forms: tuple[tuple[str, int], ...]) -> tuple[int, ...]:
    """The glyphs that a text is set in with forms (tag, which)."""
    ranges = [(0, len(text), tag, value) for tag, value in forms]
    return tuple(glyph.glyph for glyph in shape_run(face, text, rtl=False, forms=ranges))


def _count(face: Face, text: str, tag: str) -> int:
    """How many forms of a feature there are for a text: each form that differs from all before it."""
    seen = {shapes_of_form(face, text, ())}
    for value in range(1, _MOST_FORMS + 1):
        shapes = shapes_of_form(face, text, ((tag, value),))
        if shapes in seen:
            return value - 1
        seen.add(shapes)
    return _MOST_FORMS


def _feature_names(data: bytes) -> dict[str, str]:
    """The tags of a font's features that are off unless asked for, with their names, in the order they are offered."""
    font = TTFont(io.BytesIO(sfnt_of(data)), lazy=True)
    try:
        table = font["GSUB"].table
        records = list(table.FeatureList.FeatureRecord)
        scripts = {record.ScriptTag.strip().capitalize() for record in table.ScriptList.ScriptRecord}
    except Exception:  # a table that is missing or that the reader cannot follow has no forms to offer
        return {}
    joins = bool(scripts & set(_JOINING))
    named: dict[str, str] = {}
    for record in records:
        tag = str(record.FeatureTag)
        if tag in ("init", "fina") and joins:
            continue
        if (name := _name(font, tag, record.Feature)) is not None:
            named.setdefault(tag, name)
    order = {tag: k for k, tag in enumerate(_ORDER)}
    return dict(sorted(named.items(), key=lambda item: (order.get(item[0], len(order)), item[0])))


def _name(font: TTFont, tag: str, feature: Any) -> str | None:
    numbered = _NUMBERED.match(tag)
    if numbered is None:
        return _NAMES.get(tag)
    told = getattr(getattr(feature, "FeatureParams", None), "UINameID", None) or getattr(
        getattr(feature, "FeatureParams", None), "FeatUILabelNameID", None
    )
    try:
        name = font["name"].getDebugName(told) if told else None
    except Exception:  # a broken table of names tells no name
        name = None
    return readable_line(name)[:60] if name else f"{_WORDS[numbered[1]]} {int(numbered[2])}"


def _axis(face: hb.Face, axis: hb.OTVarAxisInfo) -> AxisRange:
    usual = min(max(REGULAR, axis.min_value), axis.max_value) if axis.tag == "wght" else axis.default_value
    name = _AXES.get(axis.tag) or _name_of(face, axis.name_id) or axis.tag
    return AxisRange(axis.tag, name, float(axis.min_value), float(usual), float(axis.max_value))


def _hidden(axis: hb.OTVarAxisInfo) -> bool:
    return bool(axis.flags & hb.OTVarAxisFlags.HIDDEN) or axis.min_value == axis.max_value


def _style(face: hb.Face, style: hb.OTVarNamedInstance) -> Style:
    tags = [axis.tag for axis in face.axis_infos]
    at = tuple(zip(tags, (float(v) for v in style.design_coords), strict=True))
    return Style(_name_of(face, style.subfamily_name_id) or "Style", at)


def _name_of(face: hb.Face, name_id: int) -> str:
    return readable_line(face.get_name(name_id) or "")[:60]
