"""Loads of a log: what begins one, what parts two, what stays one; each threshold from both sides."""

import numpy as np
import pytest

from krill.runs import windows
from krill.runs.windows import WHOLE, Signals, load_window, load_windows

STEP_S = 5.0
TIME = np.arange(0, 90 * 60, STEP_S)


def minutes(*parts):
    """Watts by (minutes, watts) one after the other, the last one to the end."""
    values, now = np.full(len(TIME), float(parts[-1][1])), 0.0
    for length, watts in parts[:-1]:
        values[(now * 60 <= TIME) & ((now + length) * 60 > TIME)] = watts
        now += length
    return values


def column(*channels):
    return np.stack(channels, axis=1)


def found(**signals):
    windows = load_windows(TIME, Signals(**signals))
    return [(round(w.start_s / 60), round(w.end_s / 60)) for w in windows]


def test_three_loads_of_two_sources_are_three():
    cpu = minutes((5, 10), (20, 120), (5, 10), (20, 10), (5, 10), (25, 120), (0, 10))
    gpu = minutes((5, 20), (20, 20), (5, 20), (20, 240), (5, 20), (25, 240), (0, 20))
    assert found(power=column(cpu, gpu)) == [(5, 25), (30, 50), (55, 80)]


@pytest.mark.parametrize(("floor", "loads"), [(62, [(5, 65)]), (52, [(5, 11)])])
def test_a_limit_that_falls_stays_one_load_down_to_a_quarter_of_the_way(floor, loads):
    assert found(power=column(minutes((5, 10), (6, 200), (54, floor), (25, 10)))) == loads


@pytest.mark.parametrize(("burst", "loads"), [(9, [(5, 65)]), (12, [(5, 17), (17, 65)])])
def test_a_fall_within_a_load_parts_it_only_after_ten_minutes(burst, loads):
    assert found(power=column(minutes((5, 10), (burst, 200), (60 - burst, 110), (25, 10)))) == loads


@pytest.mark.parametrize(("second", "loads"), [(120, [(5, 65)]), (180, [(5, 30), (30, 65)])])
def test_a_rise_by_a_third_within_a_load_begins_another(second, loads):
    assert found(power=column(minutes((5, 10), (25, 100), (35, second), (25, 10)))) == loads


@pytest.mark.parametrize(("length", "loads"), [(1.5, [(20, 50)]), (3, [(5, 8), (20, 50)])])
def test_less_than_two_minutes_are_no_load(length, loads):
    assert found(power=column(minutes((5, 10), (length, 200), (15 - length, 10), (30, 200), (0, 10)))) == loads


@pytest.mark.parametrize(("small", "loads"), [(1, [(5, 65)]), (20, [(5, 30), (30, 65)])])
def test_a_source_that_moves_little_parts_no_load(small, loads):
    memory = minutes((30, 2), (60, 2 + 3 * small))
    assert found(power=column(minutes((5, 10), (60, 200), (25, 10)), memory))[: len(loads)] == loads


