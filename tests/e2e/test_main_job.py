"""The main job in a real browser: from the recipe to a verdict."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from workbench import log_input, settled, stage

BENCH_CELL = "Processor in Both"


def shown(page: Page, place: str) -> str:
    return page.locator(f"[data-tower={place}]").get_attribute("data-top") or "nan"


def top_of(page: Page, place: str) -> float:
    return float(shown(page, place))


def test_a_hotter_processor_moves_its_tower_and_the_shared_terrace_and_undo_restores_all(recipe_build: Page):
    page = recipe_build
    settled(page)
    processor, graphics = top_of(page, "processor-core"), top_of(page, "graphics-chip")
    stage(page, "Heat")
    page.get_by_label(BENCH_CELL).fill("150")
    settled(page)
    stage(page, "Route")
    expect(page.locator("[data-tower=processor-core]")).not_to_have_attribute("data-top", f"{processor:.3f}")
    assert top_of(page, "processor-core") > processor + 5
    assert top_of(page, "graphics-chip") > graphics + 0.3
    page.reload()
    expect(page.get_by_test_id("terraces")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("[data-tower=processor-core]")).to_have_attribute("data-top", f"{processor:.3f}")
    assert top_of(page, "graphics-chip") == pytest.approx(graphics, abs=2e-3)


def test_a_figure_that_cannot_be_is_said_and_not_taken(recipe_build: Page):
    page = recipe_build
    stage(page, "Heat")
    page.get_by_label(BENCH_CELL).fill("-4")
    expect(page.get_by_text("0 to 2000")).to_be_visible()
    page.get_by_label(BENCH_CELL).fill("12x")
    expect(page.get_by_text("a number is needed")).to_be_visible()
    page.get_by_label(BENCH_CELL).blur()
    expect(page.get_by_label(BENCH_CELL)).to_have_value("12x")
    expect(page.get_by_text("a number is needed; still 125")).to_be_visible()
    page.get_by_label(BENCH_CELL).press("Escape")
    expect(page.get_by_label(BENCH_CELL)).to_have_value("125")


def test_nine_sources_scroll_and_keep_a_readable_width(recipe_build: Page):
    page = recipe_build
    assert page.locator("[data-tower]").count() == 9
    scroller = page.get_by_test_id("terraces")
    assert scroller.evaluate("e => e.scrollWidth > e.clientWidth")
    narrowest = page.locator("[data-tower] rect.hop").evaluate_all(
        "all => Math.min(...all.map(r => +r.getAttribute('width')))"
    )
    assert narrowest >= 90


def test_keys_workloads_and_the_order_of_the_loop(recipe_build: Page):
    page = recipe_build
    settled(page)
    page.keyboard.press("[")
    expect(page.get_by_role("radio", name="Graphics")).to_have_attribute("aria-checked", "true")
    page.keyboard.press("]")
    page.keyboard.press("6")
    expect(page.get_by_role("heading", name="Forecast")).to_be_visible()
    page.keyboard.press("3")
    page.keyboard.press("?")
    expect(page.get_by_role("heading", name="Keys", exact=True)).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("/")
    page.get_by_label("Find a part or a figure").fill("graphics plate")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Side sheet").get_by_role("heading", name="Graphics plate")).to_be_visible()
    page.keyboard.press("Escape")
    beads = page.locator("[data-bead]")
    first = [bead.get_attribute("data-bead") for bead in beads.all()]
    assert page.locator("[data-bead][tabindex='0']").count() == 1
    page.locator("[data-bead=plate-processor]").focus()
    page.keyboard.press("ArrowLeft")
    expect(page.locator("[data-bead=tube]")).to_be_focused()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Alt+ArrowRight")
    expect(beads.nth(first.index("plate-processor"))).to_have_attribute("data-bead", "plate-graphics")
    settled(page)


def test_practice_log_typed_readings_and_verdict(recipe_build: Page, tmp_path: Path):
    page = recipe_build
    settled(page)
    stage(page, "Bench")
    with page.expect_download() as download:
        page.get_by_role("button", name="Practice log").click()
    log = tmp_path / "practice.csv"
    download.value.save_as(log)
    page.get_by_label("Room at start").first.fill("25")
    page.get_by_label("at end").first.fill("25.2")
    log_input(page).set_input_files(log)
    expect(page.get_by_test_id("status")).to_contain_text("Load from")
    expect(page.get_by_test_id("lines")).to_contain_text("0 repaired")
    expect(page.get_by_test_id("curves").first.locator("canvas")).to_be_visible()
    stage(page, "Verdict")
    expect(page.get_by_test_id("verdict")).to_be_visible()
    assert page.locator("table tbody tr").count() >= 10
    stage(page, "Bench")
    page.get_by_role("tab", name="Typed readings").click()
    page.get_by_label("Room at start").first.fill("25")
    page.get_by_label("at end").first.fill("25,5")
    for row, value in enumerate(("74", "66", "58", "57", "60", "58"), start=1):
        page.get_by_label(f"figure {row}").fill(value)
    page.get_by_role("button", name="Keep 6 readings").click()
    expect(page.get_by_role("button", name=re.compile("Both typed"))).to_be_visible()
    stage(page, "Verdict")
    page.get_by_role("radio", name="Both typed").click()
    expect(page.get_by_test_id("verdict")).to_be_visible()
    expect(page.locator("table tbody tr")).to_have_count(6)
    stage(page, "Logbook")
    expect(page.get_by_role("heading", name="Revision 1")).to_be_visible()


def test_two_figures_off_a_display_and_no_room_are_judged(recipe_build: Page):
    """Watts that were read count as they were read; the room is what the readings have."""
    page = recipe_build
    stage(page, "Bench")
    page.get_by_role("tab", name="Typed readings").click()
    page.get_by_label("figure 1").fill("74")
    page.get_by_label("part 2").select_option("processor/power")
    page.get_by_label("figure 2").fill("131")
    page.get_by_role("button", name="Keep 2 readings").click()
    expect(page.get_by_text("131.0 W")).to_be_visible()
    stage(page, "Verdict")
    expect(page.get_by_test_id("verdict")).to_be_visible()
    expect(page.get_by_text(re.compile(r"room \d+\.\d ± \d\.\d °C as the readings have it"))).to_be_visible()
    expect(page.locator("table tbody tr")).to_have_count(2)  # one part, and the watts
    expect(page.get_by_label("Other quantities")).to_contain_text("131 W")
    stage(page, "Bench")
    page.get_by_role("tab", name="Typed readings").click()
    page.get_by_label("figure 1").fill("58")
    page.get_by_role("button", name="Keep 1 reading").click()
    expect(page.get_by_role("button", name=re.compile("Both typed"))).to_have_count(2)
    stage(page, "Verdict")
    page.get_by_role("link", name="Compare").click()
    expect(page.get_by_test_id("comparison")).to_contain_text("at equal watts and speeds")
    expect(page.get_by_test_id("twin-towers")).to_be_visible()


def test_lines_are_pasted_learnt_from_and_the_hot_day_follows(recipe_build: Page):
    """Six lines off a display and a rough room: what held it back, what it teaches, tomorrow's hot day, undone again."""
    page = recipe_build
    settled(page)
    stage(page, "Bench")
    page.get_by_role("tab", name="Typed readings").click()
    page.get_by_label("What is known of the room").select_option("about")
    page.get_by_label("roughly").fill("24")
    page.get_by_role("button", name="Paste lines").click()
    lines = "idle processor 33\n60 min\nprocessor 93\ngraphics 74\nprocessor power 100 W\n41 jobs/h\nnothing here"
    page.get_by_label("Lines of readings").fill(lines)
    page.get_by_role("button", name="Read the lines").click()
    expect(page.get_by_text("line 7: 'nothing here' holds no figure")).to_be_visible()
    page.get_by_role("button", name="Keep 5 readings").click()
    page.get_by_role("button", name="How it was set").click()
    page.get_by_label("A power limit of").select_option("processor")
    page.get_by_label("granted").fill("100")
    expect(page.get_by_text("Processor limited to 100 W")).to_be_visible()
    stage(page, "Verdict")
    expect(page.get_by_test_id("verdict")).to_be_visible()
    expect(page.get_by_text("Jobs per hour, jobs per hour").or_(page.get_by_text("jobs per hour"))).to_be_visible()
    expect(page.get_by_label("What held it back")).to_contain_text("Processor")
    page.get_by_role("link", name="Learn", exact=True).click()
    expect(page.get_by_test_id("learnt")).to_be_visible()
    core = page.get_by_test_id("hot-day").filter(has_text="Processor")
    expect(core).to_contain_text("→")
    page.get_by_role("button", name="Take it over into the draft").click()
    expect(page.get_by_text("In the draft now")).to_be_visible()
    page.get_by_role("button", name="Revoke it").click()
    expect(page.get_by_text("In the draft now")).to_have_count(0)
    page.get_by_role("link", name="Series").click()
    expect(page.get_by_test_id("series")).to_contain_text("Both typed")


