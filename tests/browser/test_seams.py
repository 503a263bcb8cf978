"""Where halves of the page meet: focus after what goes, the frame's second form, a reading that is not read, rules kept."""

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect
from tests.served import LONG_MS, Server

pytestmark = pytest.mark.browser


def open_step(page: Page, url: str, step: str) -> None:
    """Night Crossing at a step."""
    page.goto(url)
    page.get_by_role("link", name="Night Crossing").click()
    page.get_by_role("navigation", name="Steps").get_by_role("link", name=re.compile(f"^{step}")).click()


def has_focus(page: Page) -> bool:
    """Whether the keyboard stands anywhere but on the bare page."""
    return bool(page.evaluate("document.activeElement !== null && document.activeElement !== document.body"))


def test_focus_stays_near_what_goes(clean_page: Page, demo_server: Server) -> None:
    """A line is taken out, a layer solved, a layer taken out, all by keyboard: the next key goes to what is near."""
    page = clean_page
    open_step(page, demo_server.url, "Formulate")
    out = page.get_by_role("button", name=re.compile("^out: ")).first
    out.press("Enter")
    expect(page.get_by_role("button", name=re.compile("^out: "))).to_have_count(1)
    page.wait_for_function("document.activeElement !== document.body")
    page.get_by_role("button", name="Solve this layer").press("Enter")
    expect(page.get_by_role("button", name="Solve this layer")).to_be_enabled(timeout=LONG_MS)
    page.wait_for_function("document.activeElement !== document.body")
    page.get_by_role("button", name="Take this layer out").press("Enter")
    page.wait_for_function("document.activeElement !== document.body")
    assert has_focus(page)


def test_layers_and_targets_of_a_version(clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]) -> None:
    """A layer is added by its kind, named, moved and taken out; a target added, typed wrong and still there with its sentence."""
    page = clean_page
    open_step(page, demo_server.url, "Formulate")
    kind = page.get_by_role("combobox", name="Add a layer")
    kind.fill("fruit jelly")
    kind.press("Enter")
    name = page.get_by_role("textbox", name=re.compile("Name of .*jelly", re.I))
    expect(name).to_be_visible(timeout=LONG_MS)
    name.fill("Sour heart")
    name.press("Enter")
    expect(page.get_by_role("button", name=re.compile("^Sour heart .*jelly", re.I))).to_be_visible()
    target = page.get_by_role("combobox", name="Sour heart, add a target")
    target.fill("salt")
    target.press("Enter")
    wanted = page.get_by_role("textbox", name="Salt, Sour heart, wanted")
    wanted.fill("heavy")
    wanted.press("Enter")
    expect(wanted).to_have_attribute("aria-invalid", "true")
    accessible(page)
    page.get_by_role("button", name="Move up").click()
    page.get_by_role("button", name="Take this layer out").click()
    expect(page.get_by_role("button", name=re.compile("^Sour heart"))).to_have_count(0)


def test_a_reading_that_is_not_read_says_so_at_its_cell(clean_page: Page, demo_server: Server) -> None:
    """Invalid, and described by the sentence."""
    page = clean_page
    open_step(page, demo_server.url, "Study")
    page.get_by_role("tab", name="Weighings").click()
    cell = page.get_by_role("textbox", name="Date caramel, reading 1")
    cell.fill("about a lot")
    cell.press("Enter")
    expect(cell).to_have_attribute("aria-invalid", "true")
    note = page.locator(f"[id='{cell.get_attribute('aria-describedby')}']")
    expect(note).to_contain_text("about a lot")


def test_typing_and_enter_takes_the_best_match(clean_page: Page, demo_server: Server) -> None:
    """Though what is chosen already is among the hits."""
    page = clean_page
    open_step(page, demo_server.url, "Study")
    page.get_by_role("tab", name="Layers").click()
    kind = page.get_by_role("combobox", name=re.compile("Date caramel.*")).first
    page.wait_for_load_state("networkidle")  # a list closes where the page moves under it, as when the estimate comes in
    kind.fill("soft caramel")
    expect(page.get_by_role("option").first).to_contain_text(re.compile("^Soft caramel", re.I))
    kind.press("Enter")
    expect(kind).to_have_value(re.compile("^Soft caramel", re.I))


