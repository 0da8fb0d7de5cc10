"""Each threshold of the watchers from both sides, on readings made for it."""

from dataclasses import replace

import numpy as np
import pytest
from watching.benches import LEAD_S, expected

from krill.watching import air_way, held, movers, sensors
from krill.watching.load import LoadSpan
from krill.watching.samples import SMOOTHED_S, Samples

STEP_S = 2.0
LOAD = LoadSpan(LEAD_S, None)
FAILS_S = LEAD_S + 600.0
NOW_S = LEAD_S + 900.0
FANS = ("fan-bottom-left", "fan-bottom-right", "fan-rear")


def made(**more):
    """Readings of a machine whose figures stand, with some of them as functions of time or other figures; by role with __ for /."""
    t = np.arange(0.0, NOW_S + 1e-9, STEP_S)
    figures = {f"{fan}/speed": 1000.0 for fan in FANS} | {"pump/speed": 3000.0, "loop-a/flow": 2.5, "room/air": 24.0}
    on = t >= LEAD_S
    figures |= {"processor/power": np.where(on, 125.0, 10.0), "graphics/power": np.where(on, 220.0, 12.0)}
    for role, figure in more.items():
        figures[role.replace("__", "/").replace("_", "-")] = figure
    columns = [np.asarray(f(t) if callable(f) else f) * np.ones(len(t)) for f in figures.values()]
    return Samples(t, list(figures), np.stack(columns, axis=1))


def from_then(before, after, since_s=FAILS_S, for_s=np.inf):
    return lambda t: np.where((t >= since_s) & (t < since_s + for_s), after, before)


def kinds(found):
    return [one.kind for one in found]


def test_figures_that_stand_say_nothing():
    samples = made()
    assert movers.failed_movers(expected(), samples) == []
    assert list(held.held_back(expected(), samples, LOAD)) == []
    assert held.room_drifts(samples, LOAD) is None
    assert sensors.failed_sensors(expected(), samples, LOAD) == []
    assert air_way.air_way_failed(expected(), samples, LOAD) is None


@pytest.mark.parametrize(("share", "stands"), [(0.99 * movers.STANDS_BELOW, True), (1.01 * movers.STANDS_BELOW, False)])
def test_a_mover_stands_below_a_share_of_what_it_ran_at(share, stands):
    found = movers.failed_movers(expected(), made(pump__speed=from_then(3000.0, 3000.0 * share)))
    assert ("pump-stops" in kinds(found)) == stands


@pytest.mark.parametrize(("seconds", "stands"), [(movers.STANDS_S + SMOOTHED_S + 6, True), (4.0, False)])
def test_it_must_stand_for_a_while(seconds, stands):
    found = movers.failed_movers(expected(), made(fan_rear__speed=from_then(1000.0, 0.0, for_s=seconds)))
    assert ("fan-stalls" in kinds(found)) == stands


@pytest.mark.parametrize(("later_s", "feed"), [(movers.TOGETHER_S - 2, True), (movers.TOGETHER_S + 8, False)])
def test_movers_of_a_feed_that_stop_together_are_the_feed(later_s, feed):
    stopped = {f"{fan.replace('-', '_')}__speed": from_then(1000.0, 0.0) for fan in FANS[:2]}
    stopped["fan_rear__speed"] = from_then(1000.0, 0.0, FAILS_S + later_s)
    found = movers.failed_movers(expected(), made(**stopped))
    assert kinds(found) == (["feed-lost"] if feed else ["fan-stalls"] * 3)
    if feed:
        assert found[0].on == ("fan-plug",)
        assert found[0].also == tuple(sorted(FANS))


def test_two_of_three_on_a_feed_are_two_fans():
    stopped = {f"{fan.replace('-', '_')}__speed": from_then(1000.0, 0.0) for fan in FANS[:2]}
    assert kinds(movers.failed_movers(expected(), made(**stopped))) == ["fan-stalls", "fan-stalls"]


def slowed(share, rear=None):
    told = {f"{fan.replace('-', '_')}__speed": from_then(1000.0, 1000.0 * share) for fan in FANS}
    if rear is not None:
        told["fan_rear__speed"] = from_then(1000.0, 1000.0 * rear)
    return made(pump__speed=from_then(3000.0, 3000.0 * share), **told)


@pytest.mark.parametrize(
    ("share", "sags"),
    [
        (movers.SAGS[1] - 0.005, True),
        (movers.SAGS[1] + 0.005, False),
        (movers.SAGS[0] + 0.01, True),
        (movers.SAGS[0] - 0.01, False),
    ],
)
def test_a_supply_sags_where_all_slow_by_enough_and_not_by_too_much(share, sags):
    assert ("supply-sags" in kinds(movers.failed_movers(expected(), slowed(share)))) == sags


