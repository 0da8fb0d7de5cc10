"""States that have no figure, and parts that are held at their limit: what a person sees of both."""

import re

from playwright.sync_api import Page, expect


def route(page: Page) -> None:
    expect(page.get_by_test_id("tightest")).to_contain_text(re.compile(r"± \d"), timeout=20_000)
    page.locator("main").click(position={"x": 4, "y": 4})
    page.keyboard.press("3")
    expect(page.get_by_role("heading", name="Route", exact=True)).to_be_visible()


def test_a_stopped_pump_turns_everything_to_unknown_and_back(recipe_build: Page) -> None:
    page = recipe_build
    route(page)
    page.get_by_role("button", name=re.compile("^Pump")).first.click()
    page.get_by_role("combobox", name="In this workload").select_option("off")
    fault = page.get_by_text(re.compile("no lasting state: the coolant of Loop A comes to boil"))
    expect(fault.first).to_be_visible()
    expect(fault.first).to_contain_text("The pump stands still")
    expect(page.get_by_test_id("tightest")).to_contain_text("unknown")
    page.keyboard.press("Escape")
    page.locator("main").click(position={"x": 4, "y": 4})
    page.keyboard.press("6")
    expect(page.get_by_role("cell", name="unknown").first).to_be_visible(timeout=20_000)
    page.reload()
    expect(fault.first).to_be_visible(timeout=20_000)
    page.get_by_label("Undo").click()
    expect(fault).to_have_count(0)
    expect(page.get_by_test_id("tightest")).to_contain_text("K", timeout=20_000)


def test_a_part_that_throttles_is_held_at_its_limit_and_says_what_it_loses(recipe_build: Page) -> None:
    page = recipe_build
    route(page)
    drawer = page.get_by_role("complementary", name="What limits it")
    drawer.get_by_label("Part in view").select_option(label="Processor")
    drawer.get_by_label("throttles at its limit").check()
    expect(page.get_by_test_id("saved")).to_have_text("saved")
    room = page.get_by_label("Room one kelvin warmer")
    for _ in range(24):
        room.click()
    expect(drawer).to_contain_text("throttled")
    expect(drawer).to_contain_text(re.compile(r"Held at 95 °C, loses \d+ of 125 W"))
    expect(page.get_by_role("img", name="throttled").first).to_be_visible()
    for _ in range(24):
        page.get_by_label("Room one kelvin cooler").click()
    expect(drawer).not_to_contain_text("throttled")
