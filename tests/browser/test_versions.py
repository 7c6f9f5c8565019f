"""One motif in several sizes, cut together."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.by import By

from tests.browser.maker import Maker

SWITCH = '//button[contains(@title, "at other sizes")]'


def shown(maker: Maker, name: str) -> None:
    maker.see(f'{SWITCH}[normalize-space()="{name}"]')


def make(maker: Maker, name: str, width: str, ground: str) -> None:
    maker.click(SWITCH)
    maker.press("New version…")
    maker.type_into("Its name", name)
    maker.type_into("How wide", width)
    maker.select("Ground", ground)
    # What gets worse at that size is said before it is made.
    maker.see('//*[@role="status"][contains(., "At that size") or contains(., "Nothing more will fail")]')
    maker.press("Make this version")
    shown(maker, name)


def go_to(maker: Maker, name: str) -> None:
    maker.click(SWITCH)
    maker.click(f'//ul[@aria-label="Versions of this motif"]//button[span[1][normalize-space()="{name}"]]')
    shown(maker, name)


def test_one_motif_is_made_in_three_sizes_and_cut_in_one_job(maker: Maker) -> None:
    maker.begin("Hilltop")
    motif = maker.design_id()
    wide = maker.design()["built"]["width_mm"]
    make(maker, "Window", "260mm", "Window")
    window = maker.design()
    assert abs(window["built"]["width_mm"] - 260) < 0.1
    assert window["recipe"]["ground"]["kind"] == "window"
    make(maker, "Mug", "50mm", "Mug")

    # A joint of the mug is its own; the words are the motif's, and change everywhere.
    maker.go_to("Stack")
    maker.joint("Joint of all films", "Butt")
    maker.built_when(lambda d: d["recipe"]["joint"]["kind"] == "butt", "the mug has no joint of its own")
    maker.go_to("Art")
    maker.write("Starlit")
    go_to(maker, "Window")
    seen = maker.built_when(lambda d: d["recipe"]["arts"][0]["text"] == "Starlit", "the window says something else")
    assert seen["recipe"]["joint"]["kind"] == "lap"
    go_to(maker, "Motif")
    assert maker.design_id() == motif
    assert maker.design()["recipe"]["arts"][0]["text"] == "Starlit"
    assert maker.design()["built"]["width_mm"] == pytest.approx(wide, rel=0.02)

    # What a version decides can be as the motif again, in one step that can be undone.
    go_to(maker, "Mug")
    maker.click(SWITCH)
    maker.click('//button[@aria-label="As the motif: joint"]')
    maker.built_when(lambda d: d["recipe"]["joint"]["kind"] == "lap", "the joint is not the motif's again")

    # All three in one job.
    maker.open("/")
    maker.press("Cut designs together")
    name = maker.see('//label[.//input[@type="checkbox"]][contains(., ", Mug")]').text.removesuffix(", Mug")
    for one in (name, f"{name}, Window", f"{name}, Mug"):
        maker.click(f'//label[.//input[@type="checkbox"]][normalize-space()="{one}"]')
    maker.press("Lay them on film")
    maker.see('//section[@aria-label="Designs"]')
    rows = maker.browser.find_elements(By.XPATH, '//section[@aria-label="Designs"]/ul/li')
    assert [row.text.split("\n")[0] for row in rows] == [name, f"{name}, Window", f"{name}, Mug"]


def test_undoing_its_making_leads_back_to_the_motif(maker: Maker) -> None:
    maker.begin("Dome")
    motif = maker.design_id()
    make(maker, "Mug", "50mm", "Mug")
    maker.click('//button[starts-with(normalize-space(), "Undo")]')
    shown(maker, "Versions")
    assert maker.design_id() == motif
    maker.click('//button[starts-with(normalize-space(), "Redo")]')
    shown(maker, "Motif")
    go_to(maker, "Mug")
    maker.click(SWITCH)
    maker.press("Remove")
    shown(maker, "Versions")
    assert maker.design()["recipe"]["versions"] == []
