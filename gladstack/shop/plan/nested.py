"""Nested films: parts of one material, whatever designs they come from, moved and turned to save film."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base.plane import Box
from gladstack.core.geometry.curves import Matrix, compose
from gladstack.core.plan.laying import ANY_TURN, HALF_TURNS, UNTURNED, Item, Room, Spot, lies_in, moved
from gladstack.core.plan.pack import fill
from gladstack.core.plan.tiles import Tiling, find_seams, tile_boxes, tile_of
from gladstack.shop.jobs.job import Job, LaidPart, PartName
from gladstack.shop.plan.register import too_large
from gladstack.shop.plan.wanted import PartCopy, WantedFilm, bits_of, bounds_of, divided
from gladstack.shop.shelf.materials import Material
from gladstack.shop.shelf.supply import Load, Supply, laid_on_stock


@dataclass(frozen=True)
class Cluster:
    """Bits that keep their places to each other, as one item."""

    bits: tuple[PartCopy, ...]
    item: Item

    @property
    def name(self) -> str:
        """What it is called in a plan; nothing for a part by itself."""
        first = self.bits[0]
        return "" if len(self.bits) == 1 else f"{first.film.design}/{first.film.film}/{first.copy}/{first.part}"


@dataclass(frozen=True)
class NestedLoad:
    """One sheet's worth: the load, and what lies on it."""

    load: Load
    clusters: tuple[Cluster, ...]
    spots: tuple[Spot, ...]


def matrix_of(cluster: Cluster, spot: Spot, margin_mm: float) -> Matrix:
    """From the design to the sheet."""
    shift = (1.0, 0.0, 0.0, 1.0, margin_mm, margin_mm)
    return compose(shift, compose(spot.matrix, cluster.bits[0].film.onto_film))


def clusters_of(films: Sequence[WantedFilm], job: Job, room: Room) -> list[Cluster]:
    """The clusters of all copies of films of one material; what is larger than the room is divided. Raises TileError."""
    out: list[Cluster] = []
    forms = itertools.count()
    for film in films:
        turns = turns_of(film.material)
        whole = bits_of(film)
        cut: dict[int, list[Cluster]] = {}
        for copy in range(film.copies):
            mine = [b for b in whole if b.copy == copy]
            for group in _groups(mine, job):
                key = group[0].part
                if key not in cut:
                    fitting = _fitting(group, turns, room, job)
                    cut[key] = [Cluster(bits, replace(item, form=next(forms))) for bits, item in fitting]
                # All copies have the same shape.
                out += [Cluster(tuple(b if b.copy == copy else _copy(b, copy) for b in c.bits), c.item) for c in cut[key]]
    return out


def _copy(bit: PartCopy, copy: int) -> PartCopy:
    return PartCopy(bit.film, bit.part, copy, bit.tile, bit.outline, bit.polygon)


def turns_of(material: Material) -> tuple[float, ...]:
    """The turns that a material's grain allows; one that shrinks unevenly has a grain in any case."""
    if material.grain == "none":
        return UNTURNED
    uneven = material.shrink_along != material.shrink_across
    return HALF_TURNS if material.grain == "half" or uneven else ANY_TURN


def _groups(bits: Sequence[PartCopy], job: Job) -> list[list[PartCopy]]:
    """Bits of one copy of a film by what keeps together: what was chosen by hand, then what the job says."""
    if job.keeps == "copy":
        return [list(bits)]
    groups: list[list[PartCopy]] = []
    for kept in job.kept:
        own = [b for b in bits if (b.film.design, b.film.film) == (kept.design, kept.film) and b.part in kept.parts]
        groups += [own] if own else []
    held = {b.part for group in groups for b in group}
    rest = [b for b in bits if b.part not in held]
    if job.keeps == "word":
        return [*groups, *_words(rest)]
    return [*groups, *_within(rest, job)]


def _words(bits: Sequence[PartCopy]) -> list[list[PartCopy]]:
    """The letters of each word together, all else by itself."""
    groups: dict[tuple[str, int], list[PartCopy]] = {}
    for bit in bits:
        word = bit.film.words[bit.part]
        groups.setdefault(("part", bit.part) if word is None else ("word", word), []).append(bit)
    return list(groups.values())


def _within(bits: Sequence[PartCopy], job: Job) -> list[list[PartCopy]]:
    """Bits each by itself, or with what lies within it."""
    if job.keeps == "parts" or len(bits) < 2:
        return [[b] for b in bits]
    # What lies within another's outer edge moves with it.
    filled = np.array([Polygon(b.polygon.exterior) for b in bits], dtype=object)
    tree = shapely.STRtree(filled)
    inner, outer = tree.query(filled, predicate="within")
    areas = shapely.area(filled)
    host = list(range(len(bits)))
    for k in range(len(bits)):
        around = [o for o in outer[inner == k] if o != k and areas[o] > areas[k]]
        if around:
            host[k] = int(max(around, key=lambda o: areas[o]))
    return [[b for j, b in enumerate(bits) if host[j] == k] for k in range(len(bits)) if host[k] == k]


def _item(bits: Sequence[PartCopy], turns: tuple[float, ...], job: Job) -> Item:
    if not boxed_apart(job):
        laid = [moved(b.polygon, b.film.onto_film) for b in bits]
        return Item(MultiPolygon([p for one in laid for p in shapely.get_parts(one)]), turns)
    # What lies on film is at most mirrored and stretched along it, so that the box of it is the box moved.
    around = moved(shapely.box(*bounds_of([b.polygon for b in bits])), bits[0].film.onto_film)
    left, top, right, bottom = around.bounds
    d = job.weeding.distance_mm
    shape = MultiPolygon([shapely.box(left - d, top - d, right + d, bottom + d)])
    # A box turned by half lies as it lay.
    return Item(shape, tuple(t for t in turns if t < 180) or turns)


