"""From pieces to films: what each film's own shape is, after welding, treatments, openings and makings, and their order."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from shapely import MultiPolygon, Polygon

from gladstack.core.base.colour import SAME_COLOUR, delta_e, from_hex, nearest_colour
from gladstack.core.base.errors import RecipeError
from gladstack.core.base.plane import Box, box_around
from gladstack.core.films import compose as films
from gladstack.core.films.names import film_names, numbered
from gladstack.core.films.order import propose_order
from gladstack.recipe.art.given import ArtPiece, ArtPieces, FileFacts, Zones, one_shape
from gladstack.recipe.build.makings import holes_of, make_shape
from gladstack.recipe.model.arts import OneFilmArt, RegionArt
from gladstack.recipe.model.makings import DropShadow, Making, OutlineShadow
from gladstack.recipe.model.recipe import FilmChoice, Recipe
from gladstack.stages.engine import Stages
from gladstack.stages.laid import Shape, run_alike, run_laid
from gladstack.stages.memo import Keyed

_ONE_FILM = 3.0
"""Lettering given to a film joins the picture's film whose colour is within this delta-E of its key."""


@dataclass(frozen=True)
class Draft:
    """A film and its own shape. `map` names the films that overlap it nowhere, if it is part of one art only, and in
    `shared` ones common edges are the same points; `mapped` says that any part of it comes from a map.
    """

    film: str
    colour: str
    shape: Keyed[MultiPolygon]
    map: str | None
    mapped: bool
    shared: bool
    zones: Zones


