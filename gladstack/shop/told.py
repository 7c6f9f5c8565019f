"""What is told of a plan: film that is short, colours that are far off, what found no room; and what it saves."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from gladstack.core.base.findings import Finding, Measure
from gladstack.recipe.build.built import Built
from gladstack.shop.formats import Format, shares_of
from gladstack.shop.planned import SheetPlan
from gladstack.shop.supply import TO_BUY, Supply, widest_room
from gladstack.shop.wanted import WantedFilm

FAR_COLOUR = 12.0
"""A film whose colour is farther off, in delta-E, is another colour to anybody."""


def told_of(films: Sequence[WantedFilm], sheets: Sequence[SheetPlan], designs: Mapping[str, Built]) -> list[Finding]:
    """What is told of a plan: film that is short, colours that are far, marks and boxes without room."""
    out: list[Finding] = []
    for material in {s.material.id: s.material for s in sheets}.values():
        missing = [s for s in sheets if s.piece.id == TO_BUY and s.material.id == material.id]
        if missing and not material.id.startswith("any-"):
            length = sum(s.length_used_mm for s in missing)
            roll = f"{length:.0f} mm of a {missing[0].width_mm:.0f} mm roll"
            said = f"There is too little {material.name} on the shelf: {roll} are missing."
            out.append(
                Finding(
                    "short-of-film",
                    said,
                    "stop",
                    material.id,
                    measure=Measure(length, 0.0, "mm"),
                    helps="Get more of it, or choose another film.",
                )
            )
    for film in films:
        if film.near is not None and film.near > FAR_COLOUR:
            of = f" of {film.of}" if len(designs) > 1 else ""
            nearest = f"The nearest film on the shelf to {film.layer.name}{of} is {film.material.name}"
            said = f"{nearest}, and its colour is far off."
            out.append(
                Finding(
                    "far-colour",
                    said,
                    "mind",
                    film.film,
                    measure=Measure(round(film.near, 1), FAR_COLOUR),
                    helps="Choose another film, or “any film of this colour”.",
                )
            )
    for design, built in designs.items():
        by_film = {f.film: f for f in films if f.design == design}
        for joint in built.joints:
            lower, upper = (by_film.get(built.layers[k].film) for k in (joint.lower, joint.upper))
            if lower and upper and upper.material.lies_over and lower.material.kind not in upper.material.lies_over:
                said = f"{upper.material.name} is not meant to lie over {lower.material.name}, as it does in {upper.of}."
                helps = "Choose another film for one of them, or another order."
                out.append(Finding("lies-over", said, "mind", upper.film, helps=helps))
    notes: dict[str, list[SheetPlan]] = {}
    for sheet in sheets:
        for said in sheet.furniture.notes:
            notes.setdefault(said, []).append(sheet)
    for said, own in notes.items():
        where = ", ".join(f"{s.number} {s.name}" for s in own[:6]) + (" and more" if len(own) > 6 else "")
        out.append(Finding("no-room", f"{said} ({where})", "note", own[0].material.id))
    return out


def many_nodes(sheets: Sequence[SheetPlan]) -> list[Finding]:
    """Sheets with more nodes than their cutter takes in one file."""
    out = []
    for sheet in sheets:
        count, most = sheet.points, sheet.cutter.most_nodes
        if count <= most:
            continue
        files = len(shares_of(sheet, Format.HPGL))
        said = f"{sheet.name} has {count} nodes, and {sheet.cutter.name} takes {most} in one file: "
        said += f"it comes in {files} files." if files > 1 else "it cannot be parted, for it is all one part."
        helps = "Cut them one after another on the same film." if files > 1 else "Simplify the art, or take another cutter."
        measure = Measure(float(count), float(most))
        out.append(Finding("many-nodes", said, "mind", sheet.material.id, measure=measure, helps=helps))
    return out


def naive_length(films: Sequence[WantedFilm], supply: Supply) -> float:
    """The film that goes if each film of each copy is laid by itself, as it lies in the decal, one after another."""
    total = 0.0
    for film in films:
        margin = supply.margin(film.material)
        w, h = film.frame[2] - film.frame[0], film.frame[3] - film.frame[1]
        room = widest_room(film.material, supply, margin).width_mm
        # What is wider than the film goes in strips.
        total += film.copies * math.ceil(h / max(room, 1.0) - 1e-9) * (w + 2 * margin)
    return round(total, 1)
