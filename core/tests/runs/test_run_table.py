"""Runs in one table, drift over a year, before and after and before again."""

from datetime import UTC, datetime, timedelta

import pytest
from strategies import recipe

from krill.runs.compare import RunSide
from krill.runs.ran import Ran
from krill.runs.run_table import TableRun, before_after_before, run_table
from krill.runs.unknown_room import RunRoom
from krill.runs.verdict import Measured

CORE = "processor-core/temperature"
START = datetime(2026, 1, 1, tzinfo=UTC)


def entry(value, days=0.0, room=24.0, half=1.0, revision=1, workload="both", known=None, number=0):
    build = recipe()
    ran = Ran(f"run {number}", build, build, workload, RunRoom(room), [Measured(CORE, value, half)], known or {})
    return TableRun(f"{number}", revision, START + timedelta(days=days), ran, RunRoom(room))


def test_over_the_room_and_per_watt():
    table = run_table([entry(74.0, known={"both/watts/processor": 100.0}), entry(80.0, 1, 28.0, number=1)])
    cells = [row.cells[0] for row in table.rows]
    assert [(c.over_k, c.k_w) for c in cells] == [(50.0, 0.5), (52.0, pytest.approx(52 / 125))]
    assert table.names == {CORE: "Processor"}
    assert (table.best, table.worst) == ({CORE: "0"}, {CORE: "1"})
    assert table.rows[0].watts == pytest.approx(table.rows[1].watts - 25)


def test_the_best_is_sought_among_runs_of_the_commonest_load():
    runs = [entry(74), entry(76, 1, number=1), entry(40, 2, workload="idle", number=2)]
    assert run_table(runs).best == {CORE: "0"}
    assert run_table(runs[:1]).best == {}


@pytest.mark.parametrize(
    ("days", "values", "slope"),
    [
        ((0, 100, 200, 365.25), (70, 70 + 100 / 365.25 * 4, 70 + 200 / 365.25 * 4, 74), 4.0),
        ((0, 10, 29), (70, 71, 72), None),
        ((0, 400), (70, 74), None),
    ],
)
def test_drift_is_the_slope_of_a_year(days, values, slope):
    table = run_table([entry(v, d, number=i) for i, (v, d) in enumerate(zip(values, days, strict=True))])
    if slope is None:
        assert table.drifts == []
    else:
        assert table.drifts[0].k_year == pytest.approx(slope, rel=1e-6)
        assert 0 < table.drifts[0].half_k < 3


def test_other_revisions_are_no_drift():
    runs = [entry(70 + i, 100 * i, revision=i, number=i) for i in range(4)]
    assert run_table(runs).drifts == []


def sides(values, half=1.0):
    return [
        RunSide(f"run {i}", recipe(), "both", RunRoom(24.0), [Measured(CORE, v, half)], {})
        for i, v in enumerate(values)
    ]


@pytest.mark.parametrize(
    ("values", "half", "conclusion"),
    [
        ((80, 75, 80), 1.0, "cooler"),
        ((80, 85, 80), 1.0, "warmer"),
        ((80, 78, 83), 1.0, "cooler"),
        ((80, 79.5, 80), 0.3, "no difference"),
        ((80, 78, 80), 4.0, "cannot tell"),
    ],
)
def test_before_after_before(values, half, conclusion):
    (part,) = before_after_before(*sides(values, half)).parts
    assert part.change_k == pytest.approx(values[1] - (values[0] + values[2]) / 2)
    assert part.itself_k == pytest.approx(values[2] - values[0])
    assert part.conclusion == conclusion


def test_what_the_machine_differs_from_itself_widens_what_is_known():
    steady, moody = (before_after_before(*sides(v)).parts[0].half_k for v in ((80, 75, 80), (78, 75, 82)))
    assert moody > steady
    assert moody == pytest.approx((steady**2 + 2.0**2) ** 0.5)


def test_repeats_that_would_decide_it():
    (part,) = before_after_before(*sides((80, 78, 80), 4.0)).parts
    wanted = -(-((part.half_k / 2) ** 2) // 1)
    assert f"about {wanted:.0f} repeats" in part.because


def test_runs_that_share_no_reading():
    build = recipe()
    other = RunSide("x", build, "both", RunRoom(24.0), [Measured("graphics-chip/temperature", 60, 1)], {})
    first, second, _ = sides((80, 75, 80))
    assert before_after_before(first, second, other).parts == []
