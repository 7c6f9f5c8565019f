"""Sheets in every format, read back by readers that share nothing with the writers."""

from __future__ import annotations

import random

import pypdfium2
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.core.geometry.curves import flatten_chain
from gladstack.core.write.pdf import cut_pages
from gladstack.demo.shelf import demo_shop
from gladstack.proof.prove import proof_of_plan
from gladstack.recipe.model.values import changed
from gladstack.shop.files.formats import OUTPUTS, sheet_files
from gladstack.shop.jobs.job import Job, JobDesign
from gladstack.shop.papers.steps import lying, work
from gladstack.shop.plan.plan import plan
from gladstack.shop.shelf.formats import Format
from gladstack.shop.shelf.shelf import Shop
from tests import readers
from tests.examples import examples
from tests.shop.jobs import NAVY, RED, built, drawn_design, random_job, two_pens

SEEDS = st.integers(0, 10**6)


@settings(max_examples=examples(4))
@given(SEEDS)
def test_every_format_gives_the_contours_back_once_each(seed: int) -> None:
    made = plan(*random_job(random.Random(seed)))
    files = sheet_files(made, ["svg", "svg-lines", "dxf", "hpgl", "pdf", "png"])
    for sheet in made.sheets:
        wanted = [flatten_chain(c, 0.002) for c in sheet.path.contours]
        held = {ending: files[f"sheets/{sheet.stem}{ending}"] for ending in (".svg", "-lines.svg", ".dxf", ".hpgl", ".pdf")}
        found = {
            ".svg": readers.svg_lines(held[".svg"]),
            "-lines.svg": readers.svg_lines(held["-lines.svg"]),
            ".dxf": readers.dxf_lines(held[".dxf"], sheet.width_mm),
            ".hpgl": readers.hpgl_lines(held[".hpgl"], sheet.width_mm),
            ".pdf": readers.pdf_lines(held[".pdf"]),
        }
        for ending, lines in found.items():
            assert readers.unmatched(wanted, lines, 0.02) == (0, 0), ending
        assert files[f"sheets/{sheet.stem}.png"].startswith(b"\x89PNG")
        assert ("mirrored" in sheet.stem) == sheet.mirrored


def few_nodes(seed: int, most: int) -> tuple[object, object, Shop]:
    job, designs, shop = random_job(random.Random(seed))
    cutters = tuple(changed(c, most_nodes=most) for c in shop.cutters)
    return job, designs, Shop(shop.materials, cutters, shop.pieces)


@settings(max_examples=examples(3))
@given(SEEDS)
def test_a_cutter_that_takes_few_nodes_gets_several_files_of_whole_parts(seed: int) -> None:
    job, designs, shop = few_nodes(seed, 300)
    made = plan(job, designs, shop)
    files = sheet_files(made, ["hpgl"])
    for sheet in made.sheets:
        own = [data for path, data in files.items() if path.startswith(f"sheets/{sheet.stem}")]
        wanted = [flatten_chain(c, 0.002) for c in sheet.path.contours]
        lines = [line for data in own for line in readers.hpgl_lines(data, sheet.width_mm)]
        assert readers.unmatched(wanted, lines, 0.02) == (0, 0)
        largest = max(len(flatten_chain(c, 0.0125)) for p in sheet.parts for c in (p.outline.shell, *p.outline.holes))
        for data in own[1:]:
            assert data.count(b",") / 2 < 300 + 3 * largest
        told = [f for f in proof_of_plan(made, designs) if f.code == "many-nodes" and f.about == sheet.material.id]
        assert bool(told) >= (len(own) > 1)
        # Two sheets may be of one film, one of them mirrored.
        assert len(own) == 1 or any(f"in {len(own)} files" in f.text for f in told)


def test_paper_is_tiled_at_true_size_with_marks_that_meet() -> None:
    design = built({"arts": [{"kind": "shape", "id": "a", "film": NAVY, "form": {"form": "ring", "across_mm": 280}}]})
    made = plan(Job(name="Ring", designs=(JobDesign(design="d", name="Ring"),)), {"d": design}, demo_shop())
    (data,) = sheet_files(made, ["pdf"], "A4").values()
    document = pypdfium2.PdfDocument(data)
    assert len(document) > 1
    sizes = {(round(p.get_width() * 25.4 / 72), round(p.get_height() * 25.4 / 72)) for p in document}
    assert sizes in ({(210, 297)}, {(297, 210)})


@given(st.floats(50, 3000), st.floats(50, 600), st.sampled_from(["A4", "Letter"]))
def test_tiles_of_paper_cover_the_film(length: float, width: float, paper: str) -> None:
    pages = cut_pages("t", length, width, [], paper)  # type: ignore[arg-type]
    across = max(p.width_mm for p in pages) - 20
    down = max(p.height_mm for p in pages) - 20
    assert len(pages) * across * down >= length * width * 0.999


