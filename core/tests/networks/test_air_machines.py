"""Air of whole documents: fans, chambers, ducts, buoyancy, recirculation - against closed forms and a pipe-network library."""

import numpy as np
import pandapipes
import pytest
from machines import box, fan, machine, opening, path, source, sure

from krill.components.edges import ImposedFlow, Medium, PipeEdges
from krill.components.figure_table import FigureTable
from krill.document.reading import read_object
from krill.errors import DocumentRefused
from krill.networks.flow import FlowGraph, FlowNetwork
from krill.physics.atmosphere import air_density, standard_pressure
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import cases_of, predict

RHO_REF = 1.18


def asked(raw, **more):
    return predict(read_object(raw), ["full"], samples=0, **more).workloads[0]


def flow_of(result, part):
    """m3/h through a part."""
    return next(e.airflow_m3_h for e in result.air if e.address == part)


def zone(result, address):
    return next(z for z in result.zones if z.address == address)


def operating(shutoff, free, resistance):
    """Quadratic fan on a quadratic system: dp0 (1 - (Q/Q0)^2) = R Q^2."""
    return np.sqrt(shutoff / (resistance + shutoff / free**2))


def quadratic_machine(branches, *, loss=2.5, area=100.0, **more):
    parts = [fan(f) for branch in branches for f in branch] + [opening("grille", area, loss)]
    tree = branches[0] if len(branches) == 1 else [{"parallel": branches}]
    return machine(parts, [], [path("p", "out", "out", *tree, "grille")], room_c=25.0, **more)


def resistance(loss=2.5, area=100.0, rho=RHO_REF):
    return loss * rho / 2 / (area * 1e-4) ** 2


def ventilated(watts, **more):
    """A box that a fan blows into and that lets its air out."""
    return machine(
        [fan("blow", 60, 100), opening("vent", 200, 1)],
        [box("box")],
        [path("in", "out", "box", "blow"), path("ex", "box", "out", "vent")],
        sources=[source("heat", "box")],
        watts={"heat": watts},
        **more,
    )


def test_fans_in_series_and_parallel():
    """Closed form D02: one quadratic fan, two beside each other, two behind each other."""
    R, free = resistance(), 100 / 3600
    single = flow_of(asked(quadratic_machine([["a"]])), "grille")
    beside = flow_of(asked(quadratic_machine([["a"], ["b"]])), "grille")
    behind = flow_of(asked(quadratic_machine([["a", "b"]])), "grille")
    assert single / 3600 == pytest.approx(operating(30, free, R), rel=2e-3)
    assert beside / 3600 == pytest.approx(operating(30, 2 * free, R), rel=2e-3)
    assert behind / 3600 == pytest.approx(operating(60, free, R), rel=2e-3)


def test_fan_laws_with_speed_and_with_altitude():
    """Affinity laws: flow goes with speed; pressure with density, flow stays (D01)."""
    full = asked(quadratic_machine([["a"]], movers={"a": {"duty": 1.0}}))
    half = asked(quadratic_machine([["a"]], movers={"a": {"duty": 0.5}}))
    assert flow_of(half, "grille") == pytest.approx(flow_of(full, "grille") / 2, rel=1e-4)
    raw = quadratic_machine([["a"]])
    raw["rooms"][0]["altitude_m"] = 3000
    high = asked(raw)
    assert flow_of(high, "grille") == pytest.approx(flow_of(full, "grille"), rel=1e-4)
    ratio = float(air_density(25, standard_pressure(3000)) / air_density(25))
    drops = [next(e.drop_pa for e in r.air if e.address == "grille") for r in (high, full)]
    assert drops[0] / drops[1] == pytest.approx(ratio, rel=1e-4)


def test_pressure_of_a_box_between_two_fans(case):
    """D15: intake fan, exhaust fan and leakage; the stronger one sets the sign."""
    for point in case("D15").points:
        p, out = point["in"], point["out"]
        K = p["R_leak_Pa_s2_m6"] * 2 * 1e-4 / RHO_REF  # on 100 cm2
        parts = [
            fan("in", p["intake_dp0"], p["intake_Qmax"] * 3600),
            fan("ex", p["exhaust_dp0"], p["exhaust_Qmax"] * 3600),
            opening("leak", 100, K),
        ]
        raw = machine(
            parts,
            [box("box")],
            [path("a", "out", "box", "in"), path("b", "box", "out", "ex"), path("c", "box", "out", "leak")],
            room_c=25.28,
        )
        found = asked(raw)
        assert zone(found, "box").pressure_pa == pytest.approx(out["p_inside_Pa"], rel=0.01)
        assert flow_of(found, "in") / 3600 == pytest.approx(out["Q_intake"], rel=3e-3)
        assert flow_of(found, "ex") / 3600 == pytest.approx(out["Q_exhaust"], rel=3e-3)
        assert flow_of(found, "leak") / 3600 == pytest.approx(out["Q_leak_out"], rel=6e-3)


