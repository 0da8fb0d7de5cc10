"""Sizing in the real interface: from a question to a taken revision, next changes, maps, curves, options side by side."""

import os
import re
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from typing import Any

import pytest
from conftest import ROOT
from django.db import connection
from playwright.sync_api import Page, expect
from workbench import first_of, new_slot, stack, stage

SOLVED_MS = 60_000
#: what a newcomer may take (the issue's own bar), s
NEWCOMER_S = 180


@pytest.fixture(autouse=True)
def _empty_queue(transactional_db: Any) -> Iterator[None]:
    """The queue's models are unmanaged: emptying the database leaves its rows."""
    yield
    with connection.cursor() as cursor:
        cursor.execute(
            "TRUNCATE procrastinate_jobs, procrastinate_periodic_defers, procrastinate_events, "
            "procrastinate_workers CASCADE"
        )


@pytest.fixture
def worker(transactional_db: Any) -> Iterator[subprocess.Popen[bytes]]:
    """A real worker process on the test database."""
    env = os.environ | {
        "PGDATABASE": connection.settings_dict["NAME"],
        "DJANGO_SETTINGS_MODULE": "krill_server.settings_test",
        "PYTHONPATH": f"{ROOT / 'server'}:{ROOT / 'core'}",
    }
    process = subprocess.Popen([sys.executable, "manage.py", "work"], cwd=ROOT / "server", env=env)
    yield process
    process.terminate()
    process.wait(20)


def views(page: Page, name: str) -> None:
    page.get_by_role("navigation", name="Questions").get_by_role("link", name=name, exact=True).click()


def forecast(page: Page, name: str) -> None:
    page.keyboard.press("6")
    views(page, name)


def begin_study(page: Page) -> None:
    """The recipe's build with its first study asked and solved."""
    page.get_by_role("heading", level=1).first.click()  # a single key typed into a field is text
    page.keyboard.press("s")
    page.get_by_role("button", name="Solve").click()
    expect(page.get_by_test_id("study-says")).to_be_visible(timeout=SOLVED_MS)
    expect(page.get_by_test_id("candidate").get_by_role("heading", level=2)).to_be_visible()


def fewer_values(page: Page, name: str, values: str) -> None:
    page.keyboard.press("s")
    page.locator("[data-axis='movers/fans']").get_by_label(name).fill(values)


def test_a_newcomer_gets_from_an_empty_build_to_a_taken_revision(signed_in: Page, worker: Any) -> None:
    """125 W and 220 W, 28 C room, 36 dBA, at most 60 mm stack, 12 K margin."""
    page, begun = signed_in, time.monotonic()
    page.get_by_role("textbox", name="Room °C").fill("28")
    page.get_by_role("button", name="Empty build").click()
    page.get_by_role("link", name="Size one from watts").click()
    form = page.get_by_role("form", name="Start from watts")
    for label, value in (
        ("Processor", "125"),
        ("Graphics", "220"),
        ("Each part keeps at least", "12"),
        ("No louder than", "36"),
        ("Stack at most", "60"),
    ):
        form.get_by_label(label).fill(value)
    form.get_by_role("button", name="Size it").click()
    expect(page.get_by_test_id("study-says")).to_contain_text("meet every demand", timeout=SOLVED_MS)
    candidate = page.get_by_test_id("candidate")
    expect(candidate.get_by_role("heading", level=2)).to_contain_text("× 120")
    for word in ("mm thick", "fan", "fans", "pump"):
        expect(candidate.get_by_role("heading", level=2)).to_contain_text(word)
    expect(candidate).to_contain_text("The next larger")
    expect(candidate).to_contain_text("not worth it")
    expect(candidate).to_contain_text("over the room lie in")
    assert float(re.search(r"([\d.]+) K margin", candidate.inner_text()).group(1)) >= 12
    page.get_by_label("Why this one").fill("smallest that keeps 12 K")
    page.get_by_role("button", name="Save as a revision").click()
    expect(page.get_by_role("status").filter(has_text="Revision 1")).to_be_visible()
    assert time.monotonic() - begun < NEWCOMER_S
    page.keyboard.press("0")
    expect(page.get_by_text("smallest that keeps 12 K").first).to_be_visible()
    page.keyboard.press("3")
    expect(page.get_by_test_id("terraces")).to_be_visible()


