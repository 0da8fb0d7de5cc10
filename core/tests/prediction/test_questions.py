"""Questions to a build: off or stopped, two beside each other, a fan's operating point, speeds for a level; recipes; shelf."""

import copy

import numpy as np
import pytest
from machines import box, fan, loop_parts, machine, on_plate, opening, path, source, sure
from strategies import raw_recipe, recipe

from krill.catalogue.shelf import class_shelf
from krill.document.curve_text import read_curve
from krill.document.geometry import close_to
from krill.document.reading import read_object, write_object
from krill.document.shelf import read_item, read_shelf, write_item
from krill.errors import DocumentRefused
from krill.prediction.predict import predict
from krill.prediction.questions.comparison import compare
from krill.prediction.questions.fan_operation import fan_operation
from krill.prediction.questions.loop_curves import loop_curves
from krill.prediction.questions.stopped import stopped
from krill.recipes.book import RECIPES
from krill.sizing.quieter import speed_for_level


def places(raw, **more):
    return {p.address: p for p in predict(read_object(raw), ["both"], samples=0, **more).workloads[0].places}


def test_off_or_stopped_is_each_mover_told_to_be_off():
    raw = raw_recipe()
    raw["feeds"] = [{"id": "hub", "name": "Fan hub", "kind": "header"}]
    for part in raw["parts"]:
        if part["id"] in ("fan-a1", "fan-a2"):
            part["feed"] = "hub"
    table = stopped(read_object(raw), "both")
    assert {c.address for c in table.cases} == {"pump", "fan-a1", "fan-a2", "fan-a3", "hub"}
    case = next(c for c in table.cases if c.address == "hub")
    assert case.stopped == ["fan-a1", "fan-a2"]
    told = copy.deepcopy(raw)
    for workload in told["workloads"]:
        workload["movers"] |= {"fan-a1": {"off": True}, "fan-a2": {"off": True}}
    fresh = places(told)
    for place in case.places:
        assert place.temperature_c == pytest.approx(fresh[place.address].temperature_c, abs=0.01)
    pump = next(c for c in table.cases if c.address == "pump")
    assert "comes to boil" in pump.no_state.what


def test_two_builds_beside_each_other_share_their_draws():
    first = raw_recipe()
    same = compare(read_object(first), read_object(first), "both")
    assert all(p.says == "none" and p.band_k.high == pytest.approx(0, abs=1e-6) for p in same.places)
    assert same.sentence == "No part changes by a kelvin."
    second = copy.deepcopy(first)
    for workload in second["workloads"]:
        workload["watts"]["processor"]["value"] += 40 if workload["id"] == "both" else 0
    found = compare(read_object(first), read_object(second), "both")
    processor = next(p for p in found.places if p.address == "processor-core")
    alone = predict(read_object(second), ["both"], samples=200).workloads[0].places[0]
    band = alone.band_c.high - alone.band_c.low
    assert processor.says == "warmer"
    assert processor.band_k.high - processor.band_k.low < 0.8 * band
    assert found.second_w - found.first_w > 40


def test_a_comparison_says_which_limit_would_be_passed():
    first = raw_recipe(125, 220, 30, 24)
    second = copy.deepcopy(first)
    second["workloads"][3]["watts"]["processor"]["value"] = 230
    found = compare(read_object(first), read_object(second), "both", samples=0)
    assert "would pass its limit of 95 °C" in found.sentence
    with pytest.raises(DocumentRefused, match="no such workload"):
        compare(read_object(first), read_object(second), "nothing")


def test_turning_a_fanless_box_is_compared_like_any_change():
    parts = [opening("low", 60, 2, face="bottom"), opening("high", 60, 2, face="top")]
    raw = machine(
        parts,
        [box("box", 0.5)],
        [path("a", "out", "box", "low"), path("b", "box", "out", "high")],
        sources=[source("heat", "box")],
        watts={"heat": 30},
        housing={"inner_size_mm": [200, 200, 400], "gravity": [0, 0, -1]},
    )
    lying = copy.deepcopy(raw)
    lying["housing"]["gravity"] = [0, -1, 0]
    found = compare(read_object(raw), read_object(lying), "full", samples=0)
    assert found.places[0].says == "warmer"


