"""Jobs cut on the simulated cutter with things going wrong: every contour once in the end, the shelf counted right."""

from __future__ import annotations

import os
import random
import signal
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

import pytest

from gladstack.commands.cut import cut_all
from gladstack.core.base.errors import GladStackError
from gladstack.demo.shelf import demo_shop
from gladstack.machine.link import Link, LinkError, Temper
from gladstack.machine.operator import Operator, SheetStand, decide, faults_of
from gladstack.shop.cut.cutting import begun
from gladstack.shop.cut.progress import to_draw
from gladstack.shop.plan.plan import plan
from gladstack.shop.plan.planned import Plan
from gladstack.shop.shelf.shelf import Shop
from gladstack.store.cuts import CutBook, CuttingError
from gladstack.store.database import Database
from gladstack.store.jobs import JobBook, KeptJob
from gladstack.store.line import AtCutterError
from gladstack.store.shelf import Shelf
from tests.shop.jobs import random_job, two_pens


class Workshop:
    """A shop with one cutter; the app can be restarted, and all of it is on disk."""

    def __init__(self, folder: Path, shop: Shop, seed: int | None, rate: float = 0.0) -> None:
        self.folder = folder
        self.shop = shop
        self.temper = Temper(rate, seed)
        database = Database(folder / "shop.db")
        self.jobs, self.shelf, self.book = JobBook(database), Shelf(database), CutBook(database)
        if not self.shelf.materials():
            self.shelf.add(shop.materials, shop.pieces)
        self.start()

    def start(self) -> None:
        self.link = Link(self.folder / "cutter", self.shop.cutters[0], self.temper)
        self.operator = Operator(self.book, self.shelf, self.link)

    def begin(self, made: Plan) -> KeptJob:
        kept = self.jobs.create(made.job)
        self.operator.begin(kept.id, kept.revision, *begun(made.sheets, made.job.keep_offcuts_mm))
        return kept

    def left(self) -> dict[str, float]:
        return {p.id: p.left for p in self.shelf.pieces(spent=True)}


@contextmanager
def workshop(folder: Path, shop: Shop, seed: int | None = None, rate: float = 0.0) -> Iterator[Workshop]:
    made = Workshop(folder, shop, seed, rate)
    try:
        yield made
    finally:
        made.operator.close()


def a_plan(seed: int) -> tuple[Plan, Shop]:
    """A small random job that the shelf has film for."""
    while True:
        job, designs, shop = random_job(random.Random(seed))
        with suppress(GladStackError):
            made = plan(job, designs, shop)
            if sum(len(s.path.contours) for s in made.sheets) < 120:
                return made, shop
        seed += 1000


def check_films(shop: Workshop, stands: list[SheetStand], before: dict[str, float]) -> None:
    """What the ledger took is what the films used, piece by piece."""
    used: dict[str, float] = {}
    for stand in stands:
        for film in stand.run.tries:
            if film.used_mm > 0 and not stand.cut.bought:
                whole = max(film.used_mm, stand.cut.length_used_mm) if film.ended == "cut" else film.used_mm
                used[film.piece] = used.get(film.piece, 0.0) + (whole if stand.cut.kind == "roll" else 1.0)
    after = shop.left()
    for piece, amount in before.items():
        assert after[piece] == pytest.approx(max(0.0, amount - used.get(piece, 0.0)), abs=0.2)
        assert after[piece] >= 0


@pytest.mark.parametrize("seed", range(8))
def test_whatever_goes_wrong_every_contour_is_cut_once_or_told(tmp_path: Path, seed: int) -> None:
    made, shelf = a_plan(seed)
    with workshop(tmp_path, shelf, seed) as shop:
        before = shop.left()
        stands = cut_all(shop.operator, shop.jobs, made)
        check_films(shop, stands, before)
        # Where the film was spent before all was cut, that is told.
        done = [s for s in stands if s.stage == "done"]
        assert len(done) == len(stands) or len(shop.operator.figures(stands[len(done)]).missing) > 0
        for stand in done:
            figures = stand.figures
            assert figures is not None
            assert figures.missing == ()
            assert figures.cut_once + len(figures.twice) == figures.contours
            slipped = any(f["kind"] == "slip" for t in stand.run.tries for f in faults_of(shop.operator.log_of(t)))
            assert figures.largest_mm <= 0.05 or slipped


