"""Art looked at by itself: its regions, words that would be like it, and pictures as they came or set straight."""

from __future__ import annotations

from starlette.concurrency import run_in_threadpool

from gladstack.api.desks.building import Builder
from gladstack.api.tasks import designs as design_tasks
from gladstack.api.tasks.designs import DesignWork
from gladstack.api.views.designs import LikeView
from gladstack.api.views.shown import box_view
from gladstack.store.fonts import FontShelf
from gladstack.work import costs
from gladstack.work.crew import LIGHT_S

MOST_ALIKE = 8


class ArtDesk:
    """Art of designs, and the pictures it was made from."""

    def __init__(self, builder: Builder, fonts: FontShelf) -> None:
        self._builder = builder
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

    def picture(self, digest: str) -> tuple[bytes, str]:
        """A picture as it was brought in, and its format. Raises PictureError."""
        return self._store.picture(digest), self._store.picture_format(digest)

    async def straight_picture(self, digest: str, corners: str) -> bytes:
        """A picture set straight by four corners "x,y,x,y,x,y,x,y", as a JPEG to be looked at."""
        shares = [float(share) for share in corners.split(",")]
        data = await run_in_threadpool(self._store.picture, digest)
        cost = costs.looking_s(await run_in_threadpool(self._store.pixels, digest))
        crew = self._builder.crew
        return await crew.run(cost, "This picture", design_tasks.straight_picture, data, tuple(shares))
