"""Help that stands where it is needed, and the report: what a newcomer reads and what goes on paper."""

import re

from playwright.sync_api import Page, expect
from workbench import settled, stage


def test_a_hint_is_shown_on_the_first_visit_and_goes_for_good(recipe_build: Page) -> None:
    page = recipe_build
    hint = page.get_by_label("What this stage answers")
    expect(hint).to_contain_text("Where the kelvins of each part are lost")
    hint.get_by_role("button", name="Got it").click()
    expect(hint).to_have_count(0)
    stage(page, "Air")
    expect(hint).to_contain_text("Where air enters and leaves")
    stage(page, "Route")
    expect(hint).to_have_count(0)
    page.reload()
    expect(page.get_by_test_id("terraces")).to_be_visible()
    expect(hint).to_have_count(0)


def test_help_is_of_the_stage_in_view_and_gives_the_focus_back(recipe_build: Page) -> None:
    page = recipe_build
    stage(page, "Bench")
    page.get_by_role("button", name="? help, keys").press("Enter")
    sheet = page.get_by_label("Help", exact=True)
    expect(sheet).to_contain_text("What was measured")
    expect(sheet).to_contain_text("guess, rule of thumb")
    page.keyboard.press("Escape")
    expect(sheet).to_have_count(0)
    expect(page.get_by_role("button", name="? help, keys")).to_be_focused()


def test_a_first_build_is_guided_through_the_stages_themselves(signed_in: Page) -> None:
    page = signed_in
    page.get_by_label("guide me, six steps").check()
    page.get_by_role("button", name="Create build").click()
    guide = page.get_by_label("Guide", exact=True)
    expect(guide).to_contain_text("Say what it is for")
    expect(page.get_by_label("What this stage answers")).to_have_count(0)
    page.get_by_label("Purpose").fill("listening desk")
    page.keyboard.press("Tab")
    expect(guide.get_by_role("button", name="Step 1, Say what it is for, done")).to_be_visible()
    guide.get_by_role("button", name="Next").click()
    expect(guide).to_contain_text("Type your own watts")
    page.get_by_label("Processor in Both").fill("150")
    settled(page)
    page.reload()
    guide.get_by_role("button", name="Next").click()
    expect(page.get_by_role("heading", name="Route")).to_be_visible()
    for title in ("Replace the largest guess", "Measure the openings", "Read what is tight"):
        expect(guide).to_contain_text(title)
        guide.get_by_role("button", name="Done, next").click()
    expect(guide).to_contain_text("Keep a revision")
    page.get_by_placeholder("one line of why").fill("first")
    page.get_by_role("button", name="Save revision").click()
    expect(guide).to_contain_text("That is a first build")
    guide.get_by_role("button", name="Close").click()
    expect(guide).to_have_count(0)
    page.get_by_role("button", name="? help, keys").click()
    page.get_by_role("button", name="Guide me through this build").click()
    expect(guide).to_contain_text("Keep a revision")


def test_a_revision_says_which_changes_mattered_and_the_report_has_everything(recipe_build: Page) -> None:
    page = recipe_build
    stage(page, "Logbook")
    page.get_by_placeholder("one line of why").fill("as it comes")
    page.get_by_role("button", name="Save revision").click()
    expect(page.get_by_role("heading", name="Revision 1")).to_be_visible()
    stage(page, "Heat")
    page.get_by_label("Processor in Both").fill("165")
    settled(page)
    stage(page, "Logbook")
    page.get_by_placeholder("one line of why").fill("a hotter processor")
    page.get_by_role("button", name="Save revision").click()
    expect(page.get_by_test_id("mattered")).to_contain_text(re.compile(r"\+\d+\.\d K on Processor in Both"))
    expect(page.get_by_test_id("mattered")).to_contain_text("Processor: watts 125 → 165")
    page.get_by_label("What kind").select_option("incident")
    page.get_by_label("About", exact=True).select_option(label="Pump")
    page.get_by_label("What happened", exact=True).fill("stood still after two years")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("region", name="Time line")).to_contain_text("Pump: stood still after two years")
    page.get_by_role("link", name="Report to print").click()
    report = page.get_by_role("article")
    for heading in (
        "Brief",
        "Heat, W",
        "Runs and verdicts",
        "Changes",
        "What happened",
        "Cautions",
        "Method and limits",
    ):
        expect(report.get_by_role("heading", name=heading, exact=True)).to_be_visible()
    expect(report).to_contain_text("a hotter processor")
    expect(report).to_contain_text(re.compile("incident: Pump: stood still after two years, mara"))
    expect(report).to_contain_text(re.compile(r"Processor has [+−]\d+\.\d ± \d+\.\d K to spare"))
    expect(report.get_by_role("row", name=re.compile("^Sound"))).to_contain_text("dBA")
    page.emulate_media(media="print")
    expect(report.get_by_role("button", name="Print, or save as PDF")).to_be_hidden()


def test_a_fanless_box_has_no_cautions_of_pumps(signed_in: Page) -> None:
    page = signed_in
    page.get_by_text("Fanless housing", exact=True).click()
    page.get_by_role("button", name="Create build").click()
    expect(page.get_by_test_id("terraces")).to_be_visible()
    expect(page.get_by_role("button", name="I have read this")).to_have_count(0)
    stage(page, "Bench")
    expect(page.get_by_role("button", name="I have read this")).to_have_count(1)
