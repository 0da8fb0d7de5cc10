"""Solve for a figure: against closed forms, against fresh predictions, out of reach, refusals."""

import itertools
from pathlib import Path

import numpy as np
import pytest
from fanless import chip, fanless, hop, layer, sink
from strategies import recipe

from krill.components.figure_table import FigureTable
from krill.document.figures import detail
from krill.document.reading import read_object, read_text, write_object
from krill.errors import DocumentRefused
from krill.prediction.predict import predict
from krill.recipes.fanless_housing import fanless_housing
from krill.recipes.water_loop import water_loop
from krill.sizing.radiator_size import sections_edits
from krill.sizing.solve_for import solve_for
from krill.sizing.steps.step import edited
from krill.sizing.varied import varied

HERON = Path(__file__).parents[1] / "saved_documents/issue-2-heron.json"


@pytest.fixture(scope="module")
def on_sink():
    return read_object(
        fanless(
            20.0, [chip(120, 18), layer(230), sink(200, 150, 40, 10)], [hop("interface", "joint"), hop("body", "sink")]
        )
    )


def test_a_layer_for_a_temperature_is_the_closed_form(on_sink):
    """Only the layer changes: its K/W is what the wanted kelvins ask for, watts being the same."""
    now = predict(on_sink, samples=0).workloads[0].places[0]
    wanted = now.temperature_c - 12.0
    found = solve_for(on_sink, "joint/resistance_mm2k_w", "temperature", "chip-place", wanted, "full")
    assert found.reached
    by_hand = 230 - 12.0 / 20.0 * 120
    assert found.value == pytest.approx(by_hand, rel=1e-4)
    assert found.got == pytest.approx(wanted, abs=0.01)


def test_the_value_found_gives_the_margin_in_a_fresh_prediction(on_sink):
    found = solve_for(on_sink, "sink/fin_height_mm", "margin", "chip-place", 10.0, "full")
    assert found.reached
    raw = write_object(on_sink)
    next(part for part in raw["parts"] if part["id"] == "sink")["fin_height_mm"] = found.value
    place = predict(read_object(raw), samples=0).workloads[0].places[0]
    assert place.margin_k == pytest.approx(10.0, abs=0.02)


def test_out_of_reach_says_the_best_and_why(on_sink):
    found = solve_for(on_sink, "sink/fin_height_mm", "margin", "chip-place", 80.0, "full")
    assert not found.reached
    assert found.got < 80
    assert "the most is" in found.because
    assert "lie in 'joint'" in found.because
    lavish = solve_for(on_sink, "sink/fin_height_mm", "margin", "chip-place", -80.0, "full")
    assert not lavish.reached
    assert "the least is" in lavish.because


@pytest.mark.parametrize(
    ("goal", "of", "wanted"), [("level", "", 33.0), ("margin", "graphics-chip", 26.0), ("flow", "air-bottom", 60.0)]
)
def test_a_duty_for_a_level_a_margin_or_a_flow(goal, of, wanted):
    build = read_text(HERON.read_text())
    mover = next(part.id for part in build.parts if part.kind == "fan")
    found = solve_for(build, f"movers/{mover}", goal, of, wanted, "both")
    assert 0 < found.value <= 1
    if found.reached:
        assert found.got == pytest.approx(wanted, abs=0.05)
    else:
        assert found.because


@pytest.mark.parametrize(
    ("address", "goal", "of", "where"),
    [
        ("sink/colour", "margin", "chip-place", "sink/colour"),
        ("movers/fan", "level", "", "movers/fan"),
        ("sink/fin_height_mm", "margin", "nobody", "of/nobody"),
        ("sink/fin_height_mm", "flow", "nowhere", "of/nowhere"),
    ],
)
def test_what_is_not_there_is_refused(on_sink, address, goal, of, where):
    with pytest.raises(DocumentRefused) as refused:
        solve_for(on_sink, address, goal, of, 10.0, "full")
    assert refused.value.problems[0].where == where


@pytest.mark.parametrize(
    ("reach", "what"),
    [
        ((-4.0, 40.0), "sink/fin_height_mm"),
        ((40.0, 40.0), "reach"),
        ((60.0, 20.0), "reach"),
        ((20.0, float("inf")), "reach"),
        ((0.0, 40.0), "sink/fin_height_mm"),
    ],
)
def test_a_reach_that_may_not_stand_in_a_document_is_refused(on_sink, reach, what):
    with pytest.raises(DocumentRefused) as refused:
        solve_for(on_sink, "sink/fin_height_mm", "margin", "chip-place", 10.0, "full", reach=reach)
    assert refused.value.problems[0].where == what


def test_a_duty_is_not_looked_for_beyond_full():
    with pytest.raises(DocumentRefused, match="a duty from 0 to 1"):
        solve_for(recipe(), "movers/fans", "level", "", 33.0, "both", reach=(0.2, 1.5))


