"""Fanless machines in the one network: energy, superposition, pipes that share, air inside, random boxes."""

import numpy as np
import pytest
from fanless import chip, fanless, hop, layer, panel, pipe, pipes_hop, sink
from hypothesis import given, settings
from hypothesis import strategies as st
from machines import fan, opening, sure

from krill.components.sinks import wetted
from krill.document.reading import read_object
from krill.networks.states import Case
from krill.prediction.answer.bodies import body_ways
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import cases_of, predict


def solved_of(raw):
    build = read_object(raw)
    return solve_cases(build, [Case(build.workloads[0], float(raw["rooms"][0]["air_c"]))])


def result_of(raw):
    return predict(read_object(raw), samples=0).workloads[0]


def on_sink(watts, **more):
    return fanless(
        watts, [chip(), layer(10), sink(200, 150, 40, 10, **more)], [hop("interface", "joint"), hop("body", "sink")]
    )


def test_what_a_body_gets_it_gives_off():
    found = result_of(on_sink(30.0, inside=None))
    assert found.bodies[0].watts == pytest.approx(30.0, rel=1e-6)
    place = found.places[0]
    assert sum(h.drop_k for h in place.hops) == pytest.approx(place.over_room_k, rel=1e-9)
    assert {h.kind: h.watts for h in place.hops}["contact"] == pytest.approx(30.0, rel=1e-6)


def two_sources(first_w, second_w, first_at=(60, 75), second_at=(140, 75)):
    other = {
        "id": "other",
        "kind": "source",
        "places": [
            {
                "id": "other-place",
                "temperature_kind": "chip_sensor",
                "chip_area_mm2": sure(300),
                "chip_mm2k_w": sure(10),
                "limits": [{"kind": "throttle", "at_c": 90}],
            }
        ],
    }
    raw = fanless(
        first_w,
        [chip(400), layer(10), layer(10, "joint-b"), sink(200, 150, 40, 10), other],
        [hop("interface", "joint"), hop("body", "sink", at_mm=first_at)],
    )
    raw["routes"].append(
        {
            "id": "route-b",
            "place": "other-place",
            "hops": [hop("interface", "joint-b"), {"id": "hop-b", "kind": "body", "part": "sink", "at_mm": second_at}],
        }
    )
    raw["workloads"][0]["watts"]["other"] = sure(second_w)
    return raw


def test_a_neighbour_on_the_base_is_warmed_more_the_nearer_it_sits():
    """Superposition on one base: an idle place is over the base's mean near a source and under it far away."""
    near, far = (two_sources(40.0, 1e-6, second_at=at) for at in ((90, 75), (190, 140)))
    for raw, sign in ((near, 1), (far, -1)):
        found = solved_of(raw)
        T, names = found.solution.temperature[0], found.structure.node_names
        assert sign * (T[names.index("other-place")] - T[names.index("sink")]) > 0.1


def test_spreading_in_the_network_is_the_series():
    """One source: contact over the base's mean is the resistance that the series gives at the film that was solved."""
    found = solved_of(two_sources(40.0, 0.0))
    model = found.network.conductances.bodies["sink"]
    T, node = found.solution.temperature[0], found.structure.body_nodes["sink"]
    air = found.structure.zone_nodes["out"]
    R = model.spreading(model.conductance("outside", None, T[None, node], T[None, air]))[0]
    contact = found.structure.contacts_of("sink")[0].node
    assert T[contact] - T[node] == pytest.approx(40.0 * R[0, 0], rel=1e-4)
    other = found.structure.contacts_of("sink")[1].node
    assert T[other] - T[node] == pytest.approx(40.0 * R[1, 0], rel=1e-3, abs=1e-3)


def with_pipes(watts, *groups, **more):
    parts = [chip(900, 12), layer(10), *groups, sink(200, 200, 40, 10, **more)]
    return fanless(
        watts, parts, [hop("interface", "joint"), pipes_hop(*(g["id"] for g in groups)), hop("body", "sink")]
    )


def test_longer_pipes_carry_less():
    short, long = pipe("short", 2), pipe("long", 2, adiabatic_mm=sure(60), condenser_mm=sure(40))
    found = result_of(with_pipes(60.0, short, long))
    by_id = {group.address: group for group in found.pipes}
    assert by_id["short"].group_w > by_id["long"].group_w > 0
    assert by_id["short"].group_w + by_id["long"].group_w == pytest.approx(60.0, rel=1e-6)


