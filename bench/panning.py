"""Frames a second while a heavy design is panned and zoomed, and art of one is dragged, beside a bare canvas that draws one
bitmap as often as it can.

`python -m bench.panning` by itself.
"""

from __future__ import annotations

import json
import math
import random
import tempfile
import time
from pathlib import Path
from urllib.request import Request, urlopen

from selenium import webdriver

from gladstack.work.crew import Crew
from tests.browser.conftest import Served, chromium

POINTS = 200_000
COMMON_POINTS, COMMON_FILMS = 20_000, 12
POINTER = """
const done = arguments[arguments.length - 1], canvas = document.querySelector("canvas[tabindex]");
const box = canvas.getBoundingClientRect(), at = { x: box.left + box.width / 2, y: box.top + box.height / 2 };
const send = (type, x, y, buttons) => canvas.dispatchEvent(new PointerEvent(type,
  { bubbles: true, pointerId: 1, clientX: x, clientY: y, button: 0, buttons }));
canvas.setPointerCapture = () => undefined;
let frames = 0; const begin = performance.now();
"""
DRAG = """
send("pointerdown", at.x, at.y, 1);
const step = () => {
  frames += 1;
  const t = (performance.now() - begin) / 1000;
  if (t > 3) { send("pointerup", at.x, at.y, 0); return done(frames / t); }
  send("pointermove", at.x + 90 * Math.sin(3 * t), at.y + 60 * Math.cos(4 * t), 1);
  requestAnimationFrame(step);
};
requestAnimationFrame(step);
"""
FRAMES = """
send("pointerdown", at.x - 400, at.y - 250, 1);
const step = () => {
  frames += 1;
  const t = (performance.now() - begin) / 1000;
  if (t > 3) { send("pointerup", at.x, at.y, 0); return done(frames / t); }
  if (frames % 3) send("pointermove", at.x - 400 + 120 * Math.sin(3 * t), at.y - 250 + 80 * Math.cos(4 * t), 1);
  else canvas.dispatchEvent(new WheelEvent("wheel", { bubbles: true, cancelable: true, deltaY: 20 * Math.sin(6 * t),
    clientX: at.x, clientY: at.y }));
  requestAnimationFrame(step);
};
requestAnimationFrame(step);
"""
BARE = """
const done = arguments[arguments.length - 1], shown = document.querySelector("canvas");
const canvas = document.createElement("canvas"), image = document.createElement("canvas");
image.width = canvas.width = shown.width; image.height = canvas.height = shown.height;
image.getContext("2d").drawImage(shown, 0, 0);
document.body.replaceChildren(canvas);
const context = canvas.getContext("2d");
let frames = 0; const begin = performance.now();
const step = () => {
  frames += 1;
  const t = (performance.now() - begin) / 1000;
  if (t > 3) return done(frames / t);
  const k = 1 + 0.1 * Math.sin(6 * t);
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.setTransform(k, 0, 0, k, 120 * Math.sin(3 * t), 80 * Math.cos(4 * t));
  context.drawImage(image, 0, 0);
  requestAnimationFrame(step);
};
requestAnimationFrame(step);
"""


def heavy_file(points: int = POINTS, films: int = 6) -> bytes:
    """Curved blobs of so many points in so many colours."""
    rng = random.Random(2)
    rings = []
    for k in range(60):
        x, y = 25 + 50 * (k % 10), 25 + 50 * (k // 10)
        corners = []
        for j in range(points // 60):
            turn = 2 * math.pi * j / (points // 60)
            reach = 18 + 4 * math.sin(9 * turn) + rng.uniform(-0.05, 0.05)
            corners.append(f"{x + reach * math.cos(turn):.3f} {y + reach * math.sin(turn):.3f}")
        rings.append(f'<path fill="#{18 * (k % films) + 20:02x}60{240 - 18 * (k % films):02x}" d="M{"L".join(corners)}Z"/>')
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="500mm" height="300mm" viewBox="0 0 500 300">'
    return (head + "".join(rings) + "</svg>").encode()


def start(served: Served, file: bytes) -> str:
    """A new design from a vector file; its id."""
    mark = "gladstack-bench"
    form = (
        f'--{mark}\r\nContent-Disposition: form-data; name="picture"; filename="heavy.svg"\r\n\r\n'.encode()
        + file
        + f"\r\n--{mark}--\r\n".encode()
    )
    kind = {"content-type": f"multipart/form-data; boundary={mark}"}
    with urlopen(Request(f"{served.address}/api/designs", form, kind)) as answer:
        return str(json.load(answer)["id"])


def _frames(driver: webdriver.Chrome, script: str) -> float:
    return float(driver.execute_async_script(script))


def main() -> None:
    """Prints the figures."""
    crew = Crew()
    with tempfile.TemporaryDirectory() as folder, chromium() as driver:
        served = Served(Path(folder), crew)
        driver.set_script_timeout(60)
        driver.implicitly_wait(30)

        def opened(file: bytes) -> None:
            driver.get(f"{served.address}/design/{start(served, file)}")
            driver.find_element("css selector", "canvas[tabindex]")
            time.sleep(3)

        opened(heavy_file(COMMON_POINTS, COMMON_FILMS))
        panned = _frames(driver, POINTER + FRAMES)
        driver.find_element("xpath", '//button[@role="tab"][.="Art"]').click()
        driver.find_element("xpath", '//ul[@aria-label="Art on the stack"]//button').click()
        dragged, bare = _frames(driver, POINTER + DRAG), _frames(driver, BARE)
        what = f"{COMMON_FILMS} films of {COMMON_POINTS:,} points"
        print(f"{what}: panned {panned:.0f}, dragged {dragged:.0f} frames a second; a bare canvas {bare:.0f}")
        opened(heavy_file())
        ours, bare = _frames(driver, POINTER + FRAMES), _frames(driver, BARE)
        print(f"Panning and zooming {POINTS:,} points: {ours:.0f} frames a second; a bare canvas with one bitmap {bare:.0f}")
        served.stop()
    crew.close()


if __name__ == "__main__":
    main()
