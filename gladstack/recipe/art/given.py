"""What the art of a recipe comes to: pieces for films, the curves of their edges, and what is known of each kind of art."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from shapely import MultiPolygon

from gladstack.core.base.errors import VectorError
from gladstack.core.base.findings import Remark
from gladstack.core.base.plane import Box, Point
from gladstack.core.films.regions import NOTHING, Claim, Regions, Unclaimed
from gladstack.core.geometry import overlay
from gladstack.core.geometry.curves import Curve
from gladstack.core.geometry.shapes import clean
from gladstack.core.picture.kinds import PictureKind
from gladstack.core.picture.lost import Kind as LostKind
from gladstack.core.picture.tidy import Done
from gladstack.recipe.art.mended import Idle
from gladstack.recipe.model.arts import Background
from gladstack.recipe.model.fonts import shipped_font
from gladstack.stages.engine import constant
from gladstack.stages.laid import Shape
from gladstack.stages.memo import Keyed

Role = Literal["film", "background", "dropped", "merged", "empty"]


def _no_file(digest: str) -> bytes:
    raise VectorError("A vector file of this design is missing.", "Bring it in again.")


@dataclass(frozen=True)
class Assets:
    """Where the bytes of pictures and vector files (by hash) and fonts (by key) come from."""

    picture: Callable[[str], bytes]
    font: Callable[[str], bytes] = shipped_font
    file: Callable[[str], bytes] = _no_file


@dataclass(frozen=True)
class ColourInfo:
    """A colour of a picture: what became of it, and its share of the picture."""

    art: str
    colour: str
    share: float
    role: Role
    into: str | None
    picked: bool


NONE: Shape = constant(NOTHING)


@dataclass(frozen=True)
class Zones:
    """Where, whatever the joints say, all below a film is kept solid or open, where the film reaches on under others, and
    what is kept off its cut.
    """

    solid: Shape = NONE
    open: Shape = NONE
    pushed: Shape = NONE
    kept_off: Shape = NONE

    @property
    def any(self) -> bool:
        """Whether there are any."""
        return not all(one.value.is_empty for one in (self.solid, self.open, self.pushed, self.kept_off))


@dataclass(frozen=True)
class ArtPiece:
    """A shape for the film `film` (None: an opening), in stack millimetres.

    `planar` names the pieces that overlap it nowhere; `shared` says that its edges with these are the same points. `mapped`
    says that it has holes where other pieces lie on it; `opening` that it is a whole art which is one.
    """

    film: str | None
    shape: Keyed[MultiPolygon]
    planar: str | None = None
    shared: bool = False
    mapped: bool = False
    zones: Zones = Zones()
    opening: bool = False


@dataclass(frozen=True)
class Saving:
    """What simplifying an art came to: nodes and seconds at the blade before and after, and how far edges moved at most."""

    nodes_before: int
    nodes_after: int
    seconds_before: float
    seconds_after: float
    deviation_mm: float


@dataclass(frozen=True)
class PictureFacts:
    """What is known of a separated picture; `least` is the colour that goes first if one fewer is asked for, `done` what was
    put right before; `lost_mm2` and `lost_share` tell how much of the picture is in none of its areas;
    `behind` is the colour of its background.
    """

    colours: tuple[ColourInfo, ...]
    flat: bool
    lossy: bool
    seen: PictureSeen
    least: str | None = None
    done: tuple[Done, ...] = ()
    lost_mm2: float = 0.0
    lost_share: float = 0.0
    behind: str | None = None


@dataclass(frozen=True)
class PictureSeen:
    """What was seen in a picture while it was separated, which checks read.

    `explained` is the share that lies near a plain colour, `noisy` whether it is made of dots, `rims` are whole thin lines
    (colour, width in mm); `background` is what became of its ground, of which `enclosed_mm2` is enclosed.
    """

    kind: PictureKind
    mm_per_px: float
    explained: float
    noisy: bool
    rims: tuple[tuple[str, float], ...]
    lost: tuple[LostKind, ...]
    background: Background
    enclosed_mm2: float


@dataclass(frozen=True)
class FileFacts:
    """What is known of a vector file: its colours, pairs of them that hardly differ, how many paths do not close, how many
    pages it has, and whether its size can be read in one way alone; what its reader remarked, how far it reaches beyond its
    page, how many slivers were left out; how wide it is, whether it tells that itself, and for
    how many mm a bare unit of it is taken; its layers, and what colours are called by them.
    """

    colours: tuple[str, ...]
    alike: tuple[tuple[str, str], ...]
    open_paths: int
    pages: int = 1
    fixed: bool = False
    remarks: tuple[Remark, ...] = ()
    overhang_mm: float = 0.0
    slivers: int = 0
    width_mm: float = 0.0
    told: bool = True
    bare_mm: float = 1.0
    layers: tuple[str, ...] = ()
    names: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True)
class LineFacts:
    """What is known of line art: the threshold taken, the proposed one, and whether it is made of dots."""

    threshold: int
    proposed: int
    dotted: bool = False


@dataclass(frozen=True)
class Word:
    """A word of a joined script: its text, the film it is cut from, and a point within the body of each letter."""

    text: str
    film: str | None
    letters: tuple[Point, ...]


@dataclass(frozen=True)
class Crossing:
    """Letters that overlap and are not welded: the first two, how many pairs there are, and the box of all."""

    first: str
    second: str
    pairs: int
    box: Box | None


@dataclass(frozen=True)
class LetterFacts:
    """What is known of lettering: of every letter the index of its character, its text and its box; its `words`, if its
    letters are meant to join; `missing` characters (with the font that lacks them), those `lent` (with the font that lacks
    them and the one that has them), letters that cross, and how many times as large as it was told each line is set.
    """

    letters: tuple[tuple[int, str, Box], ...]
    words: tuple[Word, ...] = ()
    missing: tuple[tuple[str, str], ...] = ()
    lent: tuple[tuple[str, str, str], ...] = ()
    crossing: Crossing | None = None
    scales: tuple[float, ...] = ()


@dataclass(frozen=True)
class RegionFacts:
    """What is known of art that comes as regions, in its own mm but for `waiting`, which is in stack mm.

    `held` are the claims that hold, by region, `lost` those that meet none; `width_mm` its width before it was placed.
    """

    regions: Keyed[Regions]
    held: tuple[tuple[int, Claim], ...]
    waiting: tuple[Unclaimed, ...]
    saving: Saving | None
    width_mm: float
    lost: tuple[Claim, ...] = ()


Facts = PictureFacts | FileFacts | LineFacts | LetterFacts | None


@dataclass(frozen=True)
class ArtPieces:
    """What one art comes to: pieces, the curves of their edges, the box of what is seen of it, and what is known of it.

    `facts` are those of its kind, `regions` those of art that comes as regions. Such art has a `page` it was drawn on, too;
    where nothing is seen of it, that is its box. `besides` is what it paints in colours that were dropped,
    `own_width_mm` its width before it was placed, and `idle` the mends that found nothing to do.
    """

    id: str
    pieces: tuple[ArtPiece, ...]
    curves: Keyed[tuple[Curve, ...]]
    box: Box
    facts: Facts = None
    regions: RegionFacts | None = None
    page: Box | None = None
    besides: Keyed[MultiPolygon] | None = None
    own_width_mm: float = 0.0
    idle: tuple[Idle, ...] = ()

    @property
    def framed(self) -> bool:
        """Whether it came on a page of its own."""
        return self.page is not None

    @property
    def outer(self) -> tuple[Keyed[MultiPolygon], ...]:
        """All that it paints, be it cut or dropped, but holes through everything."""
        own = tuple(p.shape for p in self.pieces if p.film is not None or not self.framed or p.opening)
        return own if self.besides is None else (*own, self.besides)


def one_shape(pieces: tuple[MultiPolygon, ...]) -> MultiPolygon:
    """Pieces as one shape."""
    return pieces[0] if len(pieces) == 1 else clean(overlay.union_all(pieces))
