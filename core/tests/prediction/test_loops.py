"""Coolant loops of any arrangement: pumps, branches, radiators, pressures, volumes, and every warning with its reason."""

import copy

import numpy as np
import pytest
from machines import fan, loop_parts, machine, on_plate, opening, path, sure

from krill.document.reading import read_object
from krill.materials.fluids import coolant
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import cases_of, predict
from krill.sizing.by_row import flow


def loop_machine(tree, parts, *, watts=150.0, stream=("radiator-0",), movers=None, loops=None, **more):
    chips = [on_plate(f"chip-{n}", p["id"]) for n, p in enumerate(x for x in parts if x["kind"] == "plate")]
    parts = [*parts, fan("blow", 60, 150), opening("vent", 300, 1.0)]
    return machine(
        parts,
        [],
        [path("through", "out", "out", "blow", *stream, "vent")],
        loops=loops or [{"id": "loop", "elements": tree}],
        sources=chips,
        watts={chip["id"]: watts for chip, _ in chips},
        movers={"blow": {"duty": 0.6}} | (movers or {}),
        **more,
    )


def cold(raw):
    """The same without heat: a loop that stands would boil, and a state that does not last has no figures."""
    raw["workloads"][0]["watts"] = dict.fromkeys(raw["workloads"][0]["watts"], 0)
    for item in raw["parts"]:
        if item["kind"] == "pump":
            item["power_w"] = 0
    return raw


def plain(pumps=1, plates=1, radiators=1, **more):
    parts = loop_parts(pumps, plates, radiators)
    tree = [
        *[f"pump-{n}" for n in range(pumps)],
        "tube",
        *[f"plate-{n}" for n in range(plates)],
        *[f"radiator-{n}" for n in range(radiators)],
        "tank",
    ]
    return loop_machine(tree, parts, stream=[f"radiator-{n}" for n in range(radiators)], **more)


def asked(raw, samples=0):
    return predict(read_object(raw), ["full"], samples=samples).workloads[0]


def loop(result, address="loop"):
    return next(x for x in result.loops if x.address == address)


def element(result, address):
    return next(e for x in result.loops for e in x.elements if e.address == address)


def warned(result, words):
    return any(words in notice.text for notice in result.notices if notice.level == "warning")


def part(raw, part_id):
    return next(p for p in raw["parts"] if p["id"] == part_id)


def test_pumps_in_series_add_their_heads_each_at_its_own_speed():
    raw = plain(pumps=2, movers={"pump-0": {"duty": 1.0}, "pump-1": {"duty": 0.5}})
    found = asked(raw)
    heads = [-element(found, f"pump-{n}").drop_kpa for n in range(2)]
    rest = sum(e.drop_kpa for e in loop(found).elements if e.kind != "pump")
    assert sum(heads) == pytest.approx(rest, rel=1e-6)
    assert heads[0] > heads[1] > 0
    assert loop(found).flow_l_min > loop(asked(plain(pumps=1))).flow_l_min * 0.99


def test_pumps_in_parallel_share_the_flow():
    parts = loop_parts(2)
    raw = loop_machine([{"parallel": [["pump-0"], ["pump-1"]]}, "tube", "plate-0", "radiator-0", "tank"], parts)
    found = asked(raw)
    flows = [element(found, f"pump-{n}").flow_l_min for n in range(2)]
    assert flows[0] == pytest.approx(flows[1], rel=1e-9)
    assert sum(flows) == pytest.approx(element(found, "tube").flow_l_min, rel=1e-9)


