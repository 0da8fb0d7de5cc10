"""What sizing makes of rows that do not settle: they cost only themselves, and why is told."""

import importlib
from dataclasses import replace

import numpy as np
import pytest
from strategies import recipe

from krill.components.figure_table import FigureTable
from krill.errors import NotConverged
from krill.networks.row_status import RowStatus
from krill.networks.states import duty_address
from krill.sizing.candidates import Study
from krill.sizing.next_changes import next_changes
from krill.sizing.outcome import columns_as_json, columns_of_json, outcome
from krill.sizing.question import read_question
from krill.sizing.solve_for import solve_for
from krill.sizing.steps.book import steps_of_build

WHY = "this one does not settle"


@pytest.fixture
def stubborn(monkeypatch):
    """Rows with a figure at a value are called unsettled wherever a module asks for a batch."""

    def spoil(module, address, fails):
        where = importlib.import_module(f"krill.sizing.{module}")
        real = where.try_cases

        def spoiled(build, cases, samples=0, **more):
            solved = real(build, cases, samples, **more)
            drawn = np.broadcast_to(more["draws"].get(address, np.nan), (samples,))
            rows = [1 + row for row, value in enumerate(drawn) if fails(value)]
            status = RowStatus(samples + 1, dict.fromkeys(rows, WHY))
            return replace(solved, solution=replace(solved.solution, status=status))

        monkeypatch.setattr(where, "try_cases", spoiled)

    return spoil


def test_a_step_that_does_not_settle_costs_only_itself(stubborn):
    whole = next_changes(recipe(), "both", quick=True)
    lost = whole.changes[3].label
    steps = {step.label: step for step in steps_of_build(recipe(), FigureTable(recipe()), "both")}
    told = {duty_address(mover): duty for mover, duty in steps[lost].duties.items()} | steps[lost].figures
    address, value = next(iter(told.items()))
    stubborn("next_changes", address, lambda drawn: drawn == value)
    left = {change.label: change.won_k for change in next_changes(recipe(), "both", quick=True).changes}
    assert lost not in left
    for change in whole.changes:
        if change.label in left:
            assert left[change.label] == pytest.approx(change.won_k, abs=1e-9)
    assert len(left) >= len(whole.changes) - 3


def test_a_candidate_that_does_not_settle_says_why_and_the_others_stay(stubborn):
    options = [{"value": value} for value in (1.0, 2.0, 3.0)]
    question = read_question({"vary": [{"address": "tube/length_m", "options": options}]})

    def answered():
        study = Study(recipe(), question)
        pieces = [study.solve(chunk) for chunk in study.chunks()]
        return outcome(study, [columns_of_json(columns_as_json(piece)) for piece in pieces])

    whole = answered()
    stubborn("candidates", "tube/length_m", lambda drawn: drawn == 2.0)
    found = answered()
    assert found.failures == {"1": WHY}
    assert found.solved == 2
    assert found.tightest == [whole.tightest[0], "", whole.tightest[2]]
    for name, column in found.columns.items():
        assert column[1] is None
        assert [column[0], column[2]] == [whole.columns[name][0], whole.columns[name][2]]


def test_a_value_that_does_not_settle_is_no_point_of_a_search(stubborn):
    whole = solve_for(recipe(), "movers/pump", "temperature", "processor-core", 60.0, "both")
    low = min(at for at, _ in whole.curve)
    stubborn("search", "movers/pump", lambda drawn: drawn == low)
    found = solve_for(recipe(), "movers/pump", "temperature", "processor-core", 60.0, "both")
    assert len(found.curve) == len(whole.curve) - 1
    assert found.value == pytest.approx(whole.value)
    stubborn("search", "movers/pump", lambda drawn: True)
    with pytest.raises(NotConverged, match=WHY):
        solve_for(recipe(), "movers/pump", "temperature", "processor-core", 60.0, "both")
