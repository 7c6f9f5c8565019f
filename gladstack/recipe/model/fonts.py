"""The fonts that ship with the app, and how any font is found by its key."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from importlib import resources
from typing import Literal

from gladstack.core.base.errors import FontError
from gladstack.core.write.pages import Type

Manner = Literal[
    "heavy sans", "hairline sans", "slab", "rounded", "stencil", "connected script", "condensed", "handwritten", "serif",
    "bubbly", "Arabic", "Hebrew", "Devanagari", "Thai", "Armenian", "Georgian",
]  # fmt: skip


@dataclass(frozen=True)
class ShippedFont:
    """A font of an open licence in `gladstack/fonts`: its key, file, name and manner."""

    key: str
    file: str
    name: str
    manner: Manner


SHIPPED = (
    ShippedFont("inter-black", "inter-black.otf", "Inter Black", "heavy sans"),
    ShippedFont("roboto-slab", "roboto-slab-bold.otf", "Roboto Slab Bold", "slab"),
    ShippedFont("comfortaa", "comfortaa-bold.ttf", "Comfortaa Bold", "rounded"),
    ShippedFont("allerta-stencil", "allerta-stencil.otf", "Allerta Stencil", "stencil"),
    ShippedFont("lobster-two", "lobster.otf", "Lobster Two Bold", "connected script"),
    ShippedFont("dancing-script", "dancing-script-bold.otf", "Dancing Script Bold", "connected script"),
    ShippedFont("kaushan-script", "kaushan-script.otf", "Kaushan Script", "connected script"),
    ShippedFont("bebas-neue", "bebas-neue-bold.otf", "Bebas Neue Bold", "condensed"),
    ShippedFont("yanone-kaffeesatz", "yanone-kaffeesatz-bold.otf", "Yanone Kaffeesatz Bold", "condensed"),
    ShippedFont("comic-neue", "comic-neue-bold.otf", "Comic Neue Bold", "handwritten"),
    ShippedFont("kristi", "kristi.ttf", "Kristi", "handwritten"),
    ShippedFont("averia-serif", "averia-serif-bold.ttf", "Averia Serif Bold", "serif"),
    ShippedFont("cherry-bomb", "cherry-bomb.otf", "Cherry Bomb", "bubbly"),
    ShippedFont("inter-thin", "inter-thin.otf", "Inter Thin", "hairline sans"),
    ShippedFont("amiri", "amiri-bold.ttf", "Amiri Bold", "Arabic"),
    ShippedFont("noto-hebrew", "noto-sans-hebrew-bold.ttf", "Noto Sans Hebrew Bold", "Hebrew"),
    ShippedFont("noto-devanagari", "noto-sans-devanagari-bold.ttf", "Noto Sans Devanagari Bold", "Devanagari"),
    ShippedFont("noto-thai", "noto-sans-thai-bold.ttf", "Noto Sans Thai Bold", "Thai"),
    ShippedFont("noto-armenian", "noto-sans-armenian-bold.ttf", "Noto Sans Armenian Bold", "Armenian"),
    ShippedFont("noto-georgian", "noto-sans-georgian-bold.ttf", "Noto Sans Georgian Bold", "Georgian"),
)
FALLBACKS = (
    "inter-black", "amiri", "noto-hebrew", "noto-devanagari", "noto-thai", "noto-armenian", "noto-georgian",
)  # fmt: skip
"""Fonts that letters are taken from that a chosen font has not, in this order."""
_BY_KEY = {font.key: font for font in SHIPPED}


@cache
def shipped_font(key: str) -> bytes:
    """The bytes of a font that ships with the app. Raises FontError."""
    font = _BY_KEY.get(key)
    if font is None:
        raise FontError(f"There is no font “{key}” on the shelf.", "Choose another, or add it to the shelf.")
    return (resources.files("gladstack") / "fonts" / font.file).read_bytes()


@cache
def page_type() -> Type:
    """The font of printed pages: the screen's own."""
    folder = resources.files("gladstack") / "fonts"
    return Type((folder / "glad-sheet-regular.ttf").read_bytes(), (folder / "glad-sheet-semibold.ttf").read_bytes())
