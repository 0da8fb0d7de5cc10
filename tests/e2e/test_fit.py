"""Fit in a real browser: a stack that collides and is mended, what a gap costs, a plate that floats, a template."""

import re
from xml.etree import ElementTree

import pytest
from playwright.sync_api import Page, expect
from workbench import first_of, new_slot, settled, stack, stage


@pytest.fixture
def fit(recipe_build: Page) -> Page:
    """A water loop at its Fit."""
    stage(recipe_build, "Fit")
    return recipe_build


def test_a_stack_collides_is_mended_and_costs_what_the_network_says(fit: Page) -> None:
    page = fit
    new_slot(page, "Front", "52")
    fan = first_of(page, "fan")
    stack(page, fan, "rubber pads of a fan, both faces", first_of(page, "radiator"))
    says = page.get_by_test_id("slot-says")
    expect(says).to_contain_text("Does not go in")
    expect(page.get_by_role("link", name=re.compile("Fit"))).to_contain_text(re.compile(r"\d"))
    page.get_by_role("group", name="Ways out").get_by_role("button").filter(has_text=fan).first.click()
    expect(page.get_by_test_id("slot-trial")).to_contain_text("Goes in by class figures")
    expect(page.get_by_test_id("trial")).to_contain_text("°C")
    page.get_by_role("button", name="Keep change").click()
    expect(says).to_contain_text("Goes in by class figures")
    page.get_by_role("button", name=re.compile("breathe what is left")).click()
    cost = page.locator("figure").filter(has_text="What the gap costs")
    expect(cost).to_contain_text(re.compile(r"\+\d+\.\d K"))
    before = cost.inner_text()
    page.get_by_label("Thickness of rubber pads of a fan, both faces").fill("4")
    expect(cost).not_to_have_text(before)
    page.reload()
    expect(says).to_contain_text("mm")


def test_a_slot_is_measured_and_says_so(fit: Page) -> None:
    page = fit
    new_slot(page, "Memory under the cooler", "40")
    stack(page, "gasket or label")
    page.get_by_label("Thickness of gasket or label").fill("36")
    says = page.get_by_test_id("slot-says")
    expect(says).to_contain_text("Goes in")
    expect(says).not_to_contain_text("class figures")
    page.get_by_label("Thickness of gasket or label").fill("39.8")
    expect(says).to_contain_text("Measure: the tolerance decides")
    page.get_by_role("button", name="Remove slot").click()
    expect(page.get_by_text("A slot is a gap that parts stand in")).to_be_visible()


def test_a_part_is_moved_by_keys_and_mouse_until_it_touches(fit: Page) -> None:
    page = fit
    plan = page.get_by_role("region", name="Plan")
    for side, mm in (("wide", "320"), ("deep", "200"), ("high", "180")):
        plan.get_by_label(re.compile(f"^{side}")).fill(mm)
        settled(page)
    names = plan.locator("button.small:not(.dotted)").all_inner_texts()
    for name in names[:2]:
        plan.get_by_role("button", name=name, exact=True).click()
        settled(page)
    first, second = (plan.get_by_role("button", name=re.compile(rf"^{re.escape(name)} at ")) for name in names[:2])
    expect(plan.get_by_text(re.compile("runs into"))).to_be_visible()  # both begin in the middle
    second.focus()
    for _ in range(14):
        page.keyboard.press("Alt+ArrowRight")
    settled(page)
    at = second.get_attribute("aria-label") or ""
    page.keyboard.press("ArrowLeft")
    settled(page)
    expect(second).not_to_have_attribute("aria-label", at)
    box = first.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] - 200, box["y"] + box["height"] / 2, steps=6)
    page.mouse.up()
    settled(page)
    expect(first).to_have_attribute("aria-label", re.compile(r" at −?\d+, 100, 90 mm, stands out at the left by"))
    page.get_by_role("button", name="Undo").click()
    settled(page)