def test_a_loop_has_one_flow_wherever_it_is_told():
    """The table, the terrace and what sizing solves for: the volume of its own mixture, branches at its start added."""
    parts = loop_parts(2)
    tree = [{"parallel": [["pump-0"], ["pump-1"]]}, "tube", "plate-0", "radiator-0", "tank"]
    glycol = {"fluid": "ethylene_glycol", "mass_share": 0.5}
    raw = loop_machine(tree, parts, loops=[{"id": "loop", "coolant": glycol, "elements": tree}])
    solved = solve_cases(read_object(raw), cases_of(read_object(raw), ["full"], None))
    found = asked(raw)
    told = loop(found).flow_l_min
    assert told == pytest.approx(element(found, "tube").flow_l_min, rel=1e-9)
    assert told == pytest.approx(float(flow(solved, "loop")[0]), rel=1e-9)
    terrace = next(t for t in found.terraces if t.address == "loop")
    assert terrace.detail == f"{told:.1f} l/min"
    kg_s = float(solved.solution.coolant.mass_flow[0, solved.structure.coolant.parts.index("tube")])
    density = float(coolant("ethylene_glycol", 0.5).state(40.0).density)
    assert density > 1050
    assert told == pytest.approx(60e3 * kg_s / density, rel=0.01)


def ends_of(**figures):
    """(free flow, shut-off head) of the pump's curve at full speed."""
    raw = plain(movers={"pump-0": {"duty": 1.0}})
    part(raw, "pump-0").update(figures)
    (pump,) = loop(asked(raw)).pumps
    return pump.free_flow_l_min, pump.shutoff_kpa


def test_an_end_that_is_stated_scales_the_curve_of_the_class_and_leaves_the_other_axis():
    """To a thousandth: heads follow the density of the water, which is not quite the reference's."""
    free, shutoff = ends_of()
    assert ends_of(free_flow_l_min=18) == pytest.approx((18, shutoff), rel=1e-3)
    assert ends_of(shutoff_kpa=40) == pytest.approx((free, 40), rel=1e-3)
    assert ends_of(free_flow_l_min=18, shutoff_kpa=40) == pytest.approx((18, 40), rel=1e-3)
    points = [[0, 50], [6, 40], [12, 0]]
    assert ends_of(curve=points) == pytest.approx((12, 50), rel=1e-3)
    assert ends_of(curve=points, free_flow_l_min=18) == pytest.approx((18, 50), rel=1e-3)
    assert ends_of(free_flow_l_min=18, flow_factor=0.5) == pytest.approx((9, shutoff), rel=1e-3)
    assert ends_of(shutoff_kpa=40, pressure_factor=0.5) == pytest.approx((free, 20), rel=1e-3)


def test_a_larger_stated_free_flow_moves_more_coolant():
    raw = plain(movers={"pump-0": {"duty": 1.0}})
    flows = []
    for litres in (8, 18):
        part(raw, "pump-0")["free_flow_l_min"] = litres
        flows.append(loop(asked(raw)).flow_l_min)
    assert flows[1] > 1.2 * flows[0]


def test_a_pump_that_is_off_spins_freely_or_blocks():
    raw = cold(plain(pumps=2, movers={"pump-1": {"off": True}}))
    free = loop(asked(raw)).flow_l_min
    part(raw, "pump-1")["when_off"] = "blocking"
    blocked = asked(raw)
    assert free > 1 > 0.02 > loop(blocked).flow_l_min
    assert warned(blocked, "works against a closed end")


def test_the_order_of_parts_is_free_and_coolant_is_given_after_each():
    raw = plain(plates=2)
    found = asked(raw)
    temperatures = {e.address: e.outlet_c for e in loop(found).elements}
    assert temperatures["plate-0"] < temperatures["plate-1"]
    raw["loops"][0]["elements"].reverse()
    turned = {e.address: e.outlet_c for e in loop(asked(raw)).elements}
    assert turned["plate-1"] < turned["plate-0"]


def test_parallel_plates_split_by_their_resistance():
    parts = loop_parts(1, 2)
    part({"parts": parts}, "plate-1")["class"] = "plate_tiny"
    raw = loop_machine(
        ["pump-0", "tube", {"parallel": [["plate-0"], ["plate-1"]]}, "radiator-0", "tank"], parts, watts=50
    )
    found = asked(raw)
    good, tiny = (element(found, p) for p in ("plate-0", "plate-1"))
    assert good.drop_kpa == pytest.approx(tiny.drop_kpa, rel=1e-9)
    assert good.flow_l_min < tiny.flow_l_min
    shares = [e.share for e in loop(found).elements]
    assert sum(shares) == pytest.approx(1.0, rel=1e-9)


