"""Bodies made for a stream whose air stands or crawls: a still-air way, joined with the stream by cubes."""

import copy

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from machines import fan, loop_parts, machine, on_plate, opening, path, sure
from scipy.optimize import brentq

from krill.catalogue.classes import classes
from krill.components.figure_table import FigureTable, Values
from krill.components.sinks import fins_of, still_loss
from krill.document.geometry import stand_of
from krill.document.reading import read_object
from krill.prediction.predict import predict

COOLERS = sorted(key for key, item in classes().items() if item.kind == "cooler")
CP, RHO = 1006.5, 1.18


def on_cooler(class_id, watts, *, speed=None, room_c=35.0, fan_pa=40, **figures):
    """One place without anything inside it on a cooler in a path from the room to the room, with its own fan."""
    part = {
        "id": "chip",
        "kind": "source",
        "places": [{"id": "base", "temperature_kind": "case", "limits": [{"kind": "own", "at_c": 300}]}],
    }
    cooler = {"id": "cooler", "kind": "cooler", **({"class": class_id} if class_id else {}), **figures}
    hops = [{"id": "into", "kind": "stream", "part": "cooler"}]
    return machine(
        [fan("f", fan_pa, 100), cooler, opening("o")],
        [],
        [path("p", "out", "out", "f", "cooler", "o")],
        sources=[(part, {"id": "route", "place": "base", "hops": hops})],
        watts={"chip": watts},
        movers={"f": {"off": True} if speed is None else {"duty": speed}},
        room_c=room_c,
    )


def base_of(raw):
    [result] = predict(read_object(raw), samples=0).workloads
    return result.places[0], result


@pytest.mark.parametrize("class_id", COOLERS)
def test_with_its_fan_off_every_cooler_has_its_class_figure_in_still_air(class_id):
    """At 40 K over 35 °C, where the class figure stands; the share of the standing stream is within a hundredth."""
    still = classes()[class_id].figures["still_k_w"][0]
    place, result = base_of(on_cooler(class_id, 40 / still))
    assert place.temperature_c - 35 == pytest.approx(40, rel=0.01)
    assert result.balance_w < 1e-6


@pytest.mark.parametrize("watts", [1.0, 5.0, 25.0])
def test_still_air_carries_more_the_warmer_it_gets(watts):
    """P = dT^1.3 / (R 40^0.3), metal in series: by brentq on plain equations."""
    metal = 0.35 * 0.4

    def missing(rise):
        film = (np.maximum(rise - metal * watts, 1e-9) / (6.6 - metal)) * (rise / 40) ** 0.3
        return film - watts

    place, _ = base_of(on_cooler("cooler_low_37", watts))
    assert place.temperature_c - 35 == pytest.approx(brentq(missing, 0.1, 500), rel=0.01)


@pytest.mark.parametrize("class_id", COOLERS)
def test_a_driven_cooler_is_what_its_class_says(class_id):
    """At the rated flow still air adds less than 1 % to what the stream takes (sinks on 2-3 m/s: 1 %)."""
    known = classes()[class_id].figures
    raw = on_cooler(class_id, 10, speed=1.0, fan_pa=max(40, 2 * known["pressure_pa"][0]))
    [result] = predict(read_object(raw), samples=0).workloads
    # a class is rated at RHO, the room is at 35 °C: 353 kg K/m3 by its temperature
    volume = next(e.airflow_m3_h for e in result.air if e.address == "cooler")
    flow = volume * 353.1 / 308.15 / RHO / known["rated_airflow_m3_h"][0]
    fixed = classes()[class_id].extra["share_fixed"]
    driven = known["resistance_k_w"][0] * (fixed + (1 - fixed) * min(flow, 2.0) ** -0.8)
    inlet = next(e.inlet_c for e in result.air if e.address == "cooler")
    rise = result.places[0].temperature_c - inlet
    assert 0.985 * 10 * driven < rise <= 10 * driven * 1.02


@pytest.mark.parametrize(("still", "at_40_k"), [(None, 0.3 / 0.065), (5.0, 5.0)])
def test_a_cooler_that_states_no_still_figure_has_its_kinds_share(still, at_40_k):
    """0.065 of what it carries as rated (value from memory); what is stated counts."""
    figures = {"resistance_k_w": sure(0.3), "rated_airflow_m3_h": sure(60), "pressure_pa": sure(10)}
    place, _ = base_of(on_cooler(None, 40 / at_40_k, **figures, **({"still_k_w": sure(still)} if still else {})))
    assert place.temperature_c - 35 == pytest.approx(40, rel=0.01)


