"""The path of a maker through the API, and everything that is refused on the way."""

from __future__ import annotations

import io
import zipfile
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from gladstack.demo.designs import add_demo_designs, demo_recipes, example_files
from gladstack.recipe.model.fonts import shipped_font
from tests.api.conftest import own_job, small_look
from tests.fonts import bars_font, crowded_font
from tests.pictures import photo, picture_of
from tests.recipe.vector_files import FUSED, SVG


def bring(client: TestClient, data: bytes, name: str = "night_owl.png", **fields: str) -> Any:
    return client.post("/api/designs", files={"picture": (name, data)}, data=fields)


@pytest.fixture
def design(client: TestClient) -> dict[str, Any]:
    answer = bring(client, picture_of("moon-owl", 256), width="4in")
    assert answer.status_code == 201, answer.text
    return dict(answer.json())


def change(client: TestClient, design: dict[str, Any], **edit: object) -> Any:
    base = design["revision"]
    return client.post(f"/api/designs/{design['id']}/edits", json={"base": base, "edit": edit})


def built_of(client: TestClient, design: dict[str, Any]) -> Any:
    return client.get(f"/api/designs/{design['id']}/revisions/{design['revision']}/built").json()


def test_from_upload_to_the_zip(client: TestClient, design: dict[str, Any]) -> None:
    assert design["recipe"]["name"] == "night owl"
    assert design["built"]["width_mm"] == pytest.approx(101.6, abs=0.02)
    assert len(design["built"]["layers"]) == 6
    edited = change(client, design, kind="set-joint", rule={"kind": "butt"}).json()
    assert {j["kind"] for j in edited["built"]["joints"]} == {"butt"}
    undone = client.post(f"/api/designs/{design['id']}/undo", json={"base": edited["revision"]}).json()
    assert {j["kind"] for j in undone["built"]["joints"]} == {"lap"}
    assert undone["redoes"]
    redone = client.post(f"/api/designs/{design['id']}/redo", json={"base": undone["revision"]}).json()
    assert redone["revision"] == edited["revision"]
    files = client.get(f"/api/jobs/{own_job(client, design)}/sheets.zip")
    assert files.headers["content-disposition"] == 'attachment; filename="night-owl.zip"'
    with zipfile.ZipFile(io.BytesIO(files.content)) as archive:
        assert {"plan.json", "stack.svg", "assembly.txt"} < set(archive.namelist())
        assert len([n for n in archive.namelist() if n.startswith("sheets/") and n.endswith(".svg")]) == 6
    picture = client.get(f"/api/pictures/{design['recipe']['arts'][0]['picture']}")
    assert (picture.content, picture.headers["content-type"]) == (picture_of("moon-owl", 256), "image/png")
    assert [line["id"] for line in client.get("/api/designs").json()] == [design["id"]]


def test_two_windows_do_not_overwrite_each_other(client: TestClient, design: dict[str, Any]) -> None:
    assert change(client, design, kind="resize", width_mm=80).status_code == 200
    late = change(client, design, kind="resize", width_mm=90)
    assert late.status_code == 409
    assert late.json()["code"] == "stale-revision"
    assert client.get(f"/api/designs/{design['id']}").json()["recipe"]["arts"][0]["width_mm"] == 80


@pytest.mark.parametrize(
    ("data", "name", "fields", "said"),
    [
        (b"", "a.png", {}, "empty"),
        (b"not at all", "a.png", {}, "not a picture"),
        (picture_of("dome", 128)[:700], "a.png", {}, "cut short"),
        (picture_of("dome", 128), "a.jpg", {}, "holds a PNG"),
        (picture_of("dome", 128), "a.png", {"width": "very"}, "not a length"),
        (picture_of("dome", 128), "a.png", {"width": "0.1mm"}, "no width"),
        (picture_of("dome", 128), "a.png", {"use": "glue"}, "surface"),
    ],
)
def test_what_cannot_be_used_is_refused_and_leaves_nothing(
    client: TestClient, data: bytes, name: str, fields: dict[str, str], said: str
) -> None:
    answer = bring(client, data, name, **fields)
    assert answer.status_code == 422
    assert answer.headers["content-type"] == "application/problem+json"
    assert said in answer.json()["detail"]
    assert client.get("/api/designs").json() == []


def test_an_edit_that_cannot_be_built_is_not_kept(client: TestClient, design: dict[str, Any]) -> None:
    refused = change(client, design, kind="add-art", art={"kind": "lettering", "text": "Dome", "font": "0" * 64})
    assert 400 <= refused.status_code < 500
    assert refused.json()["remedy"]
    assert client.get(f"/api/designs/{design['id']}").json()["revision"] == design["revision"]


