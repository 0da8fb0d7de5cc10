"""The kelvin terraces in a real browser: one tab stop, small hops opened, the last revision behind, what is out of view."""

import re

from playwright.sync_api import Page, expect
from workbench import settled, stage

FOCUSED = "document.activeElement?.getAttribute('aria-label') ?? ''"


def tower_of_focus(page: Page) -> str:
    return str(page.evaluate("document.activeElement?.closest('[data-tower]')?.dataset.tower ?? ''"))


def test_the_terraces_are_one_tab_stop_and_arrows_go_through_them(recipe_build: Page) -> None:
    page = recipe_build
    assert page.locator("[data-tower] rect.hop[tabindex='0']").count() == 1
    page.locator("[data-tower] rect.hop[tabindex='0']").focus()
    first = tower_of_focus(page)
    page.keyboard.press("ArrowRight")
    second = tower_of_focus(page)
    assert second not in ("", first)
    bottom = page.evaluate(FOCUSED)
    page.keyboard.press("ArrowUp")
    assert page.evaluate(FOCUSED) != bottom
    page.keyboard.press("ArrowDown")
    assert page.evaluate(FOCUSED) == bottom
    page.keyboard.press("ArrowLeft")
    assert tower_of_focus(page) == first
    page.keyboard.press("Enter")
    expect(page.get_by_role("complementary", name="Side sheet").or_(page.get_by_label("Side sheet"))).to_be_visible()
    page.keyboard.press("Escape")
    assert tower_of_focus(page) == first


def test_small_hops_are_one_block_until_they_are_opened(recipe_build: Page) -> None:
    page = recipe_build
    tower = page.locator("[data-tower='processor-core']")
    merged = tower.get_by_role("button", name=re.compile("small hops"))
    before = tower.locator("rect.hop").count()
    merged.first.click()
    assert tower.locator("rect.hop").count() > before
    page.get_by_role("button", name="Small hops together").click()
    expect(tower.locator("rect.hop")).to_have_count(before)


def test_the_tightest_part_stands_first_until_somebody_wants_the_list(recipe_build: Page) -> None:
    page = recipe_build
    tightest = page.get_by_test_id("tightest").inner_text()
    first = page.locator(".names .name").first
    assert first.inner_text().splitlines()[0] in tightest
    by_margin = page.locator("[data-tower]").evaluate_all("all => all.map((one) => one.dataset.tower)")
    page.get_by_role("button", name="Tightest first").click()
    listed = page.locator("[data-tower]").evaluate_all("all => all.map((one) => one.dataset.tower)")
    assert listed != by_margin
    assert sorted(listed) == sorted(by_margin)


def test_what_is_out_of_view_is_counted(recipe_build: Page) -> None:
    page = recipe_build
    page.set_viewport_size({"width": 1024, "height": 800})
    more = page.get_by_role("button", name=re.compile("more to the right"))
    expect(more).to_be_visible()
    more.click()
    expect(page.get_by_role("button", name=re.compile("more to the left"))).to_be_visible()


def test_the_last_revision_stands_behind_while_figures_are_changed(recipe_build: Page) -> None:
    page = recipe_build
    page.keyboard.press("0")
    page.get_by_label(re.compile("Why")).fill("first")
    page.get_by_role("button", name="Save revision").click()
    expect(page.get_by_role("heading", name="Revision 1")).to_be_visible()
    settled(page)
    page.keyboard.press("2")
    page.get_by_label("Processor in Both").fill("200")
    settled(page)
    stage(page, "Route")
    expect(page.locator("[data-ghost='processor-core']")).to_be_attached()
    page.keyboard.press("ControlOrMeta+z")
    settled(page)
    expect(page.locator("[data-ghost]")).to_have_count(0)