def test_a_stalled_fan_and_one_blown_backwards_are_solved():
    """A weak fan beside a strong one (D03's arrangement): air runs back through it; nothing is special-cased."""
    parts = [fan("strong", 80, 60), fan("weak", 10, 60), opening("grille", 20, 8)]
    raw = machine(parts, [], [path("p", "out", "out", {"parallel": [["strong"], ["weak"]]}, "grille")])
    found = asked(raw)
    assert flow_of(found, "weak") < 0 < flow_of(found, "grille")
    assert flow_of(found, "strong") + flow_of(found, "weak") == pytest.approx(flow_of(found, "grille"), rel=1e-4)
    assert any("pushed backwards" in n.text for n in found.notices)


def test_air_temperature_rise(case):
    """D13: P / (rho cp Q), through the network."""
    p = case("D13").points[0]["in"]
    raw = ventilated(p["P_W"])
    found = asked(raw)
    mass = flow_of(found, "blow") / 3600 * float(air_density(25))
    assert zone(found, "box").over_room_k == pytest.approx(p["P_W"] / (mass * 1006.5), rel=1e-5)


def chimney(height_m, area_cm2, K, watts, outside_c=25.0):
    """A box with an opening at the bottom and one at the top, half of the loss in each."""
    size = [200, 200, 1000 * height_m]
    parts = [opening("low", area_cm2, K / 2, face="bottom"), opening("high", area_cm2, K / 2, face="top")]
    return machine(
        parts,
        [box("box")],
        [path("a", "out", "box", "low"), path("b", "box", "out", "high")],
        sources=[source("heat", "box")],
        watts={"heat": watts},
        room_c=outside_c,
        housing={"inner_size_mm": size, "gravity": [0, 0, -1]},
    )


def test_stack_flow_through_a_fanless_box(case):
    """D10: inside temperature from heat and stack flow; its balance puts the box's density into both losses."""
    for point in case("D10").points:
        p = point["in"]
        found = asked(chimney(p["H_m"], p["A_m2"] * 1e4, p["K"], p["P_W"], p["T_out_C"]))
        rise = point["out"]["T_inside_C"] - p["T_out_C"]
        # the lower opening passes cold air here: 3 % of the rise at most
        assert zone(found, "box").over_room_k == pytest.approx(rise, rel=0.03)
        assert flow_of(found, "high") > 0


def test_turning_the_housing_turns_the_draught():
    raw = chimney(0.4, 100, 2.5, 5)
    upright = asked(raw)
    raw["housing"]["gravity"] = [0, 0, 1]
    over = asked(raw)
    assert flow_of(upright, "low") > 1 > -1 > flow_of(over, "low")
    assert zone(over, "box").temperature_c == pytest.approx(zone(upright, "box").temperature_c, abs=1e-3)
    raw["housing"]["gravity"] = [-1, 0, 0]
    lying = asked(raw)
    assert zone(lying, "box").temperature_c > zone(upright, "box").temperature_c + 20


def test_exhaust_drawn_in_again():
    """Closed form: with a share s of the exhaust in the intake the rise grows by 1 / (1 - s)."""

    def with_share(s):
        raw = ventilated(
            80,
            recirculations=[{"id": "again", "from_path": "ex", "to_path": "in", "recirculated_share": sure(s)}]
            if s
            else [],
        )
        found = asked(raw)
        mass = flow_of(found, "blow") * float(air_density(next(e.inlet_c for e in found.air if e.address == "blow")))
        return zone(found, "box").over_room_k * mass

    plain = with_share(0)
    assert with_share(0.35) == pytest.approx(plain / 0.65, rel=1e-4)


def by_distance(**mouths):
    """Share that a vent of 200 cm2 and a fan's intake of 60 cm2 (87.4 mm across) draw again."""
    again = {"id": "again", "from_path": "ex", "to_path": "in", **mouths}
    raw = ventilated(80, recirculations=[again])
    raw["parts"].append(opening("mouth", 60, 1))
    raw["air_paths"][0]["elements"] = ["mouth", "blow"]
    build = read_object(raw)
    return FigureTable(build).figures["again/recirculated_share"]


