"""ZIP files as answers."""

from __future__ import annotations

import re

from fastapi.responses import Response


def zip_answer(name: str, packed: bytes, ending: str = ".zip") -> Response:
    """A ZIP to be kept under a name."""
    plain = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:60] or "job"
    headers = {"Content-Disposition": f'attachment; filename="{plain}{ending}"'}
    return Response(packed, media_type="application/zip", headers=headers)
