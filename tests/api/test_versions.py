"""Versions over the API: named like designs, with sheets of their own, cut together in one job."""

from __future__ import annotations

from typing import Any

from fastapi.testclient import TestClient

START = {"name": "Dome", "art": {"kind": "shape", "form": {"form": "heart", "width_mm": 40}}, "use": "surface"}


def started(client: TestClient) -> dict[str, Any]:
    answer = client.post("/api/designs/plain", json=START)
    assert answer.status_code == 201, answer.text
    return dict(answer.json())


def edit(client: TestClient, design: dict[str, Any], **data: Any) -> dict[str, Any]:
    path = f"/api/designs/{design['id']}/edits"
    answer = client.post(path, json={"base": design["revision"], "edit": data})
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


def opened(client: TestClient, ref: str) -> dict[str, Any]:
    answer = client.get(f"/api/designs/{ref}")
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


def test_one_motif_is_cut_as_three_sizes_in_one_job(client: TestClient) -> None:
    motif = started(client)
    wide = motif["built"]["width_mm"]
    for name, factor, use in (("Window", 3.0, "glass"), ("Mug", 0.75, None)):
        motif = edit(client, motif, kind="add-version", name=name, factor=factor, use=use)
    window, mug = (f"{motif['id']}~{v['id']}" for v in motif["recipe"]["versions"])
    shown = opened(client, window)
    assert (shown["id"], shown["version"], shown["recipe"]["use"]) == (window, "v-1", "glass")
    assert abs(shown["built"]["width_mm"] - 3 * wide) < 0.01
    assert {d["what"]: (d["own"], d["motif"]) for d in shown["decides"]}["size"] == ("300 %", "100 %")

    refs = [motif["id"], window, mug]
    answer = client.post("/api/jobs", json={"name": "Three", "designs": [{"design": r, "copies": 2} for r in refs]})
    assert answer.status_code == 201, answer.text
    job = answer.json()
    assert [d["name"] for d in job["job"]["designs"]] == ["Dome", "Dome, Window", "Dome, Mug"]
    plan = client.get(f"/api/jobs/{job['id']}/plan")
    assert plan.status_code == 200, plan.text

    # What the mug alone decides makes neither of the others stale; what is the motif's does.
    small = edit(client, opened(client, mug), kind="set-joint", rule={"kind": "butt"})
    assert (small["undoes"] or "").startswith("Mug: ")
    assert client.get(f"/api/jobs/{job['id']}").json()["stale"] == [mug]
    edit(client, opened(client, window), kind="rename-design", name="Dome by night")
    assert client.get(f"/api/jobs/{job['id']}").json()["stale"] == refs
    parcel = client.get(f"/api/jobs/{job['id']}/file")
    found = client.post("/api/designs/file", files={"file": ("three.zip", parcel.content)}).json()
    again = client.get(f"/api/jobs/{found['job']}/plan")
    assert again.status_code == 200, again.text
    assert len(again.json()["sheets"]) == len(plan.json()["sheets"])


def test_each_version_has_sheets_of_its_own_and_undo_goes_back_through_both(client: TestClient) -> None:
    motif = edit(client, started(client), kind="add-version", name="Mug", factor=0.5)
    mug = f"{motif['id']}~v-1"
    own = [client.get(f"/api/designs/{ref}/job").json() for ref in (motif["id"], mug)]
    assert own[0]["id"] != own[1]["id"]
    assert [o["own_of"] for o in own] == [motif["id"], mug]
    copies = {"kind": "set-copies", "design": mug, "copies": 7}
    told = client.post(f"/api/jobs/{own[1]['id']}/edits", json={"base": own[1]["revision"], "edit": copies})
    assert told.status_code == 200, told.text
    assert opened(client, mug)["undoes"] == told.json()["undoes"]
    assert opened(client, motif["id"])["undoes"] == "Made the version “Mug”"

    def back(ref: str) -> dict[str, Any]:
        return dict(client.post(f"/api/designs/{ref}/undo", json={"base": opened(client, ref)["revision"]}).json())

    assert back(mug)["id"] == mug
    # Before it was made, there is the motif alone, and redo leads to it again.
    gone = back(mug)
    assert (gone["id"], gone["version"]) == (motif["id"], None)
    assert client.get(f"/api/designs/{mug}").status_code == 404
    again = client.post(f"/api/designs/{motif['id']}/redo", json={"base": gone["revision"]}).json()
    assert [v["name"] for v in again["recipe"]["versions"]] == ["Mug"]
    assert opened(client, mug)["redoes"] is not None


def test_a_design_with_versions_goes_through_a_file_and_a_copy(client: TestClient) -> None:
    motif = edit(client, started(client), kind="add-version", name="Mug", factor=0.5)
    mug = f"{motif['id']}~v-1"
    packed = client.get(f"/api/designs/{mug}/file")
    assert packed.status_code == 200
    found = client.post("/api/designs/file", files={"file": ("dome.zip", packed.content)}).json()
    again = opened(client, found["designs"][0])
    assert [v["name"] for v in again["recipe"]["versions"]] == ["Mug"]
    copy = client.post(f"/api/designs/{mug}/copy").json()
    alone = opened(client, copy["id"])
    assert alone["recipe"]["versions"] == []
    assert abs(alone["built"]["width_mm"] - opened(client, mug)["built"]["width_mm"]) < 1e-6


def test_what_a_version_decides_can_follow_the_motif_again(client: TestClient) -> None:
    motif = edit(client, started(client), kind="add-version", name="Mug", factor=0.5)
    mug = edit(client, opened(client, f"{motif['id']}~v-1"), kind="set-ground", ground={"kind": "mug", "colour": "#1d2b53"})
    assert [(d["what"], d["own"]) for d in mug["decides"]] == [("size", "50 %"), ("ground", "mug, #1d2b53")]
    mug = edit(client, mug, kind="follow-motif", version="v-1", what="ground")
    assert [d["what"] for d in mug["decides"]] == ["size"]
    larger = edit(client, mug, kind="scale-design", factor=3)
    assert larger["recipe"]["versions"][0]["factor"] == 1.5
    assert abs(larger["built"]["width_mm"] - 60) < 1.5
