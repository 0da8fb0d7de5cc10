"""The main job in a real browser: from the recipe to a verdict."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

BENCH_CELL = "Processor in Both"


def top_of(page: Page, place: str) -> float:
    return float(page.locator(f"[data-tower={place}]").get_attribute("data-top") or "nan")


def settled(page: Page) -> None:
    """Saved, and the bands drawn."""
    expect(page.get_by_test_id("saved")).to_have_text("saved")
    page.wait_for_timeout(900)


def stage(page: Page, name: str) -> None:
    page.get_by_role("navigation", name="Stages").get_by_role("link", name=re.compile(name)).click()
    expect(page.get_by_role("heading", name=name, exact=True)).to_be_visible()


def test_a_hotter_processor_moves_its_tower_and_the_shared_terrace_and_undo_restores_all(recipe_build: Page):
    page = recipe_build
    settled(page)
    processor, graphics = top_of(page, "processor-core"), top_of(page, "graphics-chip")
    stage(page, "Heat")
    page.get_by_label(BENCH_CELL).fill("150")
    settled(page)
    stage(page, "Route")
    expect(page.locator("[data-tower=processor-core]")).not_to_have_attribute("data-top", str(processor))
    assert top_of(page, "processor-core") > processor + 5
    assert top_of(page, "graphics-chip") > graphics + 0.3
    page.reload()
    expect(page.get_by_test_id("terraces")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("[data-tower=processor-core]")).to_have_attribute("data-top", str(processor))
    assert top_of(page, "graphics-chip") == pytest.approx(graphics, abs=1e-6)


def test_a_figure_that_cannot_be_is_said_and_not_taken(recipe_build: Page):
    page = recipe_build
    stage(page, "Heat")
    page.get_by_label(BENCH_CELL).fill("-4")
    expect(page.get_by_text("0 to 2000")).to_be_visible()
    page.get_by_label(BENCH_CELL).fill("12x")
    expect(page.get_by_text("a number is needed")).to_be_visible()
    page.get_by_label(BENCH_CELL).blur()
    expect(page.get_by_label(BENCH_CELL)).to_have_value("125")


def test_eight_sources_scroll_and_keep_a_readable_width(recipe_build: Page):
    page = recipe_build
    assert page.locator("[data-tower]").count() == 8
    scroller = page.get_by_test_id("terraces")
    assert scroller.evaluate("e => e.scrollWidth > e.clientWidth")
    narrowest = page.locator("[data-tower] rect.hop").evaluate_all(
        "all => Math.min(...all.map(r => +r.getAttribute('width')))"
    )
    assert narrowest >= 90


def test_keys_workloads_and_the_order_of_the_loop(recipe_build: Page):
    page = recipe_build
    settled(page)
    page.keyboard.press("[")
    expect(page.get_by_role("radio", name="Graphics")).to_have_attribute("aria-checked", "true")
    page.keyboard.press("]")
    page.keyboard.press("6")
    expect(page.get_by_role("heading", name="Forecast")).to_be_visible()
    page.keyboard.press("3")
    page.keyboard.press("?")
    expect(page.get_by_role("heading", name="Keys")).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("/")
    page.get_by_label("Find a part or a figure").fill("graphics plate")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Side sheet").get_by_role("heading", name="Graphics plate")).to_be_visible()
    page.keyboard.press("Escape")
    beads = page.locator("[data-bead]")
    first = [bead.get_attribute("data-bead") for bead in beads.all()]
    page.locator("[data-bead=plate-processor]").focus()
    page.keyboard.press("ArrowRight")
    expect(beads.nth(first.index("plate-processor"))).to_have_attribute("data-bead", "plate-graphics")
    settled(page)


def test_practice_log_typed_readings_and_verdict(recipe_build: Page, tmp_path: Path):
    page = recipe_build
    settled(page)
    stage(page, "Bench")
    with page.expect_download() as download:
        page.get_by_role("button", name="Practice log").click()
    log = tmp_path / "practice.csv"
    download.value.save_as(log)
    page.get_by_label("Room at start").first.fill("25")
    page.get_by_label("at end").first.fill("25.2")
    page.locator("input[type=file]").set_input_files(log)
    expect(page.get_by_test_id("status")).to_contain_text("Load from")
    expect(page.get_by_test_id("lines")).to_contain_text("0 lines repaired")
    expect(page.get_by_test_id("curves").locator("canvas")).to_be_visible()
    stage(page, "Verdict")
    expect(page.get_by_test_id("verdict")).to_be_visible()
    assert page.locator("table tbody tr").count() >= 10
    stage(page, "Bench")
    page.get_by_role("tab", name="Typed readings").click()
    page.get_by_label("Room at start").first.fill("25")
    page.get_by_label("at end").first.fill("25,5")
    for row, value in enumerate(("74", "66", "58", "57", "60", "58"), start=1):
        page.get_by_label(f"temperature {row}").fill(value)
    page.get_by_role("button", name="Keep 6 readings").click()
    expect(page.get_by_role("button", name=re.compile("Both typed"))).to_be_visible()
    stage(page, "Verdict")
    page.get_by_role("radio", name="Both typed").click()
    expect(page.get_by_test_id("verdict")).to_be_visible()
    expect(page.locator("table tbody tr")).to_have_count(6)
    stage(page, "Logbook")
    expect(page.get_by_role("heading", name="Revision 1")).to_be_visible()


@pytest.mark.parametrize("dark", [False, True])
@pytest.mark.parametrize("name", ["Brief", "Heat", "Route", "Forecast", "Bench", "Verdict", "Logbook"])
def test_no_serious_accessibility_finding(recipe_build: Page, axe, name: str, dark: bool):
    page = recipe_build
    page.evaluate("dark => document.documentElement.classList.toggle('dark', dark)", dark)
    stage(page, name)
    settled(page)
    if name == "Forecast":
        expect(page.locator("table")).to_be_visible()
    assert axe() == []


def test_sign_out(signed_in: Page):
    page = signed_in
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
