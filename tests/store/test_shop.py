"""The shelf and jobs on disk: a ledger that never loses a millimetre, and jobs that nobody overwrites unseen."""

from __future__ import annotations

from datetime import date
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gladstack.demo.shelf import MATERIALS, PIECES
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.edits import AddToJob, DropFromJob, SetCopies, SetJob
from gladstack.shop.jobs.job import Job, JobDesign, JobFilm, LaidPart, Order
from gladstack.shop.shelf.csv_files import CsvError, read, written
from gladstack.shop.shelf.cutters import CUTTERS, Cutter
from gladstack.shop.shelf.rates import Rates
from gladstack.shop.shelf.stock import Gain, Use
from gladstack.store.database import Database
from gladstack.store.designs import DesignBook, StaleRevisionError
from gladstack.store.jobs import JobBook, NothingMoreError, UnknownJobError
from gladstack.store.listing import Listing
from gladstack.store.shelf import Shelf, StockError, UnknownFilmError
from tests.examples import examples

JOB = Job(name="Mugs", designs=(JobDesign(design="mug", name="Mug", copies=12),))
ROLL = "night-navy-roll"


@pytest.fixture
def database(tmp_path: Path) -> Database:
    return Database(tmp_path / "shop.sqlite3")


@pytest.fixture
def shelf(database: Database) -> Shelf:
    held = Shelf(database)
    held.add(MATERIALS, PIECES)
    return held


@pytest.fixture
def jobs(database: Database) -> JobBook:
    return JobBook(database)


def left(shelf: Shelf) -> dict[str, float]:
    return {p.id: p.left for p in shelf.pieces(spent=True)}


def test_the_shelf_holds_what_was_put_on_it(shelf: Shelf) -> None:
    assert {m.id for m in shelf.materials()} == {m.id for m in MATERIALS}
    assert left(shelf) == {p.id: p.left for p in PIECES}
    with pytest.raises(StockError):
        shelf.add(MATERIALS[:1])
    with pytest.raises(UnknownFilmError):
        shelf.bring("no-such-film", "roll", 300, 5000, 1)


def test_counting_goes_into_the_ledger(shelf: Shelf) -> None:
    shelf.correct(ROLL, 5000)
    shelf.correct(ROLL, 5000)
    assert left(shelf)[ROLL] == 5000
    changes = [change for change, _, _ in shelf.ledger(ROLL)]
    assert changes == [7420, -2420]


def test_cutting_counts_the_shelf_down_and_undoing_puts_all_back(shelf: Shelf, jobs: JobBook) -> None:
    job = jobs.create(JOB)
    before = left(shelf)
    cut = jobs.mark_cut(job.id, job.revision, [Use(piece=ROLL, amount=190), Use(piece="offcut-1", amount=1)], [
        Gain(material="night-navy", width_mm=96, length_mm=300)])  # fmt: skip
    assert cut.cut
    after = left(shelf)
    assert after[ROLL] == before[ROLL] - 190
    assert after["offcut-1"] == 0
    assert len(after) == len(before) + 1
    # Marked twice, it is cut once.
    jobs.mark_cut(job.id, job.revision, [Use(piece=ROLL, amount=190)], [])
    assert left(shelf) == after
    undone = jobs.unmark_cut(job.id, job.revision)
    assert undone.cut is None
    assert {k: v for k, v in left(shelf).items() if v or k in before} == before


def test_the_shelf_is_told_as_it_stood_before_a_cut(shelf: Shelf, jobs: JobBook) -> None:
    job = jobs.create(JOB)
    shelf.correct(ROLL, 5000)
    before = left(shelf)
    cut = jobs.mark_cut(job.id, job.revision, [Use(piece=ROLL, amount=190), Use(piece="offcut-1", amount=1)], [])
    shelf.correct(ROLL, 3000)
    assert cut.cut_id is not None
    assert {p.id: p.left for p in shelf.pieces(spent=True, before_cut=cut.cut_id)} == before
    assert {p.id for p in shelf.shop(cut.cut_id).pieces} == {id_ for id_, amount in before.items() if amount > 0}


def test_no_job_takes_more_than_there_is(shelf: Shelf, jobs: JobBook) -> None:
    job = jobs.create(JOB)
    before = left(shelf)
    with pytest.raises(StockError, match="too little"):
        jobs.mark_cut(job.id, job.revision, [Use(piece=ROLL, amount=100), Use(piece="offcut-2", amount=2)], [])
    assert left(shelf) == before
    assert jobs.get(job.id).cut is None


def test_a_piece_that_is_not_on_the_shelf_cannot_be_taken(shelf: Shelf, jobs: JobBook) -> None:
    job = jobs.create(JOB)
    with pytest.raises(StockError, match="too little"):
        jobs.mark_cut(job.id, job.revision, [Use(piece="no-such-piece", amount=1)], [])
    with pytest.raises(StockError, match="0 left"):
        jobs.mark_cut(job.id, job.revision, [Use(piece="no-such-piece", amount=1)], [])
    with pytest.raises(StockError, match="7420 mm"):
        jobs.mark_cut(job.id, job.revision, [Use(piece=ROLL, amount=9000)], [])


