"""Nothing is lost: undo, two windows, a lost server; and the keyboard reaches everything."""

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect
from tests.api.test_batch import FILE
from tests.browser.test_journey import new_match, type_into
from tests.served import Server

pytestmark = pytest.mark.browser


def open_demo(page: Page, server: Server) -> None:
    """The demo match, on its label."""
    page.goto(server.url)
    page.get_by_role("link", name="Night Crossing").click()
    expect(page.get_by_role("heading", name="The pack")).to_be_visible()


def test_undo_and_redo_reach_over_a_reload(clean_page: Page, server: Server) -> None:
    """Each button says what it would do."""
    page = clean_page
    new_match(page, server.url, "Second Thoughts")
    type_into(page, "Maker", "Ferrywright")
    type_into(page, "Net weight of the pack", "42")
    expect(page.get_by_role("button", name="Undo: Net weight: 42")).to_be_enabled()
    page.reload()
    page.get_by_role("button", name="Undo: Net weight: 42").click()
    expect(page.get_by_label("Net weight of the pack", exact=True)).to_have_value("")
    page.get_by_role("button", name="Undo: Maker: Ferrywright").click()
    expect(page.get_by_label("Maker", exact=True)).to_have_value("")
    page.get_by_role("button", name="Redo: Maker: Ferrywright").click()
    expect(page.get_by_label("Maker", exact=True)).to_have_value("Ferrywright")


def test_undo_by_keyboard_outside_fields(clean_page: Page, server: Server) -> None:
    """Ctrl Z on the page, not in a field."""
    page = clean_page
    new_match(page, server.url, "Keys")
    type_into(page, "One serving", "30")
    expect(page.get_by_role("button", name="Undo: Serving: 30")).to_be_enabled()
    page.get_by_role("heading", name="The pack").click()
    page.keyboard.press("Control+z")
    expect(page.get_by_label("One serving", exact=True)).to_have_value("")
    expect(page.get_by_role("button", name="Redo: Serving: 30")).to_be_enabled()
    page.keyboard.press("Control+Shift+z")
    expect(page.get_by_label("One serving", exact=True)).to_have_value("30")


def test_back_to_any_moment(clean_page: Page, server: Server, accessible: Callable[[Page], None]) -> None:
    """From the list of changes, in words."""
    page = clean_page
    new_match(page, server.url, "Moments")
    type_into(page, "Maker", "Ferrywright")
    expect(page.get_by_role("button", name="Undo: Maker: Ferrywright")).to_be_enabled()
    type_into(page, "Maker", "Hollin & Rook")
    expect(page.get_by_role("button", name="Undo: Maker: Hollin & Rook, was Ferrywright")).to_be_enabled()
    page.get_by_role("button", name="Changes to this match").click()
    expect(page.get_by_text("Maker: Hollin & Rook, was Ferrywright")).to_be_visible()
    accessible(page)
    page.get_by_role("button", name="Return to: Made").click()
    expect(page.get_by_label("Maker", exact=True)).to_have_value("")
    expect(page.get_by_role("button", name="Undo: Returned to revision 1 · Maker: taken away, was Hollin & Rook")).to_be_enabled()


def test_different_fields_of_two_windows_merge(clean_page: Page, server: Server) -> None:
    """Without a question."""
    page = clean_page
    new_match(page, server.url, "Two Hands")
    other = page.context.new_page()
    other.goto(page.url)
    type_into(other, "Maker", "Ferrywright")
    expect(other.get_by_role("button", name="Undo: Maker: Ferrywright")).to_be_enabled()
    type_into(page, "Net weight of the pack", "42")
    expect(page.get_by_label("Maker", exact=True)).to_have_value("Ferrywright")
    expect(page.get_by_label("Net weight of the pack", exact=True)).to_have_value("42")
    expect(page.get_by_role("alert")).to_have_count(0)


def test_undo_refuses_when_another_window_wrote(clean_page: Page, server: Server) -> None:
    """It would take back what was not seen."""
    page = clean_page
    new_match(page, server.url, "Careful")
    type_into(page, "Maker", "A")
    expect(page.get_by_role("button", name="Undo: Maker: A")).to_be_enabled()
    other = page.context.new_page()
    other.goto(page.url)
    type_into(other, "Net weight of the pack", "42")
    expect(other.get_by_role("button", name="Undo: Net weight: 42")).to_be_enabled()
    page.get_by_role("button", name="Undo: Maker: A").click()
    expect(page.get_by_text("changed in another window since")).to_be_visible()
    expect(page.get_by_label("Net weight of the pack", exact=True)).to_have_value("42")


def test_unsent_edits_wait_in_the_browser(clean_page: Page, server: Server) -> None:
    """The page is closed while the server is away; opened again, the edit goes out."""
    page = clean_page
    new_match(page, server.url, "Patience")
    address = page.url
    server.stop()
    type_into(page, "Maker", "Hollin & Rook")
    expect(page.get_by_text("does not answer")).to_be_visible()
    page.close(run_before_unload=False)
    server.start()
    again = page.context.new_page()
    again.goto(address)
    expect(again.get_by_label("Maker", exact=True)).to_have_value("Hollin & Rook")
    expect(again.get_by_role("button", name="Undo: Maker: Hollin & Rook")).to_be_enabled()


