"""Runs in the browser: any log's channels, pictures, the next reading, two runs at equal sound; and how few touches they take."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from test_jobs import COUNT
from workbench import log_input, settled, stage

#: the smallest picture there is
DOT = bytes.fromhex(
    "89504e470d0a1a0a0000000d4948445200000001000000010802000000907753de0000000c49444154789c63606060000000"
    "040001f61738550000000049454e44ae426082"
)


def evening(folder: Path) -> Path:
    """Two loads, a probe in a unit that nobody knows, a sensor that is not there."""
    rows = ["Time [min];CPU Package [°C];CPU Package Power [W];GPU Power [W];Probe [marks];T9 [°C]"]
    for i in range(121):
        load = 20 <= i < 60 or 80 <= i < 110
        rows.append(f"{i};{66 if load else 35};{118 if load else 12};{200 if load else 20};{140 if load else 95};127")
    file = folder / "evening.csv"
    file.write_text("\n".join(rows), encoding="utf-8")
    return file


def acts(page: Page) -> int:
    """Clicks and fields so far; a field counts where it is typed into."""
    return int(page.evaluate("JSON.parse(sessionStorage.getItem('acts') ?? '{\"clicks\": 0}').clicks"))


def counting(page: Page) -> None:
    page.add_init_script(COUNT)
    page.reload()
    settled(page)


def test_channels_say_why_and_ask_a_second_load_is_taken_and_pictures_stand_in_the_logbook(
    recipe_build: Page, tmp_path: Path
) -> None:
    page = recipe_build
    settled(page)
    stage(page, "Bench")
    log_input(page).set_input_files(evening(tmp_path))
    expect(page.get_by_test_id("lines")).to_contain_text("121 rows kept, 0 repaired, 0 lines skipped")
    expect(page.get_by_test_id("lines")).to_contain_text("time: minutes")
    page.get_by_role("button", name="Channels (1 to confirm)").click()
    expect(page.get_by_text("it stands at 127 while others move: a sensor that is not there")).to_be_visible()
    expect(page.get_by_text("the unit 'marks' is not known; say what these figures are")).to_be_visible()
    page.get_by_label("unit of Probe").select_option("°F")
    expect(page.get_by_text("the unit 'marks' is not known")).to_have_count(0)
    page.get_by_label("role of Probe").select_option(label="Graphics temperature")
    expect(page.get_by_role("row", name=re.compile("^Probe")).last).to_contain_text("as you said")
    page.get_by_role("button", name=re.compile("Also the load from 80 to 1")).click()
    expect(page.get_by_role("radiogroup", name="Load in view").get_by_role("radio")).to_have_count(2)
    dot = tmp_path / "dot.png"
    dot.write_bytes(DOT)
    page.get_by_label("Pictures").locator("input[type=file]").set_input_files(dot)
    page.get_by_label("Caption").fill("paste print")
    page.keyboard.press("Tab")
    expect(page.get_by_role("button", name="paste print")).to_be_visible()
    page.get_by_label("Pictures").locator("input[type=file]").set_input_files(evening(tmp_path))
    expect(page.get_by_role("alert")).to_contain_text("is no picture that can be kept")
    stage(page, "Logbook")
    expect(page.get_by_label("Runs of this revision").get_by_role("img", name="paste print")).to_be_visible()


def typed(page: Page, figures: list[str]) -> None:
    stage(page, "Bench")
    page.get_by_role("tab", name="Typed readings").click()
    for number, figure in enumerate(figures, 1):
        page.get_by_label(f"figure {number}").click()
        page.keyboard.type(figure)
    page.get_by_role("button", name=re.compile(r"^Keep \d reading")).click()
    expect(page.get_by_role("heading", name=re.compile(r"typed( \d+)?$"))).to_be_visible()


def test_two_figures_and_no_room_are_judged_in_twelve_touches_and_two_runs_compared_in_four(recipe_build: Page) -> None:
    page = recipe_build
    counting(page)
    before = acts(page)
    typed(page, ["74", "66"])
    stage(page, "Verdict")
    expect(page.get_by_test_id("verdict")).to_be_visible()
    assert acts(page) - before <= 12
    typed(page, ["70", "63"])
    expect(page.get_by_role("button", name=re.compile("Both typed"))).to_have_count(2)
    before = acts(page)
    stage(page, "Verdict")
    page.get_by_role("link", name="Compare").click()
    expect(page.get_by_test_id("comparison")).to_contain_text("at equal watts and speeds")
    page.get_by_role("radio", name="sound").click()
    expect(page.get_by_test_id("comparison")).to_contain_text(
        re.compile(r"at equal watts and sound.*both make \d+\.\d dBA")
    )
    expect(page.get_by_role("columnheader", name="at equal watts and sound")).to_be_visible()
    assert acts(page) - before <= 4


def test_what_parts_the_suspects_is_the_first_field_of_the_next_run(recipe_build: Page) -> None:
    page = recipe_build
    settled(page)
    typed(page, ["98", "60"])
    stage(page, "Verdict")
    expect(page.get_by_test_id("verdict")).to_contain_text("To part them, read")
    page.get_by_role("button", name=re.compile("^Read the .* in the next run$")).click()
    expect(page.get_by_role("heading", name="Bench", exact=True)).to_be_visible()
    first = page.get_by_label("part 1").evaluate("one => one.value")
    assert first not in ("processor-core/temperature", "graphics-chip/temperature")
    assert page.get_by_label("part 2").evaluate("one => one.value") == "processor-core/temperature"


@pytest.mark.parametrize("view", ["Run by run", "Compare", "Learn", "Series"])
def test_all_of_it_holds_a_phone(recipe_build: Page, view: str) -> None:
    page = recipe_build
    settled(page)
    typed(page, ["74", "66"])
    typed(page, ["70", "63"])
    page.set_viewport_size({"width": 390, "height": 844})
    address = page.url.rsplit("/", 1)[0]
    page.goto(f"{address}/verdict")
    page.get_by_role("link", name=view, exact=True).click()
    sign = {"Run by run": "verdict", "Compare": "comparison", "Learn": "learnt", "Series": "series"}[view]
    expect(page.get_by_test_id(sign)).to_be_visible(timeout=60_000)
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
