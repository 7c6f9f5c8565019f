"""What workers do about the source of an art: lay another on it, tell what finds its place again, and thin its nodes."""

from __future__ import annotations

import numpy as np
import shapely

from gladstack.api.tasks.designs import DesignWork
from gladstack.api.views.sources import AtDeviationView, LaidLook, NodesView, RecolouredView, ReplacingView, StrayView
from gladstack.core.base.colour import delta_e, from_hex
from gladstack.core.base.errors import RecipeError
from gladstack.core.films.registering import Fit
from gladstack.core.geometry.curves import transform_points
from gladstack.recipe.art.nodes import AtDeviation, deviation_for, knee, nodes_by_deviation
from gladstack.recipe.art.replaced import Replaced, replaced
from gladstack.recipe.edit.sources import Laid, ReplaceSource
from gladstack.recipe.model.arts import LineArt, Merge, PictureArt, VectorArt
from gladstack.recipe.model.faults import said_of_what_was_asked
from gladstack.work import worker

_LOOK_SHARE = 1 / 800
"""Outlines are thinned to this share of the width that is looked at."""
_TOLD_APART = 3.0
_STEPS = {
    "bridge": "a bridge", "cut-away": "a cut", "brush": "a stroke of the brush", "smooth": "a smoothed edge",
    "straighten": "a straight edge", "push": "a pushed edge", "move-edge": "a moved edge",
    "draw-edge": "a redrawn edge", "put-node": "a node put right", "draw-area": "a drawn area",
    "take-over": "a thin line given away",
    "let-go": "a film removed",
}  # fmt: skip


def replacing(job: DesignWork, art: str, digest: str, filename: str, laid: Laid | None) -> ReplacingView:
    """An art of a design from another source, laid as told or as it lies best. Raises GladStackError."""
    old = job.recipe.art(art)
    if not isinstance(old, PictureArt | LineArt | VectorArt):
        raise RecipeError("This art is made of no file.", "Choose a picture, line art or a vector file.")
    fit = Fit(laid.scale, laid.turn_deg, laid.x_mm, laid.y_mm) if laid else None
    # Laid so that points come to lie beyond all bounds, it is refused as what was asked.
    with said_of_what_was_asked():
        found = replaced(
            old, old.from_source(digest, filename), worker.assets(job.data, job.given), worker.stages(job.data), fit
        )
        own = found.fit
        edit = ReplaceSource(
            art=art, source=digest, filename=filename,
            laid=Laid(scale=own.scale, turn_deg=own.turn_deg, x_mm=own.x_mm, y_mm=own.y_mm),
            width_mm=found.widths_mm[0], new_width_mm=found.widths_mm[1],
            pins=tuple(found.pins[k] for k in range(len(old.pins))), strayed=found.strayed, idle=found.idle,
            colours=tuple(Merge(colour=was, into=now) for was, now in found.colours.items()),
        )  # fmt: skip
    width = found.widths_mm[0]
    strays = [
        StrayView(x_mm=old.pins[k].x * width, y_mm=old.pins[k].y * width, film=old.pins[k].film) for k in found.strayed
    ]
    return ReplacingView(
        edit=edit, agrees=found.agrees, claims=len(old.pins), strays=strays,
        steps=[_STEPS[m.kind] for m in old.mends if m.id in found.idle], gone=list(found.gone), fresh=list(found.fresh),
        recoloured=[RecolouredView(was=a, now=b) for a, b in found.colours.items() if _seen_apart(a, b)],
        look=_look(found, strays),
    )  # fmt: skip


def nodes(job: DesignWork, art: str, at_most: int | None) -> NodesView:
    """How an art's nodes become fewer. Raises GladStackError."""
    found = job.recipe.art(art)
    if not isinstance(found, PictureArt | LineArt | VectorArt):
        raise RecipeError("This art is made of no file.", "Choose a picture, line art or a vector file.")
    assets, stages = worker.assets(job.data, job.given), worker.stages(job.data)
    curve = nodes_by_deviation(found, assets, stages)
    wanted = deviation_for(found, at_most, assets, stages) if at_most is not None else None
    return NodesView(
        curve=[_deviation_view(one) for one in curve], knee_mm=knee(curve), wanted=wanted and _deviation_view(wanted)
    )


def _deviation_view(one: AtDeviation) -> AtDeviationView:
    return AtDeviationView(mm=one.mm, nodes=one.nodes, seconds=one.seconds)


def _seen_apart(a: str, b: str) -> bool:
    return float(delta_e(np.array(from_hex(a)), np.array(from_hex(b)))) > _TOLD_APART


def _look(found: Replaced, strays: list[StrayView]) -> LaidLook:
    """The new source as it lies, and over it the outlines of the old one, with claims without a place as rings."""
    wide, high = found.page_mm
    page = np.array([[0, 0], [wide, 0], [wide, high], [0, high]], float)
    corners = transform_points(page, found.fit.matrix)
    box = shapely.total_bounds([*(shape for _, shape in found.look), found.before, shapely.Polygon(corners)])
    left, top, right, bottom = (float(v) for v in box)
    across = max(right - left, bottom - top)
    fine = across * _LOOK_SHARE
    paper = "".join(f"{x:.2f} {y:.2f} " for x, y in corners.tolist())
    fills = "".join(
        f'<path fill="{colour}" d="{_path(shapely.simplify(shape, fine))}"/>'
        for colour, shape in found.look
        if not shape.is_empty
    )
    # Twice, dark on light, so that it is seen on every colour.
    lines = _path(shapely.simplify(found.before, fine))
    drawn = "".join(
        f'<path fill="none" stroke="{ink}" stroke-width="{across / share:.3f}" d="{lines}"/>'
        for ink, share in (("#fff", 190), ("#14100c", 420))
    )
    rings = "".join(
        f'<circle cx="{s.x_mm:.2f}" cy="{s.y_mm:.2f}" r="{across / 45:.2f}" fill="none" stroke="#b3261e" '
        f'stroke-width="{across / 160:.2f}"/>'
        for s in strays
    )
    extent = f'viewBox="{left:.2f} {top:.2f} {right - left:.2f} {bottom - top:.2f}"'
    begin = f'<svg xmlns="http://www.w3.org/2000/svg" {extent} fill-rule="evenodd">'
    new = f'{begin}<polygon fill="#fff" points="{paper.strip()}"/>{fills}</svg>'
    return LaidLook(new=new, over=f"{begin}{drawn}{rings}</svg>", wide_mm=right - left, high_mm=bottom - top)


def _path(shape: shapely.Geometry) -> str:
    rings = [np.asarray(ring.coords)[:-1] for ring in shapely.get_rings(shapely.get_parts(shape))]
    return "".join("M" + "L".join(f"{x:.2f} {y:.2f}" for x, y in ring.tolist()) + "Z" for ring in rings)