def test_single_keys_go_to_steps_and_can_be_switched_off(
    clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]
) -> None:
    """g then a digit, ? for the list; nothing happens inside fields."""
    page = clean_page
    open_demo(page, demo_server)
    page.keyboard.press("g")
    page.keyboard.press("2")
    expect(page.get_by_role("heading", name="What is probably in it")).to_be_visible()
    page.keyboard.press("?")
    expect(page.get_by_role("heading", name="Keyboard")).to_be_visible()
    accessible(page)
    page.get_by_label("Single keys outside fields", exact=True).uncheck()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog", name="Keyboard")).to_have_count(0)
    page.keyboard.press("g")
    page.keyboard.press("1")
    expect(page.get_by_role("heading", name="What is probably in it")).to_be_visible()


def test_jump_to_anything_by_name(clean_page: Page, demo_server: Server) -> None:
    """An ingredient, the kitchen, another match: found by a few letters."""
    page = clean_page
    page.request.post(f"{demo_server.url}/api/matches/import", data=FILE)
    open_demo(page, demo_server)
    page.keyboard.press("j")
    page.get_by_label("Jump to, by name", exact=True).fill("kitch")
    page.get_by_role("option", name="Kitchen").click()
    expect(page.get_by_role("heading", name="Your kitchen")).to_be_visible()
    page.keyboard.press("j")
    page.get_by_label("Jump to, by name", exact=True).fill("harbour")
    page.get_by_role("option", name="Match: Harbour Light").click()
    expect(page.get_by_label("Name of the original", exact=True)).to_have_value("Harbour Light")
    open_demo(page, demo_server)
    page.keyboard.press("j")
    page.get_by_label("Jump to, by name", exact=True).fill("maple")
    page.get_by_role("option", name="Ingredient: date caramel > maple syrup").click()
    expect(page.get_by_label("maple syrup, taken for", exact=True)).to_be_in_viewport()


def test_the_list_keeps_copies_and_gives_back_what_was_deleted(
    clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]
) -> None:
    """Duplicate, put away, delete, bring back."""
    page = clean_page
    page.goto(demo_server.url)
    page.get_by_role("button", name="Duplicate Night Crossing").click()
    expect(page.get_by_role("link", name="Night Crossing (copy)")).to_be_visible()
    page.get_by_role("button", name="Put away Night Crossing (copy)").click()
    expect(page.get_by_text("put away ·")).to_be_visible()
    page.get_by_role("button", name="Delete Night Crossing (copy)").click()
    expect(page.get_by_role("link", name="Night Crossing (copy)")).to_be_hidden()
    accessible(page)
    expect(page.get_by_role("button", name="Bring back Night Crossing (copy)")).to_be_focused()
    page.reload()
    page.get_by_role("button", name="Bring back Night Crossing (copy)").click()
    expect(page.get_by_role("link", name="Night Crossing (copy)")).to_be_visible()


def test_the_kitchen_changes_what_the_batch_says(
    clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]
) -> None:
    """A coarse scale, US cups, ounces and Fahrenheit; height and boiling water correct a boil."""
    page = clean_page
    made = page.request.post(f"{demo_server.url}/api/matches/import", data=FILE)
    address = f"{demo_server.url}/m/{made.json()['id']}/batch"
    page.goto(address)
    expect(page.get_by_text("Boil to 118 °C on your thermometer")).to_be_visible()
    page.get_by_role("link", name="Correct for yours").click()
    expect(page.get_by_role("heading", name="Your kitchen")).to_be_visible()
    type_into(page, "Smallest step of the scale", "1 g")
    page.get_by_role("combobox", name="Spoons and cups").select_option("US")
    page.get_by_role("combobox", name="Weights").select_option("oz")
    page.get_by_role("combobox", name="Heat").select_option("F")
    type_into(page, "Height above the sea", "5,249 ft")
    type_into(page, "Your thermometer in boiling water", "201")
    expect(page.get_by_text("201 °C was read; what makes sense here is 75 to 110 °C")).to_be_visible()
    type_into(page, "Your thermometer in boiling water", "201 F")
    expect(page.get_by_text("your thermometer reads 1.4 °F low")).to_be_visible()
    accessible(page)
    page.goto(address)
    expect(page.get_by_text("Boil to 233 °F on your thermometer, 226 °F to 239 °F; 244 °F at sea level")).to_be_visible()
    row = page.get_by_role("row", name="White sugar").first
    expect(row).to_contain_text("cup")
    expect(row).to_contain_text("oz")


