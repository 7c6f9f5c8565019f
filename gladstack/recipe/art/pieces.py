"""From art to pieces: the shapes that each art gives to films or takes out of them, with the curves they came from."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from shapely import MultiPolygon

from gladstack.core.base import tolerances
from gladstack.core.base.colour import to_hex
from gladstack.core.geometry import figures
from gladstack.core.geometry.curves import Chain, Matrix, curves_of, on_grid, transform_chain, transform_curve
from gladstack.core.geometry.rings import fill, nest_rings, polygons_of
from gladstack.core.lettering.faces import Face, open_face
from gladstack.core.lettering.setting import (
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
from gladstack.core.picture.planar import PlanarMap
from gladstack.core.picture.trace import OUTSIDE
from gladstack.recipe.art.claimed import IDENTITY, Origin, box_of, claimed_pieces, placed, regions_in
from gladstack.recipe.art.given import ArtPieces, Assets, Box, ColourInfo, Notice, Piece, Role
from gladstack.recipe.art.line_drawings import origin_of_lines
from gladstack.recipe.art.regions import Painted, Painting, Regions
from gladstack.recipe.art.separated import NOISY, Clock, Source, nearest_colour, trace_picture
from gladstack.recipe.art.vectors import origin_of_vector
from gladstack.recipe.model.arts import (
    AnyArt,
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
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.memo import key_of


def pieces_of(art: Art, assets: Assets, clock: Clock) -> ArtPieces:
    """What one art comes to. Raises GladStackError."""
    if isinstance(art, PictureArt):
        return _picture_pieces(art, assets, clock)
    key = key_of(art.kind, art)
    if isinstance(art, VectorArt | LineArt):
        origin = _origin(art, assets, clock)
        return clock.run("art", key, lambda: claimed_pieces(art, origin, clock, key))
    if isinstance(art, LetteringArt):
        return clock.run("art", key, lambda: _lettering_pieces(art, assets, clock, key))
    return clock.run("art", key, lambda: _shape_pieces(art, key))


def regions_of_art(art: AnyArt, assets: Assets, clock: Clock) -> Regions | None:
    """The regions of an art, in its own mm; None if it does not come as regions. Raises GladStackError."""
    if not isinstance(art, PictureArt | VectorArt | LineArt):
        return None
    return regions_in(art, _origin(art, assets, clock), clock)[0]


def costly_stages(recipe: Recipe, assets: Assets, clock: Clock) -> None:
    """Works out what takes long, and nothing else: pictures separated, lines traced, files read. Raises GladStackError."""
    for art in recipe.arts:
        if isinstance(art, PictureArt):
            trace_picture(art, assets.picture, clock)
        elif isinstance(art, VectorArt | LineArt):
            _origin(art, assets, clock)


def _origin(art: PictureArt | VectorArt | LineArt, assets: Assets, clock: Clock) -> Origin:
    if isinstance(art, LineArt):
        return origin_of_lines(art, assets.picture, clock)
    if isinstance(art, PictureArt):
        return _origin_of_picture(art, trace_picture(art, assets.picture, clock), clock)
    key = key_of("vector", art.file, art.reading, art.open_paths, art.line_mm, art.merges, art.dropped)
    return clock.run("map", key, lambda: origin_of_vector(art, assets.file(art.file), key), costly=True)


def _shape_pieces(art: ShapeArt, key: str) -> ArtPieces:
    chains = [on_grid(transform_chain(c, art.place.matrix)) for c in form_chains(art.form)]
    curves = curves_of(chains, tolerances.FLATTEN_MM)
    nesting = nest_rings([c.points for c in curves])
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
    if not art.pins and not art.mends and art.simplify_mm <= 0:
        return clock.run("art", key, lambda: _map_pieces(art, source, matrix, key))
    key = key_of(key, art.pins, art.mends, art.simplify_mm)

    def work() -> ArtPieces:
        made = claimed_pieces(art, _origin_of_picture(art, source, clock), clock, key)
        _, infos = _parted(art, source)
        return replace(made, colours=infos, source=source, notices=(*_picture_notices(art, source, infos), *made.notices))

    return clock.run("art", key, work)


def _map_pieces(art: PictureArt, source: Source, matrix: Matrix, key: str) -> ArtPieces:
    """The pieces of a picture that nothing was claimed or mended in: its planar map's own."""
    painted, infos = _parted(art, source)
    pieces = tuple(
        Piece(p.film, placed(p.shape, matrix), key_of(key, p.colour), planar=key, shared=True, mapped=True)
        for p in painted
        if p.film is not None
    )
    curves = tuple(c if matrix == IDENTITY else transform_curve(c, matrix) for c in (a.curve for a in source.map.arcs))
    notices = _picture_notices(art, source, infos)
    box = box_of(_picture_size(art, source), matrix)
    return ArtPieces(
        art.id, key, pieces, curves, box, infos, source, notices, framed=True, own_width_mm=art.width_mm,
        regions_key=_painting_key(art, source),
    )  # fmt: skip


