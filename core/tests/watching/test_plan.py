"""The plan of a test: loads in order, minutes as the forecast has them, what is seen, noted, and when to stop."""

import pytest
from watching.benches import heron

from krill.in_time.forecast import forecast_in_time
from krill.in_time.run import Asked
from krill.recipes.fanless_housing import fanless_housing
from krill.watching.plan import due_minutes, load_kinds, plan_test


def test_the_minutes_are_those_of_the_forecast_rounded_up():
    plan = plan_test(heron(), 24.0)
    for load in plan.loads:
        if load.kind == "idle":
            assert load.minutes == 60
            continue
        needed = forecast_in_time(heron(), Asked(load.workload, 120.0, room_c=24.0)).minutes_needed
        assert max(needed - 0.5, 0) <= load.minutes
        assert load.minutes <= max(needed + 5.5, 15)
    assert plan.minutes == sum(load.minutes for load in plan.loads)


def test_idle_comes_first_and_everything_at_once_last():
    kinds = load_kinds(heron())
    assert kinds["idle"] == "idle"
    assert kinds["both"] == "both"
    plan = plan_test(heron())
    assert [plan.loads[0].kind, plan.loads[-1].kind] == ["idle", "both"]
    assert {load.workload for load in plan.loads} == {load.id for load in heron().workloads}


def test_what_moves_is_seen_to_move_and_limits_are_rules():
    plan = plan_test(heron())
    keys = {one.key for one in plan.seen}
    assert {"no-leak", "loop-closed", "filter", "room", "moves/pump", "turns/fan-rear"} <= keys
    limits = {rule.address: rule.at_c for rule in plan.stops if rule.at_c is not None}
    assert limits["processor-core"] == 95.0
    assert limits["loop-a"] == 60.0
    assert any("drop of liquid" in rule.says for rule in plan.stops)
    locked = {one.address: one.told for one in plan.loads[-1].locked}
    assert locked["pump"] == "at 70 %, 3150 rpm"


def test_a_housing_without_fans_takes_its_time_and_asks_for_no_fan():
    plan = plan_test(fanless_housing(35, 5, 5, 24))
    longest = max(plan.loads, key=lambda load: load.minutes)
    assert longest.minutes > 60
    assert not any(one.key.startswith(("turns/", "moves/")) for one in plan.seen)
    assert not any("fan" in rule.says for rule in plan.stops)


@pytest.mark.parametrize(
    ("kind", "minutes", "due"), [("idle", 60, [60]), ("both", 30, [5, 10, 22, 30]), ("both", 15, [5, 11, 15])]
)
def test_readings_are_due_early_when_fast_parts_have_settled_and_before_the_end(kind, minutes, due):
    assert due_minutes(kind, minutes) == due


def test_parts_with_the_least_to_spare_are_read_first():
    note = plan_test(heron()).loads[-1].note
    assert note[-1] == "room/air"
    assert note[0].endswith("/temperature")
    assert "loop-a/coolant_hot" in note
