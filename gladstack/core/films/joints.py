"""How a lower layer meets those above it, and the cut shapes that follow.

Layers are numbered from the ground up. V_j is the *wanted shape* of layer j. For every pair i < j one joint holds;
what its kind does stands in `FORMS`, and nothing else decides it. A film that stays solid does so wherever the upper lies
on it (see `_filled`); where the two merely meet side by side, it runs on under the upper as well.

`cut_shape` needs only the layer itself and what lies above it, so a change leaves the layers above it as they are.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.base import tolerances
from gladstack.core.geometry import overlay
from gladstack.core.geometry.curves import hash_points
from gladstack.core.geometry.shapes import clean, cut_away, grow, meeting

_LYING_SHARE = 0.5


class JointKind(StrEnum):
    """The four ways two films meet."""

    BUTT = "butt"
    LAP = "lap"
    GAP = "gap"
    FULL = "full"


@dataclass(frozen=True)
class JointForm:
    """What a kind of joint makes of the lower film, and what it is called.

    `solid`: it stays whole under the upper. `reach`: from where they meet it runs on `under` the upper, or keeps `away` from
    it, by the joint's length; or it ends there. `length`: whether that must be said, may be, or is never.
    """

    says: str
    solid: bool = False
    reach: Literal["ends", "under", "away"] = "ends"
    length: Literal["never", "may", "must"] = "must"


FORMS = {
    JointKind.BUTT: JointForm("The lower film ends where the upper begins.", length="never"),
    JointKind.LAP: JointForm("The lower film runs on a little under the upper.", reach="under"),
    JointKind.FULL: JointForm("The lower film stays solid under the upper.", solid=True, reach="under", length="may"),
    JointKind.GAP: JointForm("The lower film keeps away; what is below shows.", reach="away"),
}
"""All kinds of joints: one that is missing here cannot be cut."""


@dataclass(frozen=True)
class Joint:
    """A kind and its length in mm: how far the lower film runs on under the upper, or keeps away from it."""

    kind: JointKind
    mm: float = 0.0

    @property
    def form(self) -> JointForm:
        """What its kind makes of the lower film."""
        return FORMS[self.kind]

    @property
    def lap_mm(self) -> float:
        """How far the lower film runs on under the upper."""
        return self.mm if self.form.reach == "under" else 0.0


@dataclass(frozen=True)
class Upper:
    """A layer above: its wanted shape, the joint with it, and whether it is known not to overlap the layer below.

    `shared` says that their common edges are the same points besides, as those of a planar map are.
    """

    shape: MultiPolygon
    joint: Joint
    disjoint: bool = False
    shared: bool = False


def uppers_of(
    shape: MultiPolygon,
    solid: MultiPolygon,
    open_: MultiPolygon,
    joint: Joint,
    lower: MultiPolygon,
    *,
    disjoint: bool = False,
    shared: bool = False,
) -> list[Upper]:
    """A film above in parts, each with the joint that a film below, of the shape `lower`, has with it.

    What is to be `solid` below is so in the film that it lies on, and in none below that; what is to be `open` has no film
    below it.
    """
    if solid.is_empty and open_.is_empty:
        return [Upper(shape, joint, disjoint, shared)]
    lap = joint.lap_mm
    hard = Joint(JointKind.LAP, lap) if joint.form.solid else joint
    based = lying_on(lower, list(clean(overlay.intersection(shape, solid)).geoms)) if lower.geoms else []
    opened = clean(overlay.intersection(shape, open_))
    parted = [
        (MultiPolygon(based), Joint(JointKind.FULL, lap)),
        (opened, hard),
        (cut_away(shape, [*based, opened]), joint),
    ]
    return [Upper(part, how, disjoint, shared) for part, how in parted if not part.is_empty]


def cut_shape(
    shape: MultiPolygon, above: Sequence[Upper], *, fill_holes: bool = True, cover: BaseGeometry | None = None
) -> MultiPolygon:
    """What the blade cuts for a layer of wanted `shape` under the layers `above`.

    `fill_holes` says that the shape comes from a planar map, and so has holes where other films lie on it. `cover` is the
    film that really lies above: it need only be given where gaps between upper layers leave places open, so that a lap
    never shows there. The result is valid, welded, and may be empty.
    """
    solid = _filled(shape, above) if fill_holes else shape
    hard = [u.shape for u in above if not u.joint.form.solid and not (u.disjoint and solid is shape)]
    face = cut_away(solid, hard)
    grown: BaseGeometry = face
    apart = solid is shape and all(u.disjoint and u.shared for u in above)
    for distance in sorted({u.joint.lap_mm for u in above} - {0.0}):
        under = [u.shape for u in above if u.joint.lap_mm == distance]
        grown = _lapped(face, grown, under, distance, cover, apart=apart)
    away = [u for u in above if u.joint.form.reach == "away"]
    for distance in sorted({u.joint.mm for u in away}):
        keep_off = [u.shape for u in away if u.joint.mm == distance]
        near = [s for s in keep_off if shapely.dwithin(s, grown, distance)]
        if near:
            grown = cut_away(clean(grown), [grow(near[0] if len(near) == 1 else overlay.union_all(near), distance)])
    return shape if grown is shape else clean(grown)


def reach_under(cut: MultiPolygon, zone: MultiPolygon, above: Sequence[BaseGeometry]) -> MultiPolygon:
    """`cut` with what of `zone` lies under the layers `above` and hangs together with it; so nothing of it shows."""
    if zone.is_empty or cut.is_empty or not len(above):
        return cut
    hidden = clean(overlay.intersection(zone, overlay.union_all(list(above))))
    near = [p for p in hidden.geoms if shapely.dwithin(p, cut, tolerances.TOUCH_MM)]
    return clean(overlay.union_all([cut, *near])) if near else cut


def _filled(shape: MultiPolygon, above: Sequence[Upper]) -> MultiPolygon:
    """`shape` kept solid under what lies on it with a full joint.

    A planar map only tells what is seen. A piece of an upper film counts as lying on the shape if most of its outer edge
    runs along the shape, or along pieces that lie on it. Holes that the layers above wholly cover are filled.
    """
    full = [p for u in above if u.joint.form.solid for p in u.shape.geoms]
    if not full or shape.is_empty:
        return shape
    lying = lying_on(shape, full)
    solid = clean(overlay.union_all([*shape.geoms, *lying])) if lying else shape
    parts = np.array([p for u in above for p in u.shape.geoms], dtype=object)
    tree, full_tree = shapely.STRtree(parts), shapely.STRtree(full)
    polygons = []
    for polygon in solid.geoms:
        open_rings = [
            ring
            for ring in polygon.interiors
            if not len(full_tree.query(Polygon(ring), predicate="intersects"))
            or not _covers(parts[tree.query(Polygon(ring), predicate="intersects")], Polygon(ring))
        ]
        polygons.append(Polygon(polygon.exterior, open_rings))
    if sum(len(p.interiors) for p in polygons) == sum(len(p.interiors) for p in solid.geoms):
        return solid
    # Filled holes may have held islands of the same layer; they become one with what surrounds them.
    return clean(overlay.union_all(polygons))


def lying_on(shape: MultiPolygon, pieces: list[Polygon]) -> list[Polygon]:
    """Those of `pieces` more than half of whose outer edge is shared with `shape` or with others that lie on it.

    Shapes of one planar map share their points exactly, so edges are compared by their ends.
    """
    edges = [_edges(np.asarray(p.exterior.coords)) for p in pieces]
    taken: dict[int, Polygon] = {}
    known = np.concatenate([_edges(np.asarray(r.coords))[0] for p in shape.geoms for r in (p.exterior, *p.interiors)])
    while True:
        fresh = [
            k
            for k, (keys, lengths) in enumerate(edges)
            if k not in taken and lengths[np.isin(keys, known)].sum() > _LYING_SHARE * lengths.sum()
        ]
        if not fresh:
            return list(taken.values())
        taken |= {k: pieces[k] for k in fresh}
        rings = [r for k in fresh for r in (pieces[k].exterior, *pieces[k].interiors)]
        known = np.concatenate([known, *(_edges(np.asarray(r.coords))[0] for r in rings)])


def _edges(ring: npt.NDArray[np.float64]) -> tuple[npt.NDArray[np.int64], npt.NDArray[np.float64]]:
    """A key for each edge of a ring, the same in both directions, and its length."""
    hashes = hash_points(ring)
    return hashes[:-1] + hashes[1:], np.linalg.norm(np.diff(ring, axis=0), axis=1)


def _covers(over: np.ndarray, hole: Polygon) -> bool:  # type: ignore[type-arg]
    rest = overlay.difference(hole, overlay.union_all(over)).area
    return bool(rest <= max(tolerances.AREA_MM2, 1e-9 * hole.area))


def _lapped(
    face: MultiPolygon,
    grown: BaseGeometry,
    under: list[MultiPolygon],
    distance: float,
    cover: BaseGeometry | None,
    *,
    apart: bool,
) -> BaseGeometry:
    """`grown` plus what of `under` lies within `distance` of the face and hangs together with it.

    Face and neighbours are welded first, then cut to the reach of the lap: their common edges are the same points, so
    they vanish exactly and leave no slivers. `apart` says that none of them overlap, which welds them faster.
    """
    # Most meet; distances, which take longer, are asked of the others alone.
    shapely.prepare(face)
    near = [s for s in under if shapely.intersects(face, s) or shapely.dwithin(face, s, tolerances.TOUCH_MM)]
    if not near or distance <= 0 or face.is_empty:
        return grown
    # Only pieces of the face that lie against one of them can reach under it; the others stay as they are.
    pieces = np.array(face.geoms, dtype=object)
    shapely.prepare(near)
    against = np.any([shapely.intersects(s, pieces) for s in near], axis=0)
    apart_from = pieces[~against]
    against[~against] = np.any([shapely.dwithin(s, apart_from, tolerances.TOUCH_MM) for s in near], axis=0)
    beside = MultiPolygon(list(pieces[against]))
    near = [meeting(s, beside, distance) for s in near]
    allowed = overlay.coverage_union_all([beside, *near]) if apart else overlay.union_all([beside, *near])
    if cover is not None:
        allowed = overlay.intersection(allowed, overlay.union(beside, cover))
    reach = shapely.get_parts(overlay.intersection(allowed, grow(beside, distance)))
    areas = np.array([p for p in reach if isinstance(p, Polygon) and p.area > tolerances.AREA_MM2], dtype=object)
    shapely.prepare(beside)
    held = areas[shapely.dwithin(areas, beside, tolerances.CRACK_MM)]
    # Where rounding has left a crack between a film and its lap, the blade would part them.
    cracked = not shapely.intersects(held, beside).all()
    lap = overlay.without_cracks(list(held)) if cracked else MultiPolygon(list(held))
    return MultiPolygon([*lap.geoms, *pieces[~against]]) if grown is face else overlay.union(grown, lap)


def meets(a: MultiPolygon, b: MultiPolygon) -> bool:
    """Whether two wanted shapes overlap or share an edge (touching at a corner does not count)."""
    if not shapely.intersects(a, b):
        return False
    if shapely.relate_pattern(a, b, "T********"):
        return True
    common = shapely.intersection(a, b)
    return bool(common.length > tolerances.TOUCH_MM or common.area > tolerances.AREA_MM2)
