"""The build sheet in a real browser: an order that is ticked, a phone that loses the network, a fill plan, a header."""

import re
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, Route, expect
from workbench import settled, stage


@pytest.fixture
def sheet(recipe_build: Page) -> Page:
    """A water loop at its build sheet."""
    settled(recipe_build)
    stage(recipe_build, "Build sheet")
    expect(recipe_build.get_by_test_id("step-card")).to_be_visible()
    return recipe_build


@pytest.fixture
def phone(recipe_build: Page, browser: Browser, browser_context_args: dict[str, Any]) -> Iterator[Page]:
    """The same build on a phone: what a lost network says in its console is not watched."""
    settled(recipe_build)
    size = {"viewport": {"width": 390, "height": 844}, "has_touch": True, "service_workers": "allow"}
    context = browser.new_context(**browser_context_args | size, storage_state=recipe_build.context.storage_state())
    page = context.new_page()
    page.goto(f"{recipe_build.url.rsplit('/', 1)[0]}/sheet")
    expect(page.get_by_test_id("step-card")).to_be_visible()
    yield page
    recipe_build.wait_for_timeout(1500)  # a write under way would block the emptying of the database
    context.close()


def row(page: Page, step: str) -> Any:
    return page.locator(f"[data-step='{step}']")


def test_from_the_parts_to_a_printed_sheet(sheet: Page) -> None:
    page = sheet
    rows = page.get_by_role("list", name="Steps")
    expect(rows.get_by_role("listitem").last).to_contain_text("Panels, filters, feet")
    expect(row(page, "gate-bench-start")).to_contain_text("Starts outside the box")
    card = page.get_by_test_id("step-card")
    first = card.get_by_role("heading").inner_text()
    card.get_by_role("button", name="I have read this").first.click()
    expect(card).to_contain_text(re.compile("read, mara"))
    card.get_by_role("button", name="Done", exact=True).click()
    expect(card.get_by_role("heading")).not_to_have_text(first)
    expect(rows.locator("[data-state='done']")).to_have_count(1)
    page.keyboard.press("Space")
    expect(rows.locator("[data-state='done']")).to_have_count(2)
    page.reload()
    expect(rows.locator("[data-state='done']")).to_have_count(2)
    parts = page.get_by_role("region", name="Parts")
    parts.get_by_role("button", name="every part").click()
    parts.get_by_label("Pump in hand").select_option("ordered")
    parts.get_by_label("Pump expected").fill("2026-01-02")
    parts.get_by_label("Price of Pump").fill("78")
    expect(parts).to_contain_text("1 late")
    expect(parts).to_contain_text("78")
    settled(page)
    page.get_by_role("link", name="Print").click()
    paper = page.locator("article")
    expect(paper.get_by_role("heading", name="Steps")).to_be_visible()
    expect(paper).to_contain_text("read, mara")
    expect(paper.get_by_text("☑")).to_have_count(2)
    expect(paper).to_contain_text("ordered, 2 Jan 2026")


def test_a_gate_that_failed_blocks_and_asks_why_it_does_not_start(sheet: Page) -> None:
    page = sheet
    row(page, "gate-bench-start").get_by_role("button", name=re.compile("Starts outside")).click()
    card = page.get_by_test_id("step-card")
    card.get_by_role("button", name="Did not work").click()
    card.get_by_label("Why it did not work").fill("one stick of two")
    card.get_by_role("button", name="Keep it as failed").click()
    expect(card).to_contain_text("Did not work: one stick of two")
    expect(row(page, "gate-bench-start")).to_have_attribute("data-state", "failed")
    expect(row(page, "memory")).to_have_attribute("data-state", "waits")
    card.get_by_role("button", name="It does not start").click()
    suspects = page.get_by_role("region", name="It does not start")
    listed = suspects.get_by_role("listitem")
    first = listed.first.locator("strong").inner_text()
    listed.first.get_by_role("button", name="no change").click()
    expect(listed.first.locator("strong")).not_to_have_text(first)
    expect(listed.last.locator("strong")).to_have_text(first)
    card.get_by_role("button", name="Seen to work").click()
    expect(row(page, "gate-bench-start")).to_have_attribute("data-state", "done")
    expect(row(page, "gate-bench-start")).to_contain_text("one stick of two")


