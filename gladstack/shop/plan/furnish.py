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


def furnish(
    parts: Sequence[Polygon], job: Job, number: int, count: int, name: str, margin: float, spacing: float,
    size: tuple[float, float], frames: Sequence[tuple[Box, Matrix]], others: Sequence[MultiPolygon], nth: int, marks: int,
    clusters: Sequence[Box], groups: Sequence[object], *, reverse: bool, labels: Sequence[tuple[str, Box]] = (),
) -> Furniture:  # fmt: skip
    """What a sheet bears beside its parts, none of it nearer to them than its clearance.

    `groups` says for each part what is boxed together with it; `labels` are the numbers of tiles, each with the box of the
    tile on the sheet.
    """
    notes: list[str] = []
    inside = (margin, margin, size[0] - margin, size[1] - margin)
    marked = _marks(frames, others, job, nth, marks, inside, spacing, notes) if frames and job.marks.count else []
    boxes = _boxes(parts, marked, job, inside, clusters, groups)
    taken: list[Polygon] = [*parts, *(polygon(c) for c in marked)]
    lines_of_boxes = [shapely.box(*b).boundary.buffer(0.05, cap_style="flat") for b in boxes]
    right = max(s.bounds[2] for s in [*taken, *lines_of_boxes])
    room = Room(right - margin, size[1] - 2 * margin)
    slug: list[Chain] = []
    test: list[Chain] = []
    origin = (0.0, room.width_mm)
    extras = [(slug_text(f"{number + 1}/{count} {name}"), slug, "the sheet's number", origin)] if job.slug else []
    for label, box in labels if job.slug else ():
        extras.append((slug_text(label), slug, f"the number of tile {label}", (box[0] - margin, box[3] - margin)))
    extras += [(list(trial_cut((0.0, 0.0), 10.0)), test, "the test cut", origin)] if job.test_cut else []
    for chains, into, what, near in extras:
        spot = _free(chains, room, margin, max(spacing, 1.0), [*taken, *lines_of_boxes], near)
        if spot is None:
            notes.append(f"No room was found for {what}.")
            continue
        placed = [transform_chain(c, spot.matrix) for c in chains]
        into += placed
        taken += [polygon(c) for c in placed]
    lines: list[Line] = []
    if job.weeding.lines and not reverse:
        whole = weed_box([*taken], 0.0 if boxes else job.weeding.distance_mm, inside)
        for around in boxes or ([whole] if whole else []):
            held = [p for p in taken if shapely.intersects(p, shapely.box(*around))]
            found = weed_lines(held, around, job.weeding.strip_mm, job.weeding.clearance_mm)
            # Waste that holds nothing comes off in one piece.
            lines += [line for line in found if _near(line, held, job.weeding.strip_mm)]
    return Furniture(tuple(marked), tuple(boxes), tuple(lines), tuple(slug), tuple(test), right, tuple(notes))


def _near(line: Line, parts: Sequence[Polygon], reach_mm: float) -> bool:
    return bool(shapely.dwithin(np.array(parts, dtype=object), shapely.LineString(line), reach_mm).any())


def _marks(
    frames: Sequence[tuple[Box, Matrix]], others: Sequence[MultiPolygon], job: Job, nth: int, marks: int, inside: Box,
    spacing: float, notes: list[str],
) -> list[Chain]:  # fmt: skip
    """The marks of every block; one that comes too near to any film in register is left out on all."""
    out: list[Chain] = []
    left_out = 0 if marks else job.marks.count
    for frame, matrix in frames:
        d = 9.0
        # Frames that lie with marks outside hold the room for them already.
        inner = frame if job.marks.inside else (frame[0] + d, frame[1] + d, frame[2] - d, frame[3] - d)
        for at in mark_places(inner, marks, inside=job.marks.inside):
            chains = mark(job.marks.kind, at, nth)
            drawn = [polygon(c) for c in mark(job.marks.kind, at, 0)]
            near = any(shapely.dwithin(o, s, spacing) for o in others for s in drawn) if job.marks.inside else False
            on_film = [transform_chain(c, matrix) for c in chains]
            boxes = [polygon(c).bounds for c in on_film]
            fits = all(_within(b, inside) for b in boxes)
            if near or not fits:
                left_out += 1
            else:
                out += on_film
    if left_out:
        notes.append(f"No room was found for {left_out} registration mark{'s' if left_out > 1 else ''}.")
    return out


def _within(box: Box, inside: Box) -> bool:
    t = 1e-3
    return box[0] >= inside[0] - t and box[1] >= inside[1] - t and box[2] <= inside[2] + t and box[3] <= inside[3] + t


def _boxes(
    parts: Sequence[Polygon],
    marks: Sequence[Chain],
    job: Job,
    inside: Box,
    clusters: Sequence[Box],
    groups: Sequence[object],
) -> list[Box]:
    """Boxes to weed by: round each cluster of nested parts, round what is of one group, or round everything."""
    weeding = job.weeding
    d = weeding.distance_mm
    if weeding.box == "none":
        return []
    if clusters and (weeding.box in ("part", "word") or (weeding.box == "copy" and job.keeps == "copy")):
        return list(clusters)
    if weeding.box != "sheet" and not clusters:
        own: dict[object, list[Polygon]] = {}
        for part, group in zip(parts, groups, strict=True):
            own.setdefault(group, []).append(part)
        found = [b for b in (weed_box(shapes, d, inside) for shapes in own.values()) if b]
        return _joined(found, parts, d, inside)
    around = weed_box([*parts, *(polygon(c) for c in marks)], d, inside)
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