def test_several_loops_in_one_housing_keep_to_themselves():
    parts = loop_parts(2, 2, 2)
    parts += [{**part({"parts": parts}, "tube"), "id": "tube-b"}, {**part({"parts": parts}, "tank"), "id": "tank-b"}]
    loops = [
        {"id": "a", "elements": ["pump-0", "tube", "plate-0", "radiator-0", "tank"]},
        {
            "id": "b",
            "coolant": {"fluid": "ethylene_glycol", "mass_share": 0.3},
            "elements": ["pump-1", "tube-b", "plate-1", "radiator-1", "tank-b"],
        },
    ]
    raw = loop_machine(None, parts, loops=loops, stream=("radiator-0", "radiator-1"))
    found = asked(raw)
    raw["workloads"][0]["watts"]["chip-1"] = sure(300)
    more = asked(raw)
    assert loop(more, "b").highest_c > loop(found, "b").highest_c + 3
    assert loop(more, "a").highest_c == pytest.approx(loop(found, "a").highest_c, abs=0.05)
    assert loop(found, "b").coolant == "ethylene glycol 30 % by mass"


def test_meter_strainer_and_couplings_are_elements():
    raw = plain()
    bare = loop(asked(raw)).flow_l_min
    raw["parts"] += [
        {"id": "meter", "kind": "flow_meter"},
        {"id": "sieve", "kind": "strainer"},
        {"id": "pair", "kind": "coupling", "class": "coupling_small"},
    ]
    raw["loops"][0]["elements"][1:1] = ["meter", "sieve", "pair"]
    found = asked(raw)
    Q = loop(found).flow_l_min
    assert bare > Q
    assert element(found, "pair").drop_kpa == pytest.approx(7 * (Q / 4) ** 2, rel=0.01)  # value from memory at 4 l/min
    clean = element(found, "sieve").drop_kpa / Q**2
    part(raw, "sieve")["loaded"] = True
    loaded = asked(raw)
    assert element(loaded, "sieve").drop_kpa / loop(loaded).flow_l_min ** 2 == pytest.approx(3 * clean, rel=1e-3)


def test_an_open_coupling_stops_the_loop_and_says_so():
    raw = cold(plain())
    raw["parts"].append({"id": "pair", "kind": "coupling", "class": "coupling_large", "joined": False})
    raw["loops"][0]["elements"].insert(1, "pair")
    found = asked(raw)
    assert loop(found).flow_l_min < 0.02
    assert warned(found, "is open at pair")
    assert warned(found, "Never run a pump")


def test_pressure_after_each_element_and_the_weakest_fitting():
    raw = plain(movers={"pump-0": {"duty": 1.0}})
    raw["parts"].append(
        {"id": "elbow", "kind": "fitting", "class": "fitting_90_fixed", "bore_mm": sure(8.5), "highest_kpa": sure(20)}
    )
    raw["loops"][0]["elements"].insert(1, "elbow")
    found = asked(raw)
    assert element(found, "tank").pressure_kpa == pytest.approx(0.0, abs=1e-9)
    pump = element(found, "pump-0")
    assert loop(found).highest_kpa == pytest.approx(pump.pressure_kpa, rel=1e-9)
    assert pump.pressure_kpa == pytest.approx(-pump.drop_kpa, rel=1e-6)
    assert warned(found, "stand at elbow")


def test_heights_add_the_weight_of_the_column():
    raw = plain(housing={"inner_size_mm": [300, 200, 1000], "gravity": [0, 0, -1]})
    for name, z in (("tank", 900), ("pump-0", 100), ("radiator-0", 100), ("plate-0", 500)):
        part(raw, name)["outline"] = {"size_mm": [10, 10, 10], "position_mm": [100, 100, z]}
    found = asked(raw)
    level = asked(plain())
    rho = float(coolant("water").state(25.0).density)
    raised = element(found, "pump-0").pressure_kpa - element(level, "pump-0").pressure_kpa
    assert raised == pytest.approx(rho * 9.80665 * 0.8 / 1000, rel=0.01)
    assert loop(found).air_collects_at == "tank"