def test_too_many_watts_dry_the_pipes_out():
    one = pipe(count=1)
    works, dried = result_of(with_pipes(40.0, one)), result_of(with_pipes(130.0, one))
    assert works.pipes[0].state == "works"
    assert dried.pipes[0].state == "dried out"
    assert any("dried out" in notice.text for notice in dried.notices)
    rises = [next(h.drop_k for h in x.places[0].hops if h.kind == "pipes") for x in (works, dried)]
    assert rises[1] / rises[0] > 2 * 130 / 40
    assert dried.balance_w < 1e-4


def test_turning_the_housing_turns_pipes_and_fins():
    raw = with_pipes(60.0, pipe(count=2, run_mm=[0, 0, 150]), face="back")
    states = []
    for gravity in ([0, 0, -1], [0, 0, 1], [0, -1, 0]):
        raw["housing"] = {"inner_size_mm": [300, 100, 300], "gravity": gravity}
        found = result_of(raw)
        states.append((found.bodies[0].stands, found.pipes[0].lift_mm, found.pipes[0].limit_w))
    assert [s[0] for s in states] == ["upright", "upright", "lying_fins_up"]
    assert [s[1] for s in states] == pytest.approx([-150, 150, 0], abs=1e-9)
    assert states[0][2] > states[2][2] > states[1][2]


def test_a_board_takes_watts_beside_the_named_way():
    raw = on_sink(20.0)
    raw["routes"].append(
        {
            "id": "board",
            "place": "chip-place",
            "hops": [{"id": "hop-board", "kind": "air", "zone": "out", "resistance_k_w": sure(12)}],
        }
    )
    place = result_of(raw).places[0]
    side = place.side_ways[0].watts
    assert side == pytest.approx(place.over_room_k / 12, rel=1e-6)
    assert place.hops[0].watts == pytest.approx(20.0 - side, rel=1e-6)
    assert place.over_room_k < result_of(on_sink(20.0)).places[0].over_room_k


def test_a_sealed_box_loses_through_its_panels_only():
    inside = {
        "id": "rest",
        "kind": "source",
        "places": [
            {
                "id": "rest-place",
                "temperature_kind": "memory",
                "package_k_w": sure(3),
                "limits": [{"kind": "throttle", "at_c": 85}],
            }
        ],
    }
    raw = on_sink(20.0, inside="box", face="back")
    raw["parts"] += [inside, panel(200, 150, 1, inside="box", face="front")]
    raw["zones"].append({"id": "box", "kind": "box", "wall_w_k": 0})
    raw["housing"] = {"inner_size_mm": [200, 80, 150]}
    raw["routes"].append(
        {"id": "route-rest", "place": "rest-place", "hops": [{"id": "hop-rest", "kind": "air", "zone": "box"}]}
    )
    raw["workloads"][0]["watts"]["rest"] = sure(5)
    found = result_of(raw)
    given_off = sum(way.watts for body in found.bodies for way in body.ways if way.air == "out")
    assert given_off == pytest.approx(25.0, rel=1e-5)
    front = next(body for body in found.bodies if body.address == "panel")
    assert front.watts == pytest.approx(0.0, abs=1e-4)
    box = next(zone for zone in found.zones if zone.address == "box")
    assert box.temperature_c > front.temperature_c > 25.0


def test_a_vented_box_has_a_flow_of_its_own():
    """Chimney: the same box with a low and a high opening is cooler inside, and air runs upwards without a fan."""
    inside = {
        "id": "rest",
        "kind": "source",
        "places": [
            {
                "id": "rest-place",
                "temperature_kind": "memory",
                "package_k_w": sure(3),
                "limits": [{"kind": "throttle", "at_c": 85}],
            }
        ],
    }

    def box(vented):
        raw = fanless(
            0.0,
            [chip(), layer(10), inside, panel(200, 300, 1, inside="box", face="front")],
            [hop("interface", "joint"), hop("body", "panel")],
        )
        raw["zones"].append({"id": "box", "kind": "box", "wall_w_k": 0, "cross_section_cm2": 200})
        raw["housing"] = {"inner_size_mm": [200, 100, 300]}
        raw["routes"].append(
            {"id": "route-rest", "place": "rest-place", "hops": [{"id": "hop-rest", "kind": "air", "zone": "box"}]}
        )
        raw["workloads"][0]["watts"]["rest"] = sure(10)
        if vented:
            raw["parts"] += [opening("low", 10, 2.5, face="bottom"), opening("high", 10, 2.5, face="top")]
            raw["air_paths"] = [
                {"id": "p-in", "from_zone": "out", "to_zone": "box", "elements": ["low"]},
                {"id": "p-out", "from_zone": "box", "to_zone": "out", "elements": ["high"]},
            ]
        return result_of(raw)

    sealed, vented = box(False), box(True)
    air = {found.address: found.airflow_m3_h for found in vented.paths}
    assert air["p-in"] == pytest.approx(air["p-out"], rel=0.1)
    inside_c = next(zone for zone in vented.zones if zone.address == "box").temperature_c
    draught = 1.184 * 9.80665 * 0.3 * (inside_c - 25.0) / (inside_c + 273.15)
    by_hand = 10e-4 * (draught / (2 * 2.5 * 1.16 / 2)) ** 0.5 * 3600  # two openings of K 2.5 on 10 cm2
    assert air["p-in"] == pytest.approx(by_hand, rel=0.03)
    rest = [next(p for p in x.places if p.address == "rest-place").over_room_k for x in (sealed, vented)]
    assert rest[1] < rest[0] - 3


