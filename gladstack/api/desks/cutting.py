"""Routes of cutting: a job at the cutter, and the steps there."""

from __future__ import annotations

from collections.abc import Callable

from starlette.concurrency import run_in_threadpool

from gladstack.api.desks.jobs import JobDesk
from gladstack.api.views.cutting import CutStep, CutView, HolderView, cut_view
from gladstack.machine.operator import Operator
from gladstack.store.cuts import CuttingError, KeptRun


class CutDesk:
    """The cutter as the routes see it; its rate is kept for a cutter that has to be started anew."""

    def __init__(self, operator: Operator, desk: JobDesk) -> None:
        self.operator = operator
        self.desk = desk

    def view(self, job: str) -> CutView | None:
        """How far a job is; None if it is not at the cutter."""
        if self.operator.book.find(job) is None:
            return None
        kept, stands = self.operator.stand(job)
        return cut_view(kept, stands, self.operator.link.rate, self._holder(kept))

    def _holder(self, kept: KeptRun) -> HolderView | None:
        busy = self.operator.book.busy()
        if busy is None or busy.cut == kept.cut:
            return None
        return HolderView(job=busy.job, name=busy.name, design=self.desk.jobs.get(busy.job).own_of)

    async def begin(self, job: str, base: int) -> CutView | None:
        """Begins to cut a job. Raises CuttingError."""
        run, sheets = await self.desk.cut_sheets(job, base)
        await run_in_threadpool(self.operator.begin, job, base, run, sheets)
        return await run_in_threadpool(self.view, job)

    def step(self, job: str, step: CutStep) -> CutView | None:
        """Does one step. Raises CuttingError, LinkError."""
        operator = self.operator
        steps: dict[str, Callable[[], object]] = {
            "load": lambda: operator.load(job, step.number, step.piece),
            "test": lambda: operator.test(job),
            "cut": lambda: operator.cut(job),
            "pause": lambda: operator.handle(job, "pause"),
            "resume": lambda: operator.handle(job, "resume"),
            "stop": lambda: operator.handle(job, "stop"),
            "mend": lambda: self._mend(job, step),
            "finish": lambda: operator.finish(job),
            "end": lambda: operator.end(job),
            "rate": lambda: operator.link.set_rate(step.rate),
            "fault": lambda: operator.link.ask("fault", kind=step.fault, after_mm=step.after_mm),
        }
        steps[step.do]()
        return self.view(job)

    def _mend(self, job: str, step: CutStep) -> None:
        if step.way is None:
            raise CuttingError("No way on was chosen.", "Choose one of those that are offered.")
        self.operator.mend(job, step.way, step.force_g)
