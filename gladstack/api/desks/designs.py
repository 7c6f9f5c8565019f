"""Designs and their builds together: what a route needs, in one call each.

An edit is kept only when what it leads to could be built, unless it cannot change any shape: then it waits for nothing.
"""

from __future__ import annotations

from collections.abc import Callable

from starlette.concurrency import run_in_threadpool

from gladstack.api.desks.building import Builder
from gladstack.api.desks.tries import Tries
from gladstack.api.tasks import designs as design_tasks
from gladstack.api.tasks.designs import DesignWork
from gladstack.api.tasks.outcomes import outcomes
from gladstack.api.views.compared import FilmChangeView
from gladstack.api.views.designs import HistoryView, NewestView
from gladstack.api.views.shown import Held, history_view
from gladstack.core.base.plane import Box
from gladstack.recipe.edit.arts import AddArt
from gladstack.recipe.edit.edits import Edit, needs_geometry
from gladstack.recipe.edit.films import SetFinish
from gladstack.recipe.edit.regions import AddMend
from gladstack.recipe.model.arts import NEW_GAP_MM, Art, LetteringArt, LineArt, PictureArt, ShapeArt, VectorArt
from gladstack.recipe.model.faults import said_of_what_was_asked
from gladstack.recipe.model.recipe import Finish, Ground, Recipe, joint_for
from gladstack.recipe.model.uses import Use
from gladstack.recipe.model.values import changed
from gladstack.store.designs import Brought, Design
from gladstack.store.line import Whose
from gladstack.work import costs


