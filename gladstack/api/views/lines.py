"""What the first page is sent: a line for each design."""

from __future__ import annotations

from gladstack.api.views.findings import View
from gladstack.core.base.units import Unit
from gladstack.store.listing import DesignLine


class VersionLineView(View):
    """A version of a design, under the name that stands for it wherever a design is named."""

    id: str
    name: str


class DesignLineView(View):
    """A design in the list; `ground` is the colour of what is decorated, `binned` when it went into the bin.

    How many films it has and how large it is are known once its small picture was made.
    """

    id: str
    name: str
    changed: str
    revision: int
    tags: list[str]
    binned: str | None
    ground: str
    versions: list[VersionLineView]
    films: int | None
    width_mm: float | None
    height_mm: float | None
    unit: Unit


def line_view(line: DesignLine) -> DesignLineView:
    """A line of the list."""
    return DesignLineView.model_validate(line)
