"""An art as its source has it: what all kinds of art that come as regions have before anything is claimed in them."""

from __future__ import annotations

from dataclasses import dataclass

from gladstack.core.films.regions import Painting
from gladstack.core.geometry.curves import Curve
from gladstack.core.picture.decode import Picture, decode_picture
from gladstack.core.picture.framed import framed
from gladstack.core.picture.straight import straightened
from gladstack.recipe.art.given import Assets, Facts
from gladstack.recipe.model.arts import (
    RasterArt,
    shares_of,
)
from gladstack.stages.engine import Stages, loaded
from gladstack.stages.memo import Keyed


@dataclass(frozen=True)
class Origin:
    """An art as its source has it: what it paints, the curves of all edges, and what is known of it.

    `silhouette` is a film that is cut as a solid silhouette under all the rest; `shared` says that what it paints meets in
    the same points.
    """

    source: Keyed[object]
    painting: Keyed[Painting]
    curves: Keyed[tuple[Curve, ...]]
    facts: Keyed[Facts]
    silhouette: str | None = None
    shared: bool = False


def decoded(art: RasterArt, assets: Assets, stages: Stages) -> Keyed[Picture]:
    """The picture an art comes from, or its framed part, set straight if it was taken aslant. Raises PictureError."""
    data = loaded(lambda: assets.picture(art.picture), "picture", art.picture)
    picture = stages.run("decode", decode_picture, data, art.filename)
    if art.corners is not None:
        picture = stages.run("decode", straightened, picture, shares_of(art.corners))
    if (part := art.frame) is not None:
        picture = stages.run("decode", framed, picture, part.left, part.top, part.right, part.bottom)
    return picture