def test_fewer_colours_than_asked_for_are_told(client: TestClient, design: dict[str, Any]) -> None:
    built = change(client, design, kind="count-colours", count=24).json()["built"]
    assert 2 < len(built["colours"]) < 24
    told = next(f for f in built["findings"] if f["code"] == "fewer-colours")
    assert str(len(built["colours"])) in told["text"]


def test_a_photo_is_taken_and_said_not_to_be_flat(client: TestClient) -> None:
    built = bring(client, photo(), "photo.png").json()["built"]
    assert not built["flat"]
    assert built["findings"][0]["code"] == "not-flat"
    assert len(built["colours"]) == 6


def test_a_body_without_a_length_is_bounded_too(client: TestClient) -> None:
    def endless() -> Any:
        for _ in range(60):
            yield b"x" * 2**20

    answer = client.post("/api/designs", content=endless(), headers={"content-type": "multipart/form-data; boundary=b"})
    assert answer.status_code == 413


def test_the_demo_designs_build_without_complaint(client: TestClient) -> None:
    store = client.app.state.desks.builder.store  # type: ignore[attr-defined]
    add_demo_designs(store)
    add_demo_designs(store)
    lines = client.get("/api/designs").json()
    assert len(lines) == len(demo_recipes()) + len(example_files())
    uses = set()
    for line in lines:
        design = client.get(f"/api/designs/{line['id']}").json()
        uses.add(design["recipe"]["use"])
        assert design["built"]["flat"]
        assert design["built"]["wrong_area_ratio"] <= 1e-6
        # One example is there for its fault.
        faults = ["small-pieces"] if line["id"] == "example-star-dust" else []
        assert [f["code"] for f in design["built"]["findings"] if f["severity"] != "note"] == faults
    assert uses == {"surface", "heat-transfer"}


def test_trying_an_edit_keeps_nothing(client: TestClient, design: dict[str, Any]) -> None:
    edit = {"kind": "set-joint", "rule": {"kind": "gap", "mm": 1}}
    tried = client.post(f"/api/designs/{design['id']}/tries", json={"base": design["revision"], "edit": edit})
    assert {j["kind"] for j in tried.json()["joints"]} == {"gap"}
    assert client.get(f"/api/designs/{design['id']}").json()["revision"] == design["revision"]


def test_more_art_comes_onto_the_stack(client: TestClient, design: dict[str, Any]) -> None:
    url = f"/api/designs/{design['id']}"
    files = {"picture": ("dome.png", picture_of("dome", 128))}
    two = client.post(f"{url}/pictures", files=files, data={"base": design["revision"], "width": "2in"}).json()
    assert [a["kind"] for a in two["recipe"]["arts"]] == ["picture", "picture"]
    assert two["recipe"]["arts"][1]["width_mm"] == 50.8
    files = {"picture": ("fused.svg", FUSED)}
    three = client.post(f"{url}/pictures", files=files, data={"base": two["revision"]}).json()
    assert three["built"]["arts"][2]["file_colours"] == ["#14100c"]
    late = client.post(f"{url}/pictures", files=files, data={"base": design["revision"]})
    assert late.json()["code"] == "stale-revision"


def test_a_design_begins_with_a_vector_file_or_with_the_picture_it_wraps(client: TestClient) -> None:
    made = bring(client, FUSED, "fused.svg").json()
    assert made["built"]["width_mm"] == pytest.approx(60)
    assert made["recipe"]["arts"][0]["kind"] == "vector"
    wrapper = (example_files()[0].parent / "wrapped.svg").read_bytes()
    assert bring(client, wrapper, "wrapped.svg").json()["recipe"]["arts"][0]["kind"] == "picture"
    refused = bring(client, b'<?xml version="1.0"?><!DOCTYPE a [<!ENTITY b "c">]><svg>&b;</svg>', "bad.svg")
    assert (refused.status_code, refused.json()["code"]) == (422, "vector")
    assert refused.json()["remedy"]


def test_the_regions_of_an_art_are_listed_and_claimed(client: TestClient) -> None:
    made = client.post("/api/designs", files={"picture": ("fused.svg", FUSED)}).json()
    art = made["recipe"]["arts"][0]["id"]
    listed = client.get(f"/api/designs/{made['id']}/arts/{art}/regions?revision={made['revision']}").json()
    assert listed["key"] == made["built"]["arts"][0]["regions_key"]
    assert sorted(r["depth"] for r in listed["regions"]) == [0, 1, 1, 2]
    pins = [{"x": r["x"], "y": r["y"], "becomes": "hole"} for r in listed["regions"] if r["depth"] == 2]
    edit = {"kind": "claim-regions", "art": art, "pins": pins}
    claimed = client.post(f"/api/designs/{made['id']}/edits", json={"base": made["revision"], "edit": edit}).json()
    (claim,) = claimed["built"]["arts"][0]["claims"]
    assert (listed["regions"][claim["region"]]["depth"], claim["becomes"]) == (2, "hole")
    assert claimed["built"]["arts"][0]["regions_key"] == listed["key"]
    both = {**pins[0], "film": "#c0392b"}
    edit = {"kind": "claim-regions", "art": art, "pins": [both]}
    refused = client.post(f"/api/designs/{made['id']}/edits", json={"base": claimed["revision"], "edit": edit})
    assert refused.status_code == 422
    assert (
        client.get(f"/api/designs/{made['id']}/arts/nothing/regions?revision={made['revision']}").json()["code"] == "recipe"
    )


