"""In this kitchen: a pan larger than meant, cups by a scoop, a mould, no scale; by keyboard, and readable to everyone."""

import re
from collections.abc import Callable

from playwright.sync_api import Page, expect
from tests.served import LONG_MS, Server


def open_batch(page: Page, url: str, match: str, query: str = "") -> str:
    """Opens the batch of a demo match; the address of the match's pages."""
    page.goto(url)
    page.get_by_role("link", name=match).click()
    page.wait_for_url("**/study")
    base = page.url.removesuffix("study")
    page.goto(f"{base}batch{query}")
    expect(page.get_by_text("How much goes by")).to_be_visible(timeout=LONG_MS)
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
    page.get_by_role("combobox", name="Kind", exact=True).select_option("scoop")
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


def test_lots_of_one_bowl(clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]) -> None:
    """The demo's lot tells its traces; another one is made by keyboard, told apart, refused where it is too many, taken back."""
    page = clean_page
    open_batch(page, demo_server.url, "Night Crossing")
    lots = page.get_by_role("region", name="Lots from this bowl")
    expect(lots.get_by_text("pieces that hold almond: it may hold traces")).to_be_visible()
    expect(page.get_by_role("region", name="Card for whoever gets a piece, Without almond")).to_contain_text("may hold traces")
    lots.get_by_role("button", name="Another lot").focus()
    page.keyboard.press("Enter")
    name, pieces = (lots.get_by_role("textbox", name=f"{what} of lot 2") for what in ("Name", "Pieces"))
    name.fill("No wafer")
    name.press("Enter")
    pieces.fill("20")
    pieces.press("Enter")
    expect(pieces).to_have_value("20")
    lots.get_by_role("combobox", name="No wafer, what is otherwise").select_option("Coffee wafer")
    lots.get_by_role("button", name="Leave it out").press("Enter")
    expect(lots.get_by_text("The lots come to 28 pieces, and 24 are made: the lots wait.")).to_be_visible()
    pieces.fill("6")
    pieces.press("Enter")
    expect(lots.get_by_text(re.compile("Without coffee wafer: .* g a piece in place of"))).to_be_visible()
    expect(lots.get_by_text(re.compile("6 of “No wafer”"))).to_be_visible()
    expect(page.get_by_role("region", name=re.compile("^Card for whoever"))).to_have_count(3)
    accessible(page)
    lots.get_by_role("button", name="Remove No wafer").click()
    expect(page.get_by_role("region", name=re.compile("^Card for whoever"))).to_have_count(2)
    page.keyboard.press("Control+z")
    expect(page.get_by_role("region", name=re.compile("^Card for whoever"))).to_have_count(3)


def test_wrapping_is_kept_in_the_kitchen(clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]) -> None:
    """Counted and costed in the batch; what nobody said is meant for food is not."""
    page = clean_page
    base = open_batch(page, demo_server.url, "Night Crossing")
    wrapping = page.get_by_role("region", name="Wrapping")
    expect(wrapping.get_by_text("each lot apart")).to_be_visible()
    expect(wrapping.get_by_text(re.compile(r"Wrapping comes to \d"))).to_be_visible()
    page.goto(base + "kitchen")
    page.get_by_role("combobox", name="Wrapping to add").select_option("bag")
    page.get_by_role("button", name="Add it").click()
    held = page.get_by_role("textbox", name="Bags, pieces in one")
    held.fill("4")
    held.press("Enter")
    accessible(page)
    page.goto(base + "batch")
    wrapping.get_by_role("checkbox", name="Bags").check()
    expect(wrapping.get_by_text("Nobody said that it is meant for food")).to_be_visible()
    page.goto(base + "kitchen")
    page.get_by_role("checkbox", name="Bags is meant for food").check()
    expect(page.get_by_role("button", name="Undo, kitchen: Bags, meant for food: yes")).to_be_visible()
    page.goto(base + "batch")
    expect(wrapping.get_by_text(re.compile("^6 for 24 pieces, each lot apart"))).to_be_visible()
