"""The styles of an SVG file: style sheets, style attributes and presentation attributes, with what is inherited.

Selectors are those that drawing programs write: element, .class, #id, their combinations, nesting, and lists of them.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from xml.etree.ElementTree import Element

from PIL import ImageColor

Style = Mapping[str, str]

INHERITED = (
    "fill", "fill-rule", "stroke", "stroke-width", "stroke-linecap", "stroke-linejoin", "stroke-miterlimit",
    "stroke-dasharray", "stroke-dashoffset", "clip-rule", "color", "visibility", "font-size", "fill-opacity",
    "stroke-opacity",
)  # fmt: skip
_OWN = ("display", "opacity", "clip-path", "mask", "filter", "transform", "stop-color", "stop-opacity", "vector-effect")
ROOT: Style = {
    "fill": "#000000", "fill-rule": "nonzero", "stroke": "none", "stroke-width": "1", "stroke-linecap": "butt",
    "stroke-linejoin": "miter", "stroke-miterlimit": "4", "stroke-dasharray": "none", "stroke-dashoffset": "0",
    "clip-rule": "nonzero", "color": "#000000", "visibility": "visible", "font-size": "16", "fill-opacity": "1",
    "stroke-opacity": "1",
}  # fmt: skip
_COMMENT = re.compile(r"/\*.*?\*/", re.DOTALL)
_RULE = re.compile(r"([^{}@]+)\{([^{}]*)\}")
_SELECTOR = re.compile(r"(?P<tag>[\w-]+|\*)?(?P<rest>(?:[.#][\w-]+)*)$")


@dataclass(frozen=True)
class Compound:
    """What one element must be: its name, ids and classes; with `child` it must stand directly within the one before."""

    tag: str | None
    ids: frozenset[str]
    classes: frozenset[str]
    child: bool = False

    def holds_for(self, element: Element) -> bool:
        """Whether an element is of this kind."""
        name = element.tag.split("}")[-1] if isinstance(element.tag, str) else ""
        own = set(element.get("class", "").split())
        return self.tag in (None, name) and self.ids <= {element.get("id", "")} and self.classes <= own


@dataclass(frozen=True)
class Rule:
    """One selector of a style sheet, outermost element first, with what it declares."""

    parts: tuple[Compound, ...]
    declared: Mapping[str, str]

    @property
    def weight(self) -> tuple[int, int, int]:
        """How specific the selector is."""
        ids, classes = sum(len(p.ids) for p in self.parts), sum(len(p.classes) for p in self.parts)
        return ids, classes, sum(1 for p in self.parts if p.tag)

    def holds_for(self, element: Element, above: Sequence[Element]) -> bool:
        """Whether the rule is about an element that stands within `above`, outermost first."""
        if not self.parts[-1].holds_for(element):
            return False
        here, place = len(self.parts) - 1, len(above)
        while here > 0:
            direct = self.parts[here].child
            found = next((k for k in range(place - 1, -1, -1) if self.parts[here - 1].holds_for(above[k])), None)
            if found is None or (direct and found != place - 1):
                return False
            here, place = here - 1, found
        return True


def read_sheet(text: str) -> list[Rule]:
    """The rules of a style sheet that can be told apart, in order; others are passed over."""
    out = []
    for selectors, body in _RULE.findall(_COMMENT.sub("", text)):
        declared = declarations(body)
        for selector in selectors.split(","):
            parts = _compounds(selector)
            if parts:
                out.append(Rule(parts, declared))
    return out


def _compounds(selector: str) -> tuple[Compound, ...] | None:
    parts = []
    child = False
    for word in selector.replace(">", " > ").split():
        if word == ">":
            child = True
            continue
        found = _SELECTOR.match(word)
        if found is None:
            return None
        named = re.findall(r"[.#][\w-]+", found["rest"])
        tag = found["tag"] if found["tag"] not in (None, "*") else None
        ids = frozenset(p[1:] for p in named if p[0] == "#")
        parts.append(Compound(tag, ids, frozenset(p[1:] for p in named if p[0] == "."), child))
        child = False
    return tuple(parts) or None


def declarations(text: str) -> dict[str, str]:
    """`name: value; ...` as a dictionary."""
    pairs = (part.split(":", 1) for part in text.split(";") if ":" in part)
    return {name.strip().lower(): value.replace("!important", "").strip() for name, value in pairs}


def style_of(
    element: Element, tag: str, inherited: Style, rules: list[Rule], above: Sequence[Element] = ()
) -> dict[str, str]:
    """What holds for an element: presentation attributes, then style sheets by weight, then its style attribute.

    `above` are the elements it stands in, outermost first.
    """
    own: dict[str, str] = {k: v for k, v in element.attrib.items() if k in INHERITED or k in _OWN}
    matching = [r for r in rules if r.holds_for(element, above)]
    for rule in sorted(matching, key=lambda r: r.weight):
        own.update(rule.declared)
    own.update(declarations(element.get("style", "")))
    style = {k: v for k, v in inherited.items() if k in INHERITED}
    for name, value in own.items():
        if value.strip() == "inherit":
            own[name] = inherited.get(name, ROOT.get(name, ""))
    style.update({k: v for k, v in own.items() if v})
    return style


def colour_of(value: str, style: Style) -> tuple[str, float] | None:
    """A paint as (#rrggbb, opacity); None for no paint or one that is not a plain colour."""
    text = value.strip()
    if text.lower() == "currentcolor":
        text = style.get("color", "#000000")
    if text in ("none", "transparent", "") or text.startswith("url("):
        return None
    try:
        rgb = ImageColor.getrgb(re.sub(r"\s+", "", text) if text.startswith(("rgb", "hsl")) else text)
    except ValueError:
        return None
    alpha = rgb[3] / 255 if len(rgb) == 4 else 1.0
    return "#{:02x}{:02x}{:02x}".format(*rgb[:3]), alpha


def number_of(value: str | None, default: float = 0.0, percent_of: float = 100.0, em: float = 16.0) -> float:
    """A CSS length in user units (px at 96 to the inch); `default` if it is none."""
    found = re.match(r"\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)\s*([a-z%]*)", value or "", re.IGNORECASE)
    if found is None:
        return default
    scale = {
        "": 1.0, "px": 1.0, "mm": 96 / 25.4, "cm": 960 / 25.4, "in": 96.0, "pt": 96 / 72, "pc": 16.0, "q": 96 / 101.6,
        "%": percent_of / 100, "em": em, "ex": em / 2, "rem": 16.0,
    }  # fmt: skip
    return float(found[1]) * scale.get(found[2].lower(), 1.0)