def _origin_of_picture(art: PictureArt, source: Source, clock: Clock) -> Origin:
    """A separated picture as what it paints: every colour is a region, those that are no film nobody's."""
    key = _painting_key(art, source)

    def work() -> Origin:
        painted, _ = _parted(art, source)
        painting = Painting(key, _picture_size(art, source), painted, waits=False)
        return Origin(painting, tuple(a.curve for a in source.map.arcs))

    return clock.run("art", key, work)


def _painting_key(art: PictureArt, source: Source) -> str:
    return key_of("painting", source.key, art.separation.dropped, art.separation.background)


def _picture_size(art: PictureArt, source: Source) -> tuple[float, float]:
    return art.width_mm, art.width_mm * source.size_px[1] / source.size_px[0]


def _parted(art: PictureArt, source: Source) -> tuple[tuple[Painted, ...], tuple[ColourInfo, ...]]:
    """What every colour of the picture paints, and what became of it."""
    colours, separation = source.palette.colours, art.separation
    dropped = {nearest_colour(colours, c) for c in separation.dropped}
    painted: list[Painted] = []
    roles: list[Role] = []
    for k, rgb in enumerate(colours):
        background = k == source.background and (source.transparent or separation.background != "keep")
        outside_only = background and not source.transparent and separation.background == "outside"
        shape = MultiPolygon() if source.merged[k] != k else _shape(source.map, k, inside_only=outside_only)
        if source.merged[k] != k:
            roles.append("merged")
        elif k in dropped:
            roles.append("dropped")
        elif background and not outside_only:
            roles.append("background")
        elif shape.is_empty:
            roles.append("background" if outside_only else "empty")
        else:
            roles.append("film")
        if not shape.is_empty:
            painted.append(Painted(to_hex(rgb) if roles[-1] == "film" else None, to_hex(rgb), shape))
    picked = {nearest_colour(colours, c) for c in separation.picked}
    infos = tuple(
        ColourInfo(
            art.id, to_hex(rgb), float(source.shares[k]), roles[k],
            to_hex(colours[int(source.merged[k])]) if roles[k] == "merged" else None, k in picked,
        )
        for k, rgb in enumerate(colours)
        if not (source.transparent and k == 0) and not (roles[k] == "empty" and separation.count is None)
    )  # fmt: skip
    return tuple(painted), infos


def _picture_notices(art: PictureArt, source: Source, infos: Sequence[ColourInfo]) -> tuple[Notice, ...]:
    notices = [
        Notice("film-empty", f"{info.colour} only occurs in specks, so it has no film.", art.id)
        for info in infos
        if info.role == "empty"
    ]
    if source.noisy:
        return (Notice("noisy", NOISY, art.id), *notices)
    return tuple(notices) if source.palette.flat else (_not_flat(source, art.id), *notices)


def _shape(map_: PlanarMap, label: int, *, inside_only: bool) -> MultiPolygon:
    if not inside_only:
        return map_.shape_of(label)
    touching = {a.left for a in map_.arcs if a.right == OUTSIDE} | {a.right for a in map_.arcs if a.left == OUTSIDE}
    kept = [map_.areas[k] for k in np.flatnonzero(map_.labels == label) if int(k) not in touching]
    return MultiPolygon([p for p in kept if not p.is_empty])


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
