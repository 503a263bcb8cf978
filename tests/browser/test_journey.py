"""Someone with a bar, a label and a scale walks from an empty match to the grams of a batch."""

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect
from tests.served import LONG_MS, Server

pytestmark = pytest.mark.browser
STATEMENT = "Sugar, glucose syrup, cocoa butter, cream, whole milk powder, cocoa mass, butter, salt, emulsifier (soya lecithin)."
ROWS = {"Fat": "24", "of which saturates": "14", "Carbohydrate": "65", "of which sugars": "52", "Protein": "4.5", "Salt": "0.4"}


def type_into(page: Page, label: str, text: str) -> None:
    """Types into a field and leaves it by Enter."""
    field = page.get_by_label(label, exact=True)
    field.fill(text)
    field.press("Enter")


def new_match(page: Page, url: str, name: str) -> None:
    """Starts a match from the list."""
    page.goto(url)
    page.get_by_label("Name of the original", exact=True).fill(name)
    page.get_by_role("button", name="Start the match").click()
    expect(page.get_by_role("heading", name="What the original tells you")).to_be_visible()


def fill_study(page: Page) -> None:
    """Label, statement, build and two weighings."""
    type_into(page, "Net weight of the pack", "1.5 oz")
    expect(page.get_by_text("read as 42.5 g")).to_be_visible()
    for row, figure in ROWS.items():
        type_into(page, f"{row}, declared", figure)
    expect(page.get_by_text("23.5 to 24.5 g")).to_be_visible()
    page.get_by_role("tab", name="Layers").click()
    page.get_by_role("button", name="Coated biscuit with caramel").click()
    page.get_by_role("button", name="Remove Biscuit base").click()
    page.get_by_role("tab", name="Ingredients").click()
    page.get_by_role("textbox", name="Ingredient statement").fill(STATEMENT)
    page.get_by_role("textbox", name="Ingredient statement").press("Enter")
    expect(page.get_by_label("soya lecithin, taken for", exact=True)).to_have_value("Soy lecithin, liquid")
    page.get_by_role("tab", name="Weighings").click()
    type_into(page, "Whole piece, reading 1", "85.4/2")
    type_into(page, "Milk coat, reading 1", "16.2")
    type_into(page, "Milk coat, reading 2", "16.4 g")
    expect(page.get_by_role("row", name="Milk coat").get_by_text("16.30")).to_be_visible()


def test_from_an_empty_match_to_a_batch(clean_page: Page, server: Server) -> None:
    """The whole job, and all of it is there after the server was cut off and started again."""
    page = clean_page
    new_match(page, server.url, "Harbour Light")
    fill_study(page)

    page.get_by_role("link", name="Estimate").click()
    expect(page.get_by_role("button", name="Milk coat").first).to_be_visible()
    expect(page.get_by_role("img", name="Milk coat: 16")).to_be_visible()
    page.get_by_role("tab", name="Label").click()
    expect(page.get_by_role("row", name="Fat g 24")).to_be_visible()
    page.get_by_role("button", name="Take as the faithful").click()

    expect(page.get_by_role("heading", name="Harbour Light, faithful")).to_be_visible()
    page.get_by_role("link", name="Batch").click()
    expect(page.get_by_role("heading", name="Harbour Light, faithful")).to_be_visible()
    type_into(page, "Pieces wanted", "2 x 12")
    expect(page.get_by_text("24 pieces of")).to_be_visible()
    expect(page.get_by_text("Hot sugar.")).to_be_visible()
    expect(page.get_by_text("driven off as water")).to_be_visible()
    type_into(page, "Caramel, stays on tools", "8")
    expect(page.get_by_text("usual for its family")).to_have_count(1)
    expect(page.get_by_role("button", name="Print")).to_be_visible()

    server.stop()
    server.start()
    page.reload()
    expect(page.get_by_text("24 pieces of")).to_be_visible()
    expect(page.get_by_label("Caramel, stays on tools", exact=True)).to_have_value("8")
    page.goto(server.url)
    expect(page.get_by_text("2 layers · 1 version · 1 batch")).to_be_visible()


def test_pieces_of_the_estimate_answer_to_each_other(clean_page: Page, demo_server: Server) -> None:
    """Picking a layer in the slice opens it in the table; switching evidence off takes its tension away."""
    page = clean_page
    page.goto(demo_server.url)
    page.get_by_role("link", name="Night Crossing").click()
    page.get_by_role("link", name="Estimate").click()
    expect(page.get_by_role("rowheader", name="Sesame cream")).to_be_visible(timeout=LONG_MS)
    page.get_by_label("The slice", exact=True).get_by_role("button", name="Sesame cream").click()
    expect(page.get_by_role("cell", name="Tahini (sesame paste)", exact=True)).to_be_visible()
    switch = page.get_by_role("switch", name="Use Dark coat, weighed")
    expect(switch).to_be_checked()
    switch.click()
    expect(page.get_by_role("switch", name="Use Dark coat, weighed")).not_to_be_checked()
    expect(page.get_by_text("not used")).to_be_visible()


def test_a_placement_is_corrected_by_keyboard(clean_page: Page, demo_server: Server) -> None:
    """Enter walks through the answers, Delete goes back to the proposal."""
    page = clean_page
    page.goto(demo_server.url)
    page.get_by_role("link", name="Night Crossing").click()
    page.get_by_role("tab", name="Ingredients").click()
    page.get_by_role("button", name="icing sugar in Sesame cream: in it, by the brackets").focus()
    page.keyboard.press("Enter")
    mine = page.get_by_role("button", name="icing sugar in Sesame cream: perhaps in it, your answer")
    expect(mine).to_be_visible()
    mine.focus()
    page.keyboard.press("Delete")
    expect(page.get_by_role("button", name="icing sugar in Sesame cream: in it, by the brackets")).to_be_visible()


