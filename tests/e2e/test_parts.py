"""Parts in the hand of a practitioner: held by a lock, given measured points, driven in steps, put in as a set."""

import re

from playwright.sync_api import Page, expect
from workbench import settled, stage


def open_part(page: Page, name: str) -> None:
    page.keyboard.press("/")
    page.keyboard.type(name)
    page.keyboard.press("Enter")


def test_a_locked_part_is_left_alone_until_it_is_unlocked(recipe_build: Page) -> None:
    page = recipe_build
    changes = page.get_by_test_id("next-changes")
    expect(changes.get_by_role("button", name=re.compile("Radiator 360: 3 → 4"))).to_be_visible()
    open_part(page, "Radiator 360")
    page.get_by_role("button", name="Lock", exact=True).click()
    settled(page)
    expect(changes.get_by_role("button", name=re.compile("Radiator 360"))).to_have_count(0)
    page.keyboard.press("Escape")
    page.get_by_test_id("locks").get_by_role("button", name="Lock Radiator 360").click()
    settled(page)
    expect(changes.get_by_role("button", name=re.compile("Radiator 360: 3 → 4"))).to_be_visible()


def test_measured_points_of_a_radiator_are_pasted_and_given_back(recipe_build: Page) -> None:
    page = recipe_build
    open_part(page, "Radiator 360")
    page.get_by_text("Measured points: none, its class counts").click()
    page.get_by_role("button", name="Add a point").click()
    table = page.get_by_role("table", name="Measured points of Radiator 360")
    table.get_by_label("air flow, point 1").evaluate(
        """(cell) => {
            const data = new DataTransfer();
            data.setData('text', '60\\t9,5\\n120\\t14.5\\t4\\t8');
            cell.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
        }"""
    )
    expect(table.get_by_label("W/K, point 2")).to_have_value("14.5")
    table.get_by_label("air flow, point 2").fill("50")
    page.keyboard.press("Tab")
    expect(page.get_by_role("alert").filter(has_text="rise")).to_be_visible()
    table.get_by_label("air flow, point 2").fill("130")
    page.keyboard.press("Tab")
    settled(page)
    expect(page.get_by_role("alert").filter(has_text="rise")).to_have_count(0)
    page.get_by_role("button", name="Back to its class").click()
    settled(page)
    expect(page.get_by_text("Measured points: none, its class counts")).to_be_visible()


def test_a_fan_runs_in_steps_or_cannot_be_slowed(recipe_build: Page) -> None:
    page = recipe_build
    strip = page.get_by_role("banner")
    open_part(page, "Fan A1")
    page.get_by_label("It is driven").select_option("fixed")
    settled(page)
    loud = strip.inner_text()
    page.get_by_label("It is driven").select_option("steps")
    page.get_by_label("Steps, % of full speed").fill("30 60")
    page.keyboard.press("Tab")
    settled(page)
    assert strip.inner_text() != loud
    page.get_by_label("Steps, % of full speed").fill("slow")
    page.keyboard.press("Tab")
    expect(page.get_by_role("alert").filter(has_text="per cents")).to_be_visible()
    page.get_by_role("combobox", name="In this workload").select_option("rpm")
    page.get_by_label("speed in this workload").fill("900")
    settled(page)
    page.keyboard.press("ControlOrMeta+z")


def test_a_set_is_put_in_by_one_step_and_taken_back_by_one(recipe_build: Page) -> None:
    page = recipe_build
    stage(page, "Heat")
    page.keyboard.press("a")
    page.get_by_role("tab", name="Set").click()
    page.get_by_role("radio", name=re.compile("over a cut-out")).check()
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("status").filter(has_text="Added Graphics card over a cut-out")).to_be_visible()
    page.keyboard.press("Escape")
    settled(page)
    stage(page, "Route")
    expect(page.locator("[data-tower='graphics-chip-2']")).to_be_visible()
    page.keyboard.press("ControlOrMeta+z")
    settled(page)
    expect(page.locator("[data-tower='graphics-chip-2']")).to_have_count(0)
