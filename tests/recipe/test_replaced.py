"""Another source in place of the first: all that was said of the motif stays where it was on the stack."""

from __future__ import annotations

import hashlib
import random

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from bench.sources import another
from gladstack.core.base.errors import RecipeError
from gladstack.core.films.registering import Fit
from gladstack.core.geometry.curves import transform_points
from gladstack.recipe.art.given import Assets
from gladstack.recipe.art.pieces import regions_of_art
from gladstack.recipe.art.replaced import replaced
from gladstack.recipe.edit.edits import apply_edit
from gladstack.recipe.edit.sources import Laid, PutClaimsBack, ReplaceSource
from gladstack.recipe.model.arts import LetteringArt, PictureArt, Place, RegionArt, VectorArt
from gladstack.recipe.model.mends import Brush, Straighten
from gladstack.recipe.model.pins import ArtPoint, Pin
from gladstack.recipe.model.recipe import FilmChoice, PairJoint, Recipe
from gladstack.stages.engine import Stages
from gladstack.stages.memo import Memo
from tests.examples import some
from tests.pictures import BY_NAME, encode, photo, render

RED, NEW_RED, BLUE = "#c0392b", "#d0493b", "#1d2b53"
SHARES = st.floats(0.05, 0.95)
PLACES = st.builds(
    Place, x_mm=st.floats(-80, 80), y_mm=st.floats(-80, 80), turn_deg=st.floats(-170, 170), mirrored=st.booleans()
)
LAID = st.builds(
    Laid, scale=st.floats(0.5, 2), turn_deg=st.floats(-30, 30), x_mm=st.floats(-20, 20), y_mm=st.floats(-20, 20)
)


def on_stack(art: RegionArt, point: ArtPoint, width_mm: float) -> np.ndarray:  # type: ignore[type-arg]
    return transform_points(np.array([[point.x * width_mm, point.y * width_mm]]), art.place.matrix)[0]


def moved(point: ArtPoint, laid: Laid, width: float, new_width: float) -> ArtPoint:
    """Where a point of the old source is in the new, by the inverse of its matrix."""
    a, b, c, d, x, y = Fit(laid.scale, laid.turn_deg, laid.x_mm, laid.y_mm).matrix
    at = np.linalg.solve(np.array([[a, c], [b, d]]), np.array([point.x * width - x, point.y * width - y]))
    return ArtPoint(x=at[0] / new_width, y=at[1] / new_width)


@given(PLACES, LAID, SHARES, SHARES, st.booleans(), st.floats(20, 90))
def test_what_was_drawn_stays_where_it_was_on_the_stack(
    place: Place, laid: Laid, x: float, y: float, vector: bool, new_width: float
) -> None:
    width = 60.0
    pin = Pin(x=x, y=y, film=RED)
    own = {
        "id": "logo", "place": place, "pins": (pin,), "strayed": (pin,),
        "mends": (Brush(id="dab", film=RED, path=(ArtPoint(x=x, y=y),), width_mm=2.0),),
    }  # fmt: skip
    art = VectorArt(file="a" * 64, **own) if vector else PictureArt(picture="a" * 64, width_mm=width, **own)
    new_width = new_width if vector else width
    edit = ReplaceSource(
        art="logo",
        source="b" * 64,
        laid=laid,
        width_mm=width,
        new_width_mm=new_width,
        pins=(moved(pin, laid, width, new_width),),
    )
    recipe = Recipe(name="Logo", arts=(art,))
    new = apply_edit(recipe, edit).arts[0]
    assert isinstance(new, RegionArt)
    now = new_width if vector else new.width_mm  # type: ignore[union-attr]
    for was, point in ((pin, new.pins[0]), (pin, new.strayed[0]), (pin, new.mends[0].path[0])):  # type: ignore[union-attr]
        assert on_stack(new, point, now) == pytest.approx(on_stack(art, was, width), abs=1e-4)
    assert -180 <= new.place.turn_deg < 180
    # A stroke of the brush is as wide on the stack as it was.
    assert new.mends[0].width_mm * new.place.scale_x == pytest.approx(2.0)  # type: ignore[operator]


def test_choices_go_with_a_film_that_comes_in_another_colour() -> None:
    picture = PictureArt(
        id="logo", picture="a" * 64, width_mm=60, pins=(Pin(x=0.5, y=0.5, film=RED),),
        mends=(Straighten(id="s", film=RED, start=ArtPoint(x=0, y=0), end=ArtPoint(x=1, y=0)),),
        separation={"picked": [RED], "merges": [{"colour": BLUE, "into": RED}]},
    )  # fmt: skip
    recipe = Recipe(
        name="Logo", arts=(picture,), order=(BLUE, RED), films=(FilmChoice(film=RED, name="Barn red", thicken_mm=0.2),),
        pairs=(PairJoint(a=BLUE, b=RED, rule={"kind": "gap", "mm": 1}),),
    )  # fmt: skip
    edit = ReplaceSource(
        art="logo", source="b" * 64, width_mm=60, new_width_mm=60, pins=(ArtPoint(x=0.5, y=0.5),),
        colours=({"colour": RED, "into": NEW_RED},), idle=("s",),
    )  # fmt: skip
    new = apply_edit(recipe, edit)
    assert RED not in new.model_dump_json()
    assert new.film(NEW_RED).name == "Barn red"
    assert (new.order, new.pairs[0].b) == ((BLUE, NEW_RED), NEW_RED)
    art = new.arts[0]
    assert isinstance(art, PictureArt)
    assert (art.pins[0].film, art.mends[0].film, art.mends[0].on) == (NEW_RED, NEW_RED, False)
    # Lettering of that film keeps it, and its choices.
    words = LetteringArt(id="words", text="Dome", film=RED)
    shared = apply_edit(recipe.model_copy(update={"arts": (picture, words)}), edit)
    assert (shared.film(RED).name, shared.film(NEW_RED).name, shared.arts[1].film) == ("Barn red", "Barn red", RED)


