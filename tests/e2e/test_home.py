"""The home page: how builds stand, what is done with a whole one, and starts of every shape."""

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect


def row(page: Page, name: str) -> Any:
    return page.get_by_role("row", name=re.compile(rf"\b{name}\b"))


def chosen(page: Page, name: str, what: str) -> None:
    page.get_by_role("button", name=f"More for {name}", exact=True).click()
    page.get_by_role("menuitem", name=what).click()


@pytest.fixture
def two_builds(signed_in: Page) -> Page:
    """A fanless housing called Limpet and a furniture box called Dunlin, on the home page."""
    page = signed_in
    for shape, name in (("Fanless housing", "Limpet"), ("Furniture box", "Dunlin")):
        page.get_by_text(shape, exact=True).click()
        page.get_by_role("textbox", name="Name").fill(name)
        page.get_by_role("button", name="Create build").click()
        expect(page.get_by_test_id("terraces")).to_be_visible()
        page.goto("/#/")
        expect(page.get_by_role("heading", name="New build")).to_be_visible()
    return page


def test_a_line_says_how_a_build_stands(two_builds: Page) -> None:
    page = two_builds
    expect(row(page, "Limpet")).to_contain_text(re.compile(r"holds|tight"))
    expect(row(page, "Limpet")).to_contain_text("silent")
    expect(row(page, "Dunlin")).to_contain_text(re.compile(r"[+−]\d+\.\d ± \d+\.\d K"))
    expect(row(page, "Dunlin")).to_contain_text("no run yet")


def test_a_build_is_copied_renamed_archived_and_deleted_and_brought_back(two_builds: Page) -> None:
    page = two_builds
    chosen(page, "Dunlin", "Copy")
    expect(row(page, "Copy of Dunlin")).to_be_visible()
    chosen(page, "Copy of Dunlin", "Rename")
    page.get_by_label("New name of Copy of Dunlin").fill("Turnstone")
    page.keyboard.press("Enter")
    expect(row(page, "Turnstone")).to_be_visible()
    chosen(page, "Turnstone", "Put in the archive")
    expect(row(page, "Turnstone")).to_have_count(0)
    page.get_by_role("button", name="Archive, 1").click()
    chosen(page, "Turnstone", "Take out of the archive")
    page.get_by_role("button", name="Back to the builds").click()
    chosen(page, "Turnstone", "Delete")
    expect(row(page, "Turnstone")).to_have_count(0)
    page.get_by_role("button", name="Bring it back").click()
    expect(row(page, "Turnstone")).to_be_visible()


def test_the_menu_of_a_build_goes_by_keys(two_builds: Page) -> None:
    page = two_builds
    page.get_by_role("button", name="More for Limpet").press("Enter")
    expect(page.get_by_role("menuitem", name="Copy")).to_be_focused()
    page.keyboard.press("ArrowDown")
    expect(page.get_by_role("menuitem", name="Rename")).to_be_focused()
    page.keyboard.press("Escape")
    expect(page.get_by_role("menu")).to_have_count(0)
    expect(page.get_by_role("button", name="More for Limpet")).to_be_focused()


def test_a_build_is_found_by_a_part_of_it(two_builds: Page) -> None:
    page = two_builds
    page.keyboard.press("/")
    page.keyboard.type("cut openings")
    expect(row(page, "Limpet")).to_have_count(0)
    expect(row(page, "Dunlin")).to_be_visible()
    page.keyboard.press("ControlOrMeta+a")
    page.keyboard.type("no such thing")
    expect(page.get_by_text("Nothing says “no such thing”.")).to_be_visible()


def test_a_figure_that_is_left_out_is_the_start_of_the_shape(signed_in: Page) -> None:
    page = signed_in
    page.get_by_text("Box, air cooler", exact=True).click()
    first = page.get_by_test_id("first-answer")
    expect(first).to_contain_text(re.compile("Holds|Tight"))
    page.get_by_role("textbox", name="Processor W").fill("")
    page.get_by_role("textbox", name="Graphics W").fill("600")
    expect(first).to_contain_text(re.compile(r"−\d+\.\d ± "))
    page.get_by_role("textbox", name="Graphics W").fill("0")
    expect(first).to_contain_text("Holds")
    page.get_by_role("button", name="Create build").click()
    expect(page.get_by_test_id("terraces")).to_be_visible()
    page.keyboard.press("2")
    expect(page.get_by_label("Processor in Both")).to_have_value("95")


@pytest.mark.parametrize("dark", [False, True])
def test_no_serious_accessibility_finding_at_home(two_builds: Page, axe: Any, dark: bool) -> None:
    page = two_builds
    if dark:
        page.get_by_role("button", name="Dark").click()
    expect(row(page, "Limpet")).to_contain_text("silent")
    page.get_by_role("button", name="More for Limpet").click()
    assert axe() == []