def test_a_fan_and_its_system_meet_where_the_network_solved_it():
    build = recipe()
    found = fan_operation(build, "fan-a2", "both")
    curve, system = np.array(found.curve), np.array(found.system)
    at = found.airflow_m3_h
    assert np.interp(at, *curve.T) == pytest.approx(found.pressure_pa, rel=0.01)
    assert np.interp(at, *system.T) == pytest.approx(found.pressure_pa, rel=0.03)
    assert np.all(np.diff(system[:, 1]) > 0)
    assert not found.stalled
    with pytest.raises(DocumentRefused, match="no fan of an air path"):
        fan_operation(build, "pump", "both")


@pytest.mark.parametrize(("duty", "glycol"), [(1.0, 0.0), (0.6, 0.0), (1.0, 0.5)])
def test_a_pump_and_its_loop_meet_where_the_network_solved_it(duty, glycol):
    raw = raw_recipe()
    raw["loops"][0]["coolant"] = {"fluid": "ethylene_glycol", "mass_share": glycol}
    next(w for w in raw["workloads"] if w["id"] == "both")["movers"]["pump"] = {"duty": duty}
    build = read_object(raw)
    found = predict(build, ["both"], samples=0).workloads[0].loops[0]
    (pump,) = found.pumps
    curves = loop_curves(build, "loop-a", "both")
    flows, heads = np.array(curves.pumps[0].points).T
    assert (flows[-1], heads[0]) == pytest.approx((pump.free_flow_l_min, pump.shutoff_kpa))
    assert heads[-1] == pytest.approx(0.0, abs=1e-9)
    assert np.interp(found.flow_l_min, flows, heads) == pytest.approx(pump.head_kpa, rel=0.002)
    asked, pressure = np.array(curves.loop_curve).T
    assert asked == pytest.approx(np.linspace(0.0, 1.6, 17) * found.flow_l_min)
    assert pressure[10] == pytest.approx(pump.head_kpa, rel=1e-3)
    assert np.all(np.diff(pressure) > 0)


def test_a_standing_loop_has_no_curve_and_an_unknown_one_is_named():
    raw = raw_recipe()
    next(w for w in raw["workloads"] if w["id"] == "both")["movers"]["pump"] = {"off": True}
    curves = loop_curves(read_object(raw), "loop-a", "both")
    assert [h for _, h in curves.pumps[0].points] == pytest.approx([0.0] * 21)
    with pytest.raises(DocumentRefused, match="loop/ring: there is no such loop; allowed: loop-a"):
        loop_curves(recipe(), "ring", "both")


def test_a_throttled_fan_is_called_stalled():
    raw = machine([fan("blow", 60, 100), opening("tiny", 4, 3)], [], [path("p", "out", "out", "blow", "tiny")])
    assert fan_operation(read_object(raw), "blow", "full").stalled


def test_levels_add_as_energies_and_follow_speed_and_distance():
    parts = [
        fan("a", level_dba=sure(30)),
        fan("b", level_dba=sure(30)),
        {"id": "d", "kind": "duct", "length_m": sure(0.1), "bore_mm": sure(100)},
    ]
    raw = machine(
        parts,
        [],
        [path("p", "out", "out", {"parallel": [["a"], ["b"]]}, "d")],
        movers={"a": {"duty": 1.0}, "b": {"duty": 0.5}},
        brief={"listener_m": 2},
    )
    sound = predict(read_object(raw), samples=0).workloads[0].sound
    at_ear = [30 - 20 * np.log10(2), 30 + 50 * np.log10(0.5) - 20 * np.log10(2)]
    assert [s.level_dba for s in sound.sources] == pytest.approx(at_ear, abs=1e-9)
    assert sound.total_dba == pytest.approx(10 * np.log10(sum(10 ** (x / 10) for x in at_ear)), abs=1e-9)


def test_own_level_points_and_marks_for_what_stands_close():
    def level(*elements, **more):
        parts = [
            fan("a", **more),
            opening("grille"),
            {"id": "panel", "kind": "gap", "gap_mm": sure(5), "span_mm": sure(120)},
            {"id": "d", "kind": "duct", "length_m": sure(0.1), "bore_mm": sure(100)},
        ]
        raw = machine(parts, [], [path("p", "out", "out", *elements)], movers={"a": {"duty": 0.75}})
        return predict(read_object(raw), samples=0).workloads[0].sound.sources[0]

    points = [[0.5, 18.0], [1.0, 30.0]]
    own = level("a", "d", level_points=points)
    assert own.level_dba == pytest.approx(np.interp(np.log(0.75), np.log([0.5, 1.0]), [18, 30]), abs=1e-9)
    assert own.marks == []
    bare = level("a", "d").level_dba
    on_grille, starved = level("a", "grille"), level("panel", "a", "grille")
    assert on_grille.level_dba == pytest.approx(bare + 4)  # common practice: 3 to 6 dB
    assert starved.level_dba == pytest.approx(bare + 7)  # common practice: 5 to 10 dB
    assert all("common practice" in mark.text for mark in on_grille.marks + starved.marks)


