"""The pages of a job sheet: all within the margins, nothing over anything else, the decal as far from its line as told."""

from __future__ import annotations

import random

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import Geometry, STRtree, box

from gladstack.core.write.pages import DrawnItem, Page, Text
from gladstack.demo.shelf import demo_shop
from gladstack.recipe.model.fonts import page_type
from gladstack.shop.jobs.job import Job
from gladstack.shop.papers.job_pages import PageSize, job_pages
from gladstack.shop.papers.job_sheet import job_sheet
from gladstack.shop.plan.plan import plan
from tests.examples import examples
from tests.shop.jobs import built, random_job

MARGIN_MM = 14.0
FONT = page_type()
NUMBERS_MM = 2.4
"""Numbers of parts are no larger than this, and lie on what they number."""


def text_box(mark: Text) -> Geometry:
    """Where a line of text lies: from the foot of its letters to the top of its capitals."""
    wide = FONT.width(mark.text, mark.size_mm, bold=mark.bold)
    left = mark.x - {"left": 0.0, "middle": 0.5, "right": 1.0}[mark.align] * wide
    return box(left, mark.y - 0.66 * mark.size_mm, left + wide, mark.y + 0.2 * mark.size_mm)


def drawn_box(mark: DrawnItem) -> Geometry:
    points = np.concatenate([chain.pieces.reshape(-1, 2) for chain in mark.chains])
    return box(*points.min(axis=0), *points.max(axis=0))


def is_tick(mark: Text | DrawnItem) -> bool:
    return isinstance(mark, DrawnItem) and mark.fill is None and mark.width_mm == 0.25


def sheet_pages(seed: int, paper: PageSize) -> list[Page]:
    job, designs, shop = random_job(random.Random(seed))
    pages = job_pages(job_sheet(plan(job, designs, shop), designs, ()), FONT, paper)
    return [p for p in pages if any(isinstance(m, Text) and "job sheet" in m.text for m in p.marks)]


@settings(max_examples=examples(24), deadline=None)
@given(st.integers(0, 10**6), st.sampled_from(["A4", "Letter"]))
def test_all_lies_within_the_margins_and_nothing_over_anything_else(seed: int, paper: PageSize) -> None:
    for page in sheet_pages(seed, paper):
        room = box(MARGIN_MM, MARGIN_MM, page.width_mm - MARGIN_MM, page.height_mm - MARGIN_MM + 1.0).buffer(0.01)
        foot = page.height_mm - MARGIN_MM + 2
        texts = [m for m in page.marks if isinstance(m, Text) and m.y < foot and m.size_mm > NUMBERS_MM]
        boxes = [text_box(m) for m in texts]
        assert all(room.contains(b) for b in boxes)
        assert all(room.contains(drawn_box(m)) for m in page.marks if isinstance(m, DrawnItem) and m.chains)
        ticks = [drawn_box(m) for m in page.marks if isinstance(m, DrawnItem) and is_tick(m)]
        for tick in ticks:
            left, top, right, bottom = tick.bounds
            assert (right - left, bottom - top) == pytest.approx((3.2, 3.2))
        everything = [*boxes, *ticks]
        pairs = STRtree(everything).query(everything, predicate="intersects")
        assert [(a, b) for a, b in pairs.T.tolist() if a < b and everything[a].intersection(everything[b]).area > 0.01] == []
        # Each box stands just before what it is for.
        for tick in ticks:
            assert any(0 < b.bounds[0] - tick.bounds[2] < 3 and b.distance(tick) < 3 for b in boxes)


@pytest.mark.parametrize(
    ("ground", "side"), [("shirt", "above"), ("mug", "beside"), ("window", "below")], ids=["shirt", "mug", "window"]
)
@pytest.mark.parametrize("from_mm", [20.0, 60.0])
def test_the_decal_lies_as_far_from_its_line_as_is_said(ground: str, side: str, from_mm: float) -> None:
    arts = [{"kind": "shape", "id": "a", "film": "#1d2b53", "form": {"form": "ellipse", "width_mm": 50, "height_mm": 30}}]
    design = built({"arts": arts, "ground": {"kind": ground}})
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}], "place_mm": from_mm})
    pages = job_pages(job_sheet(plan(job, {"d": design}, demo_shop()), {"d": design}, ()), FONT)
    (page,) = [p for p in pages if any(isinstance(m, Text) and "true size, as it is" in m.text for m in p.marks)]
    items = [m for m in page.marks if isinstance(m, DrawnItem) and m.chains]
    left, top, right, bottom = next(drawn_box(m) for m in items if m.fill == "#1d2b53").bounds
    line = next(drawn_box(m) for m in items if m.width_mm == 0.5).bounds
    away = {"above": top - line[3], "beside": left - line[2], "below": line[1] - bottom}[side]
    assert away == pytest.approx(from_mm, abs=0.01)
    # Its middle lines cross in its middle.
    middle = next(m for m in items if m.dash_mm)
    across = [c.pieces.reshape(-1, 2).mean(axis=0) for c in middle.chains]
    assert across[0][0] == pytest.approx((left + right) / 2, abs=0.01)
    assert across[1][1] == pytest.approx((top + bottom) / 2, abs=0.01)


def test_small_parts_lie_at_their_size_each_with_its_number_and_under_its_film() -> None:
    places = [(40 * (k % 4), 30 * (k // 4)) for k in range(8)]
    arts = [
        {
            "kind": "shape", "id": f"s{k}", "film": "#1d2b53" if k < 5 else "#c0392b", "place": {"x_mm": x, "y_mm": y},
            "form": {"form": "rectangle", "width_mm": 2.5 + 0.1 * k, "height_mm": 3},
        }
        for k, (x, y) in enumerate(places)
    ]  # fmt: skip
    design = built({"arts": arts})
    job = Job.model_validate({"name": "J", "designs": [{"design": "d", "name": "D"}]})
    sheet = job_sheet(plan(job, {"d": design}, demo_shop()), {"d": design}, ())
    (page,) = [
        p for p in job_pages(sheet, FONT) if any(isinstance(m, Text) and "lay them out here" in m.text for m in p.marks)
    ]
    parts = [drawn_box(m) for m in page.marks if isinstance(m, DrawnItem) and m.width_mm == 0.15]
    wide = sorted(p.bounds[2] - p.bounds[0] for p in parts)
    assert wide == pytest.approx([2.5 + 0.1 * k for k in range(8)], abs=0.01)
    numbers = [m for m in page.marks if isinstance(m, Text) and m.size_mm == NUMBERS_MM]
    assert len(numbers) == 8
    for number in numbers:
        left = min(parts, key=lambda p: abs(number.x - p.bounds[2]) + abs(number.y - p.centroid.y))
        assert left.bounds[2] < number.x < left.bounds[2] + 1
        assert left.bounds[1] < number.y < left.bounds[3]
    # Each film is told once, above its own.
    films = [m for m in page.marks if isinstance(m, Text) and m.bold and m.text.startswith("D, ")]
    assert len(films) == 2
    rows = [sorted(p.bounds[1] for p in parts)[k] for k in (0, 7)]
    assert films[0].y < rows[0] < films[1].y < rows[1]
