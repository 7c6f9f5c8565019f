"""Lists of names: read from anything a maker pastes, laid into the design, and what does not fit mended."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.demo.designs import EXAMPLES
from gladstack.demo.shelf import demo_shop
from gladstack.recipe.art.fields import fields_of, usual_fit
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.model.arts import LetteringArt
from gladstack.recipe.model.fields import fields_in, filled_text, kept_lines, shown
from gladstack.recipe.model.recipe import Recipe
from gladstack.shop.jobs.names import NamesError, Row, checked, decoded, filled_for, names_job, read_rows
from gladstack.shop.papers.job_sheet import job_sheet
from gladstack.shop.plan.checks import measured
from gladstack.shop.plan.plan import plan
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo
from tests.examples import examples
from tests.shop.jobs import MEMO, no_picture

RECIPE = Recipe.model_validate_json((EXAMPLES / "helper-names.json").read_text())
ASSETS = Assets(picture=no_picture)


def stages() -> Stages:
    return Stages(MEMO)


@pytest.mark.parametrize(
    ("text", "rows"),
    [
        ("Ada\nBo", [("Ada", 1), ("Bo", 1)]),
        ("name\nAda\nBo\n\n", [("Ada", 1), ("Bo", 1)]),
        ("NAME;Copies\nAda;2\nBo;x", [("Ada", 2), ("Bo", 1)]),
        ("copies\tname\n3\tAda", [("Ada", 3)]),
        ('name,copies\n"Quince, Ada",2', [("Quince, Ada", 2)]),
        ("Names|how many\nAda|4", [("Ada", 4)]),
        ("Ada\n\nBo", [("Ada", 1), ("", 1), ("Bo", 1)]),
        ("Ada\r\nBo\r\n", [("Ada", 1), ("Bo", 1)]),
    ],
)
def test_any_delimiter_with_a_header_or_without(text: str, rows: list[tuple[str, int]]) -> None:
    found = read_rows(text, ["name"])
    assert [(dict(r.values)["name"], r.copies) for r in found] == rows


def test_several_fields_by_header_or_in_their_order() -> None:
    assert read_rows("team;name\nOwls;Ada", ["name", "team"])[0].values == (("name", "Ada"), ("team", "Owls"))
    assert read_rows("Ada;Owls", ["name", "team"])[0].values == (("name", "Ada"), ("team", "Owls"))


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "utf-16-le", "utf-16-be"])
def test_an_encoding_that_can_be_told_is_known(encoding: str) -> None:
    text = "Åsa;Brân\nBo;Zoë"
    assert [r.text for r in decoded(text.encode(encoding))] == [text]


@pytest.mark.parametrize(
    ("encoding", "text"),
    [
        ("koi8_r", "Иван;3\nОльга;2\nСергей;1\n"),
        ("cp1251", "Иван;3\nОльга;2\nСергей;1\n"),
        ("cp932", "名前,数\n佐藤,2\nさくら,1\n"),
        ("gb18030", "姓名,数量\n王伟,2\n李娜,1\n"),
        ("big5", "姓名,數量\n王偉,2\n"),
        ("cp1253", "Γιώργος\nΜαρία\n"),
    ],
)
def test_another_encoding_is_guessed_and_offered(encoding: str, text: str) -> None:
    found = decoded(text.encode(encoding))
    assert (found[0].encoding, found[0].text) == (encoding, text)
    assert len({r.text for r in found}) == len(found) > 1


def test_an_odd_count_of_bytes_is_no_wide_text() -> None:
    data = "Ada".encode("utf-16-le")
    assert decoded(data)[0].text == "Ada"
    assert not any(r.encoding.startswith("utf-16") for r in decoded(data + b"A"))


@pytest.mark.parametrize(("encoding", "text"), [("cp1252", "Åsa;2\nBrân;1\n"), ("cp1250", "Zdeněk\nŁukasz\n")])
def test_near_encodings_are_offered_beside_each_other(encoding: str, text: str) -> None:
    assert text in [r.text for r in decoded(text.encode(encoding))[:3]]


@given(st.binary(max_size=300))
def test_whatever_is_loaded_is_read_or_refused(data: bytes) -> None:
    try:
        rows = read_rows(decoded(data)[0].text, ["name"])
    except NamesError:
        return
    assert all(1 <= r.copies <= 500 for r in rows)


@pytest.mark.parametrize("text", ["", "\n\n", "a\x00b", "\n".join("x" for _ in range(501))])
def test_what_cannot_be_read_is_told(text: str) -> None:
    with pytest.raises(NamesError):
        read_rows(text, ["name"])
    with pytest.raises(NamesError, match="no fields"):
        read_rows("Ada", [])


def test_fields_show_what_they_are_called_or_their_sample() -> None:
    assert fields_in("Team {name=Ada} {no}") == {"name": "Ada", "no": "no"}
    assert shown("Team {name=Ada} {no}") == "Team Ada no"
    assert filled_text("Team {name=Ada} {no}", {"name": "Bo", "no": "7"}) == "Team Bo 7"
    assert shown("no braces }{ here") == "no braces }{ here"


def test_a_line_that_has_nothing_to_show_is_left_out() -> None:
    text = "Team\n{title=Guide}\n{name=Ada} {no}"
    assert filled_text(text, {"title": "", "name": "Bo"}) == "Team\nBo no"
    assert filled_text(text, {"title": "", "name": "", "no": ""}) == "Team"
    assert kept_lines(text, {"title": ""}) == [0, 2]
    two = {
        "kind": "lettering", "id": "w", "film": "#fff4d6", "text": "{title=Guide}\n{name=Ada}", "font": "inter-black",
        "lines": [{"film": "#c0392b", "height_mm": 5}, {"height_mm": 12}],
    }  # fmt: skip
    recipe = Recipe.model_validate({"name": "Badge", "arts": [two]})
    rows = read_rows("title,name\nCaptain,Bo\n,Cy\n,\n", ["title", "name"])
    found = checked(recipe, rows, ["as-is"] * len(rows), ASSETS, stages())
    assert [(r.problem, r.told) for r, _ in found] == [("", ""), ("", "Nothing is given for title, which is left out.")]
    both, single = (build(made, ASSETS, MEMO) for _, made in found)
    assert {layer.film for layer in both.layers} == {"#c0392b", "#fff4d6"}
    # The line that stays is as tall and of the film that it was to be.
    (layer,) = single.layers
    assert layer.film == "#fff4d6"
    assert single.recipe.arts[0].lines[0].height_mm == 12  # type: ignore[union-attr]
    job = names_job("Names", "design", None, [r for r, _ in found])
    assert [d.name for d in job.designs] == ["Captain Bo", "Cy"]
    assert filled_for(recipe, job.designs[1], ASSETS, stages()).arts == single.recipe.arts


def test_numbers_count_by_themselves() -> None:
    rows = read_rows("Table 08..11\nDoor", ["name"])
    assert [dict(row.values)["name"] for row in rows] == ["Table 08", "Table 09", "Table 10", "Table 11", "Door"]
    assert len(read_rows("3..1\n2026-12-24\n1...5", ["name"])) == 3
    for far in ("1..501", "1..999999", "1..400\n" * 60_000):
        with pytest.raises(NamesError, match="at most 500"):
            read_rows(far, ["name"])


@settings(max_examples=examples(40))
@given(
    st.text("abcdefgh XYZ", min_size=1, max_size=40).map(str.strip).filter(bool), st.sampled_from(["narrower", "smaller"])
)
def test_a_name_that_is_made_to_fit_fits(name: str, fit: str) -> None:
    ((row, made),) = checked(RECIPE, [Row((("name", name),))], [fit], ASSETS, stages())  # type: ignore[list-item]
    if row.width_mm > row.room_mm * 1.01:
        # No narrower than three tenths: such a name is told of.
        assert row.problem == "wide"
        return
    assert row.problem == ""
    cream = next(layer for layer in build(made, ASSETS, MEMO).layers if layer.film == "#fff4d6")
    left, _, right, _ = cream.shape.bounds
    assert right - left <= 90.0 * 1.02


def test_rows_that_do_not_fit_are_told_and_why() -> None:
    rows = [Row((("name", n),)) for n in ("Ada", "", "日本", "Bartholomew-Quincelyn the Second")]
    found = checked(RECIPE, rows, ["as-is"] * 4, ASSETS, stages())
    assert [r.problem for r, _ in found] == ["", "empty", "glyph", "wide"]
    assert "日" in found[2][0].told
    two = checked(RECIPE, [rows[3]], ["two-lines"], ASSETS, stages())[0]
    assert "\n" in two[1].arts[0].text  # type: ignore[union-attr]
    assert two[0].problem == ""
    job = names_job("Names", "design", None, [r for r, _ in found])
    assert [d.name for d in job.designs] == ["Ada", "Bartholomew-Quincelyn the Second"]
    with pytest.raises(NamesError):
        names_job("Names", "design", None, [found[1][0]])


def test_shadows_follow_each_name_and_each_lies_in_a_box_of_its_own() -> None:
    rows = [Row((("name", n),)) for n in ("Ada", "Piet", "Wim")]
    found = checked(RECIPE, rows, ["narrower"] * 3, ASSETS, stages())
    job = names_job("Names", "design", None, [r for r, _ in found])
    designs = {d.design: build(filled_for(RECIPE, d, ASSETS, stages()), ASSETS, MEMO) for d in job.designs}
    widths = [{layer.film: layer.shape.bounds[2] - layer.shape.bounds[0] for layer in b.layers} for b in designs.values()]
    for own in widths:
        assert own["#1d2b53"] > own["#2f8f8b"] > own["#fff4d6"]
    assert len({round(w["#fff4d6"]) for w in widths}) == 3
    made = plan(job, designs, demo_shop())
    assert measured(made)["missing_parts"] == []
    for sheet in made.sheets:
        assert len(sheet.furniture.boxes) == len({p.bit.film.design for p in sheet.parts})
    paper = job_sheet(made, designs, ())
    assert paper.ticks == ("Ada", "Piet", "Wim")
    assert [a.copies for a in paper.designs] == [3]
    assert list(fields_of(RECIPE)) == ["name"]


def test_what_all_rows_share_is_built_once() -> None:
    """The star that no name touches is worked out for the first name only."""
    memo = Memo()
    worked: list[int] = []
    for name in ("Ada", "Piet"):
        told: list[str] = []
        ((_, made),) = checked(RECIPE, [Row((("name", name),))], ["as-is"], ASSETS, Stages(memo))
        build(made, ASSETS, memo, told.append)
        worked.append(told.count("art"))
    # Of the second name only its lettering is set anew.
    assert worked[0] > worked[1] == 1


NAMES = ("Mia", "Bartholomew", "Åsa", "Jo-Ann", "Ada Quince", "Bo")


@pytest.mark.parametrize("fit_width", [None, 70.0])
def test_names_of_a_list_are_as_tall_as_each_other_on_one_baseline(fit_width: float | None) -> None:
    art = LetteringArt(
        id="name", text="{name=Ada}", font="inter-black", film="#c0392b", height_mm=18, fit_width_mm=fit_width
    )
    recipe = Recipe(name="Names", arts=(art,))
    assert usual_fit(recipe) == ("alike" if fit_width else "narrower")
    found = checked(recipe, [Row((("name", n),)) for n in NAMES], ["alike"] * len(NAMES), ASSETS, stages())
    tall = {row.capitals_mm for row, _ in found}
    assert len(tall) == 1
    ((_, capitals),) = tall.pop()
    boxes = [build(made, ASSETS, MEMO).layers[0].shape.bounds for _, made in found]
    # All stand on the same line, and none is taller than capitals are, but for dots and rings above letters.
    assert all(capitals * 0.99 <= -top <= capitals * 1.4 for _, top, _, _ in boxes)
    assert all(-0.3 * capitals <= -bottom <= 0.05 * capitals for _, _, _, bottom in boxes)
    assert -boxes[5][1] == pytest.approx(capitals, rel=0.03)
    assert max(row.width_mm for row, _ in found) <= found[0][0].room_mm * 1.001
    assert not any(row.problem for row, _ in found)
    # So they come out of a job that holds them, each by itself.
    job = names_job("Names", "design", None, [row for row, _ in found])
    for one, (_, made) in zip(job.designs, found, strict=True):
        assert filled_for(recipe, one, ASSETS, stages()) == made


def test_letters_that_are_set_apart_are_so_in_every_name() -> None:
    pair = {"first": "A", "second": "v", "mm": 4}
    art = LetteringArt.model_validate(
        {"id": "name", "text": "{name=Ava}", "font": "inter-black", "film": "#c0392b", "height_mm": 18}
    )
    rows = [Row((("name", n),)) for n in ("Ava", "Avis", "Bo", "Vera")]

    def widths(*pairs: object) -> list[float]:
        recipe = Recipe(name="Names", arts=(LetteringArt.model_validate({**art.model_dump(), "pairs": pairs}),))
        found = checked(recipe, rows, ["as-is"] * len(rows), ASSETS, stages())
        return [row.width_mm for row, _ in found]

    wider = [after - before for before, after in zip(widths(), widths(pair), strict=True)]
    assert wider == pytest.approx([4, 4, 0, 0], abs=1e-3)
