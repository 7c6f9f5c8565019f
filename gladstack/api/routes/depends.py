"""What routes depend on: the desk of their area, and what the asker holds already."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import PurePath
from typing import Annotated, Any

from fastapi import Depends, Header, Request, UploadFile
from pydantic import Field

from gladstack.api.desks.all import Desks
from gladstack.api.desks.arts import ArtDesk
from gladstack.api.desks.cutting import CutDesk
from gladstack.api.desks.designs import DesignDesk
from gladstack.api.desks.fonts import FontDesk
from gladstack.api.desks.jobs import JobDesk
from gladstack.api.desks.lists import ListDesk
from gladstack.api.desks.names import NamesDesk
from gladstack.api.desks.parcels import ParcelDesk
from gladstack.api.views.shown import Held
from gladstack.core.base.text import readable_line
from gladstack.work.crew import Crew

_MOST_HELD = 10_000
Revision = Annotated[int, Field(ge=0, le=2**53)]
"""The number of a revision."""


def _desk(pick: Callable[[Desks], Any]) -> Any:
    # Not in a thread of its own, as what is no coroutine would be.
    async def desk(request: Request) -> Any:
        return pick(request.app.state.desks)

    return Depends(desk)


Designs = Annotated[DesignDesk, _desk(lambda desks: desks.designs)]
Arts = Annotated[ArtDesk, _desk(lambda desks: desks.arts)]
Fonts = Annotated[FontDesk, _desk(lambda desks: desks.fonts)]
Lists = Annotated[ListDesk, _desk(lambda desks: desks.lists)]
Jobs = Annotated[JobDesk, _desk(lambda desks: desks.jobs)]
Cutting = Annotated[CutDesk, _desk(lambda desks: desks.cutting)]
Names = Annotated[NamesDesk, _desk(lambda desks: desks.names)]
Parcels = Annotated[ParcelDesk, _desk(lambda desks: desks.parcels)]
Workers = Annotated[Crew, _desk(lambda desks: desks.builder.crew)]


async def _held(held: Annotated[str, Header(max_length=_MOST_HELD)] = "") -> Held:
    """Keys of contents that the asker has already, from the header `Held`."""
    return frozenset(held.split(",")) if held else frozenset()


HeldKeys = Annotated[Held, Depends(_held)]


def filename_of(upload: UploadFile) -> str:
    """The name of a file that was sent, readable and without folders."""
    return readable_line(PurePath(upload.filename or "").name)[:300]
