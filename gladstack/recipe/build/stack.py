"""From pieces to films: what each film's own shape is, after welding, treatments, openings and makings, and their order."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from shapely import MultiPolygon, Polygon

from gladstack.core.base.colour import delta_e, from_hex
from gladstack.core.base.errors import RecipeError
from gladstack.core.films import shadows
from gladstack.core.films.joints import Joint, JointKind, lying_on
from gladstack.core.films.names import film_names, numbered
from gladstack.core.films.order import propose_order
from gladstack.core.geometry import overlay
from gladstack.core.geometry.rings import as_multi
from gladstack.core.geometry.shapes import clean, cut_away, grow
from gladstack.recipe.art.given import NOTHING, ArtPieces, Piece
from gladstack.recipe.art.separated import SAME_COLOUR, Clock, nearest_colour
from gladstack.recipe.model.arts import OneFilmArt, RegionArt
from gladstack.recipe.model.makings import Band, DropShadow, Making, OutlineShadow, StitchLine
from gladstack.recipe.model.recipe import FilmChoice, Recipe
from gladstack.stages.memo import key_of

_ONE_FILM = 3.0
"""Lettering given to a film joins the picture's film whose colour is within this delta-E of its key."""
_MAKING_NAMES = {"outline-shadow": "Outline shadow", "drop-shadow": "Drop shadow", "stitch-line": "Stitches", "band": "Band"}


@dataclass(frozen=True)
class Draft:
    """A film and its own shape. `map` names the films that overlap it nowhere, if it is part of one art only, and in
    `shared` ones common edges are the same points; `mapped` says that any part of it comes from a map.

    Where it is `solid` or `open`, what lies below it is so, whatever the joint; in `pushed` it reaches on under others.
    """

    film: str
    colour: str
    key: str
    shape: MultiPolygon
    map: str | None
    mapped: bool
    shared: bool = False
    solid: MultiPolygon = NOTHING
    open: MultiPolygon = NOTHING
    pushed: MultiPolygon = NOTHING

    def parts(self, joint: Joint, lower: MultiPolygon) -> list[tuple[MultiPolygon, Joint]]:
        """The film in parts, each with the joint that a film below, of the shape `lower`, has with it.

        What is to be solid below is so in the film that it lies on, and in none below that.
        """
        if self.solid.is_empty and self.open.is_empty:
            return [(self.shape, joint)]
        lap = joint.mm if joint.kind in (JointKind.LAP, JointKind.FULL) else 0.0
        hard = Joint(JointKind.LAP, lap) if joint.kind is JointKind.FULL else joint
        based = lying_on(lower, list(clean(overlay.intersection(self.shape, self.solid)).geoms)) if lower.geoms else []
        opened = clean(overlay.intersection(self.shape, self.open))
        parted = [
            (MultiPolygon(based), Joint(JointKind.FULL, lap)),
            (opened, hard),
            (cut_away(self.shape, [*based, opened]), joint),
        ]
        return [(shape, how) for shape, how in parted if not shape.is_empty]


@dataclass(frozen=True)
class _Shape:
    shape: MultiPolygon
    key: str


