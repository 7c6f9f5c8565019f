"""Designs and their builds together: what a route needs, in one call each.

Nothing here computes geometry: the store is asked in a thread, the crew for all that has to be worked out. An edit is kept
only when what it leads to could be built, unless it cannot change any shape: then it waits for nothing.
"""

from __future__ import annotations

import asyncio
import copy
from collections.abc import Callable, Coroutine
from pathlib import Path
from typing import Any, TypeVar

from starlette.concurrency import run_in_threadpool

from gladstack.api import outcomes, tasks
from gladstack.api.looks import Looks
from gladstack.api.problems import problem_of
from gladstack.api.shown import Held, box_view, design_view, history_view
from gladstack.api.tasks import DesignWork
from gladstack.api.views import DesignView, HistoryView, LikeView
from gladstack.core.base.errors import GladStackError
from gladstack.core.base.plane import Box
from gladstack.recipe.edit.arts import AddArt
from gladstack.recipe.edit.base import art_name
from gladstack.recipe.edit.edits import Edit, apply_edit, needs_geometry
from gladstack.recipe.edit.films import SetFinish
from gladstack.recipe.edit.regions import AddMend
from gladstack.recipe.model.arts import Art, LetteringArt, LineArt, PictureArt, ShapeArt, VectorArt
from gladstack.recipe.model.faults import said_of_what_was_asked
from gladstack.recipe.model.recipe import Finish, Ground, Recipe
from gladstack.recipe.model.values import Method, changed
from gladstack.store.designs import Brought, Design, DesignBook
from gladstack.store.fonts import FontShelf
from gladstack.store.listing import Listing
from gladstack.work import costs
from gladstack.work.crew import LIGHT_S, Crew

T = TypeVar("T")
MOST_ALIKE = 8
_LOOK_PATIENCE_S = 5.0
"""Nobody waits for small pictures as they do for what they change."""


class SupersededError(GladStackError):
    """A newer try has taken this one's place."""

    code = "superseded"


