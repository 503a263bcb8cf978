"""Formulate and the pantry in the real interface: type, solve, take another way, paste a recipe, change a figure."""

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect
from tests.served import Server

pytestmark = pytest.mark.browser
RECIPE = """Harbour slab
Makes 24 pieces
For the base:
2 1/4 cups plain flour, sifted
1 1/2 sticks butter, softened
1/2 cup icing sugar
a pinch of salt
Caramel:
1 can condensed milk
2 tbsp golden syrup
60 g/2 oz butter
12-15 dates, pitted
1 cup nuts, chopped
Topping:
8 oz dark chocolate (55%)
1 tbsp coconut oil
flaky salt, to taste

Bake the base until its rim is gold, pour the caramel over it and let it set overnight.
"""


def open_demo(page: Page, url: str) -> None:
    """Night Crossing at Formulate."""
    page.goto(url)
    page.get_by_role("link", name="Night Crossing").click()
    page.get_by_role("link", name="Formulate").click()
    expect(page.get_by_role("button", name="Solve all layers")).to_be_visible()


def open_layer(page: Page, name: str) -> None:
    """Opens one layer of the version."""
    page.get_by_role("main").get_by_role("button", name=name).first.click()


def test_type_solve_and_undo(clean_page: Page, demo_server: Server) -> None:
    """What is typed by keyboard is fixed and stays; targets move at once; the solve is one step back."""
    page = clean_page
    open_demo(page, demo_server.url)
    open_layer(page, "Sesame cream")
    sugar = page.get_by_label("Icing sugar (3 % starch) in Sesame cream, grams", exact=True)
    sugar.fill("4.2")
    sugar.press("Enter")
    expect(page.get_by_label("Icing sugar (3 % starch), when solving")).to_have_value("fixed")
    expect(page.get_by_role("main").get_by_role("button", name="missed").first).to_be_visible()
    page.get_by_role("button", name="Solve this layer").click()
    expect(page.get_by_role("region", name="What holds it back")).to_be_visible()
    expect(sugar).to_have_value("4.2")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Undo: ").click()
    expect(sugar).to_have_value("4.2")
    page.get_by_role("button", name="Undo: ").click()
    expect(page.get_by_label("Icing sugar (3 % starch), when solving")).to_have_value("free")


def test_another_way_to_make_a_layer(clean_page: Page, demo_server: Server) -> None:
    """Made from its parts instead of bought; the sides tell of it."""
    page = clean_page
    open_demo(page, demo_server.url)
    open_layer(page, "Dark coat")
    page.get_by_role("button", name="Other ways to make it").click()
    ways = page.get_by_role("dialog")
    expect(ways.get_by_text("from its parts")).to_be_visible()
    expect(ways.get_by_text("Buy a dark chocolate of about").first).to_be_visible()
    ways.get_by_role("button", name="Take this way").first.click()
    expect(page.get_by_label("Cocoa butter in Dark coat, grams")).to_be_visible()
    page.get_by_role("tab", name="Balance").click()
    expect(page.get_by_text("of its fat is solid at 20 °C, so it snaps")).to_be_visible()
    page.get_by_role("tab", name="Label").click()
    expect(page.get_by_text("Contains")).to_be_visible()
    page.get_by_role("tab", name="Measure").click()
    expect(page.get_by_text("Measured out for 24 pieces")).to_be_visible()
    page.get_by_label("Measured with").select_option("spoons")
    expect(page.get_by_text("cup").first).to_be_visible()


def test_a_match_from_a_recipe_alone(clean_page: Page, server: Server, accessible: Callable[[Page], None]) -> None:
    """Twelve lines in mixed units; what is asked is answered; the recipe stands in for the estimate."""
    page = clean_page
    page.goto(server.url)
    page.get_by_role("button", name="Start from a recipe alone").click()
    page.get_by_role("textbox", name="One ingredient a line").fill(RECIPE)
    page.get_by_label("Its cups and spoons are").select_option("US")
    expect(page.get_by_text("one stick at 113.4 g")).to_be_visible()
    choice = page.get_by_label("1 cup nuts, chopped, taken for", exact=True)
    choice.fill("pecan")
    expect(page.get_by_role("option", name="Pecan").first).to_be_visible()  # the pantry may still be on its way
    choice.press("Enter")
    expect(page.get_by_text("Pecan halves at 0.42 g/mL").or_(page.get_by_text("Pecan halves").first)).to_be_visible()
    accessible(page)
    page.get_by_role("button", name="Take it as a version").click()
    expect(page.get_by_role("heading", name="Harbour slab, the recipe")).to_be_visible()
    expect(page.get_by_text("from the recipe: there is no estimate")).to_be_visible()
    page.get_by_role("link", name="Estimate").click()
    expect(page.get_by_text("the recipe stands in for it")).to_be_visible()
    page.get_by_role("link", name="Batch").click()
    expect(page.get_by_text("24 pieces of")).to_be_visible()
    page.get_by_text("The recipe as it was").click()
    expect(page.get_by_text("pour the caramel over it and let it set overnight")).to_be_visible()


def test_the_pantry_by_any_name_and_from_a_packet(
    clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]
) -> None:
    """Misspelt it is found; a changed figure is yours; a packet gives a new one."""
    page = clean_page
    page.goto(f"{demo_server.url}/pantry")
    page.get_by_label("Find an ingredient by any name").fill("hazlenut paste")
    page.get_by_role("button", name="Hazelnut paste, 100 % roasted").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Price per kg").fill("24")
    sheet.get_by_label("Fat g", exact=True).fill("63")
    accessible(page)
    sheet.get_by_role("button", name="Keep these figures").click()
    expect(page.get_by_role("row", name="Hazelnut paste").get_by_text("changed by you")).to_be_visible()
    page.get_by_role("button", name="Add from a packet").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Name").fill("Harbour oat cream")
    sheet.get_by_label("Fat g", exact=True).fill("13")
    sheet.get_by_label("Carbohydrate g", exact=True).fill("9")
    sheet.get_by_role("button", name="Add it").click()
    expect(page.get_by_role("heading", name="Harbour oat cream")).to_be_visible()
    expect(page.get_by_role("dialog").get_by_text("its packet").first).to_be_visible()