def boxed_apart(job: Job) -> bool:
    """Whether each cluster has a weed box of its own, which needs its room."""
    return job.weeding.box in ("part", "word") or (job.weeding.box == "copy" and job.keeps == "copy")


_Group = tuple[tuple[PartCopy, ...], Item]


def _fitting(bits: Sequence[PartCopy], turns: tuple[float, ...], room: Room, job: Job) -> list[_Group]:
    """Bits as one group if they fit into the room in any turn; else by themselves; else divided. Each as the item it is."""
    item = _item(bits, turns, job)
    if _fits(item, room):
        return [(tuple(bits), item)]
    if len(bits) > 1:
        return [group for b in bits for group in _fitting([b], turns, room, job)]
    (bit,) = bits
    if not job.tiles.divide:
        raise too_large(bit.film, room)
    sx, _, _, sy, _, _ = bit.film.onto_film
    frame: Box = bounds_of([bit.polygon])
    overlap = job.tiles.overlap_mm
    if overlap is None:
        overlap = 0.0 if bit.film.material.method == "heat-transfer" else 4.0
    around = 2 * job.weeding.distance_mm if boxed_apart(job) else 0.0
    most = ((room.length_mm - around) / abs(sx), (room.width_mm - around) / sy)
    tiling = Tiling(most[0], most[1], overlap, job.tiles.reach_mm, job.tiles.least_mm)
    shape = MultiPolygon([bit.polygon])
    seams = find_seams([shape], frame, tiling)
    pieces = [tile_of(shape, box, frame) for box in tile_boxes(frame, seams, overlap)]
    return [((b,), _item([b], turns, job)) for b in divided(bit, [p for p in pieces if not p.is_empty])]


def _fits(item: Item, room: Room) -> bool:
    for turn in item.turns:
        left, top, right, bottom = moved(item.shape, Spot(turn, 0.0, 0.0).matrix).bounds
        if right - left <= room.length_mm - 0.5 and bottom - top <= room.width_mm - 0.5:
            return True
    return False


def lay_nested(
    clusters: Sequence[Cluster], material: Material, job: Job, supply: Supply, margin: float, spacing_mm: float, seconds: int
) -> tuple[list[NestedLoad], list[Cluster]]:
    """Clusters on stock: as the job tells where it does, the rest beside them, and what is left where it finds room."""
    chosen = next((c.piece for c in job.pieces if c.material == material.id), None)
    told = {p.name: p for p in job.laid}
    known = {k: _laid_before(c, told) for k, c in enumerate(clusters)}
    kept = {k: p for k, p in known.items() if p is not None}
    loads, rest = _as_told(clusters, kept, material, supply, margin, spacing_mm)
    if rest:
        fresh, left = laid_on_stock([clusters[k].item for k in rest], material, supply, spacing_mm, seconds, chosen, margin)
        for load in fresh:
            own = tuple(clusters[rest[k]] for k, _ in load.spots)
            loads.append(NestedLoad(load, own, tuple(s for _, s in load.spots)))
        return loads, [clusters[rest[k]] for k in left]
    return loads, []


def _laid_before(cluster: Cluster, told: dict[PartName, LaidPart]) -> LaidPart | None:
    first = cluster.bits[0]
    laid = told.get(first.name)
    return laid if laid is not None and laid.key == first.film.mark else None


def _as_told(
    clusters: Sequence[Cluster], kept: dict[int, LaidPart], material: Material, supply: Supply, margin: float,
    spacing_mm: float,
) -> tuple[list[NestedLoad], list[int]]:  # fmt: skip
    """Sheets as the job tells, with what it does not tell laid beside; and what found no room there."""
    by_sheet: dict[tuple[int, str], list[int]] = {}
    for k, laid in kept.items():
        by_sheet.setdefault((laid.sheet, laid.piece or ""), []).append(k)
    rest = [k for k in range(len(clusters)) if k not in kept]
    loads: list[NestedLoad] = []
    for (_, id_), own in sorted(by_sheet.items()):
        piece = next((p for p in supply.pieces(material, margin, None) if p.id == id_), None)
        room = supply.room(piece, margin) if piece else Room(0.0, 0.0)
        spots = {k: Spot(kept[k].turn_deg, kept[k].x_mm, kept[k].y_mm) for k in own}
        drawn = [moved(clusters[k].item.shape, spots[k].matrix) for k in own]
        # A piece that is gone, or smaller now, tells nothing any more.
        if piece is None or not all(lies_in(s.bounds, room, 0.01) for s in drawn):
            rest += own
            continue
        if rest:
            beside = fill([clusters[k].item for k in rest], room, spacing_mm, drawn)
            spots |= {k: s for k, s in zip(rest, beside.spots, strict=True) if s is not None}
            rest = [k for k in rest if k not in spots]
        length = max(moved(clusters[k].item.shape, s.matrix).bounds[2] for k, s in spots.items())
        load = Load(piece, (), float(length))
        supply.take(piece, length + 2 * margin if piece.kind == "roll" else 1.0)
        loads.append(NestedLoad(load, tuple(clusters[k] for k in spots), tuple(spots.values())))
    return loads, rest
