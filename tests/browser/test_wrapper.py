"""A wrapper is pasted, read and estimated with the keyboard alone."""

import pytest
from playwright.sync_api import Page, expect
from tests.served import Server

pytestmark = pytest.mark.browser
# a chocolate's own bracket, a bracket of a bought ingredient, "and/or", a small group, minima, two lists of allergens
STATEMENT = (
    "INGREDIENTS: **Milk** chocolate 35% (sugar, cocoa butter, whole **milk** powder, cocoa mass, emulsifier: lecithins "
    "(**soya**)), glucose syrup, sweetened condensed milk (whole **milk**, sugar), sugar, vegetable oils (palm and/or shea in "
    "varying proportions), butter (**milk**), contains 2% or less of: salt, flavouring. Milk chocolate contains milk solids 20% "
    "minimum. May contain **nuts**. Store in a cool dry place."
)
PANEL = """Nutrition per 100 g
Energy 2032 kJ / 486 kcal
Fat 23.5 g
of which saturates 14 g
Carbohydrate 64 g
of which sugars 53 g
Protein 4.3 g
Salt 0.42 g"""


def to(page: Page, name: str, key: str = "Tab") -> None:
    """Presses Tab, or another key, until the name of what has the focus begins so."""
    for _ in range(150):
        page.keyboard.press(key)
        if page.evaluate(_NAME).startswith(name):
            return
    raise AssertionError(f"Tab does not reach “{name}”")


def to_part(page: Page, part: str) -> None:
    """Goes back to the parts of the study, and along them."""
    for _ in range(150):
        page.keyboard.press("Shift+Tab")
        if page.evaluate("document.activeElement?.role === 'tab' || document.activeElement?.getAttribute('role') === 'tab'"):
            return to(page, part, "ArrowRight")
    raise AssertionError("Shift and Tab do not reach the parts of the study")


_NAME = """() => {
  const it = document.activeElement;
  if (!it) return "";
  const by = it.id && document.querySelector(`label[for="${it.id}"]`);
  const around = it.matches("input, textarea, select") && it.closest("label");
  const text = around ? around.querySelector("span")?.textContent : it.textContent;
  return (it.getAttribute("aria-label") ?? by?.textContent ?? text ?? "").trim();
}"""


def test_from_paste_to_estimate_without_a_pointer(clean_page: Page, server: Server) -> None:
    """Label, statement, a corrected bracket, the build that the wrapper proposes, two weighings, the estimate."""
    page = clean_page
    page.goto(server.url)
    page.get_by_label("Name of the original", exact=True).wait_for()
    to(page, "Name of the original")
    page.keyboard.type("Tin Lantern")
    to(page, "Start the match")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="What the original tells you")).to_be_visible()

    label_and_statement(page)
    build_and_weighings(page)

    to(page, "Estimate", "Shift+Tab")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Each range holds nine times in ten")).to_be_visible()
    expect(page.get_by_role("rowheader", name="Milk chocolate")).to_be_visible()


def label_and_statement(page: Page) -> None:
    """Pasted, read; a bracket read otherwise and back."""
    to(page, "Net weight of the pack")
    page.keyboard.type("45 g e")
    to(page, "Paste the whole panel as text")
    page.keyboard.press("Enter")
    expect(page.get_by_label("The whole panel, pasted", exact=True)).to_be_focused()
    page.keyboard.insert_text(PANEL)
    to(page, "Fill the rows")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Fat, declared", exact=True)).to_have_value("23.5")

    to_part(page, "Ingredients")
    to(page, "Ingredient statement")
    page.keyboard.insert_text(STATEMENT)
    page.keyboard.press("Enter")
    expect(page.get_by_label("salt, taken for", exact=True)).to_be_visible()
    expect(page.get_by_role("definition").filter(has_text="Store in a cool dry place")).to_be_visible()
    expect(page.get_by_role("definition").filter(has_text="nuts")).to_be_visible()
    meaning = page.get_by_role("group", name="The bracket after sweetened condensed milk is")
    expect(meaning.get_by_role("button", name="ingredient")).to_have_attribute("aria-pressed", "true")
    to(page, "layer")  # of the chocolate's bracket
    to(page, "layer")
    page.keyboard.press("Enter")
    expect(meaning.get_by_role("button", name="layer")).to_have_attribute("aria-pressed", "true")
    to(page, "undo")
    page.keyboard.press("Enter")
    expect(meaning.get_by_role("button", name="ingredient")).to_have_attribute("aria-pressed", "true")


def build_and_weighings(page: Page) -> None:
    """What the wrapper proposes, and its coat weighed twice."""
    to_part(page, "Layers")
    expect(page.get_by_role("heading", name="What the pack suggests")).to_be_visible()
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Name of layer 1", exact=True)).to_have_value("Milk chocolate")

    to_part(page, "Weighings")
    to(page, "Milk chocolate, reading 1")
    page.keyboard.type("15.8")
    page.keyboard.press("Tab")
    page.keyboard.type("15.6")
    page.keyboard.press("Enter")
    expect(page.get_by_role("row", name="Milk chocolate").get_by_text("15.70").first).to_be_visible()
    page.keyboard.press("Escape")


def test_a_step_begins_at_its_top(clean_page: Page, demo_server: Server) -> None:
    """However far down one was on the step before."""
    page = clean_page
    page.goto(demo_server.url)
    page.get_by_role("link", name="Night Crossing").click()
    page.get_by_role("tab", name="Ingredients").click()
    page.get_by_label("sodium bicarbonate, taken for", exact=True).scroll_into_view_if_needed()
    assert page.evaluate("document.getElementById('main').scrollTop") > 100
    page.get_by_role("link", name="Estimate").click()
    page.get_by_role("heading", name="What is probably in it").wait_for()
    assert page.evaluate("document.getElementById('main').scrollTop") == 0
    page.get_by_role("link", name="Study").first.click()
    page.get_by_role("heading", name="What the original tells you").wait_for()
