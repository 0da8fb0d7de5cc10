"""A room that nobody wrote down: from readings of machines whose room and deviations are hidden."""

import numpy as np
import pytest
from readings import typed
from strategies import recipe

from krill.document.reading import read_object, write_object
from krill.networks.states import Case
from krill.prediction.answer.solving import solve_cases
from krill.prediction.answer.workload_states import idle_of
from krill.recipes.book import RECIPES
from krill.runs.as_run import value_of
from krill.runs.typed import measured_from_readings
from krill.runs.unknown_room import RoomFit, RunRoom, prior_room, spread_of
from krill.runs.verdict import Measured, verdict
from krill.simulated_bench.bench import BenchPlan, run_bench

ROLE = "processor-core/temperature"


def with_days(cool, own, hot):
    raw = write_object(recipe())
    room = raw["rooms"][0]
    days = {"cool": cool, "hot": hot}
    raw["rooms"] = [room | {"air_c": own}, *[room | {"id": day, "air_c": air} for day, air in days.items()]]
    raw["brief"] = raw["brief"] | {"coolest_room": "cool", "hottest_room": "hot"}
    return read_object(raw)


class TestPrior:
    def test_is_the_cool_to_hot_day(self):
        assert prior_room(with_days(16, 22, 34)) == RunRoom(25.0, 9.0)

    def test_is_no_narrower_than_rooms_are(self):
        assert prior_room(with_days(22, 23, 24)) == RunRoom(23.0, 5.0)
        assert prior_room(with_days(18, 23, 28.2)).half_k == pytest.approx(5.1)

    def test_takes_the_common_room_along(self):
        assert prior_room(with_days(20, 14, 24)) == RunRoom(19.0, 5.0)


class TestFit:
    def test_independent_readings_are_the_weighted_mean_of_closed_form(self):
        fit = RoomFit(np.array([2.0, 5.0]), np.diag([1.0, 4.0]), (0.0, 3.0))
        mean, spread = fit.estimate()
        assert mean == pytest.approx((2.0 / 1 + 5.0 / 4) / (1 / 9 + 1 + 1 / 4))
        assert spread == pytest.approx((1 / 9 + 1 + 1 / 4) ** -0.5)

    def test_one_reading_is_held_against_the_others_alone(self):
        fit = RoomFit(np.array([2.0, 50.0]), np.diag([1.0, 4.0]), (0.0, 3.0))
        assert fit.without(1)[0] == pytest.approx(2.0 / (1 / 9 + 1))
        assert RoomFit(np.array([50.0]), np.eye(1), (0.5, 3.0)).without(0) == pytest.approx((0.5, 3.0))

    def test_correlated_readings_are_the_posterior_of_a_joint_gaussian(self):
        """Against conditioning the joint normal of room and readings, written apart."""
        rng = np.random.default_rng(3)
        root = rng.normal(size=(4, 4))
        open_k2, prior = root @ root.T + np.eye(4), (1.5, 2.5)
        y = rng.normal(size=4) * 5
        joint = open_k2 + prior[1] ** 2 * np.ones((4, 4))
        gain = prior[1] ** 2 * np.linalg.solve(joint, np.ones(4))
        mean, spread = RoomFit(y, open_k2, prior).estimate()
        assert mean == pytest.approx(prior[0] + gain @ (y - prior[0]))
        assert spread**2 == pytest.approx(prior[1] ** 2 * (1 - gain.sum()))


def roles_of_build(build):
    places = [f"{place}/temperature" for place in list(build.place_owners())[:3]]
    return [*places, *[f"{loop.id}/coolant_hot" for loop in build.loops][:1]]


def estimates(name, idle_read, machines=30):
    """Rooms found and true of hidden machines, with whole solves of their own; what was called off among all parts."""
    recipe_ = RECIPES[name]
    build = recipe_.make(*recipe_.starts, 25.0, name)
    load = next(item for item in build.workloads if item.id == build.brief.worst_workloads[0])
    prior, rng = prior_room(build), np.random.default_rng(5)
    rooms = rng.uniform(prior.air_c - prior.half_k, prior.air_c + prior.half_k, machines)
    cases = [Case(workload, float(room)) for workload in (load, idle_of(build, load)) for room in rooms]
    hidden = solve_cases(build, cases, machines, seed=4321)

    def read(role, case, machine):
        return float(value_of(hidden, role, hidden.central(case) + 1 + machine)) + rng.normal(0, 0.6)

    found, called = [], 0
    roles = roles_of_build(build)
    for k in range(machines):
        measured = [Measured(role, read(role, k, k), 2.0) for role in roles]
        idle = [Measured(roles[0], read(roles[0], machines + k, k), 2.8)] if idle_read else []
        judged = verdict(build, load.id, prior, measured, samples=120, idle=idle)
        found.append((judged.room.air_c, judged.room.half_k))
        called += sum(place.conclusion.endswith("than predicted") for place in judged.places)
    air, half = np.array(found).T
    return air - rooms, half, called / (machines * len(roles)), prior


