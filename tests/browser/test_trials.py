"""Trials on the page: compared, found wrong, changed, tasted, with photos; by keyboard; axe clean."""

import io
import re
from collections.abc import Callable

from PIL import Image
from playwright.sync_api import Page, expect
from tests.browser.test_cook import open_match
from tests.served import LONG_MS, Server

# Once told so, the server's answer to what is typed takes its time.
_SLOW_TO_SAVE = """
  const send = window.fetch;
  window.fetch = async (asked, ...more) => {
    const answer = await send(asked, ...more);
    if (window.isSlow && asked.method === "PUT") await new Promise((done) => setTimeout(done, 1500));
    return answer;
  };
"""


def open_trials(page: Page, url: str, part: str = "beside") -> str:
    """The trials of Night Crossing; the address of its pages."""
    base = open_match(page, url, "Night Crossing")
    page.goto(f"{base}trials?part={part}")
    expect(page.get_by_role("heading", level=1, name=re.compile("Night Crossing, Trial"))).to_be_visible(timeout=LONG_MS)
    return base


def test_a_copy_stands_beside_its_original(clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]) -> None:
    """What differs is told with its doubt; a weight typed anew changes it; what is no weight stays and says so."""
    page = clean_page
    open_trials(page, demo_server.url)
    cream = page.get_by_role("row", name=re.compile("^Sesame cream"))
    expect(cream.get_by_text(re.compile(r"^2\.[6-9] g heavier \([12]\.\d to 3\.\d\)$"))).to_be_visible(timeout=LONG_MS)
    expect(page.get_by_text(re.compile(r"Closeness about \d+ of 100"))).to_be_visible()
    accessible(page)
    field = cream.get_by_label("Sesame cream, copy")
    field.fill("14.2 14.5 14.3 14.4")
    field.press("Enter")
    expect(cream.get_by_text("No difference that these readings tell")).to_be_visible()
    field.fill("as much as before")
    field.press("Enter")
    expect(cream.get_by_text("was not read").first).to_be_visible()
    expect(field).to_have_value("as much as before")
    page.keyboard.press("Control+z")
    expect(field).to_have_value("14.2 14.5 14.3 14.4")


def test_causes_follow_the_readings_and_make_the_next_version(
    clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]
) -> None:
    """The coat's seed melted, by the log; typed cooler, it did not; what is chosen becomes a version that knows its parent."""
    page = clean_page
    page.add_init_script(_SLOW_TO_SAVE)
    open_trials(page, demo_server.url, "wrong")
    coat = page.get_by_role("region", name="Dark coat")
    expect(coat.get_by_text(re.compile("seed melted: 8[0-9] in 100"))).to_be_visible(timeout=LONG_MS)
    accessible(page)
    expect(coat.get_by_role("row", name=re.compile("^It was worked so warm")).get_by_text("proposed")).to_be_visible()
    other = coat.get_by_role("button", name="take this one: The temper was poor")
    other.click()
    expect(coat.get_by_role("button", name="take this one: It was worked so warm that its seed melted")).to_be_visible()
    coat.get_by_role("button", name="taken: The temper was poor").click()
    heat = coat.get_by_label("Dark coat: The heat the chocolate was worked at")
    heat.fill("31.5")
    heat.press("Enter")
    expect(coat.get_by_text(re.compile("seed melted: 8[0-9] in 100"))).not_to_be_visible()
    page.evaluate("window.isSlow = true")  # the next version is asked for while this is still on its way
    heat.fill("")
    heat.press("Enter")
    wafer = page.get_by_label("What is wrong with Coffee wafer")
    wafer.select_option(label="Soft, soggy")
    expect(page.get_by_role("button", name="Coffee wafer is not soft, soggy")).to_be_visible()
    page.get_by_role("button", name="Coffee wafer is not soft, soggy").click()
    aside = page.get_by_role("complementary", name="Change next time")
    expect(aside.get_by_role("checkbox")).to_have_count(2)
    aside.get_by_role("checkbox").first.uncheck()
    aside.get_by_role("button", name="Make the next version").click()
    page.wait_for_url(re.compile(r"/formulate\?version=faithful-try-3"), timeout=LONG_MS)
    expect(page.get_by_role("button", name="Faithful, try 3", exact=True)).to_have_attribute("aria-current", "true")