def test_a_sink_in_a_duct_gives_its_heat_to_the_stream():
    raw = fanless(
        30.0,
        [chip(), layer(10), sink(60, 80, 25, 4, outside=None, fin_thickness_mm=sure(0.8)), fan("blower")],
        [hop("interface", "joint"), hop("body", "sink")],
    )
    del next(p for p in raw["parts"] if p["id"] == "sink")["outside"]
    raw["air_paths"] = [{"id": "p", "from_zone": "out", "to_zone": "out", "elements": ["blower", "sink"]}]
    raw["workloads"][0]["movers"] = {"blower": {"duty": 1.0}}
    found = result_of(raw)
    element = next(x for x in found.air if x.address == "sink")
    carried = element.airflow_m3_h / 3600 * 1.18 * 1006 * (element.outlet_c - element.inlet_c)
    assert carried == pytest.approx(30.0, rel=0.03)
    assert found.bodies[0].ways[0].side == "stream"
    raw["workloads"][0]["movers"] = {"blower": {"off": True}}
    assert result_of(raw).places[0].over_room_k > 2 * found.places[0].over_room_k


@pytest.mark.parametrize("altitude_m", [0, 3000])
def test_the_film_shown_on_a_driven_sink_is_the_one_it_was_solved_with(altitude_m):
    """W/K of the fins from the film that is shown, by their area and efficiency, against the solved conductance."""
    raw = fanless(
        30.0,
        [chip(), layer(10), sink(60, 80, 25, 4, fin_thickness_mm=sure(0.8)), fan("blower")],
        [hop("interface", "joint"), hop("body", "sink")],
    )
    del next(p for p in raw["parts"] if p["id"] == "sink")["outside"]
    raw["rooms"][0]["altitude_m"] = altitude_m
    raw["air_paths"] = [{"id": "p", "from_zone": "out", "to_zone": "out", "elements": ["blower", "sink"]}]
    raw["workloads"][0]["movers"] = {"blower": {"duty": 1.0}}
    build = read_object(raw)
    solved = solve_cases(build, cases_of(build, None, None))
    (way,) = body_ways(solved, 0, "sink")
    fins = solved.network.conductances.bodies["sink"].fins
    area, _ = wetted(fins, np.asarray(way.film_w_m2k))
    solved_w_k = float(solved.solution.conductance.streams[0, 0])
    assert way.film_w_m2k * float(area) * float(fins.factor) == pytest.approx(solved_w_k, rel=1e-6)


_STANDS = st.sampled_from(("upright", "on_edge", "lying_fins_up", "lying_fins_down"))


