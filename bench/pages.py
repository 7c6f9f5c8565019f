"""How soon the first page with 1,000 designs shows cards with their pictures, and how soon a design is open.

`python -m bench.pages` by itself. Beside each figure stands that of a bare page with one card, from the same run.
"""

from __future__ import annotations

import io
import json
import statistics
import tempfile
import time
from pathlib import Path
from urllib.request import Request, urlopen

from PIL import Image
from selenium import webdriver

from gladstack.recipe.model.recipe import Recipe
from gladstack.store.database import DESIGNS as FILE
from gladstack.store.database import Database
from gladstack.store.designs import DesignBook
from gladstack.store.listing import Listing, Look
from gladstack.work.crew import Crew
from tests.browser.conftest import Served, chromium

DESIGNS = 1_000
ROUNDS = 5
SHOWN = """
const done = arguments[arguments.length - 1];
const look = () => {
  const images = [...document.querySelectorAll("section[aria-labelledby=designs] img")].slice(0, 6);
  const all = images.length >= Math.min(6, arguments[0]) && images.every((i) => i.complete && i.naturalWidth > 0);
  if (all) return done(performance.now());
  requestAnimationFrame(look);
};
look();
"""
SCROLLED = """
const done = arguments[arguments.length - 1], page = document.querySelector("main");
let frames = 0; const begin = performance.now();
const step = () => {
  frames += 1;
  const t = (performance.now() - begin) / 1000;
  if (t > 3) return done(frames / t);
  page.scrollTop = 4000 * t;
  requestAnimationFrame(step);
};
requestAnimationFrame(step);
"""
OPENED = """
const done = arguments[arguments.length - 1], begin = performance.now();
document.querySelector(`a[href="/design/${arguments[0]}"]`).click();
const look = () => {
  const tab = document.querySelector("canvas[tabindex]");
  if (tab && tab.width > 0 && document.querySelector("[role=tabpanel]")) return done(performance.now() - begin);
  requestAnimationFrame(look);
};
look();
"""


def _fill(served: Served, count: int) -> str:
    """Copies of the demo's designs with their pictures kept; the id of one that is built."""
    art = {"kind": "lettering", "text": "Open evening", "font": "lobster-two", "film": "#1d2b53", "fit_width_mm": 120}
    body = json.dumps({"art": art}).encode()
    with urlopen(Request(f"{served.address}/api/designs/plain", body, {"content-type": "application/json"})) as answer:
        made = str(json.load(answer)["id"])
    database = Database(served.data / FILE)
    book, listing = DesignBook(database), Listing(database)
    recipe: Recipe = book.get(made).revision.recipe
    for k in range(count - 1):
        design = book.create(recipe.model_copy(update={"name": f"Design {k}"}))
        picture = io.BytesIO()
        Image.effect_noise((320, 200), 40 + k % 60).save(picture, "PNG")
        listing.keep_look(design.revision.id, Look(picture.getvalue(), 1, 60.0, 60.0))
    return made


def _first_page(driver: webdriver.Chrome, address: str, count: int) -> float:
    times = []
    for _ in range(ROUNDS):
        driver.get(address)
        times.append(float(driver.execute_async_script(SHOWN, count)))
    return statistics.median(times)


def main() -> None:
    """Prints the figures."""
    crew = Crew()
    with tempfile.TemporaryDirectory() as folder, chromium() as driver:
        driver.set_script_timeout(60)
        one = Served(Path(folder) / "one", crew, demo=False)
        _fill(one, 1)
        time.sleep(2)
        alone = _first_page(driver, one.address, 1)
        one.stop()
        many = Served(Path(folder) / "many", crew, demo=False)
        design = _fill(many, DESIGNS)
        full = _first_page(driver, many.address, DESIGNS)
        frames = float(driver.execute_async_script(SCROLLED))
        opened = []
        for _ in range(ROUNDS):
            driver.get(many.address)
            driver.execute_async_script(SHOWN, DESIGNS)
            driver.execute_script("document.querySelector('main').scrollTop = 1e9")
            time.sleep(0.5)
            opened.append(float(driver.execute_async_script(OPENED, design)))
        ratio = f"{full / alone:.1f} of a page with one"
        print(
            f"First page with {DESIGNS:,} designs: {full:.0f} ms to cards with pictures ({ratio});"
            f" scrolled at {frames:.0f} frames a second. A design open in {statistics.median(opened):.0f} ms."
        )
        many.stop()
    crew.close()


if __name__ == "__main__":
    main()