def test_a_reservoir_below_the_pump_is_warned_of_and_turning_mends_it():
    raw = plain(housing={"inner_size_mm": [300, 200, 300], "gravity": [0, 0, -1]})
    for name, z in (("tank", 40), ("pump-0", 250)):
        part(raw, name)["outline"] = {"size_mm": [10, 10, 10], "position_mm": [100, 100, z]}
    assert warned(asked(raw), "run dry when started")
    raw["housing"]["gravity"] = [0, 0, 1]
    turned = asked(raw)
    assert not warned(turned, "run dry when started")
    assert loop(turned).air_collects_at == "tank"


def test_fill_volume_and_room_to_expand(case):
    raw = plain()
    part(raw, "tank").update({"volume_ml": sure(200), "fill_share": sure(0.9)})
    part(raw, "plate-0")["volume_ml"] = sure(50)
    part(raw, "radiator-0")["volume_ml"] = sure(150)
    found = loop(asked(raw))
    tube = np.pi / 4 * 0.01**2 * 2
    pump = 0.045  # by class
    assert found.fill_l == pytest.approx(1e3 * tube + pump + 0.05 + 0.15 + 0.18, rel=1e-6)
    assert found.air_room_ml == pytest.approx(20, rel=1e-6)
    p = case("F13").points[0]  # from 20 to 40 C
    hot = copy.deepcopy(raw)
    hot["rooms"][0]["air_c"] = p["in"]["T2_C"] - (found.highest_c - 25)
    at_40 = loop(asked(hot))
    growth = at_40.expansion_ml / at_40.fill_l / 1e3
    assert growth == pytest.approx(p["out"]["dV_over_V"] * (at_40.highest_c - 20) / 20, rel=0.06)
    part(raw, "tank")["fill_share"] = sure(0.999)
    assert warned(asked(raw), "comes under pressure")


def test_an_almost_empty_reservoir_can_start_dry():
    raw = plain()
    part(raw, "tank")["fill_share"] = sure(0.1)
    assert warned(asked(raw), "start dry")


def test_mixed_wetted_metals_are_warned_of_by_their_potential():
    raw = plain()
    assert not warned(asked(raw), "corrode each other")
    part(raw, "radiator-0")["metal"] = "aluminium"
    assert warned(asked(raw), "lie 0.55 V apart")
    part(raw, "radiator-0")["metal"] = "brass"
    assert not warned(asked(raw), "corrode each other")


def test_a_pump_pays_its_watts_into_the_coolant(case):
    raw = plain(movers={"pump-0": {"duty": 1.0}})
    part(raw, "pump-0").update({"power_w": sure(20), "coolant_share": sure(0.9)})
    found = asked(raw)
    pump = loop(found).pumps[0]
    assert pump.electric_w == pytest.approx(20)
    assert pump.into_coolant_w == pytest.approx(18)
    p, out = case("H19").points[0]["in"], case("H19").points[0]["out"]
    assert p["Q_m3_s"] * p["dp_Pa"] / p["P_electric_W"] == pytest.approx(out["efficiency"], rel=1e-6)
    hydraulic = pump.flow_l_min / 6e4 * pump.head_kpa * 1000
    assert pump.efficiency == pytest.approx(hydraulic / 20, rel=1e-6)
    terrace = next(t for t in found.terraces if t.kind == "coolant")
    assert terrace.watts == pytest.approx(150 + 18, abs=0.2)


def test_a_loop_without_a_radiator_warms_up_to_what_its_tubes_shed():
    """A loop as it stands right after it was begun: 0.45 W/K a metre of soft tube (value from memory)."""
    parts = [p for p in loop_parts() if p["kind"] != "radiator"]
    raw = machine(
        parts,
        [],
        [],
        loops=[{"id": "loop", "elements": ["pump-0", "tube", "plate-0", "tank"]}],
        sources=[on_plate("chip", "plate-0")],
        watts={"chip": 9},
    )
    part(raw, "pump-0")["power_w"] = sure(0)
    found = asked(raw)
    assert loop(found).elements[0].inlet_c - 25 == pytest.approx(9 / (0.45 * 2), rel=1e-3)
    assert warned(found, "has no radiator")


