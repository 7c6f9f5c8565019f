"""Joints that keep a decal to so many films on one another."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from shapely import MultiPolygon, Polygon
from shapely import Point as Spot

from gladstack.core.geometry import overlay
from gladstack.core.geometry.shapes import clean
from gladstack.proof.check import OnFilm
from gladstack.recipe.edit.edits import Several
from gladstack.recipe.edit.films import SetPairJoint
from gladstack.recipe.model.recipe import JointRule

_MOST_EDITS = 200


def at_most(read: OnFilm, films: int) -> Several | None:
    """Lets the lowest films end where others begin, wherever more than so many lie; None if there is no such place.

    Nothing else is changed, so films that end there bare ground if a hand slips.
    """
    pairs: dict[tuple[str, str], None] = {}
    for piece in _places(read.at_least[films:]):
        spot = Spot(piece.representative_point())
        here = [film.film for film in read.films if film.layer.cut.intersects(spot)]
        for k, lower in enumerate(here[: max(0, len(here) - films)]):
            pairs |= dict.fromkeys((lower, upper) for upper in here[k + 1 :])
    if not pairs:
        return None
    rule = JointRule(kind="butt")  # type: ignore[arg-type]
    edits = [SetPairJoint(a=lower, b=upper, rule=rule) for lower, upper in pairs][:_MOST_EDITS]
    name = "One film thick everywhere" if films == 1 else f"At most {films} films thick"
    return Several(name=name, edits=tuple(edits))


def _places(at_least: Sequence[MultiPolygon]) -> Iterator[Polygon]:
    """The places where just so many films lie, for each number of them."""
    for k, shape in enumerate(at_least):
        more = at_least[k + 1] if k + 1 < len(at_least) else MultiPolygon()
        yield from clean(overlay.difference(shape, more)).geoms