@pytest.mark.parametrize(("width", "menu"), [(1024, False), (768, True)])
def test_the_frame_where_it_is_narrow(
    clean_page: Page, demo_server: Server, accessible: Callable[[Page], None], width: int, menu: bool
) -> None:
    """All names of steps in full at 1024; below, the path is a menu and the slice a band; nothing scrolls sideways."""
    page = clean_page
    page.set_viewport_size({"width": width, "height": 768})
    page.goto(demo_server.url)
    page.get_by_role("link", name="Night Crossing").click()
    if menu:
        page.get_by_role("combobox", name="Step", exact=True).select_option("batch")
    else:
        for link in page.get_by_role("navigation", name="Steps").get_by_role("link").all():
            assert link.locator("span").first.evaluate("e => e.scrollWidth <= e.clientWidth"), link.inner_text()
        page.get_by_role("navigation", name="Steps").get_by_role("link", name="Batch").click()
    expect(page.get_by_role("heading", name="Night Crossing, faithful")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth")
    accessible(page)


def test_a_study_that_one_reading_settles_is_read_so(
    clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]
) -> None:
    """A date caramel as a marshmallow: read anew and said, taken back in one press, and not read anew a second time."""
    page = clean_page
    open_step(page, demo_server.url, "Study")
    page.get_by_role("tab", name="Layers").click()
    kind = page.get_by_role("combobox", name=re.compile("Date caramel.*")).first
    page.wait_for_load_state("networkidle")
    kind.fill("marshmallow on gelatine")
    expect(page.get_by_role("option").first).to_contain_text(re.compile("^Marshmallow on gelatine", re.I))
    kind.press("Enter")
    page.get_by_role("navigation", name="Steps").get_by_role("link", name="Estimate").click()
    anew = page.get_by_role("region", name="Read anew")
    expect(anew).to_contain_text("Take Date caramel for date caramel, not marshmallow on gelatine", timeout=LONG_MS)
    expect(page.get_by_text("Each range holds nine times in ten.")).to_be_visible()
    accessible(page)
    anew.get_by_role("button", name="Read it as before").click()
    wrong = page.get_by_role("region", name="What does not fit")
    expect(wrong.get_by_role("button", name="Try it").first).to_be_enabled(timeout=LONG_MS)
    expect(anew).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(anew).to_be_visible(timeout=LONG_MS)


FITS = """e => {
  const text = document.createRange();
  text.selectNodeContents(e);
  return text.getBoundingClientRect().width <= e.getBoundingClientRect().width;
}"""


def test_what_the_path_says_is_seen_in_full(clean_page: Page, demo_server: Server) -> None:
    """Nothing under a step is cut off at the reference size, of the demo and of a match that has just begun."""
    page = clean_page
    page.goto(demo_server.url)
    page.get_by_label("Name of the original").fill("Heath and Honey")
    page.get_by_role("button", name="Start the match").click()
    page.wait_for_url("**/study")  # a page that is left before it is answered may have sent nothing
    for name in ("Heath and Honey", "Night Crossing", "Lime Quay", "Orchard Signal"):
        page.goto(demo_server.url)
        page.get_by_role("link", name=name).first.click()
        steps = page.get_by_role("navigation", name="Steps").get_by_role("link")
        expect(steps).to_have_count(7)
        for step in steps.all():
            assert step.locator("span").last.evaluate(FITS), step.inner_text()


def test_rules_are_there_when_one_comes_back(clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]) -> None:
    """To Batch and back by the path; proposals are accessible, and working them out can be stopped."""
    page = clean_page
    open_step(page, demo_server.url, "Adapt")
    page.get_by_role("checkbox", name="Vegan").click()
    expect(page.get_by_role("button", name="Keep as a version: ").first).to_be_visible(timeout=LONG_MS)
    accessible(page)
    steps = page.get_by_role("navigation", name="Steps")
    steps.get_by_role("link", name="Batch").click()
    expect(page.get_by_role("heading", name="Night Crossing, faithful")).to_be_visible()
    steps.get_by_role("link", name="Adapt").click()
    expect(page.get_by_role("checkbox", name="Vegan")).to_be_checked()
