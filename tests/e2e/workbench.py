"""What every browser test does at the workbench: open a stage, wait until a change is saved and answered."""

import re

from playwright.sync_api import Locator, Page, expect


def settled(page: Page) -> None:
    """Saved, and the bands drawn."""
    expect(page.get_by_test_id("saved")).to_have_text("saved")
    page.wait_for_timeout(900)


def stage(page: Page, name: str) -> None:
    page.get_by_role("navigation", name="Stages").get_by_role("link", name=re.compile(name)).click()
    expect(page.get_by_role("heading", name=name, exact=True)).to_be_visible()


def log_input(page: Page) -> Locator:
    """Where a log or a run file is chosen on Bench."""
    return page.get_by_role("region", name="Drop a log here").locator("input[type=file]")


def new_slot(page: Page, name: str, gap: str) -> None:
    page.get_by_label("Name of a new slot").fill(name)
    page.get_by_label("Gap of a new slot").fill(gap)
    page.get_by_role("button", name="+ Slot").click()
    expect(page.get_by_role("group", name="Slots").get_by_role("button", name=name)).to_be_visible()


def stack(page: Page, *labels: str) -> None:
    for n, label in enumerate(labels, start=1):
        page.get_by_label("Add to the stack").select_option(label=label)
        expect(page.get_by_label(re.compile("^Thickness of "))).to_have_count(n)
    settled(page)


def first_of(page: Page, kind: str) -> str:
    """Name of the first part of a kind that may go into the stack."""
    options = page.get_by_label("Add to the stack").locator("optgroup").first.locator("option").all_inner_texts()
    return next(text for text in options if kind in text.lower())