def test_an_offcut_used_since_keeps_its_job_cut(shelf: Shelf, jobs: JobBook) -> None:
    first, second = jobs.create(JOB), jobs.create(JOB)
    known = set(left(shelf))
    jobs.mark_cut(first.id, first.revision, [], [Gain(material="slate", width_mm=100, length_mm=100)])
    (offcut,) = set(left(shelf)) - known
    jobs.mark_cut(second.id, second.revision, [Use(piece=offcut, amount=1)], [])
    with pytest.raises(StockError, match="used since"):
        jobs.unmark_cut(first.id, first.revision)
    jobs.unmark_cut(second.id, second.revision)
    assert jobs.unmark_cut(first.id, first.revision).cut is None


@settings(max_examples=examples(20))
@given(steps=st.lists(st.tuples(st.booleans(), st.integers(0, 3), st.floats(1, 4000)), max_size=12))
def test_stock_never_goes_below_nothing(
    tmp_path_factory: pytest.TempPathFactory, steps: list[tuple[bool, int, float]]
) -> None:
    database = Database(tmp_path_factory.mktemp("stock") / "shop.sqlite3")
    shelf, jobs = Shelf(database), JobBook(database)
    shelf.add(MATERIALS, PIECES)
    before = left(shelf)
    ours = [jobs.create(JOB) for _ in range(4)]
    for mark, k, amount in steps:
        job = ours[k]
        try:
            if mark:
                jobs.mark_cut(job.id, job.revision, [Use(piece=ROLL, amount=amount)], [])
            else:
                jobs.unmark_cut(job.id, job.revision)
        except StockError:
            assert amount > left(shelf)[ROLL]
        assert min(left(shelf).values()) >= 0
    for job in ours:
        jobs.unmark_cut(job.id, job.revision)
    assert left(shelf) == pytest.approx(before)


def test_jobs_are_edited_undone_and_redone(jobs: JobBook) -> None:
    job = jobs.create(JOB)
    more = jobs.edit(job.id, job.revision, SetCopies(design="mug", copies=24))
    assert more.job.designs[0].copies == 24
    with pytest.raises(StaleRevisionError):
        jobs.edit(job.id, job.revision, SetJob(name="Late"))
    back = jobs.undo(job.id, more.revision)
    assert (back.job, back.undoes, back.redoes) == (JOB, None, "24 of Mug")
    assert jobs.redo(job.id, back.revision).job == more.job
    with pytest.raises(UnknownJobError):
        jobs.get("no-such-job")


def test_a_job_keeps_a_design(jobs: JobBook) -> None:
    job = jobs.create(JOB)
    with pytest.raises(Exception, match="needs a design"):
        jobs.edit(job.id, job.revision, DropFromJob(design="mug"))
    with pytest.raises(Exception, match="already"):
        jobs.edit(job.id, job.revision, AddToJob(design=JobDesign(design="mug", name="Mug")))


def test_the_shelf_goes_out_as_csv_and_comes_back_the_same() -> None:
    back = {m.id: m for m in read(written(MATERIALS))}
    for material in MATERIALS:
        assert back[material.id] == material


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("name,colour\nA,#ffffff\n", "no column"),
        ("id,name,colour\na,A,white\n", "Row 2"),
        ("id,name,colour,kind\na,A,#ffffff,wool\n", "Row 2"),
        ("id,name,colour\na,A,#ffffff\na,B,#ffffff\n", "same id"),
        ("id,name,colour,cost_m2\na,A,#ffffff,1e999\n", "Row 2"),
    ],
)
def test_a_csv_that_is_no_shelf_is_told_with_its_row(text: str, said: str) -> None:
    with pytest.raises(CsvError, match=said):
        read(text)


def test_jobs_are_listed_whole_searched_and_by_their_last_change(jobs: JobBook, monkeypatch: pytest.MonkeyPatch) -> None:
    made = [jobs.create(Job(name=f"Mug {k} of the dome", designs=(JobDesign(design="a", name="A"),))) for k in range(70)]
    monkeypatch.setattr("gladstack.store.jobs.now", lambda: "1999-12-31T23:59:59.000+00:00")
    changed = jobs.edit(made[3].id, made[3].revision, SetJob(slug=True))
    lines, total = jobs.lines()
    assert (len(lines), total, lines[0].id) == (50, 70, changed.id)
    assert [line.id for line in jobs.lines(most=100)[0]][1:3] == [made[69].id, made[68].id]
    found, count = jobs.lines(["DOME", "mug 6"])
    assert (count, len(found)) == (11, 11)
    assert jobs.lines(["nothing of the kind"]) == ([], 0)


