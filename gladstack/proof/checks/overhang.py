"""Shapes of a vector file that reach beyond its page."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.proof.check import ArtCheck, ArtRead
from gladstack.proof.finding import Finding, Fix
from gladstack.recipe.edit.arts import ChangeArts
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.arts import Beyond
from gladstack.recipe.model.values import changed

_LABELS: dict[Beyond, str] = {"cut": "Cut it off at the page", "keep": "Keep what lies beyond"}


def _findings(read: ArtRead) -> Iterator[Finding[Edit]]:
    if read.file is None or read.file[1].overhang_mm <= 0:
        return
    art, facts = read.file
    kept = art.beyond == "keep"
    said = f"Shapes reach beyond its page by up to {facts.overhang_mm:.1f} mm: {'kept' if kept else 'cut off there'}."
    other: Beyond = "cut" if kept else "keep"
    fix = Fix(_LABELS[other], ChangeArts(arts=(changed(art, beyond=other),)))
    measure = Measure(facts.overhang_mm, 0.0, "mm")
    yield Finding("overhang", said, "note" if kept else "mind", measure=measure, fixes=(fix,))


CHECK = ArtCheck(("overhang",), _findings, "art", "the page of the file")