def test_a_resistance_that_is_stated_in_a_stream_keeps_a_share_of_it_in_still_air():
    """0.28 of it, as stick-on sinks have (value from memory)."""
    raw = on_cooler("cooler_low_37", 10 * 0.28)
    raw["routes"][0]["hops"][0]["resistance_k_w"] = sure(4.0)
    place, _ = base_of(raw)
    assert place.temperature_c - 35 == pytest.approx(40, rel=0.02)


@settings(max_examples=20, deadline=None)
@given(st.sampled_from(COOLERS), st.floats(5, 150))
def test_from_standing_to_full_speed_it_only_gets_cooler_and_no_heat_is_lost(class_id, kelvins):
    rises, watts = [], kelvins / classes()[class_id].figures["still_k_w"][0]
    for duty in (None, 0.21, 0.3, 0.5, 0.75, 1.0):
        place, result = base_of(on_cooler(class_id, watts, speed=duty))
        rises.append(place.temperature_c - 35)
        assert place.hops[0].watts == pytest.approx(watts, rel=1e-6)
        assert result.balance_w < 1e-6 * watts
    assert np.all(np.diff(rises) < 1e-6)


def test_no_stream_carries_more_than_its_air_can():
    """A crawling stream leaves no warmer than the base."""
    raw = on_cooler("cooler_tower_140", 8, speed=0.21)
    raw["parts"][0]["curve"] = [[0, 4], [0.5, 0]]
    _, result = base_of(raw)
    air = next(e for e in result.air if e.address == "cooler")
    assert air.outlet_c <= result.places[0].temperature_c + 1e-6


def test_a_driven_sink_whose_blower_stands_is_a_sink_in_still_air_with_half_its_channels():
    """Against the law of the finned side itself, channels at a half (a stopped fan leaves half of the flow; estimate)."""
    raw = on_cooler("cooler_low_37", 6.0)
    raw["parts"][1] = {
        "id": "cooler",
        "kind": "sink",
        "class": "sink_extrusion_100_25",
        "material": "aluminium_extruded",
    }
    raw["parts"][1] |= {"finish": "anodised"}
    raw["routes"][0]["hops"][0] = {"id": "onto", "kind": "body", "part": "cooler"}
    build = read_object(raw)
    _, result = base_of(raw)
    body = result.bodies[0]
    part, values = build.part("cooler"), Values(FigureTable(build), 1, {})
    loss = still_loss(fins_of(part, stand_of(build, part), values), body.temperature_c, np.asarray(35.0), 101325.0)
    expected = float(0.5 * loss.channels + loss.radiation + loss.flanks) * (body.temperature_c - 35)
    assert body.watts == pytest.approx(6.0, rel=1e-6)
    assert expected == pytest.approx(6.0, rel=0.02)


def test_a_small_board_with_its_blower_off_is_hot_and_not_molten():
    """5 W: 187 °C stood here before; common practice P2 without fan is 63 to 80 with a board to shed heat, too."""
    raw = copy.deepcopy(on_cooler("cooler_duct_sink_60", 5.0, room_c=23.0))
    place, _ = base_of(raw)
    assert 45 < place.temperature_c < 65


def test_a_radiator_whose_fans_stand_gives_off_a_third_of_a_watt_a_kelvin_and_section():
    """0.3 W/K for each section of 120 mm in still air (value from memory, ± 40 %), by the whole loop: W over coolant less air."""
    raw = machine(
        [*loop_parts(), fan("f", 30, 200)],
        [],
        [path("p", "out", "out", "f", "radiator-0")],
        loops=[{"id": "loop", "elements": ["pump-0", "plate-0", "radiator-0", "tube", "tank"]}],
        sources=[on_plate("chip", "plate-0")],
        watts={"chip": 12.0},
        movers={"f": {"off": True}},
    )
    next(part for part in raw["parts"] if part["kind"] == "pump")["power_w"] = sure(0)
    [result] = predict(read_object(raw), samples=0).workloads
    over = result.loops[0].highest_c - 25.0
    assert 12.0 / over == pytest.approx(2 * 0.3, rel=0.06)