def blown(class_id, rpm, level_dba, **more):
    """One fan at full speed beside a quiet one: the notices and the sound of it."""
    loud = fan("a", **{"class": class_id, "rated_rpm": sure(rpm), "level_dba": sure(level_dba)} | more)
    raw = machine(
        [loud, fan("b", level_dba=sure(30.0)), opening("grille")], [], [path("p", "out", "out", "a", "b", "grille")]
    )
    found = predict(read_object(raw), samples=0).workloads[0]
    return found.sound.sources, [n.text for n in found.notices if "blade tone" in n.text]


@pytest.mark.parametrize(
    ("class_id", "rpm", "tone", "said"),
    [
        ("fan_40x20", 6900, 805.0, True),  # seven blades
        ("fan_40x20", 6800, 793.3, False),
        ("fan_92x14", 2500, 375.0, False),  # nine
        ("fan_blower_75x30", 3000, 1500.0, True),  # thirty
    ],
)
def test_a_blade_tone_where_the_ear_is_keenest_is_said(class_id, rpm, tone, said):
    sources, texts = blown(class_id, rpm, 40.0)
    assert next(s.tone_hz for s in sources if s.address == "a") == pytest.approx(tone, rel=1e-3)
    assert next(s.tone_hz for s in sources if s.address == "b") is None
    assert bool(texts) is said
    if said:
        assert f"{tone:.0f} Hz" in texts[0]
        assert "5 dB more" in texts[0]


def test_a_tone_that_the_rest_drowns_is_not_said():
    assert not blown("fan_40x20", 8000, 20.0)[1]


@pytest.mark.parametrize(("held", "more_db"), [("foam", -5.0), ("hard", 6.0)])
def test_a_pump_on_foam_is_quieter_and_one_hard_on_a_panel_louder(held, more_db):
    """Common practice: 5 ± 3 dB less, 6 ± 3 dB more."""
    raw = raw_recipe()

    def pump():
        sources = predict(read_object(raw), ["both"], samples=0).workloads[0].sound.sources
        return next(source for source in sources if source.address == "pump")

    usual = pump()
    next(part for part in raw["parts"] if part["id"] == "pump")["held"] = held
    now = pump()
    assert now.level_dba - usual.level_dba == pytest.approx(more_db)
    assert [mark.db for mark in now.marks] == [more_db]
    assert usual.marks == []


def test_speed_for_a_wanted_level_gives_that_level():
    build = recipe()
    found = speed_for_level(build, "both", 33.0)
    assert found.reached
    raw = write_object(build)
    told = next(w for w in raw["workloads"] if w["id"] == "both")
    told["movers"] |= {fan_id: {"duty": duty} for fan_id, duty in found.duties.items()}
    again = predict(read_object(raw), ["both"], samples=0).workloads[0].sound.total_dba
    assert again == pytest.approx(33.0, abs=0.01)
    one = speed_for_level(build, "both", 33.0, ["fan-a1"])
    assert set(one.duties) == {"fan-a1"}
    quiet = speed_for_level(build, "both", 5.0)
    assert not quiet.reached
    assert "not scaled" in quiet.because
    loud = speed_for_level(build, "both", 90.0)
    assert "at full speed" in loud.because
    with pytest.raises(DocumentRefused, match="no such fan"):
        speed_for_level(build, "both", 33.0, ["pump"])


def test_duty_is_not_speed_where_a_fan_has_its_own_map():
    raw = machine(
        [fan("a", duty_speed=[[0.2, 0.5], [0.6, 0.7], [1.0, 1.0]]), opening("o")],
        [],
        [path("p", "out", "out", "a", "o")],
        movers={"a": {"duty": 0.6}},
    )
    found = predict(read_object(raw), samples=0).workloads[0].air[0]
    assert found.speed_share == pytest.approx(0.7)
    quiet = speed_for_level(read_object(raw), "full", 20.0)
    raw["workloads"][0]["movers"]["a"] = {"duty": quiet.duties["a"]}
    assert predict(read_object(raw), samples=0).workloads[0].sound.total_dba == pytest.approx(20.0, abs=0.02)


