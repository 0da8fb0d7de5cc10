"""The heat of a machine is entered, ordered and taken out again on screen, by mouse and by keys."""

from playwright.sync_api import Page, expect
from workbench import settled, stage


def workloads(page: Page) -> list[str]:
    return [text.replace("⌄", "").strip() for text in page.locator("table.heat thead button.head").all_inner_texts()]


def sources(page: Page) -> list[str]:
    return [text.strip() for text in page.locator("table.heat tbody button.head").all_inner_texts()]


def sheet(page: Page):
    return page.get_by_label("Side sheet")


def test_workloads_are_copied_renamed_ordered_and_taken_out(recipe_build: Page) -> None:
    page = recipe_build
    stage(page, "Heat")
    before = workloads(page)
    page.get_by_role("button", name="+ workload").click()
    page.get_by_role("menuitem", name="Copy of").click()
    name = sheet(page).get_by_label("Name", exact=True)
    expect(name).to_have_value("Both, copy")
    name.fill("Both, doors closed")
    name.press("Enter")
    sheet(page).get_by_label("Lasts").fill("90")
    sheet(page).get_by_label("Kind of load").select_option("even")
    expect(page.get_by_test_id("saved")).to_have_text("saved")
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    assert workloads(page) == [*before, "Both, doors closed"]
    head = page.locator("table.heat thead button.head").last
    expect(head.locator("xpath=..")).to_contain_text("90 min")
    head.focus()
    page.keyboard.press("Alt+ArrowLeft")
    expect(page.locator("table.heat thead button.head").last).to_contain_text("Both")
    assert workloads(page) == [*before[:-1], "Both, doors closed", before[-1]]
    page.locator("table.heat thead button.head").nth(len(before) - 1).press("Enter")
    sheet(page).get_by_role("button", name="Take out", exact=True).click()
    expect(page.locator("table.heat thead button.head")).to_have_count(len(before))
    page.keyboard.press("Control+z")
    expect(page.locator("table.heat thead button.head")).to_have_count(len(before) + 1)


def test_a_source_is_copied_gets_a_place_a_limit_and_chip_watts_and_goes_again(recipe_build: Page) -> None:
    page = recipe_build
    stage(page, "Heat")
    before = sources(page)
    page.locator("table.heat tbody").get_by_role("button", name="Graphics", exact=True).click()
    sheet(page).get_by_label("watts of the").select_option("chip")
    sheet(page).get_by_role("button", name="Copy", exact=True).click()
    expect(sheet(page).get_by_label("Name", exact=True)).to_have_value("Graphics 2")
    sheet(page).get_by_role("button", name="+ place").click()
    expect(sheet(page).get_by_label("Name", exact=True)).to_have_value("Graphics 2, place 4")
    sheet(page).get_by_role("button", name="+ limit").click()
    sheet(page).get_by_label("throttles at, limit 1").fill("97")
    expect(page.get_by_test_id("saved")).to_have_text("saved")
    settled(page)
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    assert sources(page) == [*before[:2], "Graphics 2", *before[2:]]
    expect(page.locator(".banner, [role=alert]")).to_have_count(0)
    row = page.locator("table.heat tbody tr", has=page.get_by_role("button", name="Graphics 2", exact=True))
    expect(row).to_contain_text("chip")
    row.get_by_role("button").first.press("Enter")
    sheet(page).get_by_role("button", name="Take out of the build").click()
    expect(page.get_by_role("button", name="Graphics 2", exact=True)).to_have_count(0)
    assert sources(page) == before


def test_the_usual_workloads_come_at_once(recipe_build: Page) -> None:
    page = recipe_build
    stage(page, "Heat")
    page.get_by_role("button", name="+ workload").press("Enter")
    expect(page.get_by_role("menuitem", name="Copy of")).to_be_focused()
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="+ workload")).to_be_focused()
    page.keyboard.press("Enter")
    page.keyboard.press("ArrowUp")
    expect(page.get_by_role("menuitem", name="Idle, each alone")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator("table.heat thead button.head").last).to_contain_text("All at once")
    assert "Processor alone" in workloads(page)
    assert workloads(page).count("Idle") == 1


def test_rooms_are_added_changed_and_taken_out(recipe_build: Page) -> None:
    page = recipe_build
    stage(page, "Brief")
    page.get_by_role("button", name="+ room").click()
    page.get_by_label("Name of room 4").fill("Attic")
    page.get_by_label("Name of room 4").press("Enter")
    page.get_by_label("Air of Attic").fill("38")
    page.get_by_label("Humidity of Attic").fill("30")
    page.get_by_label("Altitude of Attic").fill("1200")
    page.get_by_label("Attic is the").select_option("hot day")
    settled(page)
    page.get_by_label("Room or day").select_option("Attic")
    expect(page.get_by_test_id("room")).to_have_text("38.0")
    build_id = page.url.split("/build/")[1].split("/")[0]
    document = page.evaluate("id => fetch(`/api/builds/${id}`).then(r => r.json())", build_id)["document"]
    attic = next(room for room in document["rooms"] if room["name"] == "Attic")
    assert (attic["air_c"], attic["humidity_share"], attic["altitude_m"]) == (38, 0.3, 1200)
    assert document["brief"]["hottest_room"] == attic["id"]
    page.get_by_role("button", name="Take Attic out").click()
    expect(page.get_by_label("Name of room 4")).to_have_count(0)
    assert page.get_by_role("button", name="Take Room out").is_disabled()


def test_a_sheet_stays_with_its_stage_and_route_adds_by_a_button(recipe_build: Page) -> None:
    page = recipe_build
    stage(page, "Heat")
    page.locator("table.heat tbody button.head").first.click()
    expect(sheet(page)).to_be_visible()
    stage(page, "Route")
    expect(sheet(page)).not_to_be_visible()
    page.get_by_role("button", name="Add a part").click()
    expect(page.get_by_label("Search the shelf")).to_be_focused()
    page.keyboard.press("Escape")
    page.keyboard.press("/")
    page.get_by_label("Find a part or a figure").fill("Processor plate")
    page.keyboard.press("Enter")
    expect(sheet(page)).to_be_visible()
