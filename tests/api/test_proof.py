"""The proof of a design over the API: with its films' materials, for slips, and which fixes help."""

from __future__ import annotations

from typing import Any

from fastapi.testclient import TestClient

from gladstack.demo.shelf import add_demo_shelf

THIN = {"kind": "lettering", "id": "words", "text": "illi", "film": "#1d2b53", "font": "inter-thin", "height_mm": 20}
BOLD = {"kind": "lettering", "id": "words", "text": "Dome", "film": "#1d2b53", "font": "inter-black", "height_mm": 20}


def begun(client: TestClient, art: dict[str, object]) -> Any:
    answer = client.post("/api/designs/plain", json={"art": art})
    assert answer.status_code == 201, answer.text
    return answer.json()


def test_a_design_is_proved_without_sheets_of_its_own(client: TestClient) -> None:
    design = begun(client, THIN)
    proof = client.get(f"/api/designs/{design['id']}/proof").json()
    assert {found["code"] for found in proof["findings"]} >= {"thin-part"}
    (film,) = proof["films"]
    assert film["thinnest_mm"] < film["least_part_mm"]
    assert film["weeding"]["nth"] == 1
    assert proof["slip_mm"] == 0.6
    assert [level["films"] for level in proof["levels"]] == [1]
    assert client.get("/api/jobs").json()["total"] == 0


def test_what_is_told_of_each_film_by_itself_is_the_first_of_all(client: TestClient) -> None:
    path = f"/api/designs/{begun(client, THIN)['id']}/proof"
    of_films, whole = client.get(f"{path}/films").json(), client.get(path).json()
    assert of_films
    assert whole["of_films"] == len(of_films)
    assert whole["findings"][: len(of_films)] == of_films


def test_a_new_design_begins_with_laps_as_long_as_a_hand_slips(client: TestClient) -> None:
    for use, joint in (("surface", ("lap", 0.6)), ("heat-transfer", ("lap", 0.4)), ("stencil", ("butt", 0.4))):
        answer = client.post("/api/designs/plain", json={"art": THIN, "use": use}).json()
        assert (answer["recipe"]["joint"]["kind"], answer["recipe"]["joint"]["mm"]) == joint


def test_what_helps_is_told_apart_from_what_does_not(client: TestClient) -> None:
    design = begun(client, THIN)
    proof = client.get(f"/api/designs/{design['id']}/proof").json()
    thin = next(found for found in proof["findings"] if found["code"] == "thin-part")
    idle = {"kind": "rename-film", "film": "#1d2b53", "name": "Night"}
    body = {
        "base": design["revision"], "code": "thin-part", "about": thin["about"], "at": thin["place"]["at"],
        "figure": thin["measure"]["figure"], "edits": [thin["fixes"][-1]["edit"], idle],
    }  # fmt: skip
    assert client.post(f"/api/designs/{design['id']}/helping", json=body).json() == [True, False]
    # Nothing of it was kept.
    assert client.get(f"/api/designs/{design['id']}").json()["revision"] == design["revision"]
    stale = client.post(f"/api/designs/{design['id']}/helping", json={**body, "base": design["revision"] + 1})
    assert stale.status_code == 409


def test_a_slip_bares_what_the_proof_says_at_worst(client: TestClient) -> None:
    design = begun(client, {"kind": "shape", "id": "disc", "form": {"form": "ellipse"}, "film": "#c0392b"})
    star = {"kind": "shape", "id": "star", "form": {"form": "star"}, "film": "#f2b632"}
    edits = [{"kind": "add-art", "art": star}, {"kind": "set-joint", "rule": {"kind": "butt"}}]
    for edit in edits:
        made = client.post(f"/api/designs/{design['id']}/edits", json={"base": design["revision"], "edit": edit}).json()
        design = made
    proof = client.get(f"/api/designs/{design['id']}/proof").json()
    worst = max(proof["films"], key=lambda film: film["bares_mm2"])
    asked = {"film": worst["film"], "x_mm": worst["slip_x_mm"], "y_mm": worst["slip_y_mm"]}
    slipped = client.get(f"/api/designs/{design['id']}/slip", params=asked).json()
    assert abs(slipped["area_mm2"] - worst["bares_mm2"]) <= 0.01 * worst["bares_mm2"]
    assert slipped["path"].startswith("M")
    assert len(slipped["beside"]) == 1
    assert client.get(f"/api/designs/{design['id']}/slip", params={**asked, "x_mm": 500}).status_code == 422


def test_narrow_stretches_come_with_their_widths(client: TestClient) -> None:
    design = begun(client, THIN)
    (film,) = client.get(f"/api/designs/{design['id']}/widths").json()
    widths = [w for narrow in film["narrow"] if not narrow["waste"] for w in narrow["points"][2::3]]
    assert widths
    assert all(0 < w <= 2 * film["least_part_mm"] for w in widths)


def test_what_gets_worse_is_told_before_it_is_done(client: TestClient) -> None:
    design = begun(client, BOLD)

    def worse(factor: float, base: int = design["revision"]) -> Any:
        edit = {"kind": "scale-design", "factor": factor, "lengths": "keep"}
        return client.post(f"/api/designs/{design['id']}/worse", json={"base": base, "edit": edit})

    small = worse(0.1).json()
    assert any("wide here" in one["text"] or "across at most" in one["text"] for one in small)
    assert all(one["more"] > 0 for one in small)
    assert worse(2.0).json() == []
    assert worse(0.1, design["revision"] + 1).status_code == 409
    # It was only asked.
    assert client.get(f"/api/designs/{design['id']}").json()["revision"] == design["revision"]


def test_what_helps_on_sheets_is_told_and_nothing_of_it_is_kept(client: TestClient) -> None:
    desks: Any = client.app.state.desks  # type: ignore[attr-defined]
    add_demo_shelf(desks.jobs.shelf, desks.jobs.jobs, desks.builder.store)
    design = begun(client, {**BOLD, "film": "#7a3fa0"})
    job = client.get(f"/api/designs/{design['id']}/job").json()
    path = f"/api/jobs/{job['id']}"
    found = next(one for one in client.get(f"{path}/plan").json()["findings"] if one["fixes"])
    idle = {"kind": "set-job", "slug": True}
    nothing = {"kind": "drop-from-job", "design": design["id"]}
    body = {
        "base": job["revision"], "code": found["code"], "about": found["about"], "at": None, "figure": None,
        "edits": [found["fixes"][0]["edit"], idle, nothing],
    }  # fmt: skip
    assert client.post(f"{path}/helping", json=body).json() == [True, False, False]
    assert client.get(path).json()["revision"] == job["revision"]
    assert client.post(f"{path}/helping", json={**body, "base": job["revision"] + 1}).status_code == 409
