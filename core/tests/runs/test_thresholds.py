"""Thresholds of settling, readings and verdicts from both sides, and the figures behind them."""

from dataclasses import replace

import numpy as np
import pytest
from asking import edge
from readings import typed
from strategies import recipe, well_known_recipe

from krill.document.build import Command
from krill.document.reading import read_object, write_object
from krill.prediction.answer.doubt import place_samples
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import cases_of
from krill.recipes.book import RECIPES
from krill.runs.analysis import LogAnalysis
from krill.runs.causes import Cause
from krill.runs.measured import room_as_read, room_of_run
from krill.runs.quantities_read import quantity_read
from krill.runs.recognise import Suggestion
from krill.runs.run_document import RoomTold
from krill.runs.settle import Beside, settle
from krill.runs.suspects import CauseEffects
from krill.runs.typed import measured_from_readings, peaky_roles
from krill.runs.unknown_room import RunRoom
from krill.runs.verdict import Measured, verdict
from krill.runs.windows import Window

ROLE = "processor-core/temperature"


@pytest.fixture(scope="module")
def build():
    return well_known_recipe()


def judged(build, *measured):
    return verdict(build, "both", 24.0, list(measured), samples=100)


@pytest.fixture(scope="module")
def predicted(build):
    return judged(build, Measured(ROLE, 70.0, 0.5)).places[0]


@pytest.mark.parametrize(
    ("beyond", "conclusion"),
    [(-0.01, "as predicted"), (0.01, "hotter than predicted")],
)
def test_hotter_begins_where_the_two_bands_part(build, predicted, beyond, conclusion):
    measured = Measured(ROLE, predicted.predicted_high + 0.5 + beyond, 0.5)
    assert judged(build, measured).places[0].conclusion == conclusion
    unsettled = Measured(ROLE, measured.value, 0.5, settled=False)
    assert judged(build, unsettled).places[0].conclusion == ("cannot tell" if beyond > 0 else "as predicted")


@pytest.mark.parametrize(
    ("beyond", "conclusion"),
    [(-0.01, "as predicted"), (0.01, "cooler than predicted")],
)
def test_cooler_begins_where_the_two_bands_part(build, predicted, beyond, conclusion):
    measured = Measured(ROLE, predicted.predicted_low - 0.5 - beyond, 0.5)
    assert judged(build, measured).places[0].conclusion == conclusion


@pytest.mark.parametrize(("beyond", "conclusion"), [(-0.01, "as predicted"), (0.01, "cannot tell")])
def test_a_value_still_tells_that_is_known_to_a_quarter_of_the_rise_or_to_its_limit(predicted, beyond, conclusion):
    """Whichever is more: here the limit, 22 K away; without one a quarter of the 49 K over the room."""
    raw = write_object(well_known_recipe())
    to_limit = predicted.limit_c - predicted.predicted_c
    rise = predicted.predicted_c - 24.0
    assert to_limit > 0.25 * rise

    def told(half):
        return judged(read_object(raw), Measured(ROLE, predicted.predicted_c, half)).places[0].conclusion

    # a limit inside the measured band is open by itself, so the widest band that tells ends at it
    assert told(to_limit + beyond) == conclusion
    for part in raw["parts"]:
        for place in part.get("places", []):
            place["limits"] = []
    assert told(0.25 * rise + beyond) == conclusion


def test_a_processor_of_more_than_200_w_can_be_judged():
    """Its band is wider than 8 K by its rise alone: it never could before."""
    build = RECIPES["water_loop"].make(240, 220, 30, 24.0, "large")
    first = verdict(build, "both", 24.0, [Measured(ROLE, 80.0, 1.0)], samples=200).places[0]
    assert (first.predicted_high - first.predicted_low) / 2 > 8
    again = verdict(build, "both", 24.0, [Measured(ROLE, first.predicted_c, 1.0)], samples=200).places[0]
    assert again.conclusion == "as predicted"