def test_a_job_is_cut_again_and_what_was_cut_stays(shelf: Shelf, jobs: JobBook) -> None:
    start = left(shelf)[ROLL]
    job = jobs.edit((new := jobs.create(JOB)).id, new.revision, SetCopies(design="mug", copies=10))
    jobs.mark_cut(job.id, job.revision, [Use(piece=ROLL, amount=100)], [])
    more = jobs.edit(job.id, job.revision, SetCopies(design="mug", copies=12))
    assert (more.cut is not None, more.more) == (True, 2)
    rest = jobs.again(job.id, more.revision, rest=True)
    assert (rest.cut, [d.copies for d in rest.job.designs], rest.undoes) == (None, [2], "Cut 2 more")
    done = jobs.mark_cut(rest.id, rest.revision, [Use(piece=ROLL, amount=20)], [])
    with pytest.raises(NothingMoreError, match="All of this job"):
        jobs.again(done.id, done.revision, rest=True)
    assert left(shelf)[ROLL] == pytest.approx(start - 120)
    last, first = jobs.records(job.id)
    assert [r.copies for r in (first, last)] == [(("mug", "Mug", 10),), (("mug", "Mug", 2),)]
    assert [f.rolls_mm for r in (first, last) for f in r.films] == [100, 20]
    # The first order once more, from its record; the film of both stays used.
    again = jobs.again(done.id, done.revision, record=first.id)
    assert (again.cut, [d.copies for d in again.job.designs]) == (None, [10])
    assert left(shelf)[ROLL] == pytest.approx(start - 120)
    # Only the last cut can be undone, for it alone is not closed.
    jobs.unmark_cut(again.id, again.revision)
    assert left(shelf)[ROLL] == pytest.approx(start - 120)
    with pytest.raises(NothingMoreError, match="no such record"):
        jobs.again(again.id, again.revision, record=10_000)


def test_the_rest_of_a_job_keeps_what_is_pinned_of_it_and_nothing_of_what_is_cut(jobs: JobBook) -> None:
    two = (JobDesign(design="a", name="A", copies=2), JobDesign(design="b", name="B", copies=2))
    laid = tuple(
        LaidPart(design=design, film="#1d2b53", part=part, pinned=pinned)
        for design in ("a", "b")
        for part, pinned in ((0, True), (1, False))
    )
    films = tuple(JobFilm(design=design, film="#1d2b53", material="navy-soft") for design in ("a", "b"))
    job = jobs.create(Job(name="Two", designs=two, films=films, laid=laid))
    cut = jobs.mark_cut(job.id, job.revision, [], [])
    more = jobs.edit(cut.id, cut.revision, SetCopies(design="a", copies=5))
    rest = jobs.again(more.id, more.revision, rest=True).job
    assert [(d.design, d.copies) for d in rest.designs] == [("a", 3)]
    assert rest.films == films[:1]
    assert rest.laid == laid[:1]


def test_a_job_is_found_by_whom_it_is_for(jobs: JobBook) -> None:
    job = jobs.create(JOB)
    order = Order.model_validate({"whom": "Harbour choir", "due": "2026-12-24", "note": "in blue"})
    jobs.edit(job.id, job.revision, SetJob(order=order))
    jobs.create(JOB)
    for words, count in ((["choir"], 1), (["HARBOUR", "mug"], 1), (["2026-12"], 1), (["mug"], 2), (["blue", "red"], 0)):
        assert jobs.lines(words)[1] == count


def test_sheets_of_a_design_are_listed_once_they_are_for_somebody(jobs: JobBook, database: Database) -> None:
    designs = DesignBook(database)
    made = designs.create(
        Recipe.model_validate(
            {"name": "Moon mug", "arts": [{"kind": "shape", "id": "moon", "film": "#fff4d6", "form": {"form": "ellipse"}}]}
        )
    )
    kept = jobs.create(Job(name="Moon mug", designs=(JobDesign(design=made.id, name="Moon mug"),)), own_of=made.id)
    assert jobs.lines() == ([], 0)
    told = jobs.edit(kept.id, kept.revision, SetJob(order=Order(whom="The hill school", due=date(2031, 5, 4))))
    (line,), total = jobs.lines(["school"])
    assert (total, line.id, line.own_of, line.whom, line.due) == (1, kept.id, made.id, "The hill school", "2031-05-04")
    Listing(database).bin(made.id)
    assert jobs.lines() == ([], 0)
    Listing(database).restore(made.id)
    jobs.undo(kept.id, told.revision)
    assert jobs.lines() == ([], 0)


def test_cutters_of_ones_own_stand_beside_those_that_come_along(shelf: Shelf) -> None:
    own = Cutter(id="own", name="Desk cutter, 12 in", width_mm=304.8, length_mm=609.6, feed="mat")
    shelf.save_cutter(own)
    assert [c.id for c in shelf.cutters()] == [*(c.id for c in CUTTERS), "own"]
    shelf.save_cutter(changed(CUTTERS[0], name="My table cutter"))
    assert shelf.shop().cutter(CUTTERS[0].id).name == "My table cutter"
    assert shelf.shop().cutter("own") == own
    for wrong in ({"force_from_g": 400}, {"side_margin_mm": 160}):
        with pytest.raises(ValueError, match=r"force|margins"):
            changed(own, **wrong)


def test_rates_are_set_once(shelf: Shelf) -> None:
    assert shelf.rates() == Rates()
    shelf.set_rates(Rates(currency="GS", hand_hour=30))
    assert shelf.shop().rates == Rates(currency="GS", hand_hour=30)