def test_a_limit_is_not_solved_for(on_sink):
    with pytest.raises(DocumentRefused, match="given, not solved for"):
        solve_for(on_sink, "chip-place/at_c/throttle", "margin", "chip-place", 10.0, "full")


@pytest.mark.parametrize(
    ("address", "most"),
    [
        ("paste-processor/coverage", 1.0),
        ("radiator-a/covered_share", 1.0),
        ("pump/coolant_share", 1.0),
    ],
)
def test_a_share_is_looked_for_up_to_one_and_no_further(address, most):
    """Out of reach, the best that can be had is one that could be built."""
    found = solve_for(recipe(), address, "margin", "graphics-chip", 300.0, "both")
    assert not found.reached
    assert 0 < found.value <= most


def test_fins_are_looked_for_as_far_as_a_gap_stays_between_them(on_sink):
    found = solve_for(on_sink, "sink/fin_thickness_mm", "margin", "chip-place", 1000.0, "full")
    pitch = next(part.fin_pitch_mm for part in on_sink.parts if part.id == "sink")
    assert not found.reached
    assert found.value < float(detail(pitch).value)


def test_sections_are_solved_as_whole_numbers_with_their_fans():
    found = solve_for(recipe(), "radiator-a/sections", "margin", "graphics-chip", 28.0, "both")
    assert found.reached
    assert found.value == int(found.value) > found.now == 3
    build = recipe()
    fewer = edited(build, sections_edits(build, "radiator-a", int(found.value) - 1))
    place = next(p for p in predict(fewer, ["both"], samples=0).workloads[0].places if p.address == "graphics-chip")
    assert place.margin_k < 28.0 <= found.got


def test_a_duty_for_the_watts_that_a_source_may_draw():
    """At the duty found, that many watts leave exactly the margin wanted in the brief, or the coolant at just 60 °C."""
    build = recipe()
    found = solve_for(build, "movers/fans", "watts", "graphics", 250.0, "both")
    assert found.reached
    raw = write_object(build)
    both = next(w for w in raw["workloads"] if w["id"] == "both")
    both["watts"]["graphics"] = 250
    for mover in both["movers"]:
        if mover != "pump":
            both["movers"][mover] = {"duty": found.value}
    result = predict(read_object(raw), ["both"], samples=0).workloads[0]
    margin = min(p.margin_k for p in result.places if p.margin_k is not None) - 3.0
    assert min(margin, 60.0 - result.loops[0].highest_c) == pytest.approx(0.0, abs=0.02)


@pytest.mark.parametrize(("pitch", "low", "high"), [(7.5, 5.7, 8.0), (22.0, 20.0, 30.0)])
def test_of_two_crossings_the_nearest_to_the_present_value_is_answered(pitch, low, high):
    """Fin pitch: too close and too wide both cost; the side that the build stands on is kept."""
    build = read_object(
        fanless(
            20.0,
            [chip(120, 18), layer(230), sink(200, 150, 40, pitch)],
            [hop("interface", "joint"), hop("body", "sink")],
        )
    )
    found = solve_for(build, "sink/fin_pitch_mm", "margin", "chip-place", 3.0, "full")
    assert found.reached
    assert low < found.value < high


def test_the_curve_runs_through_what_is_answered():
    """What values on the way give: rising with the duty, through the answer, and each a fresh prediction."""
    found = solve_for(recipe(), "movers/fans", "margin", "graphics-chip", 26.0, "both")
    at, got = np.array(found.curve).T
    assert (np.diff(at) > 0).all()
    assert (np.diff(got) >= -1e-9).all()
    assert found.curve_unit == "K"
    assert found.curve_wanted == 26.0
    assert np.interp(found.value, at, got) == pytest.approx(26.0, abs=0.1)
    raw = write_object(recipe())
    both = next(w for w in raw["workloads"] if w["id"] == "both")
    for mover in both["movers"]:
        if mover != "pump":
            both["movers"][mover] = {"duty": float(at[-1])}
    places = predict(read_object(raw), ["both"], samples=0).workloads[0].places
    assert next(p.margin_k for p in places if p.address == "graphics-chip") == pytest.approx(got[-1], abs=0.05)


def test_the_curve_of_watts_is_the_least_margin():
    found = solve_for(recipe(), "movers/fans", "watts", "graphics", 250.0, "both")
    assert found.curve_unit == "K"
    assert found.curve_wanted == 3.0


def test_the_curve_of_whole_numbers_has_a_point_for_each():
    found = solve_for(recipe(), "radiator-a/sections", "margin", "graphics-chip", 28.0, "both")
    assert [at for at, _ in found.curve] == [float(n) for n in range(1, 13)]
    assert np.interp(found.value, *np.array(found.curve).T) == pytest.approx(found.got, abs=1e-6)


