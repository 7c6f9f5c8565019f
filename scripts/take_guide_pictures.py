"""Takes the pictures of the guide from the examples, one for each of its jobs: `make screenshots`."""

from __future__ import annotations

import io
import json
import sys
import tempfile
import time
from pathlib import Path
from urllib.request import Request, urlopen

sys.path.insert(0, str(Path(__file__).parent.parent))

from PIL import Image, ImageDraw

from tests.browser.chrome import chromium
from tests.browser.conftest import Served
from tests.browser.hands import Hands

PICTURES = Path(__file__).parent.parent / "gladstack" / "demo" / "pictures"
FOLDER = Path(__file__).parent.parent / "docs" / "guide"
REST_S = 1.2
WIDE_PX = 1000
COLOURS = 160


def sent(address: str, path: str, body: object) -> dict[str, object]:
    """What the app answers to what is sent to it."""
    request = Request(address + path, json.dumps(body).encode(), {"Content-Type": "application/json"})
    with urlopen(request) as answer:
        return dict(json.load(answer))


def script(address: str) -> str:
    """A thin script, welded and made thicker; its design's id."""
    art = {"kind": "lettering", "text": "Moonrise", "font": "kristi", "film": "#1d2b53", "fit_width_mm": 140}
    made = sent(address, "/api/designs/plain", {"art": art})
    return str(made["id"])


def letters(address: str) -> str:
    """Words whose font has alternates, with a word of another script; its design's id."""
    art = {"kind": "lettering", "text": "BEN ערב 18:30", "font": "lobster-two", "film": "#1d2b53", "fit_width_mm": 140}
    made = sent(address, "/api/designs/plain", {"art": art})
    return str(made["id"])


def plate() -> bytes:
    """A thick ring with a star in it, dark on white."""
    picture = Image.new("RGB", (900, 600), "#ffffff")
    draw = ImageDraw.Draw(picture)
    draw.ellipse((190, 40, 710, 560), fill="#1d2b53")
    draw.ellipse((280, 130, 620, 470), fill="#ffffff")
    draw.regular_polygon((450, 300, 100), 3, fill="#1d2b53")
    data = io.BytesIO()
    picture.save(data, "PNG")
    return data.getvalue()


