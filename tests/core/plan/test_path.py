"""The blade's path, and the formats it is written in, read back by another reader."""

from __future__ import annotations

import io
import itertools
import re
from typing import Any

import ezdxf
import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import MultiPolygon, Polygon, box

from gladstack.core.geometry.curves import Chain, flatten_chain, line_chain
from gladstack.core.plan.path import ZONE_MM, blade_path
from gladstack.core.write.dxf import DxfLayer, dxf
from gladstack.core.write.hpgl import hpgl, in_units, noded
from gladstack.core.write.svg import path_data
from tests.core.shapes import shapes
from tests.examples import examples


def rings_of(shape: MultiPolygon) -> list[Chain]:
    return [line_chain(np.asarray(r.coords)) for p in shape.geoms for r in (p.exterior, *p.interiors)]


COORDINATES = st.floats(-20_000, 20_000) | st.sampled_from([0.0, -0.0, -0.00004, 0.00005, 1e-9, 12.5, 99999.9999])


@given(st.lists(st.tuples(COORDINATES, COORDINATES), min_size=2, max_size=6), st.booleans())
def test_path_data_gives_all_coordinates_and_no_idle_signs(points: list[tuple[float, float]], bent: bool) -> None:
    chain = line_chain(np.array(points))
    chain = Chain(chain.pieces, np.zeros(len(chain), np.bool_)) if bent else chain
    text = path_data([chain])
    assert re.fullmatch(r"M[-\d. ]+([LC][-\d. ]+)+Z", text)
    assert not re.search(r"-0(?![.\d])|\.\d*0(?!\d)|e", text)
    read = [float(v) for v in re.findall(r"[-\d.]+", text)]
    wanted = [chain.pieces[0, 0], *(p[1:] if bent else p[3:] for p in chain.pieces)]
    assert read == pytest.approx(np.concatenate([np.ravel(p) for p in wanted]).tolist(), abs=0.000051)


def squares(places: list[tuple[int, int]], size: float = 5.0) -> list[Chain]:
    return [line_chain(np.asarray(box(12 * x, 12 * y, 12 * x + size, 12 * y + size).exterior.coords)) for x, y in places]


@given(st.lists(shapes(), min_size=1, max_size=4))
def test_every_contour_is_cut_once_and_holes_first(found: list[MultiPolygon]) -> None:
    rings = [c for k, s in enumerate(found) for c in rings_of(shapely.transform(s, lambda p, k=k: p + 60 * k))]
    if not rings:
        return
    path = blade_path(rings)
    assert sorted(path.order) == list(range(len(rings)))
    filled = [Polygon(flatten_chain(c, 0.01)) for c in path.contours]
    for before, after in itertools.combinations(filled, 2):
        assert not (before.contains(after) and before.area > after.area)
    total = sum(Polygon(flatten_chain(c, 0.01)).length for c in rings)
    assert path.cut_mm == pytest.approx(total)


# Within one zone of the film, so that any order is free to be taken.
PLACES = st.lists(st.tuples(st.integers(0, 15), st.integers(0, 20)), min_size=3, max_size=40, unique=True)


@given(PLACES)
def test_the_way_between_is_no_longer_than_from_one_to_the_nearest(places: list[tuple[int, int]]) -> None:
    path = blade_path(squares(places))
    left, here, way = [np.array([12.0 * x, 12.0 * y]) for x, y in places], np.zeros(2), 0.0
    while left:
        k = int(np.argmin([np.hypot(*(p - here)) for p in left]))
        way += float(np.hypot(*(left[k] - here)))
        here = left.pop(k)
    assert path.travel_mm <= way + 1e-6