def test_what_a_pen_draws_is_in_every_format_and_not_cut() -> None:
    arts = [
        {"kind": "shape", "id": "a", "film": RED, "form": {"form": "ellipse", "width_mm": 60, "height_mm": 60}},
        {"kind": "shape", "id": "b", "film": NAVY, "form": {"form": "star", "across_mm": 20}},
    ]
    for how, most in (("outlines", 1), ("filled", 40)):
        design = built({"arts": arts, "films": [{"film": NAVY, "drawn": how, "drawn_on": RED}]})
        assert [layer.film for layer in design.layers] == [RED]
        assert len(design.layers[0].cut.geoms[0].interiors) == 0
        made = plan(Job(name="Pen", designs=(JobDesign(design="d", name="Pen"),)), {"d": design}, demo_shop())
        (sheet,) = made.sheets
        assert 1 <= len(sheet.drawn) <= most
        files = sheet_files(made, ["svg", "dxf", "hpgl", "pdf"])
        pen = [flatten_chain(c, 0.002) for c in sheet.drawn]
        stem = f"sheets/{sheet.stem}"
        for found in (
            readers.svg_lines(files[f"{stem}.svg"]),
            readers.dxf_lines(files[f"{stem}.dxf"], sheet.width_mm),
            readers.hpgl_lines(files[f"{stem}.hpgl"], sheet.width_mm),
            readers.pdf_lines(files[f"{stem}.pdf"]),
        ):
            assert readers.unmatched(pen, found, 0.02)[0] == 0
        text = files[f"{stem}.hpgl"].decode()
        assert text.index("SP2;") < text.index("SP1;")
        # Nothing of it is cut.
        cut = [flatten_chain(c, 0.002) for c in sheet.path.contours]
        assert readers.unmatched(pen, cut, 0.02)[0] == len(pen)


@pytest.mark.parametrize("formats", [["hpgl-blade"]])
def test_the_same_plan_always_gives_the_same_bytes(formats: list[str]) -> None:
    made = plan(*random_job(random.Random(5)))
    both = [sheet_files(made, [*formats, "pdf", "dxf", "png"]) for _ in range(2)]  # type: ignore[list-item]
    assert both[0] == both[1]


def test_a_plot_asks_for_no_more_than_the_cutter_can() -> None:
    shop = demo_shop()
    weak = changed(shop.cutters[0], speed_mm_s=50.0, force_from_g=20, force_to_g=60)
    design = built({"arts": [{"kind": "shape", "id": "a", "film": NAVY, "form": {"form": "star"}}]})
    job = Job(name="Star", designs=(JobDesign(design="d", name="Star"),))
    made = plan(job, {"d": design}, Shop(shop.materials, (weak,), shop.pieces))
    files = sheet_files(made, ["hpgl", "hpgl-blade"])
    assert made.sheets[0].material.blade.speed_mm_s > 50
    assert len(files) == 2
    for data in files.values():
        assert b"VS5;" in data
        assert b"FS60;" in data


def test_every_format_has_an_entry_and_writes_every_sheet() -> None:
    assert set(OUTPUTS) == set(Format)
    made = plan(*random_job(random.Random(3)))
    for kind in Format:
        files = sheet_files(made, [kind])
        assert len(files) >= len(made.sheets)
        assert all(name.endswith(OUTPUTS[kind].ending) and data for name, data in files.items())


def test_each_pen_has_its_own_lines_tool_and_layer() -> None:
    made = two_pens()
    (sheet,) = made.sheets
    assert [(pen.name, pen.colour) for pen in sheet.pens] == [("Navy pen", NAVY), ("Gold pen", "#c99a2e")]
    files = sheet_files(made, ["svg", "dxf", "hpgl"])
    stem = f"sheets/{sheet.stem}"
    assert files[f"{stem}.svg"].count(b'id="pen-') == 2
    assert b"draw with Gold pen" in files[f"{stem}.dxf"]
    tools = [line for line in files[f"{stem}.hpgl"].decode().splitlines() if line.startswith("SP")]
    assert tools == ["SP2;", "SP3;", "SP1;", "SP0;"]
    (film,) = made.films
    steps = work([film], made.job, "mm", lying(made)).steps
    assert steps[0].text.startswith("Put Navy pen, then Gold pen in")


def test_a_pen_of_another_colour_is_told() -> None:
    design = drawn_design()
    assert "pen-colour" not in {one.code for one in proof_of_plan(two_pens(design), {"d": design})}
    design = drawn_design(pen="gold-pen")
    taken = two_pens(design)
    (told,) = [one for one in proof_of_plan(taken, {"d": design}) if one.code == "pen-colour"]
    assert told.text.startswith("What Gold pen draws")
    assert len(taken.sheets[0].pens) == 1


def test_a_pen_is_taken_by_itself_only_where_it_draws_as_wide_as_was_filled_in_for() -> None:
    fine, coarse = two_pens(drawn_design(fill=0.3)), two_pens(drawn_design(fill=0.6))
    assert fine.sheets[0].pens[0].name == f"a pen of {NAVY}, 0.3 mm"
    lines = [len(made.sheets[0].pens[0].lines) for made in (fine, coarse)]
    assert lines[0] > 1.6 * lines[1]
