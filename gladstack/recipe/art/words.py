"""Lettering as art: set in its fonts, letter by letter, and what each film has of it."""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import shapely
from shapely import MultiPolygon

from gladstack.core.base.plane import Box, box_around
from gladstack.core.geometry.curves import Curve
from gladstack.core.lettering.faces import Face, open_face
from gladstack.core.lettering.lettering import Bend, Layout, Lettering, Line, Tweak
from gladstack.core.lettering.setting import ink_box, lay_out, letter_curves, letter_shape, overlapping, unwelded, weld
from gladstack.recipe.art.given import ArtPiece, ArtPieces, Assets, Crossing, LetterFacts, Word, Zones
from gladstack.recipe.art.mended import OPENING, Idle, Mended, mended_in_place
from gladstack.recipe.model.arts import LetterForm, LetteringArt, LineStyle, OneFilmArt
from gladstack.recipe.model.fields import shown
from gladstack.recipe.model.fonts import FALLBACKS
from gladstack.stages.engine import Stages, constant, loaded, part
from gladstack.stages.memo import Keyed

_JOINED_SHARE = 0.5
"""Lettering is a joined script if at least so much of its neighbouring letters meet."""
_TOUCH_MM = 1e-6


@dataclass(frozen=True)
class SetWords:
    """Lettering as set: shapes by film, curves, box, letters, and what is told of it."""

    by_film: dict[str | None, MultiPolygon]
    curves: tuple[Curve, ...]
    box: Box
    facts: LetterFacts
    own_width_mm: float


def word_pieces(art: LetteringArt, assets: Assets, stages: Stages) -> ArtPieces:
    """The pieces of lettering. Raises FontError."""
    made = stages.run("art", set_words, art, faces_of(art, assets, stages))
    by_film = {film: _of_film(made, film) for film in made.value.by_film}
    done = mended_pieces(art, by_film, made.value.own_width_mm, stages)
    return ArtPieces(
        art.id,
        done.pieces,
        part(made, "curves", lambda words: words.curves),
        made.value.box,
        made.value.facts,
        own_width_mm=made.value.own_width_mm,
        idle=done.idle,
    )


@dataclass(frozen=True)
class MendedPieces:
    """The pieces of lettering or a shape after its mends, and those that found nothing to do."""

    pieces: tuple[ArtPiece, ...]
    idle: tuple[Idle, ...]


def mended_pieces(
    art: OneFilmArt, by_film: Mapping[str | None, Keyed[MultiPolygon]], width_mm: float, stages: Stages
) -> MendedPieces:
    """What art of one film comes to after its mends."""
    if not any(m.on for m in art.mends):
        return MendedPieces(tuple(ArtPiece(film, shape) for film, shape in by_film.items()), ())
    own = {OPENING if film is None else film: shape for film, shape in by_film.items()}
    done = stages.run("art", mended_in_place, own, art.mends, width_mm, art.place.matrix)
    pieces = [
        ArtPiece(
            None if film == OPENING else film,
            part(done, f"film {film}", _Film(film)),
            zones=Zones(pushed=constant(done.value.pushed.get(film, MultiPolygon()))),
        )
        for film, shape in done.value.by_film.items()
        if not shape.is_empty
    ]
    return MendedPieces(tuple(pieces), done.value.idle)


@dataclass(frozen=True)
class _Film:
    film: str

    def __call__(self, done: Mended) -> MultiPolygon:
        return done.by_film[self.film]


def _of_film(made: Keyed[SetWords], film: str | None) -> Keyed[MultiPolygon]:
    return part(made, f"film {film}", lambda words: words.by_film[film])


Cut = tuple[str, tuple[tuple[str, float], ...]]
"""A font by its key and where its axes stand."""


def faces_of(art: LetteringArt, assets: Assets, stages: Stages) -> dict[Cut, Keyed[Face]]:
    """The fonts of lettering, opened, with those that lend letters if these have not all."""

    def face(cut: Cut) -> Keyed[Face]:
        key, axes = cut
        return stages.run("art", open_face, loaded(lambda: assets.font(key), "font", key), axes)

    faces = {cut: face(cut) for cut in dict.fromkeys([_cut(art), *(_cut(art, line) for line in art.lines)])}
    letters = set(shown(art.text)) - {"\n"}
    if not all(all(map(made.value.has, letters)) for made in faces.values()):
        for key in FALLBACKS:
            faces.setdefault((key, ()), face((key, ())))
    return faces


def _cut(art: LetteringArt, style: LineStyle | None = None) -> Cut:
    own = style if style is not None and style.font else art
    return own.font or art.font, tuple((axis.tag, axis.value) for axis in own.axes)


