"""Art whose edges have many more nodes than their form needs: files grow, and the blade slows down at each."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.edit.arts import ChangeArts
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.arts import LineArt, PictureArt, VectorArt
from gladstack.recipe.model.values import changed
from gladstack.stages.laid import as_drawn

_MANY = 2000
_PER_MM = 1.0
"""Few forms need a node each millimetre all along."""
_DEVIATION_MM = 0.1


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    art = read.art
    if not isinstance(art, PictureArt | LineArt | VectorArt) or art.simplify_mm >= _DEVIATION_MM:
        return
    nodes = sum(len(curve.chain) for curve in as_drawn(read.pieces.curves).value)
    # Edges between two films count once, as their curves do.
    long = sum(piece.shape.value.length for piece in read.pieces.pieces) / (2 if len(read.pieces.pieces) > 1 else 1)
    if nodes < _MANY or nodes < _PER_MM * long:
        return
    yield Finding(
        "needless-nodes",
        f"{art.title} has {nodes} nodes along {long:.0f} mm of edges, and the blade slows down at each.",
        "note",
        measure=Measure(round(nodes / long, 2), _PER_MM),
        helps="Let its edges move a little: see what that saves under Nodes.",
        fixes=(Fix(f"Simplify by {_DEVIATION_MM:g} mm", ChangeArts(arts=(changed(art, simplify_mm=_DEVIATION_MM),))),),
    )


CHECK = ArtCheck(("needless-nodes",), _findings, "art", "what forms need")
