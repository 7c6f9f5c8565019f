"""The styles of an SVG file: style sheets, style attributes and presentation attributes, with what is inherited.

Style sheets are read and matched by tinycss2 and cssselect2. Rules inside `@media` hold unless they are for print or speech.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import lru_cache
from xml.etree.ElementTree import Element

import cssselect2
import tinycss2
from tinycss2.color4 import Color, parse_color

from gladstack.core.base.errors import VectorError

Style = Mapping[str, str]

MAX_RULES = 5_000
MAX_MATCHES = 200_000
INHERITED = frozenset((
    "fill", "fill-rule", "stroke", "stroke-width", "stroke-linecap", "stroke-linejoin", "stroke-miterlimit",
    "stroke-dasharray", "stroke-dashoffset", "clip-rule", "color", "visibility", "font-size", "fill-opacity",
    "stroke-opacity", "marker-start", "marker-mid", "marker-end", "-seen",
))  # fmt: skip
_OWN = INHERITED | {
    "display", "opacity", "clip-path", "mask", "filter", "transform", "stop-color", "stop-opacity", "vector-effect"
}  # fmt: skip
ROOT: Style = {
    "fill": "#000000", "fill-rule": "nonzero", "stroke": "none", "stroke-width": "1", "stroke-linecap": "butt",
    "stroke-linejoin": "miter", "stroke-miterlimit": "4", "stroke-dasharray": "none", "stroke-dashoffset": "0",
    "clip-rule": "nonzero", "color": "#000000", "visibility": "visible", "font-size": "16", "fill-opacity": "1",
    "stroke-opacity": "1",
}  # fmt: skip
_LANGUAGE = "en"
_XML_LANG = "{http://www.w3.org/XML/1998/namespace}lang"
_OTHER_MEDIA = ("print", "speech", "not")


@dataclass
class Sheets:
    """What the style sheets of a file declare for each element: plainly, and as `!important`."""

    plain: dict[Element, dict[str, str]] = field(default_factory=dict)
    important: dict[Element, dict[str, str]] = field(default_factory=dict)
    unread: int = 0
    """Rules whose selectors cannot be read."""


_VAR = re.compile(r"var\(\s*")
_MOST_NESTED, _LONGEST = 20, 10_000
NO_SHEETS = Sheets()


def read_sheets(root: Element) -> Sheets:
    """What all style sheets of a document declare, by element. Raises VectorError if they hold too many rules."""
    out = Sheets()
    matcher = cssselect2.Matcher()
    count = 0
    texts = ["".join(e.itertext()) for e in root.iter() if isinstance(e.tag, str) and e.tag.split("}")[-1] == "style"]
    for text in texts:
        for rule in _rules(tinycss2.parse_stylesheet(text, skip_comments=True, skip_whitespace=True)):
            count += 1
            if count > MAX_RULES:
                raise VectorError(f"Its style sheets hold more than {MAX_RULES:,} rules.", "Save only what is to be cut.")
            try:
                selectors = cssselect2.compile_selector_list(rule.prelude)
            except cssselect2.SelectorError:
                out.unread += 1
                continue
            declared = _declared(rule.content)
            for selector in selectors:
                if selector.pseudo_element is None:
                    matcher.add_selector(selector, declared)
    if count:
        # SVG 2 has `lang` besides `xml:lang`, which is the one that counts if both are there; selectors know the latter.
        for element in root.iter():
            if (lang := element.get("lang")) is not None and element.get(_XML_LANG) is None:
                element.set(_XML_LANG, lang)
        _match(root, matcher, out)
    return out


def is_meant(element: Element) -> bool:
    """Whether the conditions that an element sets are met (SVG 2, conditional processing); the language is English."""
    if element.get("requiredExtensions") is not None:
        return False
    told = element.get("systemLanguage")
    return told is None or any(one.strip().lower().split("-")[0] == _LANGUAGE for one in told.split(","))


def _match(root: Element, matcher: cssselect2.Matcher, out: Sheets) -> None:
    total = 0
    for wrapped in cssselect2.ElementWrapper.from_xml_root(root).iter_subtree():
        matches = matcher.match(wrapped)
        total += len(matches)
        if total > MAX_MATCHES:
            raise VectorError(
                f"Its style sheets say more than {MAX_MATCHES:,} things about its parts.", "Save only what is to be cut."
            )
        for _, _, _, (plain, important) in matches:
            out.plain.setdefault(wrapped.etree_element, {}).update(plain)
            out.important.setdefault(wrapped.etree_element, {}).update(important)


def _rules(nodes: list[tinycss2.ast.Node]) -> list[tinycss2.ast.QualifiedRule]:
    out = []
    for node in nodes:
        if node.type == "qualified-rule":
            out.append(node)
        elif node.type == "at-rule" and node.lower_at_keyword in ("media", "supports", "layer") and node.content is not None:
            words = [token.lower_value for token in node.prelude if token.type == "ident"]
            if not words or words[0] not in _OTHER_MEDIA:
                out += _rules(tinycss2.parse_rule_list(node.content, skip_comments=True, skip_whitespace=True))
    return out


def _declared(content: str | list[tinycss2.ast.Node]) -> tuple[dict[str, str], dict[str, str]]:
    """What a block declares: plainly, and as important."""
    plain: dict[str, str] = {}
    important: dict[str, str] = {}
    for node in tinycss2.parse_blocks_contents(content, skip_comments=True, skip_whitespace=True):
        if node.type == "declaration":
            (important if node.important else plain)[node.lower_name] = tinycss2.serialize(node.value).strip()
    return plain, important


def style_of(element: Element, inherited: Style, sheets: Sheets) -> dict[str, str]:
    """What holds for an element: presentation attributes, style sheets, its style attribute, and what is important."""
    own: dict[str, str] = {k: v.strip() for k, v in element.attrib.items() if k in _OWN or k == "marker"}
    own.update(sheets.plain.get(element, {}))
    attribute = element.get("style")
    plain, important = _declared(attribute) if attribute else ({}, {})
    own.update(plain)
    own.update(sheets.important.get(element, {}))
    own.update(important)
    style = {k: v for k, v in inherited.items() if k in INHERITED}
    style |= {k: v for k, v in inherited.items() if k.startswith("--")}
    if "marker" in own:
        own = {"marker-start": own["marker"], "marker-mid": own["marker"], "marker-end": own["marker"]} | own
    style |= {k: _resolved(v, {**style, **own}) for k, v in own.items() if k.startswith("--")}
    for name, value in own.items():
        if name.startswith("--"):
            continue
        if "var(" in value:
            value = _resolved(value, style)
        if value == "inherit":
            style[name] = inherited.get(name, ROOT.get(name, ""))
        elif value:
            style[name] = value
    return style


def _resolved(value: str, known: Style, depth: int = 0) -> str:
    """A value with every `var(--name, fallback)` in it replaced (CSS custom properties, level 1); "" if one is unknown."""
    found = _VAR.search(value)
    if found is None or depth > _MOST_NESTED or len(value) > _LONGEST:
        return value if found is None else ""
    # The fallback may hold brackets of its own.
    end, level = found.end(), 1
    while end < len(value) and level:
        level += {"(": 1, ")": -1}.get(value[end], 0)
        end += 1
    name, _, fallback = value[found.end() : end - (0 if level else 1)].partition(",")
    told = known.get(name.strip()) or fallback.strip()
    if not told:
        return ""
    return _resolved(f"{value[: found.start()]}{told}{value[end:]}", known, depth + 1)


def colour_of(value: str, style: Style) -> tuple[str, float] | None:
    """A paint as (#rrggbb, opacity); None for no paint. Raises ValueError for one that is not understood."""
    return _colour(value.strip(), style.get("color", "#000000"))


@lru_cache(4096)
def _colour(text: str, current: str) -> tuple[str, float] | None:
    if text.lower() in ("none", ""):
        return None
    found = parse_color(text)
    if isinstance(found, str):
        found = parse_color(current)
    if not isinstance(found, Color):
        raise ValueError(text)
    try:
        rgb = found.to("srgb")
    except NotImplementedError as fault:
        raise ValueError(text) from fault
    red, green, blue = (min(255, max(0, round(255 * (c or 0.0)))) for c in rgb.coordinates)
    return f"#{red:02x}{green:02x}{blue:02x}", float(rgb.alpha)
