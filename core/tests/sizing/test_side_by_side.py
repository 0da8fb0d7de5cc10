"""Options on one page: one room, measures, what differs by address, refusals."""

import pytest
from strategies import raw_recipe, recipe

from krill.document.reading import read_object
from krill.errors import DocumentRefused
from krill.prediction.predict import predict
from krill.recipes.fanless_housing import fanless_housing
from krill.sizing.measures import measures_of
from krill.sizing.radiator_size import sections_edits
from krill.sizing.result import Difference
from krill.sizing.side_by_side import differences, side_by_side
from krill.sizing.steps.step import edited


def test_every_option_is_solved_in_the_same_workload_and_room():
    first = recipe()
    larger = edited(first, sections_edits(first, "radiator-a", 4))
    found = side_by_side([("now", first), ("larger", larger)], "both", 30.0)
    assert [option.label for option in found.options] == ["now", "larger"]
    assert {option.result.room_c for option in found.options} == {30.0}
    alone = predict(larger, ["both"], 30.0).workloads[0]
    assert found.options[1].result.places == alone.places


def test_builds_of_another_kind_are_shown_in_their_worst_workload_and_the_first_ones_room():
    found = side_by_side([("loop", recipe(room_c=24)), ("fanless", fanless_housing(35, 5, 10, 31))], "graphics-only")
    assert found.options[0].result.workload == "graphics-only"
    assert found.options[1].result.room_c == 24


def test_what_differs_is_listed_by_address():
    raw = raw_recipe()
    next(part for part in raw["parts"] if part["id"] == "tube")["length_m"] = 3
    raw["parts"].append({"id": "meter", "kind": "flow_meter"})
    found = {item.address: item for item in differences(recipe(), read_object(raw))}
    assert found["tube/length_m"].second == 3
    assert found["tube/length_m"].first["value"] == 2.0
    assert found["meter"] == Difference(address="meter", first=None, second="there")
    assert differences(recipe(), recipe()) == []


def test_height_is_radiator_and_fan_and_price_is_what_the_user_says():
    """28 + 25 mm (common practice: 30 + 25 takes 55)."""
    raw = raw_recipe()
    raw["parts"][0] |= {"price": 200, "mass_g": 40}
    raw["brief"]["work_hours"] = 6
    found = measures_of(read_object(raw))
    assert found.height_mm == 53
    assert found.stacks[0].address == "radiator-a"
    assert (found.price, found.unpriced) == (200, len(raw["parts"]) - 1)
    walls_g = (2 * 250 * 180 + 400 * 250) * 0.8 * 7.85e-3
    assert (found.mass_g, found.work_hours) == (pytest.approx(40 + 86.2087 + walls_g), 6)  # the board by its size
    assert measures_of(recipe()).price is None


def test_a_sink_weighs_what_its_metal_does():
    """Base and fins of aluminium, 2 700 kg/m3 (value from memory)."""
    build = fanless_housing(35, 5, 10, 25)
    assert measures_of(build).mass_g > 500


@pytest.mark.parametrize("count", [0, 6])
def test_one_to_five_options(count):
    with pytest.raises(DocumentRefused):
        side_by_side([("x", recipe())] * count, "both")


def test_a_part_is_called_the_same_here_as_everywhere():
    """Same draws, same bands, same word: no page may say 'tight' where another says 'holds'."""
    build = recipe()
    beside = side_by_side([("draft", build)], "both").options[0].result.places
    every = next(w for w in predict(build).workloads if w.workload == "both").places
    for one, other in zip(beside, every, strict=True):
        assert one.status == other.status
        assert (one.band_c.low, one.band_c.high) == pytest.approx((other.band_c.low, other.band_c.high), abs=1e-3)
