"""What some edits would each lead to, drawn small, so that a maker chooses by sight."""

from __future__ import annotations

from collections.abc import Sequence

import shapely

from gladstack.api.tasks.designs import DesignWork
from gladstack.core.base.errors import GladStackError
from gladstack.core.base.plane import Box
from gladstack.core.geometry.shapes import clean
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.edit.edits import Edit, apply_edit
from gladstack.work import worker

_COARSE_SHARE = 1 / 250
_EDGE_SHARE = 1 / 160


def outcomes(job: DesignWork, edits: Sequence[Edit], box: Box) -> list[str]:
    """For each edit what lies within a box of the stack after it, as a small SVG; "" where it cannot be made."""
    assets, memo = worker.assets(job.data, job.given), worker.memo(job.data)
    out = []
    for edit in edits:
        try:
            out.append(small_svg(build(apply_edit(job.recipe, edit), assets, memo, worker.give_up_if_unwanted), box))
        except GladStackError:
            out.append("")
    return out


def small_svg(built: Built, box: Box) -> str:
    """The films of a build within a box of the stack, coarse, each with a fine edge."""
    left, top, right, bottom = box
    size = max(right - left, bottom - top, 1e-6)
    room = 0.04 * size
    drawn = []
    for layer in built.layers:
        seen = clean(shapely.intersection(layer.cut, shapely.box(left - room, top - room, right + room, bottom + room)))
        coarse = shapely.simplify(seen, size * _COARSE_SHARE)
        rings = [r.coords for p in shapely.get_parts(coarse) for r in (p.exterior, *p.interiors)]
        path = "".join("M" + "L".join(f"{x:.2f} {y:.2f}" for x, y in ring[:-1]) + "Z" for ring in rings)
        if path:
            drawn.append(f'<path fill="{layer.colour}" d="{path}"/>')
    view = f"{left - room:.2f} {top - room:.2f} {right - left + 2 * room:.2f} {bottom - top + 2 * room:.2f}"
    edge = f'fill-rule="evenodd" stroke="#8f897b" stroke-width="{size * _EDGE_SHARE:.3f}"'
    return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{view}"><g {edge}>{"".join(drawn)}</g></svg>'