def test_a_supply_fan_follows_the_load():
    part, route = source("heat", "box")
    body = {"id": "supply-body", "class": "supply_body", "temperature_kind": "case", "limits": []}
    supply = {"id": "supply", "kind": "supply", "class": "supply_good", "rating_w": sure(400), "places": [body]}
    hop = {"id": "supply-hop", "kind": "stream", "part": "supply", "resistance_k_w": sure(0.1)}
    way = {"id": "route-supply", "place": "supply-body", "hops": [hop]}
    curve = {"sensor": "supply", "points": [[20, 0.2], [100, 1.0]]}
    raw = machine(
        [fan("own"), opening("grille"), supply],
        [box("box", 2)],
        [path("p", "box", "out", "own", "supply", "grille"), path("q", "out", "box", "seams")],
        sources=[(part, route)],
        watts={"heat": 240},
        movers={"own": {"curve": curve}},
    )
    raw["parts"].append(opening("seams", 60, 2))
    raw["routes"].append(way)
    found = predict(read_object(raw), samples=0).workloads[0]
    assert next(e for e in found.air if e.address == "own").speed_share == pytest.approx(0.6, abs=0.01)
    warm = next(e for e in found.air if e.address == "supply")
    assert warm.outlet_c > warm.inlet_c


def test_a_header_that_carries_too_much_is_warned_of(case):
    limit = next(p["out"]["I_A"] for p in case("SF08").points if "I_A" in p["out"])
    raw = machine(
        [fan("a", current_a=sure(0.6), feed="h"), fan("b", current_a=sure(0.6), feed="h"), opening("o")],
        [],
        [path("p", "out", "out", {"parallel": [["a"], ["b"]]}, "o")],
        feeds=[{"id": "h", "name": "Header 2", "kind": "header"}],
    )
    texts = [n.text for n in predict(read_object(raw), samples=0).workloads[0].notices]
    assert limit == 1.0
    assert any(
        "Header 2 would carry too much for 2 parts: 1.20 A on the labels, 0.80 A are allowed" in t for t in texts
    )
    raw["feeds"][0]["limit_a"] = sure(2.0)
    texts = [n.text for n in predict(read_object(raw), samples=0).workloads[0].notices]
    assert not any("would carry" in t for t in texts)


def test_the_heat_of_a_supply(case):  # SF07: P (1/eta - 1)
    for point in case("SF07").points:
        p = point["in"]
        part, route = source("heat", "box")
        supply = {
            "id": "supply",
            "kind": "supply",
            "efficiency": sure(p["efficiency"]),
            "places": [{"id": "body", "temperature_kind": "case", "limits": []}],
        }
        raw = machine([supply], [box("box", 50)], [], sources=[(part, route)], watts={"heat": p["P_dc_W"]})
        raw["routes"].append({"id": "r", "place": "body", "hops": [{"id": "h", "kind": "air", "zone": "box"}]})
        found = predict(read_object(raw), samples=0).workloads[0]
        body = next(x for x in found.places if x.address == "body")
        assert body.watts == pytest.approx(point["out"]["P_heat_W"], rel=1e-6)


def test_a_radiator_that_breathes_warm_air_and_a_starved_cooler_are_named():
    warm = raw_recipe(125, 220, 100, 24)
    texts = [n.text for n in predict(read_object(warm), ["both"], samples=0).workloads[0].notices]
    assert any("breathes air" in t and "warmer than the room" in t for t in texts)
    part, route = source("chip", "out")
    route["hops"] = [{"id": "on-sink", "kind": "stream", "part": "sink"}]
    raw = machine(
        [fan("a", 5, 20), {"id": "sink", "kind": "cooler", "class": "cooler_tower_120"}, opening("o", 10, 9)],
        [],
        [path("p", "out", "out", "a", "sink", "o")],
        sources=[(part, route)],
        watts={"chip": 30},
    )
    texts = [n.text for n in predict(read_object(raw), samples=0).workloads[0].notices]
    assert any("it is rated at" in t for t in texts)


def close_to_a_wall(**housing):
    raw = machine(
        [fan("a", face="back"), opening("o", face="back"), opening("seams", 50, 2)],
        [box("box", 2)],
        [path("p", "box", "out", "a", "o"), path("q", "out", "box", "seams")],
        housing={"inner_size_mm": [300, 200, 200], **housing},
    )
    return raw


