"""Films with pieces below the area that the design takes for small."""

from __future__ import annotations

from collections.abc import Iterator

import shapely

from gladstack.core.base.findings import Measure, Whereabouts
from gladstack.core.films.bits import touched_by
from gladstack.core.geometry.partition import longest_border
from gladstack.proof.check import FilmCheck, FilmRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.build.pieces import MOST_TOLD, pieces_of
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.edit.pieces import TidyFilm

_LEAST_TOLD_MM2 = 0.001


def _findings(read: FilmRead) -> Iterator[Finding[Edit]]:
    layer, below = read.layer, read.built.recipe.small_mm2
    small = [b for b in pieces_of(layer, read.stages).small if b.area_mm2 < below]
    if not small:
        return
    many = f"{len(small)} pieces" if len(small) > 1 else "a piece"
    said = f"{layer.name} has {many} below {below:g} mm²; the smallest has {_area(small[0].area_mm2)}."
    found = {touched_by(layer.cut, b.at, 0.0) for b in small[:MOST_TOLD]}
    pieces = [layer.cut.geoms[k] for k in sorted(k for k in found if k is not None)]
    rings = tuple(tuple((float(x), float(y)) for x, y in shapely.get_coordinates(piece.exterior)[:-1]) for piece in pieces)
    drop = Fix[Edit]("Drop them", TidyFilm(film=layer.film, below_mm2=below, how="drop"))
    merge = Fix[Edit]("Merge them", TidyFilm(film=layer.film, below_mm2=below, how="merge"))
    # A piece that borders on no other film can be merged with nothing.
    others = [other.cut for other in read.built.layers if other is not layer]
    merges = any(longest_border(piece, others) is not None for piece in pieces)
    yield Finding(
        "small-pieces",
        said,
        "mind",
        place=Whereabouts(outlines=rings),
        measure=Measure(small[0].area_mm2, below, "mm2"),
        helps="Merge them with what lies beside them, or drop them." if merges else "Drop them.",
        fixes=(merge, drop) if merges else (drop,),
    )


def _area(mm2: float) -> str:
    return f"{mm2:.2g} mm²" if mm2 >= _LEAST_TOLD_MM2 else f"less than {_LEAST_TOLD_MM2:g} mm²"


CHECK = FilmCheck(("small-pieces",), _findings, "stack", "the smallest piece that the design keeps", when="weeding")
