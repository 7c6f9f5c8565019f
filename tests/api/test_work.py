"""Long work keeps nobody else waiting, and ends when nobody wants it."""

from __future__ import annotations

import io
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from gladstack.work import crew as crews
from gladstack.work.crew import Crew, Limits
from tests.api.conftest import client_of
from tests.pictures import picture_of

Client = TestClient


def jpeg(side: int, seed: int = 0) -> bytes:
    """Large blobs under JPEG: long to separate."""
    coarse = np.random.default_rng(seed).integers(0, 5, (24, 24))
    colours = np.array([(244, 240, 228), (29, 43, 83), (192, 57, 43), (242, 182, 50), (31, 122, 122)], np.uint8)
    out = io.BytesIO()
    Image.fromarray(colours[coarse]).resize((side, side), Image.Resampling.BICUBIC).save(out, "JPEG", quality=75)
    return out.getvalue()


def ask(client: Client, data: bytes, name: str) -> Any:
    return client.post("/api/designs", files={"picture": (name, data)})


def begin(client: Client, data: bytes, name: str) -> dict[str, Any]:
    answer = ask(client, data, name)
    assert answer.status_code == 201, answer.text
    return dict(answer.json())


def edit(client: Client, design: dict[str, Any], **change: object) -> Any:
    return client.post(f"/api/designs/{design['id']}/edits", json={"base": design["revision"], "edit": change})


@pytest.fixture
def patient(tmp_path: Path) -> Iterator[Client]:
    """An app whose long work may take its time: runs of tests share the machine."""
    crew = Crew(Limits(deadline_s=240.0))
    with client_of(tmp_path, crew) as client:
        yield client
    crew.close()


def test_other_designs_and_plain_edits_go_on_while_a_large_picture_is_separated(patient: Client) -> None:
    client = patient
    small = begin(client, picture_of("dome", 128), "dome.png")
    answers: list[Any] = []
    large = threading.Thread(target=lambda: answers.append(ask(client, jpeg(2600), "large.jpg")))
    large.start()
    time.sleep(0.4)
    spent = []
    for k in range(5):
        start = time.perf_counter()
        small = edit(client, small, kind="set-joint", rule={"kind": "lap", "mm": 0.3 + 0.1 * k}).json()
        small = edit(client, small, kind="rename-design", name=f"Dome {k}").json()
        spent.append(time.perf_counter() - start)
    assert not answers, "the large picture was done too soon to tell"
    assert small["built"] is None
    large.join()
    assert answers[0].status_code == 201, answers[0].text
    assert answers[0].json()["built"]["layers"]
    assert sorted(spent)[2] < 1.5


@pytest.fixture
def strict(tmp_path: Path) -> Iterator[Client]:
    """An app whose work may take next to no time."""
    crew = Crew(Limits(deadline_s=0.6, light_s=0.6))
    for worker in crew.start():
        worker.result(60)
    with client_of(tmp_path, crew) as client:
        yield client
    crew.close()


def test_a_file_that_takes_too_long_is_one_clear_problem_and_leaves_nothing(strict: Client) -> None:
    refused = strict.post("/api/designs", files={"picture": ("large.jpg", jpeg(3000))})
    assert (refused.status_code, refused.json()["code"]) == (422, "too-much")
    assert refused.json()["detail"].startswith("This file asks for too much")
    assert strict.get("/api/designs").json() == []


def test_a_design_that_cannot_be_built_any_more_can_still_be_opened_and_undone(
    client: Client, another: Callable[..., Client], monkeypatch: pytest.MonkeyPatch
) -> None:
    design = begin(client, picture_of("dome", 128), "dome.png")
    after = edit(client, design, kind="set-joint", rule={"kind": "lap", "mm": 0.4}).json()

    async def failing(*args: object) -> bytes:
        raise crews.TooMuchError("This design asks for too much: it was not done within 30 s.", "Ask for less.")

    monkeypatch.setattr(client.app.state.desks.builder, "view", failing)  # type: ignore[attr-defined]
    opened = client.get(f"/api/designs/{design['id']}").json()
    assert (opened["built"], opened["trouble"]["code"], opened["undoes"] is not None) == (None, "too-much", True)
    assert edit(client, after, kind="set-joint", rule={"kind": "butt"}).status_code == 422
    monkeypatch.undo()
    undone = client.post(f"/api/designs/{design['id']}/undo", json={"base": after["revision"]}).json()
    assert (undone["revision"], undone["trouble"]) == (design["revision"], None)
    assert undone["built"]["layers"]


def test_a_newer_try_ends_the_older(patient: Client) -> None:
    client = patient
    design = begin(client, jpeg(1500, 3), "blobs.jpg")
    path = f"/api/designs/{design['id']}/tries"

    def attempt(count: int) -> Any:
        return client.post(path, json={"base": design["revision"], "edit": {"kind": "count-colours", "count": count}})

    older: list[Any] = []
    first = threading.Thread(target=lambda: older.append(attempt(4)))
    first.start()
    time.sleep(0.15)
    newer = attempt(3)
    first.join()
    assert len(newer.json()["layers"]) in (2, 3)
    assert (older[0].status_code, older[0].json()["code"]) == (409, "superseded")


def test_separated_pictures_are_found_again_after_a_restart(
    client: Client, another: Callable[..., Client], tmp_path: Path
) -> None:
    design = begin(client, picture_of("moon-owl", 320), "owl.png")
    assert list((tmp_path / "kept").rglob("*"))
    fresh = Crew(Limits())
    with client_of(tmp_path, fresh) as later:
        built = later.get(f"/api/designs/{design['id']}").json()["built"]
        assert built["seconds"]["map"] == built["seconds"]["palette"] == 0
        assert [layer["path"] for layer in built["layers"]] == [layer["path"] for layer in design["built"]["layers"]]
    fresh.close()


def test_every_plain_edit_waits_for_nothing(client: Client, monkeypatch: pytest.MonkeyPatch) -> None:
    design = begin(client, picture_of("dome", 128), "dome.png")

    async def never(*args: object) -> bytes:
        raise AssertionError("asked for geometry")

    monkeypatch.setattr(client.app.state.desks.builder, "view", never)  # type: ignore[attr-defined]
    film = design["built"]["layers"][0]["film"]
    for change in (
        {"kind": "rename-design", "name": "Dome"}, {"kind": "rename-film", "film": film, "name": "Roof"},
        {"kind": "show-unit", "unit": "in"}, {"kind": "set-ground", "ground": {"kind": "mug", "colour": "#fbfaf7"}},
    ):  # fmt: skip
        answer = edit(client, design, **change)
        assert answer.status_code == 200
        design = answer.json()
