"""Every function that takes a shape, over the zoo of awkward ones: what comes back is sound, and obeys what it says."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from typing import Any

import pytest
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base.errors import GladStackError
from gladstack.core.films import shadows
from gladstack.core.films.compose import joined, kept_of, laid_together
from gladstack.core.films.invariants import differing, overlap, unhidden
from gladstack.core.films.joints import Joint, JointKind, Upper, cut_shape, meets, reach_under
from gladstack.core.films.mends import closed_over, cut_out, put_on, taken_off
from gladstack.core.films.order import filled_area, propose_order
from gladstack.core.geometry import mending, overlay
from gladstack.core.geometry.curves import flatten_chain
from gladstack.core.geometry.outlines import CurveIndex, Part, outline_of
from gladstack.core.geometry.partition import borders, longest_border, nesting, replaced, share_out
from gladstack.core.geometry.rings import as_multi as welded
from gladstack.core.geometry.shapes import clean, cut_away, grow, meeting
from gladstack.core.geometry.simplify import simplify
from tests.core.shapes import ZOO, as_multi

A, B = (2.0, 0.0), (9.0, 3.0)
AROUND = [(1.0, 1.0), (12.0, 1.0), (12.0, 12.0), (1.0, 12.0)]

GROWING: dict[str, Callable[[MultiPolygon], Any]] = {
    "grow": lambda s: grow(s, 0.5),
    "grow mitred": lambda s: grow(s, 0.5, "mitre"),
    "grow bevelled": lambda s: grow(s, 0.5, "bevel"),
    "thicken": lambda s: shadows.thicken(s, 0.2),
    "fill_holes": shadows.fill_holes,
    "fill_holes below": lambda s: shadows.fill_holes(s, 70.0),
    "block_shadow": lambda s: shadows.block_shadow(s, 3, 4),
    "laid_together": lambda s: laid_together([s, as_multi(ZOO["disc"])]),
    "joined": lambda s: joined([s, as_multi(ZOO["square"])]),
    "put_on": lambda s: put_on({"a": s, "b": MultiPolygon()}, "a", mending.stroke([A, B], 1.5))["a"],
    "union": lambda s: overlay.union(s, ZOO["square"]),
    "union_all": lambda s: overlay.union_all([s, *ZOO.values()]),
    "welded": lambda s: welded(list(s.geoms)),
    "full joint": lambda s: cut_shape(s, [Upper(as_multi(ZOO["disc"]), Joint(JointKind.FULL, 0.4))]),
}  # fmt: skip
SHRINKING: dict[str, Callable[[MultiPolygon], Any]] = {
    "shrink": lambda s: grow(s, -0.5),
    "thin": lambda s: shadows.thicken(s, -0.2),
    "clean": clean,
    "cut_away": lambda s: cut_away(s, [ZOO["disc"], ZOO["sliver"]]),
    "difference": lambda s: overlay.difference(s, ZOO["hole"]),
    "intersection": lambda s: overlay.intersection(s, ZOO["hole"]),
    "meeting": lambda s: meeting(s, ZOO["disc"]),
    "kept_of": lambda s: kept_of(s, as_multi(ZOO["disc"]), [as_multi(ZOO["sliver"])]),
    "thin_parts": lambda s: mending.thin_parts(s, 1.0),
    "taken_off": lambda s: taken_off({"a": s}, "a", mending.stroke([A, B], 1.5))["a"],
    "cut_out": lambda s: cut_out({"a": s}, ["a"], mending.enclosed_by(AROUND))["a"],
    "butt joint": lambda s: cut_shape(s, [Upper(as_multi(ZOO["disc"]), Joint(JointKind.BUTT))]),
    "gap joint": lambda s: cut_shape(s, [Upper(as_multi(ZOO["disc"]), Joint(JointKind.GAP, 0.7))]),
}
ANY: dict[str, Callable[[MultiPolygon], Any]] = {
    "lap joint": lambda s: cut_shape(s, [Upper(as_multi(ZOO["disc"]), Joint(JointKind.LAP, 0.5))]),
    "reach_under": lambda s: reach_under(s, as_multi(ZOO["disc"]), [ZOO["square"]]),
    "copy_shadow": lambda s: shadows.copy_shadow(s, 3, 4, 0.3),
    "band": lambda s: shadows.band(s, 0.5, 1.5),
    "stitches": lambda s: shadows.stitches(s, -0.2, 2, 1, 0.4, "round"),
    "gaps_between": lambda s: mending.gaps_between([s, as_multi(ZOO["corner touch"])], 1.0),
    "differing": lambda s: list(differing(s, as_multi(ZOO["disc"]))),
    "unhidden": lambda s: list(unhidden((s, s), ZOO["disc"])),
    "overlap": lambda s: overlap(s, ZOO["corner touch"]),
    "both_differences": lambda s: list(overlay.both_differences(s, ZOO["disc"])),
    "share_out": lambda s: share_out(s, [as_multi(ZOO["corner touch"]), as_multi(ZOO["island in hole"])]),
    "closed_over": lambda s: closed_over({"a": as_multi(ZOO["hole"])}, s).values(),
    "replaced": lambda s: replaced({"a": s, "b": as_multi(ZOO["hole"])}, "a", as_multi(ZOO["disc"])).values(),
    "simplify": lambda s: simplify({"a": s}, 0.1, CurveIndex([])).shapes.values(),
    "outline_of": lambda s: [filled(part) for part in outline_of(s, CurveIndex([])).parts],
}


def filled(part: Part) -> Polygon:
    return Polygon(*(lambda shell, *holes: (shell, holes))(*(flatten_chain(c, 0.01) for c in (part.shell, *part.holes))))


def made(function: Callable[[MultiPolygon], Any], shape: MultiPolygon) -> list[Any]:
    """The shapes that a function gives; none where it says in a word that it cannot."""
    with suppress(GladStackError):
        out = function(shape)
        return [out] if isinstance(out, shapely.Geometry) else list(out)
    return []


@pytest.mark.parametrize("animal", ZOO)
@pytest.mark.parametrize("name", [*GROWING, *SHRINKING, *ANY])
def test_what_is_made_of_an_awkward_shape_is_sound(name: str, animal: str) -> None:
    shape = as_multi(ZOO[animal])
    for one in made((GROWING | SHRINKING | ANY)[name], shape):
        assert one.is_valid, shapely.is_valid_reason(one)
        assert one.area >= 0
        if name in GROWING:
            assert shape.difference(one).area < 1e-6
        if name in SHRINKING:
            assert one.difference(shape).area < 1e-6


@pytest.mark.parametrize("animal", ZOO)
def test_what_is_measured_on_an_awkward_shape_is_finite(animal: str) -> None:
    shape, disc = as_multi(ZOO[animal]), as_multi(ZOO["disc"])
    assert filled_area(shape) >= shape.area - 1e-9
    assert sorted(propose_order([shape, disc])) == [0, 1]
    assert meets(shape, shape) is not shape.is_empty
    assert all(length >= 0 for length in borders(shape, [disc, ZOO["corner touch"]]))
    assert longest_border(shape, []) is None
    assert len(nesting(list(shape.geoms))[0]) == len(shape.geoms)
