"""Cutting, job sheets, lists of names and design files over the API."""

from __future__ import annotations

import io
import json
import time
import zipfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from gladstack.demo.designs import EXAMPLES, add_demo_designs
from gladstack.demo.shelf import add_demo_shelf
from gladstack.work.crew import Crew
from tests.api.conftest import client_of


@pytest.fixture
def shop(client: TestClient) -> TestClient:
    state = client.app.state  # type: ignore[attr-defined]
    add_demo_designs(state.desks.builder.store)
    add_demo_shelf(state.desks.jobs.shelf, state.desks.jobs.jobs, state.desks.builder.store)
    return client


def step(shop: TestClient, job: str, do: str, **more: Any) -> Any:
    return shop.post(f"/api/jobs/{job}/cutting/steps", json={"do": do, **more})


def until(shop: TestClient, job: str, stage: str, nth: int = 0) -> dict[str, Any]:
    deadline = time.monotonic() + 60
    while time.monotonic() < deadline:
        view = shop.get(f"/api/jobs/{job}/cutting").json()
        if view["sheets"][nth]["stage"] == stage:
            return dict(view["sheets"][nth])
        time.sleep(0.05)
    raise AssertionError(f"never {stage}: {view['sheets'][nth]['stage']}")


def test_a_job_is_cut_film_by_film_through_a_mishap_and_counted(shop: TestClient) -> None:
    job = shop.get("/api/jobs/job-shirts").json()
    assert shop.get("/api/jobs/job-shirts/cutting").json() is None
    begun = shop.post("/api/jobs/job-shirts/cutting", json={"base": job["revision"]}).json()
    assert [s["stage"] for s in begun["sheets"]] == ["waiting"] * 3
    now = shop.get("/api/jobs/job-shirts").json()
    assert now["at_cutter"]
    assert not now["cut"]
    refused = shop.post(
        "/api/jobs/job-shirts/edits", json={"base": job["revision"], "edit": {"kind": "set-job", "slug": True}}
    )
    assert refused.status_code == 422
    assert "at the cutter" in refused.json()["detail"]
    before = shop.get("/api/shelf", params={"search": "shirt navy"}).json()["films"][0]["pieces"]
    assert step(shop, "job-shirts", "rate", rate=50).json()["rate"] == 50
    step(shop, "job-shirts", "load", number=1)
    step(shop, "job-shirts", "fault", fault="cover", after_mm=700)
    step(shop, "job-shirts", "cut")
    trouble = until(shop, "job-shirts", "trouble")
    assert "cover" in trouble["trouble"]
    assert trouble["ways"] == ["go-on", "start-over"]
    assert shop.get("/api/shelf", params={"search": "shirt navy"}).json()["films"][0]["pieces"] == before
    step(shop, "job-shirts", "mend", way="go-on")
    done = until(shop, "job-shirts", "cut")
    assert done["figures"]["cut_once"] == done["contours"]
    assert done["figures"]["largest_mm"] < 0.05
    step(shop, "job-shirts", "finish")
    for number in (2, 3):
        step(shop, "job-shirts", "load", number=number)
        step(shop, "job-shirts", "cut")
        until(shop, "job-shirts", "cut", number - 1)
        step(shop, "job-shirts", "finish")
    assert shop.get("/api/jobs/job-shirts/cutting").json()["finished"]
    assert shop.get("/api/jobs/job-shirts").json()["cut"]
    after = shop.get("/api/shelf", params={"search": "shirt navy"}).json()["films"][0]["pieces"]
    assert sum(p["left"] for p in after) < sum(p["left"] for p in before)
    # Undone, all is as it was.
    shop.post("/api/jobs/job-shirts/uncut", json={"base": job["revision"]})
    assert shop.get("/api/shelf", params={"search": "shirt navy"}).json()["films"][0]["pieces"] == before


def test_steps_that_do_not_go_are_refused_with_what_helps(shop: TestClient) -> None:
    assert step(shop, "job-mugs", "cut").status_code == 422
    base = shop.get("/api/jobs/job-mugs").json()["revision"]
    shop.post("/api/jobs/job-mugs/cutting", json={"base": base})
    for do, more in (("cut", {}), ("finish", {}), ("mend", {"way": "recut"}), ("mend", {}), ("load", {"number": 2})):
        answer = step(shop, "job-mugs", do, **more)
        assert answer.status_code == 422
        assert answer.json()["remedy"]
    assert step(shop, "job-mugs", "end").json() is None
    assert not shop.get("/api/jobs/job-mugs").json()["at_cutter"]


def test_chosen_formats_and_sheets_come_as_one_zip(shop: TestClient) -> None:
    answer = shop.get(
        "/api/jobs/job-shirts/sheets.zip", params={"formats": ["pdf", "hpgl-blade"], "sheets": [2], "paper": "A4"}
    )
    with zipfile.ZipFile(io.BytesIO(answer.content)) as packed:
        names = packed.namelist()
    assert names == ["plan.json", "sheets/02-cream-mirrored-blade.hpgl", "sheets/02-cream-mirrored.pdf"]
    offered = shop.get("/api/formats").json()
    assert {one["format"] for one in offered if one["usual"]} == {"svg", "dxf", "hpgl"}
    whole = shop.get("/api/jobs/job-shirts/sheets.zip", params={"formats": ["png"]})
    with zipfile.ZipFile(io.BytesIO(whole.content)) as packed:
        assert {"job-sheet.pdf", "stack.png", "assembly.txt"} <= set(packed.namelist())
    assert shop.get("/api/jobs/job-shirts/sheets.zip", params={"formats": ["odd"]}).status_code == 422


