"""Reading a job file: a job as JSON, whose designs name recipes, pictures or vector files that lie beside it."""

from __future__ import annotations

import json
from pathlib import Path, PurePath
from typing import Any

from gladstack.core.base.errors import RecipeError
from gladstack.shop.jobs.job import Job


def is_job(text: str) -> bool:
    """Whether JSON text is that of a job, and not of a recipe."""
    try:
        data = json.loads(text)
    except (ValueError, RecursionError):
        return False
    return isinstance(data, dict) and isinstance(data.get("designs"), list)


def read_job(text: str, folder: Path) -> tuple[Job, dict[str, Path]]:
    """The job, and the file of each of its designs. Raises RecipeError, and pydantic.ValidationError."""
    data: dict[str, Any] = json.loads(text)
    files: dict[str, Path] = {}
    designs = []
    for one in data["designs"]:
        if not isinstance(one, dict) or not isinstance(one.get("file"), str):
            raise RecipeError("A design of this job names no file.", "Give each design a file that lies beside the job.")
        path = folder / PurePath(one["file"]).name
        if not path.is_file():
            raise RecipeError(f"“{path.name}” does not lie beside the job.", "Put it there, then try again.")
        key = str(one.get("design") or path.stem)
        files[key] = path
        designs.append({"name": path.stem, **{k: v for k, v in one.items() if k != "file"}, "design": key})
    return Job.model_validate({**data, "designs": designs}), files
