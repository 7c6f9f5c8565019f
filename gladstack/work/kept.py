"""Values of costly stages, kept on disk by key, so that every worker finds them, and the app after a restart.

One folder under a limit of bytes; what was not used for longest goes first. Values are Python pickles that this very version
of the app has written for itself: another version begins an empty folder, since its values may have another shape.
"""

from __future__ import annotations

import hashlib
import os
import pickle
import shutil
import tempfile
from contextlib import suppress
from functools import cache
from importlib import resources
from pathlib import Path
from typing import Any

_ROUNDS = 64
"""The folder is gone through whenever this share of the limit was written: each file by itself would take longest."""


class KeptStages:
    """The values kept in `folder`, at most `limit_bytes` of them. Safe to share between processes."""

    def __init__(self, folder: Path, limit_bytes: int) -> None:
        self._folder = folder / _version()
        self._limit = limit_bytes
        self._fresh = 0
        """How much this process has written since the folder was last gone through."""

    def load(self, key: str) -> Any | None:
        """The value kept under a key; None if there is none, or none that can be read."""
        path = self._path(key)
        try:
            value = pickle.loads(path.read_bytes())
        except FileNotFoundError:
            return None
        except (OSError, pickle.UnpicklingError, EOFError, AttributeError, ImportError, IndexError, ValueError):
            with suppress(OSError):
                path.unlink(missing_ok=True)
            return None
        with suppress(OSError):
            os.utime(path)
        return value

    def store(self, key: str, value: Any) -> None:
        """Keeps a value; a full or read-only disk is no reason to fail, so then it is not kept."""
        data = pickle.dumps(value, protocol=pickle.HIGHEST_PROTOCOL)
        if len(data) > self._limit:
            return
        with suppress(OSError):
            self._folder.mkdir(parents=True, exist_ok=True)
            with tempfile.NamedTemporaryFile(dir=self._folder, prefix=".", delete=False) as draft:
                try:
                    draft.write(data)
                    draft.close()
                    Path(draft.name).replace(self._path(key))
                except BaseException:
                    Path(draft.name).unlink(missing_ok=True)
                    raise
            self._fresh += len(data)
            if self._fresh > self._limit / _ROUNDS:
                self._fresh = 0
                self._shrink()

    def _path(self, key: str) -> Path:
        return self._folder / hashlib.blake2b(key.encode(), digest_size=16).hexdigest()

    def _shrink(self) -> None:
        found = []
        for path in self._folder.iterdir():
            with suppress(FileNotFoundError):
                status = path.stat()
                found.append((status.st_mtime, status.st_size, path))
        total = sum(size for _, size, _ in found)
        for _, size, path in sorted(found):
            if total <= self._limit:
                break
            path.unlink(missing_ok=True)
            total -= size


def forget_other_versions(folder: Path) -> None:
    """Takes away what other versions of the app kept, and drafts that were never finished."""
    if folder.is_dir():
        for path in folder.iterdir():
            if path.name != _version():
                shutil.rmtree(path, ignore_errors=True)
        for draft in (folder / _version()).glob(".*"):
            draft.unlink(missing_ok=True)


@cache
def _version() -> str:
    """A hash of the code that makes the values."""
    digest = hashlib.blake2b(digest_size=8)
    for path in sorted(Path(str(resources.files("gladstack"))).rglob("*.py")):
        digest.update(path.read_bytes())
    return digest.hexdigest()