def test_a_plate_that_floats_shows_in_kelvins(fit: Page) -> None:
    page = fit
    contact = page.get_by_role("region", name="Contact under a plate")
    plates = contact.get_by_label(re.compile("Look under")).locator("option").all_inner_texts()
    contact.get_by_label(re.compile("Look under")).select_option(label=next(p for p in plates if "raphics" in p))
    contact.get_by_label("Add a neighbour").select_option("Memory")
    expect(contact.get_by_test_id("contact-says")).to_contain_text("Touches everywhere")
    contact.get_by_role("button", name=re.compile("^Memory: ")).click()
    layers = contact.get_by_label(re.compile("layer")).locator("option").all_inner_texts()
    contact.get_by_label(re.compile("layer")).select_option(label=next(n for n in layers if "pad" in n.lower()))
    settled(page)
    hot = contact.get_by_test_id("joint-says")
    expect(hot).to_contain_text("°C")
    before = float(re.search(r"([\d.]+) °C", hot.inner_text()).group(1))  # type: ignore[union-attr]
    contact.get_by_label(re.compile("^pad")).fill("0.99")
    expect(contact.get_by_test_id("contact-says")).to_contain_text("Floats by")
    settled(page)
    after = float(re.search(r"([\d.]+) °C", hot.inner_text()).group(1))  # type: ignore[union-attr]
    assert after > before + 3


def test_a_template_is_downloaded_and_measured(fit: Page) -> None:
    page = fit
    making = page.get_by_role("region", name="Templates and adapters")
    with page.expect_download() as waited:
        making.get_by_role("button", name="SVG 1:1").click()
    root = ElementTree.fromstring(waited.value.path().read_text())
    width = float((root.get("width") or "").removesuffix("mm"))
    assert width == float((root.get("viewBox") or "").split()[2])
    bar = root.find(".//{http://www.w3.org/2000/svg}path[@id='scale-bar']")
    assert bar is not None
    start, end = re.findall(r"[MH]([\d.]+)", bar.get("d") or "")
    assert float(end) - float(start) == 100
    with page.expect_download() as waited:
        making.get_by_role("button", name="STL", exact=True).click()
    assert waited.value.path().stat().st_size > 10_000
    expect(making).to_contain_text("cm³")


def test_a_lead_gets_a_way_a_corner_and_reaches(fit: Page) -> None:
    """From the supply to a fan that has no place: no points, then a pair, a corner, a bend with no room, a length."""
    page = fit
    leads = page.get_by_role("region", name="Leads and tubes")
    leads.get_by_label("Lead from").select_option(label="Power supply")
    leads.get_by_label("Lead to").select_option(label="Pump")
    leads.get_by_role("button", name="+ Lead").click()
    settled(page)
    editor = leads.get_by_role("group", name=re.compile("^lead Power supply"))
    expect(leads).to_contain_text("no points yet")
    editor.get_by_role("button", name="Give it a way").click()
    expect(leads).to_contain_text("way 100 mm, order 130")
    editor.get_by_role("button", name="corner behind it").first.click()
    settled(page)
    editor.get_by_label("z of point 2").fill("40")
    expect(leads).to_contain_text("way 12")
    editor.get_by_label("bent with").fill("5")
    expect(leads).to_contain_text("kinks: room for a bend of 5 mm, it takes 22 ± 6")
    expect(page.get_by_role("link", name=re.compile("Fit"))).to_contain_text(re.compile(r"\d"))
    editor.get_by_label("bent with").fill("30")
    editor.get_by_label("has").fill("90")
    expect(leads).to_contain_text("does not reach: 90 mm")
    page.reload()
    expect(leads).to_contain_text("does not reach: 90 mm")


def test_tape_lets_go_where_the_network_is_warm(fit: Page) -> None:
    page = fit
    holds = page.get_by_role("region", name="What holds")
    holds.get_by_label("Held by a joint:").select_option(label="Processor plate")
    settled(page)
    expect(holds).to_contain_text(re.compile(r"carries 2\.0 ± 0\.8 N at 25 °C, \d\.\d N hang on it"))
    expect(page.get_by_role("link", name=re.compile("Fit"))).to_contain_text(re.compile(r"\d"))
    holds.get_by_label("Held by", exact=True).select_option(label="M3 nut rivet")
    expect(holds).to_contain_text("carries 350.0 ± 140.0 N")
    holds.get_by_role("button", name="remove").click()
    expect(holds.get_by_label("Held by", exact=True)).to_have_count(0)
    holds.get_by_label("Beside what").select_option(label="Box air")
    holds.get_by_role("button", name="+ Add").click()
    expect(holds).to_contain_text(re.compile(r"gets \d+ °C, stays under 80 °C for years"))