def test_a_study_asks_whether_a_stack_goes_in(recipe_build: Page, worker: Any) -> None:
    """A slot that is too tight as it is: those with a longer gap meet it."""
    page = recipe_build
    stage(page, "Fit")
    new_slot(page, "Front", "62")
    stack(page, first_of(page, "fan"), first_of(page, "radiator"))
    page.get_by_role("heading", level=1).first.click()
    page.keyboard.press("s")
    page.get_by_role("group", name="Goes into").get_by_role("checkbox", name="Front").check()
    varied = page.get_by_role("button", name=re.compile("^Do not vary"))
    expect(varied.first).to_be_visible()
    page.get_by_label("Also vary").select_option(label="Front: gap")
    for _ in range(varied.count() - 1):
        varied.first.click()
    page.get_by_role("button", name="Solve").click()
    expect(page.get_by_test_id("study-says")).to_contain_text("of 5 candidates meet every demand", timeout=SOLVED_MS)
    expect(page.get_by_role("button", name="left in slot")).to_be_visible()


def test_candidates_are_filtered_by_brushing_and_looked_at_two_at_a_time(recipe_build: Page, worker: Any) -> None:
    page = recipe_build
    begin_study(page)
    rows = page.get_by_test_id("candidates").locator("tbody tr")
    before = page.get_by_text(re.compile(r"in view\. Filled")).inner_text()
    in_view = int(before.split(" ")[0].replace(",", ""))
    assert (
        3_500 < in_view <= 4_320
    )  # the smallest radiators at the slowest fans boil: they have no figure to be seen by
    box = page.get_by_test_id("dots").bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 60, box["y"] + 20)
    page.mouse.down()
    page.mouse.move(box["x"] + 260, box["y"] + 190, steps=4)
    page.mouse.up()
    page.mouse.move(5, 5)
    expect(page.get_by_text(re.compile(r"in view\. Filled"))).not_to_have_text(before)
    page.get_by_role("button", name="Reset zoom").click()
    expect(page.get_by_text(re.compile(r"in view\. Filled"))).to_have_text(before)
    chip = page.get_by_label("Candidates as dots").get_by_role("button", name="28 mm")
    chip.click()
    expect(chip).to_have_attribute("aria-pressed", "false")
    expect(page.get_by_text(re.compile(r"in view\. Filled"))).not_to_have_text(before)
    chip.click()
    rows.first.get_by_role("button").first.click()
    expect(rows.first).to_have_class(re.compile("on"))
    rows.nth(2).get_by_role("button", name="Beside").click()
    expect(page.get_by_test_id("candidate")).to_contain_text("the one beside")
    expect(page.get_by_test_id("candidate").locator("table tbody tr").first).to_contain_text("°C")
    with page.expect_download() as saved:
        page.get_by_role("link", name="CSV").click()
    lines = saved.value.path().read_text().splitlines()
    assert len(lines) == 1 + 4320
    assert lines[0].startswith("candidate,radiator-a/sections")


def test_a_study_shows_its_progress_and_can_be_cancelled(recipe_build: Page) -> None:
    """Nobody works: the study waits, says so, and is cancelled."""
    page = recipe_build
    page.keyboard.press("s")
    page.get_by_role("button", name="Solve").click()
    expect(page.get_by_label("Candidates solved")).to_be_visible()
    expect(page.get_by_role("status").filter(has_text="0 of 4,320")).to_be_visible()
    expect(page.get_by_text("waiting for a worker")).to_be_visible()
    page.get_by_role("button", name="Cancel").click()
    expect(page.get_by_text("cancelled at 0 %")).to_be_visible()


def test_too_many_candidates_and_a_demand_that_nothing_meets_are_said(recipe_build: Page, worker: Any) -> None:
    page = recipe_build
    fewer_values(page, "in", "120")
    expect(page.get_by_text("up to 10 000: narrow a range")).to_be_visible()
    expect(page.get_by_role("button", name="Solve")).to_be_disabled()
    fewer_values(page, "in", "2")
    page.get_by_label("keeps").fill("70")
    page.get_by_role("button", name="Solve").click()
    expect(page.get_by_test_id("study-says")).to_contain_text("None of", timeout=SOLVED_MS)
    expect(page.get_by_test_id("candidate")).to_contain_text("it comes closest")