def test_a_blind_tasting_from_codes_to_verdict(clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]) -> None:
    """Codes for two tasters; one answers on a phone, one is typed; what lies where is shown only on asking."""
    page = clean_page
    open_trials(page, demo_server.url, "taste")
    page.get_by_role("button", name="Prepare a triangle test").click()
    page.get_by_label("Tasters: how many, or their names with commas").fill("Ida, Jon")
    page.get_by_role("button", name="Draw codes").click()
    ida = page.get_by_role("link", name="Ida")
    expect(ida).to_be_visible()
    expect(page.get_by_text("On the plate")).not_to_be_visible()
    accessible(page)
    phone = page.context.new_page()
    phone.set_viewport_size({"width": 390, "height": 780})
    phone.goto(ida.get_attribute("href") or "")
    expect(phone.get_by_role("heading", name="Ida, your plate")).to_be_visible()
    expect(phone.get_by_text(re.compile("original|copy|Night Crossing"))).not_to_be_visible()
    accessible(phone)
    phone.get_by_role("radio").nth(1).check()
    phone.get_by_role("button", name="That is my answer").click()
    expect(phone.get_by_role("status")).to_contain_text("Noted")
    phone.close()
    page.reload()
    expect(page.get_by_text(re.compile(r"[01] of 1 named the odd one"))).to_be_visible()
    page.get_by_label("Answer of Jon").select_option(index=1)
    expect(page.get_by_text(re.compile(r"[0-2] of 2 named the odd one"))).to_be_visible()
    page.get_by_role("button", name="Show what lies where, to plate it").click()
    expect(page.get_by_text("On the plate")).to_be_visible()


def test_marks_words_and_days_are_kept(clean_page: Page, demo_server: Server) -> None:
    """A score sheet by keyboard, a line of one's own, a look after some days."""
    page = clean_page
    base = open_trials(page, demo_server.url, "taste")
    page.get_by_role("button", name="A line of your own").click()
    page.get_by_label("Line of your own").fill("Coffee")
    page.get_by_label("Line of your own").press("Enter")
    mark = page.get_by_label("Coffee, original, Ours")
    mark.fill("7")
    mark.press("Tab")
    page.keyboard.type("5.5")
    page.keyboard.press("Enter")
    page.get_by_label("Sweet, copy, Ours").fill("12")
    page.get_by_label("Sweet, copy, Ours").press("Enter")
    expect(page.get_by_text("Write a mark from 0 to 10.")).to_be_visible()
    page.goto(f"{base}trials?part=beside")
    expect(page.get_by_role("row", name=re.compile("^Coffee 7.0")).get_by_text("5.5")).to_be_visible(timeout=LONG_MS)
    page.goto(f"{base}trials?part=taste")
    page.evaluate("() => { window.print = () => { window.printed = document.querySelector('[data-ballot]').textContent } }")
    page.get_by_role("button", name="Print an empty sheet").click()
    page.wait_for_function("window.printed")
    ballot = page.evaluate("window.printed")
    assert "Snap of the coat" in ballot
    assert "Coffee" in ballot
    assert not re.search("original|copy|Ours", ballot)
    page.goto(f"{base}trials?part=made")
    page.get_by_role("button", name="Look at a piece after some days").click()
    days = page.get_by_label("After days").last
    days.fill("14")
    days.press("Enter")
    page.get_by_label("It was").last.select_option("no longer good")
    expect(page.get_by_text("As made after 3 days, less good after 10 days.")).to_be_visible()