@st.composite
def random_fanless(draw):
    """One to three chips on a sink or through pipes, a panel with inner air, any way of standing."""
    count = draw(st.integers(1, 3))
    sizes = {"stands": draw(_STANDS), "finish": draw(st.sampled_from(("raw", "anodised"))), "inside": "box"}
    extrusion = sink(
        draw(st.floats(80, 300)), draw(st.floats(80, 300)), draw(st.floats(10, 60)), draw(st.floats(4, 20)), **sizes
    )
    del extrusion["emissivity"]
    raw = fanless(
        draw(st.floats(1, 80)), [chip(draw(st.floats(80, 900))), layer(draw(st.floats(5, 250))), extrusion], []
    )
    raw["parts"].append(
        panel(draw(st.floats(100, 300)), draw(st.floats(100, 300)), draw(st.floats(0.5, 4)), inside="box")
    )
    raw["zones"].append({"id": "box", "kind": "box", "wall_w_k": sure(draw(st.floats(0.01, 1)))})
    hops = [hop("interface", "joint")]
    if draw(st.booleans()):
        raw["parts"].append(pipe(count=draw(st.integers(1, 4)), lift_mm=sure(draw(st.floats(-100, 100)))))
        hops.append(pipes_hop("pipes"))
    raw["routes"][0]["hops"] = [*hops, hop("body", "sink")]
    for n in range(1, count):
        place = {
            "id": f"extra-{n}-place",
            "temperature_kind": "case",
            "package_k_w": sure(1),
            "limits": [{"kind": "own", "at_c": 90}],
        }
        raw["parts"].append({"id": f"extra-{n}", "kind": "source", "places": [place]})
        end = (
            {"kind": "body", "part": draw(st.sampled_from(("sink", "panel")))}
            if draw(st.booleans())
            else {"kind": "air", "zone": "box"}
        )
        raw["routes"].append(
            {"id": f"route-{n}", "place": f"extra-{n}-place", "hops": [{"id": f"extra-{n}-hop", **end}]}
        )
        raw["workloads"][0]["watts"][f"extra-{n}"] = sure(draw(st.floats(0.5, 20)))
    return raw


@given(random_fanless())
@settings(max_examples=40, deadline=None)
def test_random_fanless_boxes_close_their_energy(raw):
    found = solved_of(raw)
    outside = found.structure.zone_nodes["out"]
    links = found.network.pattern.network.links
    given_off = sum(found.link_heat[0, k] for k, end in enumerate(links.outer) if end == outside)
    power = found.solution.power[0].copy()
    power[found.network.pattern.given] = 0.0
    assert given_off == pytest.approx(power.sum(), rel=1e-5)
    assert np.all(found.solution.temperature[0] > 24.99)


@given(random_fanless(), st.floats(0.2, 3.0))
@settings(max_examples=15, deadline=None)
def test_a_batch_of_fanless_boxes_equals_its_singles(raw, factor):
    build = read_object(raw)
    case = Case(build.workloads[0], 25.0)
    watts = float(raw["workloads"][0]["watts"]["chip"]["value"])
    both = solve_cases(build, [case], 2, draws={"full/watts/chip": np.array([watts * factor, watts])})
    alone = solve_cases(build, [case], 0, overrides={"full/watts/chip": watts * factor})
    assert both.solution.temperature[1] == pytest.approx(alone.solution.temperature[0], abs=2e-3)
    assert both.solution.temperature[2] == pytest.approx(both.solution.temperature[0], abs=2e-3)


def test_a_seam_carries_what_its_joint_and_sheets_let_through():
    """Two like panels, one heated: the seam's conductance by hand, and all watts leave through both."""
    raw = fanless(
        10.0,
        [chip(1600, 1), layer(10), panel(300, 250, 2), panel(300, 250, 2, id="twin")],
        [hop("interface", "joint"), hop("body", "panel")],
    )
    alone = result_of(raw).bodies[1]
    assert alone.watts == pytest.approx(0.0, abs=1e-9)
    raw["bonds"] = [
        {
            "id": "seam",
            "first": "panel",
            "second": "twin",
            "seam_mm": sure(250),
            "joint_mm2k_w": sure(100),
            "overlap_mm": sure(10),
        }
    ]
    found = {body.address: body for body in result_of(raw).bodies}
    joined = next(way for way in found["panel"].ways if way.side == "joined")
    by_hand = 1 / (100e-6 / (0.25 * 0.010) + 2 * 0.3 / (3 * 50 * 0.002 * 0.25))
    difference = found["panel"].temperature_c - found["twin"].temperature_c
    assert joined.watts == pytest.approx(by_hand * difference, rel=1e-6)
    given_off = sum(way.watts for body in found.values() for way in body.ways if way.side == "outside")
    assert given_off == pytest.approx(10.0, rel=1e-5)


def test_a_backplate_is_a_panel_that_spreads_into_the_air_inside():
    """A way beside the named one: pad, steel plate, air of the box; a larger plate takes more."""

    def side_watts(size):
        raw = on_sink(20.0, inside="box")
        raw["zones"].append({"id": "box", "kind": "box", "wall_w_k": sure(0.5)})
        raw["parts"] += [layer(250, "back-pad"), panel(size, size, 2, id="backplate", outside="box")]
        raw["routes"].append(
            {"id": "behind", "place": "chip-place", "hops": [hop("interface", "back-pad"), hop("body", "backplate")]}
        )
        return result_of(raw).places[0].side_ways[0].watts

    assert 0.1 < side_watts(60) < side_watts(120) < 5
