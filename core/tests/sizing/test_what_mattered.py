"""What a change did: each difference by itself is what a fresh prediction of it says, and the few that count come first."""

import pytest

from krill.document.reading import read_object, write_object
from krill.prediction.predict import predict
from krill.recipes.water_loop import water_loop
from krill.sizing.what_mattered import what_mattered

WORKLOAD = "both"


def changed(*changes):
    raw = write_object(water_loop(125, 220, 20, 24, "loop"))
    for change in changes:
        change(raw)
    return read_object(raw)


def part(raw, part_id):
    return next(item for item in raw["parts"] if item["id"] == part_id)


def told(raw):
    return next(item for item in raw["workloads"] if item["id"] == WORKLOAD)


def thicker(raw):
    part(raw, "radiator-a")["thickness_mm"] = 60


def faster(raw):
    for fan in ("fan-a1", "fan-a2", "fan-a3"):
        told(raw)["movers"][fan] = {"duty": 1.0}


def hotter(raw):
    told(raw)["watts"]["processor"] = 160


def shorter(raw):
    part(raw, "tube")["length_m"] = 1.9


def celsius(build, place):
    return next(p.temperature_c for p in predict(build, [WORKLOAD], samples=0).workloads[0].places if p.name == place)


def test_each_difference_is_what_a_fresh_prediction_of_it_says():
    found = what_mattered(changed(), changed(thicker, hotter, shorter))
    before = celsius(changed(), found.place)
    assert found.won_k == pytest.approx(before - celsius(changed(thicker, hotter, shorter), found.place), abs=1e-6)
    assert found.workload == "Both"
    by_word = {item.says: item.won_k for item in found.changes}
    assert by_word["Processor: watts 125 → 160"] == pytest.approx(
        before - celsius(changed(hotter), found.place), abs=1e-6
    )
    assert by_word["Radiator 360: thickness 28 → 60"] == pytest.approx(
        before - celsius(changed(thicker), found.place), abs=1e-6
    )
    assert not any("Tube" in says for says in by_word)


def test_the_largest_come_first_and_three_are_told_at_most():
    found = what_mattered(changed(), changed(thicker, faster, hotter))
    assert len(found.changes) == 3
    sizes = [abs(item.won_k) for item in found.changes]
    assert sizes == sorted(sizes, reverse=True)
    assert sizes[-1] >= 0.3


def without_radiator_fan(raw):
    """Two fans of three, as one takes a part out on the screen."""
    raw["parts"] = [item for item in raw["parts"] if item["id"] != "fan-a3"]
    path = next(path for path in raw["air_paths"] if path["id"] == "air-out")
    path["elements"] = [{"parallel": [["fan-a1"], ["fan-a2"]]}, "radiator-a", "grille"]
    for workload in raw["workloads"]:
        del workload["movers"]["fan-a3"]


def test_what_comes_and_goes_takes_its_ways_along():
    found = what_mattered(changed(), changed(without_radiator_fan, hotter))
    by_word = {item.says: item.won_k for item in found.changes}
    before = celsius(changed(), found.place)
    assert by_word["Fan A3 taken out"] == pytest.approx(
        before - celsius(changed(without_radiator_fan), found.place), abs=1e-6
    )
    back = what_mattered(changed(without_radiator_fan), changed())
    assert [item.says for item in back.changes] == ["Fan A3 added"]
    assert back.changes[0].won_k == pytest.approx(back.won_k, abs=1e-6)


def test_nothing_changed_nothing_mattered():
    found = what_mattered(changed(), changed())
    assert (found.won_k, found.changes) == (0.0, [])


def test_a_build_that_cannot_be_held_against_the_other_says_nothing():
    raw = write_object(changed()) | {"workloads": [], "brief": {}}
    assert what_mattered(changed(), read_object(raw)) is None
    assert what_mattered(read_object(raw), changed()) is None


def test_a_chamber_that_comes_with_its_ways_is_not_told_without_them():
    """By itself it would be air that nothing flows through; its path names a part that comes along, so neither stands alone."""

    def with_chamber(raw):
        raw["zones"].append({"id": "plinth", "name": "Plinth", "kind": "box", "wall_w_k": 1})
        raw["parts"].append(
            {"id": "slots", "kind": "opening", "name": "Slots", "class": "opening_dense", "area_cm2": 200}
        )
        path = {"id": "air-slots", "from_zone": "outside", "to_zone": "plinth", "elements": ["slots"]}
        raw["air_paths"].append(path)

    found = what_mattered(changed(), changed(with_chamber, hotter))
    assert [item.says for item in found.changes] == ["Processor: watts 125 → 160"]
