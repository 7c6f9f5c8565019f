"""Plans as they are sent: sheets with their parts, films, seams and small decals, drawn."""

from __future__ import annotations

from collections.abc import Sequence

from gladstack.api.views.costs import CostsView
from gladstack.api.views.outlines import screen_path
from gladstack.api.views.shop import (
    DecalFilmView,
    DecalView,
    NearView,
    PartView,
    PlannedFilmView,
    PlanView,
    SeamsView,
    SeamView,
    SheetPlanView,
    SpotView,
)
from gladstack.api.views.shown import box_view, plan_finding_view
from gladstack.core.write.pages import open_path_data
from gladstack.core.write.svg import path_data
from gladstack.proof.finding import Finding
from gladstack.shop.jobs.edits import JobEdit
from gladstack.shop.jobs.job import PartName
from gladstack.shop.plan.furnish import box_chain
from gladstack.shop.plan.planned import PlacedPart, Plan, SheetPlan, weed_seconds
from gladstack.shop.plan.register import Register
from gladstack.shop.plan.wanted import WantedFilm
from gladstack.shop.shelf.shelf import Near

_OFFERED = 4


def plan_view(job: str, revision: int, costs: CostsView, made: Plan, told: Sequence[Finding[JobEdit]]) -> PlanView:
    """A plan of a job, drawn."""
    pinned = {p.name for p in made.job.laid if p.pinned}
    length = sum(s.length_used_mm for s in made.sheets)
    area = sum(s.length_used_mm * s.width_mm for s in made.sheets)
    return PlanView(
        job=job,
        revision=revision,
        sheets=[_sheet(s, _pinned(s, pinned)) for s in made.sheets],
        films=[_film(f) for f in made.films],
        seams=[
            _seams(next(f for f in made.films_of(of) if f.film == film), register)
            for (of, film), register in made.registers.items()
            if film in register.seams
        ],
        decals=[
            DecalView(
                design=d.design,
                name=d.name,
                copies=d.copies,
                frame=box_view(made.films_of(d.design)[0].frame),
                films=[
                    DecalFilmView(
                        film=f.film,
                        colour=f.material.colour,
                        parts=[screen_path((p.shell, *p.holes)) for p in f.cutting.outline.parts],
                    )
                    for f in made.films_of(d.design)
                ],
            )
            for d in made.job.designs
            if made.films_of(d.design)
        ],
        length_used_mm=length,
        naive_length_mm=made.naive_length_mm,
        film_used=sum(p.shape.area for s in made.sheets for p in s.parts) / max(area, 1e-9),
        cost=sum(s.cost for s in made.sheets),
        costs=costs,
        findings=[plan_finding_view(f) for f in told],
    )


def _film(film: WantedFilm) -> PlannedFilmView:
    return PlannedFilmView(
        design=film.design,
        film=film.film,
        name=film.layer.name,
        colour=film.layer.colour,
        material=film.material.id,
        material_name=film.material.name,
        use=film.use,
        near=film.near,
        chosen=film.chosen,
        to_get=film.to_get,
        said=film.said,
        layout=film.layout,
        mirrored=film.mirrored,
        nearest=[_near(n) for n in film.nearest[:_OFFERED]],
    )


def _pinned(sheet: SheetPlan, told: set[PartName]) -> set[PartName]:
    """The parts of a sheet that are pinned: of those that keep together only the first is told of, and all of them are."""
    held = {p.cluster for p in sheet.parts if p.cluster and p.bit.name in told}
    return {p.bit.name for p in sheet.parts if p.cluster in held or p.bit.name in told}


def _sheet(sheet: SheetPlan, pinned: set[PartName]) -> SheetPlanView:
    furniture = sheet.furniture
    return SheetPlanView(
        number=sheet.number,
        name=sheet.name,
        material=sheet.material,
        mirrored=sheet.mirrored,
        face_down=sheet.face_down,
        layout=sheet.layout,
        piece=sheet.piece,
        bought=sheet.bought,
        length_mm=sheet.length_mm,
        width_mm=sheet.width_mm,
        margin_mm=sheet.margin_mm,
        origin_mm=sheet.origin_mm,
        spacing_mm=sheet.spacing_mm,
        length_used_mm=sheet.length_used_mm,
        film_used=sheet.film_used,
        cost=sheet.cost,
        parts=[_part(p, pinned) for p in sheet.parts],
        boxes=path_data([box_chain(b) for b in furniture.boxes]),
        lines="".join(f"M{a:.3f} {b:.3f}L{c:.3f} {d:.3f}" for (a, b), (c, d) in furniture.lines),
        marks=path_data(furniture.marks),
        slug=path_data((*furniture.slug, *furniture.test)),
        kept=[box_view(b) for b in furniture.kept],
        weed_seconds=weed_seconds(sheet),
        pen=open_path_data(sheet.drawn),
        lifts=sheet.path.lifts,
        cut_mm=sheet.path.cut_mm,
        travel_mm=sheet.path.travel_mm,
        travel_before_mm=sheet.path.travel_before_mm,
        seconds=sheet.times.whole_s,
        seconds_before=sheet.times.before_s,
        nodes=sum(len(c) for p in sheet.parts for c in (p.outline.shell, *p.outline.holes)),
    )


def _part(part: PlacedPart, pinned: set[PartName]) -> PartView:
    bit, spot = part.bit, part.spot
    letter = bit.film.spelled[bit.part]
    return PartView(
        design=bit.film.design,
        film=bit.film.film,
        film_name=bit.film.layer.name,
        letter=letter.text if letter else None,
        part=bit.part,
        copy_of=bit.copy,
        tile=bit.tile,
        cluster=part.cluster,
        key=bit.film.mark,
        path=path_data((part.outline.shell, *part.outline.holes)),
        box=box_view(part.shape.bounds),
        spot=SpotView(turn_deg=spot.turn_deg, x_mm=spot.x_mm, y_mm=spot.y_mm) if spot else None,
        pinned=part.bit.name in pinned,
    )


def _seams(film: WantedFilm, register: Register) -> SeamsView:
    own = register.seams[film.film]
    x, y = (
        [
            SeamView(at=at, from_edge=at - film.frame[axis], overlap=lap)
            for at, lap in zip(own.along(axis), own.overlaps(axis, register.overlap_mm), strict=True)
        ]
        for axis in (0, 1)
    )
    return SeamsView(design=film.design, film=film.film, x=x, y=y)


def _near(near: Near) -> NearView:
    held = near.material
    return NearView(material=held.id, name=held.name, colour=held.colour, delta_e=near.delta_e)
