"""What supplies carry and lose."""

import numpy as np
import pytest
from machines import box, machine, source, sure
from strategies import raw_recipe

from krill.catalogue.classes import classes
from krill.components.figure_table import FigureTable, Values
from krill.components.supplies import loss_w
from krill.components.supply_fans import SUPPLY_FANS, supply_fan
from krill.document.reading import read_object
from krill.networks.states import Case
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import predict


def supply(part_id="supply", **figures):
    place = {"id": f"{part_id}-body", "temperature_kind": "case"}
    way = {"id": f"{part_id}-air", "kind": "air", "zone": "box"}
    part = {"id": part_id, "kind": "supply", "places": [place], **figures}
    return part, {"id": f"{part_id}-route", "place": f"{part_id}-body", "hops": [way]}


def losses(load_w, **figures):
    part, route = supply(**figures)
    raw = machine([part], [box("box", 5)], [], sources=[source("chip", "box")], watts={"chip": 1})
    raw["routes"].append(route)
    build = read_object(raw)
    return loss_w(build.part("supply"), np.asarray(load_w, dtype=float), Values(FigureTable(build), 1, {}))


@pytest.mark.parametrize(
    ("class_id", "points"),
    [
        ("supply_plain", (0.74, 0.82, 0.85, 0.82)),
        ("supply_good", (0.80, 0.87, 0.90, 0.87)),
        ("supply_very_good", (0.86, 0.90, 0.93, 0.90)),
    ],
)
def test_the_curve_of_a_class_meets_its_four_efficiencies(class_id, points):
    """At 10, 20, 50 and 100 % of the load, within 0.01 (values from memory; the fit itself is within 0.008)."""
    load = np.array([40.0, 80.0, 200.0, 400.0])
    lost = losses(load, **{"class": class_id}, rating_w=sure(400))
    assert load / (load + lost) == pytest.approx(points, abs=0.01)


def test_a_stated_efficiency_is_that_of_half_load():
    assert losses([200.0], rating_w=sure(400), efficiency=sure(0.92))[0] == pytest.approx(200 * (1 / 0.92 - 1))
    assert losses([20.0], rating_w=sure(400), efficiency=sure(0.92))[0] > 2 * 20 * (1 / 0.92 - 1)


def test_without_a_rating_the_efficiency_holds_throughout():
    assert losses([10.0, 300.0], efficiency=sure(0.9)) == pytest.approx([10 * (1 / 0.9 - 1), 300 * (1 / 0.9 - 1)])


def test_every_class_of_supply_has_a_curve_that_only_rises():
    x = np.linspace(0, 1.2, 40)
    for item in classes().values():
        if item.kind == "supply":
            a, b, c = item.loss_curve
            assert np.all(np.diff(a + b * x + c * x**2) > 0)


def carried(parts_more, **supplies):
    """Watts asked of each supply: two sources of 60 and 40 W."""
    parts, routes = zip(*(supply(name, **figures) for name, figures in supplies.items()), strict=True)
    made = [source("first", "box"), source("second", "box")]
    for (part, _), more in zip(made, parts_more, strict=True):
        part.update(more)
    raw = machine(
        list(parts),
        [box("box", 5)],
        [],
        sources=made,
        watts={"first": 60, "second": 40},
        machines=[{"id": "a"}, {"id": "b"}],
        feeds=[{"id": "wall", "kind": "mains"}],
    )
    raw["routes"] += routes
    build = read_object(raw)
    solved = solve_cases(build, [Case(build.workloads[0], 25.0)])
    states, speeds = solved.network.states, solved.solution.speeds
    return [float(states.supply_load(build.part(name), speeds, {})[0]) for name in supplies]


def test_each_supply_carries_what_names_it():
    rated = {"rating_w": sure(200), "efficiency": sure(0.9)}
    assert carried([{}, {}], one=rated, two=rated) == [50, 50]
    assert carried([{"feed": "one"}, {"feed": "two"}], one=rated, two=rated) == [60, 40]
    by_machine = {"one": {**rated, "machine": "a"}, "two": {**rated, "machine": "b"}}
    assert carried([{"machine": "b"}, {"machine": "a"}], **by_machine) == [40, 60]
    assert carried([{"feed": "wall"}, {}], one=rated) == [40]  # what has its own plug in the wall loads none


def test_a_supply_of_no_class_loses_as_a_good_one_does():
    """Against its own half load: 0.1 of the load loses 0.025 of the rating, half of it 0.0565 (fit; value from memory)."""
    tenth, half = losses([40.0, 200.0], rating_w=sure(400), efficiency=sure(0.9))
    expected = (0.0231 + 0.0081 * 0.1 + 0.1175 * 0.01) / (0.0231 + 0.0081 * 0.5 + 0.1175 * 0.25)
    assert tenth / half == pytest.approx(expected, rel=1e-6)


@pytest.mark.parametrize(
    ("form", "load", "inlet_c", "rpm", "dba"),
    [
        ("flat", 0.5, 25.0, 6500, 39),
        ("flat", 0.5, 30.0, 6500, 39),
        ("flat", 0.3, 40.0, 4500 + 1500, None),
        ("flat", 1.0, 80.0, 11000, 51),
        ("small_cube", 0.85, 25.0, 2700, 37),
        ("small_long", 0.1, 20.0, 700, 12),
        ("standard_120", 0.7, 25.0, 1100, 23),
        ("standard_140", 1.0, 25.0, 1500, 34),
    ],
)
def test_a_supplys_own_fan_by_load_and_by_what_it_breathes(form, load, inlet_c, rpm, dba):
    """Class table (value from memory); between its points straight in the load and in the logarithm of the speed."""
    found_rpm, found_dba = supply_fan(form, np.array(load), np.array(inlet_c))
    assert found_rpm == pytest.approx(rpm)
    if dba is not None:
        assert found_dba == pytest.approx(dba)


@pytest.mark.parametrize("form", list(SUPPLY_FANS))
def test_more_load_and_warmer_air_are_never_quieter(form):
    load, inlet = np.meshgrid(np.linspace(0, 1.2, 25), np.linspace(10, 70, 25))
    rpm, dba = supply_fan(form, load, inlet)
    for axis in (0, 1):
        assert np.all(np.diff(rpm, axis=axis) >= 0)
        assert np.all(np.diff(dba, axis=axis) >= -1e-12)


def test_the_fan_in_a_supply_is_heard_in_the_sum():
    raw = raw_recipe()
    without = predict(read_object(raw), ["both"], samples=0).workloads[0]
    assert "supply" not in {source.address for source in without.sound.sources}
    supply = next(part for part in raw["parts"] if part["id"] == "supply")
    supply |= {"built_as": "small_cube"}
    found = predict(read_object(raw), ["both"], samples=0).workloads[0]
    own = next(source for source in found.sound.sources if source.address == "supply")
    carried = sum(watts["value"] for watts in raw["workloads"][-1]["watts"].values())
    load = carried / supply["rating_w"]["value"]  # fans and the pump come on top
    box = next(zone.temperature_c for zone in found.zones if zone.address == "box")
    rpm, dba = supply_fan("small_cube", np.array(load), np.array(box))
    assert own.level_dba == pytest.approx(float(dba) + 20 * np.log10(1 / found.sound.at_m), abs=0.6)
    assert own.tone_hz == pytest.approx(9 * float(rpm) / 60, rel=0.06)
    energy = 10 ** (without.sound.total_dba / 10) + 10 ** (own.level_dba / 10)
    assert found.sound.total_dba == pytest.approx(10 * np.log10(energy), abs=1e-6)
