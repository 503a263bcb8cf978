"""Adapt in the real interface: a rule picked by keyboard, proposals beside the version, one kept, a limit moved, one unmet."""

import re

import pytest
from playwright.sync_api import Page, expect
from tests.served import Server

pytestmark = pytest.mark.browser
_LONG_MS = 60_000  # proposals are worked out; a slow machine takes its time


def open_adapt(page: Page, url: str) -> None:
    """Night Crossing at Adapt."""
    page.goto(url)
    page.get_by_role("link", name="Night Crossing").click()
    page.get_by_role("navigation", name="Steps").get_by_role("link", name="Adapt").click()
    expect(page.get_by_role("checkbox", name="Vegan")).to_be_visible()


def test_vegan_by_keyboard_and_kept(clean_page: Page, demo_server: Server) -> None:
    """What breaks it at once, whole proposals, one kept as a version that is vegan; one step takes it back."""
    page = clean_page
    open_adapt(page, demo_server.url)
    page.get_by_role("checkbox", name="Vegan").focus()
    page.keyboard.press("Space")
    broken = page.get_by_role("region", name="What breaks it now")
    expect(broken).to_contain_text("Skimmed milk powder is of animal origin")
    expect(broken).to_contain_text("Ask the maker")
    oat = page.get_by_role("button", name="Keep Oat as a version")
    expect(oat).to_be_visible(timeout=_LONG_MS)
    proposals = page.get_by_role("region", name="Proposals")
    expect(proposals).to_contain_text("for white granulated sugar")
    expect(proposals).to_contain_text("not an allergen statement")
    oat.press("Enter")
    expect(page).to_have_url(re.compile("formulate.*vegan"), timeout=_LONG_MS)
    expect(page.get_by_role("button", name="Vegan, oat", exact=True)).to_have_attribute("aria-current", "true")
    page.get_by_role("button", name="Undo: ").click()
    expect(page.get_by_role("button", name="Vegan, oat", exact=True)).to_have_count(0)


def test_what_is_not_wanted_is_left_out(clean_page: Page, demo_server: Server) -> None:
    """A line of a proposal is refused; it is worked out again without it, and can be let in again."""
    page = clean_page
    open_adapt(page, demo_server.url)
    page.get_by_role("checkbox", name="Vegan").click()
    proposals = page.get_by_role("region", name="Proposals")
    expect(proposals).to_contain_text("Beet sugar", timeout=_LONG_MS)
    page.get_by_role("button", name="Without Beet sugar").first.click()
    drop = page.get_by_role("button", name="Drop “Not beet sugar”")
    expect(drop).to_be_visible()
    expect(proposals).to_have_attribute("aria-busy", "false", timeout=_LONG_MS)
    expect(proposals).not_to_contain_text("Beet sugar")
    page.reload()
    expect(drop).to_be_visible(timeout=_LONG_MS)
    drop.click()
    expect(proposals).to_contain_text("Beet sugar", timeout=_LONG_MS)


def test_a_limit_is_moved_and_one_cannot_be_met(clean_page: Page, demo_server: Server) -> None:
    """Typed too low, the nearest is named and one press asks for it; what is no figure is a sentence and loses nothing."""
    page = clean_page
    open_adapt(page, demo_server.url)
    page.get_by_role("checkbox", name="Keto").click()
    limit = page.get_by_role("textbox", name="Limit of Keto in grams")
    expect(limit).to_have_value("5")
    limit.fill("0.2")
    limit.press("Enter")
    expect(page.get_by_role("region", name="What breaks it now")).to_contain_text("at most 0.2 g a piece")
    nearest = page.get_by_role("button", name=re.compile("Ask for keto at"))
    expect(nearest).to_be_visible(timeout=_LONG_MS)
    nearest.click()
    expect(page.get_by_role("button", name=re.compile("Keep .* as a version")).first).to_be_visible(timeout=_LONG_MS)
    limit.fill("lots")
    limit.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("the limit is a figure in grams")
    expect(page.get_by_role("checkbox", name="Keto")).to_be_checked()