def test_old_claims_are_put_back_once_beside_those_that_found_their_place() -> None:
    found, strayed = Pin(x=0.2, y=0.3, film=BLUE), Pin(x=0.7, y=0.6, film=RED)
    art = PictureArt(id="logo", picture="a" * 64, width_mm=60, pins=(found, strayed), strayed=(strayed,))
    recipe = Recipe(name="Logo", arts=(art,))
    back = apply_edit(recipe, PutClaimsBack(art="logo")).arts[0]
    gone = apply_edit(recipe, PutClaimsBack(art="logo", let_go=True)).arts[0]
    assert isinstance(back, PictureArt)
    assert isinstance(gone, PictureArt)
    assert (back.pins, back.strayed) == ((found, strayed), ())
    assert (gone.pins, gone.strayed) == ((found, strayed), ())


def test_claims_made_meanwhile_are_not_lost() -> None:
    art = PictureArt(id="logo", picture="a" * 64, width_mm=60, pins=(Pin(x=0.5, y=0.5, film=RED),))
    whole = ReplaceSource(art="logo", source="b" * 64, width_mm=60, new_width_mm=60, pins=(ArtPoint(x=0.5, y=0.5),))
    for other in ({"pins": ()}, {"strayed": (1,)}):
        with pytest.raises(RecipeError, match="claimed of the art has changed"):
            apply_edit(Recipe(name="Logo", arts=(art,)), whole.model_copy(update=other))
    assert apply_edit(Recipe(name="Logo", arts=(art,)), whole.model_copy(update={"strayed": (0,)})).arts[0].strayed


@pytest.mark.parametrize(("name", "seed"), some([("night-badge", 1), ("checker", 4), ("stained-glass", 2), ("moon-owl", 3)]))
def test_claims_find_their_regions_in_another_picture_of_the_motif(name: str, seed: int) -> None:
    rng = random.Random(seed)
    image = render(BY_NAME[name].svg(), 360).convert("RGB")
    new = another(image, rng)
    held = {hashlib.sha256(d).hexdigest(): d for d in (encode(image), encode(new.image, "JPEG", quality=75))}
    old_key, new_key = held
    assets, stages = Assets(picture=held.__getitem__), Stages(Memo())
    art = PictureArt(id="p", picture=old_key, width_mm=100)
    regions = regions_of_art(art, assets, stages)
    assert regions is not None
    own = [r for r in regions.value.all if r.shape.area > 3]
    art = art.model_copy(update={"pins": tuple(Pin(x=r.at[0] / 100, y=r.at[1] / 100, film=RED) for r in own)})
    found = replaced(art, art.from_source(new_key, ""), assets, stages)
    assert len(found.strayed) < 0.4 * len(own)
    for k, region in enumerate(own):
        if k in found.strayed:
            continue
        point = np.array([found.pins[k].x, found.pins[k].y]) * new.image.size[0]
        x, y = (new.matrix @ (*point, 1))[:2] * 100 / image.size[0]
        assert region.shape.buffer(0.5).covers(shapely.Point(x, y))


def test_what_is_no_picture_of_the_motif_is_laid_within_bounds_and_said_to_agree_little() -> None:
    speck = Image.new("RGB", (300, 300), "white")
    speck.paste(RED, (290, 290, 300, 300))
    flat = render(BY_NAME["moon-owl"].svg(), 300).convert("RGB").resize((900, 40))
    first = encode(render(BY_NAME["moon-owl"].svg(), 300).convert("RGB"))
    for other in (encode(speck), encode(flat), photo(120)):
        held = {hashlib.sha256(d).hexdigest(): d for d in (first, other)}
        old_key, new_key = held
        art = PictureArt(id="p", picture=old_key, width_mm=100, pins=(Pin(x=0.5, y=0.5, film=RED),))
        found = replaced(art, art.from_source(new_key, ""), Assets(picture=held.__getitem__), Stages(Memo()))
        assert 0.3 <= found.fit.scale <= 3.3
        assert found.agrees < 0.5
        Laid(scale=found.fit.scale, turn_deg=found.fit.turn_deg, x_mm=found.fit.x_mm, y_mm=found.fit.y_mm)
