"""The film in the cutter and what was done to it: a log on disk, which outlives the cutter as cuts outlive its power."""

from __future__ import annotations

import json
import os
from pathlib import Path
from typing import Any


class FilmLog:
    """One file; each line says what came next. Nothing counts as done before it is written here."""

    def __init__(self, folder: Path) -> None:
        folder.mkdir(parents=True, exist_ok=True)
        self._path = folder / "film.jsonl"
        self._lines = _lines(self._path)
        self._file = self._path.open("a", encoding="utf-8")

    def load(self, film: dict[str, Any]) -> None:
        """New film is put in; what was done to the last one goes with it."""
        self._file.close()
        draft = self._path.with_suffix(".new")
        draft.write_text(json.dumps({"film": film}) + "\n", encoding="utf-8")
        os.replace(draft, self._path)
        self._lines = [{"film": film}]
        self._file = self._path.open("a", encoding="utf-8")

    def add(self, line: dict[str, Any]) -> None:
        """One more thing done."""
        self._file.write(json.dumps(line, separators=(",", ":")) + "\n")
        self._file.flush()
        self._lines.append(line)

    @property
    def film(self) -> dict[str, Any] | None:
        """The film that is in, if one is."""
        found: dict[str, Any] | None = self._lines[0].get("film") if self._lines else None
        return found

    def lines(self, begin: int = 0) -> list[dict[str, Any]]:
        """What was done since line `begin`."""
        return self._lines[begin:]

    def last(self, key: str) -> dict[str, Any] | None:
        """The last line that has a key."""
        return next((line for line in reversed(self._lines) if key in line), None)


def _lines(path: Path) -> list[dict[str, Any]]:
    """The lines of a log. Where the power went while one was written, that never happened: it is cut off the file."""
    if not path.exists():
        return []
    out = []
    whole = 0
    data = path.read_bytes()
    for row in data.splitlines(keepends=True):
        try:
            out.append(json.loads(row))
        except ValueError:
            break
        if not row.endswith(b"\n"):
            out.pop()
            break
        whole += len(row)
    if whole < len(data):
        with path.open("r+b") as file:
            file.truncate(whole)
    return out