@pytest.mark.parametrize("seed", range(4))
def test_kills_at_any_moment_lose_nothing(tmp_path: Path, seed: int) -> None:
    """The cutter is killed, or the app left where it is and started anew, again and again while it cuts."""
    made, shelf = a_plan(seed + 50)
    rng = random.Random(seed)
    with workshop(tmp_path, shelf, None, 200.0) as shop:
        kept = shop.begin(made)
        kills = 0
        for _ in range(6000):
            stands = None
            with suppress(LinkError):
                _, stands = shop.operator.stand(kept.id)
            stand = next((s for s in stands or () if s.stage != "done"), None)
            if stands is not None and stand is None:
                break
            if kills < 6 and rng.random() < 0.2 and stand is not None and stand.stage == "cutting":
                kills += 1
                if rng.random() < 0.5 and (pid := shop.link.pid):
                    os.kill(pid, signal.SIGKILL)
                else:
                    shop.operator.close()
                    shop.start()
                continue
            step = decide(stand) if stand else None
            if step:
                with suppress(LinkError):
                    step(shop.operator, kept.id)
            else:
                time.sleep(0.005)
        _, stands = shop.operator.stand(kept.id)
        assert [s.stage for s in stands] == ["done"] * len(stands)
        for s in stands:
            assert s.figures is not None
            assert (s.figures.missing, s.figures.twice) == ((), ())
            assert s.figures.largest_mm <= 0.05
        assert shop.jobs.get(kept.id).cut


def test_two_jobs_are_never_in_the_cutter_at_once_and_a_job_there_stays_as_it_is(tmp_path: Path) -> None:
    made, shelf = a_plan(3)
    with workshop(tmp_path, shelf) as shop:
        one, two = shop.begin(made), shop.begin(made)
        shop.operator.load(one.id, 1)
        with pytest.raises(CuttingError, match="in the cutter"):
            shop.operator.load(two.id, 1)
        with pytest.raises(AtCutterError, match="at the cutter"):
            shop.jobs.mark_cut(one.id, one.revision, (), ())
        with pytest.raises(CuttingError):
            shop.operator.begin(one.id, one.revision, *begun(made.sheets, 40))
        before = shop.left()
        shop.operator.end(one.id)
        # Nothing was cut, so nothing was used; the other job may go in now.
        assert shop.left() == before
        assert shop.jobs.get(one.id).cut_id is None
        shop.operator.load(two.id, 1)


def test_films_are_cut_in_order_and_only_what_is_loaded(tmp_path: Path) -> None:
    made, shelf = a_plan(3)
    with workshop(tmp_path, shelf) as shop:
        kept = shop.begin(made)
        with pytest.raises(CuttingError, match="no film"):
            shop.operator.cut(kept.id)
        if len(made.sheets) > 1:
            with pytest.raises(CuttingError, match="comes first"):
                shop.operator.load(kept.id, 2)
        shop.operator.load(kept.id, 1)
        with pytest.raises(CuttingError, match="not cut yet"):
            shop.operator.finish(kept.id)
        with pytest.raises(CuttingError, match="no way on"):
            shop.operator.mend(kept.id, "recut")


def test_one_pen_after_another_and_then_the_blade(tmp_path: Path) -> None:
    made = two_pens()
    names = [pen.name for pen in made.sheets[0].pens]
    with workshop(tmp_path, demo_shop(), None, 200.0) as shop:
        kept = shop.begin(made)
        shop.operator.load(kept.id, 1)
        asked: list[str | None] = []
        stopped = False
        for _ in range(6000):
            _, (stand,) = shop.operator.stand(kept.id)
            drawing = to_draw(stand.cut, stand.made) if stand.made else None
            if stand.stage == "cutting" and not stopped and drawing and drawing.pen == names[1]:
                # One line at least is half drawn: it is drawn again, with the pen that is in.
                stopped = True
                shop.operator.handle(kept.id, "stop")
            elif stand.stage in ("ready", "trouble"):
                asked.append(drawing.pen if drawing else None)
                step = decide(stand)
                assert step is not None
                step(shop.operator, kept.id)
            elif stand.stage == "cut":
                break
            else:
                time.sleep(0.002)
        assert stand.made is not None
        assert stand.made.drawn == set(range(len(made.sheets[0].drawn)))
        assert list(dict.fromkeys(asked)) == [*names, None]


def test_a_test_cut_is_told_and_is_no_part_of_the_sheet(tmp_path: Path) -> None:
    made, shelf = a_plan(3)
    with workshop(tmp_path, shelf) as shop:
        kept = shop.begin(made)
        shop.operator.load(kept.id, 1)
        shop.operator.test(kept.id)
        deadline = time.monotonic() + 20
        while time.monotonic() < deadline:
            _, (stand, *_) = shop.operator.stand(kept.id)
            if stand.test:
                break
        assert stand.test is not None
        through, off, corner = stand.test
        assert through
        assert off < 0.05
        assert corner < 0.05
        assert stand.stage == "ready"
        assert stand.to_cut == sum(1 for _ in stand.cut.contours) * stand.cut.passes
