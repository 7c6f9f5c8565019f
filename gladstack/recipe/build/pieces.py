"""Pieces of films at the finished size: small ones settled as the maker chose, and what is told of those that are left."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from operator import itemgetter

import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base.findings import Finding, Fix, Measure, Place
from gladstack.core.base.plane import Box, box_around
from gladstack.core.films import bits
from gladstack.core.films.bits import Gap
from gladstack.recipe.art.given import ArtPieces, LetterFacts, Word
from gladstack.recipe.build.built import BuiltLayer, Pieces
from gladstack.recipe.build.stack import Draft
from gladstack.recipe.model.recipe import FilmChoice
from gladstack.stages.engine import Stages, part
from gladstack.stages.memo import Keyed

LARGEST_MM2 = 30.0
"""No piece of a larger area is told as one that may be too small."""
WIDEST_MM = 5.0
"""No gap wider than this is told as one that might be closed."""
MOST_TOLD = 150
_LEAST_TOLD_MM2 = 0.001
_NEARLY_MM, _NEARLY_SHARE = 2.0, 0.2
"""Letters of a script no farther apart than this, or than a share of their word's height, are taken to be meant to join."""
SETTLING_ROUNDS = 2
"""What is dropped or merged may leave other pieces small: they are settled, too, but not without end."""


def pieces_of_film(shape: MultiPolygon) -> Pieces:
    """What is told of the pieces of a cut shape."""
    return Pieces(bits.small_bits(shape, LARGEST_MM2, MOST_TOLD), bits.gaps_within(shape, WIDEST_MM, MOST_TOLD))


def asks(choice: FilmChoice) -> bool:
    """Whether anything was chosen for pieces of a film."""
    return choice.small is not None or bool(choice.pieces)


def to_settle(cut: MultiPolygon, choice: FilmChoice) -> list[tuple[Polygon, bool]]:
    """The pieces of a cut shape that are to be dropped or, with the second value, merged with a neighbour."""
    if cut.is_empty or not asks(choice):
        return []
    chosen = {k: p.how for p in choice.pieces if (k := bits.touched_by(cut, (p.x_mm, p.y_mm))) is not None}
    rule = choice.small
    out = []
    for k, piece in enumerate(cut.geoms):
        how = chosen.get(k, rule.how if rule and piece.area < rule.below_mm2 else "keep")
        if how != "keep":
            out.append((piece, how == "merge"))
    return out


def settled(
    drafts: Sequence[Draft], cuts: Sequence[Keyed[MultiPolygon]], choices: Sequence[FilmChoice], stages: Stages
) -> list[Draft] | None:
    """The films after small pieces of what is cut of them were dropped or merged; None if there are none to settle."""
    small = [
        (k, piece, merge)
        for k, (cut, choice) in enumerate(zip(cuts, choices, strict=True))
        for piece, merge in (to_settle(cut.value, choice) if asks(choice) else ())
    ]
    if not small:
        return None
    made = stages.run("layers", bits.settled, [d.shape for d in drafts], list(cuts), small)
    # A film that has taken over another's piece may lie on what is below it there.
    return [
        replace(d, shape=part(made, f"film {k}", itemgetter(k)), map=None, shared=False) if k in made.value else d
        for k, d in enumerate(drafts)
    ]


def _area(mm2: float) -> str:
    return f"{mm2:.2g} mm²" if mm2 >= _LEAST_TOLD_MM2 else f"less than {_LEAST_TOLD_MM2:g} mm²"


def small_findings(layers: Sequence[BuiltLayer], below_mm2: float) -> list[Finding]:
    """What is told of films with pieces below an area."""
    out = []
    for layer in layers:
        small = [b for b in layer.pieces.small if b.area_mm2 < below_mm2]
        if not small:
            continue
        many = f"{len(small)} pieces" if len(small) > 1 else "a piece"
        said = f"{layer.name} has {many} below {below_mm2:g} mm²; the smallest has {_area(small[0].area_mm2)}."
        found = {bits.touched_by(layer.cut, b.at, 0.0) for b in small[:MOST_TOLD]}
        rings = tuple(
            tuple((float(x), float(y)) for x, y in shapely.get_coordinates(layer.cut.geoms[k].exterior)[:-1])
            for k in sorted(k for k in found if k is not None)
        )
        edit = {"kind": "tidy-film", "film": layer.film, "below_mm2": below_mm2}
        fixes = (Fix("Merge them", {**edit, "how": "merge"}), Fix("Drop them", {**edit, "how": "drop"}))
        measure = Measure(small[0].area_mm2, below_mm2, "mm2")
        helps = "Merge them with what lies beside them, or drop them."
        out.append(Finding("small-pieces", said, "mind", layer.film, Place(outlines=rings), measure, helps, fixes))
    return out


def loose_findings(arts: Sequence[ArtPieces], layers: Sequence[BuiltLayer]) -> list[Finding]:
    """What is told of words of a joined script that come in more than one piece: all those of an art and film at once."""
    by_film = {layer.film: layer for layer in layers}
    out = []
    for art in arts:
        words = art.facts.words if isinstance(art.facts, LetterFacts) else ()
        for film in dict.fromkeys(word.film for word in words):
            layer = by_film.get(film or "")
            loose = [_loose(word, layer) for word in words if word.film == film] if layer is not None else []
            if layer is not None and (found := [one for one in loose if one is not None]):
                out.append(_told_loose(found, layer, art.id))
    return out


@dataclass(frozen=True)
class _Loose:
    """A word in several pieces: its text, how many they are, their box, and the gaps that would have to be closed."""

    text: str
    pieces: int
    box: Box
    gaps: tuple[Gap, ...]


def _loose(word: Word, layer: BuiltLayer) -> _Loose | None:
    """A word whose letters do not all hang together in the film they are cut from, and nearly do."""
    own = {k for letter in word.letters if (k := bits.touched_by(layer.shape, letter)) is not None}
    if len(own) < 2:
        return None
    whole = MultiPolygon([layer.shape.geoms[k] for k in sorted(own)])
    limit = max(_NEARLY_MM, _NEARLY_SHARE * (whole.bounds[3] - whole.bounds[1]))
    gaps = bits.gaps_within(whole, limit, MOST_TOLD)
    left, top, right, bottom = whole.bounds
    return _Loose(word.text, len(own), (left, top, right, bottom), gaps) if gaps else None


def _told_loose(loose: Sequence[_Loose], layer: BuiltLayer, art: str) -> Finding:
    gaps = sorted((g for one in loose for g in one.gaps), key=lambda g: g.mm)
    apart = f"{gaps[0].mm:.2f} mm" if len(gaps) == 1 else f"{gaps[0].mm:.2f} to {gaps[-1].mm:.2f} mm"
    named = ", ".join(f"“{one.text[:40]}”" for one in loose[:3]) + (" and others" if len(loose) > 3 else "")
    one = len(loose) == 1
    said = f"{named} comes in {loose[0].pieces} pieces" if one else f"{named} come in several pieces each"
    edits = [
        {
            "kind": "close-gap",
            "film": layer.film,
            "gap": {"x1_mm": g.start[0], "y1_mm": g.start[1], "x2_mm": g.end[0], "y2_mm": g.end[1]},
        }
        for g in gaps
    ]
    name = f"Weld {named} in one piece" if one else "Weld each word in one piece"
    fix = Fix(name, {"kind": "several", "name": name, "edits": edits})
    place = Place(box=box_around([one.box for one in loose]))
    helps = "Close the gaps to weld it."
    return Finding("loose-word", f"{said}, {apart} apart.", "note", art, place, helps=helps, fixes=(fix,))
