"""Machines in time with what goes wrong: like the bench that integrates by a library where nothing does, and physics else."""

import numpy as np
import pytest
from strategies import recipe
from watching.benches import LEAD_S, heron, truth_of

from krill.errors import KrillError
from krill.simulated_bench.bench import BenchPlan, run_bench
from krill.simulated_bench.faults import Fault, fault_from, faults_of
from krill.simulated_bench.machines import (
    DRIFT_K_H,
    HELD_SHARE,
    SAGGED_SHARE,
    TOLERANCE_K,
    UNLOADED,
    LivePlan,
    run_machines,
)
from krill.simulated_bench.readings import AWAY_S, JUMP_S, readings_of, sessions_of

AT = 12.0
BEFORE, AFTER = LEAD_S + 60 * AT - 10, LEAD_S + 60 * (AT + 6)


def at(plan, truth, role, seconds):
    return truth.sensors[role].values[int(seconds / plan.step_s)]


def test_an_exact_machine_goes_the_way_of_the_bench_that_a_library_integrates():
    """The bench by scipy's BDF has flows that stand still in each phase: alike to what viscosity does to them."""
    build = recipe()
    # the recipe's burst is not in the old bench: a load without one
    plain = build.model_copy(update={"workloads": [load.model_copy(update={"burst": {}}) for load in build.workloads]})
    plan = LivePlan("both", 24.0, load_min=30, lead_in_min=5, after_min=0, sways_k=0.0, hidden_spread=0.0)
    truth = run_machines(plain, plan, 1)
    other = run_bench(plain, BenchPlan("both", 24.0, load_min=30, after_min=0).exactly())
    by_role = dict(zip(other.roles.values(), other.channels.values(), strict=True))
    for role in ("processor-core/temperature", "loop-a/coolant_hot", "box/air"):
        mine = truth.sensors[role].values[: len(other.time_s), 0]
        rise = mine.max() - mine.min()
        assert np.abs(mine - by_role[role]).max() < 0.06 * rise + 1.0, role


def test_machines_differ_by_their_tolerances_and_a_seed_gives_them_again():
    plan, truth = truth_of(None, 20.0, 6, seed=3)
    again = run_machines(heron(), plan, 6, 3)
    warm = truth.sensors["processor-core/temperature"].values
    assert np.array_equal(warm, again.sensors["processor-core/temperature"].values)
    assert np.ptp(warm[int(AFTER / plan.step_s) - 200]) > 1.0
    exact = run_machines(heron(), LivePlan("both", 24.0, load_min=6, hidden_spread=0.0), 3)
    assert np.ptp(exact.sensors["loop-a/coolant_hot"].values[-1]) < 1e-9


def test_a_stopped_pump_moves_nothing_and_chips_hold_themselves_at_their_limit():
    plan, truth = truth_of(Fault("pump-stops", AT, "pump"), 25.0, 4)
    assert (at(plan, truth, "pump/speed", AFTER) == 0.0).all()
    assert (at(plan, truth, "loop-a/flow", AFTER) < 0.05 * at(plan, truth, "loop-a/flow", BEFORE)).all()
    assert (at(plan, truth, "processor-core/temperature", AFTER) <= 95.01).all()
    assert (at(plan, truth, "processor/power", AFTER) < 0.5 * at(plan, truth, "processor/power", BEFORE)).all()
    # no coolant passes what boils, whatever stands still
    assert truth.sensors["loop-a/coolant_hot"].values.max() < 100.0


def test_locked_by_air_the_pump_runs_faster_and_moves_little():
    plan, truth = truth_of(Fault("air-lock", AT, "pump"), 25.0, 4)
    faster = at(plan, truth, "pump/speed", AFTER) / at(plan, truth, "pump/speed", BEFORE)
    assert faster == pytest.approx(UNLOADED, abs=1e-6)
    assert (at(plan, truth, "loop-a/flow", AFTER) < 0.1 * at(plan, truth, "loop-a/flow", BEFORE)).all()


def test_a_supply_that_sags_slows_all_alike_and_keeps_the_watts():
    plan, truth = truth_of(Fault("supply-sags", AT), 25.0, 4)
    for role in (r for r in truth.sensors if r.endswith("/speed")):
        assert at(plan, truth, role, AFTER) == pytest.approx(SAGGED_SHARE * at(plan, truth, role, BEFORE))
    assert at(plan, truth, "graphics/power", AFTER) == pytest.approx(at(plan, truth, "graphics/power", BEFORE))


def test_a_lost_feed_stops_what_hangs_on_it_and_nothing_else():
    plan, truth = truth_of(Fault("feed-lost", AT, "fan-plug"), 25.0, 4)
    for role in (r for r in truth.sensors if r.endswith("/speed")):
        share = at(plan, truth, role, AFTER) / at(plan, truth, role, BEFORE)
        assert share == pytest.approx(1.0 if role == "pump/speed" else 0.0)


