"""Films at the finished size: small pieces settled and thin places put right as the maker chose, and what is left."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from operator import itemgetter

from shapely import MultiPolygon, Polygon

from gladstack.core.films import bits
from gladstack.core.films.repairs import Repair, Repaired, changed_by, repaired
from gladstack.core.geometry import overlay
from gladstack.core.geometry.curves import Matrix
from gladstack.core.geometry.partition import longest_border
from gladstack.core.geometry.shapes import clean
from gladstack.recipe.art.mended import moved_point
from gladstack.recipe.build.built import BuiltLayer
from gladstack.recipe.build.stack import Draft
from gladstack.recipe.model.recipe import FilmChoice
from gladstack.stages.engine import Stages, constant, part
from gladstack.stages.laid import run_alike
from gladstack.stages.memo import Keyed

LARGEST_MM2 = 30.0
"""No piece of a larger area is told as one that may be too small."""
WIDEST_MM = 5.0
"""No gap wider than this is told as one that might be closed."""
MOST_TOLD = 150
SETTLING_ROUNDS = 2
"""What is dropped or merged may leave other pieces small: they are settled, too, but not without end."""


@dataclass(frozen=True)
class Pieces:
    """The pieces of a film that may be too small, smallest first, and the gaps between those that nearly touch."""

    small: tuple[bits.Bit, ...]
    gaps: tuple[bits.Gap, ...]


def pieces_of(layer: BuiltLayer, stages: Stages) -> Pieces:
    """What is told of the pieces of a film. The plan of hundreds of names does not ask for it."""
    found, by = run_alike(stages, "layers", _pieces_of_cut, layer.laid)
    return found.value if by is None else _laid_pieces(found.value, by)


def _pieces_of_cut(cut: MultiPolygon) -> Pieces:
    return Pieces(bits.small_bits(cut, LARGEST_MM2, MOST_TOLD), bits.gaps_within(cut, WIDEST_MM, MOST_TOLD))


def _laid_pieces(pieces: Pieces, by: Matrix) -> Pieces:
    small = tuple(replace(bit, at=moved_point(bit.at, by)) for bit in pieces.small)
    gaps = tuple(replace(gap, start=moved_point(gap.start, by), end=moved_point(gap.end, by)) for gap in pieces.gaps)
    return Pieces(small, gaps)


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


def put_right(
    drafts: Sequence[Draft], cuts: Sequence[Keyed[MultiPolygon]], choices: Sequence[FilmChoice], stages: Stages
) -> list[Draft] | None:
    """The films after their thin places were put right on what is cut of them; None if nothing was chosen."""
    if not any(choice.repairs for choice in choices):
        return None
    made = {
        k: _changed(cut, choice, stages) for k, (cut, choice) in enumerate(zip(cuts, choices, strict=True)) if choice.repairs
    }
    held = stages.run("layers", inherited, list(cuts), list(made), list(made.values()))
    out = []
    for k, draft in enumerate(drafts):
        own, heirs = made.get(k), held.value.get(k)
        if own is None and heirs is None:
            out.append(draft)
            continue
        gained = own.value.gained if own else MultiPolygon()
        lost = own.value.lost if own else MultiPolygon()
        shape = stages.run("layers", with_repairs, draft.shape, gained, lost, heirs or MultiPolygon())
        # What is gained under a film above it is cut, too, though it is never seen; what is lost is cut nowhere.
        zones = replace(
            draft.zones, pushed=constant(clean(overlay.union(draft.zones.pushed.value, gained))),
            kept_off=constant(clean(overlay.union(draft.zones.kept_off.value, lost))),
        )  # fmt: skip
        out.append(replace(draft, shape=shape, zones=zones, map=None, shared=False))
    return out


def _changed(cut: Keyed[MultiPolygon], choice: FilmChoice, stages: Stages) -> Keyed[Repaired]:
    """What the repairs of a film come to, each on the film as those before have left it."""
    now = cut
    for one in choice.repairs:
        now = stages.run("layers", repaired, now, Repair(one.how, one.mm, one.at))
    return stages.run("layers", changed_by, cut, now)


def inherited(cuts: Sequence[MultiPolygon], of: Sequence[int], made: Sequence[Repaired]) -> dict[int, MultiPolygon]:
    """What films take over of what others lose: each piece goes to the film that it has the longest border with."""
    out: dict[int, list[Polygon]] = {}
    for film, repairs in zip(of, made, strict=True):
        others = [k for k in range(len(cuts)) if k != film]
        for piece in repairs.lost.geoms:
            best = longest_border(piece, [cuts[k] for k in others])
            if best is not None:
                out.setdefault(others[best], []).append(piece)
    return {k: clean(overlay.union_all(pieces)) for k, pieces in out.items()}


def with_repairs(shape: MultiPolygon, gained: MultiPolygon, lost: MultiPolygon, heired: MultiPolygon) -> MultiPolygon:
    """A film's shape with what repairs give to it and take from it, and what it takes over from others."""
    whole = overlay.union_all([shape, gained, heired])
    return clean(overlay.difference(whole, lost))
