"""Refreshes the pictures of the main views from the demo data: `make shots`."""

import os
import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path

from playwright.sync_api import sync_playwright

HERE = Path(__file__).parent
ROOT = HERE.parents[1]
URL = "http://127.0.0.1:8791"
FLAGS = ["--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"]
VIEWS = {
    "study-label": "study",
    "study-ingredients": "study?part=statement",
    "study-layers": "study?part=layers",
    "study-weighings": "study?part=weighings",
    "estimate": "estimate",
    "estimate-label": "estimate?side=label",
    "formulate": "formulate",
    "formulate-balance": "formulate?side=balance",
    "adapt": "adapt?rule=vegan",
    "batch": "batch?batch=framed",
    "cook": "cook",
    "trials": "trials",
    "trials-wrong": "trials?part=wrong",
    "kitchen": "kitchen",
    "pantry": "pantry",
}


def main() -> None:
    """Starts the demo on a database of its own and takes one picture of each view."""
    with tempfile.TemporaryDirectory() as folder:
        environment = {**os.environ, "FERN_MATCH_DATABASE": f"{folder}/shots.db", "FERN_MATCH_WEB": str(ROOT / "web" / "dist")}
        command = [sys.executable, "-m", "fern_match.cli", "serve", "--demo", "--port", URL.rpartition(":")[2]]
        server = subprocess.Popen(command, env=environment)
        try:
            wait()
            take()
        finally:
            server.terminate()
            server.wait()


def wait() -> None:
    """Until the server answers."""
    for _ in range(200):
        try:
            urllib.request.urlopen(f"{URL}/api/health", timeout=2).close()
            return
        except OSError:
            time.sleep(0.1)
    raise TimeoutError(URL)


def take() -> None:
    """The list, then every view of the demo match."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(URL)
        page.get_by_role("link", name="Night Crossing").wait_for()
        page.screenshot(path=HERE / "matches.png")
        page.get_by_role("link", name="Night Crossing").click()
        page.wait_for_url("**/study")
        base = page.url.removesuffix("study")
        for name, view in VIEWS.items():
            page.goto(base + view)
            page.get_by_role("img", name="Cut face").first.wait_for()
            page.wait_for_load_state("networkidle")
            page.wait_for_timeout(500)  # bars glide to their place
            page.screenshot(path=HERE / f"{name}.png")
        page.goto(base + "batch")
        page.get_by_role("region", name="Lots from this bowl").scroll_into_view_if_needed()
        page.mouse.wheel(0, 500)
        page.wait_for_timeout(500)
        page.screenshot(path=HERE / "batch-lots.png")
        page.goto(URL)
        page.get_by_role("link", name="Lime Quay").click()
        page.wait_for_url("**/study")
        page.goto(page.url.removesuffix("study") + "batch")
        page.get_by_role("img", name="A cavity").wait_for()
        page.wait_for_load_state("networkidle")
        page.screenshot(path=HERE / "batch-mould.png")
        page.goto(page.url.removesuffix("batch") + "stove/first-cook")
        page.get_by_role("button", name="Begin the cook").click()
        page.get_by_role("navigation", name="Steps").get_by_role("button", name="Boil the syrup").click()
        page.get_by_role("button", name="Begin this step").click()
        page.get_by_label("For real or practice").select_option("10")
        page.get_by_role("button", name="Heat on").click()
        page.wait_for_timeout(6500)  # by then it boils
        page.screenshot(path=HERE / "stove.png")
        browser.close()


if __name__ == "__main__":
    main()