@pytest.mark.parametrize(
    ("mouths", "share"),
    [
        ({"mouths": "one_face", "apart_mm": 0}, 0.35),
        ({"mouths": "one_face", "apart_mm": 131.1}, 0.35 / np.e),
        ({"mouths": "free", "apart_mm": 0}, 0.14),
        ({"apart_mm": 131.1}, 0.14 / np.e),
        ({"mouths": "opposite_faces"}, 0.03),
        ({"mouths": "over_feet", "apart_mm": 5}, 0.2),
        ({"mouths": "over_feet", "apart_mm": 13}, 0.08),
        ({"mouths": "over_feet", "apart_mm": 40}, 0.03),
    ],
)
def test_what_an_intake_draws_again_by_how_the_mouths_lie(mouths, share):
    """0.35 e^(-d / 1.5 D) f; over feet by their height (common practice)."""
    found = by_distance(**mouths)
    assert found.value == pytest.approx(share, rel=1e-3)
    assert (found.tolerance.minus, found.origin) == (pytest.approx(0.5 * share, rel=1e-3), "class")


def test_a_share_that_is_stated_is_not_taken_from_the_distance():
    assert by_distance(apart_mm=10, recirculated_share=0.2).value == 0.2


def test_the_answer_says_what_is_drawn_again():
    again = {"id": "again", "from_path": "ex", "to_path": "in", "mouths": "opposite_faces"}
    paths = {path.address: path for path in asked(ventilated(80, recirculations=[again])).paths}
    assert paths["in"].drawn_again_share == 0.03
    assert paths["ex"].drawn_again_share is None


def test_a_recirculation_says_how_much_or_how_far():
    again = {"id": "again", "from_path": "ex", "to_path": "in"}
    with pytest.raises(DocumentRefused, match="neither a share nor a distance"):
        read_object(ventilated(80, recirculations=[again]))


def test_air_colder_than_air_can_be_flows_as_the_coldest_that_has_a_density():
    """A round on the way to the answer may guess 400 C below zero."""
    build = read_object(ventilated(80))
    found = solve_cases(build, cases_of(build, ["full"], None), 0)

    def flow_at(box_c):
        guess = found.solution.temperature.copy()
        guess[:, found.structure.zone_nodes["box"]] = box_c
        return found.network.step(guess, None).air.mass_flow

    assert flow_at(-400.0) == pytest.approx(flow_at(-100.0))
    assert flow_at(-100.0)[0, 1] > flow_at(40.0)[0, 1] > 0


def test_chambers_pass_their_air_on():
    """Three chambers behind each other: each warms what the next one breathes."""
    parts = [fan("blow", 60, 80), opening("gap-1", 60, 2), opening("gap-2", 60, 2), opening("vent", 60, 2)]
    paths = [
        path("a", "out", "one", "blow"),
        path("b", "one", "two", "gap-1"),
        path("c", "two", "three", "gap-2"),
        path("d", "three", "out", "vent"),
    ]
    raw = machine(
        parts,
        [box("one"), box("two"), box("three")],
        paths,
        sources=[source(f"h{n}", z) for n, z in enumerate(("one", "two", "three"))],
        watts={"h0": 20, "h1": 40, "h2": 10},
    )
    found = asked(raw)
    rises = [zone(found, z).over_room_k for z in ("one", "two", "three")]
    assert rises[1] / rises[0] == pytest.approx(60 / 20, rel=1e-4)
    assert rises[2] / rises[0] == pytest.approx(70 / 20, rel=1e-4)
    pressures = [zone(found, z).pressure_pa for z in ("one", "two", "three")]
    assert pressures == sorted(pressures, reverse=True)


def duct(part_id, **more):
    return {
        "id": part_id,
        "kind": "duct",
        "class": "duct_printed",
        "length_m": sure(0.3),
        "loss": sure(1.0),
        "roughness_mm": sure(0.05),
        **more,
    }


def test_ducts_round_and_rectangular():
    """A rectangle and the round duct of equal friction pass the same air; bends and length cost."""

    def through(one):
        return flow_of(
            asked(machine([fan("blow", 120, 30), one], [], [path("p", "out", "out", "blow", one["id"])])), "blow"
        )

    side = {"width_mm": sure(60), "height_mm": sure(28)}
    plain = through(duct("d", **side))
    assert through(duct("d", bore_mm=sure(44.6), loss=sure(1.0 * (np.pi / 4 * 44.6**2 / 1680) ** 2))) == pytest.approx(
        plain, rel=0.01
    )
    assert through(duct("d", **side, bends=2, bend_loss=sure(1.0))) < plain
    assert through(duct("d", **{**side, "length_m": sure(3)})) < plain