def test_the_load_of_a_log_is_moved_by_its_handles_and_a_second_one_is_judged_apart(recipe_build: Page, tmp_path: Path):
    page = recipe_build
    settled(page)
    stage(page, "Bench")
    with page.expect_download() as download:
        page.get_by_role("button", name="Practice log").click()
    log = tmp_path / "practice.csv"
    download.value.save_as(log)
    log_input(page).set_input_files(log)
    expect(page.get_by_test_id("status")).to_contain_text("found by power")
    grip = page.get_by_role("slider", name="end of the load").first
    grip.focus()
    page.keyboard.press("ArrowLeft")
    expect(page.get_by_test_id("status")).to_contain_text("found by hand")
    page.get_by_role("button", name="Another load in this log").click()
    expect(page.get_by_role("radiogroup", name="Load in view").get_by_role("radio")).to_have_count(2)
    page.get_by_label("Name of the load").fill("the last ten minutes")
    page.keyboard.press("Tab")
    expect(page.get_by_role("radio", name="the last ten minutes")).to_be_visible()
    stage(page, "Verdict")
    expect(page.get_by_role("radio", name=re.compile("the last ten minutes"))).to_be_visible()
    expect(page.get_by_test_id("verdict")).to_be_visible()


def test_a_run_file_and_a_whole_archive_go_out_and_come_back(recipe_build: Page, tmp_path: Path):
    page = recipe_build
    settled(page)
    stage(page, "Bench")
    page.get_by_role("tab", name="Typed readings").click()
    page.get_by_label("figure 1").fill("74")
    page.get_by_role("button", name="Keep 1 reading").click()
    with page.expect_download() as download:
        page.get_by_role("link", name="Run as JSON").click()
    run = tmp_path / "run.json"
    download.value.save_as(run)
    page.get_by_role("tab", name="A log").click()
    log_input(page).set_input_files(run)
    expect(page.get_by_role("button", name=re.compile("Both typed"))).to_have_count(2)
    stage(page, "Logbook")
    with page.expect_download() as download:
        page.get_by_role("link", name="Everything as an archive").click()
    archive = tmp_path / "build.zip"
    download.value.save_as(archive)
    page.goto(page.url.split("#")[0])
    page.get_by_label("Open a build file").set_input_files(archive)
    stage(page, "Bench")
    expect(page.get_by_role("button", name=re.compile("Both typed"))).to_have_count(2)


