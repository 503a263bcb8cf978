"""The real server with the built pages, on a fresh database for each test, and Debian's Chromium."""

import os
import shutil
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from playwright.sync_api import Page, expect
from tests.remembered import alone
from tests.served import Launcher, Server

from fern_match.api.app import create_app
from fern_match.api.settings import Settings

ROOT = Path(__file__).parents[2]
AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"
CHROMIUM_FLAGS = [
    "--headless",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    """Debian's Chromium without its window, never a downloaded one."""
    return {"executable_path": "/usr/bin/chromium-headless-shell", "args": CHROMIUM_FLAGS}


@pytest.fixture(scope="session")
def browser_context_args() -> dict[str, Any]:
    """The reference size."""
    return {"viewport": {"width": 1280, "height": 800}, "reduced_motion": "reduce"}


@pytest.fixture(scope="session")
def launcher() -> Iterator[Launcher]:
    """Starts servers in a moment."""
    made = Launcher()
    yield made
    made.close()


@pytest.fixture
def server(launcher: Launcher, tmp_path: Path) -> Iterator[Server]:
    """An empty application."""
    made = Server(launcher, tmp_path / "browser.db")
    made.start()
    yield made
    made.stop()


@pytest.fixture(scope="session")
def demo_database() -> Path:
    """What the application makes of an empty database, asked for its demo."""
    with alone("demo.db") as path:
        if not path.exists():
            with TestClient(create_app(Settings(database=path, web=path.parent, demo=True))):
                pass
        return path


@pytest.fixture
def demo_server(launcher: Launcher, tmp_path: Path, demo_database: Path) -> Iterator[Server]:
    """The application with its demo match."""
    shutil.copy(demo_database, tmp_path / "browser.db")
    made = Server(launcher, tmp_path / "browser.db")
    made.start()
    yield made
    made.stop()


def _slow(page: Page) -> None:
    """Every answer comes late and every script takes several times as long: what is right on a quick machine only, fails."""
    session = page.context.new_cdp_session(page)
    late = {"offline": False, "latency": 400, "downloadThroughput": -1, "uploadThroughput": -1}
    session.send("Network.enable")
    session.send("Network.emulateNetworkConditions", late)
    session.send("Emulation.setCPUThrottlingRate", {"rate": 3})


@pytest.fixture
def clean_page(page: Page) -> Iterator[Page]:
    """A page on which no script fails and nothing is kept out by the content policy unnoticed."""
    failures: list[str] = []
    if os.environ.get("FERN_MATCH_SLOW"):
        _slow(page)
        page.context.on("page", _slow)
    page.on("pageerror", lambda error: failures.append(str(error)))
    page.on("console", lambda said: failures.append(said.text) if "Content Security Policy" in said.text else None)
    page.set_default_timeout(20_000)
    expect.set_options(timeout=20_000)  # a busy machine takes its time: slow is not wrong
    yield page
    assert failures == []


@pytest.fixture
def accessible() -> Callable[[Page], None]:
    """Asserts that axe finds nothing against WCAG 2.2 AA on a page."""
    source = AXE.read_text()

    def check(page: Page) -> None:
        page.evaluate(source)
        tags = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]
        found = page.evaluate(
            "tags => axe.run(document, { runOnly: tags, resultTypes: ['violations'] }).then((found) => found.violations)", tags
        )
        problems = [f"{one['id']}: {one['help']} at {one['nodes'][0]['target']}" for one in found]
        assert problems == []

    return check