@pytest.mark.parametrize(("beyond", "impossible"), [(0.05, False), (-0.05, True)])
def test_a_drop_below_what_its_parts_can_have_is_impossible(build, beyond, impossible):
    """99 of 100 draws lie above the floor; the band of both readings is given."""
    solved = solve_cases(build, cases_of(build, ["both"], 24.0), 400)
    coolant = "loop-a/coolant_cold"
    T = place_samples(solved, 0, "processor-core") - solved.solution.temperature[solved.drawn(0)][
        :, solved.structure.coolant.nodes_of("loop-a")
    ].min(axis=1)
    floor = float(np.quantile(T, 0.005))
    cold = 40.0
    measured = [Measured(ROLE, cold + floor - np.hypot(1.0, 0.5) + beyond, 1.0), Measured(coolant, cold, 0.5)]
    found = verdict(build, "both", 24.0, measured)
    assert (found.places[0].conclusion == "impossible") is impossible
    assert ("must lie between them" in found.places[0].because) is impossible
    if impossible:
        assert found.sentence.startswith("Processor cannot be as read: ")


@pytest.mark.parametrize(("upper", "conclusion"), [(-0.01, "as predicted"), (0.01, "cannot tell")])
def test_a_limit_inside_the_measured_band_leaves_it_open(build, predicted, upper, conclusion):
    room = 24.0 + predicted.limit_c - predicted.predicted_c - 6.0  # so warm that the limit is some kelvins away
    warm = verdict(build, "both", room, [Measured(ROLE, predicted.limit_c, 0.5)], samples=100).places[0]
    measured = Measured(ROLE, warm.predicted_c, warm.limit_c + upper - warm.predicted_c)
    assert 0 < measured.half_width < 8
    assert verdict(build, "both", room, [measured], samples=100).places[0].conclusion == conclusion


def test_a_cause_is_hinted_at_once_it_is_six_times_as_likely_and_named_from_forty(build, predicted):
    def suspects(residual):
        return judged(build, Measured(ROLE, predicted.predicted_c + residual, 0.3)).suspects

    silent, hinted = edge(lambda residual: bool(suspects(residual)), 0.0, 60.0)
    assert not suspects(silent)
    assert suspects(hinted)[0].evidence == pytest.approx(np.log(6.0), abs=1e-3)
    hinted, named = edge(lambda residual: suspects(residual)[0].sure, hinted, 60.0)
    assert suspects(named)[0].evidence == pytest.approx(np.log(40.0), abs=1e-3)
    assert not suspects(hinted)[0].sure
    said = judged(build, Measured(ROLE, predicted.predicted_c + hinted, 0.3)).sentence
    assert said.startswith("Perhaps chance, within what is stated; if anything is off, then ")


def effects(*of_roles):
    """Causes of one spread that move two readings as stated."""
    causes = [Cause(f"part-{i}/factor", f"Part {i}", "{change}", (), 0.4) for i in range(len(of_roles))]
    return CauseEffects(causes, np.array(of_roles), [])


@pytest.mark.parametrize(("turned", "named"), [(0.31, 2), (0.33, 1)])
def test_causes_that_move_the_readings_alike_are_named_together(turned, named):
    """A cosine of 0.95 is an angle of 0.318: nearer than that two causes are not parted, whichever fits better."""
    beside = 10.0 * np.array([np.cos(turned), np.sin(turned)])
    found = effects(np.array([10.0, 0.0]), beside).suspicion(np.array([8.0, 0.0]), 2.25 * np.eye(2)).suspects
    assert found[0].address == "part-0/factor"
    assert len(found) == named


def test_a_cause_that_moves_them_otherwise_is_named_too_within_1_6():
    """Two readings, two causes at right angles: as the residual turns, one and both are named."""
    two = effects(np.array([10.0, 0.0]), np.array([0.0, 10.0]))

    def found(second):
        return two.suspicion(np.array([8.0, second]), np.eye(2)).suspects

    one, both = edge(lambda second: len(found(second)) > 1, 0.0, 8.0)
    assert len(found(one)) == 1
    assert found(both)[0].evidence - found(both)[1].evidence == pytest.approx(np.log(1.6), abs=1e-3)


