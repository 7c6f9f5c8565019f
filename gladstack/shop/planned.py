"""What a plan is: sheets, each a piece of film with the parts placed on it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from shapely import Polygon

from gladstack.core.base.findings import Finding
from gladstack.core.geometry.curves import Matrix, line_chain, transform_chain
from gladstack.core.geometry.outlines import Part
from gladstack.core.plan.blade import cutting_seconds
from gladstack.core.plan.laying import Spot, moved
from gladstack.core.plan.path import BladePath, blade_path
from gladstack.shop.furnish import Furniture, box_chain
from gladstack.shop.job import Job, LaidPart, Layout
from gladstack.shop.materials import Material
from gladstack.shop.register import Register
from gladstack.shop.stock import Gain, Piece, Use
from gladstack.shop.supply import TO_BUY
from gladstack.shop.wanted import Bit, WantedFilm


@dataclass(frozen=True)
class PlacedPart:
    """A part where it lies: `matrix` takes the design's mm to the sheet's; `shape` and `outline` are on the sheet."""

    bit: Bit
    cluster: str
    matrix: Matrix
    shape: Polygon
    outline: Part
    spot: Spot | None = None


@dataclass(frozen=True)
class SheetPlan:
    """One piece of film with all that is cut from it; lengths run along the film, widths across it.

    Spots count from `origin_mm` in both ways: the margin, and the room for a weed box.
    """

    number: int
    file: str
    name: str
    material: Material
    layout: Layout
    piece: Piece
    length_mm: float
    width_mm: float
    margin_mm: float
    origin_mm: float
    spacing_mm: float
    length_used_mm: float
    parts: tuple[PlacedPart, ...]
    furniture: Furniture
    use: Use
    gains: tuple[Gain, ...]

    @property
    def mirrored(self) -> bool:
        """Whether it is cut mirrored."""
        return self.material.mirrored

    @property
    def bought(self) -> bool:
        """Whether the shelf has no film for it, so that it would have to be bought."""
        return self.piece.id == TO_BUY

    @property
    def kept_on_shelf(self) -> bool:
        """Whether it is cut from the shelf's stock; any film of a colour is not."""
        return not self.bought

    @property
    def cost(self) -> float:
        """What the film used costs."""
        return self.material.cost_m2 * self.width_mm * self.length_used_mm / 1e6

    @cached_property
    def path(self) -> BladePath:
        """The blade's path: parts and marks, then what helps weeding."""
        chains = [c for p in self.parts for c in (p.outline.shell, *p.outline.holes)]
        furniture = self.furniture
        helps = [*(box_chain(b) for b in furniture.boxes), *(line_chain(np.array(line)) for line in furniture.lines)]
        return blade_path([*chains, *furniture.marks, *furniture.slug, *furniture.test], helps)

    @property
    def film_used(self) -> float:
        """The share of the film used that ends up in parts."""
        area = sum(p.shape.area for p in self.parts)
        return float(area / max(1e-9, self.width_mm * self.length_used_mm))


@dataclass(frozen=True)
class Plan:
    """All sheets of a job in the order of assembly, the seams of what was divided, and what is told."""

    job: Job
    films: tuple[WantedFilm, ...]
    sheets: tuple[SheetPlan, ...]
    registers: Mapping[str, Register]
    naive_length_mm: float
    findings: tuple[Finding, ...]

    @property
    def laid(self) -> tuple[LaidPart, ...]:
        """Where nested things lie, as a job tells it."""
        pinned = {(p.design, p.film, p.part, p.copy_of, p.tile) for p in self.job.laid if p.pinned}
        counts: dict[str, int] = {}
        out = []
        for sheet in self.sheets:
            if sheet.layout != "nested":
                continue
            nth = counts[sheet.material.id] = counts.get(sheet.material.id, -1) + 1
            seen: set[str] = set()
            for part in sheet.parts:
                bit, spot = part.bit, part.spot
                if spot is None or (part.cluster and part.cluster in seen):
                    continue
                seen.add(part.cluster)
                out.append(
                    LaidPart(
                        design=bit.film.design, film=bit.film.film, part=bit.part, copy_of=bit.copy, tile=bit.tile,
                        key=bit.film.layer.key[:16], piece=sheet.piece.id, sheet=nth, turn_deg=spot.turn_deg,
                        x_mm=spot.x_mm, y_mm=spot.y_mm,
                        pinned=(bit.film.design, bit.film.film, bit.part, bit.copy, bit.tile) in pinned,
                    )
                )  # fmt: skip
        return tuple(out)


def placed(bit: Bit, cluster: str, matrix: Matrix, spot: Spot | None = None) -> PlacedPart:
    """A part put where a matrix takes it."""
    outline = Part(transform_chain(bit.outline.shell, matrix), tuple(transform_chain(c, matrix) for c in bit.outline.holes))
    shape = moved(bit.polygon, matrix)
    assert isinstance(shape, Polygon)
    return PlacedPart(bit, cluster, matrix, shape, outline, spot)


def weed_seconds(sheet: SheetPlan) -> float:
    """What boxes and lines to weed by add at the blade."""
    chains = [box_chain(b) for b in sheet.furniture.boxes]
    lines = [line_chain(np.array(line)) for line in sheet.furniture.lines]
    return cutting_seconds([*chains, *lines])
