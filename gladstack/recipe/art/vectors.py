"""Vector files as art: reading them, and what they paint."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely
from shapely import MultiPolygon

from gladstack.core.base.colour import from_hex, to_lab
from gladstack.core.base.errors import VectorError
from gladstack.core.base.findings import Remark
from gladstack.core.base.plane import box_around
from gladstack.core.base.reading import reader
from gladstack.core.drawing.drawing import MM_PER_PX, Drawing, OpenEnds, OpenPaths
from gladstack.core.drawing.hpgl_read import is_hpgl, read_hpgl
from gladstack.core.drawing.layers import FilmsBy, Layer
from gladstack.core.drawing.packed import beginning, unpacked
from gladstack.core.drawing.seen import visible
from gladstack.core.drawing.tints import Tints
from gladstack.core.films.regions import Paint, Painting
from gladstack.core.geometry import overlay
from gladstack.core.geometry.curves import Curve
from gladstack.core.geometry.shapes import clean
from gladstack.recipe.art.given import Assets, Facts, FileFacts
from gladstack.recipe.art.origin import Origin
from gladstack.recipe.model.arts import NEW_GAP_MM, Merge, VectorArt
from gladstack.stages.engine import Stages, loaded, part

_NEAR_SHADE = 4.0
"""Colours within this delta-E are taken for one shade that was meant."""
_OVERHANG_MM = 0.05
"""Curves that touch the edge of the page reach no farther beyond it."""
_PDF, _POSTSCRIPT = b"%PDF-", (b"%!PS", b"\xc5\xd0\xd3\xc6")
_PDF_LEFT_OUT = {
    "letters": "Letters whose outlines the file does not tell were left out: {}. Save its text as outlines.",
    "patterns": "Areas filled with a pattern or a gradient were left out: {}.",
    "hidden": "What the file hides was left out: {} of its layers or groups. Show them in it to bring them in.",
    "shadings": "Gradients that fill the page or a clip were left out: {}.",
}
_MOST_LOOKED_AT = 10
_MANY_COLOURS, FEWER_COLOURS = 100, 24
"""A file of so many colours is brought in with so many films."""
SLIVER_MM2 = 0.005
"""Pieces smaller than this are left between shapes that were meant to meet."""
PX_MM = {
    "as-told": MM_PER_PX,
    "72-dpi": 25.4 / 72,
    "90-dpi": 25.4 / 90,
    "96-dpi": MM_PER_PX,
    "mm": 1.0,
    "cm": 10.0,
    "in": 25.4,
}


@dataclass(frozen=True)
class ReadFile:
    """A vector file as read: its size in mm and whether it tells it, what is seen of each colour, and its curves.

    `layers` are those it has, `names` what colours are called by them.
    """

    size_mm: tuple[float, float]
    told: bool
    seen: tuple[tuple[str, MultiPolygon], ...]
    curves: tuple[Curve, ...]
    remarks: tuple[Remark, ...]
    open_paths: int
    overhang_mm: float = 0.0
    slivers: int = 0
    pages: int = 1
    fixed: bool = False
    bare_mm: float = MM_PER_PX
    layers: tuple[Layer, ...] = ()
    names: tuple[tuple[str, str], ...] = ()


def vector_origin(art: VectorArt, assets: Assets, stages: Stages) -> Origin:
    """A vector file, read."""
    data = loaded(lambda: assets.file(art.file), "file", art.file)
    source = stages.costly(
        "map", read_and_seen, data,
        HowRead(art.reading, art.open_paths, art.line_mm, art.tints, art.page, art.gap_mm, art.films_by, art.beyond),
    )  # fmt: skip
    painting = stages.run("art", vector_painting, source, art.merges, art.dropped, art.count)

    def facts() -> Facts:
        return vector_facts(source.value, art)

    return Origin(source, painting, part(source, "curves", lambda read: read.curves), loaded(facts, source.key, art))


def is_vector(data: bytes) -> bool:
    """Whether bytes look like an SVG, DXF or PDF file or a plot, be it compressed, or like PostScript, which is refused."""
    head = beginning(data, 4096).lstrip(b"\xef\xbb\xbf \t\r\n")
    if head.startswith((b"<svg", b"<?xml", b"<!DOCTYPE", b"<!--", *_POSTSCRIPT)) or b"SECTION" in head[:400]:
        return True
    return _PDF in head[:1024] or is_hpgl(head)


@dataclass(frozen=True)
class HowRead:
    """How a file is read: the unit of its bare numbers, what becomes of open paths and of see-through paint, which page,
    what its films are made of, and what becomes of what lies beyond the page."""

    reading: str = "as-told"
    open_paths: OpenPaths = "as-told"
    line_mm: float = 1.0
    tints: Tints = "solid"
    page: int = 1
    gap_mm: float = NEW_GAP_MM
    by: FilmsBy = "colours"
    beyond: str = "cut"


AS_TOLD = HowRead()


@reader(VectorError, "This file", "Save it again, as plain SVG or PDF.")
def read_vector(data: bytes, how: HowRead = AS_TOLD) -> Drawing:
    """The drawing in an SVG or DXF file, on a page of a PDF file, or in a plot. Raises VectorError."""
    ends = OpenEnds(how.open_paths, how.line_mm, how.gap_mm)
    data = unpacked(data)
    # The libraries of both readers take long to load, and most designs need neither.
    if b"SECTION" in data[:400] and not data.lstrip().startswith(b"<"):
        from gladstack.core.drawing.dxf_read import read_dxf

        return read_dxf(data, None if how.reading == "as-told" else PX_MM[how.reading], ends, how.by)
    if _PDF in data[:1024]:
        return _pdf(data, how, ends)
    if data.startswith(_POSTSCRIPT):
        raise VectorError("This is a PostScript file, which cannot be read here.", "Save it as PDF or SVG.")
    if is_hpgl(data):
        return read_hpgl(data, ends)
    from gladstack.core.drawing.svg_read import read_svg

    return read_svg(data, PX_MM[how.reading], ends, how.tints, how.by)


def _pdf(data: bytes, how: HowRead, ends: OpenEnds) -> Drawing:
    """A page of a PDF file, and what is told of it."""
    from gladstack.core.drawing.pdf_read import pdf_page
    from gladstack.core.drawing.svg_read import read_svg

    page = pdf_page(data, how.page)
    drawing = read_svg(page.svg, MM_PER_PX, ends, how.tints, how.by)
    left_out = [Remark(f"pdf-{what}", _PDF_LEFT_OUT[what].format(count)) for what, count in page.left_out]
    return replace(drawing, remarks=(*drawing.remarks, *left_out), pages=page.pages)


@dataclass(frozen=True)
class FirstLook:
    """How a file is brought in: its first page that has something to cut, whether each of its layers is a film, and to how
    many films its colours are made fewer (None: each is one).
    """

    page: int
    films_by: FilmsBy = "colours"
    count: int | None = None


def looked_at(data: bytes) -> FirstLook:
    """How a file is brought in, if nobody says otherwise.

    Where each layer has one colour, each is a film; of colours beyond what anybody would cut, the nearest are one film.
    Raises VectorError.
    """
    page, drawing = _first_drawn(data)
    by: FilmsBy = "layers" if drawing.layering.plain else "colours"
    many = len({item.colour for item in drawing.items}) > _MANY_COLOURS and by == "colours"
    return FirstLook(page, by, FEWER_COLOURS if many else None)


def _first_drawn(data: bytes) -> tuple[int, Drawing]:
    """The first of a file's pages that can be read, and its drawing; of none the first one's fault."""
    try:
        return 1, read_vector(data)
    except VectorError as fault:
        for number in range(2, _MOST_LOOKED_AT + 1 if _PDF in data[:1024] else 2):
            try:
                return number, read_vector(data, HowRead(page=number))
            except VectorError:
                continue
        raise fault


def picture_within(data: bytes) -> bytes | None:
    """The picture that a vector file merely wraps, if that is all it does. Raises VectorError."""
    _, drawing = _first_drawn(data)
    if drawing.items or not drawing.pictures:
        return None
    if drawing.picture is None:
        raise VectorError("This file only refers to a picture outside it.", "Bring in that picture itself.")
    return drawing.picture


def read_and_seen(data: bytes, how: HowRead = AS_TOLD) -> ReadFile:
    """A file read, and what is seen of each of its colours, on its page or beyond it as well. Raises VectorError."""
    drawing = read_vector(data, how)
    size = (drawing.width_mm, drawing.height_mm)
    seen = tuple(visible(drawing.items).items())
    over = _overhang([shape for _, shape in seen], size)
    if over > _OVERHANG_MM and how.beyond == "cut":
        paper = shapely.box(0.0, 0.0, *size)
        seen = tuple((colour, clean(overlay.intersection(shape, paper))) for colour, shape in seen)
        if all(shape.is_empty for _, shape in seen):
            raise VectorError("All that this file draws lies beyond its page.", "Move it onto the page and save it again.")
    seen, lost = _without_slivers(seen)
    curves = tuple(c for item in drawing.items for c in item.curves)
    return ReadFile(
        size,
        drawing.told,
        seen,
        curves,
        drawing.remarks,
        drawing.open_paths,
        over if over > _OVERHANG_MM else 0.0,
        lost,
        drawing.pages,
        drawing.fixed,
        drawing.bare_mm,
        drawing.layering.layers,
        tuple((one.colour, one.name) for one in drawing.layering.layers) if how.by == "layers" else drawing.layering.names,
    )


def _overhang(shapes: Sequence[MultiPolygon], size_mm: tuple[float, float]) -> float:
    """How far shapes reach beyond a page, mm."""
    box = box_around([s.bounds for s in shapes if not s.is_empty])
    return max(-box[0], -box[1], box[2] - size_mm[0], box[3] - size_mm[1], 0.0) if box else 0.0


def _without_slivers(seen: Sequence[tuple[str, MultiPolygon]]) -> tuple[tuple[tuple[str, MultiPolygon], ...], int]:
    """What is seen without what no blade can cut, and how much that was."""
    kept = tuple((colour, MultiPolygon([p for p in shape.geoms if p.area >= SLIVER_MM2])) for colour, shape in seen)
    return kept, sum(len(shape.geoms) for _, shape in seen) - sum(len(shape.geoms) for _, shape in kept)


def vector_painting(source: ReadFile, merges: Sequence[Merge], dropped: Sequence[str], count: int | None = None) -> Painting:
    """What the file paints, after merges and drops of its colours, the nearest of them one until `count` are left."""
    into = {m.colour: m.into for m in merges}
    films = []
    for colour, _ in source.seen:
        film = colour
        for _ in range(len(into)):
            film = into.get(film, film)
        films.append(film)
    if count is not None:
        areas: dict[str, float] = {}
        for film, (colour, shape) in zip(films, source.seen, strict=True):
            if colour not in dropped:
                areas[film] = areas.get(film, 0.0) + float(shape.area)
        nearest = fewer(areas, count)
        films = [nearest.get(film, film) for film in films]
    painted = (
        Paint(None if colour in dropped else film, colour, shape)
        for film, (colour, shape) in zip(films, source.seen, strict=True)
    )
    return Painting(source.size_mm, tuple(painted), waits=True)


def fewer(areas: Mapping[str, float], count: int) -> dict[str, str]:
    """For each of some colours, with the areas they fill, the one it becomes so that no more than `count` are left.

    Again and again the colour whose loss changes the picture least goes to its nearest (Ward's merging, in CIELAB).
    """
    colours = list(areas)
    labs = to_lab(np.array([from_hex(c) for c in colours], float).reshape(-1, 3))
    weights = np.array([areas[c] for c in colours]) + 1e-6
    own = np.arange(len(colours))
    apart = ((labs[:, None] - labs[None]) ** 2).sum(axis=2)
    cost = apart * (weights[:, None] * weights[None]) / (weights[:, None] + weights[None])
    np.fill_diagonal(cost, np.inf)
    for _ in range(len(colours) - count):
        a, b = (int(k) for k in np.unravel_index(int(np.argmin(cost)), cost.shape))
        lose, keep = (a, b) if weights[a] <= weights[b] else (b, a)
        own[own == lose] = keep
        weights[keep] += weights[lose]
        cost[lose], cost[:, lose] = np.inf, np.inf
        left = np.isfinite(cost[keep])
        cost[keep, left] = apart[keep, left] * weights[keep] * weights[left] / (weights[keep] + weights[left])
        cost[left, keep] = cost[keep, left]
    return {colour: colours[k] for colour, k in zip(colours, own.tolist(), strict=True)}


def vector_facts(source: ReadFile, art: VectorArt) -> FileFacts:
    """What is known of the file; of near-equal shades those that are still films of their own."""
    colours = tuple(colour for colour, _ in source.seen)
    settled = {m.colour for m in art.merges} | set(art.dropped)
    alike = tuple((a, b) for a, b in near_shades(colours) if a not in settled and b not in art.dropped)
    width_mm, _ = source.size_mm
    return FileFacts(
        colours, alike, source.open_paths, source.pages, source.fixed,
        source.remarks, source.overhang_mm, source.slivers, width_mm, source.told, source.bare_mm,
        tuple(layer.name for layer in source.layers), source.names,
    )  # fmt: skip


def near_shades(colours: Sequence[str]) -> tuple[tuple[str, str], ...]:
    """Colours that hardly differ from an earlier one, each with that one."""
    if not colours:
        return ()
    labs = to_lab(np.array([from_hex(c) for c in colours], float).reshape(-1, 3))
    out: list[tuple[str, str]] = []
    kept: list[int] = []
    for k, colour in enumerate(colours):
        apart = np.hypot.reduce(labs[kept] - labs[k], axis=1) if kept else np.zeros(0)
        near = np.flatnonzero(apart < _NEAR_SHADE)
        if len(near):
            out.append((colour, colours[kept[int(near[0])]]))
        else:
            kept.append(k)
    return tuple(out)
