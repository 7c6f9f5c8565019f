"""Fewer nodes with a lead: the curve falls, bends where it is said to, and a wanted number is kept to."""

from __future__ import annotations

import itertools
import math

import pytest

from gladstack.recipe.art.given import Assets
from gladstack.recipe.art.nodes import AtDeviation, deviation_for, knee, nodes_by_deviation
from gladstack.recipe.model.arts import VectorArt
from gladstack.stages.engine import Stages
from tests.shop.jobs import MEMO, no_picture


def rough_disc(points: int, rough_mm: float) -> bytes:
    """A disc as a polygon of many points that jump to and fro."""
    ring = [
        ((30 + (rough_mm if k % 2 else 0)) * math.cos(a), (30 + (rough_mm if k % 2 else 0)) * math.sin(a))
        for k in range(points)
        for a in (2 * math.pi * k / points,)
    ]
    d = "M" + "L".join(f"{x + 40:.4f} {y + 40:.4f}" for x, y in ring) + "Z"
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="80mm" viewBox="0 0 80 80"><path d="{d}"/></svg>'
    ).encode()


@pytest.mark.parametrize(("points", "rough"), [(1500, 0.03), (2400, 0.01)])
def test_nodes_fall_with_the_deviation_and_a_wanted_number_is_kept_to(points: int, rough: float) -> None:
    data = rough_disc(points, rough)
    assets, stages = Assets(picture=no_picture, file=lambda _: data), Stages(MEMO)
    art = VectorArt(file=f"{points:064x}")
    curve = nodes_by_deviation(art, assets, stages)
    assert curve[0].mm == 0
    assert curve[0].nodes >= points * 0.9
    assert all(b.nodes <= a.nodes * 1.02 for a, b in itertools.pairwise(curve[1:]))
    assert curve[-1].seconds < curve[0].seconds
    # What is rough by so much needs no more than that to be smooth.
    assert 0 < knee(curve) <= 0.15
    found = deviation_for(art, 60, assets, stages)
    assert found is not None
    assert found.nodes <= 60
    again = deviation_for(art, found.nodes, assets, stages)
    assert again is not None
    assert again.mm <= found.mm


def test_there_is_no_bend_where_nothing_is_saved() -> None:
    assert knee([AtDeviation(mm, 20, 3.0) for mm in (0.0, 0.1, 0.3)]) == 0.0
    assert knee([]) == 0.0
