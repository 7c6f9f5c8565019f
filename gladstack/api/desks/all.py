"""All desks of an app, on one folder of data."""

from __future__ import annotations

from dataclasses import dataclass

from gladstack.api.desks.arts import ArtDesk
from gladstack.api.desks.building import Builder
from gladstack.api.desks.cutting import CutDesk
from gladstack.api.desks.designs import DesignDesk
from gladstack.api.desks.fonts import FontDesk
from gladstack.api.desks.jobs import JobDesk
from gladstack.api.desks.lists import ListDesk
from gladstack.api.desks.names import NamesDesk
from gladstack.api.desks.parcels import ParcelDesk


@dataclass(frozen=True)
class Desks:
    """A desk for each area; the builder is what they share."""

    builder: Builder
    designs: DesignDesk
    arts: ArtDesk
    fonts: FontDesk
    lists: ListDesk
    jobs: JobDesk
    cutting: CutDesk
    names: NamesDesk
    parcels: ParcelDesk