def test_ten_steps_on_a_phone_without_a_network(phone: Page) -> None:
    page = phone
    done = page.locator("[data-state='done']")
    big = page.get_by_test_id("step-card").get_by_role("button", name=re.compile("^(Done|Seen to work)$"))
    for n in range(1, 5):
        big.click()
        expect(done).to_have_count(n)
    box = big.bounding_box()
    assert box is not None
    assert box["height"] >= 56
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    page.context.set_offline(True)
    for n in range(5, 11):
        big.click()
        expect(done).to_have_count(n)
    expect(page.get_by_text("6 ticked here, sent when there is a network")).to_be_visible()
    kept = page.evaluate("Object.keys(localStorage).filter((key) => key.startsWith('marks-waiting')).length")
    assert kept == 1
    page.context.set_offline(False)
    expect(page.get_by_text(re.compile("ticked here"))).to_have_count(0)
    page.reload()
    expect(done).to_have_count(10)


def test_ticks_made_without_a_network_survive_a_closed_page(phone: Page) -> None:
    page = phone
    page.context.set_offline(True)
    page.get_by_test_id("step-card").get_by_role("button", name="Done", exact=True).click()
    expect(page.get_by_text("1 ticked here, sent when there is a network")).to_be_visible()
    page.context.set_offline(False)
    page.reload()
    expect(page.locator("[data-state='done']")).to_have_count(1)
    expect(page.get_by_text(re.compile("ticked here"))).to_have_count(0)


def test_a_sheet_that_was_open_opens_again_without_a_network(phone: Page) -> None:
    page = phone
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    page.reload()
    expect(page.get_by_test_id("step-card")).to_be_visible()
    page.wait_for_timeout(1500)  # what was asked of the server is kept once it has come
    page.context.set_offline(True)
    page.reload()
    card = page.get_by_test_id("step-card")
    expect(card).to_be_visible()
    card.get_by_role("button", name="Done", exact=True).click()
    expect(page.get_by_text("1 ticked here, sent when there is a network")).to_be_visible()
    page.reload()
    expect(page.locator("[data-state='done']")).to_have_count(1)
    page.context.set_offline(False)
    expect(page.get_by_text(re.compile("ticked here"))).to_have_count(0)


def test_a_picture_of_a_step_stays_with_it_and_on_the_time_line(sheet: Page) -> None:
    page = sheet
    card = page.get_by_test_id("step-card")
    name = card.get_by_role("heading").inner_text().split("\n")[-1]
    shot = page.screenshot(clip={"x": 0, "y": 0, "width": 320, "height": 200})
    card.locator("input[type=file]").set_input_files({"name": "pins.png", "mimeType": "image/png", "buffer": shot})
    shown = card.get_by_role("button", name=re.compile("^Picture of"))
    expect(shown).to_have_count(1)
    page.reload()
    expect(shown).to_have_count(1)
    shown.click()
    expect(card).to_contain_text("mara")
    stage(page, "Logbook")
    line = page.get_by_role("region", name="Time line")
    expect(line.get_by_role("listitem").filter(has_text="picture").first).to_be_visible()
    expect(line.get_by_role("img", name=re.compile("^Picture of"))).to_have_count(1)
    stage(page, "Build sheet")
    card.get_by_role("button", name=re.compile("^Picture of")).click()
    card.get_by_role("button", name="take it away").click()
    expect(card.get_by_role("button", name=re.compile("^Picture of"))).to_have_count(0)
    assert name


