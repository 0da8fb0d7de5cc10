"""A graphics card over a cut-out: what it draws in again and what leaves by its own slot follow from openings alone."""

import numpy as np
import pytest

from krill.document.reading import read_object, write_object
from krill.networks.states import Case
from krill.prediction.answer.shared import start_edges
from krill.prediction.answer.solving import solve_cases
from krill.recipes.thin_box import thin_box


def solved(**areas):
    """The thin box with its graphics at full load, some openings of other areas (cm²)."""
    raw = write_object(thin_box(45, 115, 12, 23))
    for part in raw["parts"]:
        if part["id"] in areas:
            part["area_cm2"] = areas[part["id"]]
    build = read_object(raw)
    load = next(item for item in build.workloads if item.id == "graphics-only")
    return solve_cases(build, [Case(load, 23.0)])


def through(found, path):
    """kg/s from the start of a path to its end."""
    edges = start_edges(found.structure.air, path)
    return float(found.solution.air.mass_flow[0, edges].sum())


def chip(found):
    return float(found.solution.temperature[0, found.structure.node_of["graphics-chip"]])


def test_the_wider_the_rim_the_more_is_drawn_in_again():
    """Common practice: 150 W cards on short feet read 83 °C; a rim of 2 to 15 mm spans what is seen, its fans run faster."""
    rims = [solved(**{"card-rim": 2 * (165 + 69) * rim / 100}) for rim in (0.5, 2, 5, 10, 15)]
    temperatures = [chip(found) for found in rims]
    again = [through(found, "air-rim") / through(found, "air-graphics") for found in rims]
    assert np.all(np.diff(temperatures) > 1.0)
    assert np.all(np.diff(again) > 0.02)
    assert again[0] < 0.1
    assert temperatures[-1] - temperatures[0] > 7
    speeds = [float(found.solution.speeds["fan-graphics-left"][0]) for found in rims]
    assert np.all(np.diff(speeds) > 0.01)


def test_what_is_under_the_card_is_what_flows_in_by_both_ways():
    """Mixed by mass: room air by the cut-out, box air by the rim."""
    found = solved()
    T = found.solution.temperature[0]
    fresh, again = through(found, "air-cut-out"), through(found, "air-rim")
    assert through(found, "air-graphics") == pytest.approx(fresh + again, rel=1e-6)
    box = T[found.structure.zone_nodes["box"]]
    under = T[found.structure.zone_nodes["under-card"]]
    assert under == pytest.approx((23.0 * fresh + box * again) / (fresh + again), abs=0.05)


def test_in_a_wide_open_box_the_class_share_leaves_by_the_slot():
    """Low profile: 0.10 of what the card blows; a closed box presses more of it out."""
    wide, closed = solved(vents=4000), solved(vents=30)

    def by_slot(found):
        return through(found, "air-graphics-slot") / through(found, "air-graphics")

    assert by_slot(wide) == pytest.approx(0.10, abs=0.004)
    assert by_slot(closed) > by_slot(wide) + 0.02


def test_without_its_slot_the_card_warms_the_box():
    T = [
        float(found.solution.temperature[0, found.structure.zone_nodes["box"]])
        for found in (solved(**{"graphics-slot": 0.01}), solved(), solved(**{"graphics-slot": 60}))
    ]
    assert T[0] > T[1] + 0.3 > T[2] + 1.0
