"""The built front end, served as it is."""

from __future__ import annotations

from collections.abc import Callable
from importlib import resources
from pathlib import Path
from typing import Any

from fastapi import FastAPI
from fastapi.responses import FileResponse, Response
from fastapi.staticfiles import StaticFiles


def built_front_end() -> Path | None:
    """Where the front end was built to, if it was."""
    folder = Path(str(resources.files("gladstack") / "web_dist"))
    return folder if (folder / "index.html").is_file() else None


class _Lasting(StaticFiles):
    """Files that are named by their contents, and so never change."""

    def file_response(self, *args: Any, **options: Any) -> Response:
        """The file, to be kept by the browser."""
        answer = super().file_response(*args, **options)
        answer.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return answer


def add_front_end(app: FastAPI, folder: Path) -> None:
    """Serves the front end that was built to a folder."""
    app.mount("/assets", _Lasting(directory=folder / "assets"), name="assets")

    def index() -> FileResponse:
        return FileResponse(folder / "index.html", headers={"Cache-Control": "no-cache"})

    app.state.index = index
    for path in ("/", "/shelf", "/help", "/design/{rest:path}", "/job/{rest:path}", "/names/{rest:path}"):
        app.add_api_route(path, index, include_in_schema=False, response_class=FileResponse)
    app.mount("/examples", StaticFiles(directory=folder / "examples", check_dir=False), name="examples")
    for name in ("icon.svg", "NOTICES.txt"):
        if (folder / name).is_file():
            app.add_api_route(f"/{name}", _file(folder / name), include_in_schema=False, response_class=FileResponse)


def _file(path: Path) -> Callable[[], FileResponse]:
    return lambda: FileResponse(path)
