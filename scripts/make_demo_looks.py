"""Makes the small pictures of the demo designs that are shipped: `make demo-looks`."""

from __future__ import annotations

import sys
import tempfile
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent))

from gladstack.api.tasks.designs import DesignWork, small_look
from gladstack.demo.designs import add_demo_designs
from gladstack.demo.looks import write_looks
from gladstack.store.database import DESIGNS, Database
from gladstack.store.designs import DesignBook
from gladstack.store.listing import Listing


def main() -> None:
    """Builds every demo design once."""
    with tempfile.TemporaryDirectory() as folder:
        data = Path(folder)
        database = Database(data / DESIGNS)
        store = DesignBook(database)
        add_demo_designs(store)
        recipes = {line.id: store.get(line.id).revision.recipe for line in Listing(database).lines()}
        write_looks({design: (recipe, small_look(DesignWork(data, recipe))) for design, recipe in recipes.items()})
        print(f"{len(recipes)} pictures")


if __name__ == "__main__":
    main()
