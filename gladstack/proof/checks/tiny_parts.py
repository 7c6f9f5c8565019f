"""Parts that are tiny all over: they are lost in weeding."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from shapely import Polygon

from gladstack.core.base.findings import Measure, Whereabouts
from gladstack.proof.check import CutCheck, CutRead
from gladstack.proof.finding import Finding, Fix
from gladstack.proof.narrow import dropped, first, settled, severity_of, tiny_width
from gladstack.proof.places import around
from gladstack.recipe.edit.edits import Edit, Several


def _findings(read: CutRead) -> Iterator[Finding[Edit]]:
    film, limit = read.film, read.film.material.least_part_mm
    found = []
    for part in film.layer.cut.geoms:
        # What the design takes for small is told of by itself.
        if part.area < read.whole.built.recipe.small_mm2:
            continue
        if (wide := tiny_width(part, limit)) is not None:
            found.append((wide, part))
    found.sort(key=lambda one: one[0])
    for wide, part in first(found):
        at = part.point_on_surface()
        fixes = [
            Fix[Edit]("Merge it with its neighbour", settled(film.film, part, "merge")),
            dropped(film.film, part),
        ]
        if len(found) > 1:
            fixes.append(_all_dropped(film.film, film.layer.name, [p for _, p in found[:_MOST_EDITS]]))
        yield Finding[Edit](
            "tiny-part",
            f"A piece of {film.layer.name} is {wide:.2f} mm across at most; {film.material.spoken} bears {limit:g} mm.",
            severity_of(wide, limit),
            place=Whereabouts(at=(at.x, at.y), outlines=(around(part.exterior),)),
            measure=Measure(round(wide, 3), limit, "mm"),
            helps="Merge it with what is beside it, drop it, or cut the decal larger.",
            fixes=tuple(fixes),
        )


_MOST_EDITS = 200


def _all_dropped(film: str, name: str, parts: Sequence[Polygon]) -> Fix[Edit]:
    edits = tuple(settled(film, part, "drop") for part in parts)
    return Fix(f"Drop all {len(parts)}", Several(name=f"{name[:80]}: {len(parts)} tiny pieces dropped", edits=edits))


CHECK = CutCheck(("tiny-part",), _findings, "proof", "the narrowest part that the material bears", "weeding")