class DesignDesk:
    """Designs begun, changed and tried; `held` are the keys of contents that the asker has already."""

    def __init__(self, builder: Builder) -> None:
        self._builder = builder
        self._store = builder.store
        self._tries = Tries()

    def newest(self, design: str) -> NewestView:
        """Where a design and its own sheets stand."""
        revision, sheets = self._store.newest(design)
        return NewestView(revision=revision, sheets=sheets)

    def history(self, design: str) -> list[HistoryView]:
        """Every step of a design, the oldest first."""
        return history_view(self._store.history(design))

    async def start(
        self, data: bytes, filename: str, name: str, width_mm: float, use: Use, ground: Ground, held: Held
    ) -> bytes:
        """A new design from a picture or a vector file. If it cannot be built, nothing is kept of it."""
        brought = await self._builder.read(data, filename)
        art = await self._fitted(brought, width_mm)
        with said_of_what_was_asked():
            recipe = Recipe(
                name=name, arts=(changed(art, id=f"{art.kind}-1"),), use=use, ground=ground, joint=joint_for(use)
            )
        label = "Brought in the vector file" if isinstance(art, VectorArt) else "Brought in the picture"
        return await self._begin(recipe, label, held, brought)

    async def start_plain(self, name: str, art: LetteringArt | ShapeArt, use: Use, ground: Ground, held: Held) -> bytes:
        """A new design from lettering or a plain shape."""
        with said_of_what_was_asked():
            recipe = Recipe(
                name=name, arts=(changed(art, id=f"{art.kind}-1"),), use=use, ground=ground, joint=joint_for(use)
            )
        return await self._begin(recipe, f"Began with {art.title}", held)

    async def _begin(self, recipe: Recipe, label: str, held: Held, *brought: Brought) -> bytes:
        built = await self._builder.view("", recipe, held, brought)
        design = await run_in_threadpool(self._store.create, recipe, label=label, brought=brought)
        return await self._builder.answer(design, held, built)

    async def add_picture(self, design: str, base: int, data: bytes, filename: str, width_mm: float, held: Held) -> bytes:
        """Another picture or vector file for a design. If it cannot be built, nothing is kept of it."""
        brought = await self._builder.read(data, filename)
        return await self.edit(design, base, AddArt(art=await self._fitted(brought, width_mm)), held, brought)

    async def _fitted(self, brought: Brought, width_mm: float) -> Art:
        """What was brought in as art: a picture so wide that its films are as wide as wanted; a vector file as it is.

        A picture that is drawn in lines is line art.
        """
        builder = self._builder
        with said_of_what_was_asked():
            art: PictureArt | VectorArt | LineArt = _art_of(brought, width_mm)
        if isinstance(art, VectorArt):
            return art
        pixels = brought.width_px * brought.height_px
        if await builder.crew.run(costs.looking_s(pixels), "This file", design_tasks.is_drawn_in_lines, brought.data):
            art = LineArt(picture=brought.digest, filename=art.filename, width_mm=width_mm)
        work = DesignWork(builder.data, Recipe(name="Picture", arts=(art,)), {brought.digest: brought})
        recipe = await builder.light_first("This file", "", design_tasks.fit, work, width_mm)
        return recipe.arts[0]

    async def add_pattern(self, design: str, base: int, data: bytes, film: str, held: Held) -> bytes:
        """A film patterned with a picture."""
        cost = costs.reading_s(len(data))
        brought = await self._builder.crew.run(cost, "This picture", design_tasks.read_picture, data)
        finish = Finish(kind="patterned", pattern="picture", picture=brought.digest, scale_mm=20.0)
        return await self.edit(design, base, SetFinish(film=film, finish=finish), held, brought)

    async def open(self, design: str, held: Held) -> bytes:
        """A design as it stands. One that cannot be built is told of, and can still be undone."""
        return await self._builder.answer(await run_in_threadpool(self._store.get, design), held)

    async def edit(self, design: str, base: int, edit: Edit, held: Held, *brought: Brought) -> bytes:
        """Makes an edit, if what it leads to can be built, and a step of mending if it finds something to do."""
        self._tries.end(design)
        built = None
        if needs_geometry(edit):
            current = await run_in_threadpool(self._store.expect, design, base)
            recipe = current.led_to(edit)
            mend = design_tasks.newest_mend(recipe, edit.art) if isinstance(edit, AddMend) else None
            built = await self._builder.view(design, recipe, held, brought, mend)
        changed_design = await run_in_threadpool(self._store.edit, design, base, edit, brought)
        return await self._builder.answer(changed_design, held, built, build=needs_geometry(edit))

    async def undo(self, design: str, base: int, sheets: int | None, held: Held) -> bytes:
        """One step back, of the design or its sheets."""
        return await self._moved(design, lambda: self._store.undo(design, base, sheets), held)

    async def redo(self, design: str, base: int, sheets: int | None, held: Held) -> bytes:
        """One step forward, of the design or its sheets."""
        return await self._moved(design, lambda: self._store.redo(design, base, sheets), held)

    async def go_to(self, design: str, base: int, revision: int, whose: Whose, sheets: int | None, held: Held) -> bytes:
        """To any state of the history."""
        return await self._moved(design, lambda: self._store.go_to(design, base, revision, whose, sheets), held)

    async def _moved(self, design: str, move: Callable[[], Design], held: Held) -> bytes:
        self._tries.end(design)
        return await self._builder.answer(await run_in_threadpool(move), held)

    async def built(self, design: str, revision: int, held: Held) -> bytes:
        """What is built from one revision."""
        found = await run_in_threadpool(self._store.revision, design, revision)
        return await self._builder.view(design, found.recipe, held)

    async def compared(self, design: str, before: int, now: int) -> list[FilmChangeView]:
        """What of the films is cut otherwise in one revision than in another."""
        found = [await run_in_threadpool(self._store.revision, design, one) for one in (now, before)]
        works = [DesignWork(self._builder.data, one.recipe) for one in found]
        return await self._builder.light_first("This design", design, design_tasks.compared, *works)

    async def attempt(self, design: str, base: int, edit: Edit, held: Held) -> bytes:
        """What an edit made on revision `base` would lead to. A newer try of the same design ends this one."""

        async def tried() -> bytes:
            revision = await run_in_threadpool(self._store.revision, design, base)
            return await self._builder.view(design, revision.led_to(edit), held)

        return await self._tries.run(design, tried())

    async def outcomes(self, design: str, base: int, edits: list[Edit], box: Box) -> list[str]:
        """What each of some edits made on revision `base` would lead to within a box, as small SVGs."""
        found = await run_in_threadpool(self._store.revision, design, base)
        work = DesignWork(self._builder.data, found.recipe)
        # Many builds at once: edits must not wait for them.
        cost = costs.building_s(len(edits))
        return await self._builder.crew.run(cost, "This design", outcomes, work, edits, box)


def _art_of(brought: Brought, width_mm: float) -> PictureArt | VectorArt:
    if brought.kind == "file":
        return VectorArt(
            file=brought.digest, filename=brought.filename[:300], page=brought.page, gap_mm=NEW_GAP_MM,
            films_by=brought.films_by, count=brought.count,
        )  # fmt: skip
    return PictureArt(picture=brought.digest, filename=brought.filename[:300], width_mm=width_mm)
