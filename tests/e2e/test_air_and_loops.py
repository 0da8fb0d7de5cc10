"""Air, loops and the shelf in a real browser; a whole machine built from nothing by keyboard alone."""

import json
import os
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

KEEP = os.environ.get("KRILL_KEEP_BUILD")  # where to keep the machine that the keyboard test builds


def stage(page: Page, key: str, name: str) -> None:
    page.locator("main").click(position={"x": 4, "y": 4})
    page.keyboard.press(key)
    expect(page.get_by_role("heading", name=name, exact=True)).to_be_visible()


def tab_to(page: Page, label: str) -> None:
    """Tab until the thing of that label has the focus: what a person without a mouse does."""
    for _ in range(18):
        page.keyboard.press("Tab")
        focused = page.evaluate(
            "() => { const e = document.activeElement;"
            " return (e.getAttribute('aria-label') || '') + ' | ' + (e.labels?.[0]?.textContent || '') + ' | '"
            " + (e.tagName === 'BUTTON' ? e.textContent : '') }"
        )
        if label in focused:
            return
    raise AssertionError(f"no '{label}' within 18 tabs")


def write(page: Page, label: str, text: str) -> None:
    tab_to(page, label)
    page.keyboard.press("Control+A")
    page.keyboard.type(text)


def add(page: Page, tab: int) -> None:
    """The add sheet on one of its tabs, its first field in focus."""
    page.keyboard.press(f"Alt+{tab}")
    page.wait_for_timeout(60)


def submit(page: Page) -> None:
    tab_to(page, "Add")
    page.keyboard.press("Enter")
    expect(page.get_by_role("status").filter(has_text="Added")).to_be_visible()


def part(
    page: Page, search: str, *, count: int = 1, name: str = "", loop: str = "", path: str = "", face: str = ""
) -> None:
    add(page, 2)
    add(page, 1)
    expect(page.get_by_role("listbox", name="On the shelf").get_by_role("option").first).to_be_visible()
    page.keyboard.type(search)
    if count > 1:
        write(page, "How many", str(count))
    if name:
        write(page, "Name", name)
    for label, value in (("Into the loop", loop), ("Into the path", path), ("On the face", face)):
        if value:
            tab_to(page, label)
            page.keyboard.type(value)
    submit(page)


def air_path(page: Page, name: str, start: str, end: str, face: str = "") -> None:
    add(page, 1)
    add(page, 3)
    page.keyboard.type(name)
    for label, value in (("From", start), ("to", end), ("Its opening", face)):
        if value:
            tab_to(page, label)
            page.keyboard.type(value)
    submit(page)


def simple(page: Page, tab: int, name: str) -> None:
    add(page, 1)
    add(page, tab)
    page.keyboard.type(name)
    page.keyboard.press("Enter")
    expect(page.get_by_role("status").filter(has_text=f"Added {name}")).to_be_visible()


def heat(page: Page, name: str, watts: int, kind: str, end: str) -> None:
    add(page, 1)
    add(page, 2)
    page.keyboard.type(name)
    write(page, "Heat", str(watts))
    tab_to(page, "It is a")
    page.keyboard.type(kind)
    tab_to(page, "Gives its heat to")
    page.keyboard.type(end)
    submit(page)


