"""Every threshold of a notice from both sides: just below it nothing is said, just above it is."""

from dataclasses import replace

import numpy as np
import pytest
from asking import edge
from fanless import chip, fanless, hop, layer, pipe, pipes_hop, sink
from machines import box, fan, loop_parts, machine, on_plate, opening, path, source, sure
from scipy.optimize import brentq
from strategies import recipe

from krill.document.reading import read_object, write_object
from krill.prediction.answer.bodies import pipe_results
from krill.prediction.answer.circuits import air_elements, loop_results, zone_results
from krill.prediction.answer.solving import solve_cases
from krill.prediction.notices.air import air_notices, warm_air_notices
from krill.prediction.notices.loops import coolant_notices, loop_notices
from krill.prediction.notices.ranges import range_notices
from krill.prediction.notices.solids import solid_notices
from krill.prediction.predict import cases_of, predict
from krill.recipes.book import RECIPES


@pytest.fixture(scope="module")
def known():
    build = recipe()
    return solve_cases(build, cases_of(build, ["both"], None))


def said(notices, text):
    return any(text in notice.text for notice in notices)


def texts_of(raw):
    return predict(read_object(raw), samples=0).workloads[0].notices


@pytest.mark.parametrize(
    ("field", "quiet", "loud", "text"),
    [
        ("highest_c", 60.0, 60.1, "Coolant reaches"),
        ("flow_l_min", 0.5, 0.49, "plates and radiator lose much"),
        ("flow_l_min", -0.5, -0.49, "plates and radiator lose much"),
        ("expansion_ml", 20.0, 20.1, "the loop comes under pressure"),
    ],
)
def test_of_a_loop(known, field, quiet, loud, text):
    result = replace(loop_results(known, 0)[0], air_room_ml=20.0, expansion_ml=1.0)

    def told(loop):
        return [*coolant_notices([loop]), *loop_notices(known, [loop])]

    assert not said(told(replace(result, **{field: quiet})), text)
    assert said(told(replace(result, **{field: loud})), text)


@pytest.mark.parametrize(
    ("field", "quiet", "loud", "text"),
    [
        ("speed_share", 0.01, 0.0099, "stands still"),
        ("flow_l_min", 0.2, 0.199, "works against a closed end"),
    ],
)
def test_of_a_pump(known, field, quiet, loud, text):
    result = loop_results(known, 0)[0]
    pump = replace(result.pumps[0], shutoff_kpa=20.0, free_flow_l_min=10.0, speed_share=0.5)
    assert not said(loop_notices(known, [replace(result, pumps=[replace(pump, **{field: quiet})])]), text)
    assert said(loop_notices(known, [replace(result, pumps=[replace(pump, **{field: loud})])]), text)


@pytest.mark.parametrize(("kpa", "warned"), [(50.0, False), (50.1, True)])
def test_of_pressure_at_an_element(known, kpa, warned):
    result = loop_results(known, 0)[0]
    element = next(item for item in result.elements if item.kind != "pump")
    stood = replace(element, limit_kpa=50.0, pressure_kpa=kpa)
    assert said(loop_notices(known, [replace(result, elements=[stood])]), "is a sound ceiling") is warned


@pytest.mark.parametrize(("share", "warned"), [(0.3, False), (0.29, True)])
def test_of_a_reservoir_that_is_low(share, warned):
    parts = loop_parts()
    parts[-1]["fill_share"] = sure(share)
    loop = {"id": "loop", "elements": ["pump-0", "tube", "plate-0", "radiator-0", "tank"]}
    through = path("p", "out", "out", "a", "radiator-0")
    raw = machine(
        [*parts, fan("a")], [], [through], loops=[loop], sources=[on_plate("chip", "plate-0")], watts={"chip": 60}
    )
    assert said(texts_of(raw), "can draw air and start dry") is warned


@pytest.mark.parametrize(("warmer", "told"), [(3.0, False), (3.1, True)])
def test_of_warm_air_at_a_radiator(known, warmer, told):
    element = next(item for item in air_elements(known, 0) if item.kind == "radiator")
    breathed = replace(element, inlet_c=known.cases[0].room_c + warmer)
    assert said(warm_air_notices(known, 0, [breathed]), "warmer than the room") is told


@pytest.mark.parametrize(("velocity", "told"), [(0.51, False), (0.49, True), (2.99, False), (3.01, True)])
def test_of_face_velocity_outside_the_table(known, velocity, told):
    element = next(item for item in air_elements(known, 0) if item.kind == "radiator")
    part = known.build.part(element.address)
    face = part.sections * 0.96 * (part.section_mm / 1000) ** 2
    blown = replace(element, airflow_m3_h=velocity * face * 3600)
    assert said(air_notices(known, 0, [blown]), "outside the class table") is told