def test_why_a_room_is_out_of_reach_is_told_of_that_room():
    found = solve_for(recipe(), "room/air_c", "margin", "graphics-chip", 300.0, "both")
    assert not found.reached
    assert found.value == -20.0
    assert "over the room lie in" in found.because


@pytest.mark.parametrize(("address", "wanted"), [("radiator-a/sections", 28.0), ("movers/fans", 26.0)])
def test_the_edits_of_an_answer_make_the_build_that_was_answered_for(address, wanted):
    """More sections bring their fans, a group of fans is told as one: the trial is what was promised."""
    build = recipe()
    found = solve_for(build, address, "margin", "graphics-chip", wanted, "both")
    taken = edited(build, tuple(found.edits))
    places = predict(taken, ["both"], samples=0).workloads[0].places
    margin = next(p.margin_k for p in places if p.address == "graphics-chip")
    assert margin == pytest.approx(found.got, abs=0.05)


def test_a_figure_needs_no_edits_of_its_own(on_sink):
    assert solve_for(on_sink, "sink/fin_height_mm", "margin", "chip-place", 10.0, "full").edits == []


@pytest.mark.parametrize(
    ("address", "goal", "of", "wanted"),
    [
        ("vents/area_cm2", "rise", "box", 4.0),
        ("movers/fans", "rise", "loop-a", 14.0),
        ("movers/fans", "temperature", "box", 34.0),
        ("movers/fans", "temperature", "loop-a", 40.0),
        ("movers/fans", "temperature", "wall-top", 29.0),
        ("wall-top/width_mm", "temperature", "wall-top", 29.0),
    ],
)
def test_air_coolant_and_touch_may_be_asked_for(address, goal, of, wanted):
    """What is found stands in a fresh prediction of the document with the value in it."""
    build = water_loop(125, 220, 20, 24, "loop")
    found = solve_for(build, address, goal, of, wanted, "both", reach=(0.3, 1.0) if "movers" in address else None)
    if not found.reached:
        assert found.because.startswith("within reach the")
        assert "the rest is made by other parts" in found.because
        return
    table = FigureTable(build)
    after = edited(build, varied(build, table, address).edits(found.value, ["both"]))
    fresh = predict(after, ["both"], samples=0).workloads[0]
    celsius = {zone.address: zone.temperature_c for zone in fresh.zones}
    celsius |= {loop.address: loop.highest_c for loop in fresh.loops}
    celsius |= {body.address: body.hottest_c for body in fresh.bodies}
    assert celsius[of] - (24.0 if goal == "rise" else 0.0) == pytest.approx(wanted, abs=0.05)
    assert found.goal_unit == ("K" if goal == "rise" else "°C")


def test_the_searches_above_are_not_all_out_of_reach():
    build = water_loop(125, 220, 20, 24, "loop")
    assert solve_for(build, "vents/area_cm2", "rise", "box", 4.0, "both").reached
    assert solve_for(build, "movers/fans", "rise", "loop-a", 14.0, "both").reached


@pytest.mark.parametrize(
    ("address", "wanted", "value"), [("back/fin_height_mm", 60.0, 52.0), ("back/base_mm", 55.0, 15.0)]
)
def test_a_stack_may_be_as_high_as_wanted(address, wanted, value):
    """Base 8 mm and fins 40 mm: 52 + 8 and 40 + 15."""
    build = fanless_housing(38, 8, 4, 23)
    found = solve_for(build, address, "height", "", wanted, "full")
    assert found.reached
    assert (found.value, found.goal_unit) == (pytest.approx(value, abs=0.01), "mm")


def test_sections_are_asked_for_by_the_rise_of_the_coolant():
    build = water_loop(125, 220, 20, 24, "loop")
    found = solve_for(build, "radiator-a/sections", "rise", "loop-a", 10.0, "both")
    assert found.value in range(1, 13)
    by_sections = dict(found.curve)
    assert found.got == pytest.approx(by_sections[found.value], abs=1e-6)
    assert all(b < a for a, b in itertools.pairwise(by_sections.values()))


@pytest.mark.parametrize("of", ["nobody", "vents", "outside"])
def test_what_is_not_warm_is_refused(of):
    with pytest.raises(DocumentRefused, match="nothing warm"):
        solve_for(water_loop(125, 220, 20, 24, "loop"), "movers/fans", "rise", of, 10.0, "both")


def test_a_body_is_asked_for_at_its_hottest_spot():
    """Where the pipes end, not its mean: the first is some kelvins warmer."""
    build = fanless_housing(38, 8, 4, 23)
    now = next(body for body in predict(build, ["full"], samples=0).workloads[0].bodies if body.address == "back")
    found = solve_for(build, "back/fin_height_mm", "temperature", "back", now.hottest_c, "full")
    assert found.reached
    assert found.value == pytest.approx(40.0, abs=0.05)
