"""What a maker does in the browser, in more words than hands have."""

from __future__ import annotations

import json
import urllib.request
from collections.abc import Sequence
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from tests.browser.hands import Hands, moves


class Maker(Hands):
    """A maker who sets lettering and lays shapes on it."""

    def design_id(self) -> str:
        """The design that is open, as the address tells it."""
        return urlsplit(self.browser.current_url).path.split("/")[2]

    def design(self) -> Any:
        path = f"{self.address}/api/designs/{self.design_id()}"
        with urllib.request.urlopen(path) as answer, urllib.request.urlopen(f"{path}/history") as history:
            return {**json.load(answer), "history": json.load(history)}

    def built_when(self, condition: Any, message: str) -> Any:
        self.until(lambda: condition(self.design()), message)
        return self.design()

    def begin(self, text: str) -> None:
        self.open("/")
        self.press("Begin with lettering")
        self.write(text)

    def write(self, text: str) -> None:
        area = self.see('//label[span[normalize-space()="Words"]]/textarea')
        area.send_keys(Keys.CONTROL, "a")
        area.send_keys(text)
        self.click('//h2[normalize-space()="On the stack"]')
        self.built_when(
            lambda d: any(a["kind"] == "lettering" and a["text"] == text for a in d["recipe"]["arts"]),
            f"{text} was not kept",
        )

    def font(self, name: str) -> None:
        self.click('//button[starts-with(@aria-label, "Font:")]')
        self.click(f'//div[@role="dialog"]//button[.//*[@aria-label="{name}"]]')
        self.see(f'//button[@aria-label="Font: {name}"]')

    def new_film(self, label: str, colour: str, *, there: bool = True) -> None:
        self.click(f'//button[starts-with(@aria-label, "{label}:")]')
        field = self.see('//div[@role="dialog"]//input[@type="color"]')
        self.browser.execute_script(
            "Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(arguments[0], arguments[1]);"
            "arguments[0].dispatchEvent(new Event('input', { bubbles: true }));",
            field,
            colour,
        )
        self.press("A film of this colour")
        if there:
            self.built_when(lambda d: any(f["film"] == colour for f in d["built"]["layers"]), f"no film {colour}")

    def select(self, label: str, text: str) -> None:
        path = f'//label[span[normalize-space()="{label}"]]//select | //select[@aria-label="{label}"]'
        self.patiently(lambda: Select(self.see(path)).select_by_visible_text(text), f"never could choose {text}")

    def add_shape(self, name: str) -> None:
        rows = '//ul[@aria-label="Art on the stack"]/li'
        before = len(self.browser.find_elements(By.XPATH, rows))
        self.press("Shape")
        self.click(f'//div[@role="dialog"]//button[normalize-space()="{name}"]')
        self.until(lambda: len(self.browser.find_elements(By.XPATH, rows)) > before, "no shape came")
        # What comes last lies on top, and is chosen.
        self.see(f'{rows}[1]/button[@aria-pressed="true"]')

    def choose_art(self, name: str) -> None:
        row = self.see(f'//ul[@aria-label="Art on the stack"]//button[contains(., "{name}")]')
        if row.get_attribute("aria-pressed") != "true":
            row.click()

    def joint(self, of: str, kind: str, length: str | None = None) -> None:
        self.click(f'//button[starts-with(@aria-label, "{of}")]')
        self.click(f'//fieldset[@aria-label="Kind of joint"]//button[starts-with(normalize-space(), "{kind}")]')
        if length:
            self.see(f'//button[starts-with(@aria-label, "{of}: {kind.lower()}")]')
            self.type_into("Width of the gap" if kind == "Gap" else "Length of the lap", length)
        moves(self.browser).send_keys(Keys.ESCAPE).perform()

    def flush(self, *, stay: bool = False) -> None:
        """Lays all films edge to edge, in place of the laps that a new design begins with; comes from Art and goes back."""
        self.go_to("Stack")
        self.joint("Joint of all films", "Butt")
        self.built_when(lambda d: d["recipe"]["joint"]["kind"] == "butt", "the films do not end where others begin")
        if not stay:
            self.go_to("Art")

    def open_film(self, name: str) -> None:
        row = self.see(f'//button[@draggable][starts-with(@aria-label, "{name},")]')
        if row.get_attribute("aria-expanded") != "true":
            row.click()

    def make(self, film: str, kind: str) -> None:
        self.open_film(film)
        self.press("Make a shadow or line of it")
        self.click(f'//div[@role="dialog"]//button[starts-with(normalize-space(), "{kind}")]')

    def bring(self, path: str | Path) -> None:
        # A page of its own is half a second's work.
        if self.browser.current_url != f"{self.address}/":
            self.open("/")
        self.see_text("Choose a file")
        self.choose_picture(str(path))
        self.see('//button[@role="tab"][@aria-selected="true"]')

    def opens_as_line_art(self) -> Any:
        """What is drawn in lines opens as line art, ready to be claimed."""
        self.see_text("treated as line art")
        return self.built_when(lambda d: d["recipe"]["arts"][0]["kind"] == "line-art", "not treated as line art")

    def draw(self, *shares: tuple[float, float]) -> None:
        """Drags over the light table through places told in shares of the only art's page; one place is a click."""
        before = self.design()
        page = before["built"]["arts"][0]["page"]
        wide = page["right"] - page["left"]
        self.drag_mm([(page["left"] + x * wide, page["top"] + y * wide) for x, y in shares])
        self.built_when(lambda d: d["revision"] != before["revision"], f"drawing {shares} did nothing")

    def drag_mm(self, places: Sequence[tuple[float, float]], *, alt: bool = False) -> None:
        """Drags over the light table through places of the stack, all of the decal in sight; one place is a click."""
        box = self.design()["built"]["box"]
        self.see('//button[@title="Fit the decal"]').click()
        canvas = self.browser.find_element(By.TAG_NAME, "canvas")
        wide, high = box["right"] - box["left"], box["bottom"] - box["top"]
        scale = min((canvas.size["width"] - 36) / wide, (canvas.size["height"] - 36) / high)
        middle = (box["left"] + wide / 2, box["top"] + high / 2)
        ways = [(round((x - middle[0]) * scale), round((y - middle[1]) * scale)) for x, y in places]
        keys = moves(self.browser)
        if alt:
            keys.key_down(Keys.ALT).perform()
        steps = moves(self.browser).move_to_element_with_offset(canvas, *ways[0]).click_and_hold()
        for way in ways[1:]:
            steps = steps.move_to_element_with_offset(canvas, *way)
        steps.release().perform()
        if alt:
            keys.key_up(Keys.ALT).perform()

    def become(self, text: str) -> None:
        self.click('//button[starts-with(@aria-label, "Claim for:")]')
        self.click(f'//div[@role="dialog"]//button[normalize-space()="{text}"]')

    def until_pixel(self, x: float, y: float) -> tuple[int, int, int]:
        """The colour of the stage once it has come to rest."""
        seen = [self.pixel(x, y)]
        self.until(lambda: seen.append(self.pixel(x, y)) or (len(seen) > 4 and len(set(seen[-4:])) == 1), "never at rest")
        return seen[-1]

    def fold_out(self, title: str) -> None:
        part = self.see(f'//details[summary[contains(., "{title}")]]')
        if part.get_attribute("open") is None:
            self.click(f'//details/summary[contains(., "{title}")]')
