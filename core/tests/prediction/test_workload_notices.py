"""What a workload leaves out or tells that cannot be: each notice from both sides of its threshold."""

import pytest
from strategies import raw_recipe

from krill.document.reading import read_object
from krill.errors import DocumentRefused
from krill.prediction.predict import predict
from krill.recipes.book import RECIPES


def part(raw, part_id):
    return next(item for item in raw["parts"] if item["id"] == part_id)


def told(change=lambda raw, both: None):
    """Texts of all notices of a changed workload, by level."""
    raw = raw_recipe()
    change(raw, next(w for w in raw["workloads"] if w["id"] == "both"))
    found = predict(read_object(raw), ["both"], samples=0).workloads[0].notices
    return {notice.text: (notice.level, notice.address) for notice in found}


def said(notices, text):
    return [where for known, where in notices.items() if text in known]


def test_a_source_without_watts_counts_as_off():
    assert not said(told(), "has no watts in this workload")
    assert said(told(lambda raw, both: both["watts"].pop("drive")), "Drive has no watts") == [("note", "drive")]


@pytest.mark.parametrize(("minutes", "longer"), [(1.0, False), (0.99, True)])
def test_a_burst_is_named_and_one_longer_than_its_workload_is_warned_of(minutes, longer):
    def change(raw, both):
        both["burst"] = {"processor": {"power_w": 180, "hold_s": 60}}
        both["duration_min"] = minutes

    notices = told(change)
    assert said(notices, "Processor bursts to 180 W for 60 s: settled figures do not count it.") == [
        ("note", "processor")
    ]
    assert said(notices, "lasts longer than the") == ([("warning", "processor")] if longer else [])


@pytest.mark.parametrize(
    ("chip", "text", "level"),
    [
        (0.78, "", ""),
        (0.782, "add up to 1.00: they are scaled down to one", "warning"),
        (0.9, "add up to 1.12: they are scaled down to one", "warning"),
        (0.681, "", ""),
        (0.679, "10 % of Graphics is named by no place", "note"),
    ],
)
def test_shares_that_do_not_make_one(chip, text, level):
    def change(raw, both):
        part(raw, "graphics")["places"][0]["power_share"] = chip

    notices = told(change)
    found = said(notices, "is named by no place") + said(notices, "add up to")
    assert found == ([(level, "graphics")] if text else [])
    assert not text or said(notices, text)


@pytest.mark.parametrize(("rpm", "over"), [(1800, False), (1801, True)])
def test_a_fan_told_more_than_it_is_rated_for(rpm, over):
    def change(raw, both):
        part(raw, "fan-a1")["rated_rpm"] = 1800
        both["movers"]["fan-a1"] = {"speed_rpm": rpm}

    assert bool(said(told(change), "more than the 1800 rpm that it is rated for")) is over


@pytest.mark.parametrize(("duty", "doubtful"), [(0.199, False), (0.2, True), (0.29, True), (0.3, False)])
def test_a_fan_told_within_what_its_start_duty_may_be(duty, doubtful):
    def change(raw, both):
        part(raw, "fan-a1")["start_duty"] = {"value": 0.25, "plus_minus": 0.05, "from": "datasheet"}
        both["movers"]["fan-a1"] = {"duty": duty}

    assert bool(said(told(change), "starts somewhere between 20% and 30%")) is doubtful


@pytest.mark.parametrize("recipe", RECIPES.values(), ids=lambda recipe: recipe.id)
def test_recipes_tell_no_fan_what_it_may_not_start_with(recipe):
    watts = list(recipe.starts)
    for workload in predict(recipe.make(*watts, 24.0, recipe.name), samples=0).workloads:
        assert not [notice for notice in workload.notices if "it may stand still" in notice.text]


@pytest.mark.parametrize(
    ("room", "refused"),
    [
        ({"air_c": -40}, ""),
        ({"air_c": -40.1}, "room/air_c: -40.1; allowed: -40 to 70 °C"),
        ({"air_c": 70.1}, "the laws of air and coolant are made for rooms between them"),
        ({"altitude_m": 6000}, ""),
        ({"altitude_m": 6001}, "room/altitude_m: 6001; allowed: up to 6000"),
        ({"altitude_m": -501}, "room/altitude_m: -501; allowed: -500 or more"),
    ],
)
def test_rooms_beyond_what_the_laws_were_made_for_are_refused_in_words(room, refused):
    raw = raw_recipe()
    raw["rooms"][0].update(room)
    if not refused:
        assert read_object(raw)
        return
    with pytest.raises(DocumentRefused) as caught:
        read_object(raw)
    assert refused in str(caught.value)
