"""Moving nested parts by hand: never onto another, never off the film; it says why, and where it would fit."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from shapely import MultiPolygon

from gladstack.core.base import tolerances
from gladstack.core.base.errors import RecipeError
from gladstack.core.plan.laying import Item, Room, Spot, lies_in, moved
from gladstack.core.plan.pack import free_spot
from gladstack.recipe.model.values import changed
from gladstack.shop.jobs.job import LaidPart
from gladstack.shop.plan.nested import boxed_apart
from gladstack.shop.plan.planned import PlacedPart, Plan, SheetPlan


@dataclass(frozen=True)
class Put:
    """What came of putting a part: where all lies then; or why not, and where it would fit."""

    laid: tuple[LaidPart, ...] | None
    why: str = ""
    fits: Spot | None = None


def put_part(plan: Plan, which: LaidPart, spot: Spot) -> Put:
    """Puts a part of a sheet, with its cluster, at a spot (within the margins). Raises RecipeError if it is not there."""
    sheet, own = _sheet_and_parts(plan, which)
    rest = [p for p in sheet.parts if p not in own]
    inner = sheet.origin_mm
    shape = MultiPolygon([p for part in own for p in shapely.get_parts(moved(part.bit.polygon, part.bit.film.onto_film))])
    room = Room(_reach(sheet) - 2 * inner, sheet.width_mm - 2 * inner)
    shift = (1.0, 0.0, 0.0, 1.0, -inner, -inner)
    taken = [moved(p.shape, shift) for p in rest]
    if boxed_apart(plan.job):
        # Its weed box moves along, and is kept clear of the others' boxes.
        left, top, right, bottom = shape.bounds
        d = plan.job.weeding.distance_mm
        shape = MultiPolygon([shapely.box(left - d, top - d, right + d, bottom + d)])
        boxes = [shapely.box(*b) for b in sheet.furniture.boxes]
        taken = [moved(b, shift) for b in boxes if not b.contains(own[0].shape)]
    there = moved(shape, spot.matrix)
    why = ""
    if not lies_in(there.bounds, room, tolerances.TOUCH_MM):
        why = "That lies outside the margins of the film."
    elif taken:
        apart = shapely.distance(there, np.array(taken, dtype=object))
        if apart.min() < sheet.spacing_mm - 1e-3:
            on = "on another part" if apart.min() <= 0 else f"only {apart.min():.1f} mm from another part"
            why = f"That lies {on}; {sheet.spacing_mm:g} mm are to stay between."
    if why:
        return Put(None, why, free_spot(Item(shape), room, sheet.spacing_mm, taken, spot))
    told = {"turn_deg": spot.turn_deg % 360.0, "x_mm": spot.x_mm, "y_mm": spot.y_mm, "pinned": True}
    return Put(tuple(changed(p, **told) if _is(p, own[0]) else p for p in plan.laid))


def pin_part(plan: Plan, which: LaidPart, *, pinned: bool) -> tuple[LaidPart, ...]:
    """Where all lies, with a part pinned or let go. Raises RecipeError if it is not there."""
    _, own = _sheet_and_parts(plan, which)
    return tuple(changed(p, pinned=pinned) if _is(p, own[0]) else p for p in plan.laid)


def _sheet_and_parts(plan: Plan, which: LaidPart) -> tuple[SheetPlan, list[PlacedPart]]:
    for sheet in plan.sheets:
        for part in sheet.parts:
            if part.spot is not None and _is(which, part):
                own = [p for p in sheet.parts if p is part or (part.cluster and p.cluster == part.cluster)]
                # The first of a cluster is the one that is told of.
                return sheet, own
    raise RecipeError("This part is not on the sheets any more.", "Look at the sheets as they are now.")


def _is(laid: LaidPart, part: PlacedPart) -> bool:
    return laid.name == part.bit.name


def _reach(sheet: SheetPlan) -> float:
    return sheet.piece.reach_mm if sheet.piece.kind == "roll" else sheet.length_mm
