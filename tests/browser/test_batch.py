"""In this kitchen: a pan larger than meant, cups by a scoop, a mould, no scale; by keyboard, and readable to everyone."""

import re
from collections.abc import Callable

from playwright.sync_api import Page, expect
from tests.served import Server

_LONG_MS = 60_000


def open_batch(page: Page, url: str, match: str, query: str = "") -> str:
    """Opens the batch of a demo match; the address of the match's pages."""
    page.goto(url)
    page.get_by_role("link", name=match).click()
    page.wait_for_url("**/study")
    base = page.url.removesuffix("study")
    page.goto(f"{base}batch{query}")
    expect(page.get_by_text("How much goes by")).to_be_visible(timeout=_LONG_MS)
    return base


def test_a_pan_larger_than_meant(clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]) -> None:
    """The frame's cuts are drawn; the same amounts in a larger pan stand lower, and it is said what that does."""
    page = clean_page
    open_batch(page, demo_server.url, "Night Crossing", "?batch=framed")
    expect(page.get_by_role("img", name=re.compile("^10 pieces of 9"))).to_be_visible()
    how = page.get_by_role("region", name="How much")
    expect(how.get_by_text("as the version’s pieces do")).to_be_visible()
    accessible(page)
    page.get_by_role("combobox", name="Made in").select_option("Pan 23 × 33 cm")
    expect(page.get_by_role("img", name=re.compile("^18 pieces of 9"))).to_be_visible()
    page.get_by_role("combobox", name="What stays").select_option("amounts")
    page.get_by_role("textbox", name="Pieces wanted").fill("10")
    page.get_by_role("textbox", name="Pieces wanted").press("Enter")
    expect(how.get_by_text("It cools and bakes sooner")).to_be_visible()
    expect(how.get_by_text("lighter")).to_be_visible()
    page.reload()
    expect(page.get_by_role("textbox", name="Pieces wanted")).to_have_value("10")


def test_cups_by_a_scoop(clean_page: Page, demo_server: Server) -> None:
    """A numbered scoop says how many grams it gives, and the batch follows; a scoop is added from the usual ones first."""
    page = clean_page
    base = open_batch(page, demo_server.url, "Night Crossing")
    page.goto(base + "kitchen")
    page.get_by_role("combobox", name="Kind").select_option("scoop")
    page.get_by_role("combobox", name="Add gear").select_option(label="Scoop #40: 23.7 mL")
    expect(page.get_by_label("Name of Scoop #40")).to_be_visible()
    page.goto(base + "batch")
    page.get_by_role("combobox", name="How much goes by").select_option("scoop")
    expect(page.get_by_text("Say which scoop")).to_be_visible()
    page.get_by_role("combobox", name="Made in").select_option("Scoop #40")
    page.get_by_role("combobox", name="Layer").select_option("Sesame cream")
    expect(page.get_by_role("region", name="How much").get_by_text("Scoop #40, level, holds 23.7 mL")).to_be_visible()
    expect(page.get_by_text("24 pieces of")).to_be_visible()


def test_a_mould_and_packs(clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]) -> None:
    """Shell, filling and cap of one cavity; a shell that fills it is refused with a sentence; packs and their cost."""
    page = clean_page
    open_batch(page, demo_server.url, "Lime Quay")
    expect(page.get_by_role("img", name="A cavity of 20.2 mL, shell of 1.5 mm")).to_be_visible()
    accessible(page)
    page.get_by_role("textbox", name="Shell, thick").fill("16")
    page.get_by_role("textbox", name="Shell, thick").press("Enter")
    expect(page.get_by_text("fills the cavity of 20.2 mL")).to_be_visible()
    page.get_by_role("textbox", name="Shell, thick").fill("2")
    page.get_by_role("textbox", name="Shell, thick").press("Enter")
    page.get_by_role("button", name="In packs, with cost").click()
    page.get_by_role("textbox", name="White chocolate, pack").fill("100 g")
    page.get_by_role("textbox", name="White chocolate, pack").press("Enter")
    page.get_by_role("textbox", name="White chocolate, price of a pack").fill("2.50")
    page.get_by_role("textbox", name="White chocolate, price of a pack").press("Enter")
    expect(page.get_by_text("3 packs, 7.50")).to_be_visible()


def test_a_kitchen_without_a_scale(clean_page: Page, demo_server: Server) -> None:
    """The same batch in spoons, cups and pieces."""
    page = clean_page
    base = open_batch(page, demo_server.url, "Night Crossing")
    page.goto(base + "kitchen")
    page.get_by_label("no scale").check()
    page.goto(base + "batch")
    expect(page.get_by_role("row", name="Tahini").get_by_role("cell").nth(1)).to_contain_text("cup")
    expect(page.get_by_role("row", name="Tahini").get_by_role("cell").nth(1)).to_have_css("font-weight", "600")


def test_another_batch_is_begun_and_taken_out(clean_page: Page, demo_server: Server) -> None:
    """Beside the first, like it."""
    page = clean_page
    open_batch(page, demo_server.url, "Lime Quay")
    page.get_by_role("button", name="Another batch like this").click()
    batches = page.get_by_role("navigation", name="Batches").get_by_role("button")
    expect(batches).to_have_count(2)
    page.get_by_role("button", name="Take this batch out").click()
    expect(batches).to_have_count(1)
