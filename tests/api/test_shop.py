"""Shelf and jobs over the API: a job laid, changed by hand, marked as cut, undone; and what is refused."""

from __future__ import annotations

import io
import json
import zipfile
from typing import Any

import pytest
from fastapi.testclient import TestClient

from gladstack.demo.designs import add_demo_designs
from gladstack.demo.shelf import MATERIALS, add_demo_shelf


@pytest.fixture
def shop(client: TestClient) -> TestClient:
    state = client.app.state  # type: ignore[attr-defined]
    add_demo_designs(state.desks.builder.store)
    add_demo_shelf(state.desks.jobs.shelf, state.desks.jobs.jobs, state.desks.builder.store)
    return client


def left(shop: TestClient, search: str) -> dict[str, float]:
    films = shop.get("/api/shelf", params={"search": search}).json()["films"]
    return {p["id"]: p["left"] for film in films for p in film["pieces"]}


def part_of(plan: dict[str, Any], sheet: int = 0, part: int = 0) -> dict[str, Any]:
    found = plan["sheets"][sheet]["parts"][part]
    return {k: found[k] for k in ("design", "film", "part", "copy_of", "tile")} | {"spot": found["spot"]}


def test_a_job_from_the_shelf_to_cut_and_back(shop: TestClient) -> None:
    job = shop.get("/api/jobs/job-mugs").json()
    plan = shop.get("/api/jobs/job-mugs/plan").json()
    assert plan["length_used_mm"] < plan["naive_length_mm"] / 2
    before = left(shop, "navy")
    cut = shop.post("/api/jobs/job-mugs/cut", json={"base": job["revision"]}).json()
    assert cut["cut"]
    navy = next(s for s in plan["sheets"] if s["material"]["id"] == "night-navy")
    assert left(shop, "navy")["night-navy-roll"] == pytest.approx(
        before["night-navy-roll"] - navy["length_used_mm"], abs=0.1
    )
    # What was cut stays as it was cut, though its film is off the shelf.
    assert shop.get("/api/jobs/job-mugs/plan").json()["sheets"] == plan["sheets"]
    assert shop.post("/api/jobs/job-mugs/uncut", json={"base": job["revision"]}).json()["cut"] is None
    assert left(shop, "navy") == before


def test_parts_are_put_pinned_and_laid_again(shop: TestClient) -> None:
    job = shop.get("/api/jobs/job-mugs").json()
    plan = shop.get("/api/jobs/job-mugs/plan").json()
    first = part_of(plan)
    like = next(p for p in plan["sheets"][0]["parts"] if p["part"] == first["part"] and p["copy_of"] != first["copy_of"])
    on_another = {**first, "spot": like["spot"]}
    refused = shop.post("/api/jobs/job-mugs/parts", json={"base": job["revision"], **on_another}).json()
    assert refused["job"] is None
    assert "another part" in refused["why"]
    put = shop.post("/api/jobs/job-mugs/parts", json={"base": job["revision"], **on_another, "spot": refused["fits"]}).json()
    assert sum(p["pinned"] for p in put["job"]["job"]["laid"]) == 1
    edit = {"kind": "lay-rest"}
    rest = shop.post("/api/jobs/job-mugs/edits", json={"base": put["job"]["revision"], "edit": edit}).json()
    assert len(rest["job"]["laid"]) == 1
    again = shop.get("/api/jobs/job-mugs/plan").json()
    pinned = [p for s in again["sheets"] for p in s["parts"] if p["pinned"]]
    assert [p["spot"]["x_mm"] for p in pinned] == [pytest.approx(refused["fits"]["x_mm"])]
    late = shop.post("/api/jobs/job-mugs/parts", json={"base": job["revision"], **on_another})
    assert late.json()["code"] == "stale-revision"


def test_a_longer_look_is_kept_as_a_step(shop: TestClient) -> None:
    job = shop.get("/api/jobs/job-shirts").json()
    closer = shop.post("/api/jobs/job-shirts/closer", json={"base": job["revision"], "seconds": 1}).json()
    assert closer["after_mm"] <= closer["before_mm"]
    plan = shop.get("/api/jobs/job-shirts/plan").json()
    assert plan["length_used_mm"] == pytest.approx(closer["after_mm"], abs=0.1)
    undone = shop.post("/api/jobs/job-shirts/undo", json={"base": closer["job"]["revision"]}).json()
    assert undone["job"]["laid"] == []


def test_a_designs_own_sheets_follow_it(shop: TestClient) -> None:
    design = shop.get("/api/designs/example-helper-mug").json()
    own = shop.get("/api/designs/example-helper-mug/job").json()
    assert shop.get("/api/designs/example-helper-mug/job").json() == own
    first = shop.get(f"/api/jobs/{own['id']}/plan").json()
    edit = {"kind": "scale-design", "factor": 1.5}
    shop.post("/api/designs/example-helper-mug/edits", json={"base": design["revision"], "edit": edit})
    assert shop.get(f"/api/jobs/{own['id']}/plan").json()["length_used_mm"] > first["length_used_mm"]
    # A job of several keeps its revision, and says so.
    assert shop.get("/api/jobs/job-mugs").json()["stale"] == ["example-helper-mug"]