def test_a_channel_that_is_missing_says_nothing_where_it_is():
    late = minutes((5, 20), (60, 240), (25, 20))
    late[: len(late) // 3] = np.nan
    assert found(power=column(minutes((5, 10), (60, 120), (25, 10)), late)) == [(5, 65)]


@pytest.mark.parametrize(("kind", "by"), [("use", "use"), ("clock", "clock"), ("wall", "power")])
def test_use_clock_or_the_wall_tell_where_watts_do_not(kind, by):
    signal = column(minutes((5, 8), (60, 98), (25, 8)))
    window = load_window(TIME, Signals(**{kind: signal}))
    assert (round(window.start_s / 60), round(window.end_s / 60), window.by) == (5, 65, by)


def warmed(*loads, fast=20.0, slow=None):
    """A temperature of one constant, or of two of which the fast one is half."""
    on = np.zeros(len(TIME))
    for start, end in loads:
        on[(start * 60 <= TIME) & (end * 60 > TIME)] = 1.0

    def answer(tau):
        out, now, kept = np.empty(len(TIME)), 0.0, np.exp(-STEP_S / tau)
        for i, state in enumerate(on):
            out[i] = now
            now = state + (now - state) * kept
        return out

    shape = answer(fast) if slow is None else (answer(fast) + answer(slow)) / 2
    return 30 + 40 * shape + np.random.default_rng(1).normal(0, 0.2, len(TIME))


def test_steep_edges_of_two_temperatures_tell_the_loads_of_both():
    cpu, gpu = warmed((5, 25), (55, 80), slow=400.0), warmed((30, 50), (55, 80), slow=400.0)
    assert found(temperature=column(cpu, gpu)) == [(5, 25), (30, 50), (55, 80)]


def test_a_temperature_without_edges_tells_no_load():
    slow = 30 + 20 * (1 - np.exp(-TIME / 3000))
    assert load_window(TIME, Signals(temperature=column(slow))).by == WHOLE


@pytest.mark.parametrize(("fast", "by"), [(500.0, WHOLE), (120.0, "temperature")])
def test_an_edge_is_a_quarter_of_the_span_within_a_minute(fast, by):
    assert load_window(TIME, Signals(temperature=column(warmed((20, 90), fast=fast)))).by == by


@pytest.mark.parametrize(("rise", "by"), [(4.0, WHOLE), (8.0, "temperature")])
def test_a_temperature_that_moves_under_five_kelvins_tells_none(rise, by):
    on = (warmed((5, 65)) - 30) / 40 * rise
    quiet = 30 + np.round(on, 0 if rise < 5 else 1)
    assert load_window(TIME, Signals(others=column(quiet))).by == by


def test_a_long_log_is_looked_at_in_strides():
    time_s = np.arange(0, 60_000, 0.5)
    watts = np.where((time_s > 6_000) & (time_s < 50_000), 200.0, 10.0)
    (window,) = load_windows(time_s, Signals(power=watts[:, None]))
    assert (window.start_s, window.end_s) == (pytest.approx(6_000, abs=10), pytest.approx(50_000, abs=10))
    assert time_s[window.last] == pytest.approx(50_000, abs=10)


def peaks_one_by_one(moved, apart):
    """As the steepest of each neighbourhood is defined, each row held against all that were found before."""
    floor, found = windows.SHARP * np.max(np.abs(moved)), []
    for row in np.argsort(-np.abs(moved), kind="stable"):
        least = max(floor, 0.4 * np.max(moved)) if moved[row] > 0 else floor
        if abs(moved[row]) < least:
            break
        if all(abs(row - other) > 2 * apart for other, _ in found):
            found.append((int(row), bool(moved[row] > 0)))
    return sorted(found)


@pytest.mark.parametrize("seed", range(20))
@pytest.mark.parametrize("apart", [1, 3, 17])
def test_the_steepest_of_each_neighbourhood(seed, apart):
    moved = np.random.default_rng(seed).normal(0.5, 2, 300).round(1)  # rounded: some are equally steep
    found = windows._peaks(moved, apart)
    assert found == peaks_one_by_one(moved, apart)
    mask = np.zeros(320, dtype=bool)
    for index, (row, rises) in enumerate(found):
        falls = [other for other, up in found[index + 1 :] if not up]
        if rises:
            mask[row : falls[0] + 1 if falls else 320] = True
    assert (windows._between(found, 320) == mask).all()


def test_a_log_that_rises_and_falls_tens_of_thousands_of_times_is_read_like_any_other():
    time_s = np.arange(600_000.0)
    saw = np.stack([40 + (time_s + 7 * n) % 300 / 10 for n in range(4)], axis=1)
    found = load_windows(time_s, Signals(temperature=saw))
    assert 0 < len(found) < len(time_s)