def lettering_of(art: LetteringArt, faces: Mapping[Cut, Face]) -> Lettering:
    """The core's lettering for an art's choices."""
    others = tuple(faces[key, ()] for key in FALLBACKS if (key, ()) in faces)
    rows = shown(art.text).split("\n")
    styles = [art.lines[k] if k < len(art.lines) else None for k in range(len(rows))]
    lines = tuple(
        Line(
            row,
            faces[_cut(art, style)],
            (style and style.height_mm) or art.height_mm,
            style.width_mm if style else None,
            style.like if style else None,
            art.direction,
            others,
            _forms(art.forms),
            style.spacing_mm if style else None,
            style.spread if style else False,
        )
        for row, style in zip(rows, styles, strict=True)
    )
    bend = Bend(art.bend.radius_mm, art.bend.sense) if art.bend else None
    tweaks = {t.index: Tweak(t.dx_mm, t.dy_mm, t.turn_deg, t.scale, _forms(t.forms)) for t in art.letters}
    pairs = {(pair.first, pair.second): pair.mm for pair in art.pairs}
    return Lettering(lines, art.spacing_mm, art.leading, art.align, art.fit_width_mm, art.fit_height_mm, bend, tweaks, pairs)


def _forms(forms: Sequence[LetterForm]) -> tuple[tuple[str, int], ...]:
    return tuple((form.tag, form.value) for form in forms)


def set_words(art: LetteringArt, faces: Mapping[Cut, Face]) -> SetWords:
    """Lettering set in its fonts."""
    layout = lay_out(lettering_of(art, faces))
    per_letter = letter_curves(layout.letters, art.place.matrix)
    shapes = [letter_shape(letter, c) for letter, c in zip(layout.letters, per_letter, strict=True)]
    films = [_film_of_letter(art, letter.index) for letter in layout.letters]
    join = weld if art.weld else unwelded
    by_film = {film: join([s for s, f in zip(shapes, films, strict=True) if f == film]) for film in dict.fromkeys(films)}
    x, y = art.place.x_mm, art.place.y_mm
    letters = tuple((lt.index, lt.text, s.bounds) for lt, s in zip(layout.letters, shapes, strict=True))
    box = box_around([s.bounds for s in shapes]) or (x, y, x, y)
    curves = tuple(c for own in per_letter for c in own)
    words = _joined_words(layout, shapes, films) if art.weld else ()
    ink = ink_box(layout.letters)
    own_width_mm = ink[2] - ink[0] if ink else art.height_mm
    crossing = None if art.weld else _crossing(layout, shapes, films)
    facts = LetterFacts(letters, words, tuple(layout.missing), tuple(layout.lent), crossing, layout.scales)
    return SetWords(by_film, curves, box, facts, own_width_mm)


def _joined_words(layout: Layout, shapes: Sequence[MultiPolygon], films: Sequence[str | None]) -> tuple[Word, ...]:
    """The words of a script whose letters mostly join: runs of letters that follow each other, by film."""
    rows: list[list[int]] = []
    for k, letter in enumerate(layout.letters):
        after = rows and letter.index == layout.letters[rows[-1][-1]].index + 1 and films[k] == films[rows[-1][-1]]
        if after:
            rows[-1].append(k)
        else:
            rows.append([k])
    beside = [(a, b) for row in rows for a, b in itertools.pairwise(row)]
    met = sum(bool(shapely.dwithin(shapes[a], shapes[b], _TOUCH_MM)) for a, b in beside)
    if not beside or met < _JOINED_SHARE * len(beside):
        return ()
    out = []
    for row in rows:
        if len(row) > 1:
            bodies = [max(shapes[k].geoms, key=lambda p: float(p.area)) for k in row if not shapes[k].is_empty]
            at = shapely.get_coordinates(shapely.point_on_surface(bodies)).tolist()
            text = "".join(layout.letters[k].text for k in row)
            out.append(Word(text, films[row[0]], tuple((x, y) for x, y in at)))
    return tuple(out)


@dataclass(frozen=True)
class Measured:
    """How wide the ink of lettering is in its place, how many times as large as it was told each line is set before that,
    and what its fonts lack.
    """

    width_mm: float
    scales: tuple[float, ...]
    missing: str


def measured_words(art: LetteringArt, faces: Mapping[Cut, Face]) -> Measured:
    """How large lettering is; nothing is welded for it."""
    layout = lay_out(lettering_of(art, faces))
    points = [c.points for own in letter_curves(layout.letters, art.place.matrix) for c in own]
    width = max(float(p[:, 0].max()) for p in points) - min(float(p[:, 0].min()) for p in points) if points else 0.0
    missing = "".join(dict.fromkeys(character for character, _ in layout.missing))
    return Measured(width, layout.scales, missing)


def _film_of_letter(art: LetteringArt, index: int) -> str | None:
    """The film of one letter: the last span that holds it, else its line's, else the art's own."""
    row = shown(art.text)[:index].count("\n")
    of_line = art.lines[row].film if row < len(art.lines) else None
    return next((s.film for s in reversed(art.films) if s.start <= index < s.end), of_line or art.film)


def _crossing(layout: Layout, shapes: Sequence[MultiPolygon], films: Sequence[str | None]) -> Crossing | None:
    """The letters of one film that overlap."""
    pairs = [(i, j) for i, j in overlapping(shapes) if films[i] == films[j]]
    if not pairs:
        return None
    i, j = pairs[0]
    box = box_around([s.bounds for pair in pairs for s in (shapes[pair[0]], shapes[pair[1]])])
    return Crossing(layout.letters[i].text, layout.letters[j].text, len(pairs), box)
