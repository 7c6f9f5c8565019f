"""How soon the screen follows the hand with 12 films and 1,000 areas, and which change of place holds it up.

`python -m bench.felt` by itself. From each event to what is painted after it, beside a frame of a page on which nothing
moves; and the longest piece of work of the page after each change of place. Nothing is asserted.
"""

from __future__ import annotations

import json
import math
import random
import tempfile
import time
from pathlib import Path
from urllib.request import Request, urlopen

import numpy as np
from selenium import webdriver

from bench.panning import start
from gladstack.work.crew import Crew
from tests.browser.conftest import Served, chromium

FILMS, AREAS, TIMES = 12, 1_000, 150
PLACES = ("Colours", "Stack", "Proof", "Sheets", "Art")
PAINTED = """
const done = arguments[arguments.length - 1];
const canvas = document.querySelector("canvas[tabindex]"), box = canvas.getBoundingClientRect();
const send = (type, x, y, buttons) => canvas.dispatchEvent(new PointerEvent(type,
  { bubbles: true, pointerId: 1, clientX: x, clientY: y, button: 0, buttons }));
canvas.setPointerCapture = () => undefined;
const at = (k) =>
  [box.left + box.width * (0.5 + 0.3 * Math.sin(1.7 * k)), box.top + box.height * (0.5 + 0.3 * Math.cos(2.3 * k))];
const channel = new MessageChannel();
const painted = () => new Promise((then) => requestAnimationFrame(() => {
  channel.port1.onmessage = () => then();
  channel.port2.postMessage(0);
}));
const rest = (ms) => new Promise((then) => setTimeout(then, ms));
const times = arguments[0];
(async () => {
  const took = [];
  if (BEFORE) await BEFORE();
  for (let k = 0; k < times; k++) {
    await rest(20 + 17 * Math.abs(Math.sin(k)));
    const begin = performance.now();
    EACH(k);
    await painted();
    took.push(performance.now() - begin);
  }
  if (AFTER) await AFTER();
  done(took);
})();
"""
NOTHING = ("null", "((k) => undefined)", "null")
HOVER = ("null", '((k) => send("pointermove", ...at(k), 0))', "null")
DRAG = (
    '(async () => { send("pointerdown", ...at(0), 1); send("pointermove", ...at(0.05), 1); await rest(300); })',
    '((k) => send("pointermove", ...at(0.05 * k), 1))',
    '(async () => send("pointerup", ...at(0), 0))',
)
TYPING = ("null", '((k) => document.execCommand("insertText", false, "abcdefgh"[k % 8]))', "null")
LONG = """
window.held = []; new PerformanceObserver((list) => {
  for (const entry of list.getEntries()) window.held.push(entry.duration);
}).observe({ type: "longtask", buffered: false });
"""


def areas() -> bytes:
    """A vector file of so many areas in so many colours, in rows."""
    rng = random.Random(4)
    shapes = []
    for k in range(AREAS):
        x, y = 10 + 15 * (k % 40), 10 + 15 * (k // 40)
        turns = [2 * math.pi * n / 9 for n in range(9)]
        ring = [(x + rng.uniform(4, 7) * math.cos(t), y + rng.uniform(4, 7) * math.sin(t)) for t in turns]
        path = "L".join(f"{a:.2f} {b:.2f}" for a, b in ring)
        shapes.append(f'<path fill="#{20 * (k % FILMS) + 10:02x}40{240 - 20 * (k % FILMS):02x}" d="M{path}Z"/>')
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="610mm" height="385mm" viewBox="0 0 610 385">'
    return (head + "".join(shapes) + "</svg>").encode()


def _told(name: str, took: list[float], idle: list[float]) -> None:
    half, late = np.percentile(took, [50, 95])
    print(f"{name:>8}: median {half:.0f}, p95 {late:.0f} ms; nothing asked for {np.percentile(idle, 95):.0f} ms")


def main() -> None:
    """Prints the figures."""
    crew = Crew()
    with tempfile.TemporaryDirectory() as folder, chromium() as driver:
        driver.set_window_size(1280, 800)
        driver.set_script_timeout(90)
        driver.implicitly_wait(30)
        served = Served(Path(folder), crew)
        design = start(served, areas())
        driver.get(f"{served.address}/design/{design}")
        driver.find_element("css selector", "canvas[tabindex]")
        time.sleep(4)

        def measured(parts: tuple[str, str, str]) -> list[float]:
            script = PAINTED.replace("BEFORE", parts[0]).replace("EACH", parts[1]).replace("AFTER", parts[2])
            return list(driver.execute_async_script(script, TIMES))

        idle = measured(NOTHING)
        _told("hover", measured(HOVER), idle)
        _places(driver)
        art = driver.find_elements("xpath", '//ul[@aria-label="Art on the stack"]//button')
        art[0].click()
        _told("drag", measured(DRAG), idle)
        time.sleep(4)
        _lettering(f"{served.address}/api/designs/{design}")
        driver.get(f"{served.address}/design/{design}")
        driver.find_element("xpath", '//ul[@aria-label="Art on the stack"]//button[contains(., "Open")]').click()
        driver.find_element("css selector", "textarea").click()
        _told("typing", measured(TYPING), idle)
        served.stop()
    crew.close()


def _lettering(address: str) -> None:
    """Brings a line of lettering in."""
    with urlopen(address) as answer:
        base = json.load(answer)["revision"]
    art = {"kind": "lettering", "text": "Open", "height_mm": 30, "film": "#123456"}
    data = json.dumps({"base": base, "edit": {"kind": "add-art", "art": art}}).encode()
    with urlopen(Request(f"{address}/edits", data, {"content-type": "application/json"})) as answer:
        answer.read()


def _places(driver: webdriver.Chrome) -> None:
    driver.execute_script(LONG)
    for place in (*PLACES, *PLACES):
        driver.execute_script("window.held = []")
        driver.find_element("xpath", f'//button[@role="tab"][contains(., "{place}")]').click()
        time.sleep(2.5)
        held = driver.execute_script("return window.held")
        print(f"{place:>8}: longest piece of work {max(held, default=0):.0f} ms")


if __name__ == "__main__":
    main()
