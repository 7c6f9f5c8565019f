"""What a maker does and sees, in a maker's words."""

from __future__ import annotations

import base64
from collections.abc import Callable
from typing import Any

from selenium import webdriver
from selenium.common.exceptions import ElementClickInterceptedException, JavascriptException, StaleElementReferenceException
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import Select, WebDriverWait

WAIT_S = 60
"""Patience, not a measure: a busy machine may take long over what an idle one does at once."""
_LOOK_S = 0.05
"""How soon the page is looked at again for what is waited for."""
_ASK_S = 0.1
"""How soon the server is asked again, which has to work for its answer."""
_MOVE_MS = 30
"""How long one move of the pointer takes."""
_IS_SHOWN = """
const isShown = (one) => {
  const at = one.localName === "option" ? one.closest("select") : one;
  return at.checkVisibility({ opacityProperty: true, visibilityProperty: true }) && at.getClientRects().length > 0;
};
"""
_FIRST_SHOWN = f"""{_IS_SHOWN}
const find = (xpath) => {{
  const all = document.evaluate(xpath, document, null, XPathResult.ORDERED_NODE_SNAPSHOT_TYPE, null);
  for (let k = 0; k < all.snapshotLength; k++) if (isShown(all.snapshotItem(k))) return all.snapshotItem(k);
  return null;
}};
"""
_INNERMOST_SAYING = f"""{_IS_SHOWN}
const within = (one, says) => {{
  const inner = [...one.children].filter(says);
  for (const child of inner) {{
    const found = within(child, says);
    if (found) return found;
  }}
  return inner.length === 0 && isShown(one) ? one : null;
}};
const find = (text) => {{
  const says = (one) => one.textContent.replace(/\\s+/g, " ").includes(text);
  return says(document.body) ? within(document.body, says) : null;
}};
"""
"""An XPath that asks the same of every element takes a page of some hundreds 40 ms, again and again."""
_ONCE_FOUND = """
const [what, look_ms, patience_ms, answer] = arguments;
const late = performance.now() + patience_ms;
const look = () => {
  const found = find(what);
  if (found || performance.now() > late) answer(found);
  else setTimeout(look, look_ms);
};
look();
"""
"""The page looks itself: to be asked through the driver again and again takes as long as many of the tests' jobs."""
_TURN_S = 10
"""How long a page looks before it is asked anew: one that is left for another never answers."""


def moves(browser: webdriver.Chrome) -> ActionChains:
    """What pointer and keys do one after another; a pointer that takes its time tells no more."""
    return ActionChains(browser, duration=_MOVE_MS)


def waiting(browser: webdriver.Chrome, seconds: float = WAIT_S, look_s: float = _LOOK_S) -> WebDriverWait[webdriver.Chrome]:
    """Waits on a page. What it draws anew while it is looked at is looked for again."""
    return WebDriverWait(browser, seconds, look_s, ignored_exceptions=[StaleElementReferenceException])


