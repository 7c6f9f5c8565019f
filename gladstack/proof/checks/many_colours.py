"""Vector files of very many colours, each a film of its own."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.art.vectors import FEWER_COLOURS
from gladstack.recipe.edit.arts import ChangeArts
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.values import changed


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.file is None:
        return
    art, facts = read.file
    many = len(facts.colours)
    if art.count == FEWER_COLOURS and many > FEWER_COLOURS:
        said = f"This file has {many} colours; the nearest are one film, so that {FEWER_COLOURS} are left."
        yield Finding("made-fewer", said, measure=Measure(many, FEWER_COLOURS), helps="Choose how many under Colours.")
        return
    if many <= FEWER_COLOURS or art.count is not None:
        return
    said = f"This file has {many} colours, each a film of its own."
    fewer = ChangeArts(arts=(changed(art, count=FEWER_COLOURS),))
    fix = Fix(f"Make the nearest one, {FEWER_COLOURS} in all", fewer)
    measure = Measure(many, FEWER_COLOURS)
    yield Finding("many-colours", said, "mind", measure=measure, helps="Choose how many under Colours.", fixes=(fix,))


CHECK = ArtCheck(("many-colours", "made-fewer"), _findings, "palette", "films that can be kept in order by hand")
