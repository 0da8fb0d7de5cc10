"""Fans that follow a temperature: what a firmware asks of them, and a sagging supply or a clogged filter that they make up for."""

import json
from functools import cache
from math import exp

import numpy as np
import pytest
from watching.benches import HERON, LEAD_S, ROOM_C, seen

from krill.document.build import FanCurve
from krill.document.reading import read_object
from krill.simulated_bench.faults import Fault, faults_of
from krill.simulated_bench.machines import SAGGED_SHARE, LivePlan, run_machines
from krill.watching.expected import expected_of
from krill.watching.following import LEAST_ASKED, asked_of, follows, speed_shares
from krill.watching.load import load_span
from krill.watching.samples import Samples
from krill.watching.watch import failures

MACHINES = 12
CURVES = {"loop-a": [[35, 0.4], [50, 1.0]], "processor-core": [[50, 0.4], [80, 1.0]]}


@cache
def heron_following(sensor):
    raw = json.loads(HERON.read_text())
    fans = [part["id"] for part in raw["parts"] if part["kind"] == "fan"]
    for load in raw["workloads"]:
        told = {fan: {"curve": {"sensor": sensor, "points": CURVES[sensor]}} for fan in fans}
        load["movers"] = load.get("movers", {}) | told
    return read_object(raw)


@cache
def expected_following(sensor):
    return expected_of(heron_following(sensor), "both", ROOM_C, 120.0)


def named(sensor, kind, at_min, until_s):
    """On how many machines a fault is named by a time, and what else is."""
    build, told = heron_following(sensor), expected_following(sensor)
    faults = () if kind is None else (Fault(kind, at_min, faults_of(build, "both")[kind][0]),)
    plan = LivePlan("both", ROOM_C, load_min=until_s[-1] / 60, faults=faults)
    truth = run_machines(build, plan, MACHINES, seed=11)
    hits, others = 0, set()
    for machine in range(MACHINES):
        kinds = set()
        for until in until_s:
            samples, arrived = seen(plan, truth, machine, until, seed=11)
            kinds |= {one.kind for one in failures(told, samples, load_span(told, samples), arrived)}
        hits += kind in kinds
        others |= kinds - {kind}
    return hits, others


@pytest.mark.parametrize("sensor", CURVES)
@pytest.mark.parametrize("at_min", [4.0, 12.0])
def test_a_sagging_supply_is_named_within_three_minutes(sensor, at_min):
    hits, others = named(sensor, "supply-sags", at_min, [LEAD_S + 60 * (at_min + 3)])
    assert hits >= 0.9 * MACHINES
    assert not others


@pytest.mark.parametrize("sensor", CURVES)
def test_a_clogged_filter_is_named_within_a_time_constant_of_the_box(sensor):
    constant = max(one.seconds for one in expected_following(sensor).forecast.constants)
    hits, others = named(sensor, "filter-clogs", 12.0, [LEAD_S + 60 * 12 + constant])
    assert hits >= 0.9 * MACHINES
    assert not others


@pytest.mark.parametrize("sensor", CURVES)
def test_nothing_is_named_where_nothing_fails(sensor):
    _, others = named(sensor, None, 0.0, [400.0, 700.0, 1500.0, 2500.0, 3600.0])
    assert not others


def read(role, values, step_s=1.0):
    values = np.asarray(values, dtype=float)
    return Samples(np.arange(len(values)) * step_s, [role], values[:, None])


class TestFirmware:
    def test_a_curve_without_ramps_asks_what_it_says_at_once(self):
        curve = FanCurve(sensor="loop-a", points=[(30, 0.2), (50, 0.8)], hysteresis_k=0, up_s=0, down_s=0)
        asked = asked_of(curve, read("loop-a/coolant_hot", [40] * 60 + [45] * 60))
        assert asked[30] == pytest.approx(0.5)
        assert asked[100] == pytest.approx(0.65)

    def test_ramps_leave_a_third_of_the_way_after_their_seconds(self):
        curve = FanCurve(sensor="loop-a", points=[(30, 0.2), (50, 0.8)], hysteresis_k=0, up_s=10, down_s=40)
        asked = asked_of(curve, read("loop-a/coolant_hot", [30] * 60 + [50] * 140 + [30] * 200))
        assert asked[70] == pytest.approx(0.8 - 0.6 * exp(-1), abs=0.05)
        assert asked[195] == pytest.approx(0.8, abs=1e-3)
        assert asked[240] == pytest.approx(0.2 + 0.6 * exp(-1), abs=0.05)

    def test_it_falls_only_once_it_has_cooled_by_its_hysteresis(self):
        curve = FanCurve(sensor="loop-a", points=[(30, 0.2), (50, 0.8)], hysteresis_k=4, up_s=0, down_s=0)
        asked = asked_of(curve, read("loop-a/coolant_hot", [45] * 60 + [42] * 60 + [36] * 60))
        assert asked[30] == pytest.approx(0.65)
        assert asked[100] == pytest.approx(0.65)
        assert asked[170] == pytest.approx(0.5)

    @pytest.mark.parametrize("role", ["loop-a/coolant_hot", "loop-a/temperature", "loop-a/air"])
    def test_any_kind_of_reading_of_its_sensor_will_do(self, role):
        curve = FanCurve(sensor="loop-a", points=[(30, 0.2), (50, 0.8)])
        assert asked_of(curve, read(role, [40] * 60)) is not None
        assert asked_of(curve.model_copy(update={"sensor": "elsewhere"}), read(role, [40] * 60)) is None


class TestShares:
    def seen_by(self, rpm, T):
        told = expected_following("loop-a")
        fan = next(mover for mover in told.rpm if follows(told, mover))
        columns = np.column_stack([np.broadcast_to(rpm, (90,)), np.broadcast_to(T, (90,))])
        samples = Samples(np.arange(90.0), [f"{fan}/speed", "loop-a/coolant_hot"], columns)
        return fan, speed_shares(told, samples)

    def test_a_speed_is_told_over_what_is_asked_of_it(self):
        fan, shares = self.seen_by(700.0, 42.5)
        assert shares[fan] == pytest.approx(np.full(90, 700.0 / 0.7))
        assert shares[fan] * SAGGED_SHARE == pytest.approx(self.seen_by(SAGGED_SHARE * 700.0, 42.5)[1][fan])

    def test_a_fan_whose_sensor_is_not_read_says_nothing(self):
        told = expected_following("loop-a")
        fan = next(mover for mover in told.rpm if follows(told, mover))
        assert speed_shares(told, read(f"{fan}/speed", [700] * 90)) == {}

    def test_a_mover_that_is_told_a_duty_is_taken_as_it_turns(self):
        told = expected_following("loop-a")
        assert not follows(told, "pump")
        assert speed_shares(told, read("pump/speed", [3000] * 90))["pump"] == pytest.approx(np.full(90, 3000.0))

    def test_what_hardly_turns_says_nothing_of_its_supply(self):
        assert LEAST_ASKED == 0.1