def test_a_next_change_is_previewed_taken_as_a_trial_and_left(recipe_build: Page) -> None:
    page = recipe_build
    # bands may name another tightest part, and its steps are asked anew
    expect(page.locator("aside .pale")).to_have_count(0)
    page.wait_for_timeout(400)
    expect(page.locator("[data-testid='next-changes'][aria-busy='false']")).to_be_visible()
    step = page.get_by_test_id("next-changes").get_by_role("button").filter(has_text="sections").first
    expect(step).to_contain_text("price unknown")
    step.focus()
    expect(page.locator("[data-preview]").first).to_be_attached()
    page.keyboard.press("Enter")
    trial = page.get_by_test_id("trial")
    expect(trial).to_contain_text("sections")
    trial.get_by_label("costs").fill("64")
    page.keyboard.press("Escape")  # leaves the field
    page.keyboard.press("Escape")  # leaves the trial
    expect(trial).not_to_be_visible()
    expect(page.get_by_test_id("next-changes").get_by_role("button").filter(has_text="sections").first).to_contain_text(
        "price 64"
    )


def test_the_finder_finds_any_figure_and_any_question(recipe_build: Page) -> None:
    page = recipe_build
    page.keyboard.press("/")
    page.get_by_label("Find a part or a figure").fill("tube length")
    expect(page.get_by_role("region", name="Find").get_by_role("button").first).to_contain_text("2 m")
    page.keyboard.press("Enter")
    expect(page.get_by_label("length", exact=False).first).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("/")
    page.get_by_label("Find a part or a figure").fill("map")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("map")).to_be_visible()


def test_a_map_shows_where_it_holds_and_where_the_build_stands(recipe_build: Page) -> None:
    page = recipe_build
    forecast(page, "Map")
    expect(page.get_by_test_id("map")).to_be_visible()
    expect(page.get_by_test_id("present")).to_be_visible()
    page.get_by_label("Meets").fill("15")
    contour = page.locator("[data-contour='holds']")
    expect(contour).to_have_attribute("d", re.compile(r"L"))
    before = contour.get_attribute("d")
    page.get_by_label("Meets").fill("22")
    expect(contour).not_to_have_attribute("d", before or "")


def test_a_fan_curve_is_told_checked_and_tried(recipe_build: Page) -> None:
    page = recipe_build
    forecast(page, "Fan curve")
    expect(page.get_by_test_id("curve-says")).to_contain_text("at every load")
    assert page.get_by_test_id("curve-points").locator("tbody tr").count() >= 2
    with page.expect_download() as saved:
        page.get_by_role("link", name="Points as CSV").click()
    assert saved.value.path().read_text().startswith("sensor_c,duty_percent")
    page.get_by_role("button", name="Look at it as a trial").click()
    page.get_by_role("button", name="Keep change", exact=True).click()
    expect(page.get_by_text("saved", exact=True)).to_be_visible()
    expect(page.get_by_role("alert")).to_have_count(0)


def test_a_measured_figure_narrows_the_band_at_once(recipe_build: Page) -> None:
    page = recipe_build
    forecast(page, "Measure first")
    says = page.get_by_test_id("measure-says")
    expect(says).to_contain_text("is known to ±")
    before = float(re.search(r"± ([\d.]+)", says.inner_text()).group(1))
    row = page.get_by_test_id("contributions").locator("tbody tr").first
    stands = row.locator("td").nth(1).inner_text().split()[0]
    row.get_by_label("Measured").fill(stands)
    row.get_by_label("±").fill("0.001")
    row.get_by_role("button", name="Enter").click()
    expect(says).not_to_contain_text(f"± {before}")
    assert float(re.search(r"± ([\d.]+)", says.inner_text()).group(1)) < before


