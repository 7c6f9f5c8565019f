"""Steps of mending for tests, and pictures they are made on."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from hypothesis import strategies as st

from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.memo import Memo
from tests.pictures import picture_of

MEMO = Memo()
WIDTH = 60.0
SPOT = st.builds(lambda x, y: {"x": x, "y": y}, st.floats(0.02, 0.98), st.floats(0.02, 0.58))


def steps(film: Any, spot: Any, area: Any) -> Any:
    """Any step of mending but a bridge."""
    ends = {"start": spot, "end": spot}
    kinds = [
        {"kind": st.just("cut-away"), "film": st.one_of(st.none(), film), "around": area},
        {"kind": st.just("brush"), "film": film, "path": st.lists(spot, min_size=1, max_size=4),
         "width_mm": st.floats(0.2, 8), "mode": st.sampled_from(["add", "take"])},
        {"kind": st.just("smooth"), "film": film, **ends, "reach_mm": st.floats(0.3, 4)},
        {"kind": st.just("straighten"), "film": film, **ends},
        {"kind": st.just("move-edge"), "film": film, **ends, "mm": st.floats(0.5, 12)},
        {"kind": st.just("draw-edge"), "film": film, "path": st.lists(spot, min_size=2, max_size=6)},
        {"kind": st.just("put-node"), "film": film, "before": spot, "at": spot, "after": spot, "to": spot,
         "form": st.sampled_from(["as-drawn", "smooth", "corner"])},
        {"kind": st.just("take-over"), "film": st.one_of(st.none(), film), "into": st.one_of(st.none(), film),
         "around": area, "thinner_mm": st.one_of(st.none(), st.floats(0.3, 4))},
        {"kind": st.just("let-go"), "film": film, "close": st.booleans()},
    ]  # fmt: skip
    drawn = st.integers(2, 6).flatmap(
        lambda count: st.fixed_dictionaries(
            {"kind": st.just("draw-area"), "film": st.one_of(st.none(), film), "closed": st.booleans(),
             "width_mm": st.floats(0.2, 8),
             **dict.fromkeys(("path", "handles"), st.lists(spot, min_size=count, max_size=count))}
        )
    )  # fmt: skip
    return st.one_of([*(st.fixed_dictionaries(kind) for kind in kinds), drawn])


@lru_cache(maxsize=1)
def picture() -> bytes:
    return picture_of("targets", 200)


def built(joint: str = "butt", **more: Any) -> Built:
    art = {"kind": "picture", "id": "picture", "picture": "a" * 64, "width_mm": WIDTH, **more}
    recipe = Recipe.model_validate({"name": "Picture", "arts": [art], "joint": {"kind": joint, "mm": 0.4}})
    return build(recipe, Assets(picture=lambda digest: picture()), MEMO)


FILMS = tuple(layer.film for layer in built().layers)