@pytest.mark.parametrize("mm", [8, 80, 800])
def test_regions_are_as_round_to_look_at_whatever_the_size_of_the_file(client: TestClient, mm: float) -> None:
    data = SVG % (b'width="%dmm" height="%dmm" viewBox="0 0 80 80"' % (mm, mm), b'<circle cx="40" cy="40" r="30"/>')
    made = client.post("/api/designs", files={"picture": ("disc.svg", data)}).json()
    art = made["recipe"]["arts"][0]["id"]
    (disc,) = client.get(f"/api/designs/{made['id']}/arts/{art}/regions?revision={made['revision']}").json()["regions"]
    corners = np.array([pair.split() for pair in disc["path"][1:-1].split("L")], float) / mm
    edges = (corners + np.roll(corners, -1, axis=0)) / 2
    assert np.abs(np.hypot(*(edges - 0.5).T) - 30 / 80).max() < 1 / 900


def test_a_step_of_mending_that_finds_nothing_is_refused(client: TestClient) -> None:
    made = client.post("/api/designs", files={"picture": ("fused.svg", FUSED)}).json()
    art = made["recipe"]["arts"][0]["id"]
    far = {"kind": "straighten", "film": "#14100c", "start": {"x": 0.3, "y": 0.3}, "end": {"x": 0.31, "y": 0.31}}
    near = {**far, "start": {"x": 0.5, "y": 0}, "end": {"x": 0.6, "y": 0}}
    path = f"/api/designs/{made['id']}/edits"
    refused = client.post(path, json={"base": made["revision"], "edit": {"kind": "add-mend", "art": art, "mend": far}})
    assert (refused.status_code, refused.json()["code"]) == (422, "mend")
    taken = client.post(path, json={"base": made["revision"], "edit": {"kind": "add-mend", "art": art, "mend": near}})
    assert taken.json()["recipe"]["arts"][0]["mends"][0]["id"] == "straighten-1"


def test_lettering_is_set_in_a_font_of_the_makers_own(client: TestClient) -> None:
    shelf = client.get("/api/fonts").json()
    assert len(shelf) >= 12
    assert all(font["sample"].startswith("M") for font in shelf)
    added = client.post("/api/fonts", files={"font": ("a.ttf", shipped_font("kristi"))}).json()
    assert client.get("/api/fonts").json()[0] == added
    art = {"kind": "lettering", "text": "Hill", "font": added["key"]}
    design = client.post("/api/designs/plain", json={"name": "Hill", "art": art}).json()
    assert design["built"]["arts"][0]["letters"][0]["text"] == "H"
    look = small_look(client, f"/api/designs/{design['id']}/looks/{design['revision']}")
    assert look.headers["content-type"] == "image/png"
    assert client.post("/api/fonts", files={"font": ("b.ttf", b"nothing")}).json()["code"] == "font"


def test_a_font_of_the_makers_own_is_renamed_and_removed(client: TestClient) -> None:
    own = {"font": ("bars.ttf", bars_font())}
    key = client.post("/api/fonts", files=own).json()["key"]
    named = client.put(f"/api/fonts/{key}", json={"name": "My bars", "tags": ["signs"]}).json()
    assert (named["name"], named["tags"]) == ("My bars", ["signs"])
    assert client.get("/api/fonts").json()[0] == named
    art = {"kind": "lettering", "text": "I", "font": key}
    design = client.post("/api/designs/plain", json={"name": "Sign", "art": art}).json()
    assert client.get(f"/api/fonts/{key}/designs").json() == ["Sign"]
    assert client.delete(f"/api/fonts/{key}").status_code == 204
    assert key not in [font["key"] for font in client.get("/api/fonts").json()]
    # The design keeps the font that it is set in.
    again = client.get(f"/api/designs/{design['id']}").json()
    assert again["built"]["arts"][0]["letters"][0]["text"] == "I"
    assert client.delete(f"/api/fonts/{key}").json()["code"] == "font"
    back = client.post("/api/fonts", files=own).json()
    assert back["name"] == "My bars"
    assert client.delete("/api/fonts/inter-black").json()["code"] == "font"


