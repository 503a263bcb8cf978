"""A whole cook of Night Crossing in practice: planned, changed, run at the stove by keyboard and touch, its log complete."""

import json
import re
import urllib.request
from collections.abc import Callable
from typing import Any

from playwright.sync_api import Page, expect
from tests.served import LONG_MS, Server


def open_match(page: Page, url: str, match: str) -> str:
    """Opens a demo match; the address of its pages."""
    page.goto(url)
    page.get_by_role("link", name=match).click()
    page.wait_for_url("**/study")
    return page.url.removesuffix("study")


def answer(base: str, path: str) -> Any:
    """What the API says of the match."""
    host, _, match = base.rstrip("/").rpartition("/m/")
    with urllib.request.urlopen(f"{host}/api/matches/{match}/{path}") as found:
        return json.load(found)


def test_the_plan_is_read_and_changed(clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]) -> None:
    """By the clock, with its lanes; a way, a time and a step are changed, and what was not read stays and says so."""
    page = clean_page
    base = open_match(page, demo_server.url, "Lime Quay")
    page.goto(base + "cook")
    expect(page.get_by_text(re.compile(r"09:00 to .* hands on"))).to_be_visible(timeout=LONG_MS)
    expect(page.get_by_role("group", name=re.compile("^Schedule"))).to_be_visible()
    steps = page.get_by_role("region", name="Steps")
    boil = steps.get_by_role("button", name=re.compile("Boil the syrup to 114.5 °C"))
    boil.focus()
    page.keyboard.press("Enter")
    expect(steps.get_by_text("White granulated sugar")).to_be_visible()
    expect(steps.get_by_text("It sticks and burns in seconds").first).to_be_visible()
    accessible(page)
    steps.locator("summary:visible").first.click()
    steps.get_by_label("Hands on").locator("visible=true").fill("an age")
    steps.get_by_label("Hands on").locator("visible=true").press("Enter")
    expect(steps.get_by_text("was not read as a time").first).to_be_visible()
    page.get_by_role("complementary", name="Ways").get_by_label("What is done with the coat: White coat").select_option("cold")
    expect(steps.get_by_role("button", name=re.compile("Let it cool to dipping heat"))).to_be_visible()
    page.get_by_label("Begins at").fill("6 pm")
    page.get_by_label("Begins at").press("Enter")
    expect(page.get_by_text(re.compile(r"18:00 to .* hands on"))).to_be_visible(timeout=LONG_MS)
    page.reload()
    expect(page.get_by_role("textbox", name="Begins at")).to_have_value("6 pm")


def test_a_cook_is_planned_from_a_batch(clean_page: Page, demo_server: Server) -> None:
    """Of the other batch; taken out again and brought back."""
    page = clean_page
    base = open_match(page, demo_server.url, "Night Crossing")
    page.goto(base + "cook")
    page.get_by_label("Batch to cook").select_option(label="Faithful, 24 pieces")
    page.get_by_role("button", name="Plan another cook").click()
    expect(page.get_by_role("button", name="4. Faithful, 24 pieces")).to_have_attribute("aria-current", "true")
    page.get_by_role("button", name="Take this cook out").click()
    expect(page.get_by_role("button", name="4. Faithful, 24 pieces")).not_to_be_visible()
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="4. Faithful, 24 pieces")).to_be_visible()


def test_a_whole_cook_in_practice(clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]) -> None:
    """Step after step to the end; readings, a cue, a note and another amount on the way; timers outlive a reload."""
    page = clean_page
    base = open_match(page, demo_server.url, "Night Crossing")
    page.goto(base + "cook")
    page.get_by_role("link", name="To the stove").click()
    page.set_viewport_size({"width": 768, "height": 1024})
    page.get_by_role("button", name="Begin the cook").click()
    page.get_by_label("For real or practice").select_option("60")
    expect(page.get_by_role("heading", level=2, name="Stir the batter")).to_be_visible()
    accessible(page)
    small = page.evaluate(
        "[...document.querySelectorAll('main button, aside button, header button, header select')]"
        ".filter((one) => one.getBoundingClientRect().height < 44).map((one) => one.textContent)"
    )
    assert small == []
    page.get_by_role("button", name="Begin this step").click()
    page.get_by_role("button", name=re.compile("^Start 10 min")).click()
    expect(page.get_by_role("timer").first).to_be_visible()
    page.reload()
    expect(page.get_by_role("timer").first).to_be_visible()
    page.get_by_label("Thermometer").fill("hot")
    page.get_by_label("Thermometer").press("Enter")
    expect(page.get_by_role("alert").get_by_text("was not read as a temperature")).to_be_visible()
    page.get_by_label("Thermometer").fill("68 F")
    page.get_by_label("Thermometer").press("Enter")
    expect(page.get_by_text("20 °C at “Stir the batter”")).to_be_visible()
    page.get_by_label("Note").fill("lumpy at first")
    page.get_by_label("Note").press("Enter")
    expect(page.get_by_text("lumpy at first")).to_be_visible()
    page.get_by_role("button", name="Another amount went in").click()
    page.get_by_label("Water, went in").fill("140")
    page.get_by_label("Water, went in").press("Enter")
    expect(page.get_by_text("a piece weighs")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Stop the timer")).first.click()
    total = len(answer(base, "cooks/first-cook/run")["doing"])
    page.get_by_role("button", name="Done", exact=True).click()
    for done in range(1, total):
        expect(page.get_by_text(f"{done} of {total} done")).to_be_visible()
        page.get_by_role("button", name=re.compile("^(Begin this step|Done)$")).first.focus()
        if page.get_by_role("button", name="Begin this step").is_visible():
            page.keyboard.press("Enter")
        finished = page.get_by_role("button", name="Done", exact=True)
        expect(finished).to_be_visible()
        finished.focus()
        page.keyboard.press("Enter")
    expect(page.get_by_text("All steps are done")).to_be_visible()
    log = answer(base, "cooks/first-cook/run")["log"]
    assert len({one["step"] for one in log if one["words"].startswith("Done")}) == total


def test_a_boil_in_practice_warns_and_passes_its_end(clean_page: Page, demo_server: Server) -> None:
    """The simulated pan; what saves it is one press away, and is logged."""
    page = clean_page
    base = open_match(page, demo_server.url, "Lime Quay")
    page.goto(base + "stove/first-cook")
    page.get_by_role("button", name="Begin the cook").click()
    page.get_by_role("navigation", name="Steps").get_by_role("button", name=re.compile("Boil the syrup")).click()
    page.get_by_role("button", name="Begin this step").click()
    page.get_by_label("For real or practice").select_option("60")
    page.get_by_role("button", name="Heat on").click()
    device = page.get_by_role("region", name="Thermometer and scale")
    expect(device.get_by_text("off the heat", exact=False).first).to_be_visible(timeout=LONG_MS)
    device.get_by_role("button", name="Log both").click()
    expect(page.get_by_text("at “Boil the syrup to 114.5 °C”").first).to_be_visible()
    device.get_by_role("button", name="Off the heat").click()
    page.get_by_role("button", name="Something is wrong").click()
    page.get_by_role("button", name="Log it: Overshot the end temperature").click()
    expect(page.get_by_text("Overshot the end temperature:").first).to_be_visible()
