"""The shelf of fonts: what is on it, what a font lets choose, and bringing one in."""

from __future__ import annotations

import itertools
from pathlib import Path
from typing import Annotated

from pydantic import BaseModel, Field, StringConstraints
from starlette.concurrency import run_in_threadpool

from gladstack.api.tasks import designs as design_tasks
from gladstack.api.views.findings import View
from gladstack.core.base.errors import GladStackError
from gladstack.recipe.model.arts import Axis
from gladstack.recipe.model.values import Name
from gladstack.store.fonts import FontShelf, ShelfFont
from gladstack.work.crew import Crew

_FONT_S = 0.5
"""What drawing with a font may cost, in seconds."""


class FontView(View):
    """A font of the shelf; `sample` is its name drawn in itself, as path data about 10 units high ("": it cannot be)."""

    key: str
    name: str
    manner: str
    own: bool
    tags: list[str]
    sample: str


Tag = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=40)]


class FontWords(BaseModel):
    """What a maker calls a font."""

    name: Name
    tags: Annotated[list[Tag], Field(max_length=20)] = []


class AxisView(View):
    """Something a font can be varied in: its ends, and where it stands unless told."""

    tag: str
    name: str
    least: float
    usual: float
    most: float


class StyleView(BaseModel):
    """A place of a font's axes that has a name."""

    name: str
    axes: list[Axis]


class FormView(BaseModel):
    """Another form that a font has for letters: its tag and name, and the letters drawn in each of its forms."""

    tag: str
    name: str
    shapes: list[str]


class FontChoicesView(BaseModel):
    """What a font lets choose, and its forms for certain letters, which `plain` shows as they are."""

    axes: list[AxisView]
    styles: list[StyleView]
    plain: str
    forms: list[FormView]


class FontDesk:
    """The shelf of fonts, and the crew that draws them."""

    def __init__(self, data: Path, fonts: FontShelf, crew: Crew) -> None:
        self._data = data
        self._fonts = fonts
        self._crew = crew
        self._samples: dict[str, str] = {}

    async def fonts(self) -> list[FontView]:
        """All fonts of the shelf, the maker's own first."""
        return await self._drawn(await run_in_threadpool(self._fonts.fonts))

    async def choices(self, font: str, text: str) -> FontChoicesView:
        """What a font lets choose, and its forms for the letters of a text. Raises FontError."""
        choices, drawn = await self._crew.run(_FONT_S, "This font", design_tasks.font_choices_of, self._data, font, text)
        shapes = iter(drawn)
        styles = [StyleView(name=s.name, axes=[Axis(tag=tag, value=at) for tag, at in s.at]) for s in choices.styles]
        return FontChoicesView(
            axes=[AxisView.model_validate(axis) for axis in choices.axes],
            styles=styles,
            plain=next(shapes),
            forms=[FormView(tag=f.tag, name=f.name, shapes=list(itertools.islice(shapes, f.count))) for f in choices.forms],
        )

    async def add(self, data: bytes) -> FontView:
        """Puts a font on the shelf, once it has been judged. Raises FontError."""
        family, style = await self._crew.run(_FONT_S, "This font", design_tasks.font_names, data)
        added = await run_in_threadpool(self._fonts.add, data, family, style)
        return (await self._drawn([added]))[0]

    async def change(self, font: str, words: FontWords) -> FontView:
        """Gives a font of the maker's own a name and tags. Raises FontError."""
        changed = await run_in_threadpool(self._fonts.change, font, words.name, words.tags)
        self._samples.pop(font, None)
        return (await self._drawn([changed]))[0]

    async def used_in(self, font: str) -> list[str]:
        """The designs that are set in a font."""
        return await run_in_threadpool(self._fonts.used_in, font)

    async def remove(self, font: str) -> None:
        """Takes a font of the maker's own off the shelf. Raises FontError."""
        await run_in_threadpool(self._fonts.remove, font)
        self._samples.pop(font, None)

    async def _drawn(self, fonts: list[ShelfFont]) -> list[FontView]:
        fresh = [(f.key, f.name) for f in fonts if f.key not in self._samples]
        if fresh:
            self._samples |= await self._sampled(fresh)
        return [FontView(**vars(f), sample=self._samples[f.key]) for f in fonts]

    async def _sampled(self, fresh: list[tuple[str, str]]) -> dict[str, str]:
        """Fonts (key, name) each drawn in itself; one that cannot be, or not in time, keeps no other from being shown."""
        try:
            drawn = await self._crew.run(_FONT_S, "This font", design_tasks.samples, self._data, fresh)
        except GladStackError:
            if len(fresh) == 1:
                return {fresh[0][0]: ""}
            return {key: sample for one in fresh for key, sample in (await self._sampled([one])).items()}
        return {key: sample for (key, _), sample in zip(fresh, drawn, strict=True)}