@pytest.mark.parametrize(("apart", "sags"), [(1.2 * movers.ALIKE, True), (1.5 * movers.ALIKE, False)])
def test_they_must_slow_alike(apart, sags):
    # one of four that is apart by d is apart from their mean by three quarters of it
    found = movers.failed_movers(expected(), slowed(0.8, 0.8 - apart))
    assert ("supply-sags" in kinds(found)) == sags


@pytest.mark.parametrize(("share", "stands"), [(0.98 * movers.FLOWS_BELOW, True), (1.02 * movers.FLOWS_BELOW, False)])
def test_coolant_stands_below_a_share_of_its_flow(share, stands):
    found = movers.failed_movers(expected(), made(loop_a__flow=from_then(2.5, 2.5 * share)))
    assert kinds(found) == (["air-lock"] if stands else [])


def test_without_flow_because_its_pump_stands_it_is_the_pump():
    found = movers.failed_movers(expected(), made(loop_a__flow=from_then(2.5, 0.0), pump__speed=from_then(3000.0, 0.0)))
    assert kinds(found) == ["pump-stops"]


@pytest.mark.parametrize(
    ("spread", "stands"), [(2.0 + 0.97 * movers.SPREAD_K, False), (2.0 + 1.03 * movers.SPREAD_K, True)]
)
def test_without_a_meter_coolant_stands_by_its_spread(spread, stands):
    samples = made(loop_a__coolant_hot=40.0, loop_a__coolant_cold=from_then(38.0, 40.0 - spread))
    rest = [i for i, role in enumerate(samples.roles) if role != "loop-a/flow"]
    roles = [samples.roles[i].replace("coolant-", "coolant_") for i in rest]
    blind = Samples(samples.time_s, roles, samples.values[:, rest])
    assert kinds(movers.failed_movers(expected(), blind)) == (["air-lock"] if stands else [])


@pytest.mark.parametrize(
    ("share", "kept"),
    [(held.HELD + 0.01, False), (held.HELD - 0.01, True), (held.ENDED + 0.01, True), (held.ENDED - 0.01, False)],
)
def test_a_source_is_held_back_between_two_shares_of_its_watts(share, kept):
    found = list(held.held_back(expected(), made(graphics__power=from_then(220.0, 220.0 * share)), LOAD))
    assert kinds(found) == (["throttles"] if kept else [])


@pytest.mark.parametrize(("under_k", "kept"), [(held.AT_LIMIT_K - 0.2, True), (held.AT_LIMIT_K + 0.2, False)])
def test_at_its_limit_it_is_held_back_however_little_it_draws(under_k, kept):
    limit = expected().curve("graphics-chip/temperature").limit_c
    samples = made(graphics__power=from_then(220.0, 5.0), graphics_chip__temperature=from_then(60.0, limit - under_k))
    found = list(held.held_back(expected(), samples, LOAD))
    assert kinds(found) == (["throttles"] if kept else [])
    if kept:
        assert found[0].also == ("graphics-chip",)


@pytest.mark.parametrize(("k", "drifts"), [(0.98, False), (1.02, True), (-1.02, True), (-0.98, False)])
def test_a_room_drifts_from_a_kelvin_on_either_way(k, drifts):
    found = held.room_drifts(made(room__air=from_then(24.0, 24.0 + k)), LOAD)
    assert (found is not None) == drifts


@pytest.mark.parametrize(
    ("apart", "near", "swapped"),
    [
        (1.03 * sensors.APART_K, 0.0, True),
        (0.97 * sensors.APART_K, 0.0, False),
        (20.0, 0.9 * sensors.NEAR, True),
        (20.0, 1.1 * sensors.NEAR, False),
    ],
)
def test_two_sensors_are_swapped_where_each_goes_to_where_the_other_was(apart, near, swapped):
    hot, cold = 50.0 + apart, 50.0
    samples = made(
        processor_core__temperature=from_then(hot, cold + near * apart),
        graphics_chip__temperature=from_then(cold, hot - near * apart),
    )
    assert ("sensors-swapped" in kinds(sensors.failed_sensors(expected(), samples, LOAD))) == swapped


@pytest.mark.parametrize(
    ("steps", "still_s", "stuck"),
    [
        (1.1 * sensors.STEPS, 60.0, True),
        (0.8 * sensors.STEPS, 60.0, False),
        (9 * sensors.STEPS, sensors.STILL_S + 4, True),
        (9 * sensors.STEPS, sensors.STILL_S - 4, False),
    ],
)
def test_a_sensor_is_stuck_once_its_neighbours_have_moved_by_its_steps(steps, still_s, stuck):
    step, since = 0.5, NOW_S - still_s
    rises = lambda t: 60.0 + step * np.floor((t - since) / 16.0)  # noqa: E731 - a step every 16 seconds
    then = float(rises(np.array(since)))

    def neighbour(t):
        return np.where(t < since, rises(t), then + steps * step * np.clip((t - since) / 20.0, 0.0, 1.0))

    own = lambda t: np.where(t < since, rises(t), then)  # noqa: E731
    samples = made(
        memory_place__temperature=own, drive_place__temperature=neighbour, supply_body__temperature=neighbour
    )
    found = [one for one in sensors.failed_sensors(expected(), samples, LOAD) if one.kind == "sensor-stuck"]
    assert [one.on for one in found] == ([("memory-place/temperature",)] if stuck else [])


