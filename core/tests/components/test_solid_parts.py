"""Inside a lidded chip, against class figures that were computed apart from this model (value from memory)."""

import numpy as np
import pytest
from strategies import raw_recipe

from krill.components.figure_table import FigureTable, Values
from krill.components.solid_parts import (
    chip_resistance,
    hot_core_resistance,
    interface_resistance,
    joint_resistance,
    lid_resistance,
)
from krill.document.reading import read_object


def place_of(class_id, **more):
    raw = raw_recipe()
    raw["parts"][0]["places"][0].update({"class": class_id, **more})
    build = read_object(raw)
    return build.parts[0].places[0], Values(FigureTable(build), 1, {}), build


#: hottest core with all cores, game-like, mean of cores: K/W to the lid's top plus ordinary paste, on a plate of 0.04 K/W
CHIP_TO_LID = {
    "lidded_65": (0.277, 0.325),
    "lidded_125": (0.196, 0.236),
    "lidded_250": (0.170, 0.204),
    "lidded_77": (0.341, 0.391),
}


@pytest.mark.parametrize("class_id", CHIP_TO_LID)
def test_chip_to_lid_figures(class_id):
    place, values, build = place_of(class_id)
    lid = values(f"{place.id}/lid_area_mm2")
    paste = interface_resistance(build.part("paste-processor"), values, lid)
    inner = (
        chip_resistance(place, values)
        + joint_resistance(place, values)
        + lid_resistance(place, values, paste + 0.04)
        + paste
    )
    for few, expected in zip((False, True), CHIP_TO_LID[class_id], strict=True):
        total = float(inner + hot_core_resistance(place, values, np.array(few)))
        assert total == pytest.approx(expected, rel=0.06)


def test_kelvins_inside_a_125_watt_class():
    place, values, _ = place_of("lidded_125")
    assert 125 * float(hot_core_resistance(place, values, np.array(False))) == pytest.approx(7.5, rel=1e-6)
    assert 125 * float(chip_resistance(place, values)) == pytest.approx(3.75, rel=1e-6)
    assert 125 * float(joint_resistance(place, values)) == pytest.approx(3.75, rel=1e-6)


def test_a_weaker_film_above_spreads_wider_and_costs_more_in_the_lid():
    place, values, _ = place_of("lidded_125")
    films = [0.04, 0.145, 0.40]
    resistances = [float(lid_resistance(place, values, np.array(f))) for f in films]
    assert resistances == sorted(resistances)
    # the share that the lid adds under an air cooler is 3 to 12 % of chip to lid (value from memory)
    assert 0.003 < resistances[2] - resistances[0] < 0.03


def test_an_interface_by_bond_line_equals_the_same_by_resistance():
    raw = raw_recipe()
    for part in raw["parts"]:
        if part["id"] == "paste-processor":
            part.update({"bond_line_um": 50, "conductivity_w_mk": 4, "coverage": 0.8})
    build = read_object(raw)
    values = Values(FigureTable(build), 1, {})
    R = interface_resistance(build.part("paste-processor"), values, np.array(9e-4))
    assert float(R) == pytest.approx(12.5e-6 / 9e-4 / 0.8)


def test_mean_of_cores_lies_below_the_hottest():
    hottest, values, _ = place_of("lidded_125")
    mean, mean_values, _ = place_of("lidded_125", temperature_kind="mean_core")
    a = float(hot_core_resistance(hottest, values, np.array(False)))
    b = float(hot_core_resistance(mean, mean_values, np.array(False)))
    assert b == pytest.approx(a * 5 / 12)