def test_the_screens_pages_are_the_printed_ones(shop: TestClient) -> None:
    import pypdfium2

    for paper, width in (("A4", 595), ("Letter", 612)):
        pages = shop.get("/api/jobs/job-shirts/job-sheet", params={"paper": paper}).json()["pages"]
        printed = shop.get("/api/jobs/job-shirts/job-sheet.pdf", params={"paper": paper})
        document = pypdfium2.PdfDocument(printed.content)
        assert len(document) == len(pages)
        assert round(document[0].get_width()) == width
        text = document[0].get_textpage().get_text_range()
        for words in ("Press, bottom film first", "Set the press to 150 °C", "Cut mirrored", "only to tack it", "in full"):
            assert words in " ".join(text.split())
            assert any(word in pages[0] for word in (words, words.split()[0]))


def test_a_list_becomes_a_job_of_names(shop: TestClient) -> None:
    where = "/api/designs/example-helper-names/names"
    text = "Halloran\n\nBartholomew-Quincelyn the Second\nTove"
    found = shop.post(where, json={"text": text, "fit": "as-is"}).json()
    assert found["fields"] == ["name"]
    assert [r["problem"] for r in found["rows"]] == ["", "empty", "wide", ""]
    mended = {"1": {"values": {"name": "Åsa"}}, "2": {"fit": "narrower"}, "3": {"left_out": True}}
    wanted = {"text": text, "fit": "as-is", "mended": mended}
    assert [r["problem"] for r in shop.post(where, json=wanted).json()["rows"]] == ["", "", "", ""]
    look = shop.post(f"{where}/look", json={"values": {"name": "Åsa"}, "fit": "narrower", "nth": 1})
    assert look.headers["content-type"] == "image/svg+xml"
    job = shop.post(f"{where}/job", json=wanted).json()
    assert [d["name"] for d in job["job"]["designs"]][:2] == ["Halloran", "Åsa"]
    plan = shop.get(f"/api/jobs/{job['id']}/plan").json()
    assert len(plan["decals"]) == 3
    assert shop.post("/api/designs/demo-mug/names", json={"text": "Ada"}).status_code == 422
    loaded = shop.post("/api/lists", files={"file": ("a.csv", "Åsa;2".encode("cp1252"))}).json()
    assert loaded["readings"][0] == {"name": "Western Europe (Windows)", "text": "Åsa;2"}


@pytest.mark.parametrize("what", ["/api/designs/demo-window", "/api/designs/example-colouring-page", "/api/jobs/job-names"])
def test_a_file_goes_to_an_empty_machine(shop: TestClient, tmp_path: Path, crew: Crew, what: str) -> None:
    taken = shop.get(f"{what}/file")
    assert taken.headers["content-disposition"].endswith('.gladstack.zip"')
    with client_of(tmp_path / "other", crew) as there:
        assert there.get("/api/designs").json() == []
        came = there.post("/api/designs/file", files={"file": ("a.zip", taken.content)}).json()
        if came["job"]:
            assert len(there.get(f"/api/jobs/{came['job']}/plan").json()["decals"]) == 24
            return
        (design,) = came["designs"]
        old, new = shop.get(what).json(), there.get(f"/api/designs/{design}").json()
        assert new["recipe"] == old["recipe"]
        assert [layer["key"] for layer in new["built"]["layers"]] == [layer["key"] for layer in old["built"]["layers"]]


def test_a_hostile_file_is_refused_and_leaves_nothing(client: TestClient, another: Callable[..., TestClient]) -> None:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as packed:
        packed.writestr("glad-stack.json", json.dumps({"format": "glad-stack", "version": 9}))
    for data in (out.getvalue(), b"PK\x03\x04", b"", b"\x00" * 1000):
        answer = client.post("/api/designs/file", files={"file": ("a.zip", data)})
        assert answer.status_code == 422
        assert answer.json()["remedy"]
    assert client.get("/api/designs").json() == []
    assert (EXAMPLES / "helpers.csv").exists()
    assert another().get("/api/jobs").json() == {"lines": [], "total": 0}


def test_a_design_takes_the_makers_own_font_along(client: TestClient, tmp_path: Path, crew: Crew) -> None:
    font = (EXAMPLES.parent.parent / "fonts" / "comfortaa-bold.ttf").read_bytes()
    key = client.post("/api/fonts", files={"font": ("a.ttf", font)}).json()["key"]
    art = {"kind": "lettering", "text": "Hilltop", "font": key, "film": "#1d2b53", "height_mm": 20}
    design = client.post("/api/designs/plain", json={"art": art}).json()
    assert design["recipe"]["name"] == "Hilltop"
    taken = client.get(f"/api/designs/{design['id']}/file").content
    with client_of(tmp_path / "other", crew) as there:
        (came,) = there.post("/api/designs/file", files={"file": ("a.zip", taken)}).json()["designs"]
        new = there.get(f"/api/designs/{came}").json()
        assert [layer["key"] for layer in new["built"]["layers"]] == [layer["key"] for layer in design["built"]["layers"]]
        assert key in [f["key"] for f in there.get("/api/fonts").json()]
