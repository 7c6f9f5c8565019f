"""What a slip bares, against looking at every point by itself; and the laps that hide it."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.ndimage import distance_transform_edt  # type: ignore[import-untyped]
from shapely import MultiPolygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.films.borders import borders
from gladstack.core.films.drift import DIRECTIONS, at_risk, bared, inner_of, worst
from gladstack.core.films.joints import Joint, JointKind
from gladstack.core.films.thickness import piled
from tests.core.films.stacks import JOINTS, cuts_of, shapes
from tests.examples import examples

GRID_MM = 0.04


def risks(cuts: Sequence[MultiPolygon], slip_mm: float = 0.5) -> list[MultiPolygon]:
    """What of each film would show something wrong if a slip bared it."""
    found = piled(cuts)
    faces, inner = (*found.faces, MultiPolygon()), inner_of(found, slip_mm)
    return [
        at_risk(own, cut, [faces[border.lower] for border in own], inner, slip_mm)
        for own, cut in zip(borders(found, slip_mm), cuts, strict=True)
    ]


def seen(cuts: list[MultiPolygon], x: np.ndarray, y: np.ndarray) -> np.ndarray:  # type: ignore[type-arg]
    out = np.full(x.shape, -1)
    for k, cut in enumerate(cuts):
        out[shapely.contains_xy(cut, x, y)] = k
    return out


def by_looking(cuts: list[MultiPolygon], film: int, slip: tuple[float, float]) -> tuple[float, float]:
    """The same area by looking at every point of a fine grid before and after the slip: at least, and at most."""
    # No edge runs along it.
    left, top, right, bottom = shapely.total_bounds(cuts)
    x, y = np.meshgrid(np.arange(left - 2.013, right + 2, GRID_MM), np.arange(top - 2.017, bottom + 2, GRID_MM))
    before = seen(cuts, x, y)
    moved = [shapely.transform(c, lambda p: p + np.array(slip)) if k == film else c for k, c in enumerate(cuts)]
    after = seen(moved, x, y)
    least = most = 0
    for shows in range(-1, len(cuts)):
        met = (before == film) & (after == shows) & (after != before)
        if met.any():
            away = distance_transform_edt(before != shows) * GRID_MM
            least += int((met & (away > math.hypot(*slip) + 1.5 * GRID_MM)).sum())
            most += int((met & (away > math.hypot(*slip) - 1.5 * GRID_MM)).sum())
    return least * GRID_MM**2, most * GRID_MM**2


@given(shapes(), JOINTS, st.integers(0, 63))
@settings(max_examples=examples(20))
def test_what_a_slip_bares_is_what_is_seen_of_it(stack: list[MultiPolygon], joint: Joint, way: int) -> None:
    cuts = cuts_of(stack, joint)
    at = risks(cuts)
    angle = 2 * math.pi * way / DIRECTIONS
    slip = (0.5 * math.cos(angle), 0.5 * math.sin(angle))
    for film in range(len(cuts)):
        found = bared(at[film], cuts[film], slip).area
        least, most = by_looking(cuts, film, slip)
        assert 0.94 * least - 0.03 <= found <= 1.06 * most + 0.03


@given(shapes(), JOINTS)
@settings(max_examples=examples(60))
def test_the_worst_is_the_worst_of_all_directions(stack: list[MultiPolygon], joint: Joint) -> None:
    cuts = cuts_of(stack, joint)
    for film, risk in enumerate(risks(cuts)):
        ways = [2 * math.pi * k / DIRECTIONS for k in range(DIRECTIONS)]
        most = max(bared(risk, cuts[film], (0.5 * math.cos(a), 0.5 * math.sin(a))).area for a in ways)
        assert worst(risk, cuts[film], 0.5).mm2 >= 0.99 * most - 1e-3


@given(shapes(), JOINTS, st.sampled_from([0.3, 0.6, 1.0]))
@settings(max_examples=examples(60))
def test_what_is_at_risk_is_what_overlays_of_whole_films_tell(
    stack: list[MultiPolygon], joint: Joint, slip_mm: float
) -> None:
    cuts = cuts_of(stack, joint)
    for film, risk in enumerate(risks(cuts, slip_mm)):
        assert shapely.symmetric_difference(risk, by_overlays(film, cuts, slip_mm)).area <= 0.003 + 0.006 * risk.length


def by_overlays(film: int, cuts: Sequence[MultiPolygon], slip_mm: float) -> BaseGeometry:
    """The same from its definition, film by film."""
    found = piled(cuts)
    left = found.faces[film].difference(cuts[film].buffer(-slip_mm, quad_segs=32))
    wrong = []
    for lower in range(film - 1, -1, -1):
        under = left.intersection(cuts[lower])
        wrong.append(under.difference(found.faces[lower].buffer(slip_mm, quad_segs=32)))
        left = left.difference(cuts[lower])
    wrong.append(left.intersection(inner_of(found, slip_mm)))
    # Strips of less than a hundredth of a mm are what offsets and their flattening differ by.
    return shapely.union_all(wrong).buffer(-0.005).buffer(0.005)


@given(shapes(), JOINTS)
@settings(max_examples=examples(40))
def test_what_lies_apart_changes_nothing(stack: list[MultiPolygon], joint: Joint) -> None:
    far = MultiPolygon([shapely.box(40, 40, 44, 43)])
    alone = risks(cuts_of(stack, joint))
    beside = risks(cuts_of([MultiPolygon([*stack[0].geoms, *far.geoms]), *stack[1:]], joint))
    for one, other in zip(alone, beside, strict=True):
        assert not other.intersects(far)
        assert shapely.symmetric_difference(one, other).area < 1e-6


@given(shapes())
@settings(max_examples=examples(40))
def test_laps_of_the_slip_hide_it(stack: list[MultiPolygon]) -> None:
    cuts = cuts_of(stack, Joint(JointKind.LAP, 0.5))
    faces = piled(cuts).faces
    for film, risk in enumerate(risks(cuts)):
        found = worst(risk, cuts[film], 0.5)
        # Where three meet, or a film is narrower than the slip, something may be left: never a strip along an edge.
        assert found.mm2 <= 0.02 * faces[film].length
