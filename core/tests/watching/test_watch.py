"""What is told of a run while it goes on: the load, minutes to a limit, the band, where it settles, one sentence."""

from dataclasses import replace

import numpy as np
import pytest
from watching.benches import LEAD_S, expected, heron, seen, truth_of

from krill.simulated_bench.faults import Fault
from krill.watching.kinds import KINDS
from krill.watching.lasting import began_lasting, lasts_until_now
from krill.watching.limits import CLOSE, STRETCH_S, minutes_to
from krill.watching.load import load_span
from krill.watching.samples import Samples, filled
from krill.watching.watch import watch
from krill.watching.words import told

CLEAN = truth_of(None, 40.0, 30, seed=3)


def clean(until_s, machine=0):
    samples, arrived = seen(*CLEAN, machine, until_s, seed=3)
    return samples, arrived


def test_before_the_load_it_waits_for_it():
    found = watch(expected(), *clean(LEAD_S - 10))
    assert (found.load_on_min, found.sentence) == (None, "Waiting for the load.")
    assert found.room_c == pytest.approx(24.0, abs=0.5)


@pytest.mark.parametrize("until_s", [LEAD_S + 60, LEAD_S + 1200, LEAD_S + 2399])
def test_the_load_is_found_to_a_sample_and_is_on(until_s):
    found = watch(expected(), *clean(until_s), settles=False)
    assert found.load_on_min == pytest.approx(LEAD_S / 60, abs=0.1)
    assert found.minutes == pytest.approx((until_s - LEAD_S) / 60, abs=0.15)
    assert not found.load_ended


def test_a_load_that_is_off_has_ended_ten_seconds_later():
    off = LEAD_S + 2400
    span = load_span(expected(), clean(off + 6)[0])
    assert span.off_s is None
    span = load_span(expected(), clean(off + 20)[0])
    assert span.off_s == pytest.approx(off, abs=12)
    assert "has ended" in watch(expected(), *clean(off + 60)).sentence


def test_without_watts_the_rise_of_the_hottest_place_tells_the_load():
    samples, _ = clean(LEAD_S + 600)
    blind = [i for i, role in enumerate(samples.roles) if not role.endswith("/power")]
    without = Samples(samples.time_s, [samples.roles[i] for i in blind], samples.values[:, blind])
    assert load_span(expected(), without).on_s == pytest.approx(LEAD_S, abs=20)


def test_a_pause_of_seconds_does_not_begin_another_load_and_one_of_a_minute_does():
    samples, _ = clean(LEAD_S + 1200)
    watts = [i for i, role in enumerate(samples.roles) if role.endswith("/power")]

    def paused(seconds):
        values = samples.values.copy()
        rows = (samples.time_s >= LEAD_S + 600) & (samples.time_s < LEAD_S + 600 + seconds)
        values[np.ix_(rows, watts)] = 0.5
        return load_span(expected(), Samples(samples.time_s, samples.roles, values)).on_s

    assert paused(4) == pytest.approx(LEAD_S, abs=4)
    assert paused(60) == pytest.approx(LEAD_S + 660, abs=10)


def test_of_clean_machines_few_lie_beside_their_bands():
    """Eight parts and coolant with 90 % bands each: taken one by one most machines would be off somewhere."""
    held = expected(samples=200)
    off = [watch(held, *clean(LEAD_S + 2300, machine), settles=False).off for machine in range(30)]
    assert sum(map(bool, off)) <= 6


def test_a_part_off_its_own_way_is_told_apart_from_one_off_with_its_coolant():
    held = expected(samples=200)
    samples, _ = clean(LEAD_S + 2300)

    def warmed(k, *roles):
        values = samples.values.copy()
        for role in roles:
            values[:, samples.roles.index(role)] += k
        return watch(held, Samples(samples.time_s, samples.roles, values), settles=False).off

    own = {one.address: one for one in warmed(25.0, "graphics-chip/temperature")}
    assert "own path" in own["graphics-chip"].says
    assert own["graphics-chip"].now_c > own["graphics-chip"].high_c
    both = {one.address: one for one in warmed(25.0, "graphics-chip/temperature", "loop-a/coolant_hot")}
    assert "look at radiator" in both["graphics-chip"].says
    cooler = {one.address: one for one in warmed(-25.0, "graphics-chip/temperature", "loop-a/coolant_hot")}
    assert "below" in cooler["graphics-chip"].says
    assert "radiator" not in cooler["graphics-chip"].says


@pytest.mark.parametrize("minutes", [8.0, 15.0])
def test_where_it_settles_holds_the_truth_and_the_minutes_needed_are_enough(minutes):
    plan, truth = CLEAN
    inside, enough, told = 0, 0, 0
    for machine in range(10):
        coolant = next(
            one for one in watch(expected(), *clean(LEAD_S + 60 * minutes, machine)).settling if one.address == "loop-a"
        )
        warm = truth.sensors["loop-a/coolant_hot"].values[:, machine] - truth.sensors["room/air"].values[:, machine]
        end = float(warm[int((LEAD_S + 2390) / plan.step_s)]) + 24.0
        inside += abs(coolant.settles_c - end) <= coolant.half_k + 0.5
        if not coolant.settled and minutes + coolant.minutes_needed < 39:
            told += 1
            then = int((LEAD_S + 60 * (minutes + coolant.minutes_needed)) / plan.step_s)
            enough += abs(warm[then] + 24.0 - end) < 1.0
            assert "more minutes are needed" in coolant.says
    assert inside >= 8
    assert enough >= 0.8 * told


