"""What a reader of SVG goes through a file with: its style sheets, its budget, what it has read and what it has to say."""

from __future__ import annotations

from dataclasses import dataclass, field
from xml.etree.ElementTree import Element

from shapely import MultiPolygon

from gladstack.core.drawing.drawing import (
    AS_TOLD,
    Budget,
    OpenEnds,
    Painted,
)
from gladstack.core.drawing.svg_style import Sheets
from gladstack.core.drawing.svg_values import Faults, length_of
from gladstack.core.geometry.curves import Curve

SHAPES = ("path", "rect", "circle", "ellipse", "line", "polyline", "polygon")


@dataclass(frozen=True)
class DrawnOnce:
    """What a shape fills, with its curves, and what its stroke covers, at one place (mm); how many points and open paths."""

    at: tuple[float, ...]
    fill: MultiPolygon
    curves: tuple[Curve, ...]
    stroke: MultiPolygon
    points: int
    open_paths: int


@dataclass
class Reader:
    """What is read so far, and what has been asked for. A `bare` one draws outlines for clips and boxes alone."""

    ids: dict[str, Element]
    sheets: Sheets
    faults: Faults
    view: tuple[float, float] = (100.0, 100.0)
    items: list[Painted] = field(default_factory=list)
    told: dict[str, str] = field(default_factory=dict)
    shares: dict[str, float] = field(default_factory=dict)
    """How many mm2 of see-through paint were left out ("veil") or taken for solid ("see-through")."""
    pictures: list[bytes | None] = field(default_factory=list)
    budget: Budget = field(default_factory=Budget)
    boxes: dict[Element, tuple[float, float, float, float]] = field(default_factory=dict)
    sizes: dict[Element, Element] = field(default_factory=dict)
    drawn: dict[tuple[object, ...], DrawnOnce] = field(default_factory=dict)
    steps: int = 0
    copies: int = 0
    ends: OpenEnds = AS_TOLD
    open_paths: int = 0
    bare: bool = False
    groups: tuple[str, ...] = ()
    """The names of the groups that are walked through, the outermost first."""
    labels: set[str] = field(default_factory=set)
    """Those names that a drawing program gave as layers' labels."""

    def within(self, *, bare: bool) -> Reader:
        """A reader for a part that is not painted itself; what it asks for counts here too."""
        return Reader(
            self.ids, self.sheets, self.faults, self.view, budget=self.budget, boxes=self.boxes, sizes=self.sizes,
            steps=self.steps, copies=self.copies, bare=bare,
        )  # fmt: skip

    def take_over(self, inner: Reader) -> None:
        """Counts what an inner reader walked through."""
        self.steps, self.copies = inner.steps, inner.copies

    def number(self, element: Element, name: str, default: float = 0.0, percent_of: float = 100.0) -> float:
        """A length attribute; what cannot be read is noted, and counts as the default."""
        told = element.get(name)
        if told is None or told.strip() in ("", "auto"):
            return default
        found = length_of(told, percent_of)
        if found is None:
            self.faults.note(element, name, told)
        return default if found is None else found
