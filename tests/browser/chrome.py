"""A headless Chromium for tests and screenshots: private profile, no look-ups, fixed page size."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from selenium import webdriver
from selenium.webdriver.chrome.options import Options
from selenium.webdriver.chrome.service import Service

_FLAGS = (
    "--headless=new", "--no-sandbox", "--disable-dev-shm-usage", "--host-resolver-rules=MAP * ~NOTFOUND , EXCLUDE 127.0.0.1",
    "--force-device-scale-factor=1", "--hide-scrollbars", "--disable-background-networking", "--disable-component-update",
    "--disable-sync", "--no-first-run",
)  # fmt: skip


@contextmanager
def chromium(width: int = 1280, height: int = 800, letters_px: int = 16) -> Iterator[webdriver.Chrome]:
    """A browser whose page is `width` x `height` px, with letters of a size; downloads go to its `.downloads` folder."""
    with tempfile.TemporaryDirectory(prefix="gladstack-browser-") as folder:
        downloads = Path(folder) / "downloads"
        downloads.mkdir()
        options = Options()
        options.binary_location = "/usr/bin/chromium"
        for flag in (*_FLAGS, f"--user-data-dir={folder}/profile"):
            options.add_argument(flag)
        options.add_experimental_option(
            "prefs",
            {
                "download.default_directory": str(downloads),
                "download.prompt_for_download": False,
                "webkit.webprefs.default_font_size": letters_px,
            },
        )
        driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
        driver.downloads = downloads  # type: ignore[attr-defined]
        try:
            driver.execute_cdp_cmd(
                "Emulation.setDeviceMetricsOverride",
                {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False},
            )
            yield driver
        finally:
            driver.quit()
