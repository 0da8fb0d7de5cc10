"""Rows of a batch that do not settle: told with their reason, and nothing of the others is lost or moved."""

import numpy as np
import pytest
from strategies import recipe

import krill.networks.coupled as coupled
from krill.errors import NotConverged
from krill.networks.row_status import RowStatus
from krill.prediction.answer.solving import solve_cases, try_cases
from krill.prediction.predict import cases_of


@pytest.mark.parametrize(
    ("address", "values", "reason"),
    [
        ("tube/length_m", [1.0, np.nan, 3.0], "the flow through '"),
        ("grille/area_cm2", [0.01, 0.02, np.nan], "the flow through '"),
        ("paste-processor/resistance_mm2k_w", [np.nan, 5.0, 9.0], "is no number"),
    ],
)
def test_a_row_that_fails_says_why_and_the_others_are_what_they_are_alone(address, values, reason):
    build = recipe()
    case = cases_of(build, ["both"], None)[0]
    with np.errstate(invalid="ignore"):
        together = try_cases(build, [case], 3, draws={address: np.array(values)})
    bad = 1 + int(np.flatnonzero(np.isnan(values))[0])
    status = together.solution.status
    assert status.settled.tolist() == [row != bad for row in range(4)]
    assert list(status.why) == [bad]
    assert reason in status.why[bad]
    for row in {1, 2, 3} - {bad}:
        alone = try_cases(build, [case], 1, draws={address: np.array([values[row - 1]])})
        assert together.solution.temperature[row] == pytest.approx(alone.solution.temperature[1], abs=1e-4)
    with np.errstate(invalid="ignore"), pytest.raises(NotConverged, match=reason):
        solve_cases(build, [case], 3, draws={address: np.array(values)})


def test_rounds_that_come_to_no_end_are_said(monkeypatch):
    monkeypatch.setattr(coupled, "MAX_ROUNDS", 2)
    build = recipe()
    status = try_cases(build, cases_of(build, ["both"], None)).solution.status
    assert "flow and heat did not settle together in 2 rounds; '" in status.why[0]


def test_a_row_keeps_the_reason_that_it_failed_for_first():
    first = RowStatus.after(np.array([False, True, False]), lambda row: f"first {row}")
    both = first.then(RowStatus.after(np.array([False, True, True]), lambda row: f"then {row}"))
    assert both.why == {1: "first 1", 2: "then 2"}
    both.must_settle(0)
    with pytest.raises(NotConverged, match="then 2"):
        both.must_settle(2)
    with pytest.raises(NotConverged, match="first 1"):
        both.must_all_settle()