@pytest.mark.parametrize("dark", [False, True])
@pytest.mark.parametrize("name", ["Brief", "Heat", "Route", "Forecast", "Bench", "Verdict", "Logbook"])
def test_no_serious_accessibility_finding(recipe_build: Page, axe, name: str, dark: bool):
    page = recipe_build
    page.evaluate("dark => document.documentElement.classList.toggle('dark', dark)", dark)
    stage(page, name)
    settled(page)
    if name == "Forecast":
        expect(page.locator("table").first).to_be_visible()
    assert axe() == []


def test_sign_out(signed_in: Page):
    page = signed_in
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()


def test_the_side_sheet_changes_a_part_and_its_guess_mark_goes(recipe_build: Page):
    page = recipe_build
    settled(page)
    before = top_of(page, "processor-core")
    page.keyboard.press("/")
    page.get_by_label("Find a part or a figure").fill("Processor plate")
    page.keyboard.press("Enter")
    sheet = page.get_by_label("Side sheet")
    expect(sheet.get_by_text("class figure", exact=True).first).to_be_visible()
    sheet.get_by_label("Class").select_option(label="processor plate, fine channels")
    expect(page.locator("[data-tower=processor-core]")).not_to_have_attribute("data-top", f"{before:.3f}")
    assert top_of(page, "processor-core") < before - 1
    guesses = sheet.get_by_text("class figure", exact=True).count()
    sheet.get_by_label("resistance at 1 l/min").fill("0.03")
    settled(page)
    assert sheet.get_by_text("class figure", exact=True).count() == guesses - 1
    sheet.get_by_role("button", name="yours").click()
    expect(sheet.get_by_role("button", name="measured")).to_be_visible()
    expect(sheet.get_by_text("± 5%")).to_be_visible()
    sheet.get_by_role("button", name="measured").click()
    expect(sheet.get_by_role("button", name="yours")).to_be_visible()
    settled(page)
    page.keyboard.press("Escape")
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    expect(page.get_by_test_id("saved")).to_have_text("saved")