@pytest.mark.slow
@pytest.mark.parametrize("name", ["water_loop", "fanless_housing", "ducted_sink", "tower_box"])
def test_the_interval_holds_and_faultless_parts_are_not_called_off(name):
    off, half, called, prior = estimates(name, idle_read=False)
    assert 0.8 <= np.mean(np.abs(off) <= half) <= 1.0
    assert np.sqrt(np.mean(off**2)) < prior.half_k / np.sqrt(3)  # what the prior alone would be off
    assert called <= 0.05


@pytest.mark.slow
@pytest.mark.parametrize("name", ["water_loop", "fanless_housing", "ducted_sink", "tower_box"])
def test_an_idle_reading_gives_the_room_within_two_kelvin(name):
    off, half, called, _ = estimates(name, idle_read=True)
    assert np.mean(np.abs(off) <= 2.0) >= 0.8
    assert np.mean(np.abs(off) <= half) >= 0.8
    assert np.mean(half) < 3.0
    assert called <= 0.05


@pytest.mark.parametrize(("room", "seed"), [(21.0, 1), (29.0, 2)])
def test_two_figures_off_the_simulated_bench_find_its_room(room, seed):
    """The bench runs in time, with deviations and sensors of its own."""
    build = recipe()
    bench = run_bench(build, BenchPlan("both", room, load_min=60, lead_in_min=5, after_min=0, step_s=10.0, seed=seed))
    by_role = {role: bench.channels[name] for name, role in bench.roles.items()}
    last, first = by_role[ROLE][-1], by_role[ROLE][3]
    told = [typed(60, ROLE, "now", float(last), True), typed(0, ROLE, "now", float(first), False)]
    measured = measured_from_readings(told, "both")
    assert [m.value for m in measured.idle] == [float(first)]
    found = verdict(build, "both", prior_room(build), measured.values, idle=measured.idle)
    assert found.room.air_c == pytest.approx(room, abs=found.room.half_k)
    assert found.room.half_k < 3.5


class TestVerdict:
    def test_a_room_that_is_known_stays_as_it_is_told(self):
        build, measured = recipe(), [Measured(ROLE, 80.0, 1.0)]
        told = verdict(build, "both", 24.0, measured, samples=60)
        assert told == verdict(build, "both", RunRoom(24.0), measured, samples=60)
        assert told.room == RunRoom(24.0, 0.0)

    def test_all_parts_warmer_alike_is_a_warm_room_and_no_fault(self):
        build = recipe()
        prior = prior_room(build)
        hot = solve_cases(build, [Case(build.workloads[-1], prior.air_c + 4)], 0)
        measured = [Measured(role, float(value_of(hot, role, 0)), 1.0) for role in roles_of_build(build)]
        found = verdict(build, build.workloads[-1].id, prior, measured, samples=120)
        assert found.room.air_c > prior.air_c + 1.5
        assert {place.conclusion for place in found.places} <= {"as predicted", "cannot tell"}
        assert found.suspects == []

    def test_one_part_that_is_far_off_is_not_taken_for_the_room(self):
        build = recipe()
        prior, load = prior_room(build), build.workloads[-1]
        truth = solve_cases(build, [Case(load, prior.air_c)], 0)
        roles = roles_of_build(build)
        measured = [
            Measured(role, float(value_of(truth, role, 0)) + (25 if role == ROLE else 0), 1.0) for role in roles
        ]
        found = {place.role: place.conclusion for place in verdict(build, load.id, prior, measured, samples=200).places}
        assert found[ROLE] == "hotter than predicted"
        assert all("hotter" not in said for role, said in found.items() if role != ROLE)

    def test_a_single_reading_is_held_against_the_whole_prior(self):
        build = recipe()
        prior = prior_room(build)
        unknown = verdict(build, "both", prior, [Measured(ROLE, 80.0, 1.0)], samples=400).places[0]
        known = verdict(build, "both", prior.air_c, [Measured(ROLE, 80.0, 1.0)], samples=400).places[0]
        wider = np.hypot((known.predicted_high - known.predicted_low) / 2, prior.half_k)
        assert (unknown.predicted_high - unknown.predicted_low) / 2 == pytest.approx(wider, rel=0.15)

    def test_idle_readings_of_the_idle_workload_itself_are_no_second_case(self):
        build = recipe()
        least = idle_of(build, build.workloads[-1]).id
        alone = verdict(build, least, prior_room(build), [Measured(ROLE, 40.0, 1.0)], samples=60)
        beside = verdict(
            build, least, prior_room(build), [Measured(ROLE, 40.0, 1.0)], samples=60, idle=[Measured(ROLE, 39.0, 1.0)]
        )
        assert alone == beside


def test_a_reading_at_the_start_without_load_is_of_the_waiting_machine():
    told = [
        typed(0, ROLE, "now", 34.0, False),
        typed(60, ROLE, "now", 78.0, True),
        typed(65, ROLE, "now", 60.0, False),
    ]
    found = measured_from_readings(told, "both")
    assert [(m.value, m.half_width) for m in found.values] == [(78.0, 2.0)]
    assert [(m.value, m.half_width) for m in found.idle] == [(34.0, pytest.approx(np.hypot(2.0, 2.0)))]
    assert found.excluded == [f"{ROLE}: 1 read after the load ended"]


def test_the_spread_of_a_room_is_of_its_ninety_per_cent():
    assert spread_of(RunRoom(25.0, 1.6449)) == pytest.approx(1.0, rel=1e-4)
