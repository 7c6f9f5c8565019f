"""Many regions: how soon the stage answers when they are pointed at and claimed. And jagged outlines made simple."""

from __future__ import annotations

import tempfile
import time
from pathlib import Path
from typing import Any

import numpy as np
import shapely
from fastapi.testclient import TestClient
from selenium.webdriver.remote.webdriver import WebDriver

from gladstack.api.app import create_app
from gladstack.core.geometry.curves import flatten_chain
from gladstack.core.geometry.outlines import CurveIndex, outline_of
from gladstack.core.geometry.shapes import clean
from gladstack.core.geometry.simplify import simplify
from tests.browser.chrome import chromium
from tests.browser.conftest import Served
from tests.core.jagged import jagged

ROWS, COLUMNS = 20, 25
FILMS = ("#c0392b", "#1d2b53", "#f2b632", "#2f8f8b", "#1f5d4a")


def panes() -> bytes:
    """A leaded window of 500 panes, its leads a little bent."""
    rng = np.random.default_rng(5)
    at = np.stack(np.meshgrid(np.arange(COLUMNS + 1), np.arange(ROWS + 1)), axis=-1) * 8.0 + 2
    at[1:-1, 1:-1] += rng.uniform(-1.4, 1.4, at[1:-1, 1:-1].shape)
    lines = [*at, *at.swapaxes(0, 1)]
    paths = "".join(f'<path d="M{"L".join(f"{x:.2f} {y:.2f}" for x, y in line)}"/>' for line in lines)
    size = f'width="{8 * COLUMNS + 4}mm" height="{8 * ROWS + 4}mm" viewBox="0 0 {8 * COLUMNS + 4} {8 * ROWS + 4}"'
    look = 'fill="none" stroke="#14100c" stroke-width="0.9" stroke-linecap="square"'
    return f'<svg xmlns="http://www.w3.org/2000/svg" {size}><g {look}>{paths}</g></svg>'.encode()


