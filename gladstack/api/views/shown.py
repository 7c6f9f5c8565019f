"""Designs and what is built from them, as they are sent to the screen."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from gladstack.api.base.problems import Problem
from gladstack.api.views.decisions import decision_views
from gladstack.api.views.designs import (
    ArtView,
    BitView,
    BuiltView,
    ClaimView,
    ColourView,
    DesignView,
    DoneView,
    GapView,
    HistoryView,
    HoleView,
    JointView,
    LayerView,
    LeftOutView,
    LetterView,
    PenView,
    RegionsView,
    RegionView,
    SavingView,
    SentRecipe,
    ThresholdView,
    UnclaimedView,
)
from gladstack.api.views.findings import (
    AcrossView,
    BoxView,
    FindingView,
    FixView,
    JobFixView,
    MeasureView,
    PlaceView,
    PlanFindingView,
    PointView,
)
from gladstack.api.views.outlines import screen_path
from gladstack.core.base.plane import box_around
from gladstack.core.films.regions import Regions
from gladstack.core.geometry.curves import Chain, line_chain
from gladstack.core.geometry.outlines import Outline
from gladstack.core.plan.blade import cutting_seconds
from gladstack.core.write.svg import path_data
from gladstack.proof.finding import Finding
from gladstack.proof.prove import proof_of
from gladstack.recipe.art.given import ArtPieces, FileFacts, LetterFacts, LineFacts, PictureFacts
from gladstack.recipe.build.built import Built, BuiltHole, BuiltLayer
from gladstack.recipe.build.measured import most_films, wrong_area_ratio
from gladstack.recipe.build.pieces import Pieces, pieces_of
from gladstack.recipe.edit.edits import Edit
from gladstack.recipe.model.arts import Merge, OneFilmArt
from gladstack.recipe.model.recipe import Recipe
from gladstack.recipe.model.uses import USES
from gladstack.shop.jobs.edits import JobEdit
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Keyed, key_of
from gladstack.store.designs import Design, HistoryEntry

Held = frozenset[str]
"""The keys of what the asker holds already."""
KEY_LENGTH = 16


def history_view(entries: list[HistoryEntry]) -> list[HistoryView]:
    """The history of a design."""
    return [HistoryView.model_validate(entry) for entry in entries]


def design_view(design: Design, held: Held, trouble: Problem | None) -> DesignView:
    """A design, nothing built yet."""
    recipe = design.revision.recipe
    keys = [art.digest.hex()[:KEY_LENGTH] for art in recipe.arts]
    arts = tuple(None if key in held else art for key, art in zip(keys, recipe.arts, strict=True))
    return DesignView(
        id=design.id,
        revision=design.revision.id,
        recipe=SentRecipe.model_construct(**{**dict(recipe), "arts": arts}),
        art_keys=keys,
        undoes=design.undoes,
        redoes=design.redoes,
        version=design.revision.version,
        decides=decision_views(design.revision.motif, design.revision.version) if design.revision.version else [],
        trouble=trouble,
        built=None,
    )


def built_view(built: Built, held: Held, stages: Stages) -> BuiltView:
    """A build as it is sent; outlines that the asker holds are left out."""
    return BuiltView(
        box=box_view(built.frame),
        page=box_view(built.box),
        plain=box_view(built.plain),
        width_mm=built.width_mm,
        height_mm=built.height_mm,
        arts=[_art_view(built, pieces, held) for pieces in built.arts],
        flat=built.flat,
        lossy=built.lossy,
        colours=[ColourView.model_validate(c) for c in built.colours],
        proposed_order=list(built.proposed_order),
        layers=[_layer_view(built.recipe, layer, held, stages) for layer in built.layers],
        left_out=[LeftOutView.model_validate(f) for f in built.left_out],
        pens=[
            PenView(
                film=p.film,
                colour=p.colour,
                on=p.on,
                name=p.name,
                how=p.how,
                pen=p.pen,
                line_mm=p.line_mm,
                path=screen_path(p.lines),
            )
            for p in built.pens
        ],
        joints=[
            JointView(lower=j.lower, upper=j.upper, kind=j.joint.kind.value, mm=j.joint.mm, source=j.source)
            for j in built.joints
        ],
        holes=[_hole_view(hole) for hole in built.holes],
        wrong_area_ratio=wrong_area_ratio(built, stages),
        max_thickness=most_films(built, stages),
        findings=[finding_view(f) for f in proof_of(built, stages)],
        seconds={group: spent + stages.seconds[group] for group, spent in built.seconds.items()},
    )


def _hole_view(hole: BuiltHole) -> HoleView:
    x, y = shapely.get_coordinates(shapely.point_on_surface(hole.shape))[0].tolist()
    path = _thin_path(shapely.simplify(hole.shape, _COARSEST_MM), 3)
    return HoleView(making=hole.making, path=path, x_mm=round(x, 3), y_mm=round(y, 3), filled=hole.filled)


def _pieces_view(pieces: Pieces) -> tuple[list[BitView], list[GapView]]:
    small = [BitView(x_mm=round(b.at[0], 4), y_mm=round(b.at[1], 4), area_mm2=round(b.area_mm2, 6)) for b in pieces.small]
    gaps = [
        GapView(
            x1_mm=round(g.start[0], 4), y1_mm=round(g.start[1], 4), x2_mm=round(g.end[0], 4), y2_mm=round(g.end[1], 4),
            mm=round(g.mm, 4),
        )
        for g in pieces.gaps
    ]  # fmt: skip
    return small, gaps


def outline_text(outline: Outline) -> str:
    """An outline as the screen takes it."""
    return screen_path(outline.rings)


def outline_seconds(outline: Outline) -> float:
    """How long a blade takes for an outline."""
    return cutting_seconds(outline.rings)


def _layer_view(recipe: Recipe, layer: BuiltLayer, held: Held, stages: Stages) -> LayerView:
    key = key_of(layer.key, layer.before)[:KEY_LENGTH]
    known = key in held
    small, gaps = ([], []) if known else _pieces_view(pieces_of(layer, stages))
    path = stages.run("sheets", outline_text, Keyed.ready(layer.key, layer.outline))
    return LayerView(
        key=key,
        film=layer.film,
        colour=layer.colour,
        finish=layer.finish,
        name=layer.name,
        path=None if known else path.value,
        before=None if known else screen_path(_outline(layer.before)) if layer.before else "",
        pieces=len(layer.cut.geoms),
        small=None if known else small,
        gaps=None if known else gaps,
        area_mm2=layer.cut.area,
        cut_length_mm=layer.outline.length_mm,
        nodes=layer.outline.nodes,
        seconds=stages.run("sheets", outline_seconds, Keyed.ready(layer.key, layer.outline)).value,
        mirrored=USES[recipe.use_of(layer.film)].mirrored,
    )


def finding_view(found: Finding[Edit]) -> FindingView:
    """A finding of a design with its place and fixes."""
    fixes = [FixView(label=fix.label, edit=fix.edit) for fix in found.fixes]
    return FindingView(**_finding_fields(found), fixes=fixes)


def plan_finding_view(found: Finding[JobEdit]) -> PlanFindingView:
    """A finding of a plan with its place and fixes."""
    fixes = [JobFixView(label=fix.label, edit=fix.edit) for fix in found.fixes]
    return PlanFindingView(**_finding_fields(found), fixes=fixes)


def _finding_fields(found: Finding[Any]) -> dict[str, Any]:
    place = found.place
    corners = [point for ring in place.outlines for point in ring] if place else []
    box = place and (place.box or (box_around([(x, y, x, y) for x, y in corners]) if corners else None))
    return {
        "code": found.code,
        "text": found.text,
        "severity": found.severity,
        "about": found.about,
        "beside": found.beside,
        "when": found.when,
        "place": place
        and PlaceView(
            at=_point(place.at) if place.at else None,
            box=box_view(box) if box else None,
            outline="".join("M" + "L".join(f"{x:.3f} {y:.3f}" for x, y in ring) + "Z" for ring in place.outlines),
            across=AcrossView(start=_point(place.across[0]), end=_point(place.across[1])) if place.across else None,
        ),
        "measure": found.measure and MeasureView.model_validate(found.measure),
        "helps": found.helps,
    }


def _point(at: tuple[float, float]) -> PointView:
    return PointView(x_mm=at[0], y_mm=at[1])


_COARSEST_MM, _FINE_SHARE = 0.04, 1 / 4000
"""How closely outlines are sent for pointing at and looking at: no coarser, and finer for art that is small by itself."""


def regions_view(key: str, found: Regions) -> RegionsView:
    """Regions as they are pointed at: their outlines thinned to what an eye can tell apart."""
    tolerance = min(_COARSEST_MM, found.width_mm * _FINE_SHARE)
    thinned = shapely.simplify([r.shape for r in found.all], tolerance) if found.all else []
    return RegionsView(
        key=key,
        width_mm=found.width_mm,
        regions=[
            RegionView(
                path=_thin_path(shape, 2 if tolerance == _COARSEST_MM else 4), film=r.film, colour=r.colour,
                x=round(r.at[0] / found.width_mm, 6), y=round(r.at[1] / found.width_mm, 6), area_mm2=r.shape.area,
                width_mm=r.shape.bounds[2] - r.shape.bounds[0], height_mm=r.shape.bounds[3] - r.shape.bounds[1],
                across_mm=2 * math.sqrt(r.shape.area / math.pi), depth=r.depth, parent=r.parent, waits=r.waits,
            )
            for r, shape in zip(found.all, thinned, strict=True)
        ],
    )  # fmt: skip


def _thin_path(shape: Polygon, places: int) -> str:
    rings = [np.asarray(r.coords)[:-1] for r in (shape.exterior, *shape.interiors)]
    return "".join("M" + "L".join(f"{x:.{places}f} {y:.{places}f}" for x, y in ring.tolist()) + "Z" for ring in rings)


def _outline(shape: MultiPolygon) -> list[Chain]:
    """The rings of a shape as they are, for looking at."""
    return [line_chain(np.asarray(r.coords)) for p in shape.geoms for r in (p.exterior, *p.interiors)]


def box_view(box: tuple[float, float, float, float]) -> BoxView:
    """A box as it is sent."""
    return BoxView(left=box[0], top=box[1], right=box[2], bottom=box[3])


def _art_view(built: Built, pieces: ArtPieces, held: Held) -> ArtView:
    recipe = built.recipe
    art, facts, regions = recipe.art(pieces.id), pieces.facts, pieces.regions
    opening = isinstance(art, OneFilmArt) and art.film is None
    letters = facts.letters if isinstance(facts, LetterFacts) else ()
    key = key_of("letters", letters)[:KEY_LENGTH]
    file = facts if isinstance(facts, FileFacts) else FileFacts((), (), 0)
    return ArtView(
        id=pieces.id,
        name=art.title if art else pieces.id,
        box=box_view(pieces.box),
        page=box_view(pieces.page) if pieces.page else None,
        letters_key=key,
        letters=None if key in held else [LetterView(index=i, text=t, box=box_view(b)) for i, t, b in letters],
        file_colours=list(file.colours),
        layers=list(file.layers),
        alike=[Merge(colour=colour, into=into) for colour, into in file.alike],
        open_paths=file.open_paths,
        pages=file.pages,
        fixed_size=file.fixed,
        threshold=ThresholdView(taken=facts.threshold, proposed=facts.proposed) if isinstance(facts, LineFacts) else None,
        opening=path_data([c.chain for c in pieces.curves.value]) if opening else "",
        regions_key=regions.regions.key if regions else "",
        claims=[ClaimView(region=k, film=c.film, becomes=c.becomes, under=c.under) for k, c in regions.held]
        if regions
        else [],
        saving=SavingView.model_validate(regions.saving) if regions and regions.saving else None,
        waiting=[UnclaimedView.model_validate(w) for w in regions.waiting] if regions else [],
        least=facts.least if isinstance(facts, PictureFacts) else None,
        behind=facts.behind if isinstance(facts, PictureFacts) else None,
        background=facts.seen.background if isinstance(facts, PictureFacts) and facts.behind else None,
        line_scales=list(facts.scales) if isinstance(facts, LetterFacts) else [],
        own_width_mm=regions.width_mm if regions else pieces.own_width_mm,
        films=list(built.art_films[pieces.id]),
        done=[DoneView(kind=d.kind, count=d.count) for d in facts.done] if isinstance(facts, PictureFacts) else [],
    )
