"""Areas that share a plane: how they nest, who borders on whom, and handing area over so that no seam opens."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from gladstack.core.base import tolerances
from gladstack.core.geometry import overlay
from gladstack.core.geometry.rings import enclosing
from gladstack.core.geometry.shapes import clean, cut_away, grow

_SEAM_MM = 0.01
"""Areas within this distance border on each other."""
_MOST_SAMPLES = 20_000


def nesting(polygons: Sequence[Polygon]) -> tuple[tuple[int, ...], tuple[int, ...]]:
    """For each of some areas that do not overlap: how many others' outlines it lies within, and the closest of these.

    The closest is told by its index, -1 for none.
    """
    if not polygons:
        return (), ()
    at = shapely.get_coordinates(shapely.point_on_surface(list(polygons)))
    depth, parent = enclosing([shapely.get_coordinates(p.exterior) for p in polygons], at)
    return tuple(depth.tolist()), tuple(parent.tolist())


def borders(area: BaseGeometry, others: Sequence[BaseGeometry]) -> list[float]:
    """About how long a border, in mm, each of `others` has with `area`."""
    near = shapely.difference(grow(area, _SEAM_MM), area)
    shapely.prepare(near)
    met = shapely.intersects(near, np.array(others, dtype=object)) if len(others) else []
    return [
        float(shapely.intersection(other, near).area) / _SEAM_MM if m else 0.0 for other, m in zip(others, met, strict=True)
    ]


def longest_border(area: BaseGeometry, others: Sequence[BaseGeometry]) -> int | None:
    """Which of `others` has the longest border with `area`; None if none touches it along a line."""
    lengths = borders(area, others)
    best = max(range(len(lengths)), key=lengths.__getitem__, default=None)
    return best if best is not None and lengths[best] > 2 * _SEAM_MM else None


def share_out(area: BaseGeometry, others: Sequence[BaseGeometry], *, leave: bool = True) -> list[MultiPolygon]:
    """`area` shared out among the neighbours `others`: each takes what lies nearer to its border than to any other's.

    What is nearest to a border with none of them is left over, unless `leave` is false. From the Voronoi cells of points
    along the border, so close together that the new edges are true within the flattening tolerance.
    """
    # It takes long to load, and few designs need it.
    from scipy.spatial import Voronoi, cKDTree  # type: ignore[import-untyped]

    outline = area.boundary
    step = float(np.clip(0.25 * area.area / max(outline.length, 1e-9), 0.02, 1.0))
    step = max(step, outline.length / _MOST_SAMPLES)
    points = np.unique(np.round(shapely.get_coordinates(shapely.segmentize(outline, step)), 6), axis=0)
    owner = np.full(len(points), -1)
    for k in range(len(others) - 1, -1, -1):
        shapely.prepare(others[k])
        owner[shapely.dwithin(others[k], shapely.points(points), _SEAM_MM)] = k
    if not leave:
        points, owner = points[owner >= 0], owner[owner >= 0]
    held = [k for k in range(len(others)) if np.any(owner == k)]
    out = [MultiPolygon()] * len(others)
    if len(held) == 1 and np.all(owner == held[0]):
        out[held[0]] = clean(area)
        return out
    if not held:
        return out
    # Points far away all round make every cell that matters finite.
    left, top, right, bottom = area.bounds
    size = 10 * (right - left + bottom - top)
    far = np.array(
        [(left - size, top - size), (right + size, top - size), (right + size, bottom + size), (left - size, bottom + size)]
    )
    cells = Voronoi(np.vstack([points, far]))
    pairs, ends = np.asarray(cells.ridge_points), np.asarray(cells.ridge_vertices)
    owners = np.concatenate([owner, np.full(len(far), -1)])
    dividing = (owners[pairs[:, 0]] != owners[pairs[:, 1]]) & np.all(ends >= 0, axis=1)
    # All edges are noded with each other once, so that the shares meet in the very same points.
    noded = shapely.union_all([outline, *shapely.linestrings(cells.vertices[ends[dividing]])])
    faces = shapely.get_parts(shapely.polygonize(shapely.get_parts(noded)))
    inside = shapely.point_on_surface(faces)
    shapely.prepare(area)
    kept = shapely.contains(area, inside)
    _, nearest = cKDTree(points).query(shapely.get_coordinates(inside))
    for k in held:
        own = faces[kept & (owner[nearest] == k)]
        out[k] = clean(overlay.coverage_union_all(own)) if len(own) else MultiPolygon()
    return out


def replaced(parts: Mapping[str, MultiPolygon], film: str, new: MultiPolygon) -> dict[str, MultiPolygon]:
    """`parts`, which do not overlap, with one of them made `new`.

    What it gains is taken from the others. What it gives up goes, piece by piece, to the part it has the longest border
    with, if it had one there before; so an edge that is moved stays common to both.
    """
    old = parts[film]
    gained = clean(overlay.difference(new, old))
    out = {k: v if k == film else cut_away(v, [gained]) for k, v in parts.items()}
    out[film] = new
    others = [k for k in out if k != film]
    for piece in clean(overlay.difference(old, new)).geoms:
        best = longest_border(piece, [parts[k] for k in others])
        if best is not None and piece.area > tolerances.AREA_MM2:
            out[others[best]] = clean(overlay.union(out[others[best]], piece))
    return out
