"""Words of a joined script whose letters come in more than one piece."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from shapely import MultiPolygon

from gladstack.core.base.findings import Measure, Whereabouts
from gladstack.core.base.plane import Box, box_around
from gladstack.core.films.bits import Gap, gaps_within, touched_by
from gladstack.proof.check import StackCheck, StackRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.art.given import LetterFacts, Word
from gladstack.recipe.build.built import BuiltLayer
from gladstack.recipe.build.pieces import MOST_TOLD
from gladstack.recipe.edit.edits import Edit, Several
from gladstack.recipe.edit.pieces import CloseGap
from gladstack.recipe.model.recipe import ClosedGap

_NEARLY_MM, _NEARLY_SHARE = 2.0, 0.2
"""Letters of a script no farther apart than this, or than a share of their word's height, are taken to be meant to join."""


def _findings(read: StackRead) -> Iterator[Finding[Edit]]:
    """All words of an art and film at once."""
    by_film = {layer.film: layer for layer in read.built.layers}
    for art in read.built.arts:
        words = art.facts.words if isinstance(art.facts, LetterFacts) else ()
        for film in dict.fromkeys(word.film for word in words):
            if (layer := by_film.get(film or "")) is None:
                continue
            loose = [_loose(word, layer) for word in words if word.film == film]
            if found := [one for one in loose if one is not None]:
                yield _finding(found, layer, art.id)


@dataclass(frozen=True)
class _Loose:
    """A word in several pieces: its text, how many they are, their box, and the gaps that would have to be closed."""

    text: str
    pieces: int
    box: Box
    gaps: tuple[Gap, ...]


def _loose(word: Word, layer: BuiltLayer) -> _Loose | None:
    """A word whose letters do not all hang together in the film they are cut from, and nearly do."""
    own = {k for letter in word.letters if (k := touched_by(layer.shape, letter)) is not None}
    if len(own) < 2:
        return None
    whole = MultiPolygon([layer.shape.geoms[k] for k in sorted(own)])
    limit = max(_NEARLY_MM, _NEARLY_SHARE * (whole.bounds[3] - whole.bounds[1]))
    gaps = gaps_within(whole, limit, MOST_TOLD)
    left, top, right, bottom = whole.bounds
    return _Loose(word.text, len(own), (left, top, right, bottom), gaps) if gaps else None


def _finding(loose: Sequence[_Loose], layer: BuiltLayer, art: str) -> Finding[Edit]:
    gaps = sorted((g for one in loose for g in one.gaps), key=lambda g: g.mm)
    apart = f"{gaps[0].mm:.2f} mm" if len(gaps) == 1 else f"{gaps[0].mm:.2f} to {gaps[-1].mm:.2f} mm"
    named = ", ".join(f"“{one.text[:40]}”" for one in loose[:3]) + (" and others" if len(loose) > 3 else "")
    one = len(loose) == 1
    said = f"{named} comes in {loose[0].pieces} pieces" if one else f"{named} come in several pieces each"
    edits = tuple(CloseGap(film=layer.film, gap=_closed(g)) for g in gaps)
    name = f"Weld {named} in one piece" if one else "Weld each word in one piece"
    return Finding(
        "loose-word",
        f"{said}, {apart} apart.",
        about=art,
        place=Whereabouts(box=box_around([one.box for one in loose])),
        measure=Measure(gaps[0].mm, 0.0, "mm"),
        helps="Close the gaps to weld it.",
        fixes=(Fix(name, Several(name=name, edits=edits)),),
    )


def _closed(gap: Gap) -> ClosedGap:
    (x1, y1), (x2, y2) = gap.start, gap.end
    return ClosedGap(x1_mm=x1, y1_mm=y1, x2_mm=x2, y2_mm=y2)


CHECK = StackCheck(("loose-word",), _findings, "stack", "letters of a script that are meant to join", when="weeding")
