"""Parts, places, zones, loops, paths and workloads that all carry one name: every stage draws each of them."""

from typing import Any

import pytest
from playwright.sync_api import Page, expect

from builds.actions import create_build, keep_revision
from krill.document.build import Build
from krill.document.reading import read_object, write_object
from krill.recipes.book import RECIPES

NAME = "Same"
STAGES = ("brief", "heat", "route", "air", "fit", "forecast", "bench", "logbook")
VIEWS = ("size", "map", "solve", "fan-curve", "measure", "beside")


def same_names(recipe: str) -> Build:
    """A recipe's build in which every thing has the same name."""
    made = RECIPES[recipe]
    raw = write_object(made.make(*made.starts, 24.0, NAME))
    for key in ("rooms", "parts", "zones", "loops", "air_paths", "workloads", "recirculations"):
        for item in raw.get(key, []):
            item["name"] = NAME
            for place in item.get("places", []):
                place["name"] = NAME
            if key == "recirculations":
                del item["name"]
    for route in raw["routes"]:
        for hop in route["hops"]:
            hop["name"] = NAME
    thick = [part["id"] for part in raw["parts"] if part["kind"] in ("fan", "radiator")]
    raw["slots"] = [{"id": f"slot-{n}", "name": NAME, "gap_mm": 60, "stack": thick} for n in range(2)]
    joints = [{"id": f"joint-{n}", "name": NAME, "height_mm": 2, "filler": "putty"} for n in range(3)]
    raw["contacts"] = [{"id": "contact", "name": NAME, "joints": joints}]
    raw["ready_made"] = [{"id": "bought", "name": NAME}, {"id": "bought-too", "name": NAME}]
    return read_object(raw)


@pytest.mark.parametrize("recipe", ["water_loop", "fanless_housing", "thin_box"])
def test_every_stage_draws_things_of_one_name(signed_in: Page, person: Any, recipe: str):
    page = signed_in
    build = create_build(person, same_names(recipe))
    keep_revision(person, build.pk, NAME)
    places = len(same_names(recipe).place_owners())
    page.goto(f"/#/build/{build.pk}/route")
    expect(page.locator("[data-tower]")).to_have_count(places)
    expect(page.get_by_test_id("next-changes").get_by_role("button").first).to_be_visible()
    for stage in STAGES:
        page.goto(f"/#/build/{build.pk}/{stage}")
        expect(page.get_by_role("main").get_by_role("heading").first).to_be_visible()
    for view in VIEWS:
        page.goto(f"/#/build/{build.pk}/forecast/{view}")
        expect(page.get_by_role("main").get_by_role("heading").first).to_be_visible()
        page.wait_for_timeout(400)
