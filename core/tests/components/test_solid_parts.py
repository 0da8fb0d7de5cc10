"""Inside a lidded chip, against class figures that were computed apart from this model (value from memory)."""

import numpy as np
import pytest
from strategies import raw_recipe

from krill.components.figure_table import FigureTable, Values
from krill.components.solid_parts import (
    chip_resistance,
    compute_share,
    hot_core_resistance,
    interface_resistance,
    joint_resistance,
    lid_resistance,
)
from krill.document.reading import read_object
from krill.physics.spreading import Face, influence


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
    for cores, expected in zip(("all", "few"), CHIP_TO_LID[class_id], strict=True):
        total = float(inner + hot_core_resistance(place, values, np.array(cores)))
        assert total == pytest.approx(expected, rel=0.06)


def test_kelvins_inside_a_125_watt_class():
    place, values, _ = place_of("lidded_125")
    assert 125 * float(hot_core_resistance(place, values, np.array("all"))) == pytest.approx(7.5, rel=1e-6)
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
    a = float(hot_core_resistance(hottest, values, np.array("all")))
    b = float(hot_core_resistance(mean, mean_values, np.array("all")))
    assert b == pytest.approx(a * 5 / 12)


def test_the_hot_core_by_the_kind_of_load():
    """5, 12 and 20 mm2K/W of an even load, all cores and few of them, on the chip's area (values from memory)."""
    place, values, _ = place_of("lidded_125")
    area = float(values(f"{place.id}/chip_area_mm2"))
    share = float(compute_share(place, values))
    found = hot_core_resistance(place, values, np.array(["even", "all", "few"])) * area / share
    assert found * 1e6 == pytest.approx([5, 12, 20])


def whole_of(class_id, cores="all", share=None, **figures):
    """K/W from the hottest core to the lid's top with ordinary paste on a plate of 0.04 K/W."""
    place, values, build = place_of(class_id, **figures)
    paste = interface_resistance(build.part("paste-processor"), values, values(f"{place.id}/lid_area_mm2"))
    inner = chip_resistance(place, values) + joint_resistance(place, values) + paste
    inner = inner + lid_resistance(place, values, paste + 0.04) + hot_core_resistance(place, values, np.array(cores))
    return float(inner), float(paste), place, values


def test_one_compute_chip_beside_an_io_chip_is_no_other_class():
    """0.49 K/W (computed by exact series on all watts; value from memory): another class was 10 to 15 K too cool."""
    sure_all = {"compute_share": {"value": 1, "plus_minus": 0}}
    all_watts, paste, _, _ = whole_of("lidded_one_chip", **sure_all)
    assert all_watts == pytest.approx(0.49, rel=0.03)
    few, *_ = whole_of("lidded_one_chip", cores="few", **sure_all)
    assert few == pytest.approx(0.60, rel=0.03)
    shared, *_ = whole_of("lidded_one_chip")
    place, values, _ = place_of("lidded_one_chip")
    lid = float(
        values(f"{place.id}/lid_thickness_mm") / (values(f"{place.id}/lid_w_mk") * values(f"{place.id}/lid_area_mm2"))
    )
    assert shared - paste - lid == pytest.approx(
        0.86 * (all_watts - paste - lid), rel=1e-6
    )  # what the compute chip passes
    assert shared > whole_of("lidded_two_chips")[0] + 0.1
    assert shared > whole_of("lidded_125")[0] + 0.15


@pytest.mark.parametrize("above", [0.05, 0.16, 0.41])
def test_a_chip_off_the_middle_of_its_lid_spreads_as_the_exact_series_says(above):
    """Muzychka, Culham & Yovanovich 2003 for an eccentric face; Lee's form knows no position."""
    place, values, _ = place_of("lidded_one_chip", compute_share={"value": 1, "plus_minus": 0})
    side, lid = np.sqrt(72e-6), np.sqrt(1000e-6)
    face = Face((side, side), (lid / 2 + 6.5e-3, lid / 2))
    exact = float(influence(face, face, (lid, lid), 3.4e-3, 385.0, 1 / (1000e-6 * above)))
    slab = 3.4e-3 / (385.0 * 1000e-6)
    assert float(lid_resistance(place, values, np.asarray(above))) == pytest.approx(exact + slab, rel=0.01)


def test_the_further_off_the_middle_the_hotter():
    totals = [whole_of("lidded_one_chip", chip_offset_mm={"value": d, "plus_minus": 0})[0] for d in (0, 3, 6, 9, 30)]
    assert np.all(np.diff(totals) >= 0)
    assert totals[-1] < 1.5 * totals[0]  # at most in the corner of its side
