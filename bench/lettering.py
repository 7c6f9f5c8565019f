"""Lettering and shadows: how true gaps and offsets are, and how long a typed letter takes to show."""

from __future__ import annotations

import time
from collections.abc import Callable
from functools import partial
from typing import Any

import numpy as np
import shapely

from gladstack.core.films.shadows import block_shadow
from gladstack.core.geometry.curves import flatten_chain
from gladstack.core.geometry.rings import as_multi
from gladstack.core.geometry.shapes import cut_away, grow
from gladstack.core.lettering.setting import lay_out, letter_curves, letter_shape, weld
from gladstack.recipe.art.given import Assets
from gladstack.recipe.art.pieces import pieces_of
from gladstack.recipe.art.words import faces_of, lettering_of
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.model.arts import LetteringArt
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo

CREAM, GOLD, RED = "#fff4d6", "#f2b632", "#c0392b"
TEXT = "Open evening at the dome\nstars moons and planets\nfrom nine o clock until one"
ROUNDS = 7


def _assets() -> Assets:
    def picture(digest: str) -> bytes:
        raise AssertionError(digest)

    return Assets(picture=picture)


def _design(text: str) -> Recipe:
    """Three lines of some sixty letters, three shadows, and two motifs knocked out of them with a gap."""
    shadow = {"joint": {"kind": "full", "mm": 0}}
    gap = {"kind": "gap", "mm": 1}
    return Recipe.model_validate(
        {
            "name": "Typing",
            "arts": [
                {"kind": "lettering", "id": "words", "text": text, "font": "cherry-bomb", "height_mm": 18, "film": CREAM},
                {"kind": "shape", "id": "star", "form": {"form": "star"}, "film": GOLD, "place": {"x_mm": 30, "y_mm": 20}},
                {
                    "kind": "lettering",
                    "id": "late",
                    "text": "late",
                    "font": "lobster-two",
                    "film": RED,
                    "place": {"y_mm": 40},
                },
            ],
            "films": [{"film": f"s{k}", "colour": f"#{k}0{k}0{k}0", **shadow} for k in (1, 2, 3)],
            "pairs": [{"a": CREAM, "b": GOLD, "rule": gap}, {"a": CREAM, "b": RED, "rule": gap}],
            "makings": [
                {"kind": "drop-shadow", "id": "m1", "film": "s1", "of": [CREAM], "length_mm": 3},
                {"kind": "outline-shadow", "id": "m2", "film": "s2", "of": [CREAM, "s1"], "mm": 2},
                {"kind": "outline-shadow", "id": "m3", "film": "s3", "of": ["s2"], "mm": 2},
            ],
        }
    )


def typing() -> None:
    """A letter typed: the whole build against the bare geometry it needs, and the answer of the server."""
    assets, memo = _assets(), Memo()
    build(_design(TEXT), assets, memo)
    star, late = (build(_design(TEXT), assets, memo).layers[k].shape for k in (4, 5))
    whole, bare = [], []
    for k in range(ROUNDS):
        recipe = _design(TEXT + "abcdefghij"[k])
        whole.append(_timed(partial(build, recipe, assets, memo)))
        bare.append(_timed(partial(_bare, recipe, assets, star, late)))
    a, b = float(np.median(whole)), float(np.median(bare))
    letters = len("".join(TEXT.split()))
    print(
        f"\nA letter typed into {letters} letters on 3 lines with 3 shadows and 2 knockouts: built in {a * 1000:.0f} ms, "
        f"{a / b:.1f}x the bare geometry calls ({b * 1000:.0f} ms)"
    )


def _bare(recipe: Recipe, assets: Assets, star: shapely.MultiPolygon, late: shapely.MultiPolygon) -> None:
    """Only the calls that the shapes cannot do without: shaping, polygons, sweeps, offsets, differences."""
    art = recipe.arts[0]
    assert isinstance(art, LetteringArt)
    faces = {key: face.value for key, face in faces_of(art, assets, Stages(_FONTS)).items()}
    letters = lay_out(lettering_of(art, faces)).letters
    curves = letter_curves(letters, art.place.matrix)
    words = weld([letter_shape(letter, own) for letter, own in zip(letters, curves, strict=True)])
    fall = block_shadow(words, 2.1, 2.1)
    near = as_multi(list(shapely.get_parts(grow(fall, 2))))
    far = grow(near, 2)
    cut = cut_away(cut_away(words, [grow(star, 1)]), [grow(late, 1)])
    assert far.area > near.area > fall.area > cut.area


