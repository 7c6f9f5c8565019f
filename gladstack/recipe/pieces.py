"""From art to pieces: the shapes that each art gives to films or takes out of them, with the curves they came from."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from typing import Literal

import numpy as np
import shapely
from shapely import MultiPolygon

from gladstack.core import figures, tolerances
from gladstack.core.colour import to_hex
from gladstack.core.curves import (
    Chain,
    Curve,
    Matrix,
    curves_of,
    on_grid,
    transform_chain,
    transform_curve,
    transform_points,
)
from gladstack.core.errors import VectorError
from gladstack.core.fonts import Face, open_face
from gladstack.core.joints import clean
from gladstack.core.lettering import (
    Bend,
    Layout,
    Lettering,
    Line,
    Tweak,
    lay_out,
    letter_curves,
    letter_shape,
    overlapping,
    unwelded,
    weld,
)
from gladstack.core.planar import PlanarMap
from gladstack.core.rings import fill, nest_rings, polygons_of
from gladstack.core.trace import OUTSIDE
from gladstack.recipe.arts import (
    Art,
    Ellipse,
    Form,
    Heart,
    LetteringArt,
    LineArt,
    PictureArt,
    Rectangle,
    RegularPolygon,
    Ribbon,
    RingShape,
    ShapeArt,
    Star,
    VectorArt,
)
from gladstack.recipe.fonts import shipped_font
from gladstack.recipe.lines import claimed_lines, trace
from gladstack.recipe.memo import key_of
from gladstack.recipe.regions import Claimed, Unclaimed
from gladstack.recipe.source import Clock, Source, nearest_colour, trace_picture
from gladstack.recipe.vectors import regions_of

Box = tuple[float, float, float, float]
Role = Literal["film", "background", "dropped", "merged", "empty"]
_IDENTITY = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)


def _no_file(digest: str) -> bytes:
    raise VectorError("A vector file of this design is missing.", "Bring it in again.")


@dataclass(frozen=True)
class Assets:
    """Where the bytes of pictures and vector files (by hash) and fonts (by key) come from."""

    picture: Callable[[str], bytes]
    font: Callable[[str], bytes] = shipped_font
    file: Callable[[str], bytes] = _no_file


@dataclass(frozen=True)
class Notice:
    """Something the maker should know: a stable code, a sentence, and the film or art it is about (None: the design)."""

    code: str
    text: str
    about: str | None = None


@dataclass(frozen=True)
class ColourInfo:
    """A colour of a picture: what became of it, and its share of the picture."""

    art: str
    colour: str
    share: float
    role: Role
    into: str | None
    picked: bool


@dataclass(frozen=True)
class Piece:
    """A shape for the film `film` (None: an opening), in stack millimetres; `planar` names the planar map it is a part of.

    `mapped` says that it has holes where other pieces lie on it.
    """

    film: str | None
    shape: MultiPolygon
    key: str
    planar: str | None = None
    mapped: bool = False


@dataclass(frozen=True)
class ArtPieces:
    """What one art comes to: pieces, the curves of their edges, and its box on the stack.

    `waiting` are its regions that no film has; `threshold` that of line art as taken and as proposed; `framed` says that
    its box counts for the design's extent, as that of a picture does; `own_width_mm` is its width before it was placed.
    """

    id: str
    key: str
    pieces: tuple[Piece, ...]
    curves: tuple[Curve, ...]
    box: Box
    colours: tuple[ColourInfo, ...] = ()
    source: Source | None = None
    notices: tuple[Notice, ...] = ()
    letters: tuple[tuple[int, str, Box], ...] = field(default=())
    file_colours: tuple[str, ...] = ()
    waiting: tuple[Unclaimed, ...] = ()
    threshold: tuple[int, int] | None = None
    framed: bool = False
    own_width_mm: float = 0.0

    @property
    def whole(self) -> MultiPolygon:
        """All pieces as one shape."""
        if len(self.pieces) == 1:
            return self.pieces[0].shape
        return clean(shapely.union_all([p.shape for p in self.pieces]))


def pieces_of(art: Art, assets: Assets, clock: Clock) -> ArtPieces:
    """What one art comes to. Raises GladStackError."""
    if isinstance(art, PictureArt):
        return _picture_pieces(art, assets, clock)
    key = key_of(art.kind, art)
    if isinstance(art, VectorArt):
        return clock.run("art", key, lambda: _vector_pieces(art, assets.file(art.file), clock, key))
    if isinstance(art, LineArt):
        return _line_pieces(art, assets, clock, key)
    if isinstance(art, LetteringArt):
        return clock.run("art", key, lambda: _lettering_pieces(art, assets, clock, key))
    return clock.run("art", key, lambda: _shape_pieces(art, key))


def _vector_pieces(art: VectorArt, data: bytes, clock: Clock, key: str) -> ArtPieces:
    own = key_of(art.file, art.reading, art.merges, art.dropped, art.pins)
    found = clock.run("art", key_of("regions", own), lambda: regions_of(art, data))
    notices = tuple(Notice(code, text, art.id) for code, text in found.notices)
    size = (found.width_mm, found.height_mm)
    made = _claimed_pieces(art, found.claimed, found.curves, size, key)
    return replace(made, notices=(*notices, *made.notices), file_colours=found.colours)


def _line_pieces(art: LineArt, assets: Assets, clock: Clock, key: str) -> ArtPieces:
    traced = trace(art, assets.picture, clock)

    def work() -> ArtPieces:
        size = (art.width_mm, art.width_mm * traced.size_px[1] / traced.size_px[0])
        made = _claimed_pieces(art, claimed_lines(art, traced), traced.curves, size, key)
        return replace(made, threshold=(traced.threshold, traced.proposed))

    return clock.run("art", key, work)


def _claimed_pieces(
    art: VectorArt | LineArt, claimed: Claimed, curves: Sequence[Curve], size: tuple[float, float], key: str
) -> ArtPieces:
    """The pieces of art whose regions belong to films by claim, moved to where it lies."""
    matrix = art.place.matrix
    pieces = tuple(
        Piece(film, _placed(shape, matrix), key_of(key, film), mapped=True)
        for film, shape in claimed.by_film.items()
        if film is not None and not shape.is_empty
    )
    width, height = size
    corners = transform_points(np.array([[0, 0], [width, 0], [width, height], [0, height]], float), matrix)
    box = (*corners.min(axis=0).tolist(), *corners.max(axis=0).tolist())
    points = transform_points(np.array([(w.x_mm, w.y_mm) for w in claimed.waiting], float).reshape(-1, 2), matrix)
    waiting = tuple(Unclaimed(float(x), float(y), w.area_mm2) for (x, y), w in zip(points, claimed.waiting, strict=True))
    lost = f"{claimed.lost} claims no longer meet a region."
    notices = (Notice("lost-pins", lost, art.id),) if claimed.lost else ()
    placed = tuple(c if matrix == _IDENTITY else transform_curve(c, matrix) for c in curves)
    return ArtPieces(art.id, key, pieces, placed, box, notices=notices, waiting=waiting, framed=True, own_width_mm=width)


def _shape_pieces(art: ShapeArt, key: str) -> ArtPieces:
    chains = [on_grid(transform_chain(c, art.place.matrix)) for c in form_chains(art.form)]
    curves = curves_of(chains, tolerances.FLATTEN_MM)
    nesting = nest_rings(chains)
    shape = MultiPolygon(polygons_of(curves, nesting) if nesting is not None else fill(curves))
    return ArtPieces(art.id, key, (Piece(art.film, shape, key),), tuple(curves), shape.bounds)


def form_chains(form: Form) -> tuple[Chain, ...]:
    """The closed curves of a plain shape about its own middle."""
    match form:
        case Rectangle():
            return figures.rectangle(form.width_mm, form.height_mm, form.radius_mm)
        case Ellipse():
            return figures.ellipse(form.width_mm, form.height_mm)
        case RegularPolygon():
            return figures.polygon(form.sides, form.across_mm)
        case Star():
            return figures.star(form.points, form.across_mm, form.inner)
        case Heart():
            return figures.heart(form.width_mm, form.height_mm)
        case RingShape():
            return figures.ring(form.across_mm, form.band_mm)
        case Ribbon():
            return figures.ribbon(form.width_mm, form.height_mm, form.fold_mm)
    raise AssertionError(form)


def _lettering_pieces(art: LetteringArt, assets: Assets, clock: Clock, key: str) -> ArtPieces:
    layout = lay_out(lettering_of(art, assets, clock))
    per_letter = letter_curves(layout.letters, art.place.matrix)
    shapes = [letter_shape(letter, c) for letter, c in zip(layout.letters, per_letter, strict=True)]
    films = [_film_of_letter(art, letter.index) for letter in layout.letters]
    join = weld if art.weld else unwelded
    pieces = tuple(
        Piece(film, join([s for s, f in zip(shapes, films, strict=True) if f == film]), key_of(key, film))
        for film in dict.fromkeys(films)
    )
    curves = tuple(c for own in per_letter for c in own)
    extent = [s.bounds for s in shapes]
    x, y = art.place.x_mm, art.place.y_mm
    box = _around(extent) if extent else (x, y, x, y)
    letters = tuple((lt.index, lt.text, s.bounds) for lt, s in zip(layout.letters, shapes, strict=True))
    return ArtPieces(art.id, key, pieces, curves, box, notices=_letter_notices(art, layout, shapes, films), letters=letters)


def lettering_of(art: LetteringArt, assets: Assets, clock: Clock) -> Lettering:
    """The core's lettering for an art's choices, with its fonts opened."""

    def face(key: str) -> Face:
        return clock.run("art", key_of("face", key), lambda: open_face(assets.font(key)))

    rows = art.text.split("\n")
    styles = [art.lines[k] if k < len(art.lines) else None for k in range(len(rows))]
    lines = tuple(
        Line(
            row,
            face((style and style.font) or art.font),
            (style and style.height_mm) or art.height_mm,
            style.width_mm if style else None,
            style.like if style else None,
        )
        for row, style in zip(rows, styles, strict=True)
    )
    bend = Bend(art.bend.radius_mm, art.bend.sense) if art.bend else None
    tweaks = {t.index: Tweak(t.dx_mm, t.dy_mm, t.turn_deg, t.scale) for t in art.letters}
    return Lettering(lines, art.spacing_mm, art.leading, art.align, art.fit_width_mm, art.fit_height_mm, bend, tweaks)


def _film_of_letter(art: LetteringArt, index: int) -> str | None:
    """The film of one letter: the last span that holds it, else the art's own."""
    return next((s.film for s in reversed(art.films) if s.start <= index < s.end), art.film)


