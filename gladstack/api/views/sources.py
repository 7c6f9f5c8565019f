"""What is shown of the source of an art: before it is replaced, and how far its nodes can be made fewer."""

from __future__ import annotations

from pydantic import BaseModel

from gladstack.recipe.edit.sources import ReplaceSource


class StrayView(BaseModel):
    """A claim that finds no like region in a new source: where it was made, in the old one's mm, and for which film."""

    x_mm: float
    y_mm: float
    film: str | None


class RecolouredView(BaseModel):
    """A film that comes in a colour an eye tells from the old one."""

    was: str
    now: str


class LaidLook(BaseModel):
    """A source as it lies on the page of what it replaces, and over it the old outlines with claims without a place: two
    SVGs of one extent, so many mm wide and high.
    """

    new: str
    over: str
    wide_mm: float
    high_mm: float


class ReplacingView(BaseModel):
    """An art from another source: the edit that makes it so, the share of old edges that have a like one (0 to 1), how many
    claims there are and those that stray, steps of mending that are switched off, films that are gone, that are new and
    that look different, and how it looks.
    """

    edit: ReplaceSource
    agrees: float
    claims: int
    strays: list[StrayView]
    steps: list[str]
    gone: list[str]
    fresh: list[str]
    recoloured: list[RecolouredView]
    look: LaidLook


class AtDeviationView(BaseModel):
    """Nodes and seconds at the blade where edges may move by so much."""

    mm: float
    nodes: int
    seconds: float


class NodesView(BaseModel):
    """The nodes of an art by how far its edges may move, the deviation beyond which little is saved (0: nothing is), and the
    least one that comes to no more nodes than were asked for.
    """

    curve: list[AtDeviationView]
    knee_mm: float
    wanted: AtDeviationView | None
