"""Prints the OpenAPI document of the API, from which the front end's types are made."""

from __future__ import annotations

import json
import tempfile
from pathlib import Path

from gladstack.api.app import create_app

with tempfile.TemporaryDirectory() as folder:
    print(json.dumps(create_app(Path(folder)).openapi(), indent=1, sort_keys=True))
