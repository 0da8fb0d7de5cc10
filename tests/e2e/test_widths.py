"""Every stage at the widths it is used at: nothing runs out of the page, no two cells of the strip lie on each other."""

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect
from workbench import settled, stage

STAGES = ("brief", "heat", "route", "air", "fit", "forecast", "bench", "verdict", "sheet", "logbook")
WIDTHS = [(1280, 800), (1024, 768), (640, 400), (390, 844)]

CELLS = """() => [...document.querySelectorAll('.strip > *')]
  .map(e => e.getBoundingClientRect()).filter(r => r.width && r.height)
  .map(r => [r.left, r.top, r.right, r.bottom])"""
CUT = """() => [...document.querySelectorAll('.strip .num')].filter(e => e.offsetParent && e.scrollWidth > e.clientWidth + 1)
  .map(e => e.textContent)"""
OVER = "() => document.documentElement.scrollWidth - document.documentElement.clientWidth"


def long_names(page: Page) -> None:
    """The build, a workload and a part get names that fill their cells."""
    stage(page, "Brief")
    page.get_by_label("Name", exact=True).fill("Listening desk, second one, with the doors closed")
    page.get_by_label("Name", exact=True).blur()
    expect(page.get_by_test_id("saved")).to_have_text("saved")


OUT_OF_SHEET = """() => { const sheet = document.querySelector('[data-sheet]'), right = sheet.getBoundingClientRect().right;
  return [...sheet.querySelectorAll('*')].filter(e => e.offsetWidth && e.getBoundingClientRect().right > right + 1)
    .map(e => `${e.tagName} ${e.textContent.trim().slice(0, 30)}`) }"""


@pytest.mark.parametrize("size", WIDTHS[::3], ids=lambda size: str(size[0]))
def test_the_sheet_of_a_place_holds_its_longest_class(recipe_build: Page, size: tuple[int, int]) -> None:
    page = recipe_build
    settled(page)
    stage(page, "Heat")
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.get_by_role("button", name="Drive", exact=True).first.click()
    sheet = page.locator("[data-sheet]")
    sheet.get_by_role("button", name="Drive", exact=True).click()
    expect(sheet.get_by_text("gives up watts after").first).to_be_visible()
    assert page.evaluate(OUT_OF_SHEET) == []


@pytest.mark.parametrize("size", WIDTHS, ids=lambda size: str(size[0]))
def test_every_stage_holds_its_width(recipe_build: Page, size: tuple[int, int]) -> None:
    page = recipe_build
    settled(page)
    long_names(page)
    base = page.url.rsplit("/", 1)[0]
    page.set_viewport_size({"width": size[0], "height": size[1]})
    for name in STAGES:
        page.goto(f"{base}/{name}")
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        assert page.evaluate(OVER) <= 0, name
        assert page.evaluate(CUT) == [], name
        boxes = page.evaluate(CELLS)
        for i, (left, top, right, bottom) in enumerate(boxes):
            for other in boxes[i + 1 :]:
                apart = right <= other[0] + 1 or other[2] <= left + 1 or bottom <= other[1] + 1 or other[3] <= top + 1
                assert apart, (name, boxes)


def test_arrows_choose_the_workload_in_the_strip(recipe_build: Page) -> None:
    page = recipe_build
    settled(page)
    page.get_by_role("radio", name="Both").focus()
    page.keyboard.press("ArrowLeft")
    expect(page.get_by_role("radio", name="Graphics")).to_be_focused()
    expect(page.get_by_role("radio", name="Graphics")).to_have_attribute("aria-checked", "true")
    assert page.get_by_role("radio").evaluate_all("all => all.filter(e => e.tabIndex === 0).length") == 1


def test_on_a_phone_the_rest_of_the_strip_opens_by_a_touch_and_closes_by_esc(recipe_build: Page) -> None:
    page = recipe_build
    settled(page)
    page.set_viewport_size({"width": 390, "height": 844})
    expect(page.get_by_test_id("tightest")).to_be_visible()
    assert not page.get_by_role("combobox", name="Workload in view").is_visible()
    page.get_by_role("button", name="Workload, room and sound").click()
    page.get_by_role("combobox", name="Workload in view").select_option(label="Idle")
    expect(page.get_by_text("Tightest in Idle")).to_be_visible()
    page.keyboard.press("Escape")
    assert not page.get_by_role("combobox", name="Workload in view").is_visible()
    order = (
        page.get_by_role("navigation", name="Stages")
        .get_by_role("link")
        .evaluate_all(
            """all => all.map(e => [e.getBoundingClientRect().left, e.querySelector('.label').textContent])
            .sort((a, b) => a[0] - b[0])"""
        )
    )
    assert [name for _, name in order][:4] == ["Bench", "Verdict", "Build sheet", "Logbook"]


@pytest.mark.parametrize(
    ("size", "dark"), [((1280, 800), False), ((1024, 768), True), ((640, 400), True), ((390, 844), False)]
)
def test_no_serious_accessibility_finding_at_any_width(
    recipe_build: Page, axe: Any, size: tuple[int, int], dark: bool
) -> None:
    """640 by 400 is what 1280 by 800 shows at 200 %."""
    page = recipe_build
    settled(page)
    if dark:
        page.get_by_role("button", name="Dark").click()
    base = page.url.rsplit("/", 1)[0]
    page.set_viewport_size({"width": size[0], "height": size[1]})
    for name in STAGES:
        page.goto(f"{base}/{name}")
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        page.wait_for_timeout(700)
        assert axe() == [], name


def test_readings_are_taken_by_one_hand_on_a_phone(recipe_build: Page) -> None:
    page = recipe_build
    settled(page)
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{page.url.rsplit('/', 1)[0]}/bench")
    pad = page.get_by_role("group", name="Number pad")

    def typed(text: str) -> None:
        for key in text:
            name = "Decimal point" if key == "." else key
            pad.get_by_role("button", name=name, exact=True).click()

    typed("24.5")
    pad.get_by_role("button", name=re.compile("next field")).click()
    expect(page.get_by_test_id("reading-pad")).to_contain_text("predicted")
    typed("799")
    pad.get_by_role("button", name="Delete a digit").click()
    pad.get_by_role("button", name=re.compile("next field")).click()
    pad.get_by_role("button", name="skip").click()
    typed("61.2")
    cells = page.get_by_role("group", name="What is read")
    expect(cells.get_by_role("button", name=re.compile("^Processor"))).to_contain_text("79 °C")
    page.get_by_role("button", name="Keep 2 readings").click()
    expect(page.get_by_role("heading", name="Both typed")).to_be_visible()
    expect(page.get_by_text("Room 24.5 °C")).to_be_visible()
    height = pad.get_by_role("button", name="7", exact=True).evaluate("key => key.getBoundingClientRect().height")
    assert height >= 44