def test_three_chambers_two_loops_and_nine_fans_from_nothing_by_keyboard(signed_in: Page):
    page = signed_in
    expect(page.get_by_role("button", name="Create build")).to_be_visible()
    tab_to(page, "Name")
    page.keyboard.type("Triptych")
    page.get_by_role("button", name="Empty build").press("Enter")
    expect(page.get_by_role("heading", name="Route", exact=True)).to_be_visible()
    page.keyboard.press("a")
    expect(page.get_by_role("heading", name="Add to the build")).to_be_visible()
    simple(page, 4, "Upper")
    simple(page, 4, "Lower")
    simple(page, 5, "Warm loop")
    simple(page, 5, "Cold loop")
    air_path(page, "Front in", "Room", "Box", "front")
    air_path(page, "Up", "Box", "Upper")
    air_path(page, "Top out", "Upper", "Room", "top")
    air_path(page, "Bottom in", "Room", "Lower", "bottom")
    air_path(page, "Back out", "Lower", "Room", "back")
    part(page, "120 x 25 mm fan", count=3, name="Front fan", path="Front", face="front")
    part(page, "120 x 15", count=2, name="Top fan", path="Top", face="top")
    part(page, "140 x 25", count=2, name="Bottom fan", path="Bottom", face="bottom")
    part(page, "92 x 25", count=2, name="Back fan", path="Back", face="back")
    part(page, "radiator 360 x 28", name="Front radiator", loop="Warm", path="Front", face="front")
    part(page, "radiator 280 x 28", name="Bottom radiator", loop="Cold", path="Bottom", face="bottom")
    part(page, "processor plate, fine", name="Cold plate P", loop="Warm")
    part(page, "graphics plate, typical", name="Cold plate G", loop="Cold")
    heat(page, "Processor", 125, "lidded processor, 95", "Cold plate P")
    heat(page, "Graphics", 160, "graphics chip, 220", "Cold plate G")
    heat(page, "Drive", 5, "M.2", "air of Upper")
    page.keyboard.press("Escape")
    expect(page.get_by_test_id("saved")).to_have_text("saved")
    expect(page.get_by_test_id("terraces")).to_be_visible()
    page.keyboard.press("4")
    expect(page.get_by_role("heading", name="Air", exact=True)).to_be_visible()
    expect(page.get_by_role("button", name=re.compile(", fan$"))).to_have_count(9)
    build_id = page.url.split("/build/")[1].split("/")[0]
    stored = page.evaluate("id => fetch(`/api/builds/${id}`).then(r => r.json())", build_id)
    document = stored["document"]
    assert sum(p["kind"] == "fan" for p in document["parts"]) == 9
    assert sum(z["kind"] == "box" for z in document["zones"]) == 3
    assert len(document["loops"]) == 2
    result = page.evaluate(
        "doc => fetch('/api/predict', {method: 'POST', headers: {'Content-Type': 'application/json', 'X-CSRFToken':"
        " document.cookie.match(/csrftoken=([^;]+)/)[1]}, body: JSON.stringify({document: doc})}).then(r => r.json())",
        document,
    )
    places = {p["name"]: p["temperature_c"] for p in result["workloads"][0]["places"]}
    assert all(26 < T < 110 for T in places.values()), places
    if KEEP:
        Path(KEEP).write_text(json.dumps(document, indent=1, ensure_ascii=False) + "\n")


def test_flip_and_turn_show_both_solutions_before_anything_changes(recipe_build: Page):
    page = recipe_build
    stage(page, "4", "Air")
    page.get_by_role("button", name="Fan A1, fan").press("Enter")
    before = page.evaluate("() => document.querySelector('[aria-label=\"Path in view\"]').textContent")
    page.keyboard.press("f")
    trial = page.get_by_test_id("trial")
    expect(trial.get_by_role("row", name=re.compile("Processor"))).to_be_visible()
    expect(trial.get_by_role("row", name=re.compile("Memory"))).to_contain_text("K")
    expect(page.get_by_test_id("saved")).to_have_text("saved")
    page.keyboard.press("Escape")
    expect(trial).to_be_hidden()
    assert page.evaluate("() => document.querySelector('[aria-label=\"Path in view\"]').textContent") == before
    page.keyboard.press("f")
    trial.get_by_role("button", name="Keep change").click()
    expect(trial).to_be_hidden()
    expect(page.get_by_label("Path in view")).to_contain_text("Room air to Box air")
    page.keyboard.press("Control+z")
    expect(page.get_by_label("Path in view")).to_contain_text("Box air to Room air")


def test_a_fan_curve_meets_its_system_and_can_be_pasted_in_other_units(recipe_build: Page):
    page = recipe_build
    stage(page, "4", "Air")
    fan = page.get_by_role("button", name="Fan A2, fan")
    fan.press("Enter")
    panel = page.get_by_label("Fan in view")
    expect(panel.get_by_role("img", name=re.compile("Fan curve against the system"))).to_be_visible()
    before = panel.text_content() or ""
    fan.press("Enter")
    sheet = page.get_by_label("Side sheet")
    sheet.get_by_text("Paste or drop its curve").click()
    sheet.get_by_label("Two columns: flow and pressure").fill("CFM; mmH2O\n0; 4.5\n35; 2.6\n70; 0")
    sheet.get_by_role("button", name="Take the curve").click()
    expect(sheet.get_by_text("3 points read as cfm and mmh2o")).to_be_visible()
    page.keyboard.press("Escape")
    expect(panel).not_to_have_text(before)


