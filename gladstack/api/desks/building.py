"""The builder: what workers are asked for about recipes. Nothing here computes geometry."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar

from starlette.concurrency import run_in_threadpool

from gladstack.api.base.problems import problem_of
from gladstack.api.desks.looks import Looks
from gladstack.api.tasks import designs as design_tasks
from gladstack.api.tasks.designs import DesignWork
from gladstack.api.views.designs import DesignView
from gladstack.api.views.shown import Held, design_view
from gladstack.core.base.errors import GladStackError
from gladstack.recipe.model.recipe import Recipe
from gladstack.store.designs import Brought, Design, DesignBook
from gladstack.store.listing import Listing
from gladstack.store.refs import parts_of
from gladstack.work import costs
from gladstack.work.crew import Crew

T = TypeVar("T")
_LOOK_PATIENCE_S = 5.0
"""Nobody waits for small pictures as they do for what they change."""
NOTHING_HELD: Held = frozenset()


class Builder:
    """The store of a folder of designs, and the crew that works on them."""

    def __init__(self, data: Path, store: DesignBook, listing: Listing, crew: Crew) -> None:
        self.data = data
        self.store = store
        self.crew = crew
        self._listing = listing
        self.looks = Looks(self._made_look)

    async def read(self, data: bytes, filename: str) -> Brought:
        """A picture or vector file, read and judged. Raises GladStackError."""
        return await self.crew.run(costs.reading_s(len(data)), "This file", design_tasks.read_file, data, filename)

    async def view(
        self,
        design: str,
        recipe: Recipe,
        held: Held = NOTHING_HELD,
        brought: tuple[Brought, ...] = (),
        new_mend: tuple[str, str] | None = None,
    ) -> bytes:
        """What is built from a recipe, as it is sent, without what the asker holds. Raises GladStackError."""
        work = DesignWork(self.data, recipe, {b.digest: b for b in brought}, held)
        subject = "This file" if brought else "This design"
        return await self.light_first(subject, design, design_tasks.view, work, new_mend)

    async def answer(self, design: Design, held: Held, built: bytes | None = None, *, build: bool = True) -> bytes:
        """A design as it is sent; without `build`, what is built from it is left to be asked for."""
        trouble = None
        if built is None and build:
            try:
                built = await self.view(design.id, design.revision.recipe, held)
            except GladStackError as fault:
                trouble = problem_of(fault)
        head: DesignView = design_view(design, held, trouble)
        self.looks.soon(parts_of(design.id)[0], design.revision.id)
        text = head.model_dump_json(exclude={"built"}).encode()
        return text[:-1] + b',"built":' + (built or b"null") + b"}"

    async def small_look(self, design: str, revision: int) -> bytes | None:
        """A revision as a small PNG on its ground, made once and kept; None while it is coming."""
        kept = await run_in_threadpool(self._listing.look, revision)
        return kept if kept is not None else await self.looks.look(parts_of(design)[0], revision)

    async def _made_look(self, design: str, revision: int) -> bytes:
        kept = await run_in_threadpool(self._listing.look, revision)
        if kept is not None:
            return kept
        found = await run_in_threadpool(self.store.revision, design, revision)
        work = DesignWork(self.data, found.recipe)
        look = await self.light_first("This design", design, design_tasks.small_look, work, patience_s=_LOOK_PATIENCE_S)
        await run_in_threadpool(self._listing.keep_look, revision, look)
        return look.png

    async def preview(self, design: str) -> bytes:
        """The decal as it stands, as a small PNG."""
        found = await run_in_threadpool(self.store.get, design)
        work = DesignWork(self.data, found.revision.recipe)
        return await self.light_first("This design", design, design_tasks.preview, work)

    async def light_first(
        self, subject: str, whose: str, task: Callable[..., T], work: DesignWork, *arguments: Any, patience_s: float = 0.0
    ) -> T:
        """Work on a recipe in the light lane, after its costly stages elsewhere."""

        async def ahead() -> None:
            for one in (work, *(more for more in arguments if isinstance(more, DesignWork))):
                cost = await run_in_threadpool(one.cost_s, self.store.pixels, self.store.size)
                await self.crew.run(cost, subject, design_tasks.prepare, one)

        return await self.crew.light_first(subject, whose, task, ahead, work, *arguments, patience_s=patience_s)
