"""Takes the pictures of the README from the demo designs: `make screenshots`."""

from __future__ import annotations

import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent))

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By

from tests.browser.accessible import window_of
from tests.browser.chrome import chromium
from tests.browser.conftest import Served
from tests.browser.hands import Hands

FOLDER = Path(__file__).parent.parent / "docs" / "screenshots"
REST_S = 0.8
ALL_SEEN = """
return [...document.querySelectorAll("section[aria-labelledby=designs] img")]
  .filter((image) => image.getBoundingClientRect().top < innerHeight)
  .every((image) => image.complete && image.naturalWidth > 0);
"""


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder, chromium() as browser:
        served = Served(Path(folder))
        hands = Hands(browser, served.address)

        def shoot(name: str) -> None:
            browser.execute_script("document.activeElement?.blur()")
            time.sleep(REST_S)
            browser.save_screenshot(str(FOLDER / f"{name}.png"))

        hands.open("/")
        hands.see_text("Night owl sticker")
        hands.until(lambda: browser.execute_script(ALL_SEEN), "the cards have no pictures")
        shoot("start")
        hands.open("/design/demo-shirt")
        hands.go_to("Stack")
        shoot("stack")
        hands.go_to("Sheets")
        hands.see_text("cut off")
        shoot("sheets")
        hands.open("/design/demo-mug")
        hands.go_to("Colours")
        hands.press("Pick only some colours")
        time.sleep(REST_S)
        canvas = browser.find_element(By.TAG_NAME, "canvas")
        for x, y in ((-280, -60), (50, -70), (-110, -10), (40, 180)):
            ActionChains(browser).move_to_element_with_offset(canvas, x, y).click().perform()
        shoot("colours")
        hands.press("Cancel")
        hands.open("/design/example-too-thin")
        hands.go_to("Proof")
        hands.click('//section[@aria-label="In weeding"]//button[contains(., "is only")]')
        hands.see('//button[starts-with(normalize-space(), "Thicken")]')
        shoot("proof")
        hands.open("/design/demo-window")
        hands.go_to("Stack")
        hands.see('//button[starts-with(@aria-label, "Joint of all films")]').click()
        ActionChains(browser).move_by_offset(5, 5).perform()
        time.sleep(REST_S)
        browser.save_screenshot(str(FOLDER / "joint.png"))
        hands.open("/design/example-knockout")
        hands.go_to("Art")
        hands.click('//ul[@aria-label="Art on the stack"]//button[not(contains(., "HILL"))]')
        hands.see('//section[@aria-label="How it lies on other art"]//img')
        shoot("lettering")
        hands.open("/design/example-three-shadows")
        hands.go_to("Stack")
        hands.click('//button[@draggable][contains(@aria-label, "film 1 ")]')
        shoot("shadows")
        hands.open("/design/example-colouring-page")
        hands.go_to("Colours")
        hands.press("Claim regions")
        time.sleep(REST_S)
        canvas = browser.find_element(By.TAG_NAME, "canvas")
        ActionChains(browser).move_to_element_with_offset(canvas, -60, -140).perform()
        shoot("colouring-page")
        hands.open("/design/example-mended")
        hands.go_to("Colours")
        hands.press("Bridge")
        time.sleep(REST_S)
        browser.execute_script("document.querySelector('[aria-label=\"Steps of mending\"]').scrollIntoView({block: 'end'})")
        shoot("mending")
        for job, name in (("job-mugs", "ganged"), ("job-banner", "tiles")):
            hands.open(f"/job/{job}")
            hands.see_text("cut off")
            shoot(name)
        hands.open("/shelf")
        hands.see_text("Night navy")
        shoot("shelf")
        hands.open("/names/example-helper-names")
        hands.see("//textarea").send_keys("Halloran\nÅsa\nMirela\n\nBartholomew-Quince of the Upper Dome\nTove\nPiet\nIlse")
        hands.choose("Long names", "left as they are")
        hands.see_text("All are drawn")
        shoot("names")
        cutting(hands, shoot)
        for width, height, place, name in ((390, 844, "stack", "phone"), (820, 1180, "proof", "tablet")):
            with window_of(browser, width, height):
                hands.open(f"/design/demo-shirt/{place}")
                hands.see('//div[@role="tabpanel"][@data-state="active"]//button')
                shoot(name)
        served.stop()


def cutting(hands: Hands, shoot: Callable[[str], None]) -> None:
    """The mugs at the cutter: the job sheet, a film being cut, and a mishap."""
    hands.open("/job/job-mugs")
    hands.click('//label[normalize-space()="Cut"]')
    hands.press("Page 1 of the job sheet")
    shoot("job-sheet")
    hands.press("Close")
    hands.press("Cut these films")
    hands.press("The film is loaded")
    hands.click('//summary[contains(normalize-space(), "Simulated cutter")]')
    hands.press("50 times faster")
    hands.press("Cut it")
    time.sleep(3)
    hands.press("Pause")
    shoot("cut")
    hands.choose("Try a mishap", "The film slips")
    hands.press("Let it happen")
    hands.press("Go on")
    hands.see_text("has slipped")
    shoot("mishap")


if __name__ == "__main__":
    main()
