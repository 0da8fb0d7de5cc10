"""In time: the sentence, the curves with their bands, the scrubbed minute, what is off; by hand and by keyboard."""

import re

import pytest
from playwright.sync_api import Locator, Page, expect


@pytest.fixture
def in_time(recipe_build: Page) -> Page:
    page = recipe_build
    page.goto(re.sub(r"(#/build/[^/]+).*", r"\1/forecast/time", page.url))
    expect(page.get_by_test_id("in-time-says")).to_contain_text("30 minutes show", timeout=60_000)
    return page


def row(page: Page, minute: int, part: str) -> Locator:
    return page.get_by_role("region", name=f"At minute {minute}").get_by_role("row", name=re.compile(f"^{part}"))


def test_a_load_is_followed_and_scrubbed_by_keyboard(in_time: Page):
    page = in_time
    expect(page.locator("[data-band]").first).to_be_attached(timeout=60_000)
    slider = page.get_by_role("slider", name="Minute after load on")
    slider.focus()
    expect(slider).to_have_attribute("aria-valuenow", "30")
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("Shift+ArrowLeft")
    expect(slider).to_have_attribute("aria-valuenow", "19")
    expect(page.get_by_role("heading", name="19 min after load on")).to_be_visible()
    page.keyboard.press("Home")
    expect(row(page, 0, "Drive")).to_contain_text("0 %")
    page.keyboard.press("End")
    expect(slider).to_have_attribute("aria-valuenow", "90")
    expect(row(page, 90, "Drive")).to_contain_text(re.compile("(99|100) %"))


def test_what_is_off_tells_its_minutes_and_a_cold_machine_begins_at_its_room(in_time: Page):
    page = in_time
    pump = page.locator(".off li", has_text="Pump").first
    expect(pump).to_contain_text(re.compile(r"\d s (Graphics|Processor)"), timeout=60_000)
    page.get_by_role("slider", name="Minute after load on").focus()
    page.keyboard.press("Home")
    then = [row(page, 0, part).get_by_role("cell").nth(1) for part in ("Processor", "Drive")]
    warm = [cell.inner_text() for cell in then]
    assert warm[0] != warm[1]
    page.get_by_label("What was before").select_option("cold")
    expect(then[1]).not_to_have_text(warm[1], timeout=60_000)
    expect(then[0]).to_have_text(then[1].inner_text())


def test_changes_are_ranked_by_what_they_do_in_the_minutes_and_tried(in_time: Page):
    page = in_time
    says = page.get_by_test_id("changes-in-time")
    expect(says).to_contain_text("after 30 min", timeout=90_000)
    first = page.get_by_role("region", name="What it comes to").locator(".step").first
    expect(first).to_contain_text(re.compile(r"−\d+\.\d K"))
    first.click()
    expect(page.get_by_role("region", name=re.compile("^Trial"))).to_be_visible()


def test_a_load_that_comes_and_goes_peaks_lower_than_one_that_stays(in_time: Page):
    page = in_time
    figures = row(page, 30, "Drive").get_by_role("cell")
    expect(page.get_by_role("columnheader", name="settles")).to_be_visible()
    stays = float(figures.nth(3).inner_text())
    page.get_by_role("checkbox", name="comes and goes").check()
    expect(page.get_by_role("columnheader", name="peaks at")).to_be_visible(timeout=60_000)
    expect(page.get_by_test_id("in-time-says")).to_contain_text("until every peak is within 1 K")
    page.get_by_role("textbox", name=re.compile("^off")).fill("40")
    page.keyboard.press("Tab")
    expect(page.get_by_role("status").filter(has_text=re.compile("anew|bands"))).to_have_count(0, timeout=90_000)
    assert float(figures.nth(3).inner_text()) < stays - 2.0
    # next changes are asked of a load that stays
    expect(page.get_by_test_id("changes-in-time")).to_have_count(0)
    page.get_by_role("checkbox", name="comes and goes").uncheck()
    expect(page.get_by_role("columnheader", name="settles")).to_be_visible(timeout=60_000)
    expect(figures.nth(3)).to_have_text(f"{stays:.1f}")
