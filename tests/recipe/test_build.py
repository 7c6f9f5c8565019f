"""The build: exact, and sparing."""

from __future__ import annotations

import io

import numpy as np
import pytest
from PIL import Image
from pydantic import TypeAdapter

from gladstack.proof.finding import Finding
from gladstack.proof.prove import proof_of
from gladstack.recipe.art.given import Assets
from gladstack.recipe.build.build import build
from gladstack.recipe.build.built import Built
from gladstack.recipe.build.measured import wrong_area_ratio
from gladstack.recipe.edit.edits import Edit, apply_edit
from gladstack.recipe.model.arts import PictureArt, Separation
from gladstack.recipe.model.recipe import Recipe
from gladstack.stages.engine import GROUPS
from gladstack.stages.memo import Memo
from tests.pictures import BY_NAME, disc_on_clear, encode, photo, picture_of

EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)
GOLD, BROWN, CREAM, DARK = "#f2b632", "#6b4226", "#fff4d6", "#14100c"
DROPPED = Separation(background="drop")
OWL = Recipe(
    name="Owl & moon",
    arts=(PictureArt(id="picture", picture="a" * 64, filename="owl.png", width_mm=120, separation=DROPPED),),
)


class Bench:
    """A recipe being worked on, with a memo of its own."""

    def __init__(self, data: bytes | None = None, recipe: Recipe = OWL) -> None:
        self.data = data or picture_of("moon-owl", 320)
        self.recipe = recipe
        self.memo = Memo()
        self.worked: list[str] = []
        self.built = self._build()

    def edit(self, **data: object) -> Built:
        self.recipe = apply_edit(self.recipe, EDIT.validate_python(data))
        self.built = self._build()
        return self.built

    def _build(self) -> Built:
        self.worked = []
        return build(self.recipe, Assets(lambda key: self.data), self.memo, self.worked.append)

    def names(self) -> list[str]:
        return [layer.name for layer in self.built.layers]


def test_background_is_dropped_and_colours_become_layers_in_order() -> None:
    bench = Bench()
    assert len(bench.built.colours) == len(BY_NAME["moon-owl"].colours)
    assert [c.role for c in bench.built.colours].count("background") == 1
    assert bench.names()[0] == "Gold"
    order = [layer.colour for layer in bench.built.layers]
    assert order.index(BROWN) < order.index(CREAM) < order.index(DARK)
    assert set(bench.worked) <= set(GROUPS)


SPARING = [
    {"kind": "set-joint", "rule": {"kind": "lap", "mm": 0.4}},
    {"kind": "set-pair-joint", "a": CREAM, "b": DARK, "rule": {"kind": "gap", "mm": 1}},
    {"kind": "order-films", "order": [BROWN, GOLD]},
    {"kind": "rename-film", "film": GOLD, "name": "Moon"},
    {"kind": "rename-design", "name": "Night shirt"},
    {"kind": "set-use", "use": "heat-transfer"},
]


@pytest.mark.parametrize("edit", SPARING, ids=lambda e: str(e["kind"]))
def test_joints_orders_names_and_sheets_never_separate_again(edit: dict[str, object]) -> None:
    bench = Bench()
    bench.edit(**edit)
    assert not {"decode", "palette", "labels", "map"} & set(bench.worked)
    if edit["kind"] in ("rename-film", "rename-design"):
        assert bench.worked == []


def test_a_pairs_joint_leaves_the_other_layers_alone() -> None:
    bench = Bench()
    before = {layer.colour: layer.cut for layer in bench.built.layers}
    bench.edit(kind="set-pair-joint", a=DARK, b=CREAM, rule={"kind": "gap", "mm": 1})
    changed = [layer.colour for layer in bench.built.layers if layer.cut is not before[layer.colour]]
    assert changed == [CREAM]


def test_pair_before_film_before_design() -> None:
    bench = Bench()
    bench.edit(kind="set-joint", rule={"kind": "lap", "mm": 0.3})
    bench.edit(kind="set-film-joint", film=CREAM, rule={"kind": "full", "mm": 0.5})
    bench.edit(kind="set-pair-joint", a=DARK, b=CREAM, rule={"kind": "butt"})
    order = [layer.colour for layer in bench.built.layers]
    sources = {(order[j.lower], order[j.upper]): (j.source, j.joint.kind.value) for j in bench.built.joints}
    assert sources[CREAM, DARK] == ("pair", "butt")
    assert sources[BROWN, CREAM] == ("design", "lap")
    assert all(j.joint.mm > 0 for j in bench.built.joints if j.joint.kind != "butt")