class Stack:
    """The films of a recipe, worked out from its art's pieces on demand, so that makings find what they are made of."""

    def __init__(self, recipe: Recipe, arts: Sequence[ArtPieces], clock: Clock) -> None:
        self._recipe = recipe
        self._clock = clock
        self._by_art = {a.id: a for a in arts}
        colours = tuple(dict.fromkeys(p.film for a in arts if a.framed for p in a.pieces if p.film))
        self._picture_films = colours
        self.pieces = self._kept(arts)
        self._all_films = frozenset(self.films())
        self._adrift = self._settled()
        self._done: dict[str, _Shape] = {}
        self._at_work: list[str] = []

    def canonical(self, key: str) -> str:
        """The film a key means: a picture's film of nearly that colour, else the one of just that key."""
        if key in self._picture_films or not key.startswith("#") or not self._picture_films:
            return key
        apart = [float(delta_e(from_hex(c), from_hex(key))) for c in self._picture_films]
        best = min(range(len(apart)), key=apart.__getitem__)
        return self._picture_films[best] if apart[best] <= _ONE_FILM else key

    def _kept(self, arts: Sequence[ArtPieces]) -> list[tuple[str, Piece]]:
        """All pieces with the art they are of, in its film, cut down to what they are kept inside of or without."""
        out = []
        for pieces in arts:
            art = self._recipe.art(pieces.id)
            within = self._within(art.inside, arts, pieces.id) if art and art.inside else None
            without = [self._within(ref, arts, pieces.id) for ref in getattr(art, "without", ())]
            for piece in pieces.pieces:
                kept = piece if within is None and not without else self._cut_down(piece, within, without)
                film = None if kept.film is None else self.canonical(kept.film)
                out.append((pieces.id, replace(kept, film=film)))
        return out

    def _cut_down(self, piece: Piece, within: _Shape | None, without: Sequence[_Shape]) -> Piece:
        key = key_of("inside", piece.key, within and within.key, [s.key for s in without])

        def work() -> MultiPolygon:
            shape = piece.shape if within is None else clean(overlay.intersection(piece.shape, within.shape))
            return cut_away(shape, [s.shape for s in without])

        return replace(piece, shape=self._clock.run("art", key, work), key=key, planar=None)

    def _within(self, ref: str, arts: Sequence[ArtPieces], own: str) -> _Shape:
        """What an art is kept inside of: another art, or what all other art gives to a film."""
        if ref in self._by_art:
            if ref == own:
                raise RecipeError("Art cannot be cut to its own shape.", "Choose another art or film.")
            return _Shape(self._by_art[ref].whole, self._by_art[ref].key)
        film = self.canonical(ref)
        found = [p for a in arts if a.id != own for p in a.pieces if p.film and self.canonical(p.film) == film]
        shape = clean(overlay.union_all([p.shape for p in found])) if found else MultiPolygon()
        return _Shape(shape, key_of([p.key for p in found]))

    def choice(self, film: str) -> FilmChoice:
        """The maker's choices for a film; where a picture's colours have shifted, with those that went adrift to it."""
        exact = self._recipe.film(film)
        before = self._adrift.get(film)
        if before is None:
            return exact
        plain = FilmChoice(film=film)
        kept = {k: v for k in FilmChoice.model_fields if (v := getattr(exact, k)) != getattr(plain, k)}
        return before.model_copy(update={**kept, "film": film})

    def _settled(self) -> dict[str, FilmChoice]:
        """Choices for colours that are no film any more, by the one film each is for now: the nearest that has none yet."""
        adrift = [f for f in self._recipe.films if f.film.startswith("#") and f.film not in self._all_films]
        pairs = sorted(
            (apart, k, film)
            for k, choice in enumerate(adrift)
            for film in self._picture_films
            if (apart := float(delta_e(from_hex(film), from_hex(choice.film)))) <= SAME_COLOUR
        )
        out: dict[str, FilmChoice] = {}
        placed: set[int] = set()
        for _, k, film in pairs:
            if k not in placed and film not in out:
                out[film] = adrift[k]
                placed.add(k)
        return out

    def colour(self, film: str) -> str:
        """The colour a film is shown in: as chosen, else the one its key tells."""
        return self.choice(film).colour or film

    def films(self) -> list[str]:
        """All films, in the order their art and makings were brought in."""
        named = [p.film for _, p in self.pieces if p.film] + [self.canonical(m.film) for m in self._recipe.makings]
        return list(dict.fromkeys(named))

    def shape(self, film: str) -> _Shape:
        """A film's own shape. Raises RecipeError if it would be made of itself."""
        if film in self._done:
            return self._done[film]
        if film in self._at_work:
            raise RecipeError("A shadow or line cannot be made of itself.", "Choose another source for it.")
        self._at_work.append(film)
        try:
            self._done[film] = self._worked_out(film)
        finally:
            self._at_work.pop()
        return self._done[film]

    def untreated(self, film: str) -> MultiPolygon:
        """A film's shape before it is made heavier or lighter, and before openings."""
        return as_multi([q for p in self._parts(film) for q in p.shape.geoms])

    def _parts(self, film: str) -> list[_Shape]:
        own = [_Shape(p.shape, p.key) for _, p in self.pieces if p.film == film]
        return own + [self.made(m) for m in self._recipe.makings if self.canonical(m.film) == film]

    def _worked_out(self, film: str) -> _Shape:
        parts = self._parts(film)
        by = self.choice(film).thicken_mm
        openings = [
            (p, margin) for id_, p in self.pieces if p.film is None and (margin := self._margin(id_, film)) is not None
        ]
        if len(parts) == 1 and by == 0 and not openings:
            return parts[0]
        key = key_of("film", [p.key for p in parts], by, [(p.key, margin) for p, margin in openings])

        def work() -> MultiPolygon:
            shape = as_multi([q for p in parts for q in p.shape.geoms])
            if by:
                shape = shadows.thicken(shape, by)
            if openings:
                holes = [grow(p.shape, margin) for p, margin in openings]
                shape = clean(overlay.difference(shape, overlay.union_all(holes)))
            return shape

        return _Shape(self._clock.run("layers", key, work), key)

    def _margin(self, art_id: str, film: str) -> float | None:
        """How much wider than itself an opening of an art is cut out of a film; None if it does not open that film."""
        art = self._recipe.art(art_id)
        if isinstance(art, OneFilmArt):
            return art.margin_mm if not art.opens or film in map(self.canonical, art.opens) else None
        return 0.0 if isinstance(art, RegionArt) else None

    def made(self, making: Making) -> _Shape:
        """What a making comes to."""
        sources = [self._source(ref) for ref in self._uncovered(making.of)] if making.of else self._all_but(making)
        key = key_of(making, [s.key for s in sources])

        def work() -> MultiPolygon:
            return make_shape(making, [p for s in sources for p in s.shape.geoms])

        return _Shape(self._clock.run("layers", key, work), key)

    def _uncovered(self, refs: Sequence[str]) -> list[str]:
        """Those of `refs` that do not lie wholly under the shadow of another one of them, and so add nothing to it."""
        films = [self.canonical(ref) for ref in refs]
        covered: set[str] = set()
        if all(p.film for _, p in self.pieces):
            for shadow in self._recipe.makings:
                grows = isinstance(shadow, OutlineShadow) or (
                    isinstance(shadow, DropShadow) and shadow.style == "block" and shadow.grow_mm >= 0
                )
                if grows and self.canonical(shadow.film) in films and self.choice(shadow.film).thicken_mm >= 0:
                    covered |= {self.canonical(ref) for ref in shadow.of}
        return [ref for ref, film in zip(refs, films, strict=True) if film not in covered] or list(refs)

    def sources_of(self, making: Making) -> list[str]:
        """The films that a making is made of, directly."""
        if not making.of:
            return [f for f in self.films() if f != self.canonical(making.film)]
        out = []
        for ref in making.of:
            if ref in self._by_art:
                out += [p.film for id_, p in self.pieces if id_ == ref and p.film]
            else:
                out.append(self.canonical(ref))
        return out

    def _source(self, ref: str) -> _Shape:
        if ref in self._by_art:
            art = self._by_art[ref]
            kept = [p for id_, p in self.pieces if id_ == ref]
            return _Shape(as_multi([q for p in kept for q in p.shape.geoms]), key_of(art.key, [p.key for p in kept]))
        return self.shape(self.canonical(ref))

    def _all_but(self, making: Making) -> list[_Shape]:
        """Everything a making of the whole decal is made of: all films of art, and the makings before it."""
        own = self.canonical(making.film)
        films = dict.fromkeys(p.film for _, p in self.pieces if p.film and p.film != own)
        for earlier in self._recipe.makings:
            if earlier.id == making.id:
                break
            if (film := self.canonical(earlier.film)) != own:
                films[film] = None
        return [self.shape(f) for f in films if f]

    def drafts(self) -> list[Draft]:
        """All films that have a shape."""
        out = []
        for film in self.films():
            found = self.shape(film)
            own = [p for _, p in self.pieces if p.film == film]
            if not found.shape.is_empty and not self.choice(film).left_out:
                planar = own[0].planar if len(own) == 1 and found.key == own[0].key else None
                colour = self.colour(film)
                mapped = any(p.mapped for p in own)
                zones = {k: _zone([getattr(p, k) for p in own]) for k in ("solid", "open", "pushed")}
                key = found.key if all(z.is_empty for z in zones.values()) else key_of(found.key, [p.key for p in own])
                shared = planar is not None and own[0].shared
                out.append(Draft(film, colour, key, found.shape, planar, mapped, shared, **zones))
        return out

    def proposed(self, drafts: Sequence[Draft]) -> list[str]:
        """An order from the ground up: pictures' films by what encloses what, lettering and shapes on them as they came,
        shadows just under what casts them, stitches and bands just over it.
        """
        made_only = {self.canonical(m.film) for m in self._recipe.makings} - {p.film for _, p in self.pieces}
        mapped = [d for d in drafts if d.mapped]
        order = self._clock.run(
            "layers", key_of("order", [d.key for d in mapped]), lambda: propose_order([d.shape for d in mapped])
        )
        out = [mapped[k].film for k in order]
        out += [d.film for d in drafts if not d.mapped and d.film not in made_only]
        for making in self._recipe.makings:
            film = self.canonical(making.film)
            if film in out or not any(d.film == film for d in drafts):
                continue
            at = [out.index(f) for f in self.sources_of(making) if f in out] or [len(out)]
            under = isinstance(making, (OutlineShadow, DropShadow))
            out.insert(min(at) if under else max(at) + 1, film)
        return out

    def names(self, drafts: Sequence[Draft]) -> dict[str, str]:
        """What the films are called unless the maker says otherwise."""
        mapped = [d for d in drafts if d.mapped]
        names = dict(zip((d.film for d in mapped), film_names([from_hex(d.colour) for d in mapped]), strict=True))
        made = {self.canonical(m.film): _MAKING_NAMES[m.kind] for m in reversed(self._recipe.makings)}
        for film in {p.film for _, p in self.pieces if p.film}:
            made.pop(film, None)
        rest = [d for d in drafts if not d.mapped]
        plain = [made.get(d.film) or film_names([from_hex(d.colour)])[0] for d in rest]
        taken = list(names.values())
        return names | dict(zip((d.film for d in rest), numbered(plain, taken), strict=True))


