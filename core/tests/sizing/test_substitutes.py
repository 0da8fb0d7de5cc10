"""What of the shelf could stand in a part's place: nearest first, with what the whole machine makes of it."""

from math import exp, log

import pytest
from strategies import raw_recipe, recipe

from krill.catalogue.shelf import class_shelf
from krill.document.reading import read_object
from krill.document.shelf import read_item
from krill.errors import DocumentRefused
from krill.prediction.predict import predict
from krill.recipes.fanless_housing import fanless_housing
from krill.sizing.substitutes import MOST, MOST_APART, substitutes, times_apart


def shelf_of(*parts, tried=()):
    """Items of parts."""
    names = [f"item-{at}" for at in range(len(parts))]
    return [
        read_item({"id": name, "name": name.title(), "part": {**part, "id": name}, "tried": list(tried)})
        for name, part in zip(names, parts, strict=True)
    ]


def part_of(build, part_id):
    return next(part for part in build.parts if part.id == part_id)


def test_what_it_does_is_what_the_exchanged_machine_does():
    build = recipe()
    found = substitutes(build, "fan-a1", class_shelf(), "both")
    assert 1 <= len(found) <= MOST
    assert [one.apart for one in found] == sorted(one.apart for one in found)
    before = predict(build, ["both"], samples=0).workloads[0]
    for one in found:
        raw = raw_recipe()
        raw["parts"] = [one.part if part["id"] == "fan-a1" else part for part in raw["parts"]]
        after = predict(read_object(raw), ["both"], samples=0).workloads[0]
        won = {p.name: p.temperature_c - q.temperature_c for p, q in zip(before.places, after.places, strict=True)}
        assert one.won_k == pytest.approx(won[one.place], abs=1e-3)
        assert abs(one.won_k) >= max(abs(each) for each in won.values()) - 1e-3
        assert one.louder_db == pytest.approx(after.sound.total_dba - before.sound.total_dba, abs=1e-6)
        assert one.why_not == ""


def test_it_stands_where_the_old_one_stood_and_is_fed_as_that_was():
    raw = raw_recipe()
    fan = next(part for part in raw["parts"] if part["id"] == "fan-a1")
    fan |= {"face": "bottom", "outline": {"size_mm": [120, 120, 25], "position_mm": [0, 0, 0]}}
    build = read_object(raw)
    other = {"kind": "fan", "class": "fan_140x25", "price": 14, "level_dba": {"value": 21, "from": "measured"}}
    [one] = substitutes(build, "fan-a1", shelf_of(other, tried=[{"word": "its frame hums", "build": "Heron"}]), "both")
    assert (one.part["face"], one.part["id"], one.part["class"]) == ("bottom", "fan-a1", "fan_140x25")
    assert one.part.get("feed") == fan.get("feed")
    assert "outline" not in one.part
    assert one.larger_mm == [20, 20, 0]
    assert (one.price, one.tried) == (14, ["its frame hums"])


def test_figures_apart_are_the_mean_of_their_ratios():
    build = recipe()
    raw = raw_recipe()
    tube = next(part for part in raw["parts"] if part["id"] == "tube")
    tube["bore_mm"] = {**tube["bore_mm"], "value": tube["bore_mm"]["value"] * 1.5}
    figures = {"length_m", "bore_mm", *(key for key in tube if key.endswith(("_mm", "_m")))}
    assert times_apart(build, build, "tube") == 1.0
    found = times_apart(build, read_object(raw), "tube")
    assert 1 < found < 1.5
    count = log(1.5) / log(found)
    assert count == pytest.approx(round(count), abs=1e-6)
    assert round(count) >= len(figures)
    assert exp(log(1.5) / round(count)) == pytest.approx(found)


@pytest.mark.parametrize(
    ("part_id", "item", "stands"),
    [
        ("paste-processor", {"kind": "interface", "class": "paste_good_lid"}, True),
        ("paste-processor", {"kind": "interface", "class": "paste_ordinary_chip"}, False),
        ("paste-processor", {"kind": "interface", "class": "paste_dry_lid"}, False),
        ("paste-processor", {"kind": "interface", "class": "dry_joint_lid"}, False),
        ("paste-processor", {"kind": "interface", "class": "pad_1mm_lid"}, False),
        ("pads-memory", {"kind": "interface", "class": "putty_chip"}, True),
        ("pads-memory", {"kind": "interface", "class": "pad_05mm_chip"}, False),
        ("pads-memory", {"kind": "interface", "class": "paste_good_chip"}, False),
        ("plate-processor", {"kind": "plate", "class": "plate_processor_good"}, True),
        ("plate-processor", {"kind": "plate", "class": "plate_graphics_good"}, False),
        ("plate-processor", {"kind": "pump", "class": "pump_standard"}, False),
        ("fan-a1", {"kind": "fan", "class": "fan_200x30"}, True),
    ],
)
def test_only_what_does_the_same_work_stands_in(part_id, item, stands):
    assert bool(substitutes(recipe(), part_id, shelf_of(item), "both")) is stands


def test_the_class_that_it_is_of_is_no_substitute_but_a_measured_one_is():
    build = recipe()
    own = part_of(build, "fan-a1").class_
    assert substitutes(build, "fan-a1", shelf_of({"kind": "fan", "class": own}), "both") == []
    measured = {"kind": "fan", "class": own, "level_dba": {"value": 15, "from": "measured"}}
    [one] = substitutes(build, "fan-a1", shelf_of(measured), "both")
    assert one.louder_db < -0.5
    assert one.won_k == pytest.approx(0, abs=1e-6)
    assert 1 < one.apart < MOST_APART


def test_what_cannot_stand_there_says_why():
    """A pump whose curve is a whisper: the coolant boils, which is no state."""
    weak = {"kind": "pump", "class": "pump_strong", "curve": [[0, 0.002], [20, 0]], "power_w": 5}
    [one] = substitutes(recipe(), "pump", shelf_of(weak), "both")
    assert one.won_k is None
    assert "no lasting state" in one.why_not


def test_what_is_not_there_is_refused_by_name():
    with pytest.raises(DocumentRefused, match="there is no such part"):
        substitutes(recipe(), "flux", [], "both")
    with pytest.raises(DocumentRefused, match="no such workload"):
        substitutes(recipe(), "pump", [], "sleeping")
    raw = raw_recipe()
    with pytest.raises(DocumentRefused, match="no workload"):
        substitutes(read_object(raw | {"workloads": [], "brief": {}}), "pump", [])


def test_panels_are_cut_to_the_size_of_the_old_one():
    build = fanless_housing(35, 5, 10, 24)
    panel = next(part for part in build.parts if part.kind == "panel")
    for one in substitutes(build, panel.id, class_shelf()):
        assert one.part["width_mm"] == panel.width_mm or one.part["width_mm"]["value"] == panel.width_mm.value
        assert one.larger_mm is None or one.larger_mm[:2] == [0, 0]