def _letter_notices(
    art: LetteringArt, layout: Layout, shapes: Sequence[MultiPolygon], films: Sequence[str | None]
) -> tuple[Notice, ...]:
    out = []
    by_font: dict[str, list[str]] = {}
    for character, family in layout.missing:
        by_font.setdefault(family, []).append(f"“{character}”")
    for family, lacking in by_font.items():
        told = ", ".join(lacking[:8]) + (" and others" if len(lacking) > 8 else "")
        out.append(Notice("missing-glyph", f"The font {family} has no {told}: left out. Choose another font.", art.id))
    if not art.weld:
        pairs = [(i, j) for i, j in overlapping(shapes) if films[i] == films[j]]
        if pairs:
            i, j = pairs[0]
            named = f"“{layout.letters[i].text}” and “{layout.letters[j].text}”"
            more = f" and {len(pairs) - 1} other pairs" if len(pairs) > 1 else ""
            said = f"{named}{more} overlap and are not welded: the blade cuts through them. Weld the lettering."
            out.append(Notice("unwelded", said, art.id))
    return tuple(out)


def _picture_pieces(art: PictureArt, assets: Assets, clock: Clock) -> ArtPieces:
    source = trace_picture(art, assets.picture, clock)
    matrix = art.place.matrix
    key = key_of(source.key, art.id, art.separation.dropped, art.separation.background, matrix)
    return clock.run("art", key, lambda: _map_pieces(art, source, matrix, key))


