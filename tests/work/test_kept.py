"""Costly values outlive their process, within a limit."""

from __future__ import annotations

import os
from pathlib import Path

from gladstack.work.kept import KeptStages, forget_other_versions


def test_values_are_found_again_by_key(tmp_path: Path) -> None:
    KeptStages(tmp_path, 10_000).store("map:a", {"areas": [1, 2]})
    assert KeptStages(tmp_path, 10_000).load("map:a") == {"areas": [1, 2]}
    assert KeptStages(tmp_path, 10_000).load("map:b") is None


def test_what_was_not_used_for_longest_goes_first(tmp_path: Path) -> None:
    kept = KeptStages(tmp_path, 3500)
    for k, name in enumerate("abc"):
        kept.store(name, bytes(1000))
        os.utime(kept._path(name), (k + 1, k + 1))
    assert kept.load("a") is not None
    kept.store("d", bytes(1000))
    assert [kept.load(name) is not None for name in "abcd"] == [True, False, True, True]
    kept.store("large", bytes(5000))
    assert kept.load("large") is None


def test_a_spoilt_value_counts_as_none_and_is_taken_away(tmp_path: Path) -> None:
    kept = KeptStages(tmp_path, 10_000)
    kept.store("a", [1, 2, 3])
    for spoilt in (b"", b"nonsense", kept._path("a").read_bytes()[:-3]):
        kept._path("a").write_bytes(spoilt)
        assert kept.load("a") is None
        assert not kept._path("a").exists()


def test_other_versions_and_drafts_are_forgotten(tmp_path: Path) -> None:
    kept = KeptStages(tmp_path, 10_000)
    kept.store("a", 1)
    (kept._folder / ".draft").write_bytes(b"half")
    (tmp_path / "another-version").mkdir()
    forget_other_versions(tmp_path)
    assert kept.load("a") == 1
    assert [p.name for p in tmp_path.iterdir()] == [kept._folder.name]
    assert not list(kept._folder.glob(".*"))
    forget_other_versions(tmp_path / "nowhere")


def test_a_folder_that_cannot_be_written_is_no_reason_to_fail(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("no folder")
    kept = KeptStages(tmp_path / "file", 10_000)
    kept.store("a", 1)
    assert kept.load("a") is None
