"""Films in register: blocks, each a copy of a design or a tile, lie at the same places on the sheets of all its films."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

import shapely
from shapely import MultiPolygon

from gladstack.core.base.plane import Box
from gladstack.core.geometry.curves import Matrix, compose
from gladstack.core.plan.laying import Room, moved, turn_of
from gladstack.core.plan.marks import with_marks
from gladstack.core.plan.tiles import Seams, SeamWanted, TileError, Tiling, find_seams, put_seams, tile_boxes, tile_of
from gladstack.shop.jobs.job import Job, PlacedSeam
from gladstack.shop.plan.wanted import WantedFilm

_SAME_MM = 0.5
_ELSEWHERE_MM = 0.01


@dataclass(frozen=True)
class Block:
    """One copy of a design, or one tile of it: which, and the corner of its box on which sheet, within the margins."""

    copy: int
    tile: int | None
    sheet: int
    x_mm: float
    y_mm: float


@dataclass(frozen=True)
class SeamHeld:
    """A seam put by hand that lies elsewhere, where every tile fits; `at_mm` is None where it could not be put at all."""

    wanted: PlacedSeam
    at_mm: float | None


@dataclass(frozen=True)
class Register:
    """How the films of one design lie: the turn of all blocks, their size on film, the blocks, and the seams of each film.

    `frames` are the boxes of the blocks in the design's mm by film and tile; without tiles the design's frame.
    `held` are the seams that do not lie where they were put.
    """

    turn_deg: float
    blocks: tuple[Block, ...]
    size_mm: tuple[float, float]
    frames: dict[str, tuple[Box, ...]]
    seams: dict[str, Seams]
    marks: int
    overlap_mm: float
    room: Room
    spacing_mm: float
    held: tuple[SeamHeld, ...] = ()

    def blocks_of(self, film: WantedFilm, filled: Sequence[int]) -> Sequence[Block]:
        """The blocks of one film: of tiles only those it has something on, one after another."""
        if not self.seams:
            return self.blocks
        own = [b for b in self.blocks if b.copy == 0 and b.tile in filled]
        sizes = [self._size(film, b.tile or 0) for b in own]
        packed = _blocks(film.copies, sizes, self.room, self.spacing_mm)
        return [replace(b, tile=own[0 if b.tile is None else b.tile].tile) for b in packed]

    def _size(self, film: WantedFilm, tile: int) -> tuple[float, float]:
        """How long and wide a tile is on film."""
        left, top, right, bottom = self.frames[film.film][tile]
        along, _, _, across, _, _ = film.onto_film
        w, h = right - left, bottom - top
        return (abs(along) * w, across * h) if self.turn_deg == 0 else (abs(along) * h, across * w)

    def matrix(self, film: WantedFilm, block: Block, margin_mm: float) -> Matrix:
        """From the design to the sheet, for one block."""
        frame = self.frames[film.film][block.tile or 0]
        c, s = turn_of(self.turn_deg)
        # Shrink is along and across the film, so it comes after the turn.
        mirror = -1.0 if film.mirrored else 1.0
        turned = compose((c, s, -s, c, 0.0, 0.0), (mirror, 0.0, 0.0, 1.0, 0.0, 0.0))
        a, _, _, d, _, _ = film.onto_film
        still = compose((abs(a), 0.0, 0.0, d, 0.0, 0.0), turned)
        left, top, _, _ = moved(shapely.box(*frame), still).bounds
        return (*still[:4], round(margin_mm + block.x_mm - left, 4), round(margin_mm + block.y_mm - top, 4))


def lay_register(films: Sequence[WantedFilm], job: Job, room: Room, spacing_mm: float) -> Register:
    """Lays the films of one design in register within the room that all of them have; none is turned against its grain.

    Raises TileError.
    """
    marks = films[0].marks(job)
    frame = films[0].extent
    turned = all(f.material.grain == "free" for f in films)
    factor = _largest(films)
    marked = with_marks(frame, marks, inside=job.marks.inside)
    outer = (
        frame if not _turns_to_fit(marked, room, factor, turned) and _turns_to_fit(frame, room, factor, turned) else marked
    )
    lays_marks = marks if outer == marked else 0
    if turns := _turns_to_fit(outer, room, factor, turned):
        found = [_blocks(films[0].copies, [(w * factor, h * factor)], room, spacing_mm) for turn, w, h in turns]
        turn, blocks = min(zip([t[0] for t in turns], found, strict=True), key=lambda p: _cost(p[1], turns, p[0], factor))
        w, h = next((w * factor, h * factor) for t, w, h in turns if t == turn)
        return Register(
            turn, tuple(blocks), (w, h), {f.film: (outer,) for f in films}, {}, lays_marks, 0.0, room, spacing_mm
        )
    return _tiled(films, job, room, spacing_mm, turned)


def _largest(films: Sequence[WantedFilm]) -> float:
    """How many times larger than in the design the largest of some films is cut, for what the press takes."""
    return max(max(abs(f.onto_film[0]), f.onto_film[3]) for f in films)


def _turns_to_fit(frame: Box, room: Room, factor: float, turned: bool) -> list[tuple[float, float, float]]:
    w, h = frame[2] - frame[0], frame[3] - frame[1]
    sizes = [(0.0, w, h), (90.0, h, w)][: 2 if turned else 1]
    fits = [(t, a, b) for t, a, b in sizes if a * factor <= room.length_mm + 1e-6 and b * factor <= room.width_mm + 1e-6]
    return fits


def _cost(
    blocks: Sequence[Block], turns: Sequence[tuple[float, float, float]], turn: float, factor: float
) -> tuple[float, float]:
    along = next(a for t, a, _ in turns if t == turn) * factor
    last = max(b.sheet for b in blocks)
    return last, sum(max((b.x_mm + along for b in blocks if b.sheet == k), default=0.0) for k in range(last + 1))


def _blocks(copies: int, sizes: Sequence[tuple[float, float]], room: Room, spacing_mm: float) -> list[Block]:
    """Blocks in columns across the film, one column after another; `sizes` (along, across) are those of the tiles."""
    out: list[Block] = []
    sheet, x, y, deep = 0, 0.0, 0.0, 0.0
    for copy in range(copies):
        for tile, (along, across) in enumerate(sizes):
            if y > 0 and y + across > room.width_mm + 1e-6:
                x, y, deep = x + deep + spacing_mm, 0.0, 0.0
            if x > 0 and x + along > room.length_mm + 1e-6:
                sheet, x, y, deep = sheet + 1, 0.0, 0.0, 0.0
            out.append(Block(copy, tile if len(sizes) > 1 else None, sheet, x, y))
            y, deep = y + across + spacing_mm, max(deep, along)
    return out


def _tiled(films: Sequence[WantedFilm], job: Job, room: Room, spacing_mm: float, turned: bool) -> Register:
    """A design larger than the room, in tiles."""
    if not job.tiles.divide:
        raise too_large(films[0], room)
    overlap = job.tiles.overlap_mm
    if overlap is None:
        overlap = 0.0 if films[0].material.method == "heat-transfer" else 4.0
    factor, around = _largest(films), 2 * _round_tiles(films, job)
    turns = (0.0, 90.0) if turned else (0.0,)
    placed = [p for p in job.tiles.placed if p.design == films[0].design]
    for kept in (placed, []) if placed else ([],):
        found: list[Register] = []
        fault: TileError | None = None
        for turn in turns:
            along, across = room.length_mm / factor - around, room.width_mm / factor - around
            most = (along, across) if turn == 0 else (across, along)
            limit = job.tiles.most_mm or min(1e9, max(most))
            tiling = Tiling(min(most[0], limit), min(most[1], limit), overlap, job.tiles.reach_mm, job.tiles.least_mm)
            try:
                found.append(_in_tiles(films, job, kept, tiling, turn, room, spacing_mm))
            except TileError as told:
                fault = told
        if found:
            best = min(
                found,
                key=lambda r: (len(r.blocks), max(b.sheet for b in r.blocks) * 1e6 + max(b.x_mm for b in r.blocks)),
            )
            return best if kept else replace(best, held=tuple(SeamHeld(p, None) for p in placed))
    raise fault or too_large(films[0], room)


def _round_tiles(films: Sequence[WantedFilm], job: Job) -> float:
    """The room for marks that each tile has around it."""
    return 9.0 if films[0].marks(job) and not job.marks.inside else 0.0


def _in_tiles(
    films: Sequence[WantedFilm], job: Job, placed: Sequence[PlacedSeam], tiling: Tiling, turn: float, room: Room,
    spacing_mm: float,
) -> Register:  # fmt: skip
    """A design in tiles, with its seams as many as there were when some were put by hand. Raises TileError."""
    frame, factor, around = films[0].extent, _largest(films), _round_tiles(films, job)
    shapes = [f.layer.cut for f in films]
    seams: dict[str, Seams] = {}
    if job.tiles.each_film:
        for film, shape in zip(films, shapes, strict=True):
            own = [p for p in placed if p.film in (None, film.film)]
            seams[film.film] = _seams([shape], frame, tiling, own, list(seams.values()))
    else:
        same = _seams(shapes, frame, tiling, [p for p in placed if p.film is None], [])
        seams = {f.film: same for f in films}
    frames: dict[str, tuple[Box, ...]] = {}
    for film in films:
        boxes = tile_boxes(frame, seams[film.film], tiling.overlap_mm)
        frames[film.film] = tuple((b[0] - around, b[1] - around, b[2] + around, b[3] + around) for b in boxes)
    sizes = []
    for k in range(len(next(iter(frames.values())))):
        w = max(boxes[k][2] - boxes[k][0] for boxes in frames.values()) * factor
        h = max(boxes[k][3] - boxes[k][1] for boxes in frames.values()) * factor
        sizes.append((w, h) if turn == 0 else (h, w))
    for along, across in sizes:
        if along > room.length_mm + _SAME_MM or across > room.width_mm + _SAME_MM:
            raise TileError("A tile would be larger than the film.", "Let the seams find their places, or take wider film.")
    blocks = _blocks(films[0].copies, sizes, room, spacing_mm)
    return Register(
        turn, tuple(blocks), max(sizes), frames, seams, films[0].marks(job), tiling.overlap_mm, room, spacing_mm,
        tuple(_held(placed, seams)),
    )  # fmt: skip


def _seams(
    shapes: Sequence[MultiPolygon], frame: Box, tiling: Tiling, placed: Sequence[PlacedSeam], below: Sequence[Seams]
) -> Seams:
    """The seams of some films, those put by hand where they are wanted, or as near as tiles fit. Raises TileError.

    There are as many as in the films below, for the tiles of all lie at the same places.
    """
    counts = next(((p.of.x, p.of.y) for p in reversed(placed) if p.of), None)
    if below:
        counts = len(below[0].x), len(below[0].y)
    found = find_seams(shapes, frame, tiling, below, counts)
    if not placed:
        return found
    wanted = [SeamWanted(int(p.axis == "y"), p.index, p.at_mm, p.overlap_mm) for p in placed]
    return put_seams(found, wanted, frame, tiling)


def _held(placed: Sequence[PlacedSeam], seams: Mapping[str, Seams]) -> Iterator[SeamHeld]:
    for p in placed:
        own = next((s for film, s in seams.items() if p.film in (None, film)), Seams())
        row = own.y if p.axis == "y" else own.x
        if p.index >= len(row):
            yield SeamHeld(p, None)
        elif p.at_mm is not None and abs(row[p.index] - p.at_mm) > _ELSEWHERE_MM:
            yield SeamHeld(p, row[p.index])


def too_large(film: WantedFilm, room: Room) -> TileError:
    """The word for a design that fits on nothing."""
    left, top, right, bottom = film.extent
    return TileError(
        f"{film.of} is {right - left:.0f} × {bottom - top:.0f} mm, and there is room for "
        f"{max(0.0, room.length_mm):.0f} × {max(0.0, room.width_mm):.0f} mm.",
        "Let it be divided into tiles, take wider film, or a larger cutter.",
    )


def content(film: WantedFilm, register: Register, block: Block) -> MultiPolygon:
    """What of a film belongs to a block: all of it, or one tile's share."""
    if block.tile is None:
        return film.cutting.shape
    boxes = tile_boxes(film.extent, register.seams[film.film], register.overlap_mm)
    return tile_of(film.cutting.shape, boxes[block.tile], film.extent)
