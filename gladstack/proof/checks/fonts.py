"""Characters that a font lacks: left out, or set in another font."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding
from gladstack.recipe.edit.edits import Edit

_MOST = 8


def _missing(read: ArtRead) -> Iterator[Finding[Edit]]:
    by_font: dict[str, list[str]] = {}
    for character, family in read.letters.missing if read.letters else ():
        by_font.setdefault(family, []).append(character)
    for family, lacking in by_font.items():
        said = f"The font {family} has no {_listed(lacking)}: left out."
        yield Finding("missing-glyph", said, "mind", helps="Choose another font.")


def _lent(read: ArtRead) -> Iterator[Finding[Edit]]:
    loans: dict[tuple[str, str], list[str]] = {}
    for character, family, other in read.letters.lent if read.letters else ():
        loans.setdefault((family, other), []).append(character)
    for (family, other), lacking in loans.items():
        said = f"The font {family} has no {_listed(lacking)}: set in {other}."
        yield Finding("other-font", said, helps="Choose another font.")


def _listed(characters: list[str]) -> str:
    """Some characters in quotes; each keeps its own direction of writing."""
    return ", ".join(f"“\u2068{c}\u2069”" for c in characters[:_MOST]) + (" and others" if len(characters) > _MOST else "")


MISSING = ArtCheck(("missing-glyph",), _missing, "art")
LENT = ArtCheck(("other-font",), _lent, "art")