class Workshop:
    """The store of a folder of designs, and the crew that works on them."""

    def __init__(self, data: Path, store: DesignBook, listing: Listing, fonts: FontShelf, crew: Crew) -> None:
        self.data = data
        self.store = store
        self.listing = listing
        self.fonts = fonts
        self.crew = crew
        self.held: Held = frozenset()
        self._tries: dict[str, asyncio.Task[bytes]] = {}
        self.looks = Looks(self._small_look)

    def holding(self, held: Held) -> Workshop:
        """The same workshop, for an asker who holds what has these keys."""
        same = copy.copy(self)
        same.held = held
        return same

    def history(self, design: str) -> list[HistoryView]:
        """Every step of a design, the oldest first."""
        return history_view(self.store.history(design))

    async def start(self, data: bytes, filename: str, name: str, width_mm: float, method: Method, ground: Ground) -> bytes:
        """A new design from a picture or a vector file. If it cannot be built, nothing is kept of it."""
        brought = await self._read(data, filename)
        art = await self._fitted(brought, width_mm)
        with said_of_what_was_asked():
            recipe = Recipe(name=name, arts=(changed(art, id=f"{art.kind}-1"),), method=method, ground=ground)
        label = "Brought in the vector file" if isinstance(art, VectorArt) else "Brought in the picture"
        return await self._begin(recipe, label, brought)

    async def start_plain(self, name: str, art: LetteringArt | ShapeArt, method: Method, ground: Ground) -> bytes:
        """A new design from lettering or a plain shape."""
        with said_of_what_was_asked():
            recipe = Recipe(name=name, arts=(changed(art, id=f"{art.kind}-1"),), method=method, ground=ground)
        return await self._begin(recipe, f"Began with {art_name(art)}")

    async def _begin(self, recipe: Recipe, label: str, *brought: Brought) -> bytes:
        built = await self._view("", recipe, brought)
        design = await run_in_threadpool(self.store.create, recipe, label=label, brought=brought)
        return await self._answer(design, built)

    async def add_picture(self, design: str, base: int, data: bytes, filename: str, width_mm: float) -> bytes:
        """Another picture or vector file for a design. If it cannot be built, nothing is kept of it."""
        brought = await self._read(data, filename)
        return await self.edit(design, base, AddArt(art=await self._fitted(brought, width_mm)), brought)

    async def _fitted(self, brought: Brought, width_mm: float) -> Art:
        """What was brought in as art: a picture so wide that its films are as wide as wanted; a vector file as it is.

        A picture that is drawn in lines is line art.
        """
        with said_of_what_was_asked():
            art: PictureArt | VectorArt | LineArt = _art_of(brought, width_mm)
        if isinstance(art, VectorArt):
            return art
        pixels = brought.width_px * brought.height_px
        if await self.crew.run(costs.looking_s(pixels), "This file", tasks.is_drawn_in_lines, brought.data):
            art = LineArt(picture=brought.digest, filename=art.filename, width_mm=width_mm)
        job = DesignWork(self.data, Recipe(name="Picture", arts=(art,)), {brought.digest: brought})
        recipe = await self.light_first("This file", "", tasks.fit, job, width_mm)
        return recipe.arts[0]

    async def add_pattern(self, design: str, base: int, data: bytes, film: str) -> bytes:
        """A film patterned with a picture."""
        brought = await self.crew.run(costs.reading_s(len(data)), "This picture", tasks.read_picture, data)
        finish = Finish(kind="patterned", pattern="picture", picture=brought.digest, scale_mm=20.0)
        return await self.edit(design, base, SetFinish(film=film, finish=finish), brought)

    async def straight_picture(self, digest: str, corners: str) -> bytes:
        """A picture set straight by four corners "x,y,x,y,x,y,x,y", as a JPEG to be looked at."""
        shares = [float(share) for share in corners.split(",")]
        data = await run_in_threadpool(self.store.picture, digest)
        cost = costs.looking_s(await run_in_threadpool(self.store.pixels, digest))
        return await self.crew.run(cost, "This picture", tasks.straight_picture, data, tuple(shares))

    async def open(self, design: str) -> bytes:
        """A design as it stands. One that cannot be built is told of, and can still be undone."""
        return await self._answer(await run_in_threadpool(self.store.get, design))

    async def edit(self, design: str, base: int, edit: Edit, *brought: Brought) -> bytes:
        """Makes an edit, if what it leads to can be built, and a step of mending if it finds something to do."""
        self._end_try(design)
        built = None
        if needs_geometry(edit):
            current = await run_in_threadpool(self.store.expect, design, base)
            recipe = apply_edit(current.recipe, edit)
            mend = tasks.newest_mend(recipe, edit.art) if isinstance(edit, AddMend) else None
            built = await self._view(design, recipe, brought, mend)
        changed_design = await run_in_threadpool(self.store.edit, design, base, edit, brought)
        return await self._answer(changed_design, built, build=needs_geometry(edit))

    async def undo(self, design: str, base: int) -> bytes:
        """One step back."""
        return await self._moved(design, lambda: self.store.undo(design, base))

    async def redo(self, design: str, base: int) -> bytes:
        """One step forward."""
        return await self._moved(design, lambda: self.store.redo(design, base))

    async def go_to(self, design: str, base: int, revision: int) -> bytes:
        """To any state of the history."""
        return await self._moved(design, lambda: self.store.go_to(design, base, revision))

    async def _moved(self, design: str, move: Callable[[], Design]) -> bytes:
        self._end_try(design)
        return await self._answer(await run_in_threadpool(move))

    async def built(self, design: str, revision: int) -> bytes:
        """What is built from one revision."""
        found = await run_in_threadpool(self.store.revision, design, revision)
        return await self._view(design, found.recipe)

    async def attempt(self, design: str, base: int, edit: Edit) -> bytes:
        """What an edit made on revision `base` would lead to. A newer try of the same design ends this one."""

        async def tried() -> bytes:
            revision = await run_in_threadpool(self.store.revision, design, base)
            return await self._view(design, apply_edit(revision.recipe, edit))

        return await self._try(design, tried())

    async def _try(self, design: str, work: Coroutine[Any, Any, bytes]) -> bytes:
        self._end_try(design)
        task = asyncio.get_running_loop().create_task(work)
        self._tries[design] = task
        try:
            return await asyncio.shield(task)
        except asyncio.CancelledError:
            if task.cancelled() and self._tries.get(design) is not task:
                raise SupersededError("Something newer was tried.") from None
            task.cancel()
            raise
        finally:
            if self._tries.get(design) is task:
                del self._tries[design]

    def _end_try(self, design: str) -> None:
        if (older := self._tries.pop(design, None)) is not None:
            older.cancel()

    async def regions(self, design: str, art: str, revision: int) -> bytes:
        """The regions of an art of a design, as it was at a revision."""
        found = await run_in_threadpool(self.store.revision, design, revision)
        return await self.light_first("This art", design, tasks.regions, DesignWork(self.data, found.recipe), art)

    async def words_like(self, design: str, revision: int, art: str, film: str, text: str) -> list[LikeView]:
        """Words set in the fonts of the shelf where an art's part of a film lies, the nearest ink first."""
        found = await run_in_threadpool(self.store.revision, design, revision)
        fonts = {f.key: f.name for f in await run_in_threadpool(self.fonts.fonts)}
        job = DesignWork(self.data, found.recipe)
        near = await self.light_first("This art", design, tasks.like, job, art, film, text, list(fonts))
        near = near[:MOST_ALIKE]
        paths = await self.crew.run(LIGHT_S, "These words", tasks.drawn, job, [n.lettering for n in near])
        return [
            LikeView(lettering=n.lettering, name=fonts[n.lettering.font], share=n.share, path=path, box=box_view(box))
            for n, (path, box) in zip(near, paths, strict=True)
        ]

    async def outcomes(self, design: str, base: int, edits: list[Edit], box: Box) -> list[str]:
        """What each of some edits made on revision `base` would lead to within a box, as small SVGs."""
        found = await run_in_threadpool(self.store.revision, design, base)
        job = DesignWork(self.data, found.recipe)
        # Many builds at once: edits must not wait for them.
        return await self.crew.run(costs.building_s(len(edits)), "This design", outcomes.outcomes, job, edits, box)

    async def small_look(self, design: str, revision: int) -> bytes | None:
        """A revision as a small PNG on its ground, made once and kept; None while it is coming."""
        kept = await run_in_threadpool(self.listing.look, revision)
        return kept if kept is not None else await self.looks.look(design, revision)

    async def _small_look(self, design: str, revision: int) -> bytes:
        kept = await run_in_threadpool(self.listing.look, revision)
        if kept is not None:
            return kept
        found = await run_in_threadpool(self.store.revision, design, revision)
        job = DesignWork(self.data, found.recipe)
        png = await self.light_first("This design", design, tasks.small_look, job, patience_s=_LOOK_PATIENCE_S)
        await run_in_threadpool(self.listing.keep_look, revision, png)
        return png

    async def preview(self, design: str) -> bytes:
        """The decal as it stands, as a small PNG."""
        found = await run_in_threadpool(self.store.get, design)
        job = DesignWork(self.data, found.revision.recipe)
        return await self.light_first("This design", design, tasks.preview, job)

    async def _read(self, data: bytes, filename: str) -> Brought:
        return await self.crew.run(costs.reading_s(len(data)), "This file", tasks.read_file, data, filename)

    async def _view(
        self, design: str, recipe: Recipe, brought: tuple[Brought, ...] = (), new_mend: tuple[str, str] | None = None
    ) -> bytes:
        job = DesignWork(self.data, recipe, {b.digest: b for b in brought}, self.held)
        subject = "This file" if brought else "This design"
        return await self.light_first(subject, design, tasks.view, job, new_mend)

    async def light_first(
        self, subject: str, whose: str, work: Callable[..., T], job: DesignWork, *arguments: Any, patience_s: float = 0.0
    ) -> T:
        """Work on a recipe in the light lane, after its costly stages elsewhere."""

        async def ahead() -> None:
            cost = await run_in_threadpool(job.cost_s, self.store.pixels, self.store.size)
            await self.crew.run(cost, subject, tasks.prepare, job)

        return await self.crew.light_first(subject, whose, work, ahead, job, *arguments, patience_s=patience_s)

    async def _answer(self, design: Design, built: bytes | None = None, *, build: bool = True) -> bytes:
        """A design as it is sent; without `build`, what is built from it is left to be asked for."""
        trouble = None
        if built is None and build:
            try:
                built = await self._view(design.id, design.revision.recipe)
            except GladStackError as fault:
                trouble = problem_of(fault)
        head: DesignView = design_view(design, self.held, trouble)
        self.looks.soon(design.id, design.revision.id)
        text = head.model_dump_json(exclude={"built"}).encode()
        return text[:-1] + b',"built":' + (built or b"null") + b"}"


def _art_of(brought: Brought, width_mm: float) -> PictureArt | VectorArt:
    if brought.kind == "file":
        return VectorArt(file=brought.digest, filename=brought.filename[:300], page=brought.page)
    return PictureArt(picture=brought.digest, filename=brought.filename[:300], width_mm=width_mm)