_FONTS = Memo()


def exactness() -> None:
    """Gap width, shadow distance and the area of lettering, each measured on the written curves."""
    gaps, offsets, areas = [], [], []
    for mm in (0.3, 1.0, 2.5):
        made = _built(
            [
                {"kind": "lettering", "id": "words", "text": "HILL\ntop 8&", "film": CREAM, "height_mm": 24},
                {"kind": "shape", "id": "star", "form": {"form": "star", "across_mm": 60}, "film": GOLD, "inside": "words"},
            ],
            joint={"kind": "gap", "mm": mm},
        )
        low, high = made.layers
        edge = np.concatenate([flatten_chain(r, 0.001) for r in low.outline.rings])
        apart = shapely.distance(_written(high.outline.rings), shapely.points(edge))
        reveal = shapely.distance(low.shape.boundary, shapely.points(edge)) > 0.05
        gaps.append(np.abs(apart[reveal] - mm).max())
        shadowed = _built(
            [{"kind": "lettering", "id": "words", "text": "Moon 8&", "font": "lobster-two", "film": CREAM, "height_mm": 24}],
            makings=[{"kind": "outline-shadow", "id": "s", "film": "s", "of": ["words"], "mm": mm}],
            films=[{"film": "s", "colour": "#000000", "joint": {"kind": "full", "mm": 0}}],
        )
        shadow, source = shadowed.layers
        exact = shapely.buffer(_written(source.outline.rings), mm, quad_segs=300)
        ours = _written(shadow.outline.rings)
        offsets.append(shapely.hausdorff_distance(_closed(ours).boundary, _closed(exact).boundary, densify=0.05))
    for font in ("inter-black", "lobster-two", "roboto-slab", "inter-thin", "kristi"):
        art = LetteringArt(id="a", text="Observe 8&", font=font, height_mm=30)
        pieces = pieces_of(art, _assets(), Stages(Memo()))
        fine = _built([art.model_dump()])
        font_area = sum(_signed_area(flatten_chain(c.chain, 1e-4)) for c in pieces.curves.value)
        written = sum(_signed_area(flatten_chain(r, 1e-4)) for r in fine.layers[0].outline.rings)
        if len(fine.layers[0].cut.geoms) >= 8:  # letters that do not overlap, so that the sums mean the same
            areas.append(abs(abs(written) / abs(font_area) - 1))
    print(
        f"\nAs written: gaps within {max(gaps):.4f} mm of their width, outline shadows within {max(offsets):.4f} mm "
        f"(Hausdorff, slits below 0.05 mm aside) of the exact offset, lettering's area within {max(areas):.4%} of the font's"
    )


def _built(arts: list[dict[str, Any]], **more: object) -> Built:
    return build(Recipe.model_validate({"name": "Exact", "arts": arts, **more}), _assets(), Memo())


def _written(rings: Any) -> shapely.Geometry:
    """The shape that written curves bound, flattened far finer than they are fitted."""
    flat = [shapely.Polygon(flatten_chain(r, 0.001)) for r in rings]
    out: shapely.Geometry = shapely.MultiPolygon()
    for polygon in flat:
        out = shapely.symmetric_difference(out, shapely.make_valid(polygon))
    return out


def _closed(shape: shapely.Geometry) -> shapely.Geometry:
    """The shape without slits narrower than 0.05 mm: whether such a one just closes or not would decide the distance."""
    return shapely.buffer(shapely.buffer(shape, 0.025, quad_segs=64), -0.025, quad_segs=64)


def _signed_area(points: np.ndarray) -> float:
    x, y = points.T
    return float(0.5 * np.sum(x[:-1] * y[1:] - x[1:] * y[:-1]))


def _timed(work: Callable[[], object]) -> float:
    begin = time.perf_counter()
    work()
    return time.perf_counter() - begin
