"""The log of requests: an id, the seconds, and who worked on it."""

from __future__ import annotations

import json
import logging
from typing import Any

import pytest
from fastapi.testclient import TestClient

from gladstack.api.base.request_log import JsonLines


def lines(caplog: pytest.LogCaptureFixture) -> list[dict[str, Any]]:
    return [json.loads(JsonLines().format(record)) for record in caplog.records if record.name == "gladstack.requests"]


def test_each_request_is_logged_once_with_its_workers(client: TestClient, caplog: pytest.LogCaptureFixture) -> None:
    caplog.set_level(logging.INFO, logger="gladstack.requests")
    art = {"kind": "shape", "form": {"form": "star"}}
    made = client.post("/api/designs/plain", json={"name": "Star", "art": art})
    client.get("/api/designs")
    client.get("/api/designs/nobody")
    first, second, third = lines(caplog)
    assert (first["method"], first["path"], first["status"]) == ("POST", "/api/designs/plain", 201)
    assert first["seconds"] > 0
    assert all(name.split()[0] in ("light", "short", "long") for name in first["workers"])
    assert first["workers"]
    assert (second["workers"], second["status"], third["status"]) == ([], 200, 404)
    ids = [line["request"] for line in (first, second, third)]
    assert len(set(ids)) == 3
    assert made.headers["request-id"] == ids[0]


def test_what_goes_wrong_is_one_line_with_its_trace() -> None:
    fault = ValueError("two\nlines")
    record = logging.LogRecord("gladstack", logging.ERROR, "f", 1, "it\nfailed", None, (ValueError, fault, None))
    text = JsonLines().format(record)
    assert len(text.splitlines()) == 1
    told = json.loads(text)
    assert told["says"] == "it\nfailed"
    assert "ValueError" in told["trace"]
