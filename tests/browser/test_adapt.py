"""Adapt in the real interface: a rule picked by keyboard, proposals beside the version, one kept, a limit moved, one unmet."""

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect
from tests.served import LONG_MS, Server

pytestmark = pytest.mark.browser


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
    straight = page.get_by_role("button", name="Keep as a version: Straight swap")
    expect(straight).to_be_visible(timeout=LONG_MS)
    proposals = page.get_by_role("region", name="Proposals")
    expect(proposals).to_contain_text("for skimmed milk powder")
    expect(proposals).to_contain_text("not an allergen statement")
    straight.press("Enter")
    expect(page).to_have_url(re.compile("formulate.*vegan"), timeout=LONG_MS)
    expect(page.get_by_role("button", name="Vegan, straight swap 2", exact=True)).to_have_attribute("aria-current", "true")
    page.get_by_role("button", name="Undo: ").click()
    expect(page.get_by_role("button", name="Vegan, straight swap 2", exact=True)).to_have_count(0)


def test_what_is_not_wanted_is_left_out(clean_page: Page, demo_server: Server) -> None:
    """A line of a proposal is refused; it is worked out again without it, and can be let in again."""
    page = clean_page
    open_adapt(page, demo_server.url)
    page.get_by_role("checkbox", name="Vegan").click()
    proposals = page.get_by_role("region", name="Proposals")
    expect(proposals).to_contain_text("Oat flour", timeout=LONG_MS)
    page.get_by_role("button", name="Without Oat flour").first.click()
    drop = page.get_by_role("button", name=re.compile("Drop “Not oat flour"))
    expect(drop).to_be_visible()
    expect(proposals).to_have_attribute("aria-busy", "false", timeout=LONG_MS)
    expect(proposals).not_to_contain_text("Oat flour")
    page.reload()
    expect(drop).to_be_visible(timeout=LONG_MS)
    drop.click()
    expect(proposals).to_contain_text("Oat flour", timeout=LONG_MS)


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
    nearest = page.get_by_role("button", name=re.compile("Ask for “Keto at"))
    expect(nearest).to_be_visible(timeout=LONG_MS)
    nearest.click()
    expect(page.get_by_role("button", name=re.compile("Keep as a version: ")).first).to_be_visible(timeout=LONG_MS)
    limit.fill("lots")
    limit.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("the limit is a figure, such as keto:4")
    expect(page.get_by_role("checkbox", name="Keto")).to_be_checked()


def test_counting_and_what_a_limit_is_for(clean_page: Page, demo_server: Server) -> None:
    """Net carbohydrate by another way of counting, for a serving; energy at most so much, in its unit; one press drops it."""
    page = clean_page
    open_adapt(page, demo_server.url)
    page.get_by_role("checkbox", name="Keto").click()
    page.get_by_label("How net carbohydrate is counted").select_option("polyols counted")
    rules = page.get_by_role("region", name="Rules")
    expect(rules).to_contain_text("the stricter custom")
    page.get_by_label("What the limit of Keto, polyols counted is for").select_option("in 100 g")
    expect(page.get_by_role("region", name="What breaks it now")).to_contain_text("at most 5 g in 100 g are allowed")
    page.get_by_role("checkbox", name="Keto").click()
    expect(page.get_by_role("checkbox", name="Keto")).not_to_be_checked()
    page.get_by_label("A limit of your own").select_option("energy")
    energy = page.get_by_role("textbox", name=re.compile("Limit of At most .* in kcal"))
    energy.fill("190")
    energy.press("Enter")
    expect(page.get_by_role("region", name="What breaks it now")).to_contain_text("at most 190 kcal a piece are allowed")
    page.get_by_role("button", name="Drop “At most 190 kcal energy”").click()
    expect(energy).to_have_count(0)


