"""Mends: steps that put right what a source got wrong. Each can be switched off, changed and put elsewhere in the order.

Their points are told in shares of their art's width, so that they stay where they are; their lengths grow with the art.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Literal

from pydantic import Field, model_validator

from gladstack.core.geometry.nodes import NodeForm
from gladstack.recipe.model.pins import ArtPoint
from gladstack.recipe.model.values import MOTIF, DetailMm, FilmKey, Frozen, Id, changed

Path = Annotated[tuple[ArtPoint, ...], Field(min_length=1, max_length=4000)]
Around = Annotated[tuple[ArtPoint, ...], Field(min_length=3, max_length=4000)]
Drawn = Annotated[tuple[ArtPoint, ...], Field(min_length=2, max_length=400)]
BrushMm = Annotated[DetailMm, Field(ge=0.05), MOTIF]
NEW_MEND = "new"


class Step(Frozen):
    """A step of mending, and whether it is switched on."""

    id: Id = NEW_MEND
    on: bool = True


class Bridge(Step):
    """Join two ends of a line, so that what it goes round is enclosed. Bridges come before all else: regions follow them.

    Without `width_mm` it is as wide as the lines' ends; without `follow` it is straight; without `film` it belongs to the
    film next to where it starts.
    """

    kind: Literal["bridge"] = "bridge"
    start: ArtPoint
    end: ArtPoint
    width_mm: BrushMm | None = None
    follow: bool = True
    film: FilmKey | None = None


class CutAway(Step):
    """Cut everything of a film away inside a box or lasso; without `film`, everything of all films."""

    kind: Literal["cut-away"] = "cut-away"
    film: FilmKey | None = None
    around: Around


class Brush(Step):
    """Add to a film along a path, or take from it; what is added is taken from the art's other films."""

    kind: Literal["brush"] = "brush"
    film: FilmKey
    path: Path
    width_mm: BrushMm = 1.0
    mode: Literal["add", "take"] = "add"


class SmoothEdge(Step):
    """Smooth a stretch of a film's edge; what is rougher than `reach_mm` goes, and neighbours follow."""

    kind: Literal["smooth"] = "smooth"
    film: FilmKey
    start: ArtPoint
    end: ArtPoint
    reach_mm: BrushMm = 1.0


class Straighten(Step):
    """Make a film's edge straight between two points of it, where it leads `through` a third (None: the shorter way round);
    neighbours follow. A node is taken out so, between those beside it.
    """

    kind: Literal["straighten"] = "straighten"
    film: FilmKey
    start: ArtPoint
    end: ArtPoint
    through: ArtPoint | None = None


class PushEdge(Step):
    """Push a stretch of a film's edge outwards, under what lies on it there."""

    kind: Literal["push"] = "push"
    film: FilmKey
    start: ArtPoint
    end: ArtPoint
    mm: BrushMm = 0.6


class MoveEdge(Step):
    """Take a film's edge at one point to another; what lies along it within `mm` follows, ever less, and neighbours too."""

    kind: Literal["move-edge"] = "move-edge"
    film: FilmKey
    start: ArtPoint
    end: ArtPoint
    mm: BrushMm = 6.0


class DrawEdge(Step):
    """Draw a stretch of a film's edge anew along a path that begins and ends on it; neighbours follow."""

    kind: Literal["draw-edge"] = "draw-edge"
    film: FilmKey
    path: Path


class PutNode(Step):
    """Lead a film's edge, from the node `before` through a point `at` of it to the node `after`, through `to` instead: bent
    along, in one curve, or straight on both sides; neighbours follow.
    """

    kind: Literal["put-node"] = "put-node"
    film: FilmKey
    before: ArtPoint
    at: ArtPoint
    after: ArtPoint
    to: ArtPoint
    form: NodeForm = "as-drawn"


class DrawArea(Step):
    """Draw with the pen through points, each left towards its handle (which lies on it at corners): a closed area, or a line
    of a width. It is added to a film and taken from the art's others; without `film`, it is cut out of all of them.
    """

    kind: Literal["draw-area"] = "draw-area"
    film: FilmKey | None = None
    path: Drawn
    handles: Drawn
    closed: bool = True
    width_mm: BrushMm = 1.0

    @model_validator(mode="after")
    def _each_has_a_handle(self) -> DrawArea:
        if len(self.path) != len(self.handles):
            raise ValueError("each point needs a handle")
        return self


class TakeOver(Step):
    """Give what a film has inside a lasso, or wherever it is thinner than `thinner_mm`, to a neighbour.

    Without `film` it is what no film has: a gap between films. Without `into`, the neighbours share it and meet in its
    middle.
    """

    kind: Literal["take-over"] = "take-over"
    film: FilmKey | None = None
    into: FilmKey | None = None
    around: Annotated[tuple[ArtPoint, ...], Field(max_length=4000)] = ()
    thinner_mm: BrushMm | None = None


class LetGo(Step):
    """Take a film out of the art, for something better in its place; with `close`, its neighbours close over it."""

    kind: Literal["let-go"] = "let-go"
    film: FilmKey
    close: bool = True


Mend = Annotated[
    Bridge
    | CutAway
    | Brush
    | SmoothEdge
    | Straighten
    | MoveEdge
    | DrawEdge
    | PutNode
    | DrawArea
    | PushEdge
    | TakeOver
    | LetGo,
    Field(discriminator="kind"),
]


def with_points(mend: Mend, moved: Callable[[ArtPoint], ArtPoint]) -> Mend:
    """A step of mending with every point of the art that it names put elsewhere."""
    changes: dict[str, object] = {}
    for name in type(mend).model_fields:
        value = getattr(mend, name)
        if isinstance(value, ArtPoint):
            changes[name] = moved(value)
        elif isinstance(value, tuple):
            changes[name] = tuple(map(moved, value))
    return changed(mend, **changes)