def test_a_shared_hop_of_the_drawer_and_the_strip_move_with_room_and_workload(recipe_build: Page):
    page = recipe_build
    settled(page)
    room = page.get_by_test_id("room")
    expect(room).to_have_text("25.0")
    before = top_of(page, "processor-core")
    page.get_by_role("button", name="Room one kelvin warmer").click()
    expect(room).to_have_text("26.0")
    expect(page.locator("[data-tower=processor-core]")).not_to_have_attribute("data-top", f"{before:.3f}")
    assert top_of(page, "processor-core") == pytest.approx(before + 1, abs=0.2)
    page.get_by_label("Room or day").select_option("Hot day")
    expect(room).to_have_text("30.0")
    drawer = page.get_by_label("What limits it")
    drawer.get_by_label("Part in view").select_option("Graphics")
    expect(drawer).to_contain_text("Coolant over room")
    page.keyboard.press("d")
    expect(drawer).to_have_count(0)


def test_the_brief_is_kept_and_a_caution_is_acknowledged_once(recipe_build: Page):
    page = recipe_build
    stage(page, "Brief")
    page.get_by_label("Purpose").fill("counting crabs")
    page.get_by_label("Purpose").blur()
    page.get_by_label("Margin wanted").fill("12")
    settled(page)
    stage(page, "Bench")
    page.get_by_role("button", name="I have read this").first.click()
    page.reload()
    expect(page.get_by_role("button", name="I have read this")).to_have_count(3)
    stage(page, "Brief")
    expect(page.get_by_label("Purpose")).to_have_value("counting crabs")
    expect(page.get_by_label("Margin wanted")).to_have_value("12")


def test_revisions_exports_and_sharing(recipe_build: Page, django_user_model):
    django_user_model.objects.create_user("ravi", password="another-station")
    page = recipe_build
    settled(page)
    stage(page, "Logbook")
    page.get_by_placeholder("one line of why").fill("as the recipe made it")
    page.get_by_role("button", name="Save revision").click()
    expect(page.get_by_role("heading", name="Revision 1")).to_be_visible()
    expect(page.get_by_role("button", name="Save revision")).to_be_disabled()
    with page.expect_download() as download:
        page.get_by_role("link", name="Build as JSON").click()
    assert '"format": "krill-build"' in Path(download.value.path()).read_text()
    page.get_by_label("User name or group").fill("ravi")
    page.get_by_role("button", name="Share").click()
    expect(page.get_by_role("region", name="Who may see it").get_by_text("ravi reader")).to_be_visible()
    stage(page, "Forecast")
    with page.expect_download() as download:
        page.get_by_role("link", name="Prediction as CSV").click()
    assert "It certifies nothing" in Path(download.value.path()).read_text()


def test_a_log_with_semicolons_and_missing_cells_is_counted(recipe_build: Page, tmp_path: Path):
    page = recipe_build
    settled(page)
    stage(page, "Logbook")
    page.get_by_placeholder("one line of why").fill("first")
    page.get_by_role("button", name="Save revision").click()
    expect(page.get_by_role("heading", name="Revision 1")).to_be_visible()
    german = tmp_path / "semicolons.csv"
    german.write_text(
        "Zeit;CPU Package [°C];N/A\n" + "".join(f"{t};{40 + t / 40:.1f}\n".replace(".", ",") for t in range(0, 900, 5))
    )
    stage(page, "Bench")
    log_input(page).set_input_files(german)
    expect(page.get_by_test_id("lines")).to_contain_text("0 rows kept, 180 repaired")
    expect(page.get_by_test_id("lines")).to_contain_text("semicolon, decimal comma")
