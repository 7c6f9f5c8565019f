"""Requests made up from the OpenAPI document, on designs that exist: none makes the server fail."""

from __future__ import annotations

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
import schemathesis
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from schemathesis import Case, GenerationMode

from gladstack.work.crew import Crew
from tests.api.conftest import client_of
from tests.examples import examples
from tests.pictures import picture_of
from tests.recipe.vector_files import FUSED

REQUESTS = 40
DOCUMENT: dict[str, Any] = json.loads((Path(__file__).parents[2] / "docs" / "openapi.json").read_text())
SCHEMA = schemathesis.openapi.from_dict(DOCUMENT)


@pytest.fixture(scope="module")
def here(tmp_path_factory: pytest.TempPathFactory, crew: Crew) -> Iterator[TestClient]:
    with client_of(tmp_path_factory.mktemp("fuzz"), crew) as client:
        yield client


@pytest.fixture(scope="module")
def designs(here: TestClient) -> list[dict[str, Any]]:
    files = (("dome.png", picture_of("dome", 64)), ("fused.svg", FUSED))
    return [here.post("/api/designs", files={"picture": file}).json() for file in files]


STEADY = {"deadline": None, "suppress_health_check": list(HealthCheck), "derandomize": True, "database": None}
# Bodies of edits and art take minutes to make up from the document; `tests/hostile.py` makes hundreds of them another way.
EDITS = ["tryEdit", "editDesign", "startPlain", "drawOutcomes", "whatHelps", "whatGetsWorse"]


OPERATIONS = [one["operationId"] for of_path in DOCUMENT["paths"].values() for one in of_path.values()]


@pytest.mark.parametrize("name", [one for one in OPERATIONS if one not in EDITS])
def test_no_request_makes_the_server_fail(name: str, here: TestClient, designs: list[dict[str, Any]]) -> None:
    """Requests that fit the document, and such as do not; made up here, for to do so as tests are collected takes long."""
    operation = SCHEMA.find_operation_by_id(name)

    @settings(max_examples=examples(REQUESTS), **STEADY)
    @given(st.one_of(*(operation.as_strategy(generation_mode=mode) for mode in GenerationMode)))
    def asked(case: Case[Any]) -> None:
        send(case, here, designs)

    asked()


def send(case: Case[Any], here: TestClient, designs: list[dict[str, Any]]) -> None:
    design = designs[len(json.dumps(case.body, default=str)) % len(designs)]
    path = case.path_parameters or {}
    # Three requests in four are about what is there.
    if len(str(path)) % 4 and path:
        known = {"design": design["id"], "art": design["recipe"]["arts"][0]["id"], "revision": design["revision"]}
        path |= {k: v for k, v in known.items() if k in path}
        path |= {"digest": design["recipe"]["arts"][0].get("picture", "0" * 64)} if "digest" in path else {}
        if isinstance(case.body, dict) and "base" in case.body:
            case.body["base"] = here.get(f"/api/designs/{design['id']}").json()["revision"]
    case.path_parameters = path
    sent = case.as_transport_kwargs(base_url=str(here.base_url))
    sent["headers"] = {k: v for k, v in dict(sent.get("headers") or {}).items() if k.lower() != "host"}
    known = {k: v for k, v in sent.items() if k in ("method", "url", "headers", "params", "json", "files")}
    body = sent.get("data")
    response = here.request(**known, **({"data": body} if isinstance(body, dict) else {"content": body} if body else {}))
    assert response.status_code < 500, response.text
