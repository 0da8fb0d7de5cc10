"""A fanless box in a real browser: sized from nothing, its sheets, limits and next changes, the demo's recipe."""

import re

import pytest
from playwright.sync_api import Page, expect
from test_air_and_loops import stage


def celsius(page: Page, tower: str) -> float:
    return float(page.locator(f"[data-tower='{tower}']").get_attribute("data-top") or "nan")


def make(page: Page, recipe: str) -> None:
    page.get_by_text(recipe, exact=True).click()
    if recipe != "Empty build":
        page.get_by_role("button", name="Create build").click()


@pytest.fixture
def fanless(signed_in: Page) -> Page:
    make(signed_in, "Fanless housing")
    expect(signed_in.get_by_test_id("terraces")).to_be_visible()
    return signed_in


def test_a_fanless_box_is_sized_from_nothing(signed_in: Page):
    """An empty build, an extrusion from the shelf, a chip on heat pipes; the pitch and the finish follow the advice."""
    page = signed_in
    make(page, "Empty build")
    expect(page.get_by_text("No source has a route yet")).to_be_visible()
    page.keyboard.press("a")
    page.get_by_label("Search the shelf").fill("extrusion 150")
    page.get_by_label("Name").fill("Back plate")
    page.get_by_label("On the face").select_option("back")
    page.get_by_label("Back face towards").select_option("box")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("status").filter(has_text="Added")).to_be_visible()
    page.get_by_role("tab", name="Source").click()
    page.get_by_label("Name").fill("Computer")
    page.get_by_role("textbox", name="Heat W").fill("35")
    page.get_by_label("Gives its heat to").select_option(label="Back plate")
    page.get_by_label("carried by").select_option("pipe_8_sintered")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("status").filter(has_text="Added Computer")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.locator("[data-terrace='back-plate']")).to_be_visible()
    bare = celsius(page, "computer-place")
    steps = page.get_by_test_id("next-changes")
    best = steps.get_by_role("button").filter(has_text="painted or powder coated").first
    best.click()
    trial = page.get_by_test_id("trial")
    expect(trial.get_by_role("heading")).to_contain_text("painted")
    page.get_by_role("button", name="Keep change").click()
    expect(page.get_by_text("saved", exact=True)).to_be_visible()
    expect(page.locator("[data-tower='computer-place']")).not_to_have_attribute("data-top", f"{bare:.3f}")
    assert celsius(page, "computer-place") < bare - 1
    stage(page, "6", "Forecast")
    row = page.get_by_test_id("held").get_by_role("row").filter(has_text="Computer")
    expect(row).to_contain_text(re.compile(r"\d W"))


def test_the_section_follows_the_figures(fanless: Page):
    """A taller, wider-pitched comb is drawn as soon as it is typed, and the curve and best pitch stand beside it."""
    page = fanless
    page.get_by_role("button", name="Finned back", exact=True).click()
    sheet = page.get_by_role("region", name="Side sheet")
    section = sheet.get_by_test_id("section")
    fins = int(re.search(r"(\d+) fins", section.get_attribute("aria-label") or "").group(1))  # type: ignore[union-attr]
    expect(sheet.get_by_role("img", name=re.compile("Watts over kelvins"))).to_be_visible()
    expect(sheet.get_by_text(re.compile("Its pitch is right|would give off"))).to_be_visible()
    pitch = sheet.get_by_role("textbox", name="fin pitch mm")
    pitch.fill("20")
    pitch.press("Enter")
    expect(section).not_to_have_attribute("aria-label", re.compile(f" {fins} fins"))
    sheet.get_by_text("Laws, their ranges and sources").click()
    expect(sheet.get_by_text("Bar-Cohen & Rohsenow 1984", exact=False).first).to_be_visible()
    expect(page.get_by_text("saved", exact=True)).to_be_visible()


def test_turning_the_fins_costs_kelvins_and_flags_the_law(fanless: Page):
    page = fanless
    upright = celsius(page, "chip-place")
    page.get_by_role("button", name="Finned back", exact=True).click()
    page.get_by_label("Fins run along its").select_option("width")
    tower = page.locator("[data-tower='chip-place']")
    expect(tower).not_to_have_attribute("data-top", f"{upright:.3f}")
    assert celsius(page, "chip-place") > upright + 2
    page.keyboard.press("Escape")
    expect(page.get_by_text(re.compile("Outside the range of its law.*Upright channels × 0.5"))).to_be_visible()
    page.keyboard.press("Control+z")
    expect(tower).to_have_attribute("data-top", f"{upright:.3f}")
    expect(page.get_by_text("saved", exact=True)).to_be_visible()


