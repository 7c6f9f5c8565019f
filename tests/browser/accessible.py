"""What the rules of accessibility, and a small window, find wrong with a page."""

from __future__ import annotations

import json
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from selenium import webdriver

from tests.browser.hands import Hands

AXE = Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"


def axe(hands: Hands) -> list[list[object]]:
    """What the accessibility rules of WCAG 2.2, level AA, find wrong with the page as it is shown."""
    hands.browser.execute_script(AXE.read_text())
    found = hands.browser.execute_async_script(
        "const done = arguments[0], rules = ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'];"
        "axe.run({runOnly: rules}).then((r) => done(JSON.stringify("
        "r.violations.map((v) => [v.id, v.nodes.map((n) => n.html.slice(0, 120))]))));"
    )
    return list(json.loads(found))


@contextmanager
def window_of(browser: webdriver.Chrome, width: int, height: int) -> Iterator[None]:
    """The page as large as this, in CSS pixels; as before afterwards."""

    def resize(wide: int, high: int) -> None:
        size = {"width": wide, "height": high, "deviceScaleFactor": 1, "mobile": False}
        browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)

    resize(width, height)
    try:
        yield
    finally:
        resize(1280, 800)


def out_of_reach(hands: Hands) -> list[str]:
    """Controls that cannot be brought into view, or lie under something else when they are."""
    return list(hands.browser.execute_script(_REACH))


_REACH = """
const controls = document.querySelectorAll("button, a[href], input, select, textarea, [role=tab], [role=slider]");
const lost = [];
for (const one of controls) {
  if (!one.checkVisibility({ contentVisibilityAuto: true, visibilityProperty: true })) continue;
  if (one.closest(".sr-only") || one.matches(".sr-only, [type=file], [type=radio]")) continue;
  one.scrollIntoView({ block: "nearest", inline: "nearest" });
  const box = one.getBoundingClientRect();
  if (!box.width || !box.height) continue;
  const named = (one.getAttribute("aria-label") || one.textContent || one.outerHTML).trim().slice(0, 60);
  const inside = box.left > -2 && box.right < innerWidth + 2 && box.bottom > 0 && box.top < innerHeight;
  if (!inside) lost.push(named + " lies outside");
  else {
    const [x, y] = [box.left + box.width / 2, (Math.max(0, box.top) + Math.min(innerHeight, box.bottom)) / 2];
    const met = document.elementFromPoint(x, y);
    if (met && !one.contains(met) && !met.contains(one) && !one.closest("label")?.contains(met))
      lost.push(named + " lies under " + met.outerHTML.slice(0, 80));
  }
}
return lost;
"""