def test_a_wall_close_to_a_face_costs_what_a_gap_of_the_path_would():
    """The gap of a housing is typed once: drawing, notice and loss read it."""
    by_housing = predict(read_object(close_to_a_wall(nearby_mm={"back": 12})), samples=0).workloads[0]
    assert any("opens on the back, 12 mm from the next thing" in n.text for n in by_housing.notices)
    raw = close_to_a_wall(nearby_mm={"back": 12})
    wall = {"id": "wall", "kind": "gap", "gap_mm": sure(12), "span_mm": sure(100), "area_cm2": sure(100)}
    raw["parts"].append(wall)
    raw["air_paths"][0]["elements"].append("wall")
    by_gap = predict(read_object(raw), samples=0).workloads[0]
    assert not any("from the next thing" in n.text for n in by_gap.notices)
    free = predict(read_object(close_to_a_wall()), samples=0).workloads[0]

    def flow(result):
        return next(e.airflow_m3_h for e in result.air if e.address == "a")

    assert flow(by_housing) == pytest.approx(flow(by_gap), rel=1e-6)
    assert flow(free) > 1.02 * flow(by_housing)


@pytest.mark.parametrize(
    ("housing", "counted"), [({"nearby_mm": {"back": 30}}, True), ({"nearby_mm": {"back": 31}}, False)]
)
def test_only_what_stands_within_thirty_millimetres_counts(housing, counted):
    assert bool(close_to(read_object(close_to_a_wall(**housing)))) is counted


def test_feet_are_what_stands_close_to_the_bottom():
    raw = close_to_a_wall(feet_mm=8)
    next(p for p in raw["parts"] if p["id"] == "seams")["face"] = "bottom"
    assert close_to(read_object(raw)) == {"seams": ("q", "bottom", 8.0)}


@pytest.mark.parametrize("recipe_id", list(RECIPES))
def test_every_recipe_answers_from_three_figures(recipe_id):
    known = RECIPES[recipe_id]
    build = known.make(*known.starts, 24.0, known.name)
    assert write_object(read_object(write_object(build))) == write_object(build)
    found = predict(build, samples=0)
    for workload in found.workloads:
        assert workload.places
        assert all(24 < p.temperature_c < 110 for p in workload.places), workload["workload"]
    full, idle = (
        next(w for w in found.workloads if w.workload == k).power_w for k in (build.brief.worst_workloads[0], "idle")
    )
    assert full > 2 * idle
    with pytest.raises(DocumentRefused, match="allowed"):
        known.make(-5, 10, 10, 24.0, "x")


def test_an_outside_station_has_a_zone_and_a_supply_of_its_own():
    build = RECIPES["outside_radiator"].make(125, 220, 30, 26.0, "station")
    raw = write_object(build)
    warm = predict(build, ["both"], samples=0).workloads[0]
    station = next(z for z in raw["zones"] if z["id"] == "station")
    station.pop("room")
    station["air_c"] = sure(10)
    cold = predict(read_object(raw), ["both"], samples=0).workloads[0]
    assert cold.loops[0].highest_c < warm.loops[0].highest_c - 10
    off = next(c for c in stopped(build, "both").cases if c.address == "station-supply")
    assert len(off.stopped) == 4


def test_curves_in_the_usual_units():
    found = read_curve("Flow (CFM)\tPressure (mmH2O)\n0\t2,50\n30\t1,40\nsee note\n58\t0", "fan")
    assert (found.flow_unit, found.pressure_unit) == ("cfm", "mmh2o")
    assert found.points[1] == pytest.approx((30 * 1.69901079552, 1.4 * 9.80665), abs=1e-3)
    assert found.skipped == ["Flow (CFM)\tPressure (mmH2O)", "see note"]
    pump = read_curve("l/h; m\n1000; 0\n0; 3.9\n500; 3.2", "pump")
    assert pump.points[0] == pytest.approx((0, 3.9 * 9.80665), abs=1e-3)
    assert [q for q, _ in pump.points] == pytest.approx([0, 500 / 60, 1000 / 60], abs=1e-3)
    assert read_curve("0 30\n100 0", "fan", "l/s", "psi").points[-1][0] == pytest.approx(360, abs=1e-3)
    for text, unit, words in (
        ("0 20", None, "two or more lines"),
        ("0 20\n0 10", None, "each flow once"),
        ("0 20\n9 0", "furlong", "m3/h"),
        ("-5 20\n9 0", None, "0 or more"),
    ):
        with pytest.raises(DocumentRefused, match=words):
            read_curve(text, "fan", unit)


