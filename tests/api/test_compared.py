"""Two states of a design held against each other."""

from __future__ import annotations

from typing import Any

import pytest
from fastapi.testclient import TestClient

STAR = {"kind": "shape", "form": {"form": "star"}, "id": "star", "film": "#1d2b53"}
DISC = {"kind": "shape", "form": {"form": "ellipse"}, "id": "disc", "film": "#c0392b"}


def edited(client: TestClient, design: dict[str, Any], edit: dict[str, Any]) -> dict[str, Any]:
    answer = client.post(f"/api/designs/{design['id']}/edits", json={"base": design["revision"], "edit": edit})
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


def held_against(client: TestClient, design: dict[str, Any], before: int, now: int | None = None) -> list[dict[str, Any]]:
    path = f"/api/designs/{design['id']}/revisions/{before}/compared?now={now or design['revision']}"
    answer = client.get(path)
    assert answer.status_code == 200, answer.text
    return list(answer.json())


def test_what_an_edit_changed_is_told_film_by_film(client: TestClient) -> None:
    first = client.post("/api/designs/plain", json={"name": "Star", "art": STAR}).json()
    named = edited(client, first, {"kind": "rename-design", "name": "Evening star"})
    assert held_against(client, named, first["revision"]) == []
    grown = edited(client, named, {"kind": "thicken-film", "film": "#1d2b53", "mm": 0.3})
    (star,) = held_against(client, grown, first["revision"])
    assert (star["film"], star["state"], star["gone_mm2"]) == ("#1d2b53", "changed", 0.0)
    # A corner that is sharp goes farther out than its edges.
    assert 0.29 < star["apart_mm"] < 2.0
    assert star["come_mm2"] == pytest.approx(
        grown["built"]["layers"][0]["area_mm2"] - first["built"]["layers"][0]["area_mm2"]
    )
    (back,) = held_against(client, grown, grown["revision"], first["revision"])
    assert (back["come_mm2"], back["gone_mm2"]) == (0.0, star["come_mm2"])
    two = edited(client, grown, {"kind": "add-art", "art": DISC})
    told = {one["film"]: one for one in held_against(client, two, grown["revision"])}
    assert told["#c0392b"]["state"] == "new"
    assert told["#c0392b"]["apart_mm"] is None
    undone = {one["film"]: one["state"] for one in held_against(client, two, two["revision"], grown["revision"])}
    assert undone["#c0392b"] == "gone"


def test_a_state_that_is_not_there_is_said(client: TestClient) -> None:
    design = client.post("/api/designs/plain", json={"name": "Star", "art": STAR}).json()
    answer = client.get(f"/api/designs/{design['id']}/revisions/9999/compared?now={design['revision']}")
    assert answer.status_code == 404
    assert "no such state" in answer.json()["detail"]
