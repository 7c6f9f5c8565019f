"""Takes the pictures of the README from the demo designs: `make screenshots`."""

from __future__ import annotations

import sys
import tempfile
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent))

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.chrome import chromium
from tests.browser.conftest import Served
from tests.browser.hands import Hands

FOLDER = Path(__file__).parent.parent / "docs" / "screenshots"
REST_S = 0.8


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
        shoot("start")
        hands.open("/design/demo-shirt")
        for place in ("Art", "Stack", "Sheets", "Cut"):
            hands.go_to(place)
            if place == "Sheets":
                hands.see_text("cut off")
            shoot(place.lower())
        hands.open("/design/demo-mug")
        hands.go_to("Colours")
        shoot("colours")
        hands.go_to("Stack")
        hands.press("Exploded")
        shoot("exploded")
        hands.open("/design/demo-window")
        hands.press("Cut lines")
        hands.see('//button[@draggable][contains(@aria-label, "film 2 ")]').click()
        shoot("cut-lines")
        hands.press("Finished")
        hands.see('//button[starts-with(@aria-label, "Joint of all films")]').click()
        ActionChains(browser).move_by_offset(5, 5).perform()
        time.sleep(REST_S)
        browser.save_screenshot(str(FOLDER / "joint.png"))
        hands.open("/design/example-knockout")
        hands.go_to("Art")
        hands.click('//ul[@aria-label="Art on the stack"]//button[contains(., "HILL")]')
        shoot("lettering")
        hands.open("/design/example-three-shadows")
        hands.go_to("Stack")
        hands.click('//button[@draggable][contains(@aria-label, "film 1 ")]')
        shoot("shadows")
        hands.open("/design/example-stitched")
        hands.click('//button[@draggable][contains(@aria-label, "Thread,")]')
        hands.press("Ground: Light table")
        hands.click('//div[@role="dialog"]//button[normalize-space()="Shirt"]')
        time.sleep(REST_S)
        ActionChains(browser).send_keys(Keys.ESCAPE).perform()
        shoot("stitches-on-a-shirt")
        hands.open("/design/example-colouring-page")
        hands.go_to("Art")
        hands.press("Claim regions")
        time.sleep(REST_S)
        canvas = browser.find_element(By.TAG_NAME, "canvas")
        ActionChains(browser).move_to_element_with_offset(canvas, -60, -140).perform()
        shoot("colouring-page")
        hands.open("/design/example-mended")
        hands.go_to("Art")
        hands.press("Bridge")
        time.sleep(REST_S)
        browser.execute_script("document.querySelector('[aria-label=\"Steps of mending\"]').scrollIntoView({block: 'end'})")
        shoot("mending")
        hands.open("/design/example-ten-thousand-nodes")
        hands.go_to("Art")
        hands.press("Nodes")
        shoot("nodes")
        hands.press("Nodes")
        hands.open("/design/example-foreign-svg")
        hands.go_to("Art")
        shoot("vector-file")
        for job, name in (("job-mugs", "ganged"), ("job-banner", "tiles")):
            hands.open(f"/job/{job}")
            hands.see_text("cut off")
            shoot(name)
        hands.open("/shelf")
        hands.see_text("Night navy")
        shoot("shelf")
        served.stop()


if __name__ == "__main__":
    main()