class Stack:
    """The films of a recipe, worked out from its art's pieces on demand, so that makings find what they are made of."""

    def __init__(self, recipe: Recipe, arts: Sequence[ArtPieces], stages: Stages) -> None:
        self._recipe = recipe
        self._stages = stages
        self._by_art = {a.id: a for a in arts}
        colours = tuple(dict.fromkeys(p.film for a in arts if a.framed for p in a.pieces if p.film))
        self._picture_films = colours
        self.lost: list[tuple[str, str]] = []
        """Art that was to be kept inside what is gone, with that."""
        self.pieces = self._kept(arts)
        self._all_films = frozenset(self.films())
        self._adrift = self._settled()
        self._done: dict[str, Keyed[MultiPolygon]] = {}
        self._at_work: list[str] = []

    def canonical(self, key: str) -> str:
        """The film a key means: a picture's film of nearly that colour, else the one of just that key."""
        if key in self._picture_films or not key.startswith("#") or not self._picture_films:
            return key
        apart = [float(delta_e(from_hex(c), from_hex(key))) for c in self._picture_films]
        best = min(range(len(apart)), key=apart.__getitem__)
        return self._picture_films[best] if apart[best] <= _ONE_FILM else key

    def _kept(self, arts: Sequence[ArtPieces]) -> list[tuple[str, ArtPiece]]:
        """All pieces with the art they are of, in its film, cut down to what they are kept inside of or without."""
        out = []
        for pieces in arts:
            art = self._recipe.art(pieces.id)
            within = self._within(art.inside, arts, pieces.id) if art and art.inside else None
            if art and art.inside and within is None:
                self.lost.append((pieces.id, art.inside))
            refs = [self._within(ref, arts, pieces.id) for ref in getattr(art, "without", ())]
            without = [shape for shape in refs if shape is not None]
            for piece in pieces.pieces:
                kept = piece if within is None and not without else self._cut_down(piece, within, without)
                film = None if kept.film is None else self.canonical(kept.film)
                out.append((pieces.id, replace(kept, film=film)))
        return out

    def plain(self) -> Box | None:
        """The extent of what art alone gives to the films that are cut."""
        cut = [p.shape.value for _, p in self.pieces if p.film and self._is_cut(p.film)]
        return box_around([s.bounds for s in cut if not s.is_empty])

    def _is_cut(self, film: str) -> bool:
        choice = self.choice(film)
        return not choice.left_out and choice.drawn == "no"

    def _cut_down(self, piece: ArtPiece, within: Shape | None, without: Sequence[Shape]) -> ArtPiece:
        shape = run_laid(self._stages, "art", films.kept_of, piece.shape, within, without)
        return replace(piece, shape=shape, planar=None)

    def _within(self, ref: str, arts: Sequence[ArtPieces], own: str) -> Shape | None:
        """What an art is kept inside of: another art, or what all other art gives to a film; None if that is gone."""
        if ref in self._by_art:
            if ref == own:
                raise RecipeError("Art cannot be cut to its own shape.", "Choose another art or film.")
            outer = self._by_art[ref].outer
            return run_laid(self._stages, "art", one_shape, outer) if outer else None
        film = self.canonical(ref)
        found = [p for a in arts if a.id != own for p in a.pieces if p.film and self.canonical(p.film) == film]
        return run_laid(self._stages, "art", films.joined, tuple(p.shape for p in found)) if found else None

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

    def has(self, film: str) -> bool:
        """Whether art or makings give to this film, be it cut or not."""
        return film in self._all_films

    def colour(self, film: str) -> str:
        """The colour a film is shown in: as chosen, else the one its key tells."""
        return self.choice(film).colour or film

    def films(self) -> list[str]:
        """All films, in the order their art and makings were brought in."""
        named = [p.film for _, p in self.pieces if p.film] + [self.canonical(m.film) for m in self._recipe.makings]
        return list(dict.fromkeys(named))

    def shape(self, film: str) -> Shape:
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

    def untreated(self, film: str) -> Shape:
        """A film's shape before it is made heavier or lighter, and before openings."""
        return run_laid(self._stages, "layers", films.laid_together, self._parts(film))

    def _parts(self, film: str) -> list[Shape]:
        own = [p.shape for _, p in self.pieces if p.film == film]
        return own + [self.made(m) for m in self._recipe.makings if self.canonical(m.film) == film]

    def _worked_out(self, film: str) -> Shape:
        parts = self._parts(film)
        chosen = self.choice(film)
        by, close_mm = chosen.thicken_mm, chosen.close_mm
        gaps = tuple(((g.x1_mm, g.y1_mm), (g.x2_mm, g.y2_mm)) for g in chosen.closed)
        openings = [
            (p.shape, margin) for id_, p in self.pieces if p.film is None and (margin := self._margin(id_, film)) is not None
        ]
        if len(parts) == 1 and by == 0 and close_mm == 0 and not gaps and not openings:
            return parts[0]
        treated = films.film_shape, parts, by, chosen.keep_size, close_mm, gaps, openings
        # Gaps are closed between points of the stack; a film keeps its size from left to right and from top to bottom.
        return (
            self._stages.run("layers", *treated)
            if gaps
            else run_laid(self._stages, "layers", *treated, turned=not chosen.keep_size)
        )

    def _margin(self, art_id: str, film: str) -> float | None:
        """How much wider than itself an opening of an art is cut out of a film; None if it does not open that film."""
        art = self._recipe.art(art_id)
        if isinstance(art, OneFilmArt):
            return art.margin_mm if not art.opens or film in map(self.canonical, art.opens) else None
        return 0.0 if isinstance(art, RegionArt) else None

    def made(self, making: Making) -> Shape:
        """What a making comes to."""
        sources, outline = self._sources_of(making), isinstance(making, OutlineShadow)
        if isinstance(making, OutlineShadow) and making.chosen:
            # Holes are chosen by points of the stack.
            return self._stages.run("layers", make_shape, making, sources)
        return run_laid(self._stages, "layers", make_shape, making, sources, turned=outline)

    def holes(self, making: OutlineShadow) -> Keyed[tuple[tuple[Polygon, bool], ...]]:
        """The holes of an outline shadow, and whether each was chosen to be filled."""
        return self._stages.run("layers", holes_of, making, self._sources_of(making))

    def _sources_of(self, making: Making) -> list[Shape]:
        return [self._source(ref) for ref in self._uncovered(making.of)] if making.of else self._all_but(making)

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

    def _source(self, ref: str) -> Shape:
        if ref in self._by_art:
            kept = [p.shape for id_, p in self.pieces if id_ == ref]
            return run_laid(self._stages, "layers", films.laid_together, kept)
        return self.shape(self.canonical(ref))

    def _all_but(self, making: Making) -> list[Shape]:
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
            if not self._is_cut(film) or (found := self.shape(film)).value.is_empty:
                continue
            own = [p for _, p in self.pieces if p.film == film]
            alone = len(own) == 1 and found is own[0].shape
            planar = own[0].planar if alone else None
            mapped, shared = any(p.mapped for p in own), planar is not None and own[0].shared
            out.append(
                Draft(film, self.colour(film), found, planar, mapped, shared, _zones([p.zones for p in own], self._stages))
            )
        return out

    def emptied(self) -> list[str]:
        """Films of shadows, stitches and bands whose sources are gone."""
        made = dict.fromkeys(self.canonical(m.film) for m in self._recipe.makings if m.of)
        gone = [
            f
            for m in self._recipe.makings
            if (f := self.canonical(m.film)) in made
            and all(r not in self._by_art and not self.has(self.canonical(r)) for r in m.of)
        ]
        return [f for f in gone if self.shape(f).value.is_empty]

    def trims(self) -> set[str]:
        """Films that are nothing but stitches and bands, which lie on what is below them."""
        trim = {self.canonical(m.film) for m in self._recipe.makings if not m.casts}
        shadows = {self.canonical(m.film) for m in self._recipe.makings if m.casts}
        return trim - shadows - {p.film for _, p in self.pieces if p.film}

    def proposed(self, drafts: Sequence[Draft]) -> list[str]:
        """An order from the ground up: films as the art that gives to them came, those of one picture by what encloses
        what; shadows just under what casts them, stitches and bands just over it.
        """
        made_only = {self.canonical(m.film) for m in self._recipe.makings} - {p.film for _, p in self.pieces}
        mapped = [d for d in drafts if d.mapped]
        order, _ = run_alike(self._stages, "layers", propose_order, [d.shape for d in mapped])
        ranked = [mapped[k].film for k in order.value]
        ranked += [d.film for d in drafts if not d.mapped and d.film not in made_only]
        # What came later lies on what was there.
        given = {film: n for n, film in reversed([(n, p.film) for n, (_, p) in enumerate(self.pieces) if p.film])}
        first = {film: self.pieces[n][0] for film, n in given.items()}
        came = {id_: n for n, id_ in enumerate(self._by_art)}
        out = sorted(ranked, key=lambda film: (came[first[film]], ranked.index(film)))
        for making in self._recipe.makings:
            film = self.canonical(making.film)
            if film in out or not any(d.film == film for d in drafts):
                continue
            at = [out.index(f) for f in self.sources_of(making) if f in out] or [len(out)]
            out.insert(min(at) if making.casts else max(at) + 1, film)
        return out

    def names(self) -> dict[str, str]:
        """What all films that have a shape are called unless the maker says otherwise, be they cut or left out."""
        held = [film for film in self.films() if not self.shape(film).value.is_empty]
        from_maps = {p.film for _, p in self.pieces if p.mapped}
        mapped = [film for film in held if film in from_maps]
        told = {c: n for a in self._by_art.values() if isinstance(a.facts, FileFacts) for c, n in reversed(a.facts.names)}
        own = [told.get(film) or film_names([from_hex(self.colour(film))])[0] for film in mapped]
        names = dict(zip(mapped, numbered(own), strict=True))
        made = {self.canonical(m.film): m.called.capitalize() for m in reversed(self._recipe.makings)}
        for film in {p.film for _, p in self.pieces if p.film}:
            made.pop(film, None)
        rest = [film for film in held if film not in from_maps]
        plain = [made.get(film) or film_names([from_hex(self.colour(film))])[0] for film in rest]
        return names | dict(zip(rest, numbered(plain, list(names.values())), strict=True))


def _zones(own: Sequence[Zones], stages: Stages) -> Zones:
    kept = [z for z in own if z.any]
    if len(kept) < 2:
        return kept[0] if kept else Zones()
    names = ("solid", "open", "pushed", "kept_off")
    return Zones(*(run_laid(stages, "layers", films.joined, [getattr(z, name) for z in kept]) for name in names))


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
