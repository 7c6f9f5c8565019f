"""A served app on a folder of its own, and one browser for all browser tests."""

from __future__ import annotations

import asyncio
import shutil
import socket
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
import uvicorn
from selenium import webdriver

from gladstack.api.app import create_app
from gladstack.api.routes.pages import built_front_end
from gladstack.demo.designs import add_demo_designs
from gladstack.demo.looks import add_demo_looks
from gladstack.demo.shelf import add_demo_shelf
from gladstack.work.crew import Crew
from tests.browser.chrome import chromium
from tests.browser.counted import Counted


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    for item in items:
        if "browser" in item.path.parts:
            item.add_marker(pytest.mark.browser)


class Served:
    """The app at `address`, on the designs in `data`; can be stopped and started again."""

    def __init__(self, data: Path, crew: Crew | None = None, *, demo: bool = True) -> None:
        self.data = data
        self.demo = demo
        self.delay_s = 0.0
        self._crew = crew
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port = free.getsockname()[1]
        self.address = f"http://127.0.0.1:{self.port}"
        self.start()

    def start(self) -> None:
        app = create_app(self.data, front_end=built_front_end(), crew=self._crew)
        if self.demo:
            add_demo_designs(app.state.desks.builder.store)
            add_demo_looks(app.state.desks.builder.store, app.state.desks.lists.listing)
            add_demo_shelf(app.state.desks.jobs.shelf, app.state.desks.jobs.jobs, app.state.desks.builder.store)

        async def slowed(scope: Any, receive: Any, send: Any) -> None:
            """The app, as a busy machine would answer."""
            if scope.get("method") == "POST":
                await asyncio.sleep(self.delay_s)
            await app(scope, receive, send)

        self._server = uvicorn.Server(uvicorn.Config(slowed, "127.0.0.1", self.port, log_level="error", ws="none"))
        self._thread = threading.Thread(target=self._server.run, daemon=True)
        self._thread.start()
        while not self._server.started:
            time.sleep(0.02)

    def stop(self) -> None:
        self._server.should_exit = True
        self._thread.join(timeout=10)


@pytest.fixture(scope="session")
def browser() -> Iterator[webdriver.Chrome]:
    if not (shutil.which("chromium") and Path("/usr/bin/chromedriver").exists()):
        pytest.fail("Chromium is missing: run make test, which installs it")
    with chromium() as driver:
        yield driver


@pytest.fixture(scope="session")
def served(tmp_path_factory: pytest.TempPathFactory, crew: Crew) -> Iterator[Served]:
    app = Served(tmp_path_factory.mktemp("designs"), crew)
    yield app
    app.stop()


@pytest.fixture
def maker(browser: webdriver.Chrome, served: Served) -> Counted:
    maker = Counted(browser, served.address)
    maker.open("/")
    maker.browser.execute_script("localStorage.clear()")
    maker.browser.get_log("browser")
    maker.actions = 0
    return maker


@pytest.fixture
def within(maker: Counted, request: pytest.FixtureRequest) -> Callable[[int], None]:
    """Says that a job has to be done within so many actions; how many it took is printed."""

    def check(most: int) -> None:
        name = request.node.name.removeprefix("test_").replace("_", " ")
        print(f"\n{name}: {maker.actions} actions (at most {most})")
        assert maker.actions <= most
        # A try that a newer one has overtaken is refused, as it should be.
        assert [said for said in maker.complaints() if "/tries" not in said] == []

    return check