def test_the_kitchen_and_a_backup_can_be_had_outside_a_match(clean_page: Page, server: Server) -> None:
    """From the list of matches; a change waits while the server is away."""
    page = clean_page
    page.goto(server.url)
    expect(page.get_by_role("link", name="Back up everything")).to_have_attribute("href", "/api/backup")
    page.get_by_role("link", name="Kitchen").click()
    type_into(page, "Height above the sea", "1600 m")
    expect(page.get_by_text("Water boils at 94.5 °C there.")).to_be_visible()
    type_into(page, "Height above the sea", "16 m")
    page.get_by_role("button", name="Undo, kitchen: Height above the sea: 16 m, was 1600 m").click()
    expect(page.get_by_label("Height above the sea", exact=True)).to_have_value("1600 m")
    server.stop()
    type_into(page, "Your thermometer in boiling water", "94 C")
    expect(page.get_by_role("alert")).to_be_visible()
    server.start()
    expect(page.get_by_text("your thermometer reads 0.6 °C low")).to_be_visible()
    page.get_by_role("link", name="Fern Match").click()
    expect(page.get_by_role("heading", name="Matches")).to_be_visible()


def test_what_is_in_the_house_says_what_to_buy(clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]) -> None:
    """In spoons and cups; what cannot be read says so and stays; the other window's figure is asked about."""
    page = clean_page
    made = page.request.post(f"{demo_server.url}/api/matches/import", data=FILE)
    page.goto(f"{demo_server.url}/m/{made.json()['id']}/batch")
    type_into(page, "White granulated sugar, in the house", "1/2 cup")
    expect(page.get_by_text("White granulated sugar at 0.85 g/mL, metric cup of 250 mL")).to_be_visible()
    expect(page.get_by_text("The house is enough for 17 of 24 pieces; first to run out: white granulated sugar.")).to_be_visible()
    type_into(page, "Heavy cream (36 % fat), in the house", "2 heaped spoons")
    expect(page.get_by_text("How much “heaped” holds differs from hand to hand")).to_be_visible()
    expect(page.get_by_label("Heavy cream (36 % fat), in the house", exact=True)).to_have_value("2 heaped spoons")
    accessible(page)
    other = page.context.new_page()
    other.goto(page.url)
    type_into(other, "White granulated sugar, in the house", "2 cups")
    expect(other.get_by_text("metric cup of 250 mL")).to_be_visible()
    type_into(page, "White granulated sugar, in the house", "3 cups")
    expect(page.get_by_text("White granulated sugar, in the house").first).to_be_visible()
    page.get_by_role("button", name="Keep what I typed").click()
    expect(
        page.get_by_role("button", name="Undo: Batch of Faithful, White granulated sugar, in the house: 3 cups, was 2 cups")
    ).to_be_enabled()


def test_tables_are_walked_and_edited_by_keyboard(clean_page: Page, demo_server: Server) -> None:
    """Tab from reading to reading; arrows in two directions, F2 to edit, Enter to keep and go down, Escape to leave it."""
    page = clean_page
    open_demo(page, demo_server)
    page.get_by_role("tab", name="Weighings").click()
    page.get_by_label("Date caramel, reading 1", exact=True).focus()
    for reading in ("8.6", "8.8", "8.7"):
        page.keyboard.type(reading)
        page.keyboard.press("Tab")
    expect(page.get_by_label("Date caramel, reading 4", exact=True)).to_be_focused()
    for at, reading in enumerate(("8.6", "8.8", "8.7"), 1):
        expect(page.get_by_label(f"Date caramel, reading {at}", exact=True)).to_have_value(reading)
    first, second = (page.get_by_label(f"Whole piece, reading {at}", exact=True) for at in (1, 2))
    first.focus()
    page.keyboard.press("ArrowRight")
    expect(second).to_be_focused()
    before = second.input_value()
    page.keyboard.press("F2")
    page.keyboard.type("0")
    page.keyboard.press("Enter")
    expect(second).to_have_value(f"{before}0")
    expect(second).not_to_be_focused()
    page.keyboard.press("ArrowUp")
    expect(second).to_be_focused()
    page.keyboard.type("99")
    page.keyboard.press("Escape")
    expect(second).to_have_value(f"{before}0")


def test_a_measured_piece_is_drawn_in_its_size(clean_page: Page, demo_server: Server) -> None:
    """In inches or millimetres; a slip of the unit is flagged."""
    page = clean_page
    open_demo(page, demo_server)
    page.get_by_role("tab", name="Weighings").click()
    type_into(page, "wide", "")
    expect(page.get_by_text("to scale, size assumed")).to_be_visible()
    for side, typed in (("long", "4 in"), ("wide", "25"), ("high", "17 mm")):
        type_into(page, side, typed)
    expect(page.get_by_text("25 mm wide, 101.6 mm long")).to_be_visible()
    expect(page.get_by_text("to scale", exact=True)).to_be_visible()
    type_into(page, "long", "10")
    expect(page.get_by_text("denser than sugar and dates")).to_be_visible()