def _map_pieces(art: PictureArt, source: Source, matrix: Matrix, key: str) -> ArtPieces:
    """What became of every colour of the picture, and the pieces of those that are films."""
    colours, separation = source.palette.colours, art.separation
    dropped = {nearest_colour(colours, c) for c in separation.dropped}
    pieces: list[Piece] = []
    roles: list[Role] = []
    for k, rgb in enumerate(colours):
        background = k == source.background and (source.transparent or separation.background != "keep")
        outside_only = background and not source.transparent and separation.background == "outside"
        if source.merged[k] != k:
            roles.append("merged")
        elif k in dropped:
            roles.append("dropped")
        elif background and not outside_only:
            roles.append("background")
        else:
            shape = _placed(_shape(source.map, k, inside_only=outside_only), matrix)
            if shape.is_empty:
                roles.append("background" if outside_only else "empty")
            else:
                roles.append("film")
                pieces.append(Piece(to_hex(rgb), shape, key_of(key, k), planar=key, mapped=True))
    picked = {nearest_colour(colours, c) for c in separation.picked}
    infos = tuple(
        ColourInfo(
            art.id, to_hex(rgb), float(source.shares[k]), roles[k],
            to_hex(colours[int(source.merged[k])]) if roles[k] == "merged" else None, k in picked,
        )
        for k, rgb in enumerate(colours)
        if not (source.transparent and k == 0) and not (roles[k] == "empty" and separation.count is None)
    )  # fmt: skip
    curves = tuple(c if matrix == _IDENTITY else transform_curve(c, matrix) for c in (a.curve for a in source.map.arcs))
    height = art.width_mm * source.size_px[1] / source.size_px[0]
    corners = transform_points(np.array([[0, 0], [art.width_mm, 0], [art.width_mm, height], [0, height]]), matrix)
    box = (*corners.min(axis=0).tolist(), *corners.max(axis=0).tolist())
    notices = tuple(
        Notice("film-empty", f"{info.colour} only occurs in specks, so it has no film.", art.id)
        for info in infos
        if info.role == "empty"
    )
    if not source.palette.flat:
        notices = (_not_flat(source, art.id), *notices)
    return ArtPieces(art.id, key, tuple(pieces), curves, box, infos, source, notices, framed=True)