def test_the_original_is_tasted_in_study(clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]) -> None:
    """A mark typed there stands in where a sheet has none of the original; one beyond the line says so and stays."""
    page = clean_page
    base = open_match(page, demo_server.url, "Night Crossing")
    page.goto(f"{base}study?part=senses")
    page.get_by_label("Chew, original").fill("4")
    page.get_by_label("Chew, original").press("Enter")
    page.get_by_label("Salty, original").fill("lots")
    page.get_by_label("Salty, original").press("Enter")
    expect(page.get_by_text("Write a mark from 0 to 10.")).to_be_visible()
    accessible(page)
    page.goto(f"{base}trials?part=taste")
    page.get_by_label("Chew, copy, Ours").fill("5")
    page.get_by_label("Chew, copy, Ours").press("Enter")
    page.goto(f"{base}trials?part=beside")
    expect(page.get_by_role("row", name=re.compile("^Chew 4.0"))).to_be_visible(timeout=LONG_MS)


def test_photos_stand_at_one_scale(clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]) -> None:
    """Two pictures, one of 40 and one of 20 mm: the second is drawn half as wide; what is no picture gets a sentence."""
    page = clean_page
    open_trials(page, demo_server.url)
    out = io.BytesIO()
    Image.new("RGB", (900, 500), (90, 60, 40)).save(out, "PNG")
    file = {"name": "cut.png", "mimeType": "image/png", "buffer": out.getvalue()}
    for number, (of, wide) in enumerate((("original", "40"), ("copy", "20"))):
        page.get_by_label(f"A photo of the {of}").set_input_files([file])  # type: ignore[list-item]
        expect(page.get_by_label("Shows, wide")).to_have_count(number + 1)
        field = page.get_by_label("Shows, wide").nth(number)
        field.fill(wide)
        field.press("Enter")
    first, second = (page.get_by_role("img", name=f"{title}, photo") for title in ("Original", "Copy"))
    expect(second).to_have_attribute("width", "150")
    expect(first).to_have_attribute("width", "300")
    accessible(page)
    odd = {"name": "notes.png", "mimeType": "image/png", "buffer": b"no picture at all"}
    page.get_by_label("A photo of the copy").set_input_files([odd])  # type: ignore[list-item]
    expect(page.get_by_role("alert")).to_contain_text("no JPEG, PNG or WebP")


def test_trials_stand_beside_each_other(clean_page: Page, demo_server: Server, accessible: Callable[[Page], None]) -> None:
    """Which was closer, what was changed and what it did; a loss that was learnt plans a batch; taken out and brought back."""
    page = clean_page
    base = open_trials(page, demo_server.url, "over-time")
    second = page.get_by_role("row", name=re.compile("^Trial 2"))
    expect(second.get_by_text(re.compile("Closer than Trial 1"))).to_be_visible(timeout=LONG_MS)
    expect(second.get_by_text(re.compile(r"^Nearer: Sesame cream \+2\.[6-9] → \+0\.[0-4] g$"))).to_be_visible()
    accessible(page)
    page.get_by_role("button", name="Plan with 4.0 %").click()
    expect(page.get_by_text("planned", exact=True)).to_be_visible()
    page.get_by_role("button", name="Trial 2, Faithful, try 2").click()
    page.get_by_role("button", name="Take this trial out").click()
    expect(page.get_by_role("button", name="Trial 2, Faithful, try 2")).not_to_be_visible()
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="Trial 2, Faithful, try 2")).to_be_visible()
    page.goto(f"{base}batch?batch=vegan-straight-swap-batch")
    expect(page.get_by_role("textbox", name="Breaks or is tasted")).to_have_value("4.0", timeout=LONG_MS)


def test_a_trial_is_begun_where_there_is_none(clean_page: Page, demo_server: Server) -> None:
    """Of a match with a batch and a cook; of one without there is a way to it."""
    page = clean_page
    base = open_match(page, demo_server.url, "Lime Quay")
    page.goto(f"{base}trials")
    page.get_by_role("button", name="Begin a trial").click()
    expect(page.get_by_role("heading", level=1, name=re.compile("Lime Quay, Trial 1"))).to_be_visible(timeout=LONG_MS)
    expect(page.get_by_text("Nothing has been read of both yet.")).to_be_visible(timeout=LONG_MS)
    base = open_match(page, demo_server.url, "Orchard Signal")
    page.goto(f"{base}trials")
    expect(page.get_by_role("link", name="Say how much to make")).to_be_visible()