def test_a_job_begun_from_designs_shares_film(shop: TestClient) -> None:
    designs = [{"design": "example-helper-mug", "copies": 2}, {"design": "example-window-banner", "copies": 1}]
    begun = shop.post("/api/jobs", json={"name": "Both", "designs": designs, "layout": "nested"})
    assert begun.status_code == 201
    plan = shop.get(f"/api/jobs/{begun.json()['id']}/plan").json()
    gold = [s for s in plan["sheets"] if s["material"]["id"] == "lamp-gold"]
    assert {p["design"] for s in gold for p in s["parts"]} == {"example-helper-mug", "example-window-banner"}
    missing = shop.post("/api/jobs", json={"name": "None", "designs": [{"design": "nothing"}]})
    assert missing.status_code == 404


def test_the_files_of_a_job(shop: TestClient) -> None:
    packed = shop.get("/api/jobs/job-shirts/sheets.zip")
    with zipfile.ZipFile(io.BytesIO(packed.content)) as archive:
        told = json.loads(archive.read("plan.json"))
        assert {s["file"] for s in told["sheets"]} <= set(archive.namelist())
        assert all(s["mirrored"] for s in told["sheets"])
        assert "°C" in archive.read("assembly.txt").decode()


def test_films_are_added_changed_copied_retired_and_counted(shop: TestClient) -> None:
    film = MATERIALS[0].model_dump(mode="json")
    added = shop.put("/api/films/dusk-violet", json={**film, "id": "x", "name": "Dusk violet", "colour": "#6d3468"}).json()
    assert (added["id"], added["name"]) == ("dusk-violet", "Dusk violet")
    brought = shop.post("/api/pieces", json={"material": "dusk-violet", "kind": "roll", "width_mm": 300, "length_mm": 5000})
    (piece,) = brought.json()["pieces"]
    assert shop.post(f"/api/pieces/{piece['id']}/count", json={"left": 1200}).status_code == 204
    assert left(shop, "violet") == {piece["id"]: 1200}
    copy = shop.post("/api/films/dusk-violet/copy").json()
    assert copy["id"] != "dusk-violet"
    shop.put("/api/films/night-navy", json={**film, "retired": True})
    # A job that has it goes on; nothing new is given it.
    edit = {"kind": "set-job-film", "film": {"design": "example-helper-mug", "film": "#1d2b53", "material": "night-navy"}}
    job = shop.get("/api/jobs/job-mugs").json()
    shop.post("/api/jobs/job-mugs/edits", json={"base": job["revision"], "edit": edit})
    films = shop.get("/api/jobs/job-mugs/plan").json()["films"]
    navy = next(f for f in films if f["film"] == "#1d2b53")
    assert navy["material"] == "night-navy"
    assert "night-navy" not in {n["material"] for n in navy["nearest"]}


def test_the_shelf_as_csv(shop: TestClient) -> None:
    told = shop.get("/api/shelf.csv")
    more = told.text.replace("Night navy", "Midnight navy")
    back = shop.post("/api/shelf.csv", files={"file": ("shelf.csv", more.encode())})
    assert back.json()["total"] == len(MATERIALS)
    assert left(shop, "midnight")
    bad = shop.post("/api/shelf.csv", files={"file": ("shelf.csv", b"id,name,colour\nnew,New,red\n")})
    assert (bad.status_code, bad.json()["code"]) == (422, "csv")
    assert shop.get("/api/shelf").json()["total"] == len(MATERIALS)
    assert shop.post("/api/shelf.csv", files={"file": ("s.csv", b"\xff\xfe\x00")}).status_code == 422


def test_what_cannot_be_laid_is_told(shop: TestClient) -> None:
    job = shop.get("/api/jobs/job-banner").json()
    edit = {"kind": "set-job", "tiles": {"divide": False}}
    told = shop.post("/api/jobs/job-banner/edits", json={"base": job["revision"], "edit": edit}).json()
    answer = shop.get("/api/jobs/job-banner/plan")
    assert (answer.status_code, answer.json()["code"]) == (422, "tiles")
    assert "room for" in answer.json()["detail"]
    undone = shop.post("/api/jobs/job-banner/undo", json={"base": told["revision"]}).json()
    assert shop.get("/api/jobs/job-banner/plan").status_code == 200
    unknown = {"kind": "set-job", "cutter": "no-such-cutter"}
    shop.post("/api/jobs/job-banner/edits", json={"base": undone["revision"], "edit": unknown})
    assert shop.get("/api/jobs/job-banner/plan").json()["code"] == "shop"
    assert shop.get("/api/jobs/nothing/plan").status_code == 404
