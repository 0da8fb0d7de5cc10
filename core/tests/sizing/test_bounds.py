"""Inverse questions know every hard notice: coolant, a supply's rating, touch, softening, tape, pipes, fans that stand."""

import copy

import numpy as np
import pytest
from asking import asked, axis
from fanless import chip, fanless, hop, layer, sink
from machines import box, machine, source, sure
from strategies import raw_recipe, recipe

from krill.document.reading import read_object
from krill.networks.states import Case
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import predict
from krill.sizing.bounds import bounds_of
from krill.sizing.candidates import Study
from krill.sizing.fan_curve import fan_curve
from krill.sizing.holds import watts_it_holds
from krill.sizing.outcome import outcome
from krill.sizing.solve_for import solve_for


def left_of(raw, wanted=3.0):
    build = read_object(raw)
    solved = solve_cases(build, [Case(build.workloads[-1], float(raw["rooms"][0]["air_c"]))])
    found = bounds_of(solved, wanted)
    [result] = predict(build, [build.workloads[-1].id], samples=0).workloads
    return dict(zip(found.names, found.spare[0], strict=True)), result, found


def test_bounds_are_what_the_notices_warn_of():
    """Each by the figure of the answer itself."""
    raw = raw_recipe()
    left, result, found = left_of(raw)
    assert left["coolant of Loop A"] == pytest.approx(60.0 - result.loops[0].highest_c)
    for place in result.places:
        if place.margin_k is not None:
            assert left[place.name] == pytest.approx(place.margin_k - 3.0)
    supply = next(part for part in raw["parts"] if part["id"] == "supply")
    assert left["rating of Power supply"] < supply["rating_w"]["value"]
    assert found.names[found.tightest(0)] == min(left, key=left.get)


@pytest.mark.parametrize("over", [-1.0, 1.0])
def test_the_rating_of_a_supply_is_left_or_passed_with_its_notice(over):
    raw = raw_recipe()
    left, _, _ = left_of(raw)
    supply = next(part for part in raw["parts"] if part["id"] == "supply")
    supply["rating_w"]["value"] -= left["rating of Power supply"] + over
    now, result, _ = left_of(raw)
    assert now["rating of Power supply"] == pytest.approx(-over, abs=1e-6)
    assert any("are asked of a supply" in notice.text for notice in result.notices) is (over > 0)


def hand_warm(watts=8.0):
    raw = fanless(
        watts, [chip(120, 18), layer(230), sink(200, 150, 40, 10.0)], [hop("interface", "joint"), hop("body", "sink")]
    )
    next(part for part in raw["parts"] if part["kind"] == "sink")["touched_for"] = "1_min"
    return raw


def test_a_sink_that_is_touched_and_a_print_beside_it():
    raw = hand_warm()
    left, result, _ = left_of(raw)
    body = result.bodies[0]
    assert left[f"touch of {body.name}"] == pytest.approx(body.touch.limit_c - body.hottest_c)
    raw["parts"].append(
        {"id": "clip", "kind": "obstacle", "area_cm2": 10, "blocked_share": 0.1, "plastic": "pla", "near": body.address}
    )
    left, result, _ = left_of(raw)
    at = {node.address: node.temperature_c for node in result.nodes}[body.address]
    assert left["softening of clip"] == pytest.approx(55 - 10 - at)


def test_tape_lets_go_at_80_degrees():
    raw = hand_warm()
    joint = next(part for part in raw["parts"] if part["kind"] == "interface")
    joint["class"] = "tape_stick_on"
    left, result, _ = left_of(raw)
    assert any(name.startswith("hold of ") for name in left)
    warm = copy.deepcopy(raw)
    warm["workloads"][0]["watts"] = {key: sure(40.0) for key in raw["workloads"][0]["watts"]}
    left, result, _ = left_of(warm)
    told = any("adhesive tape lets go" in notice.text for notice in result.notices)
    assert told is bool(min(v for k, v in left.items() if k.startswith("hold of ")) < 0)


def test_a_fan_that_is_told_too_little_breaks_a_bound():
    raw = raw_recipe()
    raw["workloads"][-1]["movers"]["fan-a1"] = {"duty": 0.05}
    left, result, _ = left_of(raw)
    assert left["start of Fan A1"] < 0
    assert any("less than its start duty" in notice.text for notice in result.notices)
    assert "start of Fan A2" not in left


def hot_coolant():
    """Parts with wide limits: only the coolant can say no."""
    raw = raw_recipe()
    for part in raw["parts"]:
        for place in part.get("places", []):
            place["limits"] = [{"kind": "own", "at_c": 140}]
    return raw


def test_a_fan_curve_keeps_the_coolant_under_60_degrees():
    """It held at every load with coolant at 62 °C before."""
    curve = fan_curve(read_object(hot_coolant()), "both", "loop-a", margin_k=3.0, room_c=32.0)
    full = curve.checks[-1]
    assert full.holds
    assert full.tightest_name == "coolant of Loop A"
    raw = hot_coolant()
    raw["rooms"][0]["air_c"] = 32.0
    both = next(w for w in raw["workloads"] if w["id"] == "both")
    for fan in curve.fans:
        both["movers"][fan] = {"duty": round(full.speed_share, 4)}
    [result] = predict(read_object(raw), ["both"], samples=0).workloads
    assert result.loops[0].highest_c == pytest.approx(60.0, abs=0.6)


