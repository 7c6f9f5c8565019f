"""A maker whose actions are counted."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import Any

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.maker import Maker


class Counted(Maker):
    """A maker whose clicks, drags and typed words are counted."""

    actions = 0

    def click(self, xpath: str) -> None:
        self.actions += 1
        super().click(xpath)

    def type_into(self, label: str, text: str) -> None:
        self.actions += 1
        super().type_into(label, text)

    def select(self, label: str, text: str) -> None:
        self.actions += 1
        super().select(label, text)

    def open_film(self, name: str) -> None:
        self.actions += 1
        super().open_film(name)

    def drag_mm(self, places: Sequence[tuple[float, float]], *, alt: bool = False) -> None:
        self.actions += 1
        super().drag_mm(places, alt=alt)

    def key(self, key: str) -> None:
        self.actions += 1
        self.browser.find_element(By.CSS_SELECTOR, "canvas[tabindex]").send_keys(key)

    def words(self, text: str) -> Any:
        self.actions += 1
        area = self.see('//label[span[normalize-space()="Words"]]/textarea')
        area.send_keys(Keys.CONTROL, "a")
        area.send_keys(text)
        super_click = super().click
        super_click('//h2[normalize-space()="On the stack"]')
        return self.built_when(
            lambda d: any(a["kind"] == "lettering" and a["text"] == text for a in d["recipe"]["arts"]), f"no {text}"
        )

    def shape(self, name: str) -> None:
        self.press("Shape")
        self.click(f'//div[@role="dialog"]//button[normalize-space()="{name}"]')
        self.see('//section[@aria-label="How it lies on other art"]')

    def relate(self, said: str) -> None:
        """Takes one of the drawn ways for an art to lie on another."""
        self.click(f'//section[@aria-label="How it lies on other art"]//button[starts-with(@aria-label, "{said}")][.//img]')
        self.see(f'//button[starts-with(@aria-label, "{said}")][@aria-pressed="true"]')

    def file(self, path: Path) -> Any:
        self.actions += 1
        self.bring(path)
        return self.built_when(lambda d: d["built"], "nothing was built")

    def at(self, x: float, y: float) -> tuple[float, float]:
        """A place told in shares of the first art's page."""
        page = self.design()["built"]["arts"][0]["page"]
        wide = page["right"] - page["left"]
        return page["left"] + x * wide, page["top"] + y * wide


def area(design: Any, film: str) -> float:
    return float(next((layer["area_mm2"] for layer in design["built"]["layers"] if layer["film"] == film), 0.0))
