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
