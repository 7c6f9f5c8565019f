"""Two builds held against each other, film by film."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from shapely import MultiPolygon

from gladstack.core.films.compared import NO_CHANGE, Change, compared
from gladstack.recipe.build.built import Built


@dataclass(frozen=True)
class FilmChange:
    """A film that is not cut now as it was: its key, colour and name, and what differs of its cut."""

    film: str
    colour: str
    name: str
    state: Literal["changed", "new", "gone"]
    change: Change


def compared_builds(before: Built, now: Built) -> list[FilmChange]:
    """The films that are cut otherwise now, in the stack's order; those that are gone come last."""
    old = {layer.film: layer for layer in before.layers}
    out = []
    for layer in now.layers:
        was = old.pop(layer.film, None)
        same = was is not None and was.key == layer.key
        change = NO_CHANGE if same else compared(was.cut if was else MultiPolygon(), layer.cut)
        if not change.is_none:
            out.append(FilmChange(layer.film, layer.colour, layer.name, "changed" if was else "new", change))
    gone = [FilmChange(x.film, x.colour, x.name, "gone", compared(x.cut, MultiPolygon())) for x in old.values()]
    return out + [one for one in gone if not one.change.is_none]
