"""What a maker does in sheets and jobs."""

from __future__ import annotations

import json
import urllib.request
from typing import Any

from tests.browser.hands import Hands


class ShopHand(Hands):
    """Somebody at the bench."""

    def asked(self, path: str) -> Any:
        with urllib.request.urlopen(f"{self.address}/api{path}") as answer:
            return json.load(answer)

    def piece(self, film: str, piece: str) -> float:
        films = self.asked("/shelf")["films"]
        pieces = next(f["pieces"] for f in films if f["material"]["id"] == film)
        return next((p["left"] for p in pieces if p["id"] == piece), 0.0)
