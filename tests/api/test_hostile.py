"""Nothing that is sent ends the server, holds it, or brings an answer that it failed."""

from __future__ import annotations

import asyncio
import json
import time
from collections.abc import Iterator
from typing import Any

import pytest
from fastapi.testclient import TestClient

from gladstack.recipe.model.fonts import SHIPPED
from gladstack.work.crew import Crew
from tests.api.conftest import own_job
from tests.examples import examples
from tests.hostile import edits, files
from tests.pictures import picture_of

FILES, EDITS = examples(200), examples(140)
"""The bench sends many times as many, with new seeds."""
SLOWEST_S = 35.0
"""Beyond this an answer counts as held: the deadline of its work, and what bringing it takes besides."""


@pytest.fixture(scope="module")
def crew() -> Iterator[Crew]:
    """Workers with the deadline that the app has by itself."""
    crew = Crew()
    asyncio.run(crew.run(0.0, "This", print))
    yield crew
    crew.close()


def check(answer: Any, what: object) -> None:
    assert answer.status_code < 500, (what, answer.text[:300])
    assert answer.elapsed.total_seconds() < SLOWEST_S, (what, answer.elapsed)
    if answer.status_code >= 400:
        told = answer.json()
        assert told["detail"], what
        for word in ("Traceback", "UploadFile", "dictionary", "NoneType", "numpy"):
            assert word not in answer.text, (what, told)


@pytest.mark.parametrize("part", range(2))
def test_hostile_files(client: TestClient, part: int) -> None:
    for k, (name, data) in enumerate(files(100 + part, FILES // 2)):
        begin = time.perf_counter()
        answer = client.post("/api/designs", files={"picture": (name, data)}, data={"width": "80mm"})
        check(answer, (part, k, name, time.perf_counter() - begin))
        if answer.status_code == 201:
            made = answer.json()
            assert made["built"]["wrong_area_ratio"] <= 1e-6
            assert "\x00" not in made["recipe"]["name"]
    assert client.get("/api/designs").status_code == 200


def test_hostile_edits(client: TestClient) -> None:
    made = client.post("/api/designs", files={"picture": ("owl.png", picture_of("moon-owl", 128))}).json()
    films = [layer["film"] for layer in made["built"]["layers"]]
    arts = [art["id"] for art in made["recipe"]["arts"]]
    for k, edit in enumerate(edits(7, EDITS, films, arts)):
        body = json.dumps({"base": made["revision"], "edit": edit})
        answer = client.post(
            f"/api/designs/{made['id']}/tries" if k % 3 else f"/api/designs/{made['id']}/edits",
            content=body.encode("utf-8", "surrogatepass"),
            headers={"content-type": "application/json"},
        )
        check(answer, (k, edit))
        now = client.get(f"/api/designs/{made['id']}")
        if now.json()["revision"] != made["revision"]:
            made = client.post(f"/api/designs/{made['id']}/undo", json={"base": now.json()["revision"]}).json()
    zipped = client.get(f"/api/jobs/{own_job(client, made)}/sheets.zip")
    assert zipped.status_code == 200


def test_more_films_than_a_stack_can_have_are_refused_with_the_figure(client: TestClient) -> None:
    text = "ABCDEFGHIJ" * 29
    films = [{"start": k, "end": k + 1, "film": f"#{k:04x}7f"} for k in range(len(text))]
    art = {"kind": "lettering", "text": text, "font": SHIPPED[0].key, "films": films}
    answer = client.post("/api/designs/plain", json={"name": "Many", "art": art})
    assert answer.status_code == 422
    assert "290" in answer.json()["detail"]
    assert "200" in answer.json()["detail"]


@pytest.mark.parametrize("field", ["height_mm", "fit_width_mm"])
def test_half_a_letter_in_a_length_is_told(client: TestClient, field: str) -> None:
    art = json.dumps({"art": {"kind": "lettering", "text": "A", "font": "lobster-two", field: "\ud8003mm"}})
    answer = client.post("/api/designs/plain", content=art.encode(), headers={"content-type": "application/json"})
    assert answer.status_code == 422
    assert answer.json()["detail"]


@pytest.mark.parametrize("text", ['id,name,colour\nx,"' + "y" * 1_500_000 + '",#112233\n', 'id,name,colour\n"a\x00b",c,d\n'])
def test_a_shelf_that_csv_does_not_read_is_told(client: TestClient, text: str) -> None:
    answer = client.post("/api/shelf.csv", files={"file": ("shelf.csv", text.encode())})
    assert (answer.status_code, answer.json()["code"]) == (422, "csv")


def test_health_tells_every_lane_and_nobody_waits(client: TestClient) -> None:
    health = client.get("/api/health").json()
    assert health["well"] is True
    assert {lane["lane"] for lane in health["lanes"]} == {"light 1", "light 2", "short", "long"}
    assert client.get("/api/waiting/nobody-by-this-name").json() is None
    assert client.get("/api/waiting/X").status_code == 422