def test_a_base_made_solid_runs_under_what_lies_on_it() -> None:
    bench = Bench()
    open_area = next(layer for layer in bench.built.layers if layer.colour == BROWN).cut.area
    bench.edit(kind="set-film-joint", film=BROWN, rule={"kind": "full", "mm": 0.4})
    solid = next(layer for layer in bench.built.layers if layer.colour == BROWN)
    assert solid.cut.area > 1.5 * open_area
    assert len(solid.cut.geoms) == 1
    assert wrong_area_ratio(bench.built) <= 1e-6


def test_merged_dropped_and_named_colours() -> None:
    bench = Bench()
    count = len(bench.built.layers)
    bench.edit(kind="merge-colours", colour=DARK, into=BROWN)
    assert len(bench.built.layers) == count - 1
    assert next(c for c in bench.built.colours if c.colour == DARK).into == BROWN
    bench.edit(kind="drop-colour", colour=CREAM)
    assert len(bench.built.layers) == count - 2
    bench.edit(kind="rename-film", film=GOLD, name="Moon")
    assert bench.names()[0] == "Moon"


@pytest.mark.parametrize(("treatment", "kept"), [("drop", False), ("keep", True)])
def test_background_as_the_maker_wants_it(treatment: str, kept: bool) -> None:
    built = Bench().edit(kind="treat-background", background=treatment)
    assert ("#ffffff" in [layer.colour for layer in built.layers]) == kept
    if kept:
        assert sum(layer.cut.area for layer in built.layers) == pytest.approx(120 * 120, rel=1e-6)


def test_background_dropped_only_outside_keeps_enclosed_areas() -> None:
    built = Bench(picture_of("rosette", 320)).edit(kind="treat-background", background="outside")
    assert "#f1faee" not in [layer.colour for layer in built.layers]
    built = Bench(picture_of("night-badge", 320)).edit(kind="treat-background", background="outside")
    stars = next(layer for layer in built.layers if layer.colour == "#ffffff")
    assert 8 <= len(stars.cut.geoms) <= 14


def test_enclosed_areas_of_the_background_stay_unless_the_ground_has_their_colour() -> None:
    bench = Bench(picture_of("night-badge", 320))
    bench.edit(kind="treat-background", background="auto")
    assert "#ffffff" in [layer.colour for layer in bench.built.layers]
    (told,) = [f for f in proof_of(bench.built) if f.code.startswith("enclosed")]
    assert told.code == "enclosed-kept"
    kept = next(layer for layer in bench.built.layers if layer.colour == "#ffffff").shape.area
    assert told.measure is not None
    assert told.measure.figure == pytest.approx(kept, rel=0.02)
    bench.edit(kind="set-ground", ground={"kind": "shirt", "colour": "#fdfdfd"})
    assert "#ffffff" not in [layer.colour for layer in bench.built.layers]
    (told,) = [f for f in proof_of(bench.built) if f.code.startswith("enclosed")]
    assert told.code == "enclosed-dropped"
    bench.edit(**told.fixes[0].edit.model_dump())
    assert "#ffffff" in [layer.colour for layer in bench.built.layers]
    bench.edit(kind="set-ground", ground={"kind": "shirt", "colour": "#202020"})
    bench.edit(kind="treat-background", background="auto")
    assert "#ffffff" in [layer.colour for layer in bench.built.layers]


def test_a_transparent_background_is_never_a_film() -> None:
    built = Bench(disc_on_clear()).edit(kind="treat-background", background="keep")
    assert [layer.colour for layer in built.layers] == ["#c0392b"]
    assert len(built.colours) == 1


def test_a_photo_is_said_not_to_be_flat() -> None:
    notices = proof_of(Bench(photo()).built)
    assert next(n.code for n in notices if n.about == "picture") == "not-flat"


def test_a_colour_of_mere_specks_is_not_proposed_but_told_of_when_asked_for() -> None:
    bench = Bench(picture_of("dots", 320))
    found = len(bench.built.colours)
    bench.edit(kind="set-detail", speck_mm="15mm")
    assert [c.role for c in bench.built.colours] == ["background"]
    bench.edit(kind="count-colours", count=found)
    assert [c.role for c in bench.built.colours].count("empty") == found - 1
    assert {n.code for n in proof_of(bench.built)} == {"film-empty", "lost"}