def test_watts_held_end_at_the_coolant_where_that_comes_first():
    build = read_object(hot_coolant())
    held = {item.source: item for item in watts_it_holds(build, [24.0], ["both"]).held}
    graphics = held["graphics"]
    assert graphics.first_name in ("coolant of Loop A", "rating of Power supply")
    raw = hot_coolant()
    next(w for w in raw["workloads"] if w["id"] == "both")["watts"]["graphics"] = graphics.watts
    left, _, _ = left_of(raw)
    assert left[graphics.first_name] == pytest.approx(0.0, abs=0.3)


def test_candidates_that_break_a_hard_notice_do_not_meet():
    study = Study(
        read_object(hot_coolant()),
        asked(
            [axis("movers/fans", 0.3, 0.6, 1.0)],
            demands={"margins": [{"workload": "both", "at_least_k": 5}]},
            room_c=36,
        ),
    )
    result = outcome(study, [study.solve(chunk) for chunk in study.chunks()])
    raw = hot_coolant()
    raw["rooms"][0]["air_c"] = 36
    for number, duty in enumerate((0.3, 0.6, 1.0)):
        both = next(w for w in raw["workloads"] if w["id"] == "both")
        both["movers"] |= {key: {"duty": duty} for key in both["movers"] if key.startswith("fan")}
        [alone] = predict(read_object(raw), ["both"], samples=0).workloads
        hot = alone.no_state is not None or alone.loops[0].highest_c > 60
        assert (number in result.meets) is not hot, duty
    assert 0 not in result.meets


def test_what_is_over_without_it_is_held_out_and_named():
    """One part too hot by itself made every other source "none" before."""
    raw = raw_recipe()
    both = next(w for w in raw["workloads"] if w["id"] == "both")
    both["watts"]["drive"] = 12.0
    held = {item.source: item for item in watts_it_holds(read_object(raw), [24.0], ["both"]).held}
    assert held["processor"].held_out == ["Drive"]
    assert not held["processor"].never
    plain = {item.source: item for item in watts_it_holds(recipe(), [24.0], ["both"]).held}
    assert held["processor"].watts == pytest.approx(plain["processor"].watts, rel=0.05)
    assert not plain["processor"].held_out
    assert held["drive"].watts < 12.0
    assert not held["drive"].held_out


def test_watts_surely_held_leave_the_lower_end_of_a_band_drawn_in_full():
    held = {item.source: item for item in watts_it_holds(recipe(), [24.0], ["both"]).held}
    processor = held["processor"]
    assert processor.watts_surely < 0.9 * processor.watts
    raw = raw_recipe()
    raw["rooms"][0]["air_c"] = 24.0
    next(w for w in raw["workloads"] if w["id"] == "both")["watts"]["processor"] = sure(processor.watts_surely)
    places = predict(read_object(raw), ["both"], samples=600).workloads[0].places
    counted = [place for place in places if place.margin_band_k and place.name not in processor.in_doubt]
    tightest = min(counted, key=lambda place: place.margin_band_k.low)
    half = (tightest.margin_band_k.high - tightest.margin_band_k.low) / 2
    assert tightest.margin_band_k.low - 3.0 == pytest.approx(0.0, abs=0.2 * half)


def test_a_place_that_may_be_over_without_a_source_is_in_doubt_and_not_held_out():
    raw = raw_recipe()
    raw["rooms"][0]["air_c"] = 24.0
    plain = {place.address: place for place in predict(read_object(raw), ["both"], samples=0).workloads[0].places}
    drive = next(part for part in raw["parts"] if part["id"] == "drive")
    drive["places"][0]["limits"][0]["at_c"] = round(plain["drive-place"].temperature_c + 3.0 + 3.0)
    held = {item.source: item for item in watts_it_holds(read_object(raw), [24.0], ["both"]).held}
    assert "Drive" in held["graphics"].in_doubt
    assert all(item.watts_surely <= item.watts for item in held.values() if item.watts is not None)
    assert "Drive" not in held["graphics"].held_out


def test_a_source_whose_own_limit_is_passed_without_it_holds_none():
    raw = machine([], [box("box", 1.0)], [], sources=[source("a", "box"), source("b", "box")], watts={"a": 5, "b": 150})
    held = {item.source: item for item in watts_it_holds(read_object(raw), [24.0], ["full"]).held}
    assert held["a"].never
    assert held["a"].watts is None
    assert not held["b"].never
    assert np.isfinite(held["b"].watts)


def test_solving_for_watts_names_the_bound_that_is_passed_first():
    found = solve_for(read_object(hot_coolant()), "movers/fans", "watts", "graphics", 900.0, "both")
    assert not found.reached
    assert "is passed first" in found.because


def test_a_printed_face_softens_ten_kelvins_early():
    """PLA: 55 °C, kept 10 K away (common practice), at the hottest spot of the face."""
    raw = hand_warm(0.4)
    body = next(part for part in raw["parts"] if part["kind"] == "sink")
    body |= {"material": "pla", "conductivity_w_mk": sure(0.2), "emissivity": sure(0.9)}
    left, result, _ = left_of(raw)
    found = result.bodies[0]
    assert left[f"softening of {found.name}"] == pytest.approx(45.0 - found.hottest_c)