def test_a_duct_leaks_into_its_zone():
    leaky = duct("d", bore_mm=sure(45), leak_cm2=sure(2), leak_zone="box")
    raw = machine(
        [fan("blow", 120, 30), leaky, opening("end", 15, 1.5), opening("seams", 10, 2.4)],
        [box("box")],
        [path("p", "out", "out", "blow", "d", "end"), path("q", "box", "out", "seams")],
    )
    found = asked(raw)
    leak = flow_of(found, "d/leak")
    assert 0 < leak < flow_of(found, "d")
    assert leak == pytest.approx(flow_of(found, "d") - flow_of(found, "end"), rel=1e-3)
    assert leak == pytest.approx(flow_of(found, "seams"), rel=1e-3)


def test_two_skins_filter_and_gap_each_take_their_share():
    """Losses in series add up: the drop of the fan is the sum of theirs."""
    parts = [
        fan("blow"),
        {"id": "skins", "kind": "opening", "class": "opening_two_skins", "area_cm2": 144},
        {"id": "dust", "kind": "filter", "class": "filter_fine", "area_cm2": 144},
        {"id": "loaded", "kind": "filter", "class": "filter_fine", "area_cm2": 144, "loaded": True},
        {"id": "feet", "kind": "gap", "gap_mm": 13, "span_mm": 120},
        {"id": "rows", "kind": "obstacle", "area_cm2": 144, "blocked_share": 0.4},
    ]
    found = asked(machine(parts, [], [path("p", "out", "out", "blow", "skins", "dust", "loaded", "feet", "rows")]))
    drops = {e.address: e.drop_pa for e in found.air}
    assert sum(drops.values()) == pytest.approx(0, abs=1e-6)
    assert drops["loaded"] == pytest.approx(3 * drops["dust"], rel=1e-6)  # value from memory
    assert all(drops[name] > 0 for name in ("skins", "feet", "rows"))


def test_parallel_branches_against_a_pipe_network_library():
    """Two ducts of unlike bore beside each other, water standing for the fluid: pandapipes with the same friction law."""
    water = 998.2
    net = pandapipes.create_empty_network(fluid="water")
    a, b = (pandapipes.create_junction(net, pn_bar=1.0, tfluid_k=293.15) for _ in range(2))
    pandapipes.create_ext_grid(net, junction=a, p_bar=1.0, t_k=293.15)
    for bore in (0.010, 0.007):
        pandapipes.create_pipe_from_parameters(net, a, b, length_km=2e-3, diameter_m=bore, k_mm=0.0015)
    pandapipes.create_sink(net, b, mdot_kg_per_s=0.12)
    pandapipes.pipeflow(net, friction_model="colebrook", max_iter_hyd=100)
    expected = np.abs(net.res_pipe.mdot_from_kg_per_s.to_numpy())

    pipes = PipeEdges(
        np.array([0, 1]), np.full((1, 2), 2.0), np.array([[0.010, 0.007]]), np.full((1, 2), 1.5e-6), np.zeros((1, 2))
    )
    graph = FlowGraph(np.array([0, 0, 1]), np.array([1, 1, 0]), 2, np.array([0]), ("wide", "narrow", "pump"))
    medium = Medium(np.full((1, 3), water), np.full((1, 3), 1.0016e-3))
    groups = [pipes, ImposedFlow(2, np.array([0.12]))]
    found = FlowNetwork(graph, [group.columns for group in groups]).solve(groups, medium, 0.1)
    assert found.mass_flow[0, :2] == pytest.approx(expected, rel=0.01)


def test_a_cooler_follows_its_class_columns():
    """Class columns (value from memory): K/W at 50, 75, 100 % speed of a cooler that nothing hinders."""
    for name, fan_class, column in (
        ("cooler_low_37", "fan_92x14", (0.60, 0.47, 0.40)),
        ("cooler_tower_120", "fan_120x25", (0.21, 0.17, 0.145)),
    ):
        for duty, expected in zip((0.5, 0.75, 1.0), column, strict=True):
            part, route = source("chip", "out")
            route["hops"] = [{"id": "chip-on-sink", "kind": "stream", "part": "sink"}]
            parts = [{"id": "blow", "kind": "fan", "class": fan_class}, {"id": "sink", "kind": "cooler", "class": name}]
            raw = machine(
                parts,
                [],
                [path("p", "out", "out", "blow", "sink")],
                sources=[(part, route)],
                watts={"chip": 50},
                movers={"blow": {"duty": duty}},
            )
            place = asked(raw).places[0]
            own = next(h.drop_k for h in place.hops if h.kind == "stream") / 50
            assert own == pytest.approx(expected, rel=0.07), (name, duty)