def test_a_build_can_be_given_up() -> None:
    def stop(stage: str) -> None:
        if stage == "labels":
            raise InterruptedError

    with pytest.raises(InterruptedError):
        build(OWL, Assets(lambda key: picture_of("moon-owl", 320)), Memo(), stop)


def test_a_choice_whose_colour_has_shifted_is_for_one_film_and_outlives_another() -> None:
    """Two near shades: what was chosen for a shade between them went to both, and naming one lost its thickening."""
    from PIL import Image, ImageDraw

    picture = Image.new("RGB", (240, 120), "#ffffff")
    draw = ImageDraw.Draw(picture)
    draw.rectangle((10, 10, 110, 110), fill="#c0392b")
    draw.rectangle((130, 10, 230, 110), fill="#cc4033")
    data = io.BytesIO()
    picture.save(data, "PNG")
    bench = Bench(data.getvalue())
    bench.edit(kind="thicken-film", film="#c23a2c", mm=0.5)
    widths = {layer.film: layer.shape.bounds[2] - layer.shape.bounds[0] for layer in bench.built.layers}
    assert widths["#c0392b"] == pytest.approx(widths["#cc4033"] + 1, abs=0.05)
    bench.edit(kind="rename-film", film="#c0392b", name="Roof")
    assert sorted(bench.names())[-1] == "Roof"
    again = {layer.film: layer.shape.bounds[2] - layer.shape.bounds[0] for layer in bench.built.layers}
    assert again == widths


def test_every_fix_makes_its_finding_go() -> None:
    """What a finding offers to mend it is an edit that can be made, after which it is not told any more."""
    letters = {"kind": "lettering", "id": "words", "text": "AVATAR", "height_mm": 20, "spacing_mm": -4, "weld": False}
    recipe = Recipe.model_validate({"name": "Fixes", "arts": [letters]})

    def findings(of: Recipe) -> list[Finding[Edit]]:
        return list(proof_of(build(of, Assets(lambda key: b""))))

    told = findings(recipe)
    assert {f.code for f in told} == {"unwelded"}
    for found in told:
        assert found.place is not None
        assert found.fixes
        for fix in found.fixes:
            mended = findings(apply_edit(recipe, fix.edit))
            assert found.code not in {f.code for f in mended}


def test_a_film_whose_pieces_all_went_to_others_is_no_film_any_more() -> None:
    def block(name: str, film: str, width: float) -> dict[str, object]:
        form = {"form": "rectangle", "width_mm": width, "height_mm": width, "radius_mm": 0.0}
        return {"kind": "shape", "id": name, "film": film, "form": form}

    arts = [block("base", "#c0392b", 40.0), block("crumb", "#1d2b53", 1.0)]
    recipe = Recipe.model_validate({"name": "Crumb", "arts": arts, "joint": {"kind": "lap", "mm": 0.3}})
    assert [layer.film for layer in built_of(recipe).layers] == ["#c0392b", "#1d2b53"]
    tidied_up = apply_edit(
        recipe, EDIT.validate_python({"kind": "tidy-film", "film": "#1d2b53", "below_mm2": 2.0, "how": "merge"})
    )
    built = built_of(tidied_up)
    assert [layer.film for layer in built.layers] == ["#c0392b"]
    assert built.layers[0].cut.area == pytest.approx(1600.0, rel=1e-6)
    assert built.joints == ()
    assert [f for f in proof_of(built) if f.code == "nothing-left"] == []


def built_of(recipe: Recipe) -> Built:
    return build(recipe, Assets(lambda key: b""), Memo())


def test_the_insides_of_letters_are_the_ground_seen_through() -> None:
    rgb = np.full((400, 400, 3), 255, np.uint8)
    for x in (40, 120, 200):
        rgb[100:130, x : x + 24] = (29, 43, 83)
        rgb[112:117, x + 9 : x + 14] = 255
    bench = Bench(encode(Image.fromarray(rgb)))
    bench.edit(kind="treat-background", background="auto")
    assert "#ffffff" not in [layer.colour for layer in bench.built.layers]
    assert [f.code for f in proof_of(bench.built) if f.code.startswith("enclosed")] == ["enclosed-dropped"]