def test_speeds_for_a_wanted_level_are_a_trial(recipe_build: Page):
    page = recipe_build
    stage(page, "4", "Air")
    sound = page.get_by_label("Sound by source")
    sound.get_by_label("All fans for").fill("28")
    sound.get_by_role("button", name="Find speeds").click()
    trial = page.get_by_test_id("trial")
    expect(trial.get_by_role("row", name=re.compile("Sound"))).to_contain_text("28.0 dBA")
    trial.get_by_role("button", name="Keep change").click()
    expect(sound).to_contain_text("Sound 28.0")


def test_what_a_second_pump_or_one_radiator_fewer_would_change(signed_in: Page):
    page = signed_in
    page.get_by_role("textbox", name="Graphics W").fill("420")
    page.get_by_role("button", name="Create build").click()
    expect(page.get_by_test_id("terraces")).to_be_visible()
    table = page.get_by_test_id("loop-table")
    table.get_by_text("Every element, its share of the pressure").click()
    expect(table.get_by_role("row", name=re.compile("Processor plate"))).to_contain_text("%")
    table.get_by_role("button", name="What would a second pump change?").click()
    trial = page.get_by_test_id("trial")
    expect(trial).to_contain_text("a second pump in Loop A")
    expect(trial.get_by_role("row", name=re.compile("Graphics$|Graphics "))).to_have_count(3)
    trial.get_by_role("button", name="Discard").click()
    table.get_by_role("button", name="… one radiator fewer?").click()
    expect(trial).to_contain_text("warmer")


def test_the_loop_is_edited_by_keys(recipe_build: Page):
    page = recipe_build
    table = page.get_by_test_id("loop-table")
    table.get_by_text("Every element, its share of the pressure").click()
    names = table.locator("tbody td:first-child")
    first = names.all_text_contents()
    table.get_by_role("button", name="Tube").press("Alt+ArrowDown")
    expect(names.nth(1)).to_contain_text("Processor plate")
    table.get_by_role("button", name="Rotary elbows").press("Delete")
    expect(names).to_have_count(len(first) - 1)
    page.get_by_role("button", name="Undo").click()
    expect(names).to_have_count(len(first))


def test_a_part_goes_onto_the_shelf_into_a_file_and_into_another_build(recipe_build: Page, tmp_path: Path):
    page = recipe_build
    stage(page, "4", "Air")
    fan = page.get_by_role("button", name="Fan A1, fan")
    fan.press("Enter")
    fan.press("Enter")
    sheet = page.get_by_label("Side sheet")
    sheet.get_by_role("textbox", name="level at 1 m").fill("19")
    sheet.get_by_role("button", name="Put on the shelf").click()
    expect(sheet.get_by_text("Saved to your shelf.")).to_be_visible()
    page.goto("/#/shelf")
    expect(page.get_by_role("row", name=re.compile("Fan A1"))).to_contain_text("level at 1 m 19 dBA")
    with page.expect_download() as download:
        page.get_by_role("button", name="Export mine as JSON").click()
    file = tmp_path / "shelf.json"
    download.value.save_as(file)
    assert json.loads(file.read_text())["format"] == "krill-shelf"
    page.get_by_role("button", name="Take Fan A1 off the shelf").click()
    expect(page.get_by_text("Nothing yet")).to_be_visible()
    page.locator("input[type=file]").set_input_files(file)
    expect(page.get_by_text("1 new, 0 changed")).to_be_visible()
    page.get_by_label("Search the shelf").fill("strong 120")
    expect(page.get_by_role("row", name=re.compile("120 x 25 mm fan, strong"))).to_be_visible()
    page.goto("/")
    page.get_by_role("link", name="Water loop").first.click()
    expect(page.get_by_test_id("terraces")).to_be_visible()
    page.keyboard.press("a")
    page.get_by_label("Search the shelf").fill("Fan A1")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("status").filter(has_text="Added Fan A1")).to_be_visible()


