"""Half-typed texts, refused edits, a second estimate, evidence switched off: nothing is lost, and the keyboard keeps place."""

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect
from tests.browser.test_firm_ground import open_demo
from tests.browser.test_journey import STATEMENT, new_match, type_into
from tests.served import Server

pytestmark = pytest.mark.browser


def test_evidence_of_any_kind_is_switched_off_and_on_again(clean_page: Page, demo_server: Server) -> None:
    """An order on the statement: it stays in the list."""
    page = clean_page
    open_demo(page, demo_server)
    page.get_by_role("link", name="Estimate").click()
    page.get_by_role("button", name="Statement").click()
    switch = page.get_by_role("switch", name="Use sesame cream before dark chocolate")
    switch.click()
    expect(switch).not_to_be_checked()
    expect(page.get_by_text("seen at least as much, not used")).to_be_visible()
    expect(page.get_by_role("tab", name="Evidence 35")).to_be_visible()
    switch.click()
    expect(switch).to_be_checked()
    expect(page.get_by_text("not used")).to_have_count(0)


def test_a_second_estimate_asks_before_it_overwrites(
    clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]
) -> None:
    """The batch says that the study moved on; both versions can be kept, each with its batch."""
    page = clean_page
    open_demo(page, demo_server)
    page.get_by_role("tab", name="Weighings").click()
    type_into(page, "Date caramel, reading 1", "9.9")
    page.get_by_role("link", name="Batch").click()
    expect(page.get_by_text("The study has changed since this version was taken")).to_be_visible()
    page.get_by_role("link", name="To the estimate").click()
    take = page.get_by_role("button", name="Take as the faithful")
    expect(take).to_be_enabled()
    take.click()
    expect(page.get_by_role("alert")).to_contain_text("Replace it, or keep both?")
    accessible(page)
    page.get_by_role("button", name="Keep both").click()
    expect(page.get_by_role("heading", name="Night Crossing, faithful 2")).to_be_visible()
    page.get_by_role("link", name="Batch").click()
    page.get_by_role("navigation", name="Batches").get_by_role("button", name="Faithful 2").click()
    expect(page.get_by_role("navigation", name="Batches").get_by_role("button")).to_have_count(
        5
    )  # of the first, two; one each of the next, the vegan, and this
    expect(page.get_by_role("heading", name="Night Crossing, faithful 2")).to_be_visible()
    expect(page.get_by_text("The study has changed")).to_have_count(0)
    type_into(page, "Pieces wanted", "6")
    expect(page.get_by_role("button", name="Faithful 2, 6 pieces")).to_be_visible()
    expect(page.get_by_role("button", name="Faithful, 24 pieces")).to_be_visible()


def test_what_is_half_typed_outlives_a_reload(clean_page: Page, server: Server) -> None:
    """A name not started, a statement not confirmed, a figure not left: each is still in its field."""
    page = clean_page
    page.goto(server.url)
    page.get_by_label("Name of the original", exact=True).fill("Half a Name")
    page.reload()
    expect(page.get_by_label("Name of the original", exact=True)).to_have_value("Half a Name")
    page.get_by_role("button", name="Start the match").click()
    page.get_by_label("Net weight of the pack", exact=True).press_sequentially("42")
    page.reload()
    expect(page.get_by_label("Net weight of the pack", exact=True)).to_have_value("42")
    expect(page.get_by_label("Net weight of the pack", exact=True)).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Undo: Net weight: 42")).to_be_enabled()
    page.get_by_role("tab", name="Ingredients").click()
    page.get_by_role("textbox", name="Ingredient statement").fill(STATEMENT)
    page.reload()
    expect(page.get_by_role("textbox", name="Ingredient statement")).to_have_value(STATEMENT)


def test_a_refused_edit_holds_nothing_up_and_can_be_dropped(clean_page: Page, server: Server) -> None:
    """A sign that is no writing: said, kept on the page, and everything else is saved."""
    page = clean_page
    new_match(page, server.url, "Stubborn")
    page.get_by_role("tab", name="Ingredients").click()
    statement = page.get_by_role("textbox", name="Ingredient statement")
    statement.fill("Sugar,\x0bcream")
    statement.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("the sign U+000B cannot be kept")
    page.get_by_role("tab", name="Label").click()
    type_into(page, "Maker", "Ferrywright")
    expect(page.get_by_role("button", name="Undo: Maker: Ferrywright")).to_be_enabled()
    expect(page.get_by_role("alert")).to_contain_text("everything else is saved")
    page.get_by_role("button", name="Drop it").click()
    expect(page.get_by_role("alert")).to_have_count(0)
    page.reload()
    expect(page.get_by_label("Maker", exact=True)).to_have_value("Ferrywright")


