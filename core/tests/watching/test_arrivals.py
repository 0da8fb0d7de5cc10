"""Where the rows of a logger's sessions stand on the run's clock, and what happened to them on the way."""

import numpy as np
import pytest

from krill.watching.arrivals import (
    BELIEVED_S,
    GAP,
    SET_BY_S,
    WORTH_ROWS,
    WORTH_S,
    Came,
    arrivals_of,
    offset_of,
    repaired,
)


def came(session="a", sequence=0, steady=(0.0, 1.0), clock=1e9, sent=None, arrived=0.0):
    steady = np.array(steady, dtype=float)
    return Came(session, sequence, steady, clock, steady[-1] if sent is None else sent, arrived)


def one_session(times, per=10, interval=1.0):
    times = np.array(times, dtype=float)
    return [
        came(sequence=i, steady=times[first : first + per], clock=1e9 + times[first : first + per][-1])
        for i, first in enumerate(range(0, len(times), per))
    ]


def kinds(batches, offsets=None, interval=1.0):
    return [(one.kind, one.amount) for one in arrivals_of(batches, offsets or {"a": 0.0}, interval)]


def test_a_run_begins_with_its_first_row():
    assert offset_of(None, 0.0, came(steady=(7.0, 8.0))) == -7.0


def test_a_session_goes_on_where_the_wall_clocks_say():
    before = came(steady=(0.0, 100.0), clock=1e9 + 100, arrived=50.0)
    after = came("b", steady=(0.0, 2.0), clock=1e9 + 132, arrived=83.0)
    # 32 s by the clocks: 130 is on the logger's new steady clock 0
    assert offset_of(before, 5.0, after) + 2.0 == pytest.approx(105.0 + 32.0)


@pytest.mark.parametrize("moved", [-3600.0, 3600.0])
def test_a_clock_that_was_set_meanwhile_gives_way_to_the_time_of_arrival(moved):
    before = came(steady=(0.0, 100.0), clock=1e9 + 100, arrived=50.0)
    after = came("b", steady=(0.0, 2.0), clock=1e9 + 132 + moved, arrived=83.0)
    assert offset_of(before, 0.0, after) + 2.0 == pytest.approx(100.0 + 33.0)


def test_on_a_bench_that_runs_faster_arrival_counts_as_many_times():
    before = came(steady=(0.0, 100.0), clock=1e9 + 100, arrived=50.0)
    after = came("b", steady=(0.0, 2.0), clock=1e9 - 5000, arrived=51.0)
    assert offset_of(before, 0.0, after, speed=60.0) + 2.0 == pytest.approx(100.0 + 60.0)


def test_clocks_are_believed_up_to_a_limit():
    before = came(clock=1e9, sent=0.0, arrived=0.0)
    near = came("b", steady=(0.0, 0.0), clock=1e9 + BELIEVED_S - 1, arrived=0.0)
    far = came("b", steady=(0.0, 0.0), clock=1e9 + BELIEVED_S + 1, arrived=0.0)
    assert offset_of(before, 0.0, near) == pytest.approx(BELIEVED_S - 1)
    assert offset_of(before, 0.0, far) == 0.0


def test_an_even_log_has_nothing_to_tell():
    rng = np.random.default_rng(1)
    assert kinds(one_session(np.arange(200.0) + rng.uniform(-0.2, 0.2, 200))) == []


def test_rows_that_are_missing_are_counted_once_there_are_enough():
    whole = np.arange(200.0)
    assert kinds(one_session(np.delete(whole, [50, 60, 70, 80]))) == []
    assert kinds(one_session(np.delete(whole, [50, 60, 70, 80, 90]))) == [("samples-dropped", 5.0)]


def test_one_long_gap_is_told_by_itself():
    whole = np.arange(200.0)
    assert kinds(one_session(np.delete(whole, slice(50, 54)))) == []
    assert kinds(one_session(np.delete(whole, slice(50, 61)))) == [("samples-dropped", 11.0)]
    assert kinds(one_session(np.concatenate([whole[:50], whole[50:] + GAP - 1.1]))) == []


def test_rows_that_came_again_are_counted_once_there_are_enough():
    whole = np.arange(100.0)
    assert kinds(one_session(np.sort(np.concatenate([whole, whole[10:14]])))) == []
    assert kinds(one_session(np.sort(np.concatenate([whole, whole[10:15]])))) == [("samples-doubled", 5.0)]