def test_a_long_sheet_is_cut_zone_by_zone() -> None:
    path = blade_path(squares([(x, y) for y in range(3) for x in range(0, 80, 2)]))
    zones = [int(np.ptp(c.pieces[:, 0, 0]) / 2 + c.pieces[:, 0, 0].min()) // ZONE_MM for c in path.contours]
    assert zones == sorted(zones)
    assert path.travel_mm < path.travel_before_mm


def test_what_helps_weeding_is_cut_last() -> None:
    around = line_chain(np.asarray(box(-5, -5, 60, 60).exterior.coords))
    path = blade_path(squares([(0, 0), (3, 3)]), [around])
    assert path.order[-1] == 2
    assert path.lifts == 3


def test_contours_begin_at_a_corner() -> None:
    turns = np.linspace(0, np.pi, 40)
    drop = np.array([*np.stack([np.cos(turns), np.sin(turns)], axis=1), (0.0, -3.0), (1.0, 0.0)])
    (begun,) = blade_path([line_chain(drop)]).contours
    assert tuple(begun.pieces[0, 0]) == (0.0, -3.0)
    assert Polygon(flatten_chain(begun, 0.01)).equals(Polygon(drop))


@given(shapes())
def test_hpgl_gives_the_contours_back(shape: MultiPolygon) -> None:
    if shape.is_empty:
        return
    path = blade_path(rings_of(shape))
    text = hpgl([flatten_chain(c, 0.0125) for c in path.contours], 300.0, 100, 90)
    assert text.startswith("IN;")
    drawn: list[list[tuple[float, float]]] = []
    for command, told in re.findall(r"(PU|PD)([-\d,]*);", text):
        numbers = [int(n) for n in told.split(",")] if told else []
        points = [(x / 40, 300 - y / 40) for x, y in zip(numbers[::2], numbers[1::2], strict=True)]
        if command == "PU":
            drawn.append(points)
        else:
            drawn[-1] += points
    back = [Polygon(ring) for ring in drawn if len(ring) > 2]
    assert len(back) == len(path.contours)
    for ring, contour in zip(back, path.contours, strict=True):
        assert shapely.hausdorff_distance(ring.exterior, Polygon(flatten_chain(contour, 0.01)).exterior) <= 0.03


_ALONG = st.lists(st.floats(0.02, 0.98), max_size=5)


@given(_ALONG, _ALONG, st.floats(-40.0, 40.0), st.booleans())
def test_a_neck_of_no_width_stays_shut_in_units(there: list[float], back: list[float], rise: float, split: bool) -> None:
    # Two squares, and between them a line gone along there and back, or by two parts, with other points each time.
    def along(shares: list[float]) -> list[tuple[float, float]]:
        return [(5.0 + 60.0 * t, 5.0 + rise * t) for t in shares]

    left, right = [(5.0, 0.0), (0.0, 0.0), (0.0, 5.0)], [(65.0, 5.0 + rise), (70.0, 5.0 + rise), (70.0, rise), (65.0, rise)]
    forth, home = along(sorted(there)), along(sorted(back, reverse=True))
    if split:
        lines = [
            [(5.0, 5.0), *forth, right[0], (80.0, 90.0), (5.0, 5.0)],
            [right[0], *home, (5.0, 5.0), (80.0, -90.0), right[0]],
        ]
        rings = [in_units(line, 300.0)[0] for line in noded([np.array(line) for line in lines])]
        assert Polygon(rings[0]).intersection(Polygon(rings[1])).area < 1e-9
        return
    ring = [(5.0, 5.0), *forth, *right, (65.0, 5.0 + rise), *home, (5.0, 5.0), *left, (5.0, 5.0)]
    units = in_units(noded([np.array(ring)])[0], 300.0)[0]
    neck = shapely.make_valid(Polygon(units)).intersection(box(5 * 40 + 1, -1e6, 65 * 40 - 1, 1e6))
    assert neck.area < 1e-9


@given(shapes())
def test_lines_with_each_others_points_go_the_same_way(shape: MultiPolygon) -> None:
    lines = [flatten_chain(c, 0.0125) for c in rings_of(shape)]
    for line, more in zip(lines, noded(lines), strict=True):
        assert np.array_equal(line[[0, -1]], more[[0, -1]])
        assert {tuple(p) for p in line.tolist()} <= {tuple(p) for p in more.tolist()}
        assert shapely.hausdorff_distance(shapely.LineString(line), shapely.LineString(more)) <= 0.0031


def test_a_pen_draws_before_the_blade_cuts() -> None:
    pens = [[np.array([(5, 5), (6, 6)])], [np.array([(7, 7), (8, 8)])]]
    text = hpgl([np.array([(0, 0), (10, 0)])], 100.0, pens=pens)
    order = ["SP2;", "PD240", "SP3;", "PD320", "SP1;", "PD400"]
    assert [text.index(part) for part in order] == sorted(text.index(part) for part in order)


@settings(max_examples=examples(15))
@given(shapes())
def test_dxf_gives_the_contours_back_in_millimetres(shape: MultiPolygon) -> None:
    layer = DxfLayer("Night, navy*", "#1d2b53", tuple(rings_of(shape)), (((0.0, 0.0), (10.0, 5.0)),))
    read = ezdxf.read(io.StringIO(dxf([layer], 300.0)))  # type: ignore[attr-defined]
    assert not read.audit().errors
    assert (read.dxfversion, read.units) == ("AC1024", 4)
    space: Any = read.modelspace()
    found = [Polygon([(x, 300 - y) for x, y in p.get_points("xy")]) for p in space.query("LWPOLYLINE")]
    assert sum(p.area for p in found) == pytest.approx(sum(Polygon(flatten_chain(c, 0.01)).area for c in layer.contours))
    assert {e.dxf.layer for e in space} == {"01 Night  navy"}
    assert len(space.query("LINE")) == 1
    assert dxf([layer], 300.0) == dxf([layer], 300.0)