def many_regions() -> None:
    """The server's answer to a claim, with half of 500 regions claimed already; then the stage itself in a browser."""
    with (
        tempfile.TemporaryDirectory() as folder,
        TestClient(create_app(Path(folder)), base_url="http://127.0.0.1", client=("127.0.0.1", 50_000)) as client,
    ):
        design = client.post("/api/designs", files={"picture": ("panes.svg", panes())}).json()
        art = design["recipe"]["arts"][0]["id"]
        began = time.perf_counter()
        regions = client.get(f"/api/designs/{design['id']}/arts/{art}/regions?revision={design['revision']}")
        listed = time.perf_counter() - began
        found = [r for r in regions.json()["regions"] if r["waits"]]
        half = [{"x": r["x"], "y": r["y"], "film": FILMS[k % 5]} for k, r in enumerate(found[: len(found) // 2])]
        design = _edit(client, design, {"kind": "claim-regions", "art": art, "pins": half})
        spent = []
        for k, region in enumerate(found[-12:]):
            pin = {"x": region["x"], "y": region["y"], "film": FILMS[k % 5]}
            began = time.perf_counter()
            design = _edit(client, design, {"kind": "claim-regions", "art": art, "pins": [pin]})
            spent.append(time.perf_counter() - began)
    print(
        f"\n{len(found)} regions: listed in {listed * 1000:.0f} ms ({len(regions.content) / 1e6:.2f} MB); the server's "
        f"answer to a claim median {np.median(spent) * 1000:.0f} ms, worst {max(spent) * 1000:.0f} ms"
    )
    hover, claim = _on_stage()
    print(
        f"On the stage: pointing answers in {np.median(hover):.0f} ms (worst {max(hover):.0f}), "
        f"a claim is seen after {np.median(claim):.0f} ms (worst {max(claim):.0f})"
    )


def _edit(client: TestClient, design: dict[str, Any], edit: dict[str, Any]) -> dict[str, Any]:
    answer = client.post(f"/api/designs/{design['id']}/edits", json={"base": design["revision"], "edit": edit})
    made: dict[str, Any] = answer.json()
    return made


_GO_TO_ART = """
[...document.querySelectorAll('[role=tab]')].find((tab) => tab.innerText.trim() === 'Art')
  .dispatchEvent(new MouseEvent('mousedown', { bubbles: true, button: 0 }));
"""
_POINT = """
const [x, y, press, done] = arguments;  // a press is measured from a pointer that rests there already
const canvas = document.querySelector('canvas');
const box = canvas.getBoundingClientRect();
const send = (kind) => canvas.dispatchEvent(new PointerEvent(kind,
  { bubbles: true, pointerId: 1, button: 0, clientX: box.left + x, clientY: box.top + y }));
canvas.setPointerCapture = () => {};
const look = () => canvas.getContext('2d').getImageData(x, y, 1, 1).data.join();
const before = look();
const begun = performance.now();
if (press) { send('pointerdown'); send('pointerup'); } else send('pointermove');
const wait = () => {
  if (look() !== before || performance.now() - begun > 2000) done(performance.now() - begun);
  else requestAnimationFrame(wait);
};
requestAnimationFrame(wait);
"""


def _on_stage() -> tuple[list[float], list[float]]:
    """Milliseconds until a region is seen tinted that is pointed at, and filled that is clicked."""
    with tempfile.TemporaryDirectory() as folder, chromium() as browser:
        served = Served(Path(folder))
        file = Path(folder) / "panes.svg"
        file.write_bytes(panes())
        browser.get(served.address)
        browser.set_script_timeout(20)
        _when(browser, "document.querySelector('input[type=file]')")
        browser.find_element("css selector", "input[type=file]").send_keys(str(file))
        _when(browser, "document.querySelector('canvas')")
        browser.execute_script(_GO_TO_ART)
        _when(browser, "document.querySelector('button[aria-label=\"Claim regions\"]')")
        browser.execute_script("document.querySelector('button[aria-label=\"Claim regions\"]').click()")
        time.sleep(1.5)
        size = browser.execute_script("const c = document.querySelector('canvas'); return [c.width, c.height]")
        wide, high = 8 * COLUMNS + 4, 8 * ROWS + 4
        scale = min((size[0] - 36) / wide, (size[1] - 36) / high)
        panes_at = [(6 + 8 * (5 + k), 6 + 8 * (3 + k)) for k in range(12)]
        places = [(size[0] / 2 + (x - wide / 2) * scale, size[1] / 2 + (y - high / 2) * scale) for x, y in panes_at]
        hover = [float(browser.execute_async_script(_POINT, x, y, False)) for x, y in places]
        claim = []
        for x, y in places:
            browser.execute_async_script(_POINT, x, y, False)
            time.sleep(0.2)
            claim.append(float(browser.execute_async_script(_POINT, x, y, True)))
            time.sleep(0.6)
        served.stop()
        return hover, claim


def _when(browser: WebDriver, script: str) -> None:
    end = time.monotonic() + 20
    while not browser.execute_script(f"return Boolean({script})") and time.monotonic() < end:
        time.sleep(0.1)


def simplifying() -> None:
    """Ten thousand jagged nodes at 0.1 mm: how many are left, how far edges moved by another measure, and the time taken."""
    print("\nSimplifying 10 000 nodes at 0.1 mm (jags of up to so many mm): nodes left, farthest apart, seconds")
    for noise in (0.0, 0.02, 0.04, 0.05):
        shape = clean(shapely.make_valid(shapely.Polygon(jagged(10_000, noise))))
        simplify({"film": shape}, 0.1, CurveIndex([]))
        began = time.perf_counter()
        made = simplify({"film": shape}, 0.1, CurveIndex([]))
        spent = time.perf_counter() - began
        outline = outline_of(made.shapes["film"], CurveIndex(made.curves))
        new = shapely.union_all([shapely.LinearRing(flatten_chain(r, 0.001)) for r in outline.rings])
        main = max(shape.geoms, key=lambda p: p.area)
        apart = shapely.distance(new, shapely.points(np.asarray(main.exterior.coords))).max()
        print(f"{noise:>6} mm  {outline.nodes:>4} nodes, {apart:.3f} mm (told {made.deviation_mm:.3f}), {spent:.2f} s")