def test_a_font_that_cannot_be_drawn_is_refused_and_not_kept(client: TestClient) -> None:
    before = client.get("/api/fonts").json()
    refused = client.post("/api/fonts", files={"font": ("crowd.ttf", crowded_font())})
    assert refused.status_code == 422
    assert client.get("/api/fonts").json() == before


def test_a_font_that_was_kept_long_ago_and_cannot_be_drawn_is_a_plain_name(client: TestClient) -> None:
    shelf = client.app.state.desks.fonts._fonts  # type: ignore[attr-defined]
    bad = shelf.add(crowded_font(), "Crowd", "")
    fonts = client.get("/api/fonts")
    assert fonts.status_code == 200
    first = fonts.json()[0]
    assert (first["key"], first["sample"]) == (bad.key, "")
    assert all(font["sample"] for font in fonts.json()[1:])
    assert client.delete(f"/api/fonts/{bad.key}").status_code == 204


def test_what_a_font_lets_choose_is_told_and_drawn(client: TestClient) -> None:
    key = client.post("/api/fonts", files={"font": ("bars.ttf", bars_font())}).json()["key"]
    told = client.get(f"/api/fonts/{key}/choices", params={"text": "I"}).json()
    assert [axis["tag"] for axis in told["axes"]] == ["wght"]
    assert [style["name"] for style in told["styles"]] == ["Regular", "Black"]
    swashed = client.get("/api/fonts/lobster-two/choices", params={"text": "B"}).json()
    (form,) = swashed["forms"]
    assert (form["tag"], len(form["shapes"])) == ("salt", 1)
    assert form["shapes"][0] != swashed["plain"]
    assert client.get("/api/fonts/nothing-like-it/choices", params={"text": "B"}).json()["code"] == "font"
    assert client.get("/api/fonts/lobster-two/choices", params={"text": " "}).status_code == 422


@pytest.mark.parametrize("text", ["\u202eabc", "\U0001f319", "a" * 24, "\u0301\u0302", "%00x"])
def test_any_letters_may_be_asked_for(client: TestClient, text: str) -> None:
    assert client.get("/api/fonts/inter-black/choices", params={"text": text}).status_code in (200, 422)


def test_a_film_is_patterned_with_a_picture_that_is_kept_for_it(client: TestClient, design: dict[str, Any]) -> None:
    film = design["built"]["layers"][0]["film"]
    files = {"picture": ("dots.png", picture_of("dots", 64))}
    data = {"base": design["revision"], "film": film}
    made = client.post(f"/api/designs/{design['id']}/patterns", files=files, data=data).json()
    built = built_of(client, made)
    finish = built["layers"][0]["finish"]
    assert (finish["kind"], finish["pattern"]) == ("patterned", "picture")
    assert client.get(f"/api/pictures/{finish['picture']}").content == picture_of("dots", 64)
    assert built["layers"][0]["path"] == design["built"]["layers"][0]["path"]


def test_a_photograph_is_set_straight_and_shown_so(client: TestClient, design: dict[str, Any]) -> None:
    (art,) = design["recipe"]["arts"]
    corners = [{"x": 0.1, "y": 0.1}, {"x": 0.9, "y": 0.1}, {"x": 0.9, "y": 0.6}, {"x": 0.1, "y": 0.6}]
    straight = change(client, design, kind="set-straight", art=art["id"], corners=corners).json()
    page = straight["built"]["arts"][0]["page"]
    assert page["right"] - page["left"] == pytest.approx(art["width_mm"], abs=0.01)
    assert (page["bottom"] - page["top"]) / (page["right"] - page["left"]) == pytest.approx(0.5 / 0.8, abs=0.01)
    address = f"/api/pictures/{art['picture']}?corners=0.1,0.1,0.9,0.1,0.9,0.6,0.1,0.6"
    shown = Image.open(io.BytesIO(client.get(address).content))
    assert shown.height / shown.width == pytest.approx(0.5 / 0.8, abs=0.01)
    crossed = change(client, straight, kind="set-straight", art=art["id"], corners=corners[::-1])
    assert crossed.status_code == 422
    assert "do not go round" in crossed.json()["detail"]


@pytest.mark.parametrize("corners", ["", "0,0,1,0", "nan,0,1,0,1,1,0,1", "2,0,1,0,1,1,0,1", "0,0,1,1,1,0,0,1"])
def test_corners_in_an_address_that_make_no_sense_are_refused(
    client: TestClient, design: dict[str, Any], corners: str
) -> None:
    answer = client.get(f"/api/pictures/{design['recipe']['arts'][0]['picture']}", params={"corners": corners})
    assert answer.status_code == 422
    assert answer.json()["title"]
