"""The colours of a picture as films of the shelf: which each would become, and which would become one."""

from __future__ import annotations

from dataclasses import dataclass

from gladstack.recipe.build.built import Built
from gladstack.recipe.edit.edits import Several
from gladstack.recipe.edit.films import TakeMaterial
from gladstack.recipe.edit.pictures import MergeColours
from gladstack.recipe.model.arts import PictureArt
from gladstack.recipe.model.recipe import Finish
from gladstack.shop.shelf.materials import Material
from gladstack.shop.shelf.shelf import Shop

_PLAIN = Finish()


@dataclass(frozen=True)
class Had:
    """A film of a picture and the material of the shelf that comes nearest, how far off in delta-E; `into` is the film it
    would be one with, for that comes of the same material.
    """

    film: str
    name: str
    colour: str
    material: Material
    delta_e: float
    into: str | None


def as_had(built: Built, art: str, shop: Shop) -> tuple[Had, ...]:
    """What the films of a picture become if only films of the shelf are taken, the largest first.

    Films that come to one material become one, the largest of them. Nothing where the shelf has no film for the use, or
    where the art is no picture.
    """
    if not isinstance(built.recipe.art(art), PictureArt):
        return ()
    own = {c.colour for c in built.colours if c.art == art and c.role == "film"}
    layers = sorted((x for x in built.layers if x.film in own), key=lambda x: -x.cut.area)
    first: dict[str, str] = {}
    out: list[Had] = []
    for layer in layers:
        near = [
            n
            for n in shop.nearest(layer.colour, built.recipe.use_of(layer.film), len(shop.materials))
            if n.material.taken_unasked and n.material.looks_like(_PLAIN)
        ]
        if not near:
            return ()
        into = first.setdefault(near[0].material.id, layer.film)
        out.append(
            Had(
                layer.film, layer.name, layer.colour, near[0].material, near[0].delta_e, None if into == layer.film else into
            )
        )
    return tuple(out)


def take_had(art: str, found: tuple[Had, ...]) -> Several:
    """All of that as one step."""
    merges = [MergeColours(art=art, colour=h.film, into=h.into) for h in found if h.into]
    takes = [
        TakeMaterial(
            film=h.film, material=h.material.id, name=h.material.name, colour=h.material.colour, finish=h.material.finish
        )
        for h in found
        if not h.into
    ]
    return Several(name="Took only films of the shelf", edits=(*merges, *takes))
