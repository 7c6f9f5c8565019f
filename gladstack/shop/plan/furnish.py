"""What a sheet bears beside its parts: marks, weed boxes and lines, its number, a test cut; and what of it stays."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base import tolerances
from gladstack.core.base.plane import Box, Point
from gladstack.core.geometry.curves import Chain, Matrix, flatten_chain, line_chain, transform_chain
from gladstack.core.lettering.faces import open_face
from gladstack.core.lettering.lettering import Lettering
from gladstack.core.lettering.lettering import Line as TextLine
from gladstack.core.lettering.setting import lay_out, letter_curves
from gladstack.core.plan.laying import UNTURNED, Item, Room, Spot, moved
from gladstack.core.plan.marks import mark, mark_places, trial_cut
from gladstack.core.plan.pack import free_spot
from gladstack.core.plan.rest import free_rectangles
from gladstack.core.plan.weeding import Line, weed_box, weed_lines
from gladstack.recipe.model.fonts import shipped_font
from gladstack.shop.jobs.job import Job

_SLUG_FONT, _SLUG_MM = "bebas-neue", 4.0


@dataclass(frozen=True)
class Furniture:
    """All of it on the sheet, in its mm: closed chains for marks, numbers and test cut; boxes and lines to weed by.

    `right` is how far it reaches; `kept` the rectangles of film that stay; `notes` what found no room.
    """

    marks: tuple[Chain, ...]
    boxes: tuple[Box, ...]
    lines: tuple[Line, ...]
    slug: tuple[Chain, ...]
    test: tuple[Chain, ...]
    right: float
    notes: tuple[str, ...]
    kept: tuple[Box, ...] = ()

    @property
    def mark_boxes(self) -> list[Box]:
        """The boxes of the marks."""
        return [polygon(c).bounds for c in self.marks]

    def offcuts(self, parts: Sequence[Box], length: float, width: float, spacing: float, least: float) -> list[Box]:
        """The rectangles of a piece of film, `length` long, that stay whole."""
        shapes = [polygon(c) for c in (*self.marks, *self.slug, *self.test)]
        taken = [*parts, *(s.bounds for s in shapes), *self.boxes]
        grown = [(x0 - spacing, y0 - spacing, x1 + spacing, y1 + spacing) for x0, y0, x1, y1 in taken]
        return free_rectangles(length, width, grown, least)


def polygon(chain: Chain) -> Polygon:
    """A closed chain as a polygon."""
    return Polygon(flatten_chain(chain, tolerances.FLATTEN_MM))


@dataclass(frozen=True)
class Bare:
    """A sheet that bears its parts and nothing else, in mm.

    `name` and `number` of `count` are its own; `size` is length and width. `groups` says for each part what is boxed with
    it, `clusters` are the boxes of what is nested together. `frames` are the blocks in register, each with the matrix that
    lays it on the film, `others` all films in register, `nth` which of them this is, and `marks` how many each block
    gets. `labels` are the numbers of tiles, each with the box of the tile. `reverse` says that the waste stays.
    """

    name: str
    number: int
    count: int
    size: tuple[float, float]
    margin: float
    spacing: float
    parts: tuple[Polygon, ...]
    groups: tuple[object, ...]
    clusters: Sequence[Box]
    frames: Sequence[tuple[Box, Matrix]]
    others: Sequence[MultiPolygon]
    nth: int
    marks: int
    labels: Sequence[tuple[str, Box]]
    reverse: bool

    @property
    def inside(self) -> Box:
        """What lies within its margins."""
        return self.margin, self.margin, self.size[0] - self.margin, self.size[1] - self.margin


def furnish(bare: Bare, job: Job) -> Furniture:
    """What a sheet bears beside its parts, none of it nearer to them than its clearance."""
    marks, notes = _marks(bare, job) if bare.frames and job.marks.count else ([], [])
    boxes = _boxes(bare, marks, job)
    taken: list[Polygon] = [*bare.parts, *(polygon(c) for c in marks)]
    rims = [shapely.box(*b).boundary.buffer(0.05, cap_style="flat") for b in boxes]
    right = max(s.bounds[2] for s in [*taken, *rims])
    room = Room(right - bare.margin, bare.size[1] - 2 * bare.margin)
    slug: list[Chain] = []
    test: list[Chain] = []
    for extra in _extras(bare, job, room):
        spot = _free(extra.chains, room, bare.margin, max(bare.spacing, 1.0), [*taken, *rims], extra.near)
        if spot is None:
            notes.append(f"No room was found for {extra.what}.")
            continue
        placed = [transform_chain(c, spot.matrix) for c in extra.chains]
        (test if extra.is_test else slug).extend(placed)
        taken += [polygon(c) for c in placed]
    lines = _lines(bare, taken, boxes, job) if job.weeding.lines and not bare.reverse else []
    return Furniture(tuple(marks), tuple(boxes), tuple(lines), tuple(slug), tuple(test), right, tuple(notes))


@dataclass(frozen=True)
class _Extra:
    """Something small that is cut beside the parts, as near to a point within the margins as it goes."""

    chains: Sequence[Chain]
    what: str
    near: Point
    is_test: bool = False


def _extras(bare: Bare, job: Job, room: Room) -> list[_Extra]:
    """The sheet's number, those of its tiles, and a test cut, as far as the job wants them."""
    origin = (0.0, room.width_mm)
    out = []
    if job.slug:
        out.append(_Extra(slug_text(f"{bare.number}/{bare.count} {bare.name}"), "the sheet's number", origin))
        for label, box in bare.labels:
            near = (box[0] - bare.margin, box[3] - bare.margin)
            out.append(_Extra(slug_text(label), f"the number of tile {label}", near))
    if job.test_cut:
        out.append(_Extra(list(trial_cut((0.0, 0.0), 10.0)), "the test cut", origin, is_test=True))
    return out