def test_the_shelf_is_an_open_file_and_ships_with_every_class():
    items = class_shelf()
    kinds = {item.part.kind for item in items}
    assert {"fan", "pump", "radiator", "plate", "fitting", "coolant"} <= kinds
    file = {"format": "krill-shelf", "version": 1, "items": [write_item(item) for item in items]}
    assert [write_item(item) for item in read_shelf(file)] == file["items"]
    for raw, words in (
        ({"format": "other"}, "krill-shelf"),
        (file | {"version": 2}, "version"),
        (file | {"items": file["items"][:1] * 2}, "two items"),
    ):
        with pytest.raises(DocumentRefused, match=words):
            read_shelf(raw)
    with pytest.raises(DocumentRefused, match="unknown key"):
        read_item({"id": "x", "name": "X", "part": {"id": "x", "kind": "fan", "wings": 2}})
    with pytest.raises(DocumentRefused, match="a source"):
        read_item(
            {
                "id": "x",
                "name": "X",
                "part": {"id": "x", "kind": "source", "places": [{"id": "p", "temperature_kind": "case"}]},
            }
        )


@pytest.mark.parametrize(
    ("change", "where", "words"),
    [
        ({"zones": [{"id": "box", "kind": "box", "beyond": "nowhere"}]}, "box/beyond", "no zone 'nowhere'"),
        ({"parts": [{"id": "d", "kind": "duct", "length_m": 1, "width_mm": 20}]}, "d/bore_mm", "not given once"),
        (
            {"parts": [{"id": "d", "kind": "duct", "length_m": 1, "bore_mm": 20, "leak_cm2": 2}]},
            "d/leak_zone",
            "an area and a zone",
        ),
        (
            {"recirculations": [{"id": "r", "from_path": "q", "to_path": "q", "recirculated_share": 0.2}]},
            "r/to_path",
            "from inside",
        ),
        (
            {"recirculations": [{"id": "r", "from_path": "q", "to_path": "p", "recirculated_share": 1.5}]},
            "r/recirculated_share",
            "1.5",
        ),
        (
            {"parts": [{"id": "o2", "kind": "obstacle", "area_cm2": 9, "blocked_share": 0.99}]},
            "o2/blocked_share",
            "0.99",
        ),
        ({"parts": [{"id": "f2", "kind": "fan", "feed": "none"}]}, "f2/feed", "no feed 'none'"),
    ],
)
def test_what_cannot_be_is_refused_with_its_place(change, where, words):
    raw = machine(
        [fan("a"), opening("o"), opening("s")],
        [box("box", 2)],
        [path("p", "out", "box", "a", "o"), path("q", "box", "out", "s")],
    )
    for key, more in change.items():
        kept = [] if key == "zones" else raw.get(key, [])
        raw[key] = [{"id": "out", "kind": "outside", "room": "room"}, *more] if key == "zones" else [*kept, *more]
    with pytest.raises(DocumentRefused) as refused:
        read_object(raw)
    assert any(p.where == where and words in p.what for p in refused.value.problems), refused.value.problems


def test_a_stream_hop_needs_a_part_in_an_air_path():
    part, route = source("chip", "out")
    route["hops"] = [{"id": "on-sink", "kind": "stream", "part": "sink"}]
    raw = machine([{"id": "sink", "kind": "cooler", "class": "cooler_low_37"}], [], [], sources=[(part, route)])
    with pytest.raises(DocumentRefused, match="stands in no air path"):
        read_object(raw)
    raw["parts"] += loop_parts()
    raw["routes"].append(on_plate("x", "plate-0")[1] | {"place": "chip-place"})
    with pytest.raises(DocumentRefused):
        read_object(raw)


@pytest.mark.parametrize(("watts", "says"), [(1.98, "none"), (2.02, "warmer"), (-1.98, "none"), (-2.02, "cooler")])
def test_differences_under_a_kelvin_are_called_none(watts, says):
    """Half a kelvin per watt into a room of one temperature: two watts are one kelvin."""
    first, second = (
        read_object(machine([], [], [], sources=[source("chip", "out")], watts={"chip": load}))
        for load in (20.0, 20.0 + watts)
    )
    (found,) = compare(first, second, "full", samples=0).places
    assert found.difference_k == pytest.approx(watts / 2)
    assert found.says == says