def test_a_fill_plan_whose_timers_run_on_the_servers_clock(sheet: Page) -> None:
    page = sheet
    plan = page.get_by_role("region", name=re.compile("^Fill plan of"))
    expect(plan).to_contain_text(re.compile(r"\d\.\d\d ± \d\.\d\d l"))
    plan.get_by_role("checkbox", name="Seals wetted, hand-tight").click()
    leak = plan.get_by_role("button", name="start 24 h").last
    leak.click()
    expect(plan.get_by_role("timer")).to_contain_text(re.compile(r"2[34] h \d\d min left"))
    page.reload()
    expect(plan.get_by_role("timer")).to_contain_text(re.compile(r"2[34] h \d\d min left"))
    # a test clock: the server says that it is a day later
    later = (datetime.now(UTC) + timedelta(hours=25)).isoformat()

    def a_day_on(route: Route) -> None:
        answer = route.fetch()
        route.fulfill(response=answer, json=answer.json() | {"now": later})

    page.route("**/marks", a_day_on)
    expect(plan.get_by_role("timer")).to_have_text("over", timeout=20_000)
    page.unroute("**/marks")
    plan.get_by_role("button", name="All dry, done").click()
    expect(plan.get_by_role("timer")).to_have_count(0)
    expect(plan.get_by_role("checkbox", name="Leak watch, paper dry")).to_be_checked()


def test_a_rule_of_ones_own_moves_a_step_and_is_undone(sheet: Page) -> None:
    page = sheet
    order = page.get_by_role("region", name="Order")

    def at(step: str) -> int:
        steps = page.locator("[data-step]").evaluate_all("rows => rows.map((row) => row.dataset.step)")
        return int(steps.index(step))

    assert at("radiator-a") < at("supply")
    order.get_by_label("First").select_option("supply")
    order.get_by_label("Then").select_option("radiator-a")
    order.get_by_label("Why").fill("the radiator covers it")
    order.get_by_role("button", name="+ Rule").click()
    expect(order).to_contain_text("These cannot all hold.")
    assert at("supply") < at("radiator-a")
    settled(page)
    page.keyboard.press("Control+z")
    expect(order).not_to_contain_text("These cannot all hold.")
    assert at("radiator-a") < at("supply")


def test_a_thread_says_what_comes_out_again(sheet: Page) -> None:
    page = sheet
    page.get_by_role("button", name="plate's screws").click()
    expect(page.get_by_test_id("undoing")).to_contain_text("To reach it again: panels, filters, feet")


def test_a_header_that_carries_too_much_is_mended_by_the_offered_splitter(recipe_build: Page) -> None:
    page = recipe_build
    settled(page)
    stage(page, "Heat")
    feeds = page.get_by_role("region", name="Plugs and supplies")
    feeds.get_by_label("Kind of plug").select_option(label="fan plug, 5 V")
    feeds.get_by_label("New plug hangs on").select_option(label="Power supply")
    feeds.get_by_role("button", name="+ Plug").click()
    for fan in ("Fan A1", "Fan A2", "Fan A3"):
        feeds.get_by_label(re.compile(f"^{fan}")).select_option(label="Fan plug")
        expect(feeds.get_by_label(re.compile(f"^{fan}"))).to_have_count(0)
    line = feeds.locator("tr[data-feed='fan-plug-5v']")
    expect(line).to_contain_text("over: 0.33 A on the labels, 0.24 A are allowed")
    line.get_by_role("button", name="one four-way splitter with its own feed").click()
    hub = feeds.locator("tr[data-feed='hub-drive']")
    expect(hub).to_contain_text("Fan A1, Fan A2, Fan A3")
    expect(hub).to_contain_text("ok by class figure")
    expect(line).to_contain_text("nothing")
    settled(page)
    stage(page, "Build sheet")
    parts = page.get_by_role("region", name="Parts")
    parts.get_by_role("button", name="every part").click()
    expect(parts.get_by_label("Four-way splitter with its own feed in hand")).to_have_value("to_buy")


@pytest.mark.parametrize("dark", [False, True])
def test_no_serious_accessibility_finding_on_a_sheet(sheet: Page, axe: Any, dark: bool) -> None:
    page = sheet
    if dark:
        page.get_by_role("button", name="Dark").click()
    page.get_by_role("region", name="Parts").get_by_role("button", name="every part").click()
    assert axe() == []
    page.get_by_role("button", name="It does not start").click()
    expect(page.get_by_role("region", name="It does not start").get_by_role("listitem").first).to_be_visible()
    assert axe() == []