def _lines(bare: Bare, taken: Sequence[Polygon], boxes: Sequence[Box], job: Job) -> list[Line]:
    """Lines that divide the waste in every box, or round everything."""
    whole = weed_box([*taken], 0.0 if boxes else job.weeding.distance_mm, bare.inside)
    out: list[Line] = []
    for around in boxes or ([whole] if whole else []):
        held = [p for p in taken if shapely.intersects(p, shapely.box(*around))]
        found = weed_lines(held, around, job.weeding.strip_mm, job.weeding.clearance_mm)
        # Waste that holds nothing comes off in one piece.
        out += [line for line in found if _near(line, held, job.weeding.strip_mm)]
    return out


def _near(line: Line, parts: Sequence[Polygon], reach_mm: float) -> bool:
    return bool(shapely.dwithin(np.array(parts, dtype=object), shapely.LineString(line), reach_mm).any())


def _marks(bare: Bare, job: Job) -> tuple[list[Chain], list[str]]:
    """The marks of every block, and what is told of them; one that comes too near to any film in register is on none."""
    out: list[Chain] = []
    left_out = 0 if bare.marks else job.marks.count
    for frame, matrix in bare.frames:
        d = 9.0
        # Frames that lie with marks outside hold the room for them already.
        inner = frame if job.marks.inside else (frame[0] + d, frame[1] + d, frame[2] - d, frame[3] - d)
        for at in mark_places(inner, bare.marks, inside=job.marks.inside):
            chains = mark(job.marks.kind, at, bare.nth)
            drawn = [polygon(c) for c in mark(job.marks.kind, at, 0)]
            near = job.marks.inside and any(shapely.dwithin(o, s, bare.spacing) for o in bare.others for s in drawn)
            on_film = [transform_chain(c, matrix) for c in chains]
            fits = all(_within(polygon(c).bounds, bare.inside) for c in on_film)
            if near or not fits:
                left_out += 1
            else:
                out += on_film
    if not left_out:
        return out, []
    return out, [f"No room was found for {left_out} registration mark{'s' if left_out > 1 else ''}."]


def _within(box: Box, inside: Box) -> bool:
    t = 1e-3
    return box[0] >= inside[0] - t and box[1] >= inside[1] - t and box[2] <= inside[2] + t and box[3] <= inside[3] + t


def _boxes(bare: Bare, marks: Sequence[Chain], job: Job) -> list[Box]:
    """Boxes to weed by: round each cluster of nested parts, round what is of one group, or round everything."""
    weeding = job.weeding
    d = weeding.distance_mm
    if weeding.box == "none":
        return []
    if bare.clusters and (weeding.box in ("part", "word") or (weeding.box == "copy" and job.keeps == "copy")):
        return list(bare.clusters)
    if weeding.box != "sheet" and not bare.clusters:
        own: dict[object, list[Polygon]] = {}
        for part, group in zip(bare.parts, bare.groups, strict=True):
            own.setdefault(group, []).append(part)
        found = [b for b in (weed_box(shapes, d, bare.inside) for shapes in own.values()) if b]
        return _joined(found, bare.parts, d, bare.inside)
    around = weed_box([*bare.parts, *(polygon(c) for c in marks)], d, bare.inside)
    return [around] if around else []


def _joined(boxes: Sequence[Box], parts: Sequence[Polygon], d: float, inside: Box) -> list[Box]:
    """Boxes that would cut through each other, or through another's parts, as one box round both."""
    out = list(boxes)
    while True:
        shapes = np.array([shapely.box(*b) for b in out], dtype=object)
        a, b = shapely.STRtree(shapes).query(shapes, predicate="intersects")
        pair = next(((int(k), int(n)) for k, n in zip(a, b, strict=True) if k < n), None)
        if pair is None:
            return out
        held = [p for p in parts if any(shapes[k].contains(p) for k in pair)]
        both = weed_box(held, d, inside)
        out = [box for k, box in enumerate(out) if k not in pair] + ([both] if both else [])


def _free(
    chains: Sequence[Chain], room: Room, margin: float, spacing: float, taken: Sequence[Polygon], near: Point
) -> Spot | None:
    """A place for something small beside all else, as near to a point within the margins as it goes."""
    shape = MultiPolygon([polygon(c).envelope for c in chains]).envelope
    item = Item(MultiPolygon([shape]), UNTURNED)
    here = [moved(t, (1.0, 0.0, 0.0, 1.0, -margin, -margin)) for t in taken]
    if room.length_mm <= 0 or room.width_mm <= 0:
        return None
    found = free_spot(item, room, spacing, here, Spot(0.0, *near))
    return Spot(0.0, found.x_mm + margin, found.y_mm + margin) if found else None


def slug_text(text: str) -> list[Chain]:
    """A line of small lettering, as closed chains round the origin."""
    face = open_face(shipped_font(_SLUG_FONT))
    plain = "".join(c if c.isascii() and (c.isalnum() or c in " /-.") else " " for c in text)[:40]
    layout = lay_out(Lettering((TextLine(plain, face, _SLUG_MM),)))
    letters = letter_curves(layout.letters, (1.0, 0.0, 0.0, 1.0, 0.0, 0.0))
    return [c.chain for one in letters for c in one]


def box_chain(box: Box) -> Chain:
    """A box as a closed chain."""
    left, top, right, bottom = box
    return line_chain(np.round(np.array([(left, top), (right, top), (right, bottom), (left, bottom), (left, top)]), 4))