def test_bad_input_gets_a_sentence_and_is_kept(clean_page: Page, server: Server) -> None:
    """Beside the field, after a reload too."""
    page = clean_page
    new_match(page, server.url, "Odd One")
    type_into(page, "Net weight of the pack", "heavy")
    expect(page.get_by_text("“heavy” was not read as a weight.")).to_be_visible()
    type_into(page, "of which sugars, declared", "60")
    type_into(page, "Carbohydrate, declared", "20")
    expect(page.get_by_text("cannot exceed carbohydrate")).to_be_visible()
    page.reload()
    expect(page.get_by_label("Net weight of the pack", exact=True)).to_have_value("heavy")
    page.get_by_role("link", name="Estimate").click()
    expect(page.get_by_text("Add at least one layer")).to_be_visible()
    expect(page.get_by_text("Say how heavy a piece is")).to_be_visible()
    expect(page.get_by_text("NaN")).to_have_count(0)


def test_escape_leaves_a_field_as_it_was(clean_page: Page, server: Server) -> None:
    """Nothing is committed."""
    page = clean_page
    new_match(page, server.url, "Kept Name")
    field = page.get_by_label("Name of the original", exact=True)
    field.fill("Something else")
    field.press("Escape")
    expect(field).to_have_value("Kept Name")
    page.reload()
    expect(page.get_by_label("Name of the original", exact=True)).to_have_value("Kept Name")


def test_two_windows_never_overwrite_each_other_silently(clean_page: Page, server: Server) -> None:
    """The second window is asked, and what it typed is still there."""
    page = clean_page
    new_match(page, server.url, "Two Windows")
    other = page.context.new_page()
    other.goto(page.url)
    type_into(other, "Maker", "First")
    expect(other.get_by_label("Maker", exact=True)).to_have_value("First")
    other.wait_for_load_state("networkidle")
    type_into(page, "Maker", "Second")
    expect(page.get_by_text("changed in another window")).to_be_visible()
    expect(page.get_by_label("Maker", exact=True)).to_have_value("Second")
    with page.expect_response(lambda answer: answer.request.method == "PUT" and answer.ok):
        page.get_by_role("button", name="Keep what I typed").click()
    expect(page.get_by_text("changed in another window")).to_be_hidden()
    other.reload()
    expect(other.get_by_label("Maker", exact=True)).to_have_value("Second")


def test_a_lost_server_keeps_edits_and_says_so(clean_page: Page, server: Server) -> None:
    """They go out when it is back."""
    page = clean_page
    new_match(page, server.url, "Power Cut")
    server.stop()
    type_into(page, "Maker", "Hollin & Rook")
    expect(page.get_by_text("does not answer")).to_be_visible()
    server.start()
    expect(page.get_by_text("does not answer")).to_be_hidden()
    page.reload()
    expect(page.get_by_label("Maker", exact=True)).to_have_value("Hollin & Rook")


def test_a_broken_file_is_refused_on_the_page(clean_page: Page, server: Server, tmp_path_factory: pytest.TempPathFactory) -> None:
    """With the line, and the list stays empty."""
    page = clean_page
    broken = tmp_path_factory.mktemp("files") / "broken.json"
    broken.write_text("{\n oops\n}")
    page.goto(server.url)
    page.get_by_label("Match file to import", exact=True).set_input_files(broken)
    expect(page.get_by_role("alert")).to_contain_text("line 2 could not be read. Nothing was imported.")
    expect(page.get_by_text("None yet.")).to_be_visible()


def test_markup_in_names_is_text(clean_page: Page, server: Server) -> None:
    """Nothing typed is ever run."""
    page = clean_page
    new_match(page, server.url, "<img src=x onerror=alert(1)>")
    expect(page.get_by_text("<img src=x onerror=alert(1)>")).to_be_visible()


VIEWS = [
    "study",
    "study?part=statement",
    "study?part=layers",
    "study?part=weighings",
    "estimate",
    "estimate?side=label",
    "formulate",
    "formulate?side=balance",
    "formulate?side=label",
    "formulate?side=measure",
    "batch",
    "kitchen",
    "pantry",
]


@pytest.mark.parametrize("views", [VIEWS[:7], VIEWS[7:]], ids=["first", "second"])
def test_every_view_is_accessible_and_whole(
    clean_page: Page, demo_server: Server, accessible: Callable[[Page], None], views: list[str]
) -> None:
    """WCAG 2.2 AA by axe, and nothing scrolls sideways at the widths it is made for; on the demo."""
    page = clean_page
    page.goto(demo_server.url)
    accessible(page)
    page.get_by_role("link", name="Night Crossing").click()
    page.wait_for_url("**/study")
    base = page.url.removesuffix("study")
    for view in views:
        page.set_viewport_size({"width": 1280, "height": 800})
        page.goto(base + view)
        expect(page.get_by_role("main").get_by_role("heading").first).to_be_visible()
        page.wait_for_load_state("networkidle")
        accessible(page)
        for width in (1280, 1024):
            page.set_viewport_size({"width": width, "height": 768})
            excess = page.evaluate("() => { const m = document.querySelector('main'); return m.scrollWidth - m.clientWidth }")
            assert excess <= 0, (view, width)
            beyond = page.evaluate("() => document.documentElement.scrollWidth - document.documentElement.clientWidth")
            assert beyond <= 0, f"the frame round {view} at {width}"
