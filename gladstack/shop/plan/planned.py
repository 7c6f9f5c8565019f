"""What a plan is: sheets, each a piece of film with the parts placed on it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from shapely import Polygon

from gladstack.core.base.plane import Box
from gladstack.core.geometry.curves import Chain, Matrix, line_chain, node_counts, transform_chain
from gladstack.core.geometry.outlines import Part
from gladstack.core.plan.blade import Blade, cutting_seconds, moving_seconds
from gladstack.core.plan.laying import Spot, moved
from gladstack.core.plan.path import BladePath, blade_path
from gladstack.core.write.hpgl import TOLERANCE_MM
from gladstack.shop.jobs.job import Job, LaidPart, Layout
from gladstack.shop.plan.furnish import Furniture, box_chain
from gladstack.shop.plan.register import Register
from gladstack.shop.plan.wanted import PartCopy, PenLines, WantedFilm
from gladstack.shop.shelf.cutters import Cutter
from gladstack.shop.shelf.materials import Material
from gladstack.shop.shelf.stock import Gain, Piece, Use
from gladstack.shop.shelf.supply import TO_BUY


@dataclass(frozen=True)
class PlacedPart:
    """A part where it lies: `matrix` takes the design's mm to the sheet's; `shape` and `outline` are on the sheet."""

    bit: PartCopy
    cluster: str
    matrix: Matrix
    shape: Polygon
    outline: Part
    spot: Spot | None = None


@dataclass(frozen=True)
class PathTimes:
    """Seconds with the blade down, travelling lifted (and as it would be without an order), and lifting."""

    cut_s: float
    travel_s: float
    travel_before_s: float
    lift_s: float

    @property
    def whole_s(self) -> float:
        """All of it."""
        return self.cut_s + self.travel_s + self.lift_s

    @property
    def before_s(self) -> float:
        """All of it, without an order."""
        return self.cut_s + self.travel_before_s + self.lift_s


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
    cutter: Cutter
    pens: tuple[PenLines, ...] = ()

    @property
    def drawn(self) -> tuple[Chain, ...]:
        """All that pens draw."""
        return tuple(c for pen in self.pens for c in pen.lines)

    @property
    def stem(self) -> str:
        """What its files are called, without their ending."""
        return self.file.removeprefix("sheets/").removesuffix(".svg")

    @property
    def mirrored(self) -> bool:
        """Whether it is cut mirrored."""
        return self.parts[0].bit.film.mirrored

    @property
    def face_down(self) -> bool:
        """Whether the film lies face down in the cutter, on its carrier."""
        return self.material.face == "back"

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
        return blade_path(self._contours, self._helps)

    @property
    def _contours(self) -> list[Chain]:
        chains = [c for p in self.parts for c in (p.outline.shell, *p.outline.holes)]
        return [*chains, *self.furniture.marks, *self.furniture.slug, *self.furniture.test]

    @property
    def _helps(self) -> list[Chain]:
        """What helps weeding."""
        furniture = self.furniture
        return [*(box_chain(b) for b in furniture.boxes), *(line_chain(np.array(line)) for line in furniture.lines)]

    @cached_property
    def points(self) -> int:
        """How many nodes the sheet has as cutters take it, in straight ways."""
        return int(node_counts([*self._contours, *self._helps], TOLERANCE_MM).sum())

    @cached_property
    def times(self) -> PathTimes:
        """What the path takes, by the cutter's and the material's profile."""
        path, blade = self.path, self.cutter.blade(self.material)
        still = Blade(blade.speed, blade.acceleration, 0.0)
        return PathTimes(
            cutting_seconds(path.contours, still) * self.material.blade.passes,
            moving_seconds(path.moves_mm, blade),
            moving_seconds(path.moves_before_mm, blade),
            blade.lift * path.lifts * self.material.blade.passes,
        )

    @property
    def film_used(self) -> float:
        """The share of the film used that ends up in parts."""
        area = sum(p.shape.area for p in self.parts)
        return float(area / max(1e-9, self.width_mm * self.length_used_mm))


@dataclass(frozen=True)
class TooLarge:
    """A film that does not fit the sheet it was given, in mm: how much it is too wide and too high, the sheet, the length
    used and the room there is on the worse side, and whether it would fit with the sheet turned.
    """

    film: str
    name: str
    box: Box
    wide_mm: float
    high_mm: float
    sheet_mm: tuple[float, float]
    used_mm: float
    room_mm: float
    fits_turned: bool


@dataclass(frozen=True)
class Plan:
    """All sheets of a job in the order of assembly, how each film (by design and film) lies, and films that are too large
    for sheets they were given.
    """

    job: Job
    films: tuple[WantedFilm, ...]
    sheets: tuple[SheetPlan, ...]
    registers: Mapping[tuple[str, str], Register]
    naive_length_mm: float
    too_large: tuple[TooLarge, ...] = ()

    def films_of(self, design: str) -> Sequence[WantedFilm]:
        """The films of one of the job's designs, from the ground up."""
        return self._films_by_design.get(design, ())

    @cached_property
    def _films_by_design(self) -> Mapping[str, Sequence[WantedFilm]]:
        out: dict[str, list[WantedFilm]] = {}
        for film in self.films:
            out.setdefault(film.design, []).append(film)
        return out

    @property
    def laid(self) -> tuple[LaidPart, ...]:
        """Where nested things lie, as a job tells it."""
        pinned = {p.name for p in self.job.laid if p.pinned}
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
                        key=bit.film.mark, piece=sheet.piece.id, sheet=nth, turn_deg=spot.turn_deg,
                        x_mm=spot.x_mm, y_mm=spot.y_mm,
                        pinned=bit.name in pinned,
                    )
                )  # fmt: skip
        return tuple(out)


def placed(bit: PartCopy, cluster: str, matrix: Matrix, spot: Spot | None = None) -> PlacedPart:
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
