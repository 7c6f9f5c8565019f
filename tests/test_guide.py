"""The guide calls things as the screen does: every name that it prints in bold stands somewhere in what makes the screen."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

ROOT = Path(__file__).parent.parent
GUIDE = (ROOT / "docs" / "guide.md").read_text()
_HOLE = "\0"
"""What is put into a text on the screen, such as a number or a film's name."""
_A_LENGTH = re.compile(r"[\d.]+ mm")


def source_text() -> str:
    """All that the screen may say, as it is written, and once more with holes where something is put in."""
    files = [p for p in (ROOT / "web" / "src").rglob("*.ts*") if ".test." not in p.name and p.name != "schema.ts"]
    files += (ROOT / "gladstack").rglob("*.py")
    text = " ".join("\n".join(p.read_text() for p in files).split())
    holed = re.sub(r"\$?\{[^{}]*\}", _HOLE, text)
    return f"{text}\n{holed}"


SOURCE = source_text()
LOWER = SOURCE.lower()


def stands(name: str) -> bool:
    """Whether a name stands in the sources: a word by itself in quotes or between tags, more words anywhere in a row."""
    if name.lower() in LOWER and " " in name:
        return True
    words = [_HOLE if w in ("...", "…") else w for w in _A_LENGTH.sub(f"{_HOLE} {_HOLE}", name).split(" ")]
    if len(words) == 1:
        return re.search(rf"[\"'`>] ?{re.escape(name)} ?[\"'`<{_HOLE}]", SOURCE, re.IGNORECASE) is not None
    # What is put in may be any run of the words, yet less than half of them.
    runs = [(i, j) for i in range(len(words)) for j in range(i, len(words) + 1) if 2 * (j - i) < len(words)]
    return any(" ".join([*words[:i], *([_HOLE] if j > i else []), *words[j:]]).lower() in LOWER for i, j in runs)


def names() -> list[str]:
    parts = [
        part for part in re.split(r"^## ", GUIDE, flags=re.MULTILINE) if not part.startswith(("Words used here", "Keys"))
    ]
    return sorted({" ".join(found.split()) for part in parts for found in re.findall(r"\*\*(.+?)\*\*", part, re.DOTALL)})


@pytest.mark.parametrize("name", names())
def test_what_the_guide_names_is_on_the_screen(name: str) -> None:
    assert stands(name)


def test_a_name_that_is_nowhere_is_found_out() -> None:
    assert not any(map(stands, ("Add a zeppelin", "Zeppelin", "Thicken everything twice", "Add lettering")))


PLACES = "Art, Colours, Stack, Proof, Sheets, Cut"


def test_the_guide_knows_all_places() -> None:
    assert PLACES in " ".join(GUIDE.split())
