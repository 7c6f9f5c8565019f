"""What a maker does and sees, in a maker's words."""

from __future__ import annotations

import base64
from collections.abc import Callable
from typing import Any

from selenium import webdriver
from selenium.common.exceptions import ElementClickInterceptedException, StaleElementReferenceException
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import Select, WebDriverWait

WAIT_S = 60
"""Patience, not a measure: a busy machine may take long over what an idle one does at once."""


class Hands:
    """A maker at the screen."""

    def __init__(self, browser: webdriver.Chrome, address: str) -> None:
        self.browser = browser
        self.address = address

    def open(self, path: str = "/") -> None:
        self.browser.get(self.address + path)

    def see(self, xpath: str) -> WebElement:
        """Waits for something visible."""

        def found(driver: webdriver.Chrome) -> WebElement | bool:
            shown = [e for e in driver.find_elements(By.XPATH, xpath) if e.is_displayed()]
            return shown[0] if shown else False

        # What the page draws anew while it is looked at is looked for again.
        wait = WebDriverWait(self.browser, WAIT_S, ignored_exceptions=[StaleElementReferenceException])
        element = wait.until(found, f"never saw {xpath}")
        assert isinstance(element, WebElement)
        return element

    def see_text(self, text: str) -> WebElement:
        return self.see(f'//*[contains(normalize-space(), "{text}") and not(.//*[contains(normalize-space(), "{text}")])]')

    def patiently(self, action: Callable[[], object], message: str) -> None:
        """Does something to what is on the page, again if the page has just drawn it anew, or a message lies over it."""

        def done(_: webdriver.Chrome) -> bool:
            try:
                action()
            except (StaleElementReferenceException, ElementClickInterceptedException):
                return False
            return True

        WebDriverWait(self.browser, WAIT_S).until(done, message)

    def click(self, xpath: str) -> None:
        def clicked() -> None:
            element = self.see(xpath)
            # What cannot be pressed yet is waited for.
            WebDriverWait(self.browser, WAIT_S).until(lambda _: element.is_enabled(), f"never could press {xpath}")
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
        WebDriverWait(self.browser, WAIT_S).until(lambda _: condition(), message)

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