def test_figures_typed_down_a_column_land_where_they_should(clean_page: Page, server: Server) -> None:
    """Enter on an empty row goes on, so that rows the label does not have are skipped."""
    page = clean_page
    new_match(page, server.url, "Column")
    page.get_by_label("Fat, declared", exact=True).focus()
    for typed in ("24", "14", "65", "52", "", "", "4.5", "0.4"):
        page.keyboard.type(typed)
        page.keyboard.press("Enter")
    for row, figure in (("of which polyols", ""), ("Fibre", ""), ("Protein", "4.5"), ("Salt", "0.4"), ("of which sugars", "52")):
        expect(page.get_by_label(f"{row}, declared", exact=True)).to_have_value(figure)


def test_an_ingredient_is_chosen_by_keyboard(clean_page: Page, demo_server: Server) -> None:
    """Opening and taking changes nothing; the best match is first and the first arrow stays on it; Escape leaves."""
    page = clean_page
    open_demo(page, demo_server)
    page.get_by_role("tab", name="Ingredients").click()
    field = page.get_by_label("cocoa mass, taken for", exact=True)
    field.focus()
    page.keyboard.press("ArrowDown")
    expect(page.get_by_role("option", name="Cocoa mass", exact=True)).to_have_attribute("data-focus", "")
    page.keyboard.press("Enter")
    expect(field).to_have_value("Cocoa mass")
    field.fill("butter")
    expect(page.get_by_role("option").first).to_have_text("Butter (unsalted, 82 % fat)")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(field).to_have_value("Butter (unsalted, 82 % fat)")
    expect(page.get_by_role("button", name="Undo: “cocoa mass” taken for: Butter (unsalted, 82 % fat)")).to_be_enabled()
    field.fill("")
    page.keyboard.press("Tab")
    expect(field).to_have_value("Butter (unsalted, 82 % fat)")
    field.focus()
    page.keyboard.press("Escape")
    expect(field).not_to_be_focused()


def test_the_keyboard_keeps_its_place(clean_page: Page, demo_server: Server) -> None:
    """After starting, adding, confirming, jumping and deleting one goes on typing, never from the top of the page."""
    page = clean_page
    inside = "() => !!document.activeElement.closest('main') || document.activeElement.id === 'main'"
    new_match(page, demo_server.url, "In Place")
    page.wait_for_function(inside)
    page.get_by_role("tab", name="Layers").click()
    page.get_by_role("button", name="Add a layer").click()
    expect(page.get_by_label("Name of layer 1", exact=True)).to_be_focused()
    page.keyboard.type("Caramel")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Name of layer 1", exact=True)).to_have_value("Caramel")
    page.get_by_role("tab", name="Ingredients").click()
    statement = page.get_by_role("textbox", name="Ingredient statement")
    statement.fill("Sugar, cream")
    statement.press("Enter")
    expect(page.get_by_label("cream, taken for", exact=True)).to_be_visible()
    expect(statement).to_be_focused()
    page.get_by_role("heading", name="What the original tells you").click()
    page.keyboard.press("j")
    expect(page.get_by_label("Jump to, by name", exact=True)).to_be_focused()
    page.keyboard.type("weigh")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Whole piece, reading 1", exact=True)).to_be_visible()
    page.wait_for_function(inside)


def test_a_jump_scrolls_once(clean_page: Page, demo_server: Server) -> None:
    """Pointing at the slice afterwards leaves the page where it is."""
    page = clean_page
    open_demo(page, demo_server)
    page.keyboard.press("j")
    page.get_by_label("Jump to, by name", exact=True).fill("instant")
    page.keyboard.press("Enter")
    expect(page.get_by_label("instant coffee, taken for", exact=True)).to_be_in_viewport()
    page.evaluate("() => document.getElementById('main').scrollTo(0, 0)")
    page.get_by_label("The slice", exact=True).get_by_role("button", name="Sesame cream").hover()
    page.get_by_label("The slice", exact=True).get_by_role("button", name="Dark coat").hover()
    assert page.evaluate("() => document.getElementById('main').scrollTop") == 0


def test_units_typed_with_a_figure_are_said_once(clean_page: Page, server: Server) -> None:
    """ "12 g" on the label is 12 g in the strip, not 12 g g."""
    page = clean_page
    new_match(page, server.url, "Units")
    type_into(page, "Fat, declared", "12 g")
    type_into(page, "Protein, declared", "3g")
    expect(page.get_by_label("Targets", exact=True).get_by_text("label 12 g")).to_be_visible()
    expect(page.get_by_label("Targets", exact=True).get_by_text("label 3 g")).to_be_visible()
    expect(page.get_by_text("g g")).to_have_count(0)