def test_a_clogged_filter_warms_coolant_and_box_at_the_same_watts():
    plan, truth = truth_of(Fault("filter-clogs", AT, "filter-bottom"), 25.0, 4)
    _, clean = truth_of(None, 25.0, 4)
    for role in ("loop-a/coolant_hot", "box/air"):
        assert (at(plan, truth, role, AFTER) > at(plan, clean, role, AFTER) + 1.0).all()
    assert at(plan, truth, "fan-rear/speed", AFTER) == pytest.approx(at(plan, clean, "fan-rear/speed", AFTER))


def test_a_chip_that_is_held_back_draws_its_share():
    plan, truth = truth_of(Fault("throttles", AT, "graphics"), 25.0, 4)
    share = at(plan, truth, "graphics/power", AFTER) / at(plan, truth, "graphics/power", BEFORE)
    assert share == pytest.approx(HELD_SHARE)


def test_a_room_that_drifts_does_so_from_its_minute_on():
    plan, truth = truth_of(Fault("room-drifts", AT), 25.0, 2)
    _, clean = truth_of(None, 25.0, 2)
    drifted = at(plan, truth, "room/air", AFTER) - at(plan, clean, "room/air", AFTER)
    assert drifted == pytest.approx(DRIFT_K_H * 6 / 60, abs=1e-3)
    assert at(plan, truth, "room/air", BEFORE) == pytest.approx(at(plan, clean, "room/air", BEFORE), abs=1e-3)


def test_the_wall_shows_what_everything_draws():
    plan, truth = truth_of(None, 25.0, 4)
    sources = [r for r in truth.sensors if r.endswith("/power")]
    drawn = sum(at(plan, truth, role, AFTER) for role in sources)
    wall = at(plan, truth, "wall/wall_power", AFTER)
    assert (wall > drawn).all()
    assert (wall < 1.35 * drawn).all()


def test_sensors_are_stuck_swapped_and_stepped():
    stuck, swapped = (
        Fault("sensor-stuck", AT, "drive-place/temperature"),
        faults_of(heron(), "both")["sensors-swapped"][0],
    )
    plan, truth = truth_of(stuck, 25.0, 2)
    read = readings_of(truth, plan)
    own = read.values[:, read.roles.index(stuck.on)]
    since = int((LEAD_S + 60 * AT) / plan.step_s)
    assert len(set(own[since:])) == 1
    assert len(set(own[:since])) > 5
    assert own * 2 == pytest.approx(np.round(own * 2))
    plan, truth = truth_of(Fault("sensors-swapped", AT, swapped), 25.0, 2)
    _, clean = truth_of(None, 25.0, 2)
    one, other = swapped.split(",")
    assert at(plan, truth, one, AFTER) == pytest.approx(at(plan, clean, other, AFTER), abs=TOLERANCE_K)
    assert at(plan, truth, one, BEFORE) == pytest.approx(at(plan, clean, one, BEFORE), abs=TOLERANCE_K)


def sessions(kind):
    plan, truth = truth_of(Fault(kind, AT), 25.0, 2)
    return list(sessions_of(readings_of(truth, plan), plan, clock_s=1e9)), truth


def test_loggers_lose_double_jump_and_restart():
    whole, truth = sessions("clock-jumps")
    rows = len(truth.time_s)
    assert whole[0].clock_s[-1] - whole[0].clock_s[0] == pytest.approx(truth.time_s[-1] + JUMP_S)
    assert len(whole[0].steady_s) == rows
    dropped, _ = sessions("samples-dropped")
    assert 15 <= rows - len(dropped[0].steady_s) <= 45
    doubled, _ = sessions("samples-doubled")
    assert len(doubled[0].steady_s) == rows + 75
    restarted, _ = sessions("logger-restarts")
    assert [part.steady_s[0] for part in restarted] == [0.0, 0.0]
    assert restarted[1].run_s[0] - restarted[0].run_s[-1] == pytest.approx(AWAY_S, abs=4)


@pytest.mark.parametrize(
    "text",
    ["pump-stops", "pump-stops@12", "pump-stops@-1min", "melts@3min", "fan-stalls:pump@3min", "feed-lost:x@3min", ""],
)
def test_what_is_no_fault_is_refused_with_what_is(text):
    with pytest.raises(KrillError, match="allowed"):
        fault_from(text, heron(), "both")


def test_a_fault_is_written_in_one_word():
    assert fault_from("pump-stops@12min", heron(), "both") == Fault("pump-stops", 12.0, "pump")
    assert fault_from("fan-stalls:fan-rear@3.5min", heron(), "both") == Fault("fan-stalls", 3.5, "fan-rear")


def test_a_build_is_offered_what_can_befall_it():
    assert "feed-lost" not in faults_of(recipe(), "both")
    from krill.recipes.fanless_housing import fanless_housing

    still = faults_of(fanless_housing(35, 5, 10, 24), fanless_housing(35, 5, 10, 24).workloads[-1].id)
    assert not {"pump-stops", "fan-stalls", "air-lock", "filter-clogs", "supply-sags"} & still.keys()
    assert {"room-drifts", "sensor-stuck", "clock-jumps"} <= still.keys()
