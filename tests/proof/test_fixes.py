"""What mends a finding can be done, and after it the finding is not told any more."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.core.base.findings import Severity
from gladstack.demo.designs import add_demo_designs, demo_recipes, example_files
from gladstack.demo.shelf import demo_shop
from gladstack.proof.finding import Finding
from gladstack.proof.helping import ToldPlace, eased
from gladstack.proof.prove import proof_of, proof_of_plan
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.edit.edits import apply_edit
from gladstack.recipe.model.recipe import Recipe
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.jobs.job import Job
from gladstack.shop.plan.plan import plan
from gladstack.shop.shelf.shelf import Shop
from gladstack.stages.memo import Memo
from gladstack.store.database import DESIGNS, Database
from gladstack.store.designs import DesignBook
from tests.examples import examples
from tests.recipe.stacks import GOLD, RED, built, form, stacks
from tests.shop.jobs import no_picture


def told(finding: Finding[Any]) -> tuple[str, str | None, str]:
    return finding.code, finding.about, finding.text


def mends_all(built: Built, assets: Assets, memo: Memo) -> int:
    """Makes every fix of every finding of a design, each by itself; how many there were."""
    made = 0
    for finding in proof_of(built):
        for fix in finding.fixes:
            after = build(apply_edit(built.recipe, fix.edit), assets, memo)
            assert told(finding) not in {told(one) for one in proof_of(after)}, f"{fix.label} did not mend {finding.text}"
            made += 1
    return made


def test_every_fix_on_the_demo_designs_mends_what_it_is_for(tmp_path: Path) -> None:
    book, memo = DesignBook(Database(tmp_path / DESIGNS)), Memo()
    add_demo_designs(book)
    assets = Assets(picture=book.picture, file=book.file)
    ids = [*demo_recipes(), *(f"example-{file.stem}" for file in example_files())]
    assert sum(mends_all(build(book.get(id_).revision.recipe, assets, memo), assets, memo) for id_ in ids) > 0


@given(stacks(), st.sampled_from([0.5, 40.0]), st.booleans())
@settings(max_examples=examples(8))
def test_every_fix_on_random_stacks_mends_what_it_is_for(data: dict[str, Any], small_mm2: float, weld: bool) -> None:
    arts = [{**art, "weld": weld, "spacing_mm": -2.0} if art["kind"] == "lettering" else art for art in data["arts"]]
    recipe = Recipe.model_validate({"name": "Stack", **data, "arts": arts, "small_mm2": small_mm2})
    assets, memo = Assets(picture=no_picture), Memo()
    mends_all(build(recipe, assets, memo), assets, memo)


def test_words_mirrored_by_hand_are_told_and_turned_round() -> None:
    words = {"kind": "lettering", "id": "words", "text": "Open\nevening", "film": RED}
    made = built({"arts": [{**words, "place": {"x_mm": 3, "y_mm": 4, "mirrored": True}}]})
    (told,) = [f for f in proof_of(made) if f.code == "words-mirrored"]
    assert "“Open evening”" in told.text
    after = built(apply_edit(made.recipe, told.fixes[0].edit).model_dump())
    assert "words-mirrored" not in {f.code for f in proof_of(after)}
    assert after.recipe.arts[0].place.x_mm == 3


def test_a_fix_leaves_less_that_will_fail() -> None:
    def found(code: str, severity: Severity) -> Finding[JobEdit]:
        return Finding(code, "", severity)

    stop, mind, note = found("slit", "stop"), found("slit", "mind"), found("slit", "note")
    slit = ToldPlace("slit", None, None, None)
    assert eased(slit, [stop, mind], [mind])
    assert not eased(slit, [stop, mind], [found("hole", "stop")])
    assert eased(slit, [mind], [])
    assert not eased(slit, [mind], [found("hole", "mind")])
    assert eased(slit, [note], [])
    assert not eased(slit, [note], [found("hole", "mind")])


def test_every_fix_of_a_plan_mends_what_it_is_for() -> None:
    design = built({"arts": [form("star", GOLD), form("heart", RED, id_="other", x=40)]})
    job = Job.model_validate({"name": "Far", "designs": [{"design": "d", "name": "D"}]})
    shop = demo_shop()
    navy = Shop(tuple(m for m in shop.materials if m.id == "night-navy"), shop.cutters, shop.pieces)

    def proof(of: Job) -> tuple[Finding[JobEdit], ...]:
        return proof_of_plan(plan(of, {"d": design}, navy), {"d": design})

    fixes = [(finding, fix) for finding in proof(job) for fix in finding.fixes]
    assert {finding.about for finding, _ in fixes} == {GOLD, RED}
    for finding, fix in fixes:
        assert told(finding) not in {told(one) for one in proof(fix.edit.apply(job))}
