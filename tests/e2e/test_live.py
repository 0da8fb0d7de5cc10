"""A live run in a real browser: a pump that stops is an alarm, the run is kept and judged; the card of a test on a phone."""

import re

from playwright.sync_api import Page, expect


def bench(page: Page) -> Page:
    page.goto(re.sub(r"(#/build/[^/]+).*", r"\1/bench", page.url))
    expect(page.get_by_test_id("test-length")).to_be_visible(timeout=60_000)
    return page


def begin(page: Page, fault: str) -> None:
    page.get_by_role("tab", name="Live").click()
    page.get_by_label("What goes wrong").select_option(fault)
    page.get_by_role("button", name="Start the bench").click()


def test_a_pump_that_stops_is_an_alarm_and_the_run_is_kept_and_judged(recipe_build: Page):
    page = bench(recipe_build)
    begin(page, "pump-stops")
    live = page.get_by_test_id("live")
    expect(live).to_be_in_viewport()
    expect(live.get_by_test_id("live-band")).to_have_attribute("d", re.compile("M"), timeout=60_000)
    expect(live.get_by_test_id("live-line")).to_have_attribute("d", re.compile("L"))
    # in its band, settling, before anything fails
    expect(live.get_by_role("status")).to_contain_text(re.compile("settle|band"), timeout=60_000)
    alarm = live.get_by_role("alert").filter(has_text="Take the load off")
    expect(alarm).to_be_visible(timeout=60_000)
    expect(live.get_by_role("list", name="What failed")).to_contain_text("stands still")
    page.reload()
    expect(page.get_by_test_id("live").get_by_role("alert")).to_be_visible(timeout=60_000)
    page.get_by_role("button", name="End and keep").click()
    expect(page.get_by_text(re.compile("From minute .* stands still"))).to_be_visible(timeout=60_000)
    expect(page.get_by_test_id("live")).to_have_count(0)
    page.get_by_role("link", name="To the verdict").click()
    expect(page.get_by_role("heading", name="Verdict")).to_be_visible()
    expect(page.get_by_text(re.compile("Render|Both", re.I)).first).to_be_visible()


def test_what_is_hidden_stays_so_until_somebody_says_what_it_is(recipe_build: Page):
    page = bench(recipe_build)
    begin(page, "hidden")
    live = page.get_by_test_id("live")
    expect(live).to_contain_text("find it")
    live.get_by_label("What is wrong?").select_option("room-drifts")
    live.get_by_role("button", name="Say so").click()
    expect(live).to_contain_text(
        re.compile("Right: the room drifts|You said: the room drifts. It was:"), timeout=60_000
    )
    page.get_by_role("button", name="Discard").click()
    expect(page.get_by_test_id("live")).to_have_count(0)


def test_a_logger_is_told_where_to_send_and_with_which_token(recipe_build: Page):
    page = bench(recipe_build)
    page.get_by_role("tab", name="Live").click()
    page.get_by_role("button", name="Connect a logger").click()
    live = page.get_by_test_id("live")
    expect(live).to_contain_text(re.compile(r"KRILL_TOKEN=\S{32} krill-log --to http://\S+/api/live/[0-9a-f-]{36}"))
    expect(live.get_by_role("status")).to_contain_text("Waiting for the first reading")
    page.reload()
    expect(page.get_by_role("button", name="Show another token")).to_be_visible()
    page.get_by_role("button", name="Discard").click()
    expect(page.get_by_test_id("live")).to_have_count(0)


def test_the_plan_and_its_card_are_used_on_a_phone_and_survive_a_reload(recipe_build: Page):
    page = bench(recipe_build)
    page.set_viewport_size({"width": 390, "height": 844})
    page.get_by_text(re.compile("Test plan:")).click()
    page.get_by_label(re.compile("No drop under any joint")).check()
    page.get_by_label(re.compile("Pump.* turns and the coolant moves")).check()
    pad = page.get_by_test_id("reading-pad")
    pad.get_by_role("button", name="Load is on").click()
    expect(pad.get_by_test_id("due")).to_contain_text(re.compile(r"next in\s+5 min"))
    for figure in ("2", "4"):
        pad.get_by_role("button", name=figure, exact=True).click()
    pad.get_by_role("group", name="What is read").get_by_role("button").nth(1).click()
    for figure in ("6", "1"):
        pad.get_by_role("button", name=figure, exact=True).click()
    pad.get_by_role("button", name="Next round").click()
    page.reload()
    expect(page.get_by_text(re.compile("Test plan:"))).to_be_visible(timeout=60_000)
    page.get_by_text(re.compile("Test plan:")).click()
    expect(page.get_by_label(re.compile("No drop under any joint"))).to_be_checked()
    keep = pad.get_by_role("button", name="Keep 1 reading")
    expect(keep).to_be_enabled()
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    keep.click()
    expect(page.get_by_role("button", name=re.compile("typed"))).to_be_visible(timeout=60_000)
    expect(pad.get_by_role("button", name="Keep 0 readings")).to_be_disabled()
