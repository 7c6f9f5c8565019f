"""What the art of a recipe comes to: pieces for films, with the curves of their edges."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Literal

from shapely import MultiPolygon

from gladstack.core.base.errors import VectorError
from gladstack.core.geometry import overlay
from gladstack.core.geometry.curves import Curve
from gladstack.core.geometry.shapes import clean
from gladstack.recipe.art.regions import Unclaimed
from gladstack.recipe.art.separated import Source
from gladstack.recipe.model.fonts import shipped_font
from gladstack.recipe.model.pins import Pin

Box = tuple[float, float, float, float]
NOTHING = MultiPolygon()
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
    """A shape for the film `film` (None: an opening), in stack millimetres.

    `planar` names the pieces that overlap it nowhere; `shared` says that its edges with these are the same points. `mapped`
    says that it has holes where other pieces lie on it. Whatever lies below it is kept solid in `solid` and open in `open`;
    in `pushed` the film itself reaches on under others.
    """

    film: str | None
    shape: MultiPolygon
    key: str
    planar: str | None = None
    shared: bool = False
    mapped: bool = False
    solid: MultiPolygon = NOTHING
    open: MultiPolygon = NOTHING
    pushed: MultiPolygon = NOTHING


@dataclass(frozen=True)
class Saving:
    """What simplifying an art came to: nodes and seconds at the blade before and after, and how far edges moved at most."""

    nodes_before: int
    nodes_after: int
    seconds_before: float
    seconds_after: float
    deviation_mm: float


@dataclass(frozen=True)
class ArtPieces:
    """What one art comes to: pieces, the curves of their edges, and its box on the stack.

    `waiting` are its regions that no film has; `threshold` that of line art as taken and as proposed; `framed` says that
    its box counts for the design's extent, as that of a picture does; `own_width_mm` is its width before it was placed.
    `alike` are pairs of a file's colours that hardly differ; `open_paths` counts its paths that do not close. `regions_key`
    names the regions it comes as, if any, `pins` are those that hold, by region, `idle` the mends that found nothing to do
    and why, and `curves_key` names the curves if they
    are the same for other claims.
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
    alike: tuple[tuple[str, str], ...] = ()
    open_paths: int = 0
    waiting: tuple[Unclaimed, ...] = ()
    threshold: tuple[int, int] | None = None
    framed: bool = False
    regions_key: str = ""
    curves_key: str = ""
    pins: tuple[tuple[int, Pin], ...] = ()
    idle: tuple[tuple[str, str], ...] = ()
    saving: Saving | None = None
    own_width_mm: float = 0.0

    @property
    def whole(self) -> MultiPolygon:
        """All pieces as one shape, holes through everything left out."""
        own = [p.shape for p in self.pieces if p.film is not None or not self.framed]
        return own[0] if len(own) == 1 else clean(overlay.union_all(own))
