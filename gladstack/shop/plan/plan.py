"""The plan: a job worked out. The same films, job and shop always give the same plan.

Only what a solver is given time for differs from run to run; where it laid things is then told to the job.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

import shapely
from shapely import MultiPolygon, Polygon

from gladstack.core.base.plane import Box
from gladstack.core.geometry.curves import Matrix, compose
from gladstack.core.geometry.outlines import Part
from gladstack.core.plan.laying import Room, moved
from gladstack.recipe.build.built import Built
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.job import Job, Layout
from gladstack.shop.plan.drawn import drawn_on
from gladstack.shop.plan.furnish import Bare, furnish
from gladstack.shop.plan.nested import boxed_apart, clusters_of, lay_nested, matrix_of
from gladstack.shop.plan.planned import PlacedPart, Plan, SheetPlan, placed
from gladstack.shop.plan.register import Block, Register, content, lay_register, too_large
from gladstack.shop.plan.saved import naive_length
from gladstack.shop.plan.wanted import PartCopy, WantedFilm, wanted_films
from gladstack.shop.shelf.cutters import Cutter
from gladstack.shop.shelf.materials import Material
from gladstack.shop.shelf.shelf import Shop
from gladstack.shop.shelf.stock import Gain, Piece, Use
from gladstack.shop.shelf.supply import Supply, widest_room


def plan(
    job: Job, designs: Mapping[str, Built], shop: Shop, seconds: int = 0, tell: Callable[[str], None] = lambda what: None
) -> Plan:
    """Lays everything a job wants on the shop's stock. `seconds` are the solver's, shared among the materials.

    Raises GladStackError where it cannot be laid at all.
    """
    films = wanted_films(job, designs, shop)
    supply = Supply(shop, shop.cutter(job.cutter))
    drafts: list[_Draft] = []
    registers: dict[tuple[str, str], Register] = {}
    for own in _rigid(films):
        tell(own[0].of)
        register, laid = _register(own, job, supply)
        registers |= {(f.design, f.film): register for f in own}
        drafts += laid
    nested = [f for f in films if f.layout == "nested"]
    groups: dict[tuple[str, bool], list[WantedFilm]] = {}
    for f in nested:
        groups.setdefault((f.material.id, f.mirrored), []).append(f)
    areas = {key: sum(f.layer.cut.area * f.copies for f in own) for key, own in groups.items()}
    for key, own in groups.items():
        tell(own[0].material.name)
        share = max(1, round(seconds * areas[key] / max(1e-9, sum(areas.values())))) if seconds else 0
        drafts += _nested(own, job, supply, share)
    sheets = tuple(_sheet(k, draft, job, len(drafts), supply.cutter) for k, draft in enumerate(drafts))
    return Plan(job, tuple(films), sheets, registers, naive_length(films, supply))


def _rigid(films: Sequence[WantedFilm]) -> list[list[WantedFilm]]:
    """What lies on film as it lies in its decal: all films of a design that are in register, and each that lies whole."""
    groups: dict[tuple[str, str], list[WantedFilm]] = {}
    for film in films:
        if film.layout != "nested":
            groups.setdefault((film.design, film.film if film.layout == "whole" else ""), []).append(film)
    return list(groups.values())


_UNMARKED = "Films that lie by themselves bear no registration marks: no other film has them at the same places."
_BESIDE = "{} of the lines to be drawn lie beside every part, and are left out where parts are nested or there is no film."


@dataclass(frozen=True)
class _Draft:
    """A sheet with its parts, before all else is put on it."""

    name: str
    material: Material
    layout: Layout
    piece: Piece
    length_mm: float
    width_mm: float
    margin_mm: float
    spacing_mm: float
    parts: tuple[PlacedPart, ...]
    frames: tuple[tuple[Box, Matrix], ...] = ()
    others: tuple[MultiPolygon, ...] = ()
    nth: int = 0
    marks: int = 0
    clusters: tuple[Box, ...] = ()
    labels: tuple[tuple[str, Box], ...] = ()


def _lay_margin(job: Job, margin: float, layout: Layout) -> float:
    """The margin that parts keep where a weed box lies between them and the edge; boxes of their own are part of them."""
    boxed = job.weeding.box != "none" and not (layout == "nested" and boxed_apart(job))
    return margin + (job.weeding.distance_mm if boxed else 0.0)


def spacing_of(job: Job, material: Material) -> float:
    """How far apart parts lie."""
    return material.spacing_mm if job.spacing_mm is None else job.spacing_mm


def _register(films: Sequence[WantedFilm], job: Job, supply: Supply) -> tuple[Register, list[_Draft]]:
    """The sheets of films in register with each other, film by film from the ground up."""
    margin = max(supply.margin(f.material) for f in films)
    inner = _lay_margin(job, margin, "register")
    spacing = max(spacing_of(job, f.material) for f in films)
    if job.weeding.box == "copy":
        spacing = max(spacing, 2 * job.weeding.distance_mm + 1.0)
    rooms = [widest_room(f.material, supply, inner) for f in films]
    # A film of which the shelf has only small pieces must not hold the others back: it would have to be bought.
    w, h = films[0].extent[2] - films[0].extent[0], films[0].extent[3] - films[0].extent[1]
    holding = [r for r in rooms if min(w, h) <= r.width_mm and max(w, h) <= r.length_mm] or rooms
    room = Room(min(r.length_mm for r in holding), min(r.width_mm for r in holding))
    register = lay_register(films, job, room, spacing)
    shapes = {f.film: {b: content(f, register, b) for b in _distinct(register)} for f in films}
    lays: list[_Lay] = []
    for nth, film in enumerate(films):
        filled = [b.tile for b, shape in shapes[film.film].items() if not shape.is_empty and b.tile is not None]
        all_blocks = register.blocks_of(film, filled)
        for number in range(max(b.sheet for b in all_blocks) + 1):
            blocks = [b for b in all_blocks if b.sheet == number]
            parts = [p for b in blocks for p in _block_parts(film, register, b, shapes[film.film], inner)]
            if not parts:
                continue
            frames = tuple((register.frames[film.film][b.tile or 0], register.matrix(film, b, inner)) for b in blocks)
            boxes = [p.shape.bounds for p in parts]
            if register.marks and not job.marks.inside:
                boxes += [moved(shapely.box(*frame), matrix).bounds for frame, matrix in frames]
            count = len(register.frames[film.film])
            labels = tuple(
                (f"tile {b.tile + 1}/{count}", moved(shapely.box(*frame), matrix).bounds)
                for b, (frame, matrix) in zip(blocks, frames, strict=True)
                if b.tile is not None
            )
            length, width = max(b[2] for b in boxes) + inner, max(b[3] for b in boxes) + inner
            lay = _Lay(
                film.layer.name,
                film.material,
                tuple(parts),
                frames if film.marked and film.marks(job) else (),
                labels,
                length,
                width,
                nth,
            )
            _add(lays, lay, supply, inner, spacing, share=job.share)
    others = tuple(f.layer.cut for f in films)
    drafts = []
    for lay in lays:
        piece = _piece_for(supply, lay.material, lay.length_mm, lay.width_mm, job)
        size = supply.size(piece)
        supply.take(piece, lay.length_mm if piece.kind == "roll" else 1.0)
        drafts.append(
            _Draft(
                lay.name, lay.material, films[0].layout, piece, size[0], size[1], margin, spacing, lay.parts, lay.frames,
                others, lay.nth, register.marks, labels=lay.labels,
            )
        )  # fmt: skip
    return register, drafts


@dataclass(frozen=True)
class _Lay:
    """What of one film, or of several that share a sheet, lies on one piece, and how much film that takes."""

    name: str
    material: Material
    parts: tuple[PlacedPart, ...]
    frames: tuple[tuple[Box, Matrix], ...]
    labels: tuple[tuple[str, Box], ...]
    length_mm: float
    width_mm: float
    nth: int

    def turned_alike(self, other: _Lay) -> bool:
        """Whether both are cut from the same film, from the same side."""
        mirrored = [lay.parts[0].bit.film.mirrored for lay in (self, other)]
        return self.material.id == other.material.id and mirrored[0] == mirrored[1]


def _add(lays: list[_Lay], lay: _Lay, supply: Supply, inner: float, spacing: float, *, share: bool) -> None:
    """Adds a film to the lays; where films share sheets, after one of the same material if there is film enough."""
    longest = max((supply.size(p)[0] for p in supply.pieces(lay.material, inner, None)), default=0.0)
    for k, other in enumerate(lays) if share else ():
        dx = other.length_mm - 2 * inner + spacing
        length = lay.length_mm + dx
        if other.turned_alike(lay) and length <= longest:
            shift = (1.0, 0.0, 0.0, 1.0, dx, 0.0)
            parts = tuple(placed(p.bit, p.cluster, compose(shift, p.matrix)) for p in lay.parts)
            frames = tuple((frame, compose(shift, matrix)) for frame, matrix in lay.frames)
            labels = tuple((text, (x0 + dx, y0, x1 + dx, y1)) for text, (x0, y0, x1, y1) in lay.labels)
            lays[k] = replace(
                other, name=f"{other.name}, {lay.name}", parts=(*other.parts, *parts), frames=(*other.frames, *frames),
                labels=(*other.labels, *labels), length_mm=length, width_mm=max(other.width_mm, lay.width_mm),
            )  # fmt: skip
            return
    lays.append(lay)


def _distinct(register: Register) -> list[Block]:
    """One block for each tile."""
    return [b for b in register.blocks if b.copy == 0]


def _block_parts(
    film: WantedFilm, register: Register, block: Block, shapes: Mapping[Block, MultiPolygon], margin: float
) -> list[PlacedPart]:
    like = next(b for b in shapes if b.tile == block.tile)
    matrix = register.matrix(film, block, margin)
    if block.tile is None:
        found = [
            (k, p, s) for k, (p, s) in enumerate(zip(film.cutting.outline.parts, film.cutting.shape.geoms, strict=True))
        ]
    else:
        found = _numbered(film, shapes[like])
    return [placed(PartCopy(film, k, block.copy, block.tile, part, shape), "", matrix) for k, part, shape in found]


def _numbered(film: WantedFilm, shape: MultiPolygon) -> list[tuple[int, Part, Polygon]]:
    """The parts of a tile, each with the number of the whole part it comes from."""
    cut = film.divided(shape)
    tree = shapely.STRtree(film.cutting.shape.geoms)
    out = []
    for part, polygon in zip(cut.outline.parts, cut.shape.geoms, strict=True):
        inside = polygon.representative_point()
        owner = tree.query(inside, predicate="intersects")
        out.append((int(owner[0]) if len(owner) else int(tree.nearest(inside)), part, polygon))
    return out


def _piece_for(supply: Supply, material: Material, length: float, width: float, job: Job) -> Piece:
    """The first piece of stock that holds so much, as the stock is gone through."""
    chosen = next((c.piece for c in job.pieces if c.material == material.id), None)
    for piece in supply.pieces(material, 0.0, chosen):
        reach, across = supply.size(piece)
        if reach + 1e-6 >= length and across + 1e-6 >= width:
            return piece
    # What would have to be bought is at least as wide as this.
    buy = supply.pieces(material, 0.0, None)[-1]
    return changed(buy, width_mm=max(buy.width_mm, min(math.ceil(width), supply.cutter.width_mm)))


def _nested(films: Sequence[WantedFilm], job: Job, supply: Supply, seconds: int) -> list[_Draft]:
    material = films[0].material
    margin = supply.margin(material)
    inner = _lay_margin(job, margin, "nested")
    spacing = spacing_of(job, material)
    room = widest_room(material, supply, inner)
    clusters = clusters_of(films, job, room)
    loads, left = lay_nested(clusters, material, job, supply, inner, spacing, seconds)
    if left:
        raise too_large(left[0].bits[0].film, room)
    drafts = []
    for found in loads:
        parts = [
            placed(bit, cluster.name, matrix_of(cluster, spot, inner), spot)
            for cluster, spot in zip(found.clusters, found.spots, strict=True)
            for bit in cluster.bits
        ]
        size = supply.size(found.load.piece)
        boxes = tuple(
            moved(c.item.shape, replace(s, x_mm=s.x_mm + inner, y_mm=s.y_mm + inner).matrix).bounds
            for c, s in zip(found.clusters, found.spots, strict=True)
        )
        name = material.name if len({f.film for f in films}) > 1 else films[0].layer.name
        drafts.append(
            _Draft(
                name, material, "nested", found.load.piece, size[0], size[1], margin, spacing, tuple(parts), clusters=boxes
            )
        )
    return drafts


def _group(bit: PartCopy, job: Job) -> tuple[object, ...]:
    """What is boxed together: the parts of a copy, of a word, or each by itself."""
    copy = (bit.film.design, bit.film.film, bit.copy, bit.tile)
    word = bit.film.words[bit.part] if job.weeding.box == "word" else None
    return copy if job.weeding.box == "copy" else (*copy, word, bit.part if word is None else -1)


def _sheet(number: int, draft: _Draft, job: Job, count: int, cutter: Cutter) -> SheetPlan:
    """A draft with boxes, lines, marks and numbers, its use of stock and what it leaves."""
    right = max(p.shape.bounds[2] for p in draft.parts)
    furniture = furnish(_bare(number, draft, job, count), job)
    pens, beside = drawn_on(draft.parts, (draft.length_mm, draft.width_mm), draft.margin_mm)
    if job.marks.count and draft.layout == "whole":
        furniture = replace(furniture, notes=(*furniture.notes, _UNMARKED))
    if beside:
        furniture = replace(furniture, notes=(*furniture.notes, _BESIDE.format(beside)))
    right = max([right, *(float(c.pieces[..., 0].max()) for pen in pens for c in pen.lines)])
    used = min(draft.length_mm, max(right, furniture.right) + draft.margin_mm)
    used = float(-(-used * 10 // 1) / 10) if draft.piece.kind == "roll" else used
    used = min(used, draft.length_mm)
    whole = draft.piece.kind != "roll"
    length = draft.length_mm if whole else used
    rects = furniture.offcuts(
        [p.shape.bounds for p in draft.parts], length, draft.width_mm, draft.spacing_mm, job.keep_offcuts_mm
    )
    gains = tuple(
        Gain(material=draft.material.id, width_mm=round(b - t, 1), length_mm=round(r - left, 1)) for left, t, r, b in rects
    )
    use = Use(piece=draft.piece.id, amount=round(used, 1) if not whole else 1.0)
    return SheetPlan(
        number + 1, f"sheets/{number + 1:02d}-{_stem(draft)}.svg", draft.name, draft.material, draft.layout, draft.piece,
        round(length, 4), draft.width_mm, draft.margin_mm, _lay_margin(job, draft.margin_mm, draft.layout),
        draft.spacing_mm, round(used, 4), draft.parts, replace(furniture, kept=tuple(rects)), use, gains, cutter, pens,
    )  # fmt: skip


def _bare(number: int, draft: _Draft, job: Job, count: int) -> Bare:
    return Bare(
        name=draft.name,
        number=number + 1,
        count=count,
        size=(draft.length_mm, draft.width_mm),
        margin=draft.margin_mm,
        spacing=draft.spacing_mm,
        parts=tuple(p.shape for p in draft.parts),
        groups=tuple(_group(p.bit, job) for p in draft.parts),
        clusters=draft.clusters,
        frames=draft.frames,
        others=draft.others,
        nth=draft.nth,
        marks=draft.marks,
        labels=draft.labels,
        reverse=any(p.bit.film.reverse_weed for p in draft.parts),
    )


def _stem(draft: _Draft) -> str:
    """What a sheet's files are called: its film, the tile it holds, and whether it is mirrored."""
    plain = "".join(c if c.isascii() and c.isalnum() else "-" for c in draft.name.lower())[:40]
    words = [w for w in plain.split("-") if w] or ["film"]
    tiles = {p.bit.tile for p in draft.parts}
    if draft.layout != "nested" and len(tiles) == 1 and (tile := tiles.pop()) is not None:
        words += ["tile", str(tile + 1)]
    return "-".join([*words, "mirrored"] if draft.parts[0].bit.film.mirrored else words)