@pytest.mark.parametrize(
    ("sizes", "told"),
    [
        ({"thickness_mm": 28}, None),
        (
            {"thickness_mm": 27.9},
            "Radiator, 27.9 mm, is thinner than its class table (28 to 60 mm): heat and drop shrink",
        ),
        ({"thickness_mm": 60}, None),
        (
            {"thickness_mm": 60.1},
            "Radiator, 60.1 mm, is thicker than its class table (28 to 60 mm): it is counted as one of 60",
        ),
        ({"section_mm": 80, "thickness_mm": 45}, None),
        (
            {"section_mm": 80, "thickness_mm": 46},
            "is thicker than its class table (28 to 45 mm): it is counted as one of 45",
        ),
        (
            {"section_mm": 79},
            "Radiator: sections of 79 mm lie outside the class table (80 to 200 mm): counted by their face",
        ),
        ({"section_mm": 200}, None),
        ({"section_mm": 201}, "Radiator: sections of 201 mm lie outside the class table (80 to 200 mm)"),
        ({"thickness_mm": 20, "points": [{"airflow_m3_h": 60, "w_k": 9}]}, None),
    ],
)
def test_of_a_radiator_beyond_its_class_table(sizes, told):
    parts = loop_parts()
    parts[next(n for n, p in enumerate(parts) if p["kind"] == "radiator")] |= {"name": "Radiator"} | sizes
    loop = {"id": "loop", "elements": ["pump-0", "tube", "plate-0", "radiator-0", "tank"]}
    through = path("p", "out", "out", "a", "radiator-0")
    raw = machine(
        [*parts, fan("a")], [], [through], loops=[loop], sources=[on_plate("chip", "plate-0")], watts={"chip": 60}
    )
    found = [notice for notice in texts_of(raw) if "Measured points count instead" in notice.text]
    assert [notice.address for notice in found] == (["radiator-0"] if told else [])
    assert told is None or told in found[0].text


@pytest.mark.parametrize(("m3_h", "told"), [(-0.009, False), (-0.011, True)])
def test_of_a_fan_pushed_backwards(known, m3_h, told):
    element = next(item for item in air_elements(known, 0) if item.kind == "fan")
    assert said(air_notices(known, 0, [replace(element, airflow_m3_h=m3_h)]), "pushed backwards") is told


@pytest.mark.parametrize(("share", "told"), [(0.301, False), (0.299, True)])
def test_of_a_starved_cooler(share, told):
    part, route = source("chip", "out")
    route["hops"] = [{"id": "on-sink", "kind": "stream", "part": "sink"}]
    cooler = {"id": "sink", "kind": "cooler", "class": "cooler_tower_120", "rated_airflow_m3_h": sure(80)}
    raw = machine(
        [fan("a"), cooler, opening("o")],
        [],
        [path("p", "out", "out", "a", "sink", "o")],
        sources=[(part, route)],
        watts={"chip": 30},
    )
    build = read_object(raw)
    solved = solve_cases(build, cases_of(build, None, None))
    element = next(item for item in air_elements(solved, 0) if item.kind == "cooler")
    starved = replace(element, airflow_m3_h=share * 80)
    assert said(air_notices(solved, 0, [starved]), "it is rated at 80") is told


@pytest.mark.parametrize(("millimetres", "told"), [(30, True), (31, False)])
def test_of_a_face_close_to_something(millimetres, told):
    raw = machine(
        [fan("a", face="back"), opening("o", face="back"), opening("seams")],
        [box("box", 2)],
        [path("p", "box", "out", "a", "o"), path("q", "out", "box", "seams")],
        housing={"nearby_mm": {"back": millimetres}},
    )
    assert said(texts_of(raw), "what that costs is counted") is told