@pytest.mark.parametrize(("by", "told"), [(SET_BY_S - 0.1, False), (SET_BY_S + 0.1, True), (-SET_BY_S - 0.1, True)])
def test_a_clock_is_set_where_it_moves_against_the_steady_one(by, told):
    batches = one_session(np.arange(60.0))
    moved = [
        came(sequence=b.sequence, steady=b.steady_s, clock=b.clock_s + (by if b.sequence >= 3 else 0.0))
        for b in batches
    ]
    found = arrivals_of(moved, {"a": 0.0}, 1.0)
    assert [one.kind for one in found] == (["clock-jumps"] if told else [])
    if told:
        assert found[0].amount == pytest.approx(by)
        assert found[0].at_s == 39.0


def test_a_logger_that_began_anew_is_told_with_how_long_it_was_away():
    batches = [*one_session(np.arange(60.0)), came("b", steady=np.arange(30.0), clock=1e9 + 114)]
    found = arrivals_of(batches, {"a": 0.0, "b": 85.0}, 1.0)
    assert [(one.kind, one.at_s, one.amount) for one in found] == [("logger-restarts", 85.0, 26.0)]


def test_rows_come_in_order_each_time_once():
    assert repaired(np.array([2.0, 0.0, 1.0, 1.0, 2.0])).tolist() == [1, 2, 0]


def test_what_is_worth_telling_is_frozen():
    """A change of one of these changes what people are told: it is made here as well."""
    assert (GAP, WORTH_ROWS, WORTH_S, SET_BY_S, BELIEVED_S) == (1.6, 5, 10.0, 5.0, 120.0)


def told(batches, offset, interval):
    return [(one.kind, one.at_s, one.amount) for one in arrivals_of(batches, {"a": offset}, interval)]


@pytest.mark.parametrize(("interval", "offset"), [(2.0, 7.0), (0.1, -3.0)])
def test_it_is_told_when_by_the_interval_and_the_run_s_own_clock(interval, offset):
    whole = interval * np.arange(300.0)
    lost = np.delete(whole, slice(100, 107))
    assert told(one_session(lost), offset, interval) == [("samples-dropped", pytest.approx(whole[107] + offset), 7.0)]
    twice = np.sort(np.concatenate([whole, whole[50:57]]))
    assert told(one_session(twice), offset, interval) == [("samples-doubled", pytest.approx(whole[50] + offset), 7.0)]
    batches = one_session(whole)
    moved = [came(sequence=b.sequence, steady=b.steady_s, clock=b.clock_s + 60.0 * (b.sequence > 4)) for b in batches]
    assert told(moved, offset, interval) == [("clock-jumps", pytest.approx(whole[59] + offset), pytest.approx(60.0))]


def test_rows_a_fifth_of_an_interval_apart_came_twice_and_a_third_apart_did_not():
    near, far = (np.sort(np.concatenate([np.arange(100.0), np.arange(10.0, 16.0) + apart])) for apart in (0.2, 0.3))
    assert [kind for kind, _ in kinds(one_session(near))] == ["samples-doubled"]
    assert [kind for kind, _ in kinds(one_session(far))] == []


def test_a_gap_of_as_long_as_is_worth_telling_is_not_yet():
    whole = np.arange(200.0)
    short = np.concatenate([whole[:50], whole[50:] + WORTH_S - 0.5])
    long = np.concatenate([whole[:50], whole[50:] + WORTH_S + 0.5])
    assert [kind for kind, _ in kinds(one_session(long))] == ["samples-dropped"]
    assert [kind for kind, _ in kinds(one_session(short))] == ["samples-dropped"]  # ten rows are enough by themselves
    slow = 20.0 * whole
    assert kinds(one_session(np.delete(slow, [50])), interval=20.0) == [("samples-dropped", 1.0)]


def test_sessions_that_overlap_were_away_for_no_time():
    batches = [*one_session(np.arange(60.0)), came("b", steady=np.arange(30.0), clock=1e9 + 40)]
    found = arrivals_of(batches, {"a": 2.0, "b": 41.0}, 1.0)
    assert [(one.kind, one.at_s, one.amount) for one in found] == [("logger-restarts", 41.0, 0.0)]
    apart = arrivals_of(batches, {"a": 2.0, "b": 91.0}, 1.0)
    assert [(one.at_s, one.amount) for one in apart] == [(91.0, 30.0)]


def test_a_bench_that_runs_faster_is_believed_for_as_many_times_as_long():
    before = came(clock=1e9, sent=0.0, arrived=0.0)
    for factor, believed in ((0.99, True), (1.01, False)):
        after = came("b", steady=(0.0, 0.0), clock=1e9 + factor * 60 * BELIEVED_S, arrived=0.0)
        assert (offset_of(before, 0.0, after, speed=60.0) > 0.0) == believed


def test_times_are_the_same_to_a_thousandth():
    assert len(repaired(np.array([0.0, 0.0004, 0.002]))) == 2