def beside(neighbour_k, now_c=30.0):
    """Readings in which one sensor shows the same figure for ten minutes while a neighbour moves by so many kelvins; before
    that nothing moved together."""
    rng = np.random.default_rng(2)

    def flat(t):
        return now_c + 0.5 * rng.integers(0, 2, len(t))

    own = lambda t: np.where(t < FAILS_S, flat(t), now_c)  # noqa: E731
    other = lambda t: flat(t) + neighbour_k * np.clip((t - FAILS_S) / 60.0, 0.0, 1.0)  # noqa: E731
    return made(memory_place__temperature=own, drive_place__temperature=other)


def forecast_moves(kelvins):
    """The forecast, in which memory moves by so many kelvins over the last five minutes."""
    told = expected()
    t = np.array(told.forecast.minutes)
    c = np.interp(t, [(FAILS_S - LEAD_S) / 60, (NOW_S - LEAD_S) / 60], [30.0, 30.0 + kelvins]).tolist()
    curves = [replace(one, c=c) if one.address == "memory-place" else one for one in told.forecast.curves]
    return replace(told, forecast=replace(told.forecast, curves=curves))


@pytest.mark.parametrize(
    ("steps", "own_steps", "stuck"),
    [(4.0, 1.7, True), (4.0, 1.3, False), (3.0, 4.0, True), (2.2, 4.0, False)],
)
def test_where_nothing_moved_with_it_before_the_forecast_says_whether_it_should_have(steps, own_steps, stuck):
    found = sensors.failed_sensors(forecast_moves(0.5 * own_steps), beside(0.5 * steps), LOAD)
    assert [one.on for one in found] == ([("memory-place/temperature",)] if stuck else [])


def test_a_forecast_says_nothing_before_a_load_nor_after_it_went():
    told = forecast_moves(3.0)
    assert sensors.failed_sensors(told, beside(3.0), None) == []
    assert sensors.failed_sensors(told, beside(3.0), LoadSpan(LEAD_S, FAILS_S)) == []
    assert sensors.failed_sensors(told, beside(3.0), LoadSpan(LEAD_S, NOW_S)) != []


def test_nobody_says_how_the_room_should_move():
    samples = beside(3.0)
    roles = [{"memory-place/temperature": "room/air", "room/air": "box/air"}.get(role, role) for role in samples.roles]
    found = sensors.failed_sensors(forecast_moves(3.0), Samples(samples.time_s, roles, samples.values), LOAD)
    assert [one.on for one in found] == []


def rising(later_k, noise=0.03, before_s=FAILS_S):
    """Coolant that rose with the load by one exponential, and by another one later."""
    rng = np.random.default_rng(5)

    def coolant(t):
        since = np.maximum(t - LEAD_S, 0.0)
        later = np.maximum(t - before_s, 0.0)
        clean = 26.0 + 16.0 * (1 - np.exp(-since / 400.0)) + later_k * (1 - np.exp(-later / 240.0))
        return clean + noise * rng.standard_normal(len(t))

    samples = made(loop_a__coolant_hot=coolant)
    roles = [role.replace("coolant-hot", "coolant_hot") for role in samples.roles]
    return Samples(samples.time_s, roles, samples.values)


def test_a_later_rise_is_found_where_it_began_and_not_where_there_is_none():
    assert air_way.air_way_failed(expected(), rising(0.0), LOAD) is None
    assert air_way.air_way_failed(expected(), rising(0.3), LOAD) is None
    found = air_way.air_way_failed(expected(), rising(3.0), LOAD)
    assert found.on == ("filter-bottom",)
    assert found.since_s == pytest.approx(FAILS_S, abs=60)


@pytest.mark.parametrize("role", ["graphics/power", "fan-rear/speed", "loop-a/flow"])
def test_a_later_rise_that_something_explains_is_no_clogged_filter(role):
    samples = rising(3.0)
    values = samples.values.copy()
    column, share = samples.roles.index(role), 1 + 1.3 * air_way.STAYED[role.rpartition("/")[2]]
    values[samples.time_s >= FAILS_S, column] *= share
    assert air_way.air_way_failed(expected(), Samples(samples.time_s, samples.roles, values), LOAD) is None
    values[samples.time_s >= FAILS_S, column] *= (1 + 0.5 * (share - 1)) / share
    assert air_way.air_way_failed(expected(), Samples(samples.time_s, samples.roles, values), LOAD) is not None