def stencil(address: str) -> str:
    """A plate whose motif is its hole, the inner part held by two bridges; its design's id."""
    mark = "gladstack"
    head = f'--{mark}\r\nContent-Disposition: form-data; name="picture"; filename="plate.png"\r\n\r\n'
    form = head.encode() + plate() + f"\r\n--{mark}--\r\n".encode()
    kind = {"Content-Type": f"multipart/form-data; boundary={mark}"}
    with urlopen(Request(f"{address}/api/designs", form, kind)) as answer:
        made = dict(json.load(answer))
    art, path = made["recipe"]["arts"][0]["id"], f"/api/designs/{made['id']}/edits"
    bridges = [
        {"kind": "bridge", "id": "new", "start": {"x": x, "y": 0.333}, "end": {"x": end, "y": 0.333}, "width_mm": 4}
        for x, end in ((0.33, 0.19), (0.67, 0.81))
    ]
    for edit in (
        {"kind": "treat-background", "art": art, "background": "keep"},
        {"kind": "drop-colour", "art": art, "colour": "#1d2b53"},
        *({"kind": "add-mend", "art": art, "mend": mend} for mend in bridges),
    ):
        made = sent(address, path, {"base": made["revision"], "edit": edit})
    return str(made["id"])


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder, chromium() as browser:
        served = Served(Path(folder))
        hands = Hands(browser, served.address)

        def shoot(name: str) -> None:
            browser.execute_script("document.activeElement?.blur()")
            time.sleep(REST_S)
            with Image.open(io.BytesIO(browser.get_screenshot_as_png())) as shot:
                small = shot.convert("RGB").resize(
                    (WIDE_PX, round(WIDE_PX * shot.height / shot.width)), Image.Resampling.LANCZOS
                )
            small.quantize(COLOURS, dither=Image.Dither.NONE).save(FOLDER / f"{name}.png", optimize=True)

        def place(design: str, name: str, at: str) -> None:
            hands.open(f"/design/{design}")
            hands.go_to(at)
            hands.see('//canvas[@tabindex="0"]')
            shoot(name)

        hands.open("/design/demo-sticker")
        hands.go_to("Sheets")
        hands.see_text("cut off")
        shoot("first")
        hands.go_to("Stack")
        hands.press("Make a shadow of the whole decal")
        hands.click('//div[@role="dialog"]//button[starts-with(normalize-space(), "Outline shadow")]')
        hands.see('//label[span[normalize-space()="Holes"]]')
        hands.choose("Holes", "filled")
        shoot("base")
        for _ in range(2):
            hands.undo()
        hands.open("/design/example-knockout")
        hands.go_to("Art")
        hands.click('//ul[@aria-label="Art on the stack"]//button[not(contains(., "HILL"))]')
        hands.see('//section[@aria-label="How it lies on other art"]//img')
        shoot("motif")
        place("example-three-shadows", "shadows", "Stack")
        place("example-colouring-page", "colouring-page", "Colours")
        place("example-one-outline", "one-outline", "Colours")
        place("demo-shirt", "shirt", "Stack")
        hands.open("/design/demo-badge")
        hands.go_to("Colours")
        hands.press("Differences")
        hands.see_text("are kept as a film")
        shoot("cartoon")
        hands.press("Finished")
        hands.open("/job/job-banner")
        hands.see_text("cut off")
        shoot("banner")
        hands.open("/names/example-helper-names")
        hands.see("//textarea").send_keys("Halloran\nÅsa\nMirela\nTove\nPiet\nIlse")
        hands.see_text("All are drawn")
        shoot("names")
        place("example-mended", "mending", "Colours")
        hands.open(f"/design/{script(served.address)}")
        hands.go_to("Stack")
        hands.press("Weld “Moonrise” in one piece")
        hands.click('//button[@draggable][contains(@aria-label, "film 1 ")]')
        hands.press("Thicker by 0.1 mm")
        shoot("script")
        hands.open("/design/example-too-thin")
        hands.go_to("Proof")
        hands.click('//section[@aria-label="In weeding"]//button[contains(., "is only")]')
        hands.see('//button[starts-with(normalize-space(), "Thicken")]')
        shoot("proof")
        hands.open(f"/design/{letters(served.address)}")
        hands.go_to("Art")
        hands.click('//ul[@aria-label="Art on the stack"]//button')
        hands.click('//fieldset[@aria-label="Letters"]//button[@aria-label="Letter N"]')
        hands.click('//fieldset[@aria-label="Letters"]/following-sibling::div//button[@aria-label="Other forms of letters"]')
        hands.click('//fieldset[@aria-label="Alternates"]//button[@aria-label="this form"]')
        shoot("letters")
        place(stencil(served.address), "stencil", "Stack")
        place("example-nested-letters", "nested", "Stack")
        place("example-stitched", "stitches", "Stack")
        hands.open("/design/demo-sticker")
        hands.go_to("Colours")
        hands.click('//details[summary[contains(., "Mending")]]/summary')
        hands.press("Move edge")
        hands.see_text("Drag an edge to where it belongs")
        shoot("edges")
        hands.press("Move edge")
        hands.go_to("Art")
        again = Path(folder) / "owl-again.jpg"
        with Image.open(PICTURES / "night-owl.png") as owl:
            plain = Image.new("RGB", owl.size, "#ffffff")
            plain.paste(owl, mask=owl.getchannel("A") if owl.mode == "RGBA" else None)
            plain.rotate(4, Image.Resampling.BICUBIC, True, fillcolor="#ffffff").save(again, quality=85)
        browser.find_element("xpath", '//input[@aria-label="Replace the picture by another"]').send_keys(str(again))
        hands.see_text("of the old edges lie on new ones")
        shoot("replace")
        hands.press("Cancel")
        hands.open("/design/demo-shirt/art")
        for name, width, ground in (("Mug", "70mm", "Mug"), ("Window", "300mm", "Window")):
            hands.click('//button[contains(@title, "at other sizes")]')
            hands.press("New version…")
            hands.type_into("Its name", name)
            hands.type_into("How wide", width)
            hands.choose("Ground", ground)
            hands.see('//*[@role="status"][not(contains(., "Looking what"))]')
            hands.press("Make this version")
            hands.see(f'//button[contains(@title, "at other sizes")][normalize-space()="{name}"]')
        hands.click('//button[contains(@title, "at other sizes")]')
        hands.see('//ul[@aria-label="What it decides for itself"]')
        shoot("versions")
        hands.open("/design/example-one-outline")
        hands.go_to("Art")
        hands.click('//details[summary[contains(., "Nodes")]]/summary')
        hands.see('//fieldset[legend[contains(., "Nodes by how far")]]')
        browser.execute_script(
            "arguments[0].scrollIntoView({block: 'start'})", hands.see('//details[summary[contains(., "Nodes")]]')
        )
        shoot("nodes")
        hands.open("/design/demo-sticker")
        hands.go_to("Stack")
        hands.click('//label[contains(normalize-space(), "Read through glass")]')
        hands.go_to("Sheets")
        hands.see_text("the top film goes onto the glass first")
        hands.see_text("cut off")
        shoot("glass")
        hands.open("/design/example-three-shadows")
        hands.go_to("Stack")
        hands.click('//label[contains(normalize-space(), "Card")][.//input[@type="radio"]]')
        hands.go_to("Cut")
        hands.see_text("pages")
        shoot("card")
        hands.open("/design/example-helper-mug")
        hands.go_to("Sheets")
        hands.press("Mark as cut")
        hands.see_text("Cut on")
        hands.type_into("Copies", "3")
        hands.see('//button[normalize-space()="Cut 2 more"]')
        hands.click('//summary[contains(normalize-space(), "What was cut")]')
        shoot("again")
        served.stop()


if __name__ == "__main__":
    main()
