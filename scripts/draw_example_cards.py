"""Draws the pictures of the examples on the first page: `.venv/bin/python scripts/draw_example_cards.py`."""

from __future__ import annotations

import tempfile
from pathlib import Path

from gladstack.api.desks.lists import EXAMPLES
from gladstack.api.tasks.designs import DesignWork, small_look
from gladstack.demo.designs import bring_demo
from gladstack.store.database import DESIGNS, Database
from gladstack.store.designs import DesignBook

FOLDER = Path(__file__).parent.parent / "web" / "public" / "examples"


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        data = Path(folder)
        store = DesignBook(Database(data / DESIGNS))
        for key, design in EXAMPLES.items():
            bring_demo(store, design)
            (FOLDER / f"{key}.png").write_bytes(small_look(DesignWork(data, store.get(design).revision.recipe)).png)


if __name__ == "__main__":
    main()