@pytest.mark.parametrize(
    ("watts", "warned", "noted"), [(79.9, False, False), (80.1, False, True), (100.1, True, False)]
)
@pytest.mark.parametrize("supplies", [1, 2])
def test_of_what_is_asked_of_a_supply(watts, warned, noted, supplies):
    """Supplies share what runs evenly: two of one rating are warned of at twice the watts."""
    names = [f"supply-{n}" for n in range(supplies)]
    figures = {"kind": "supply", "rating_w": sure(100), "efficiency": sure(0.9)}
    parts = [{"id": n, **figures, "places": [{"id": f"{n}-body", "temperature_kind": "case"}]} for n in names]
    raw = machine(parts, [box("box", 5)], [], sources=[source("chip", "box")], watts={"chip": watts * supplies})
    for n in names:
        way = {"id": f"{n}-air", "kind": "air", "zone": "box"}
        raw["routes"].append({"id": f"{n}-route", "place": f"{n}-body", "hops": [way]})
    found = texts_of(raw)
    assert [n.address for n in found if "are asked of a supply" in n.text] == names * warned
    assert [n.address for n in found if "little headroom" in n.text] == names * noted


@pytest.mark.parametrize(("amperes", "warned"), [(0.4, False), (0.41, True)])
def test_of_a_header_of_one_ampere(amperes, warned):
    raw = machine(
        [fan("a", current_a=sure(amperes), feed="h"), fan("b", current_a=sure(amperes), feed="h"), opening("o")],
        [],
        [path("p", "out", "out", {"parallel": [["a"], ["b"]]}, "o")],
        feeds=[{"id": "h", "kind": "header"}],
    )
    assert said(texts_of(raw), "would carry") is warned


@pytest.mark.parametrize(
    ("humidity", "plate_c", "says"),
    [
        (None, 13.2, "may come down"),  # 24 °C, 50 ± 15 %: dew point 12.9, at the damp end 17.0
        (None, 12.6, "water comes down"),
        (None, 16.8, "may come down"),
        (None, 17.3, None),
        (sure(0.3), 12.6, None),  # dew point 5.4
        (sure(0.9), 21.9, "water comes down"),  # 22.3
    ],
)
def test_of_what_is_colder_than_the_dew_point_of_its_air(humidity, plate_c, says):
    """A panel between a cold zone and the room, held near a temperature by what it gives to both."""
    panel = {"id": "panel", "kind": "panel", "name": "Cold plate", "width_mm": 200, "height_mm": 200}
    panel |= {
        "thickness_mm": 3,
        "material": "aluminium_sheet",
        "finish": "anodised",
        "outside": "out",
        "inside": "cold",
    }
    raw = machine([panel], [{"id": "cold", "kind": "outside", "name": "Cold room", "air_c": plate_c}], [], room_c=24.0)
    raw["rooms"][0] |= {} if humidity is None else {"humidity_share": humidity}
    raw["parts"][0]["factor"] = sure(1)

    def panel_at(cold):
        raw["zones"][1]["air_c"] = cold
        return predict(read_object(raw), samples=0).workloads[0]

    cold = brentq(lambda c: panel_at(c).bodies[0].temperature_c - plate_c, -30.0, 23.9, xtol=1e-3)
    said_of = [n for n in panel_at(cold).notices if "dew point" in n.text and n.address == "panel"]
    assert [says in notice.text for notice in said_of] == ([] if says is None else [True])
    if says == "water comes down":
        assert said_of[0].level == "warning"
        assert "dew point of out" in said_of[0].text


def test_of_a_cold_loop_in_a_warm_box():
    """A station that stands outdoors in winter cools coolant under the dew point of the room where the plates are."""
    build = RECIPES["outside_radiator"].make(125, 220, 30, 24.0, "station")
    raw = write_object(build)
    station = {"id": "outdoors", "kind": "outside", "air_c": 1.0}
    raw["zones"].append(station)
    for air_path in raw["air_paths"]:
        if "radiator" in str(air_path["elements"]):
            air_path["from_zone"] = air_path["to_zone"] = "outdoors"
    [idle] = [w for w in predict(read_object(raw), ["idle"], samples=0).workloads]
    texts = [n.text for n in idle.notices if n.level == "warning" and "dew point" in n.text]
    assert len(texts) == 1
    assert texts[0].startswith("The coolant of ")


@pytest.mark.parametrize(("celsius", "told"), [(80.0, False), (80.1, True)])
def test_of_tape_that_lets_go(celsius, told):
    """Above 80 °C (common practice) at its warmer face."""
    tape = {"id": "tape", "kind": "interface", "class": "tape_stick_on"}
    sink = {"id": "sink", "kind": "cooler", "class": "cooler_tower_120"}
    parts = [chip(), tape, sink, fan("a"), opening("o")]
    hops = [hop("interface", "tape"), {"id": "on-sink", "kind": "stream", "part": "sink"}]
    build = read_object(fanless(10.0, parts, hops, air_paths=[path("p", "out", "out", "a", "sink", "o")]))
    solved = solve_cases(build, cases_of(build, None, None))
    warm = np.full_like(solved.solution.temperature, celsius)
    heated = replace(solved, solution=replace(solved.solution, temperature=warm))
    assert said(solid_notices(heated, 0, [], []), "adhesive tape lets go above 80") is told