def test_no_more_than_three_are_named_and_a_cause_that_only_worsens_is_never_a_gain():
    many = effects(*(np.array([10.0, 0.1 * i]) for i in range(6)))
    assert len(many.suspicion(np.array([9.0, 0.0]), np.eye(2)).suspects) == 3
    fan = Cause("fan/flow_factor", "Fan", "a flow {less} than predicted", (), 0.4, True)
    only = CauseEffects([fan], np.array([[10.0, 10.0]]), [])
    assert only.suspicion(np.array([-6.0, -6.0]), np.eye(2)).suspects == []
    (worse,) = only.suspicion(np.array([6.0, 6.0]), np.eye(2)).suspects
    assert worse.change == pytest.approx(0.6, abs=0.03)
    assert worse.says == "a flow 37 % smaller than predicted"
    free = CauseEffects([replace(fan, one_sided=False)], np.array([[10.0, 10.0]]), [])
    (both_ways,) = free.suspicion(np.array([6.0, 6.0]), np.eye(2)).suspects
    assert worse.evidence - both_ways.evidence == pytest.approx(np.log(2.0), abs=1e-3)


def stopped(remaining, noise=0.0):
    """A warm-up of ten minutes' constant that was stopped so many kelvins short."""
    t = np.arange(0, 3000, 5.0)
    return settle(t, 70 - remaining * np.exp((t[-1] - t) / 600) + noise)


def test_settled_means_that_less_than_0_7_kelvins_are_to_come():
    """Without noise nothing but what is still to come decides."""
    settled, moving = edge(lambda remaining: not stopped(remaining).settled, 0.0, 1.5)
    assert stopped(settled).remaining_k == pytest.approx(0.7, abs=0.01)
    assert stopped(moving).remaining_k == pytest.approx(0.7, abs=0.01)


def test_noise_asks_for_less_to_come_before_it_is_called_settled():
    """96 of 100 of what may still be to come must lie under 0.7 K: frozen outcome."""
    noise = np.random.default_rng(0).normal(0, 0.4, 600)
    settled, _ = edge(lambda remaining: not stopped(remaining, noise).settled, 0.0, 1.5)
    assert settled == pytest.approx(0.557, abs=0.003)


@pytest.mark.parametrize(
    ("remaining", "minutes"), [(3.0, 10 * np.log(3.0 / 0.5)), (1.0, 10 * np.log(1.0 / 0.5)), (0.75, 5.0)]
)
def test_minutes_needed_until_half_a_kelvin_is_to_come(remaining, minutes):
    """tau ln(rise to come / 0.5 K), never under five minutes."""
    assert stopped(remaining).minutes_needed == pytest.approx(minutes, rel=0.04)


def test_a_reading_that_stands_hides_its_step_and_one_that_only_climbs_too():
    """Whole degrees: standing at 60 says 59.5 to 60.5 and what may creep in it; noise of 0.4 K reads between them."""
    t = np.arange(0, 3000, 5.0)
    rng = np.random.default_rng(2)

    def half(values):
        found = settle(t, np.round(values), Beside(1.0))
        return (found.high - found.low) / 2

    assert 1.645 * np.hypot(np.sqrt(1 / 12), 0.1) < half(np.full(600, 60.2)) < 1.2
    assert half(60.45 + 0.4 * rng.standard_normal(600)) < 0.15


def half_of(t, values, beside):
    found = settle(t, values, beside)
    return (found.high - found.low) / 2


def test_what_an_interval_is_never_narrower_than():
    """A step's edge (0.1 of it), a logged room (0.05 K), and 18 % of what is still to come, as 90 % half widths."""
    t = np.arange(0, 3600, 5.0)
    toggling = 60 + 1.0 * (np.random.default_rng(2).random(len(t)) < 0.08)  # one row in six steps to or fro
    assert 0.10 < half_of(t, toggling, Beside(1.0)) < 0.16
    clean = 70 - 30 * np.exp(-t / 300) + np.random.default_rng(1).normal(0, 0.02, len(t))
    assert half_of(t, clean, Beside(0.0, np.full(len(t), 24.0))) == pytest.approx(1.645 * 0.05, rel=0.05)
    assert half_of(t, clean, Beside()) < 0.03
    stopped_at = t < 900
    remaining = 30 * np.exp(-900 / 600)
    short = half_of(t[stopped_at], 70 - 30 * np.exp(-t[stopped_at] / 600), Beside())
    assert short == pytest.approx(1.645 * 0.18 * remaining, rel=0.05)


def reading(minute, value, kind="now"):
    return typed(minute, ROLE, kind, value, True)


@pytest.mark.parametrize(("kind", "half"), [("now", 2.0), ("mean", 1.0), ("highest", 3.0)])
def test_bands_of_typed_readings(kind, half):
    """± 2, 1 and 3 K (estimates): a mean is surer than a glance, a highest reading lies above the mean."""
    (measured,) = measured_from_readings([reading(30, 70, kind)], "both").values
    assert (measured.value, measured.half_width) == (70, half)