def test_two_parts_in_one_duct_warm_each_other():
    """The second part breathes what the first one has warmed: its own rise plus the stream's."""
    chips = []
    for n in ("first", "second"):
        part, route = source(n, "out")
        route["hops"] = [{"id": f"{n}-sink-hop", "kind": "stream", "part": f"sink-{n}"}]
        chips.append((part, route))
    sinks = [{"id": f"sink-{n}", "kind": "cooler", "class": "cooler_duct_sink_60"} for n in ("first", "second")]
    raw = machine(
        [fan("blow", 130, 25), *sinks],
        [],
        [path("p", "out", "out", "blow", "sink-first", "sink-second")],
        sources=chips,
        watts={"first": 30, "second": 30},
    )
    found = asked(raw)
    first, second = found.places
    C = flow_of(found, "blow") / 3600 * float(air_density(25)) * 1006.5
    assert second.temperature_c - first.temperature_c == pytest.approx(30 / C, abs=0.3)
    here = next(h.drop_k for h in second.hops if h.kind == "air-here")
    assert here == pytest.approx(30 / C, rel=1e-3)


def test_still_parts_follow_the_air_of_their_zone():
    """Class figures (value from memory): a memory stick at rest 12 K/W, at 1.5 m/s 6 K/W."""

    def memory(section_cm2):
        part, route = source("stick", "box")
        part["places"][0] |= {"class": "memory_stick", "temperature_kind": "memory"}
        route["hops"][0]["resistance_k_w"] = sure(1e-6)
        raw = machine(
            [fan("blow", 60, 108), opening("vent", 300, 1)],
            [box("box") | {"cross_section_cm2": sure(section_cm2)}],
            [path("a", "out", "box", "blow"), path("b", "box", "out", "vent")],
            sources=[(part, route)],
            watts={"stick": 4},
        )
        found = asked(raw)
        return next(h.drop_k for h in found.places[0].hops if h.kind == "package") / 4, zone(found, "box")

    R, air = memory(200)
    assert air.velocity_m_s == pytest.approx(1.4, abs=0.2)
    assert pytest.approx(6.0, abs=0.6) == R
    assert memory(2e6)[0] == pytest.approx(12, abs=0.6)


def test_altitude_thins_the_air_and_warms_the_box():
    """At 3 000 m the same fan carries 0.69 of the mass: the rise grows accordingly (F11)."""
    raw = ventilated(80)
    low = zone(asked(raw), "box").over_room_k
    raw["rooms"][0]["altitude_m"] = 3000
    high = zone(asked(raw), "box").over_room_k
    assert low / high == pytest.approx(float(standard_pressure(3000) / standard_pressure(0)), rel=0.01)


def test_a_zone_of_its_own_temperature():
    """Air from a cold duct outdoors: an outside zone with its own temperature."""
    raw = machine(
        [fan("blow", 60, 100), opening("vent", 200, 1)],
        [box("box"), {"id": "cold", "kind": "outside", "air_c": sure(5)}],
        [path("in", "cold", "box", "blow"), path("ex", "box", "out", "vent")],
        sources=[source("heat", "box")],
        watts={"heat": 1e-6},
    )
    assert zone(asked(raw), "box").temperature_c == pytest.approx(5, abs=0.01)


def test_a_chamber_gives_heat_through_its_wall_to_the_chamber_beyond():
    zones = [box("inner", 5.0) | {"beyond": "outer"}, box("outer", 2.0)]
    raw = machine([], zones, [], sources=[source("heat", "inner")], watts={"heat": 20})
    found = asked(raw)
    inner, outer = (zone(found, z).over_room_k for z in ("inner", "outer"))
    assert 2.0 * outer * (outer / 15) ** 0.2 == pytest.approx(20, rel=1e-4)
    assert 5.0 * (inner - outer) * ((inner - outer) / 15) ** 0.2 == pytest.approx(20, rel=1e-4)


def test_many_samples_of_a_mixed_intake_equal_one():
    raw = ventilated(
        80,
        recirculations=[
            {
                "id": "again",
                "from_path": "ex",
                "to_path": "in",
                "recirculated_share": {"value": 0.3, "plus_minus": 0.1, "from": "estimate"},
            }
        ],
    )
    build = read_object(raw)
    found = solve_cases(build, cases_of(build, ["full"], None), 60)
    share = np.concatenate([[0.3], found.table.draws(1, 60)["again/recirculated_share"]])
    rise = found.solution.temperature[:, found.structure.zone_nodes["box"]] - 25
    mass = found.solution.air.mass_flow[:, 0]
    assert rise * mass * (1 - share) == pytest.approx(80 / 1006.5, rel=1e-4)
