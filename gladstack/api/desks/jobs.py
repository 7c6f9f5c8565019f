"""Jobs and the shelf together: what a route needs, in one call each. Nothing here computes geometry."""

from __future__ import annotations

import asyncio
import secrets
from collections.abc import Callable, Sequence
from contextlib import suppress
from pathlib import Path
from typing import TypeVar

from starlette.concurrency import run_in_threadpool

from gladstack.api.tasks import designs as design_tasks
from gladstack.api.tasks import jobs as job_tasks
from gladstack.api.tasks import proof as proof_tasks
from gladstack.api.tasks.jobs import JobWork
from gladstack.api.views.had import HadView, had_view
from gladstack.api.views.proof import SlippedView, WorseView
from gladstack.api.views.records import CopiesView, CutRecordView, FilmUsedView
from gladstack.api.views.shop import (
    CloserAnswer,
    JobLineView,
    JobListView,
    JobView,
    NewJob,
    PutAnswer,
    PutWanted,
    ShelfFilmView,
    ShelfView,
    SpotView,
    kind_view,
)
from gladstack.core.write.pdf import Paper
from gladstack.proof.helping import ToldPlace
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.faults import said_of_what_was_asked
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.values import changed
from gladstack.shop.cut.cutting import CutRun, SheetCut
from gladstack.shop.jobs.edits import JobEdit, TakeLaying
from gladstack.shop.jobs.job import Job, JobDesign, LaidPart
from gladstack.shop.papers.job_pages import PageSize
from gladstack.shop.shelf.formats import Format
from gladstack.shop.shelf.kinds import Kind
from gladstack.shop.shelf.materials import Material
from gladstack.store.database import StoreError
from gladstack.store.designs import DesignBook, StaleRevisionError
from gladstack.store.jobs import JobBook, KeptJob
from gladstack.store.shelf import Shelf
from gladstack.work import costs
from gladstack.work.crew import LIGHT_S, Crew
from gladstack.work.ticket import Ticket, current, held

T = TypeVar("T")

_SLICE_PATIENCE_S = 10.0
_SHOWN = 120