def test_of_pipes_that_come_near_their_limit():
    """Named from 80 % of the least limit of the busiest pipe (common practice keeps a fifth in hand)."""
    hops = [hop("interface", "joint"), pipes_hop("pipes"), hop("body", "sink")]

    def pipes(watts):
        parts = [chip(900, 12), layer(10), pipe(count=2), sink(180, 220, 25, 9)]
        return predict(read_object(fanless(watts, parts, hops)), samples=0).workloads[0].pipes[0]

    works, near = edge(lambda watts: pipes(watts).state != "works", 1.0, 160.0)
    assert pipes(works).state == "works"
    assert pipes(near).state == "near its limit"
    assert pipes(near).share == pytest.approx(0.8, abs=1e-4)


def told_of_ranges(known, **changed):
    """Range notices of a solved machine with some of its results replaced."""
    given = {"loops": loop_results(known, 0), "air": [], "zones": [], "bodies": [], "pipes": []} | changed
    return [notice.text for notice in range_notices(known, **given)]


@pytest.mark.parametrize(("litres", "told"), [(0.31, False), (0.29, True), (5.99, False), (6.01, True), (-6.01, True)])
def test_of_plates_beyond_their_two_points(known, litres, told):
    [loop] = loop_results(known, 0)
    elements = [replace(element, flow_l_min=litres) for element in loop.elements]
    texts = told_of_ranges(known, loops=[replace(loop, elements=elements)])
    assert any("Processor plate" in text and "0.3 to 6 l/min" in text for text in texts) is told


@pytest.mark.parametrize(("share", "told"), [(0.051, False), (0.049, True), (1.99, False), (2.01, True)])
def test_of_coolers_beyond_their_air(share, told):
    build = RECIPES["thin_box"].make(65, 75, 18, 24.0, "box")
    solved = solve_cases(build, cases_of(build, ["both"], None))
    cooler = next(e for e in air_elements(solved, 0) if e.address == "cooler-processor")
    blown = replace(cooler, airflow_m3_h=share * 27.5)
    assert any("Low cooler" in text for text in told_of_ranges(solved, loops=[], air=[blown])) is told


@pytest.mark.parametrize(("vapour_c", "told"), [(20.1, False), (19.9, True), (149.9, False), (150.1, True)])
def test_of_pipes_beyond_their_vapour(vapour_c, told):
    build = RECIPES["fanless_housing"].make(38, 8, 4, 24.0, "box")
    solved = solve_cases(build, cases_of(build, ["full"], None))
    pipe_ = replace(pipe_results(solved, 0)[0], vapour_c=vapour_c)
    texts = told_of_ranges(solved, loops=[], pipes=[pipe_])
    assert any("20 to 150 °C vapour" in text for text in texts) is told


@pytest.mark.parametrize(("metres", "told"), [(2.99, False), (3.01, True)])
def test_of_bare_parts_in_a_gale(known, metres, told):
    box_ = next(zone for zone in zone_results(known, 0) if zone.kind == "box")
    texts = told_of_ranges(known, zones=[replace(box_, velocity_m_s=metres)])
    assert any("0 to 3 m/s" in text for text in texts) is told


@pytest.mark.parametrize(("plate_c", "says"), [(13.2, "may come down"), (12.6, "water comes down")])
def test_air_of_no_room_is_half_as_damp_as_it_can_be(plate_c, says):
    """24 °C of its own: 50 ± 15 %, dew point 12.9 °C."""
    panel = {"id": "panel", "kind": "panel", "width_mm": 200, "height_mm": 200, "thickness_mm": 3, "factor": sure(1)}
    panel |= {"material": "aluminium_sheet", "finish": "anodised", "outside": "hall", "inside": "cold"}
    zones = [{"id": "hall", "kind": "outside", "air_c": 24.0}, {"id": "cold", "kind": "outside", "air_c": 0.0}]
    raw = machine([panel], zones, [], room_c=24.0)

    def panel_at(cold):
        raw["zones"][2]["air_c"] = cold
        return predict(read_object(raw), samples=0).workloads[0]

    cold = brentq(lambda c: panel_at(c).bodies[0].temperature_c - plate_c, -30.0, 23.9, xtol=1e-3)
    [notice] = [n for n in panel_at(cold).notices if "dew point of hall" in n.text]
    assert says in notice.text
