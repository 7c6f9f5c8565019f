"""The proof of art that is moved, turned or mirrored as a whole: the same findings elsewhere, and nothing measured anew."""

from __future__ import annotations

from typing import Any

import pytest

from gladstack.demo.shelf import demo_shop
from gladstack.proof.check import OnFilm
from gladstack.proof.finding import Finding
from gladstack.proof.on_film import on_film
from gladstack.proof.prove import proof_on_film
from gladstack.recipe.art.mended import moved_point
from gladstack.recipe.build.build import build
from gladstack.recipe.model.arts import Place
from gladstack.shop.jobs.job import Job, JobDesign
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo
from tests.recipe.test_laid import ASSETS, recipe

JOB = Job(name="Laid", designs=(JobDesign(design="d", name="d"),))
LAYS = ({"x_mm": 41.7, "y_mm": -12.25}, {"turn_deg": 90.0, "x_mm": 3}, {"turn_deg": 17.3}, {"mirrored": True, "y_mm": 8})


def read(lay: dict[str, Any], memo: Memo, heard: set[str]) -> OnFilm:
    # Small, so that there is much to tell.
    place = {**lay, "scale_x": 0.25, "scale_y": 0.25}
    made = build(recipe(place, {"kind": "lap", "mm": 0.2}), ASSETS, memo)
    return on_film(made, JOB, demo_shop(), Stages(memo, heard.add))


def told(one: Finding[Any]) -> tuple[Any, ...]:
    return one.code, one.severity, one.about, one.text, len(one.fixes), one.measure


@pytest.mark.parametrize("lay", LAYS)
def test_a_proof_lies_where_its_art_does(lay: dict[str, Any]) -> None:
    memo, heard = Memo(), set[str]()
    first = read({}, memo, heard)
    before = proof_on_film(first)
    assert len(before) > 5
    heard.clear()
    second = read(lay, memo, heard)
    after = proof_on_film(second)
    assert heard <= {"art"}
    assert list(map(told, after)) == list(map(told, before))
    by = Place(**lay).laid
    for one, other in zip(before, after, strict=True):
        assert (one.place is None) == (other.place is None)
        # What has no place of its own is told at some point inside it, which is another when it is turned.
        if one.place and other.place and one.place.at and (one.place.across or "turn_deg" not in lay):
            assert other.place.at == pytest.approx(moved_point(one.place.at, by), abs=1e-3)
    for was, now in zip(first.drift, second.drift, strict=True):
        assert now.mm2 == pytest.approx(was.mm2)
        assert now.shape.area == pytest.approx(was.shape.area)
    assert [shape.area for shape in second.at_least] == pytest.approx([shape.area for shape in first.at_least])