class JobDesk:
    """Jobs, the shelf, and the crew that lays them."""

    def __init__(self, data: Path, designs: DesignBook, jobs: JobBook, shelf: Shelf, crew: Crew) -> None:
        self.data = data
        self.designs = designs
        self.jobs = jobs
        self.shelf = shelf
        self.crew = crew

    def shelf_view(self, search: str = "", most: int = _SHOWN) -> ShelfView:
        """Films whose name, kind or colour holds all words that are searched for, with their pieces."""
        words = search.lower().split()
        held = [m for m in self.shelf.materials() if all(w in f"{m.name} {m.kind} {m.colour} {m.id}".lower() for w in words)]
        shown = held[:most]
        pieces: dict[str, list[object]] = {m.id: [] for m in shown}
        for piece in self.shelf.pieces(*pieces) if pieces else ():
            pieces[piece.material].append(piece)
        films = [ShelfFilmView.model_construct(material=m, pieces=pieces[m.id]) for m in shown]  # type: ignore[arg-type]
        kinds = [kind_view(kind) for kind in Kind]
        return ShelfView.model_construct(films=films, total=len(held), cutters=self.shelf.cutters(), kinds=kinds)

    def copy_film(self, id_: str) -> Material:
        """A copy of a material under a new id."""
        held = self.shelf.material(id_)
        new = changed(held, id=f"film-{secrets.token_hex(4)}", name=f"{held.name[:110]}, copy", retired=False)
        self.shelf.add([new])
        return new

    def lines(self, search: str, most: int) -> JobListView:
        """Jobs of the list whose names hold all words that are searched for."""
        lines, total = self.jobs.lines(search.split(), most)
        return JobListView(lines=[JobLineView.model_validate(line) for line in lines], total=total)

    def begin(self, wanted: NewJob) -> JobView:
        """A new job of some designs as they stand."""
        designs = []
        for one in wanted.designs:
            held = self.designs.get(one.design)
            name, number = held.revision.title, held.revision.id
            designs.append(JobDesign(design=one.design, name=name, revision=number, copies=one.copies))
        with said_of_what_was_asked():
            job = Job(name=wanted.name, designs=tuple(designs), layout=wanted.layout)
        return self.view_of(self.jobs.create(job))

    def own_job(self, design: str) -> JobView:
        """A design's own sheets: a job of one, which follows the design as it changes."""
        held = self.designs.get(design)
        if (kept := self.jobs.own(design)) is None:
            name = held.revision.title
            job = Job(name=name, designs=(JobDesign(design=design, name=name),))
            # Two windows may open it at once.
            with suppress(StoreError):
                return self.view_of(self.jobs.create(job, own_of=design, label="Laid the films"))
            kept = self.jobs.own(design)
        assert kept is not None
        return self.view_of(kept)

    def view_of(self, kept: KeptJob) -> JobView:
        """A job as it is sent."""
        sources = dict.fromkeys(d.source for d in kept.job.designs if d.revision is not None)
        heads = {s: self.designs.get(s).revision.id for s in sources if self.designs.has(s)}
        stale = [d.design for d in kept.job.designs if self._is_stale(d.source, d.revision, heads.get(d.source))]
        return JobView(
            id=kept.id, own_of=kept.own_of, revision=kept.revision, job=kept.job, undoes=kept.undoes,
            redoes=kept.redoes, cut=kept.cut, at_cutter=kept.cut_id is not None and kept.cut is None, more=kept.more,
            stale=stale,
        )  # fmt: skip

    def _is_stale(self, design: str, taken: int | None, head: int | None) -> bool:
        """Whether a design or version is another now than when it was taken; another version of it alone makes it none."""
        if taken is None or head is None or taken == head:
            return False
        was, is_now = self.designs.revision(design, taken).recipe, self.designs.revision(design, head).recipe
        return changed(was, versions=()) != changed(is_now, versions=())

    def open(self, job: str) -> JobView:
        """A job as it is sent."""
        return self.view_of(self.jobs.get(job))

    def step(self, move: Callable[[], KeptJob]) -> JobView:
        """An edit, undo or redo."""
        return self.view_of(move())

    def edit(self, job: str, base: int, edit: JobEdit) -> JobView:
        """One edit."""
        return self.view_of(self.jobs.edit(job, base, edit))

    def work_of(self, kept: KeptJob) -> JobWork:
        """All that a plan follows from."""
        read: dict[tuple[str, int | None], Recipe] = {}
        for one in kept.job.designs:
            key = (one.source, one.revision)
            if key not in read:
                named = one.revision is not None
                held = (
                    self.designs.revision(one.source, one.revision or 0) if named else self.designs.get(one.source).revision
                )
                read[key] = held.recipe
        recipes = tuple((one.design, read[one.source, one.revision]) for one in kept.job.designs)
        return JobWork(self.data, kept.id, kept.revision, kept.job, recipes, self.shelf.shop(kept.cut_id))

    async def plan(self, job: str) -> bytes:
        """The plan of a job, drawn."""
        work = await run_in_threadpool(lambda: self.work_of(self.jobs.get(job)))
        return await self._light(job, job_tasks.view, work)

    async def closer(self, job: str, base: int, seconds: int) -> CloserAnswer:
        """Looks for a shorter layout, and takes it if there is one."""
        work = await run_in_threadpool(lambda: self.work_of(self._expect(job, base)))
        await self._built_ahead(work)
        cost = float(3 * seconds)
        laid, before, after = await self.crew.run(cost, "This job", job_tasks.closer, work, seconds, more_s=cost)
        view = await run_in_threadpool(self.edit, job, base, TakeLaying(laid=laid))
        return CloserAnswer(job=view, before_mm=before, after_mm=after)

    async def put(self, job: str, wanted: PutWanted) -> PutAnswer:
        """Puts, pins or lets go of a nested part."""
        work = await run_in_threadpool(lambda: self.work_of(self._expect(job, wanted.base)))
        which = LaidPart(design=wanted.design, film=wanted.film, part=wanted.part, copy_of=wanted.copy_of, tile=wanted.tile)
        if wanted.spot is None:
            laid = await self._light(job, job_tasks.pin, work, which, bool(wanted.pinned))
            said = TakeLaying(laid=laid, said="pinned" if wanted.pinned else "unpinned")
            return PutAnswer(job=await run_in_threadpool(self.edit, job, wanted.base, said), why="", fits=None)
        spot = (wanted.spot.turn_deg, wanted.spot.x_mm, wanted.spot.y_mm)
        put = await self._light(job, job_tasks.put, work, which, spot)
        if put.laid is None:
            fits = put.fits and SpotView(turn_deg=put.fits.turn_deg, x_mm=put.fits.x_mm, y_mm=put.fits.y_mm)
            return PutAnswer(job=None, why=put.why, fits=fits)
        edit = TakeLaying(laid=put.laid, said="put")
        return PutAnswer(job=await run_in_threadpool(self.edit, job, wanted.base, edit), why="", fits=None)

    async def mark_cut(self, job: str, base: int) -> JobView:
        """Says that a job was cut."""
        work = await run_in_threadpool(lambda: self.work_of(self._expect(job, base)))
        uses, gains = await self._light(job, job_tasks.uses, work)
        return await run_in_threadpool(lambda: self.view_of(self.jobs.mark_cut(job, base, uses, gains)))

    async def had(self, design: str, art: str) -> HadView:
        """A picture's colours as films of the shelf."""
        own = await run_in_threadpool(self.own_job, design)
        work = await run_in_threadpool(lambda: self.work_of(self.jobs.get(own.id)))
        return had_view(art, await self._light(own.id, job_tasks.had, work, art))

    async def proof(self, design: str) -> bytes:
        """The proof of a design on its own film."""
        return await self._light(design, proof_tasks.proof, await run_in_threadpool(self._proved, design))

    async def film_findings(self, design: str) -> bytes:
        """What the proof tells of each film by itself."""
        return await self._light(design, proof_tasks.film_findings, await run_in_threadpool(self._proved, design))

    async def slipped(self, design: str, film: str, slip: tuple[float, float]) -> SlippedView:
        """What a film bares that has slipped."""
        return await self._light(design, proof_tasks.slipped, await run_in_threadpool(self._proved, design), film, slip)

    async def widths(self, design: str) -> bytes:
        """The narrow stretches of a design's films."""
        return await self._light(design, proof_tasks.widths, await run_in_threadpool(self._proved, design))

    async def worse_after(self, design: str, base: int, edit: Edit) -> list[WorseView]:
        """What will or may fail once an edit of a design is made. Raises StoreError if it was changed meanwhile."""
        work = await run_in_threadpool(self._proved_at, design, base)
        return await self._light(design, proof_tasks.worse_after, work, edit)

    async def helping(self, design: str, base: int, told: ToldPlace, edits: Sequence[Edit]) -> list[bool]:
        """Which edits of a design mend what is told of it. Raises StoreError if it was changed meanwhile."""
        work = await run_in_threadpool(self._proved_at, design, base)
        return await self._light(design, proof_tasks.helping, work, told, tuple(edits))

    async def helping_on_sheets(self, job: str, base: int, told: ToldPlace, edits: Sequence[JobEdit]) -> list[bool]:
        """Which edits of a job mend what is told of its plan. Raises StoreError if it was changed meanwhile."""
        work = await run_in_threadpool(lambda: self.work_of(self._expect(job, base)))
        return await self._light(job, proof_tasks.helping_on_sheets, work, told, tuple(edits))

    def _proved_at(self, design: str, base: int) -> JobWork:
        work = self._proved(design)
        if self.designs.get(design).revision.id != base:
            raise StaleRevisionError("This design was changed meanwhile.", "Look at it again.")
        return work

    def _proved(self, design: str) -> JobWork:
        """What the proof of a design follows from: its own sheets, or sheets as they would be begun."""
        if (kept := self.jobs.own(design)) is not None:
            return self.work_of(kept)
        held = self.designs.get(design).revision
        job = Job(name=held.title, designs=(JobDesign(design=design, name=held.title),))
        return JobWork(self.data, design, 0, job, ((design, held.recipe),), self.shelf.shop())

    def records(self, job: str) -> list[CutRecordView]:
        """What was cut of a job."""
        return [
            CutRecordView(
                id=r.id, began=r.began, ended=r.ended, whole=r.whole,
                copies=[CopiesView(design=design, name=name, copies=copies) for design, name, copies in r.copies],
                films=[FilmUsedView.model_validate(one) for one in r.films],
            )
            for r in self.jobs.records(job)
        ]  # fmt: skip

    async def files(self, job: str, formats: Sequence[Format], paper: Paper, sheets: Sequence[int]) -> tuple[str, bytes]:
        """A job's name, and its sheets, or some of them, in some formats as a ZIP."""
        kept = await run_in_threadpool(self.jobs.get, job)
        work = await run_in_threadpool(self.work_of, kept)
        return kept.job.name, await self._light(job, job_tasks.files, work, tuple(formats), paper, tuple(sheets))

    async def job_sheet(self, job: str, paper: PageSize) -> list[str]:
        """The pages of a job's sheet as SVG."""
        work = await run_in_threadpool(lambda: self.work_of(self.jobs.get(job)))
        return await self._light(job, job_tasks.job_sheet_pages, work, paper)

    async def job_sheet_pdf(self, job: str, paper: PageSize) -> bytes:
        """A job's sheet as PDF."""
        work = await run_in_threadpool(lambda: self.work_of(self.jobs.get(job)))
        return await self._light(job, job_tasks.job_sheet_pdf, work, paper)

    async def cut_sheets(self, job: str, base: int) -> tuple[CutRun, list[SheetCut]]:
        """What cutting a job needs of each sheet."""
        work = await run_in_threadpool(lambda: self.work_of(self._expect(job, base)))
        return await self._light(job, job_tasks.cut_sheets, work)

    async def _light(self, job: str, task: Callable[..., T], work: JobWork, *arguments: object) -> T:
        count = len(work.recipes)
        # A list of names is given the time for it.
        cost, more = (costs.laying_s(count), costs.writing_s(count)) if count > job_tasks.MANY else (LIGHT_S, 0.0)

        async def ahead() -> None:
            await self._built_ahead(work)

        return await self.crew.light_first("This job", job, task, ahead, work, *arguments, cost_s=cost, more_s=more)

    async def _built_ahead(self, work: JobWork) -> None:
        """Builds the designs of a job in slices, two at a time, so that others' short work comes in between."""
        ticket = current() or Ticket(self.crew.limits.deadline_s)
        counted = job_tasks.PartTally(work.job)
        for one in job_tasks.sources(work):
            cost = await run_in_threadpool(one.cost_s, self.designs.pixels, self.designs.size)
            await self.crew.run(cost, "This job", design_tasks.prepare, one)
        if not (left := job_tasks.slices(work)):
            return
        ticket.done, ticket.of = 0, sum(len(one.recipes) for one in left)
        # A machine that others use as well takes its time.
        ticket.give(4 * costs.building_s(ticket.of))

        async def work_off() -> None:
            while left:
                some = left.pop(0)
                counts = await self.crew.run(
                    costs.building_s(len(some.recipes)),
                    "This job",
                    job_tasks.build_slice,
                    some,
                    patience_s=_SLICE_PATIENCE_S,
                )
                ticket.done += len(some.recipes)
                counted.add(counts)

        with held(ticket):
            hands = [asyncio.create_task(work_off()) for _ in range(2)]
        try:
            await asyncio.gather(*hands)
        finally:
            for hand in hands:
                hand.cancel()

    def _expect(self, job: str, base: int) -> KeptJob:
        kept = self.jobs.get(job)
        if kept.revision != base:
            raise StaleRevisionError(
                "This job was changed in another window since you last saw it.",
                "It has been brought up to date here; make your change again.",
            )
        return kept