class Hands:
    """A maker at the screen."""

    def __init__(self, browser: webdriver.Chrome, address: str) -> None:
        self.browser = browser
        self.address = address

    def open(self, path: str = "/") -> None:
        self.browser.get(self.address + path)

    def see(self, xpath: str) -> WebElement:
        """Waits for something visible."""
        return self._wait_for(_FIRST_SHOWN, xpath)

    def see_text(self, text: str) -> WebElement:
        """Waits for the innermost element that says this."""
        return self._wait_for(_INNERMOST_SAYING, text)

    def _wait_for(self, script: str, what: str) -> WebElement:
        def found(driver: webdriver.Chrome) -> WebElement | None:
            try:
                return driver.execute_async_script(script + _ONCE_FOUND, what, _LOOK_S * 1000, _TURN_S * 1000)  # type: ignore[no-any-return]
            except JavascriptException:  # The page was left while it looked.
                return None

        element = waiting(self.browser).until(found, f"never saw {what}")
        assert isinstance(element, WebElement)
        return element

    def patiently(self, action: Callable[[], object], message: str) -> None:
        """Does something to what is on the page, again if the page has just drawn it anew, or a message lies over it."""

        def done(_: webdriver.Chrome) -> bool:
            try:
                action()
            except (StaleElementReferenceException, ElementClickInterceptedException):
                return False
            return True

        waiting(self.browser).until(done, message)

    def click(self, xpath: str) -> None:
        def clicked() -> None:
            element = self.see(xpath)
            # What cannot be pressed yet is waited for.
            waiting(self.browser).until(lambda _: element.is_enabled(), f"never could press {xpath}")
            element.click()

        self.patiently(clicked, f"never could click {xpath}")

    def press(self, name: str) -> None:
        """Presses a button or link by its name."""
        self.click(f'//*[self::button or self::a or @role="menuitem"][normalize-space()="{name}" or @aria-label="{name}"]')

    def undo(self) -> None:
        self.click('//button[starts-with(@aria-label, "Undo: ")]')

    def redo(self) -> None:
        self.click('//button[starts-with(@aria-label, "Redo: ")]')

    def go_to(self, place: str) -> None:
        self.click(f'//button[@role="tab"][starts-with(normalize-space(), "{place}")]')

    def field(self, label: str) -> WebElement:
        return self.see(f'//label[span[normalize-space()="{label}"]]//input | //input[@aria-label="{label}"]')

    def type_into(self, label: str, text: str) -> None:
        def typed() -> None:
            element = self.field(label)
            element.send_keys(Keys.CONTROL, "a")
            element.send_keys(text, Keys.ENTER)

        self.patiently(typed, f"never could type into {label}")

    def choose(self, label: str, option: str) -> None:
        """Chooses one of a list by its name."""
        xpath = f'//label[span[normalize-space()="{label}"]]//select | //select[@aria-label="{label}"]'
        self.patiently(lambda: Select(self.see(xpath)).select_by_visible_text(option), f"never could choose {option}")

    def choose_picture(self, path: str) -> None:
        self.browser.find_element(By.CSS_SELECTOR, 'input[type="file"]').send_keys(path)

    def drop(self, name: str, data: bytes) -> None:
        """Drops a picture on the page."""
        self.drop_all({name: data})

    def drop_all(self, files: dict[str, bytes]) -> None:
        """Drops some files on the page at once."""
        self.browser.execute_script(
            "const data = new DataTransfer();"
            "for (const [name, held] of arguments[0]) data.items.add(new File("
            "[Uint8Array.from(atob(held), (c) => c.charCodeAt(0))], name, "
            "{ type: /png$/.test(name) ? 'image/png' : '' }));"
            "window.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }));",
            [[name, base64.b64encode(data).decode()] for name, data in files.items()],
        )

    def until(self, condition: Any, message: str = "") -> None:
        waiting(self.browser, look_s=_ASK_S).until(lambda _: condition(), message)

    def names(self, list_label: str) -> list[str]:
        """The film names in a list, from top to bottom."""
        rows = self.browser.find_elements(By.XPATH, f'//ol[starts-with(@aria-label, "{list_label}")]//button[@draggable]')
        return [row.get_attribute("aria-label").split(",")[0] for row in rows]

    def pixel(self, x: float, y: float) -> tuple[int, int, int]:
        """The colour of the stage at shares of its width and height."""
        value = self.browser.execute_script(
            "const c = document.querySelector('canvas'); const [x, y] = [arguments[0] * c.width, arguments[1] * c.height];"
            "return [...c.getContext('2d').getImageData(x, y, 1, 1).data];",
            x,
            y,
        )
        return value[0], value[1], value[2]

    def complaints(self) -> list[str]:
        """What the browser's console holds against the page, but for tries that newer ones have overtaken."""
        said = [e["message"] for e in self.browser.get_log("browser")]
        return [one for one in said if "favicon" not in one and not ("/tries" in one and "409" in one)]
