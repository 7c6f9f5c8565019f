"""Pieces of films at the finished size: small ones settled as the maker chose, and what is told of those that are left."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from operator import itemgetter

import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base.findings import Finding, Fix, Measure, Place
from gladstack.core.base.plane import box_around
from gladstack.core.films import bits
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
_NEARLY_MM, _NEARLY_SHARE = 2.0, 0.12
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


def small_findings(layers: Sequence[BuiltLayer], below_mm2: float) -> list[Finding]:
    """What is told of films with pieces below an area."""
    out = []
    for layer in layers:
        small = [b for b in layer.pieces.small if b.area_mm2 < below_mm2]
        if not small:
            continue
        many = f"{len(small)} pieces" if len(small) > 1 else "a piece"
        said = f"{layer.name} has {many} below {below_mm2:g} mm²; the smallest has {small[0].area_mm2:.2g} mm²."
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
    """What is told of words of a joined script that come in more than one piece."""
    by_film = {layer.film: layer for layer in layers}
    out = []
    for art in arts:
        words = art.facts.words if isinstance(art.facts, LetterFacts) else ()
        for word in words:
            layer = by_film.get(word.film or "")
            if layer is not None and (found := _loose(word, layer)) is not None:
                out.append(replace(found, about=art.id))
    return out


def _loose(word: Word, layer: BuiltLayer) -> Finding | None:
    """A word whose letters do not all hang together in the film they are cut from."""
    own = {k for letter in word.letters if (k := bits.touched_by(layer.shape, letter)) is not None}
    if len(own) < 2:
        return None
    whole = MultiPolygon([layer.shape.geoms[k] for k in sorted(own)])
    limit = max(_NEARLY_MM, _NEARLY_SHARE * (whole.bounds[3] - whole.bounds[1]))
    gaps = bits.gaps_within(whole, limit, MOST_TOLD)
    if not gaps:
        return None
    apart = f"{gaps[0].mm:.2f} mm" if len(gaps) == 1 else f"{gaps[0].mm:.2f} to {gaps[-1].mm:.2f} mm"
    said = f"“{word.text}” comes in {len(own)} pieces, {apart} apart."
    place = Place(box=box_around([whole.bounds]))
    edits = [
        {
            "kind": "close-gap",
            "film": layer.film,
            "gap": {"x1_mm": g.start[0], "y1_mm": g.start[1], "x2_mm": g.end[0], "y2_mm": g.end[1]},
        }
        for g in gaps
    ]
    name = f"Weld “{word.text[:60]}” in one piece"
    fixes = (Fix(name, {"kind": "several", "name": name, "edits": edits}),)
    return Finding("loose-word", said, "note", place=place, helps="Close its gaps to weld it.", fixes=fixes)