def _zone(parts: Sequence[MultiPolygon]) -> MultiPolygon:
    held = [p for p in parts if not p.is_empty]
    return clean(overlay.union_all(held)) if held else NOTHING


def make_shape(making: Making, polygons: Sequence[Polygon]) -> MultiPolygon:
    """A making's shape from its sources' polygons, which may overlap."""
    source = as_multi(polygons)
    match making:
        case OutlineShadow():
            grown = grow(source, making.mm, making.corners)
            if making.holes == "fill":
                return shadows.fill_holes(grown)
            if making.holes == "fill-small":
                return shadows.fill_holes(grown, making.small_mm2)
            if making.holes == "fill-chosen" and making.chosen:
                return shadows.fill_holes(grown, at=[(s.x_mm, s.y_mm) for s in making.chosen])
            return clean(grown)
        case DropShadow():
            angle = math.radians(making.angle_deg)
            dx, dy = making.length_mm * math.cos(angle), making.length_mm * math.sin(angle)
            if making.style == "copy":
                return shadows.copy_shadow(source, dx, dy, making.grow_mm)
            return shadows.thicken(shadows.block_shadow(source, dx, dy), making.grow_mm)
        case StitchLine():
            return shadows.stitches(source, making.mm, making.dash_mm, making.gap_mm, making.width_mm, making.ends)
        case Band():
            return shadows.band(source, making.inner_mm, making.outer_mm, making.corners)
    raise AssertionError(making)


def ordered(recipe: Recipe, proposed: Sequence[str], stack: Stack) -> list[str]:
    """The maker's order, with films it does not know put just above what they would lie on by proposal."""
    known: list[str] = []
    for wanted in recipe.order:
        found = stack.canonical(wanted) if not wanted.startswith("#") else _nearest(proposed, stack.canonical(wanted))
        if found in proposed and found not in known:
            known.append(found)
    for k, film in enumerate(proposed):
        if film not in known:
            below = [known.index(f) for f in proposed[:k] if f in known]
            known.insert(max(below) + 1 if below else 0, film)
    return known


def _nearest(films: Sequence[str], wanted: str) -> str:
    if wanted in films:
        return wanted
    colours = [f for f in films if f.startswith("#")]
    found = nearest_colour(tuple(from_hex(c) for c in colours), wanted)
    return colours[found] if found is not None else wanted
