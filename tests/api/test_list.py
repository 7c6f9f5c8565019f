"""The list of designs over the API: tags, copies, small pictures, and the bin."""

from __future__ import annotations

import io
import json
import sqlite3
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from PIL import Image

from gladstack.recipe.edit.designs import RenameDesign
from gladstack.recipe.model.recipe import Recipe
from gladstack.store.database import Database
from gladstack.store.designs import DesignBook
from gladstack.store.listing import Listing
from tests.api.conftest import small_look
from tests.pictures import disc_on_clear


@pytest.fixture
def design(client: TestClient) -> dict[str, Any]:
    made = client.post("/api/designs", files={"picture": ("disc.png", disc_on_clear())})
    return dict(made.json())


def ids(client: TestClient, path: str = "/api/designs") -> list[str]:
    return [line["id"] for line in client.get(path).json()]


def test_what_goes_into_the_bin_comes_back_whole(client: TestClient, design: dict[str, Any]) -> None:
    path = f"/api/designs/{design['id']}"
    assert client.post(f"{path}/bin").status_code == 204
    assert ids(client) == []
    assert ids(client, "/api/bin") == [design["id"]]
    assert client.post(f"{path}/restore").status_code == 204
    assert ids(client, "/api/bin") == []
    assert client.get(path).json()["revision"] == design["revision"]
    assert client.post("/api/designs/nobody/bin").json()["code"] == "unknown-design"


def test_a_copy_is_as_the_design_is_and_goes_its_own_way(client: TestClient, design: dict[str, Any]) -> None:
    made = client.post(f"/api/designs/{design['id']}/copy").json()["id"]
    copy = client.get(f"/api/designs/{made}").json()
    assert copy["recipe"] == {**design["recipe"], "name": design["recipe"]["name"] + " copy"}
    edit = {"base": copy["revision"], "edit": {"kind": "rename-design", "name": "Other"}}
    client.post(f"/api/designs/{made}/edits", json=edit)
    assert client.get(f"/api/designs/{design['id']}").json()["recipe"]["name"] == design["recipe"]["name"]


def test_tags_are_kept_once_each_and_bad_ones_refused(client: TestClient, design: dict[str, Any]) -> None:
    path = f"/api/designs/{design['id']}/tags"
    assert client.put(path, json={"tags": ["shirts", " dome ", "shirts"]}).status_code == 204
    assert client.get("/api/designs").json()[0]["tags"] == ["shirts", "dome"]
    assert client.put(path, json={"tags": ["  "]}).status_code == 422
    assert client.get("/api/designs").json()[0]["tags"] == ["shirts", "dome"]


def test_a_small_picture_is_made_once_on_the_ground_and_kept(client: TestClient, design: dict[str, Any]) -> None:
    ground = {"kind": "shirt", "colour": "#123456"}
    edit = {"base": design["revision"], "edit": {"kind": "set-ground", "ground": ground}}
    changed = client.post(f"/api/designs/{design['id']}/edits", json=edit).json()
    look = small_look(client, f"/api/designs/{design['id']}/looks/{changed['revision']}")
    assert "immutable" in look.headers["cache-control"]
    with Image.open(io.BytesIO(look.content)) as image:
        assert max(image.size) == 320
        assert image.convert("RGB").getpixel((0, 0)) == (0x12, 0x34, 0x56)
    assert small_look(client, f"/api/designs/{design['id']}/looks/{changed['revision']}").content == look.content
    assert client.get("/api/designs").json()[0]["ground"] == "#123456"
    assert client.get(f"/api/designs/{design['id']}/looks/999999").status_code == 404


def test_a_design_starts_on_the_ground_it_is_meant_for(client: TestClient) -> None:
    data = {"width": "90mm", "use": "heat-transfer", "ground": "shirt", "ground_colour": "#34495e"}
    made = client.post("/api/designs", data=data, files={"picture": ("disc.png", disc_on_clear())}).json()
    assert made["recipe"]["ground"] == {"kind": "shirt", "colour": "#34495e"}
    assert made["recipe"]["use"] == "heat-transfer"


def test_an_example_is_added_once_and_taken_out_of_the_bin_again(client: TestClient) -> None:
    made = client.post("/api/examples/lettering").json()["id"]
    client.post(f"/api/designs/{made}/bin")
    assert client.post("/api/examples/lettering").json()["id"] == made
    assert ids(client) == [made]
    assert client.post("/api/examples/nothing").status_code == 422


@pytest.fixture
def database(tmp_path: Path) -> Database:
    return Database(tmp_path / "designs.sqlite")


def kept(database: Database, name: str) -> str:
    art = {"kind": "lettering", "id": "words", "text": name}
    book = DesignBook(database)
    made = book.create(Recipe.model_validate({"name": name, "arts": [art]}))
    book.edit(made.id, made.revision.id, RenameDesign(name=name + " again"))
    return made.id


def test_the_bin_is_emptied_of_what_is_old_but_not_of_what_a_job_is_made_of(database: Database) -> None:
    listing = Listing(database)
    old, used, fresh = (kept(database, name) for name in ("old", "used", "fresh"))
    body = json.dumps({"name": "Job", "designs": [{"design": used}]})
    with database.write() as db:
        db.execute("INSERT INTO jobs (id, created, head) VALUES ('job', '2026', NULL)")
        db.execute("INSERT INTO job_revisions (job, parent, body, label, created) VALUES ('job', NULL, ?, '', '')", (body,))
    for design in (old, used):
        listing.bin(design)
    assert listing.empty(datetime.now(UTC) + timedelta(days=29)) == 0
    assert [listing.empty(datetime.now(UTC) + timedelta(days=31 + k)) for k in range(2)] == [0, 1]
    assert [line.id for line in listing.binned()] == [used]
    assert [line.id for line in listing.lines()] == [fresh]
    with sqlite3.connect(database.path) as db:
        assert db.execute("PRAGMA foreign_key_check").fetchall() == []
        assert db.execute("SELECT count(*) FROM revisions WHERE design = ?", (old,)).fetchone() == (0,)
