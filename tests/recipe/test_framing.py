"""A part of a picture taken for the whole of it."""

from __future__ import annotations

import io
from typing import Any

import pytest
import shapely
from PIL import Image, ImageDraw
from shapely import MultiPolygon, box

from gladstack.core.base.errors import PictureError, RecipeError
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.edit.edits import apply_edit
from gladstack.recipe.edit.framing import FramePicture
from gladstack.recipe.model.arts import PictureArt, Separation
from gladstack.recipe.model.recipe import JointRule, Recipe
from tests.recipe.owl import RECIPE

WIDE, HIGH = 400, 240


def drawn() -> bytes:
    """A moon, a dome and a star of one film each, on cream that is kept."""
    picture = Image.new("RGB", (WIDE, HIGH), "#f4f0e4")
    pen = ImageDraw.Draw(picture)
    pen.ellipse((40, 40, 160, 160), fill="#f2b632")
    pen.rectangle((200, 80, 340, 220), fill="#1d2b53")
    pen.polygon([(280, 20), (320, 60), (360, 20)], fill="#c0392b")
    held = io.BytesIO()
    picture.save(held, "PNG")
    return held.getvalue()


DRAWN = Assets(picture={"0" * 64: drawn()}.__getitem__)


def design(**place: Any) -> Recipe:
    art = PictureArt(
        id="picture", picture="0" * 64, width_mm=200.0, separation=Separation(background="keep"), place=place or {},
        pins=({"x": 0.25, "y": 0.25, "film": "#2f8f8b"},),
    )  # fmt: skip
    return Recipe(name="Evening", arts=(art,), joint=JointRule(kind="butt", mm=0.4))


def framed(recipe: Recipe, frame: dict[str, float] | None, width_mm: float | None = None) -> Recipe:
    return apply_edit(recipe, FramePicture(art="picture", frame=frame, width_mm=width_mm))


def made(recipe: Recipe) -> Built:
    return build(recipe, DRAWN)


def cuts(built: Built) -> dict[str, MultiPolygon]:
    return {layer.film: layer.cut for layer in built.layers if not layer.cut.is_empty}


PLACES = ({}, {"x_mm": 30.0, "y_mm": -12.0, "turn_deg": 90.0}, {"x_mm": 5.0, "mirrored": True})
FRAMES = ((0, 0, 400, 240), (20, 20, 180, 180), (100, 60, 400, 240), (190, 0, 380, 230), (33, 17, 271, 203))


@pytest.mark.parametrize("place", PLACES)
@pytest.mark.parametrize("frame", FRAMES)
def test_what_is_framed_stays_where_it_was(frame: tuple[int, int, int, int], place: dict[str, Any]) -> None:
    recipe = design(**place)
    shares = dict(zip(("left", "top", "right", "bottom"), (side / WIDE for side in frame), strict=True))
    part = framed(recipe, shares)
    whole, kept = cuts(made(recipe)), cuts(made(part))
    a, b, c, d, x, y = recipe.arts[0].place.matrix
    within = shapely.affinity.affine_transform(box(*(side / 2 for side in frame)), (a, c, b, d, x, y))
    for film, shape in kept.items():
        # Edges are found anew, and no more than a pixel (0.5 mm) elsewhere.
        wanted = shapely.intersection(whole.get(film, MultiPolygon()), within)
        off = shapely.symmetric_difference(shape, wanted)
        assert off.buffer(-0.3).is_empty, film
        assert off.area < 0.12 * within.length
    back, whole_place = framed(part, None).arts[0], recipe.arts[0].place
    assert back.pins == recipe.arts[0].pins
    assert back.place.matrix == pytest.approx(whole_place.matrix, abs=1e-5)


def test_a_part_is_made_as_wide_as_was_asked() -> None:
    part = framed(design(x_mm=10.0, y_mm=20.0), {"left": 0.48, "top": 0.18, "right": 0.87, "bottom": 0.57}, 60.0)
    built = made(part)
    assert built.width_mm == pytest.approx(60.0, abs=0.05)
    # Its top left corner stays where it was.
    assert built.frame[:2] == pytest.approx((10.0 + 0.48 * 200, 20.0 + 0.18 * 200), abs=0.05)


def test_claims_and_mends_stay_on_what_they_were_made_on() -> None:
    part = framed(RECIPE, {"left": 0.1, "top": 0.2, "right": 0.6, "bottom": 0.9})
    (own,) = [a for a in part.arts if a.id == "picture"]
    assert (own.strayed[0].x, own.strayed[0].y) == pytest.approx((0.6, 0.4))
    assert (own.mends[0].start.x, own.mends[0].start.y) == pytest.approx((0.0, -0.4))
    assert (own.width_mm, own.mends[1].width_mm) == (60.0, 2.0)
    larger = framed(RECIPE, {"left": 0.1, "top": 0.2, "right": 0.6, "bottom": 0.9}, 120.0)
    assert larger.arts[0].mends[1].width_mm == pytest.approx(4.0)
    assert framed(part, None) == RECIPE


def test_a_claim_that_lies_outside_claims_nothing_and_is_there_again_with_the_whole() -> None:
    recipe = design()
    assert "#2f8f8b" in cuts(made(recipe))
    part = framed(recipe, {"left": 0.45, "top": 0.0, "right": 1.0, "bottom": 0.6})
    assert "#2f8f8b" not in cuts(made(part))
    assert "#2f8f8b" in cuts(made(framed(part, None)))


def test_a_frame_of_nothing_is_refused() -> None:
    with pytest.raises(PictureError, match="too few pixels"):
        made(framed(design(), {"left": 0.0, "top": 50.0, "right": 1.0, "bottom": 60.0}))
    with pytest.raises(RecipeError):
        apply_edit(RECIPE, FramePicture(art="words", frame=None))