def test_the_limits_of_the_pipes_and_a_dry_out(fanless: Page):
    """The chart has its working point; one long lifted pipe of 6 mm under 38 W is called dried out."""
    page = fanless
    page.get_by_role("button", name=re.compile("^Heat pipes .* of .* W")).click()
    sheet = page.get_by_role("region", name="Side sheet")
    expect(sheet.get_by_role("img", name=re.compile("limits over vapour temperature"))).to_be_visible()
    expect(sheet.get_by_text("works:", exact=False)).to_be_visible()
    sheet.get_by_label("Class").select_option("pipe_6_mesh")
    count = sheet.get_by_role("textbox", name="pipes", exact=True)
    count.fill("1")
    count.press("Enter")
    expect(sheet.get_by_text("dried out:", exact=False)).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_text("are dried out", exact=False)).to_be_visible()
    expect(page.get_by_text("saved", exact=True)).to_be_visible()


def test_hops_go_in_and_out_of_a_way(fanless: Page):
    page = fanless
    tower = page.locator("[data-tower='chip-place']")
    tower.get_by_role("button", name=re.compile("small hops")).first.click()
    tower.get_by_role("button", name=re.compile("^Chip ")).click()
    sheet = page.get_by_role("region", name="Side sheet")
    before = celsius(page, "chip-place")
    sheet.get_by_role("button", name="Take Heat pipes out").click()
    expect(sheet.get_by_role("button", name="Take Heat pipes out")).to_have_count(0)
    sheet.get_by_label("Put before its end").select_option("heat pipes")
    expect(sheet.get_by_role("button", name="Take Heat pipes out")).to_be_visible()
    expect(page.get_by_text("saved", exact=True)).to_be_visible()
    expect(page.locator("[data-tower='chip-place']")).not_to_have_attribute("data-top", f"{before:.3f}")


@pytest.mark.parametrize("dark", [False, True], ids=["light", "dark"])
def test_no_serious_accessibility_finding_on_a_fanless_build(fanless: Page, axe, dark: bool):
    page = fanless
    if dark:
        page.get_by_role("button", name="Dark").click()
    expect(page.get_by_test_id("next-changes")).to_be_visible()
    assert axe() == []
    page.get_by_role("button", name="Finned back", exact=True).click()
    expect(page.get_by_role("img", name=re.compile("Watts over kelvins"))).to_be_visible()
    assert axe() == []


def test_a_figure_is_solved_for_and_looked_at_as_a_trial(fanless: Page):
    """Forecast: which fin height gives a wanted margin; the answer is tried before it is taken; out of reach says why."""
    page = fanless
    stage(page, "6", "Forecast")
    page.get_by_role("link", name="Solve for", exact=True).click()
    panel = page.get_by_role("region", name="Solve for a figure")
    panel.get_by_label("Which").select_option("back/fin_height_mm")
    panel.get_by_label("Of what").select_option("chip-place")
    wanted = panel.get_by_role("textbox", name="Wanted K")
    wanted.fill("36")
    panel.get_by_role("button", name="Solve").click()
    expect(panel.get_by_role("status")).to_contain_text("36.0 K")
    panel.get_by_role("button", name="Look at it as a trial").click()
    expect(page.get_by_test_id("trial").get_by_role("heading")).to_contain_text("fin height")
    expect(page.get_by_role("button", name="Keep change")).to_be_enabled()
    page.get_by_test_id("trial").get_by_role("button", name="Discard").click()
    wanted.fill("70")
    panel.get_by_role("button", name="Solve").click()
    expect(panel.get_by_role("status")).to_contain_text("Not reached")


def test_pointing_at_a_step_shows_where_the_towers_would_end(fanless: Page):
    page = fanless
    step = page.get_by_test_id("next-changes").get_by_role("button").first
    step.hover()
    preview = page.locator("[data-preview]")
    expect(preview).not_to_have_count(0)
    page.get_by_role("heading", name="Route").hover()
    expect(preview).to_have_count(0)
    step.focus()
    expect(preview).not_to_have_count(0)
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("trial")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_test_id("trial")).to_have_count(0)
