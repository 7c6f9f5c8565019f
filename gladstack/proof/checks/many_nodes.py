"""Sheets with more nodes than their cutter takes in one file."""

from __future__ import annotations

from collections.abc import Iterator

from gladstack.core.base.findings import Measure
from gladstack.proof.check import PlanCheck, PlanRead
from gladstack.proof.finding import Finding
from gladstack.shop.files.formats import shares_of
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.shelf.formats import Format


def _findings(read: PlanRead) -> Iterator[Finding[JobEdit]]:
    for sheet in read.plan.sheets:
        count, most = sheet.points, sheet.cutter.most_nodes
        if count <= most:
            continue
        files = len(shares_of(sheet, Format.HPGL))
        said = f"{sheet.name} has {count} nodes, and {sheet.cutter.name} takes {most} in one file: "
        said += f"it comes in {files} files." if files > 1 else "it cannot be divided, for it is all one part."
        parted = "Cut them one after another on the same film."
        helps = parted if files > 1 else "Simplify the art, or take another cutter."
        measure = Measure(float(count), float(most))
        yield Finding("many-nodes", said, "mind", sheet.material.id, measure=measure, helps=helps)


CHECK = PlanCheck(("many-nodes",), _findings, "sheets", "the cutter")
