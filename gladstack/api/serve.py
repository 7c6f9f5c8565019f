"""Serving the app on this machine."""

from __future__ import annotations

import threading
from pathlib import Path

import uvicorn

from gladstack.api.app import built_front_end, create_app
from gladstack.demo.designs import add_demo_designs
from gladstack.warm import warm


def serve(host: str, port: int, data: Path, *, demo: bool) -> int:
    """Serves until stopped; `demo` adds the demo designs first. Returns the exit code."""
    front_end = built_front_end()
    app = create_app(data, front_end=front_end)
    if demo:
        add_demo_designs(app.state.workshop.store)
    threading.Thread(target=warm, daemon=True, name="warm").start()
    address = f"http://{f'[{host}]' if ':' in host else host}:{port}/"
    print(f"Glad Stack is served at {address}" + ("" if front_end else " (no front end built; run make setup)"), flush=True)
    uvicorn.run(app, host=host, port=port, log_level="warning")
    return 0
