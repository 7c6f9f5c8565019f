"""What the screen is sent: designs and what is built from them, as plain models."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np
import shapely
from pydantic import BaseModel, ConfigDict
from shapely import MultiPolygon, Polygon

from gladstack.api.problems import Problem
from gladstack.core.geometry.curves import Chain, line_chain
from gladstack.core.plan.blade import cutting_seconds
from gladstack.core.plan.placement import registration_marks
from gladstack.core.write.svg import path_data
from gladstack.recipe.art.given import ArtPieces
from gladstack.recipe.art.regions import Regions
from gladstack.recipe.build.build import Built
from gladstack.recipe.build.files import sheet_name
from gladstack.recipe.edit.describe import art_name
from gladstack.recipe.model.arts import Merge, OneFilmArt
from gladstack.recipe.model.pins import Becomes, Under
from gladstack.recipe.model.recipe import Finish, Recipe
from gladstack.recipe.model.values import Method
from gladstack.store.designs import Design, DesignLine, HistoryEntry


class View(BaseModel):
    """Something sent; read from the attributes of what it shows."""

    model_config = ConfigDict(from_attributes=True)


class DesignLineView(View):
    """A design in the list."""

    id: str
    name: str
    changed: str


class HistoryView(View):
    """A line of the history."""

    revision: int
    label: str
    created: str
    current: bool


class ColourView(View):
    """A colour of a picture, its share of it (0 to 1), and what became of it."""

    art: str
    colour: str
    share: float
    role: Literal["film", "background", "dropped", "merged", "empty"]
    into: str | None
    picked: bool


class FontView(View):
    """A font of the shelf; `sample` is its name drawn in itself, as path data about 10 units high."""

    key: str
    name: str
    manner: str
    own: bool
    sample: str


class SheetView(BaseModel):
    """A layer's sheet of film: sizes in mm, `mirrored`, then moved by `dx_mm` and `dy_mm`, the design comes to lie on it."""

    file: str
    method: Method
    mirrored: bool
    width_mm: float
    height_mm: float
    margin_mm: float
    dx_mm: float
    dy_mm: float
    used_width_mm: float
    used_height_mm: float
    fits: bool
    over_width_mm: float
    over_height_mm: float


class LayerView(BaseModel):
    """A film of the stack; `path` is its cut shape in stack millimetres, `before` that before it was made heavier."""

    film: str
    colour: str
    finish: Finish
    name: str
    path: str
    before: str
    pieces: int
    area_mm2: float
    cut_length_mm: float
    nodes: int
    seconds: float
    sheet: SheetView


class LeftOutView(BaseModel):
    """A film that is not cut."""

    film: str
    colour: str


class JointView(BaseModel):
    """The joint of two layers that meet, and where it was chosen."""

    lower: int
    upper: int
    kind: Literal["butt", "lap", "gap", "full"]
    mm: float
    source: Literal["pair", "film", "design"]


class NoticeView(View):
    """Something to know, and the film or art it is about."""

    code: str
    text: str
    about: str | None


class BoxView(BaseModel):
    """An extent on the stack, mm."""

    left: float
    top: float
    right: float
    bottom: float


class LetterView(BaseModel):
    """A letter that can be taken hold of: the index of its character, and its box."""

    index: int
    text: str
    box: BoxView


class UnclaimedView(View):
    """A region that no film has: which it is, a point within it and its area."""

    region: int
    x_mm: float
    y_mm: float
    area_mm2: float


class ThresholdView(BaseModel):
    """The grey level below which line art is ink, as taken and as proposed."""

    taken: int
    proposed: int


class ClaimView(BaseModel):
    """What was said of a region, by its index."""

    region: int
    film: str | None
    becomes: Becomes
    under: Under


class SavingView(View):
    """What simplifying came to: nodes and seconds at the blade before and after, and how far edges moved at most."""

    nodes_before: int
    nodes_after: int
    seconds_before: float
    seconds_after: float
    deviation_mm: float


class ArtView(BaseModel):
    """A piece of art on the stack: its name, its box, its letters, the outline of an opening, which no film shows,
    line art's threshold as taken and as proposed, and of the regions it comes as the claims and those that still wait.

    `alike` are pairs of the file's colours that hardly differ; `regions_key` changes whenever its regions do.
    """

    id: str
    name: str
    box: BoxView
    letters: list[LetterView]
    opening: str
    file_colours: list[str]
    alike: list[Merge]
    open_paths: int
    regions_key: str
    claims: list[ClaimView]
    saving: SavingView | None
    waiting: list[UnclaimedView]
    threshold: ThresholdView | None
    own_width_mm: float


class RegionView(BaseModel):
    """A region of an art, in the art's own mm: its outline, for pointing at; the film it has by itself and its colour in the
    source; a point within it in shares of the art's width; its area, its extent, and the diameter of a disc of its area;
    within how many outlines it lies and the closest of these.
    """

    path: str
    film: str | None
    colour: str | None
    x: float
    y: float
    area_mm2: float
    width_mm: float
    height_mm: float
    across_mm: float
    depth: int
    parent: int
    waits: bool


class RegionsView(BaseModel):
    """All regions of an art."""

    key: str
    width_mm: float
    regions: list[RegionView]