def _shape(map_: PlanarMap, label: int, *, inside_only: bool) -> MultiPolygon:
    if not inside_only:
        return map_.shape_of(label)
    touching = {a.left for a in map_.arcs if a.right == OUTSIDE} | {a.right for a in map_.arcs if a.left == OUTSIDE}
    kept = [map_.areas[k] for k in np.flatnonzero(map_.labels == label) if int(k) not in touching]
    return MultiPolygon([p for p in kept if not p.is_empty])


def _placed(shape: MultiPolygon, matrix: Matrix) -> MultiPolygon:
    if matrix == _IDENTITY:
        return shape
    moved: MultiPolygon = shapely.transform(shape, lambda p: transform_points(p, matrix))
    return moved if moved.is_valid else clean(shapely.make_valid(moved))


def _not_flat(source: Source, art: str) -> Notice:
    return Notice(
        "not-flat",
        f"This picture is not made of flat colours: only {source.palette.explained:.0%} of it lies near a plain colour. "
        "It was grouped into films; choose how many to spend on it.",
        art,
    )


def _around(boxes: Sequence[Box]) -> Box:
    rows = np.array(boxes)
    left, top = rows[:, :2].min(axis=0).tolist()
    right, bottom = rows[:, 2:].max(axis=0).tolist()
    return left, top, right, bottom
