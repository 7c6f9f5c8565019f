"""The command line: the same build, and one-line refusals that write nothing."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

from bench.line_drawings import DRAWINGS, scan
from gladstack.cli import main
from gladstack.commands.build import FULL_LAP_MM, parse_joint
from gladstack.core.base.errors import LengthError
from gladstack.core.films.joints import FORMS
from tests.pictures import disc_on_clear, photo, picture_of


@pytest.fixture
def owl(tmp_path: Path) -> Path:
    path = tmp_path / "owl.png"
    path.write_bytes(picture_of("moon-owl", 256))
    return path


def run(*arguments: object) -> int:
    return main([str(a) for a in arguments])


@pytest.mark.parametrize("joint", ["butt", "full", "lap:0.4mm", "gap:1mm"])
def test_build_writes_all_that_is_named(owl: Path, tmp_path: Path, joint: str) -> None:
    out = tmp_path / "out"
    assert (
        run("build", owl, "--width", "120mm", "--joint", joint, "--out", out, "--marks", "--background", "everywhere") == 0
    )
    told = json.loads((out / "stack.json").read_text())
    figures = {"width_mm", "height_mm", "wrong_area_ratio", "max_thickness", "lost_mm2", "lost_share"}
    assert {"layers", "joints", "colours", "seconds", *figures} <= set(told)
    assert told["joints"]
    assert {j["kind"] for j in told["joints"]} == {joint.split(":")[0]}
    assert all(j["lower"] < j["upper"] for j in told["joints"])
    assert sorted(p.name for p in (out / "sheets").iterdir()) == sorted(Path(r["sheet"]).name for r in told["layers"])
    assert (out / "stack.svg").read_text().count("<g id=") == len(told["layers"]) == told["colours"] - 1
    assert (out / "assembly.txt").read_text().startswith("owl\n")


def test_the_background_can_be_kept_and_the_count_given(owl: Path, tmp_path: Path) -> None:
    assert run("build", owl, "--width", "4in", "--colors", 5, "--no-drop-background", "--out", tmp_path / "o") == 0
    told = json.loads((tmp_path / "o" / "stack.json").read_text())
    assert len(told["layers"]) == told["colours"] == 5
    assert sum(r["area_mm2"] for r in told["layers"]) == pytest.approx(101.6**2, rel=1e-5)


def test_a_second_build_leaves_no_sheets_of_the_first(owl: Path, tmp_path: Path) -> None:
    for count in (7, 3):
        assert (
            run("build", owl, "--width", "120mm", "--colors", count, "--background", "everywhere", "--out", tmp_path / "o")
            == 0
        )
    assert len(list((tmp_path / "o" / "sheets").iterdir())) == 2


def test_heat_transfer_and_too_small_a_sheet_are_said(owl: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    options = ("--method", "heat-transfer", "--sheet", "60x60mm", "--out", tmp_path / "o")
    assert run("build", owl, "--width", "300mm", *options) == 0
    told = json.loads((tmp_path / "o" / "stack.json").read_text())
    assert all(r["mirrored"] for r in told["layers"])
    assert not all(r["fits"] for r in told["layers"])
    assert "mm too wide" in capsys.readouterr().err


@pytest.mark.parametrize(
    "options",
    [
        "wide",
        "0mm",
        "120mm --colors many",
        "120mm --colors 99",
        "120mm --joint glue",
        "120mm --joint lap",
        "120mm --joint gap:-1mm",
        "120mm --sheet A4",
        "120mm --speck 99mm",
    ],
)
def test_bad_options_end_with_one_line_and_write_nothing(
    owl: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str], options: str
) -> None:
    assert run("build", owl, "--width", *options.split(), "--out", tmp_path / "out") == 2
    assert len(capsys.readouterr().err.strip().splitlines()) == 1
    assert not (tmp_path / "out").exists()


def test_every_kind_of_joint_can_be_written() -> None:
    for kind, form in FORMS.items():
        text = str(kind) if form.length == "never" else f"{kind}:0.5mm"
        rule = parse_joint(text)
        assert (rule.kind, rule.mm) == (kind, 0.0 if form.length == "never" else 0.5)
    assert parse_joint("full").mm == FULL_LAP_MM
    for wrong in ("butt:1mm", "lap", "gap", "glue", "", ":1mm"):
        with pytest.raises(LengthError, match=r"butt, lap:0\.4mm, full or gap:0\.4mm"):
            parse_joint(wrong)


@pytest.mark.parametrize("options", [[], ["build"], ["build", "a.png", "--method", "glue"], ["knit"]])
def test_options_that_cannot_be_understood_end_with_one_line(options: list[str], capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit) as ended:
        main(options)
    assert ended.value.code == 2
    assert len(capsys.readouterr().err.strip().splitlines()) == 1


@pytest.mark.parametrize("data", [b"", b"words", picture_of("dome", 128)[:500], None])
def test_bad_pictures_end_the_same_way(tmp_path: Path, capsys: pytest.CaptureFixture[str], data: bytes | None) -> None:
    path = tmp_path / "a.png"
    if data is not None:
        path.write_bytes(data)
    assert run("build", path, "--width", "120mm", "--out", tmp_path / "out") == 2
    assert len(capsys.readouterr().err.strip().splitlines()) == 1
    assert not (tmp_path / "out").exists()


def test_a_photo_is_noted_and_a_clear_ground_dropped(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    (tmp_path / "photo.png").write_bytes(photo())
    (tmp_path / "disc.png").write_bytes(disc_on_clear())
    assert run("build", tmp_path / "photo.png", "--width", "90mm", "--colors", 4, "--out", tmp_path / "p") == 0
    assert "not made of flat colours" in capsys.readouterr().err
    assert run("build", tmp_path / "disc.png", "--width", "96mm", "--out", tmp_path / "d", "--no-drop-background") == 0
    told = json.loads((tmp_path / "d" / "stack.json").read_text())
    assert [r["colour"] for r in told["layers"]] == ["#c0392b"]
    assert told["layers"][0]["area_mm2"] == pytest.approx(3.14159 * 30**2, rel=0.003)


def test_several_sources_are_built_in_one_run_and_one_fault_stops_no_other(tmp_path: Path, capsys: Any) -> None:
    owl, dome, none = tmp_path / "owl.png", tmp_path / "dome.png", tmp_path / "none.png"
    owl.write_bytes(picture_of("moon-owl", 96))
    dome.write_bytes(picture_of("dome", 96))
    none.write_bytes(b"no picture")
    assert run("build", owl, none, dome, "--width", "60mm", "--out", tmp_path / "out") == 2
    assert "gladstack:" in capsys.readouterr().err
    for stem in ("owl", "dome"):
        assert (tmp_path / "out" / stem / "stack.svg").is_file()
    assert not (tmp_path / "out" / "none").exists()


def test_help_loads_nothing_heavy() -> None:
    asked = "import sys, atexit, gladstack.cli as c; atexit.register(lambda: print([*sys.modules])); c.main(['--help'])"
    told = subprocess.run([sys.executable, "-c", asked], capture_output=True, text=True, check=True).stdout
    assert "usage: gladstack" in told
    for heavy in ("numpy", "shapely", "pydantic", "numba"):
        assert f"'{heavy}'" not in told


@pytest.mark.parametrize(
    ("taken", "kind"), [([], "line-art"), (["--as", "flat"], "picture"), (["--as", "line-art"], "line-art")]
)
def test_line_art_is_known_as_such_unless_it_is_said_to_be_flat(taken: list[str], kind: str, tmp_path: Path) -> None:
    page = tmp_path / "page.jpg"
    page.write_bytes(scan(DRAWINGS["window"], 500, bad=True))
    assert main(["build", str(page), "--width", "90mm", *taken, "--out", str(tmp_path / "out")]) == 0
    told = json.loads((tmp_path / "out" / "stack.json").read_text())
    assert [art["kind"] for art in told["arts"]] == [kind]


def test_the_width_of_the_decal_can_be_asked_for(owl: Path, tmp_path: Path) -> None:
    assert main(["build", str(owl), "--decal-width", "90mm", "--out", str(tmp_path / "out")]) == 0
    told = json.loads((tmp_path / "out" / "stack.json").read_text())
    assert told["width_mm"] == pytest.approx(90, abs=0.05)
    assert told["page_mm"][0] > 90


def test_more_colours_than_there_can_be_is_said_in_plain_words(
    owl: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert run("build", owl, "--width", "100mm", "--colors", "99", "--out", tmp_path / "out") == 2
    assert capsys.readouterr().err == "gladstack: Count: it must be at most 64.\n"
    assert not (tmp_path / "out").exists()


def test_what_takes_too_long_is_ended_and_writes_nothing(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    big = tmp_path / "big.jpg"
    big.write_bytes(picture_of("constellation", 2000, quality=75))
    assert run("build", big, "--width", "200mm", "--deadline", "0.3", "--out", tmp_path / "out") == 2
    said = capsys.readouterr().err
    assert "not done within 0.3 s" in said
    assert "--deadline" in said
    assert len(said.strip().splitlines()) == 1
    assert not (tmp_path / "out").exists()


def test_what_nobody_foresaw_is_one_line(
    owl: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    def stumble(*_: object) -> None:
        raise KeyError("nobody thought of this")

    monkeypatch.setattr("gladstack.commands.build.build", stumble)
    assert run("build", owl, "--width", "120mm", "--out", tmp_path / "out") == 2
    assert capsys.readouterr().err.strip().splitlines()[-1].startswith("gladstack: This could not be worked out")


@pytest.mark.parametrize(
    "recipe",
    [
        '{"name": "x", "arts": []}',
        '{"name": "x"}',
        '{"name": "\\\\ud800", "arts": [{"kind": "lettering", "text": "\\\\ud800", "height_mm": "\\\\ud800"}]}',
        "[" * 100_000,
    ],
)
def test_recipes_that_hold_nothing_end_with_one_line(
    recipe: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "recipe.json"
    path.write_text(recipe)
    assert run("build", path, "--out", tmp_path / "out") == 2
    assert len(capsys.readouterr().err.strip().splitlines()) == 1
    assert not (tmp_path / "out").exists()


def test_a_proof_is_told_in_words_and_as_json(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = tmp_path / "thin.json"
    words = {"kind": "lettering", "id": "w", "text": "illi", "film": "#1d2b53", "font": "inter-thin", "height_mm": 8}
    path.write_text(json.dumps({"name": "Thin", "arts": [words], "use": "surface"}))
    assert run("proof", path) == 1
    assert "will fail: " in capsys.readouterr().out
    assert run("proof", path, "--json", "--material", "night-navy", "--slip", "0.5mm") == 1
    told = json.loads(capsys.readouterr().out)
    assert {"findings", "films", "drift", "thickness", "seconds"} == set(told)
    assert told["drift"] == [{"film": "#1d2b53", "slip_mm": 0.5, "worst_mm2": 0.0}]
    assert told["thickness"]["most"] == 1
    thin = next(found for found in told["findings"] if found["code"] == "thin-part")
    assert thin["figure"] < thin["limit"]
    assert thin["unit"] == "mm"
    assert len(thin["at"]) == 2
    path.write_text(json.dumps({"name": "Wide", "arts": [{**words, "font": "inter-black", "height_mm": 60}]}))
    assert run("proof", path, "--material", "night-navy") == 0
    assert run("proof", path, "--material", "no such film") == 2