def test_more_protein_by_the_nearest_claim(clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]) -> None:
    """High is out of reach and says where the energy is; one press asks for a source of protein: three kinds are proposed."""
    page = clean_page
    open_adapt(page, demo_server.url)
    page.get_by_role("checkbox", name="High protein").click()
    expect(page.get_by_role("region", name="What breaks it now")).to_contain_text("at least 20 % of the energy are asked for")
    nearest = page.get_by_role("button", name="Ask for “Source of protein” instead")
    expect(nearest).to_be_visible(timeout=LONG_MS)
    accessible(page)
    nearest.click()
    for kind in ("Milk", "Soya", "Pea"):
        expect(page.get_by_role("button", name=f"Keep as a version: {kind} protein")).to_be_visible(timeout=LONG_MS)
    expect(page.get_by_role("checkbox", name="High protein")).to_be_checked()
    expect(page.get_by_label("How much protein")).to_have_value("source-of-protein")
    page.get_by_role("checkbox", name="High protein").click()
    page.get_by_label("A limit of your own").select_option("protein, at least")
    least = page.get_by_role("textbox", name=re.compile("Limit of At least .* protein in grams"))
    least.fill("4")
    least.press("Enter")
    expect(page.get_by_role("button", name="Drop “At least 4 g protein”")).to_be_visible()


def test_what_must_stay_and_whether_a_version_still_holds(clean_page: Page, demo_server: Server) -> None:
    """An ingredient is required by keyboard and is then in every proposal; kept, the version says that the rule holds."""
    page = clean_page
    open_adapt(page, demo_server.url)
    page.get_by_role("checkbox", name="Vegan").click()
    wanted = page.get_by_role("button", name=re.compile("Sesame cream must have")).first
    expect(wanted).to_be_visible(timeout=LONG_MS)
    name = (wanted.get_attribute("aria-label") or "").removeprefix("Sesame cream must have ")
    wanted.press("Enter")
    chip = page.get_by_role("button", name=re.compile("Drop “With "))
    expect(chip).to_be_visible()
    proposals = page.get_by_role("region", name="Proposals")
    expect(proposals).to_have_attribute("aria-busy", "false", timeout=LONG_MS)
    columns = page.get_by_role("button", name=re.compile("Keep as a version: ")).count()
    assert page.get_by_role("button", name=f"Sesame cream must have {name}", exact=True).count() >= columns
    page.get_by_role("button", name=re.compile("Keep as a version: ")).first.click()
    expect(page).to_have_url(re.compile("formulate.*vegan"), timeout=LONG_MS)
    expect(page.get_by_text("Adapted under: Vegan. It holds")).to_be_visible()
    page.get_by_role("button", name="Undo: ").click()
    expect(page.get_by_text("Adapted under: Vegan")).to_have_count(0)


def test_a_match_without_a_version_begins_one_here(clean_page: Page, demo_server: Server) -> None:
    """Lime Quay without its version: one press takes the estimate, and rules can be picked; one undo takes it back."""
    page = clean_page
    page.goto(demo_server.url)
    page.get_by_role("link", name="Lime Quay").click()
    page.wait_for_url("**/study")
    address = page.url.replace("/m/", "/api/matches/").removesuffix("/study")
    told = page.request.delete(f"{address}/versions/faithful", data={"revision": 1, "sure": True})
    assert told.ok, told.text()
    page.reload()
    page.get_by_role("navigation", name="Steps").get_by_role("link", name="Adapt").click()
    page.get_by_role("button", name="Take the estimate").click()
    page.get_by_role("checkbox", name="Sugar-free").click(timeout=LONG_MS)
    expect(page.get_by_role("region", name="What breaks it now")).to_contain_text("a serving of 30 g or more are allowed")
    expect(page.get_by_role("button", name="Keep as a version: Maltitol")).to_be_visible(timeout=LONG_MS)
    page.get_by_role("button", name="Undo: ").click()
    expect(page.get_by_role("button", name="Take the estimate")).to_be_visible(timeout=LONG_MS)
