"""What must not be lost: edits while no server answers, and the edits of two people at one build."""

from collections.abc import Iterator
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, Route, expect
from test_main_job import BENCH_CELL, settled, stage

OTHER_CELL = "Graphics in Both"


@pytest.fixture
def second(recipe_build: Page, browser: Browser, browser_context_args: dict[str, Any]) -> Iterator[Page]:
    """The same build in another browser: refusals are what these tests are about, so its console is not watched."""
    settled(recipe_build)
    context = browser.new_context(**browser_context_args, storage_state=recipe_build.context.storage_state())
    page = context.new_page()
    page.goto(recipe_build.url)
    expect(page.get_by_test_id("terraces")).to_be_visible()
    yield page
    recipe_build.wait_for_timeout(1500)  # a write under way would block the emptying of the database
    context.close()


def lose(route: Route) -> None:
    route.abort("connectionrefused")


def test_an_edit_while_no_server_answers_is_kept_and_saved_when_one_does(second: Page):
    page = second
    stage(page, "Heat")
    page.route("**/api/**", lose)
    page.get_by_label(BENCH_CELL).fill("151")
    expect(page.get_by_test_id("saved")).to_have_text("no answer")
    expect(page.get_by_role("alert").filter(has_text="Krill does not answer")).to_be_visible()
    expect(page.get_by_label(BENCH_CELL)).to_have_value("151")
    page.unroute("**/api/**")
    expect(page.get_by_test_id("saved")).to_have_text("saved")
    expect(page.get_by_role("alert")).to_have_count(0)
    page.reload()
    expect(page.get_by_label(BENCH_CELL)).to_have_value("151")


def test_leaving_with_an_edit_that_is_not_saved_is_asked_about(second: Page):
    page = second
    stage(page, "Heat")
    page.route("**/api/**", lose)
    page.get_by_label(BENCH_CELL).fill("152")
    expect(page.get_by_test_id("saved")).to_have_text("no answer")
    asked: list[str] = []
    page.on("dialog", lambda dialog: (asked.append(dialog.type), dialog.accept()))
    with page.expect_event("close"):
        page.close(run_before_unload=True)
    assert asked == ["beforeunload"]


@pytest.mark.parametrize(("choice", "left"), [("Take theirs", "140"), ("Keep mine", "155")])
def test_of_two_people_nobody_is_overwritten(recipe_build: Page, second: Page, choice: str, left: str):
    """The one who saves later is told, sees the own figure still, and chooses; the other one's edit is in the history."""
    second.route("**/standing", lose)
    for page in (recipe_build, second):
        stage(page, "Heat")
    recipe_build.get_by_label(BENCH_CELL).fill("140")
    settled(recipe_build)
    second.get_by_label(BENCH_CELL).fill("155")
    banner = second.get_by_role("alert").filter(has_text="Nothing was overwritten")
    expect(banner).to_be_visible()
    expect(second.get_by_test_id("saved")).to_have_text("stale")
    expect(second.get_by_label(BENCH_CELL)).to_have_value("155")
    expect(banner).to_contain_text("Both · watts · Processor")
    second.get_by_role("button", name=choice).click()
    expect(banner).to_have_count(0)
    expect(second.get_by_label(BENCH_CELL)).to_have_value(left)
    expect(second.get_by_test_id("saved")).to_have_text("saved")
    recipe_build.reload()
    expect(recipe_build.get_by_label(BENCH_CELL)).to_have_value(left)


def test_what_two_people_change_at_different_places_stays_and_is_told_within_seconds(recipe_build: Page, second: Page):
    for page in (recipe_build, second):
        stage(page, "Heat")
    second.route("**/standing", lose)
    recipe_build.get_by_label(BENCH_CELL).fill("140")
    settled(recipe_build)
    second.get_by_label(OTHER_CELL).fill("205")
    settled(second)
    expect(second.get_by_role("alert")).to_have_count(0)
    expect(second.get_by_role("status").filter(has_text="Changed elsewhere")).to_be_visible()
    for page in (recipe_build, second):
        expect(page.get_by_label(BENCH_CELL)).to_have_value("140")
        expect(page.get_by_label(OTHER_CELL)).to_have_value("205", timeout=10_000)
    told = recipe_build.get_by_role("status").filter(has_text="Changed elsewhere and now in view: ")
    told.get_by_role("button", name="Close").click()
    expect(told).to_have_count(0)