class BuiltView(BaseModel):
    """All that follows from the recipe; layers from the ground up."""

    box: BoxView
    width_mm: float
    height_mm: float
    arts: list[ArtView]
    flat: bool
    lossy: bool
    colours: list[ColourView]
    proposed_order: list[str]
    layers: list[LayerView]
    left_out: list[LeftOutView]
    joints: list[JointView]
    marks: str
    wrong_area_ratio: float
    max_thickness: int
    notices: list[NoticeView]
    seconds: dict[str, float]


class DesignView(BaseModel):
    """A design as it stands, with what is built from it.

    Nothing is built where the change could not alter any shape: then it is asked for by itself. `trouble` says why a design
    could not be built; it can still be undone.
    """

    id: str
    revision: int
    recipe: Recipe
    can_undo: bool
    can_redo: bool
    history: list[HistoryView]
    trouble: Problem | None
    built: BuiltView | None


def line_view(line: DesignLine) -> DesignLineView:
    """A line of the list."""
    return DesignLineView.model_validate(line)


def design_view(design: Design, history: list[HistoryEntry], trouble: Problem | None) -> DesignView:
    """A design with its history, nothing built yet."""
    return DesignView(
        id=design.id,
        revision=design.revision.id,
        recipe=design.revision.recipe,
        can_undo=design.can_undo,
        can_redo=design.can_redo,
        history=[HistoryView.model_validate(h) for h in history],
        trouble=trouble,
        built=None,
    )


def built_view(built: Built) -> BuiltView:
    """A build as it is sent."""
    return BuiltView(
        box=_box(built.box),
        width_mm=built.width_mm,
        height_mm=built.height_mm,
        arts=[_art_view(built.recipe, pieces) for pieces in built.arts],
        flat=built.flat,
        lossy=built.lossy,
        colours=[ColourView.model_validate(c) for c in built.colours],
        proposed_order=list(built.proposed_order),
        layers=[
            LayerView(
                film=layer.film,
                colour=layer.colour,
                finish=layer.finish,
                name=layer.name,
                path=path_data(layer.outline.rings),
                before=path_data(_outline(layer.before)) if layer.before else "",
                pieces=len(layer.cut.geoms),
                area_mm2=layer.cut.area,
                cut_length_mm=layer.outline.length_mm,
                nodes=layer.outline.nodes,
                seconds=cutting_seconds(layer.outline.rings),
                sheet=SheetView(
                    file=sheet_name(layer),
                    method=layer.sheet.method,
                    mirrored=layer.sheet.mirrored,
                    width_mm=layer.sheet.width_mm,
                    height_mm=layer.sheet.height_mm,
                    margin_mm=layer.sheet.margin_mm,
                    dx_mm=layer.placement.matrix[4],
                    dy_mm=layer.placement.matrix[5],
                    used_width_mm=layer.placement.width_mm,
                    used_height_mm=layer.placement.height_mm,
                    fits=layer.placement.fits,
                    over_width_mm=layer.placement.over_width_mm,
                    over_height_mm=layer.placement.over_height_mm,
                ),
            )
            for layer in built.layers
        ],
        left_out=[LeftOutView(film=film, colour=colour) for film, colour in built.left_out],
        joints=[
            JointView(lower=j.lower, upper=j.upper, kind=j.joint.kind.value, mm=j.joint.mm, source=j.source)
            for j in built.joints
        ],
        marks=path_data(registration_marks(built.frame)) if built.recipe.marks else "",
        wrong_area_ratio=built.wrong_area_ratio,
        max_thickness=built.max_thickness,
        notices=[NoticeView.model_validate(n) for n in built.notices],
        seconds=built.seconds,
    )


_COARSEST_MM, _FINE_SHARE = 0.04, 1 / 4000
"""How closely outlines are sent for pointing at and looking at: no coarser, and finer for art that is small by itself."""


def regions_view(found: Regions) -> RegionsView:
    """Regions as they are pointed at: their outlines thinned to what an eye can tell apart."""
    tolerance = min(_COARSEST_MM, found.width_mm * _FINE_SHARE)
    thinned = shapely.simplify([r.shape for r in found.all], tolerance) if found.all else []
    return RegionsView(
        key=found.key,
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


def _box(box: tuple[float, float, float, float]) -> BoxView:
    return BoxView(left=box[0], top=box[1], right=box[2], bottom=box[3])


def _art_view(recipe: Recipe, pieces: ArtPieces) -> ArtView:
    art = recipe.art(pieces.id)
    opening = isinstance(art, OneFilmArt) and art.film is None
    return ArtView(
        id=pieces.id,
        name=art_name(art) if art else pieces.id,
        box=_box(pieces.box),
        letters=[LetterView(index=i, text=t, box=_box(b)) for i, t, b in pieces.letters],
        file_colours=list(pieces.file_colours),
        alike=[Merge(colour=colour, into=into) for colour, into in pieces.alike],
        open_paths=pieces.open_paths,
        regions_key=pieces.regions_key,
        claims=[ClaimView(region=k, film=p.film, becomes=p.becomes, under=p.under) for k, p in pieces.pins],
        saving=SavingView.model_validate(pieces.saving) if pieces.saving else None,
        waiting=[UnclaimedView.model_validate(w) for w in pieces.waiting],
        threshold=ThresholdView(taken=pieces.threshold[0], proposed=pieces.threshold[1]) if pieces.threshold else None,
        own_width_mm=pieces.own_width_mm,
        opening=path_data([c.chain for c in pieces.curves]) if opening else "",
    )
