"""Claims and steps of mending that no longer meet what they were made for."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Whereabouts
from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.proof.places import laid
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.edit.regions import RemoveMend
from gladstack.recipe.edit.sources import PutClaimsBack
from gladstack.recipe.model.arts import RegionArt, VectorArt


def _claims(read: ArtRead) -> Iterator[Finding[Edit]]:
    lost = read.pieces.regions.lost if read.pieces.regions else ()
    if not lost:
        return
    what = "1 claim no longer meets" if len(lost) == 1 else f"{len(lost)} claims no longer meet"
    place = laid(Whereabouts(at=(lost[0].x_mm, lost[0].y_mm)), read.art.place.matrix)
    yield Finding("lost-pins", f"{what} a region.", "mind", place=place, helps="Claim the region again.")


def _strays(read: ArtRead) -> Iterator[Finding[Edit]]:
    art = read.art
    if not isinstance(art, RegionArt) or not art.strayed or read.pieces.regions is None:
        return
    many = len(art.strayed)
    what = "1 claim found no like region" if many == 1 else f"{many} claims found no like region"
    width = read.pieces.regions.width_mm
    first = art.strayed[0]
    yield Finding(
        "strayed-claims",
        f"{what} in the new {'file' if isinstance(art, VectorArt) else 'picture'}, and "
        f"{'claims' if many == 1 else 'claim'} nothing.",
        "mind",
        place=laid(Whereabouts(at=(first.x * width, first.y * width)), art.place.matrix),
        helps="Claim those regions again, or put the old claims where they were.",
        fixes=(
            Fix("Claim what is there now", PutClaimsBack(art=art.id)),
            Fix("Let them go", PutClaimsBack(art=art.id, let_go=True)),
        ),
    )


def _mends(read: ArtRead) -> Iterator[Finding[Edit]]:
    kinds = {m.id: m.kind.replace("-", " ") for m in read.art.mends}
    for one in read.pieces.idle:
        place = laid(Whereabouts(at=one.at), read.art.place.matrix) if one.at else None
        said = f"A step of mending does nothing ({kinds[one.step]}): {one.why}"
        fix = Fix("Delete the step", RemoveMend(art=read.art.id, mend=one.step))
        yield Finding("idle-mend", said, "mind", place=place, fixes=(fix,))


CLAIMS = ArtCheck(("lost-pins",), _claims, "art")
STRAYS = ArtCheck(("strayed-claims",), _strays, "art")
MENDS = ArtCheck(("idle-mend",), _mends, "art")
