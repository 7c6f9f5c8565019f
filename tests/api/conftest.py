"""An app on an empty folder, and a client of it; all apps share one crew of workers."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from gladstack.api.app import create_app
from gladstack.work.crew import Crew

HERE = "http://127.0.0.1"


def client_of(data: Path, crew: Crew, **options: object) -> TestClient:
    """A client on this machine; errors nobody foresaw come back as they would to a browser."""
    app = create_app(data, crew=crew, **options)  # type: ignore[arg-type]
    return TestClient(app, base_url=HERE, client=("127.0.0.1", 50_000), raise_server_exceptions=False)


def small_look(client: TestClient, path: str) -> Any:
    """A small picture, asked for until it is there."""
    for _ in range(100):
        answer = client.get(path)
        if answer.status_code != 202:
            return answer
        time.sleep(0.2)
    raise AssertionError("the small picture never came")


@pytest.fixture
def client(tmp_path: Path, crew: Crew) -> Iterator[TestClient]:
    with client_of(tmp_path, crew) as client:
        yield client


@pytest.fixture
def another(tmp_path: Path, crew: Crew) -> Callable[..., TestClient]:
    """Makes further clients on the same folder."""
    return lambda **options: client_of(tmp_path, crew, **options)


def own_job(client: TestClient, design: dict[str, Any]) -> str:
    """The id of the job of a design's own sheets."""
    return str(client.get(f"/api/designs/{design['id']}/job").json()["id"])
