"""Stacks for tests: lettering and shapes, random ones, and what must hold of any."""

from __future__ import annotations

from typing import Any

import pytest
import shapely
from hypothesis import strategies as st

from gladstack.core.base import tolerances
from gladstack.core.films.joints import JointKind
from gladstack.core.geometry import overlay
from gladstack.core.geometry.shapes import clean
from gladstack.proof.prove import proof_of
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.build.measured import most_films, wrong_area_ratio
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.memo import Memo

MEMO = Memo()
RED, NAVY, GOLD = "#c0392b", "#1d2b53", "#f2b632"


def no_picture(digest: str) -> bytes:
    raise AssertionError(f"no picture {digest} here")


def built(data: dict[str, Any]) -> Built:
    return build(Recipe.model_validate({"name": "Stack", **data}), Assets(picture=no_picture), MEMO)


def words(text: str, film: str | None, *, id_: str = "words", **more: object) -> dict[str, object]:
    return {"kind": "lettering", "id": id_, "text": text, "film": film, "height_mm": 20, **more}


def form(name: str, film: str | None, *, id_: str = "form", x: float = 0, y: float = 0, **more: object) -> dict[str, object]:
    place = {"x_mm": x, "y_mm": y, "turn_deg": more.pop("turn", 0)}
    return {"kind": "shape", "id": id_, "form": {"form": name, **more.pop("size", {})}, "film": film, "place": place, **more}  # type: ignore[dict-item]


def layer(made: Built, film: str) -> Any:
    return next(item for item in made.layers if item.film == film)


def check_invariants(made: Built, *, flush: bool = True) -> None:
    """Painting gives the wanted picture; butts do not overlap; laps do not show; cuts are valid, welded and whole.

    Where a film was made to run on under others, it is not `flush`.
    """
    assert wrong_area_ratio(made) <= 1e-6
    for item in made.layers:
        assert item.cut.is_valid
        # Needles of no width are valid, and yet the blade would cut along them.
        assert shapely.get_num_coordinates(clean(item.cut)) == shapely.get_num_coordinates(item.cut)
        assert all(p.area > 0 for p in item.cut.geoms)
        # Welded: no two pieces of one film share an edge or overlap.
        if len(item.cut.geoms) > 1:
            assert shapely.union_all(list(item.cut.geoms)).area == pytest.approx(item.cut.area, rel=1e-9)
            assert item.cut.boundary.length == pytest.approx(shapely.union_all(list(item.cut.geoms)).length, rel=1e-6)
    # What no cutter resolves is left out, and told.
    too_fine = sum(f.code == "too-fine" for f in proof_of(made))
    fine_mm2 = 100 * tolerances.RESOLVED_MM**2 if too_fine else 0.0
    kinds = {j.joint.kind for j in made.joints}
    if flush and kinds <= {JointKind.BUTT}:
        assert most_films(made) <= 1
    for k, item in enumerate(made.layers):
        upper = overlay.union_all([u.cut for u in made.layers[k + 1 :]])
        beyond = overlay.difference(overlay.difference(item.cut, item.shape), upper)
        assert beyond.area <= 1e-6 * max(1, item.shape.area) + fine_mm2


JOINTS = st.sampled_from(
    [{"kind": "butt"}, {"kind": "lap", "mm": 0.5}, {"kind": "gap", "mm": 0.8}, {"kind": "full", "mm": 0.4}]
)
FILMS = st.sampled_from([RED, NAVY, GOLD])
PLACES = st.tuples(st.floats(-30, 30), st.floats(-20, 20), st.sampled_from([0, 17, 90, -45]))


@st.composite
def stacks(draw: Any) -> dict[str, Any]:
    arts: list[dict[str, object]] = []
    for k in range(draw(st.integers(1, 4))):
        x, y, turn = draw(PLACES)
        place = {"x_mm": x, "y_mm": y, "turn_deg": turn}
        film = draw(st.one_of(FILMS, st.none())) if k else draw(FILMS)
        inside = f"art{draw(st.integers(0, k - 1))}" if k and draw(st.integers(0, 4)) == 0 else None
        if draw(st.booleans()):
            text = draw(st.sampled_from(["OPEN", "moon", "Ö8&", "no\nsky"]))
            font = draw(st.sampled_from(["inter-black", "lobster-two", "cherry-bomb", "allerta-stencil"]))
            arts.append(words(text, film, id_=f"art{k}", font=font, place=place, inside=inside))
        else:
            name = draw(st.sampled_from(["rectangle", "ellipse", "star", "heart", "ring", "ribbon", "polygon"]))
            arts.append(
                {"kind": "shape", "id": f"art{k}", "form": {"form": name}, "film": film, "place": place, "inside": inside}
            )
    sources = [a["id"] for a in arts if a["film"]]
    makings: list[dict[str, object]] = []
    for k in range(draw(st.integers(0, 2))):
        of = draw(st.one_of(st.just([]), st.lists(st.sampled_from(sources), min_size=1, max_size=2, unique=True)))
        makings.append({"id": f"made{k}", "film": f"film{k}", "of": of, **draw(st.sampled_from(MAKINGS))})
    films = [{"film": m["film"], "colour": f"#0{k}0a1{k}"} for k, m in enumerate(makings)]
    if draw(st.booleans()):
        films.append({"film": RED, "thicken_mm": draw(st.sampled_from([-0.3, 0.4]))})
    return {"arts": arts, "makings": makings, "films": films, "joint": draw(JOINTS)}


MAKINGS = (
    {"kind": "outline-shadow", "mm": 1.5},
    {"kind": "outline-shadow", "mm": 2.5, "holes": "fill", "corners": "mitre"},
    {"kind": "drop-shadow", "length_mm": 4, "angle_deg": 60},
    {"kind": "drop-shadow", "length_mm": 3, "style": "copy", "grow_mm": 0.4},
    {"kind": "stitch-line", "mm": 1.5},
    {"kind": "band", "inner_mm": -1, "outer_mm": 1},
)