def test_nothing_but_a_room_and_a_box_has_an_answer():
    found = asked(machine([], [{"id": "box", "kind": "box"}], []))
    assert [z.temperature_c for z in found.zones] == [25, 25]
    assert found.places == []


def test_radiators_behind_each_other_breathe_what_the_first_has_warmed():
    found = asked(plain(radiators=2))
    first, second = (next(e for e in found.air if e.address == f"radiator-{n}") for n in range(2))
    assert second.inlet_c == pytest.approx(first.outlet_c, abs=1e-3)
    assert second.outlet_c - second.inlet_c < first.outlet_c - first.inlet_c


def rise(raw):
    found = asked(raw)
    return loop(found).highest_c - 25, next(e.airflow_m3_h for e in found.air if e.address == "radiator-0")


def test_a_half_covered_radiator_carries_less():
    raw = plain()
    whole, flow = rise(raw)
    part(raw, "radiator-0")["covered_share"] = sure(0.5)
    half, less = rise(raw)
    assert half > whole * 1.2
    assert less < flow


def test_dusty_fins_carry_less_and_cost_more():
    raw = plain()
    clean, flow = rise(raw)
    part(raw, "radiator-0")["dust"] = sure(1.0)
    dusty, less = rise(raw)
    assert dusty > clean * 1.1
    assert less < flow


def test_push_pull_and_both():
    parts = [*loop_parts(), fan("blow", 30, 100), fan("draw", 30, 100), opening("vent", 100, 4.0)]

    def flow(*elements):
        chips = [on_plate("chip", "plate-0")]
        raw = machine(
            parts,
            [],
            [path("p", "out", "out", *elements)],
            sources=chips,
            watts={"chip": 150},
            loops=[{"id": "loop", "elements": ["pump-0", "tube", "plate-0", "radiator-0", "tank"]}],
        )
        return next(e.airflow_m3_h for e in asked(raw).air if e.address == "radiator-0")

    push, pull = flow("blow", "radiator-0", "vent"), flow("radiator-0", "blow", "vent")
    assert pull == pytest.approx(push, rel=0.03)
    assert flow("blow", "radiator-0", "draw", "vent") > 1.1 * push


def test_a_radiator_by_its_core_geometry():
    raw = plain()
    by_class, _ = rise(raw)
    part(raw, "radiator-0")["core"] = {"fins": "louvred"}
    by_core, _ = rise(raw)
    assert by_core == pytest.approx(by_class, rel=0.15)
    part(raw, "radiator-0")["core"] = {"fin_pitch_mm": 2.5}
    assert rise(raw)[0] > by_core


def test_large_radiators_need_flow_and_small_ones_do_not():
    """Class figures (value from memory): 240 x 38 keeps 0.89 of its W/K at 1 l/min, the 9-section plate 0.60."""
    from krill.components.radiator import core_of, inlet_conductance
    from krill.components.radiator_table import section_face
    from krill.document.parts import Radiator

    water = coolant("water").state(35.0)

    def w_k(section, count, thickness, velocity, l_min):
        body = {"id": "r", "kind": "radiator", "section_mm": section, "sections": count, "thickness_mm": thickness}
        core = core_of(Radiator.model_validate(body))
        stream = velocity * count * section_face(section) * 1.18 * 1006.5
        loop_w_k = l_min / 6e4 * float(water.density * water.heat_capacity)
        UA = count * core.conductance_at(np.array([velocity]))
        return float(inlet_conductance(UA, np.array(1.0), np.array([stream]), np.array([loop_w_k]))[0])

    small = [w_k(120, 2, 38, 1.2, q) for q in (4, 2, 1, 0.5)]
    assert small == pytest.approx([22.9, 22.0, 20.4, 17.6], rel=0.05)
    large = [w_k(140, 9, 30, 1.1, q) for q in (4, 1)]
    assert large[1] / large[0] == pytest.approx(0.60, abs=0.08)