def test_a_figure_is_solved_for_or_the_best_is_told(recipe_build: Page) -> None:
    page = recipe_build
    forecast(page, "Solve for")
    section = page.get_by_role("region", name="Solve for a figure")
    section.get_by_label("Which").select_option("radiator-a/sections")
    section.get_by_label("Of what").select_option("graphics-chip")
    section.get_by_label("Wanted").fill("28")
    section.get_by_role("button", name="Solve").click()
    expect(section.get_by_role("status")).to_contain_text("gives")
    section.get_by_label("Wanted").fill("75")
    section.get_by_role("button", name="Solve").click()
    expect(section.get_by_role("status")).to_contain_text("Not reached")
    expect(section.get_by_role("status")).to_contain_text("over the room lie in")
    section.get_by_label("makes the").select_option("watts")
    section.get_by_label("Which").select_option("movers/fans")
    section.get_by_label("Of what").select_option("graphics")
    section.get_by_label("Wanted").fill("250")
    section.get_by_role("button", name="Solve").click()
    expect(section.get_by_role("status")).to_contain_text("250.0 W")


def test_the_hottest_room_is_one_click_away_and_the_map_runs_over_it(recipe_build: Page) -> None:
    """A ready question is solved at once; its room is then looked at; the map may have the room on an axis."""
    page = recipe_build
    forecast(page, "Solve for")
    section = page.get_by_role("region", name="Solve for a figure")
    section.get_by_role("button", name="hottest room").click()
    told = section.get_by_role("status")
    expect(told).to_contain_text("°C")
    hottest = float(re.search(r"([\d.]+) °C", told.inner_text()).group(1))
    section.get_by_role("button", name="Look at it in that room").click()
    expect(page.get_by_test_id("room")).to_have_text(f"{hottest:.1f}")
    expect(told).to_have_count(0)
    forecast(page, "Map")
    page.get_by_label("Across").select_option(label="Room: air")
    expect(
        page.get_by_text("It holds nowhere here").or_(page.get_by_text("Where the colours are full"))
    ).to_be_visible()
    expect(page.get_by_text(f"room {hottest:.0f} °C")).to_have_count(0)


def test_revisions_trials_and_something_ready_made_stand_side_by_side(recipe_build: Page) -> None:
    page = recipe_build
    page.keyboard.press("0")
    page.get_by_label("Save as revision 1. Why?").fill("as the recipe has it")
    page.get_by_role("button", name="Save revision").click()
    expect(page.get_by_role("heading", name="Revision 1")).to_be_visible()
    page.keyboard.press("3")
    page.get_by_test_id("next-changes").get_by_role("button").filter(has_text="sections").first.click()
    expect(page.get_by_test_id("trial").get_by_role("button", name="Keep change")).to_be_enabled()
    forecast(page, "Side by side")
    page.get_by_role("button", name="The trial in view").click()
    page.get_by_label("Which state of it").select_option("1")
    page.get_by_role("button", name="Put it side by side").click()
    page.get_by_role("button", name="Buy ready-made").click()
    form = page.get_by_role("form", name="Ready-made")
    form.get_by_label("What").fill("Closed loop, 240 mm")
    form.get_by_label("price").fill("120")
    form.get_by_label("Processor").fill("48")
    form.get_by_role("button", name="Add it").click()
    expect(page.get_by_test_id("option")).to_have_count(4)
    table = page.get_by_test_id("beside-table")
    expect(table.locator("tbody tr").first).to_contain_text("as stated")
    expect(table).to_contain_text("Hours of work")
    expect(table).to_contain_text("120")
    differs = page.get_by_role("region", name="What differs")
    expect(differs).to_contain_text("sections")
    expect(differs).to_contain_text("nothing")
    page.reload()
    expect(page.get_by_test_id("option")).to_have_count(4)


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_every_question_is_accessible(
    recipe_build: Page, worker: Any, axe: Callable[[], list[str]], theme: str
) -> None:
    page = recipe_build
    if theme == "dark":
        page.get_by_role("button", name="Dark").click()
    fewer_values(page, "in", "3")
    begin_study(page)
    assert axe() == []
    for name, sign in (
        ("Map", "map"),
        ("Fan curve", "curve-points"),
        ("Measure first", "contributions"),
        ("Side by side", "beside-table"),
    ):
        views(page, name)
        expect(page.get_by_test_id(sign)).to_be_visible()
        expect(page.locator("[aria-busy=true]")).to_have_count(0)
        assert axe() == [], name
    views(page, "Solve for")
    expect(page.get_by_role("heading", name="Solve for a figure")).to_be_visible()
    assert axe() == []