@pytest.mark.parametrize(("cores", "value", "half"), [("few", 62.0, 5.0), ("all", 70.0, 3.0)])
def test_the_highest_reading_of_a_hottest_core_in_a_game_lies_over_its_mean(cores, value, half):
    """+ 8 ± 4 K over the mean of a game-like run (common practice, weak); not where every core is busy."""
    raw = write_object(well_known_recipe())
    for workload in raw["workloads"]:
        workload["cores"] = cores
    peaky = peaky_roles(read_object(raw), "both")
    assert ("memory-place/temperature" in peaky) is False
    (measured,) = measured_from_readings([reading(30, 70, "highest")], "both", peaky).values
    assert (measured.value, measured.half_width) == (value, half)


@pytest.mark.parametrize(
    ("minutes", "drift", "rising"),
    [(10, 1.0, False), (10, 1.01, True), (29.9, 3.0, True), (30, 3.0, False), (10, -1.01, True)],
)
def test_two_readings_that_differ_are_still_moving(minutes, drift, rising):
    (measured,) = measured_from_readings([reading(0, 70.0), reading(minutes, 70.0 + drift)], "both").values
    assert measured.settled is not rising
    assert measured.half_width == pytest.approx(2.0 + abs(drift) * rising)


@pytest.mark.parametrize(("score", "sure"), [(0.75, True), (0.74, False)])
def test_a_role_is_sure_from_three_quarters(score, sure):
    assert Suggestion("core", ROLE, score, []).sure is sure


@pytest.mark.parametrize(
    ("start", "end", "logged", "room"),
    [
        (24.0, 26.0, None, RunRoom(25.0, 0.0)),
        (24.0, None, None, RunRoom(24.0, 1.5)),
        (None, 26.0, None, RunRoom(26.0, 1.5)),
        (24.0, None, (22.0, 23.0), RunRoom(23.5, 0.0)),
        (None, None, (22.0, 23.0), RunRoom(22.5, 0.0)),
        (None, None, None, RunRoom(24.0, 5.0)),
    ],
)
def test_one_room_figure_stands_for_both_with_doubt(start, end, logged, room):
    analysis = None if logged is None else LogAnalysis(Window(0, 9, 0.0, 9.0, "hand"), [], *logged)
    assert room_of_run(RoomTold(start_c=start, end_c=end), room_as_read(analysis, []), recipe()) == room


def other(minute, role, value, load_on=True):
    return typed(minute, role, "now", value, load_on)


def test_the_room_may_be_typed_among_the_readings():
    rooms = [other(60, "room/air", 25.0), other(0, "room/air", 23.0, False), other(30, "room/air", 99.0)]
    found = measured_from_readings([*rooms, reading(60, 70)], "both")
    assert found.room_c == [23.0, 99.0, 25.0]
    assert [m.role for m in found.values] == [ROLE]
    assert found.idle == []
    assert room_as_read(None, found.room_c) == (23.0, 25.0)
    assert room_as_read(None, [23.0]) == (23.0, None)
    assert room_as_read(None, []) == (None, None)


def test_speeds_and_watts_under_load_override_the_build():
    told = [
        other(20, "fan-a1/speed", 1000.0),
        other(60, "fan-a1/speed", 1100.0),
        other(60, "processor/power", 131.0),
        other(60, "wall/power", 500.0),
        other(65, "graphics/power", 20.0, False),
        reading(60, 70),
    ]
    found = measured_from_readings(told, "both")
    assert found.commands == {"fan-a1": Command(speed_rpm=1050.0)}
    assert found.watts == {"both/watts/processor": 131.0}
    assert [m.role for m in found.values] == [ROLE]


@pytest.mark.parametrize(
    ("role", "allowed"),
    [
        ("processor-core/temperature", ("°C", -50.0, 200.0)),
        ("room/air", ("°C", -50.0, 200.0)),
        ("fan-a1/speed", ("rpm", 0.0, 30_000.0)),
        ("processor/power", ("W", 0.0, 5_000.0)),
    ],
)
def test_what_may_be_typed_of_a_role(role, allowed):
    quantity = quantity_read(role)
    assert (quantity.unit, quantity.least, quantity.most) == allowed