def test_housing_feed_place_coolant_and_exhaust_are_stated_by_hand(recipe_build: Page):
    page = recipe_build
    stage(page, "4", "Air")
    page.get_by_role("button", name="Housing", exact=True).click()
    panel = page.get_by_label("Housing", exact=True)
    panel.get_by_label("feet").fill("6")
    panel.get_by_label("wall or table at the back").fill("15")
    expect(page.get_by_text("opens on the back, 15 mm from the next thing")).to_be_visible()
    panel.get_by_label("lies on its").select_option("left")
    page.get_by_role("button", name="Vents, opening").press("Enter")
    path = page.get_by_label("Path in view")
    lie = path.get_by_label("Draws exhaust in again", exact=False)
    lie.select_option("one_face")
    path.get_by_label("Edge to edge").fill("0")
    expect(path.get_by_text("35 % ± 18, by class")).to_be_visible()
    lie.select_option("share")
    path.get_by_label("Recirculates").fill("30")
    expect(path.get_by_label("Recirculates")).to_have_value("30")
    fan = page.get_by_role("button", name="Fan A1, fan")
    fan.press("Enter")
    fan.press("Enter")
    sheet = page.get_by_label("Side sheet")
    sheet.get_by_label("Fed by").select_option("new")
    sheet.get_by_label("up").fill("150")
    expect(page.get_by_test_id("saved")).to_have_text("saved")
    page.keyboard.press("Escape")
    radiator = page.get_by_role("button", name=re.compile("^Radiator .*, radiator$"))
    radiator.press("Enter")
    radiator.press("Enter")
    sheet.get_by_label("Add a figure").select_option("covered_share")
    covered = sheet.get_by_role("textbox", name="share of the face with air")
    expect(covered).to_have_value("")
    covered.fill("0.5")
    page.keyboard.press("Escape")
    page.keyboard.press("3")
    page.get_by_role("button", name="Coolant and volume").click()
    page.get_by_label("Side sheet").get_by_label("Coolant").select_option(label="ethylene glycol 30 % by mass")
    expect(page.get_by_text("ethylene glycol 30 % by mass").first).to_be_visible()
    expect(page.get_by_test_id("saved")).to_have_text("saved")
    build_id = page.url.split("/build/")[1].split("/")[0]
    document = page.evaluate("id => fetch(`/api/builds/${id}`).then(r => r.json())", build_id)["document"]
    assert document["housing"]["gravity"] == [-1, 0, 0]
    assert document["recirculations"][0]["recirculated_share"] == 0.3
    assert document["feeds"][0]["kind"] == "header"
    kept = next(p for p in document["parts"] if p["id"] == "fan-a1")
    assert (kept["feed"], kept["outline"]["position_mm"][2]) == (document["feeds"][0]["id"], 150)


def test_off_or_stopped_stands_in_the_forecast(recipe_build: Page):
    page = recipe_build
    stage(page, "6", "Forecast")
    table = page.get_by_label("Off or stopped")
    expect(table.get_by_role("row", name=re.compile("^Pump"))).to_contain_text("comes to boil")
    expect(table.get_by_role("row", name=re.compile("^Fan A"))).to_have_count(3)


@pytest.mark.parametrize("dark", [False, True])
def test_no_serious_accessibility_finding_on_air_and_shelf(recipe_build: Page, axe, dark: bool):
    page = recipe_build
    page.evaluate("dark => document.documentElement.classList.toggle('dark', dark)", dark)
    stage(page, "4", "Air")
    expect(page.get_by_label("Fan in view").get_by_role("img")).to_be_visible()
    page.keyboard.press("f")
    expect(page.get_by_test_id("trial").get_by_role("row").first).to_be_attached()
    assert axe() == []
    page.keyboard.press("a")
    expect(page.get_by_role("listbox", name="On the shelf").get_by_role("option").first).to_be_visible()
    assert axe() == []
    page.goto("/#/shelf")
    page.evaluate("dark => document.documentElement.classList.toggle('dark', dark)", dark)
    expect(page.get_by_role("heading", name="Parts shelf")).to_be_visible()
    assert axe() == []