def test_minutes_to_a_limit_by_a_straight_line_and_by_an_exponential():
    assert minutes_to(10.0, 2.0 / 60, 2.0 / 60) == pytest.approx(5.0)
    tau, rise = 120.0, 20.0

    def slope(t):
        return rise / tau * np.exp(-t / tau)

    # slopes of an exponential one stretch apart: it is followed to where it meets the limit
    missing = 8.0
    left = rise * np.exp(-STRETCH_S / tau)
    wanted = -tau * np.log(1.0 - missing / left) / 60.0
    assert minutes_to(missing, slope(STRETCH_S), slope(0.0)) == pytest.approx(wanted, rel=1e-9)
    assert minutes_to(left * CLOSE * 1.001, slope(STRETCH_S), slope(0.0)) is None
    assert minutes_to(left * CLOSE * 0.999, slope(STRETCH_S), slope(0.0)) is not None
    assert minutes_to(1.0, 0.39 / 60, 0.1) is None
    assert minutes_to(1.0, 0.41 / 60, 0.1 / 60) == pytest.approx(1 / 0.41)


def test_a_stopped_pump_is_an_alarm_with_the_advice_to_stop_before_the_limit_is_met():
    plan, truth = truth_of(Fault("pump-stops", 12.0, "pump"), 32.0, 20)
    samples, arrived = seen(plan, truth, 0, LEAD_S + 60 * 12 + 16)
    found = watch(expected(), samples, arrived)
    assert found.findings[0].kind == "pump-stops"
    assert found.findings[0].stop
    assert found.sentence.startswith("Pump stands still. Take the load off")
    samples, arrived = seen(plan, truth, 0, LEAD_S + 60 * 12 + 150)
    later = watch(expected(), samples, arrived)
    assert any(alarm.kind == "at_limit" and alarm.stop for alarm in later.alarms)
    follows = [one for one in later.findings if one.kind == "throttles"]
    assert follows
    assert all(one.follows and not one.stop for one in follows)
    assert later.off == []
    assert later.settling == []


def test_on_a_clean_run_nothing_nears_a_limit_that_it_does_not_meet():
    truth = CLEAN[1]
    for machine in range(10):
        for minutes in (3, 5, 9, 20):
            for alarm in watch(expected(), *clean(LEAD_S + 60 * minutes, machine), settles=False).alarms:
                hottest = truth.sensors[f"{alarm.address}/temperature"].values[:, machine].max()
                assert hottest > alarm.limit_c - 2.0


def test_coolant_that_stands_is_seen_without_a_flow_meter():
    plan, truth = truth_of(Fault("air-lock", 12.0, "pump"), 32.0, 20)
    samples, _ = seen(plan, truth, 0, LEAD_S + 60 * 12 + 180)
    rest = [i for i, role in enumerate(samples.roles) if role != "loop-a/flow"]
    blind = Samples(samples.time_s, [samples.roles[i] for i in rest], samples.values[:, rest])
    assert watch(expected(), blind, settles=False).findings[0].kind == "air-lock"


def test_a_fan_that_never_turned_is_told_although_it_has_run_at_nothing():
    samples, _ = clean(LEAD_S + 300)
    values = samples.values.copy()
    fan = next(role for role in samples.roles if role.startswith("fan") and role.endswith("/speed"))
    values[:, samples.roles.index(fan)] = 0.0
    found = watch(expected(), Samples(samples.time_s, samples.roles, values), settles=False).findings
    assert [(one.kind, one.on) for one in found] == [("fan-stalls", [fan.removesuffix("/speed")])]


def test_every_kind_has_words_that_are_a_sentence():
    from krill.watching.movers import Failed

    on = {"sensors-swapped": ("processor-core/temperature", "graphics-chip/temperature"), "feed-lost": ("fan-plug",)}
    for kind in KINDS:
        text = told(heron(), Failed(kind, on.get(kind, ("pump",)), 0.0))
        assert text[0].isupper()
        assert text.endswith(".")
        assert "/" not in text


def test_missing_figures_take_the_one_before():
    nan = np.nan
    assert filled(np.array([nan, 1.0, nan, nan, 3.0])).tolist() == [1, 1, 1, 1, 3]


def test_what_lasts_is_found_from_its_beginning():
    t = np.arange(10.0)
    holds = np.array([0, 1, 1, 0, 1, 1, 1, 1, 0, 1], dtype=bool)
    assert began_lasting(t, holds, 1.0) == 1.0
    assert began_lasting(t, holds, 2.0) == 4.0
    assert began_lasting(t, holds, 3.1) is None
    assert lasts_until_now(t, holds) == 9.0
    assert lasts_until_now(t, holds[:9]) is None


def test_it_is_told_what_a_run_without_room_is_held_against():
    samples, _ = clean(LEAD_S + 900)
    rest = [i for i, role in enumerate(samples.roles) if role != "room/air"]
    blind = Samples(samples.time_s, [samples.roles[i] for i in rest], samples.values[:, rest])
    found = watch(replace(expected(), build=heron()), blind)
    assert found.room_c is None
    assert found.minutes == pytest.approx(15, abs=0.2)
