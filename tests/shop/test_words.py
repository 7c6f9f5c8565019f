"""Words stay words: their letters are known, kept together, boxed together, and told where they lie apart."""

from __future__ import annotations

from typing import Any

import pytest
import shapely

from gladstack.demo.shelf import demo_shop
from gladstack.proof.prove import proof_of_plan
from gladstack.recipe.build.built import Built
from gladstack.shop.jobs.job import Job
from gladstack.shop.plan import checks
from gladstack.shop.plan.plan import plan
from gladstack.shop.plan.planned import Plan
from gladstack.shop.plan.words import letters_of
from tests.shop.jobs import built


def two_words(turn_deg: float = 0.0) -> Built:
    words = {
        "kind": "lettering", "id": "w", "text": "OPEN DOME\nii", "font": "inter-black", "height_mm": 14, "film": "#1d2b53",
        "place": {"turn_deg": turn_deg},
    }  # fmt: skip
    star = {"kind": "shape", "id": "s", "film": "#1d2b53", "form": {"form": "star"}, "place": {"x_mm": 0, "y_mm": 90}}
    return built({"arts": [words, star]})


def laid(design: Built, copies: int = 1, **more: Any) -> Plan:
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D", "copies": copies}], **more})
    return plan(job, {"d": design}, demo_shop())


@pytest.mark.parametrize("turn", [0, 37, 90])
def test_parts_know_their_word_and_line(turn: float) -> None:
    design = two_words(turn)
    assert [letter.line for letter in letters_of(design)] == [0] * 8 + [1] * 2
    words = laid(design).films[0].words
    # Four letters each, and two i of two parts; the star is of no word.
    assert sorted(words.count(k) for k in set(words) - {None}) == [4, 4, 4]
    assert words.count(None) == 1


def test_nesting_keeps_words_together_unless_asked_otherwise() -> None:
    made = laid(two_words(), layout="nested")
    clusters: dict[str, set[int | None]] = {}
    for p in made.sheets[0].parts:
        if p.cluster:
            clusters.setdefault(p.cluster, set()).add(p.bit.film.words[p.bit.part])
    assert sorted(len(words) for words in clusters.values()) == [1, 1, 1]
    assert checks.missing_parts(made) == []
    assert "letters-apart" not in {one.code for one in proof_of_plan(made, {"d": two_words()})}
    apart = laid(two_words(), layout="nested", together="parts")
    (told,) = [one for one in proof_of_plan(apart, {"d": two_words()}) if one.code == "letters-apart"]
    mended = plan(told.fixes[0].edit.apply(apart.job), {"d": two_words()}, demo_shop())
    assert "letters-apart" not in {one.code for one in proof_of_plan(mended, {"d": two_words()})}


def test_several_copies_are_kept_copy_by_copy() -> None:
    made = laid(two_words(), copies=3, layout="nested")
    assert len({p.cluster for s in made.sheets for p in s.parts}) == 3


@pytest.mark.parametrize("layout", ["register", "nested"])
def test_each_word_has_a_box_of_its_own(layout: str) -> None:
    made = laid(two_words(), layout=layout, weeding={"box": "word", "distance_mm": 1.0})
    (sheet,) = made.sheets
    boxes = [shapely.box(*b) for b in sheet.furniture.boxes]
    # Three words and the star.
    assert len(boxes) == 4
    assert all(a.disjoint(b) for a in boxes for b in boxes if a is not b)
    for box in boxes:
        held = [p for p in sheet.parts if box.contains(p.shape)]
        assert len({p.bit.film.words[p.bit.part] for p in held}) == 1
    assert all(any(box.contains(p.shape) for box in boxes) for p in sheet.parts)


def test_boxes_that_would_meet_become_one() -> None:
    made = laid(two_words(), weeding={"box": "word", "distance_mm": 30.0})
    assert len(made.sheets[0].furniture.boxes) == 1
