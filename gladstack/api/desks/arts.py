"""Art looked at by itself: its regions, words that would be like it, and pictures as they came or set straight."""

from __future__ import annotations

from starlette.concurrency import run_in_threadpool

from gladstack.api.desks.building import Builder
from gladstack.api.desks.designs import DesignDesk
from gladstack.api.tasks import designs as design_tasks
from gladstack.api.tasks.designs import DesignWork
from gladstack.api.tasks.sources import nodes, replacing
from gladstack.api.views.designs import LikeView
from gladstack.api.views.shown import Held, box_view
from gladstack.api.views.sources import NodesView, ReplacingView
from gladstack.core.base.errors import RecipeError
from gladstack.recipe.edit.sources import Laid, ReplaceSource
from gladstack.recipe.model.arts import RegionArt, VectorArt
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.values import changed
from gladstack.store.designs import Brought
from gladstack.store.fonts import FontShelf
from gladstack.work import costs
from gladstack.work.crew import LIGHT_S

MOST_ALIKE = 8


class ArtDesk:
    """Art of designs, and the pictures it was made from."""

    def __init__(self, builder: Builder, fonts: FontShelf, designs: DesignDesk) -> None:
        self._builder = builder
        self._designs = designs
        self._store = builder.store
        self._fonts = fonts

    async def regions(self, design: str, art: str, revision: int) -> bytes:
        """The regions of an art of a design, as it was at a revision."""
        found = await run_in_threadpool(self._store.revision, design, revision)
        work = DesignWork(self._builder.data, found.recipe)
        return await self._builder.light_first("This art", design, design_tasks.regions, work, art)

    async def words_like(self, design: str, revision: int, art: str, film: str, text: str) -> list[LikeView]:
        """Words set in the fonts of the shelf where an art's part of a film lies, the nearest ink first."""
        found = await run_in_threadpool(self._store.revision, design, revision)
        fonts = {f.key: f.name for f in await run_in_threadpool(self._fonts.fonts)}
        work = DesignWork(self._builder.data, found.recipe)
        near = await self._builder.light_first("This art", design, design_tasks.like, work, art, film, text, list(fonts))
        near = near[:MOST_ALIKE]
        crew = self._builder.crew
        paths = await crew.run(LIGHT_S, "These words", design_tasks.drawn, work, [n.lettering for n in near])
        return [
            LikeView(lettering=n.lettering, name=fonts[n.lettering.font], share=n.share, path=path, box=box_view(box))
            for n, (path, box) in zip(near, paths, strict=True)
        ]

    async def replacing(
        self, design: str, art: str, base: int, data: bytes, filename: str, laid: Laid | None
    ) -> ReplacingView:
        """What an art would be from another source; nothing is kept of it."""
        recipe = (await run_in_threadpool(self._store.revision, design, base)).recipe
        brought = await self._source(recipe, art, data, filename)
        new = changed(regions_art(recipe, art).from_source(brought.digest, brought.filename[:300]), id="new-source", pins=())
        # Both are worked out beforehand, where long work belongs.
        both = changed(recipe, arts=(regions_art(recipe, art), new))
        work = DesignWork(self._builder.data, both, {brought.digest: brought})
        return await self._builder.light_first(
            "This file", design, replacing, work, art, brought.digest, brought.filename[:300], laid
        )

    async def nodes(self, design: str, art: str, revision: int, at_most: int | None) -> NodesView:
        """How the nodes of an art of a design become fewer, as it was at a revision."""
        found = await run_in_threadpool(self._store.revision, design, revision)
        work = DesignWork(self._builder.data, found.recipe)
        return await self._builder.light_first("This art", design, nodes, work, art, at_most)

    async def replace(self, design: str, base: int, edit: ReplaceSource, data: bytes, filename: str, held: Held) -> bytes:
        """Makes an art of another source, laid as it was shown. Raises RecipeError if that was another file."""
        recipe = (await run_in_threadpool(self._store.revision, design, base)).recipe
        brought = await self._source(recipe, edit.art, data, filename)
        if brought.digest != edit.source:
            raise RecipeError("This is not the file that was looked at.", "Choose it once more.")
        return await self._designs.edit(design, base, edit, held, brought)

    async def _source(self, recipe: Recipe, art: str, data: bytes, filename: str) -> Brought:
        """A file read as the source of an art. Raises RecipeError if that is made of another kind of file."""
        old = regions_art(recipe, art)
        brought = await self._builder.read(data, filename)
        wanted = "file" if isinstance(old, VectorArt) else "picture"
        if brought.kind != wanted:
            said = {"file": "a vector file", "picture": "a picture"}
            raise RecipeError(
                f"“{filename or 'This file'}” is {said[brought.kind]}, and {old.title} was made of {said[wanted]}.",
                "Bring it in beside the old one, then delete that.",
            )
        return brought

    def picture(self, digest: str) -> tuple[bytes, str]:
        """A picture as it was brought in, and its format. Raises PictureError."""
        return self._store.picture(digest), self._store.picture_format(digest)

    async def part_of_picture(self, digest: str, corners: str | None, frame: str | None) -> tuple[bytes, str]:
        """A picture to be looked at, set straight by four corners "x,y,x,y,x,y,x,y", or the part of it within a frame
        "left,top,right,bottom"; and its media type.
        """
        data = await run_in_threadpool(self._store.picture, digest)
        cost = costs.looking_s(await run_in_threadpool(self._store.pixels, digest))
        shares = [tuple(map(float, told.split(","))) if told else None for told in (corners, frame)]
        crew = self._builder.crew
        return await crew.run(cost, "This picture", design_tasks.part_of_picture, data, *shares)


def regions_art(recipe: Recipe, art: str) -> RegionArt:
    """An art that is made of a file. Raises RecipeError."""
    found = recipe.art(art)
    if not isinstance(found, RegionArt):
        raise RecipeError("This art is made of no file.", "Choose a picture, line art or a vector file.")
    return found
