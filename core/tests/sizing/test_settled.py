"""Batches in which not every row settles: nothing that settles is lost, nothing is solved more often than halving needs."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from krill.errors import NotConverged
from krill.sizing.settled import each_settled, figures_settled


def square_unless(bad, calls):
    def solve(values):
        calls.append(len(values))
        if set(values.tolist()) & bad:
            raise NotConverged("one of them does not settle")
        return values**2

    return solve


@given(count=st.integers(0, 40), bad=st.sets(st.integers(0, 39), max_size=5))
def test_every_row_that_settles_is_answered_and_the_others_are_not(count, bad):
    calls = []
    values = np.arange(count, dtype=np.float64)
    found = each_settled(square_unless(set(map(float, bad)), calls), values)
    assert found == [None if value in bad else value**2 for value in range(count)]
    assert len(calls) <= 1 + 2 * max(len(bad), 1) * (max(count, 1).bit_length() + 1)


def test_a_batch_that_settles_is_solved_once():
    calls = []
    assert figures_settled(square_unless(set(), calls), np.array([1.0, 3.0])).tolist() == [1.0, 9.0]
    assert calls == [2]


def test_unsettled_figures_are_unknown_and_none_at_all_is_said():
    assert np.isnan(figures_settled(square_unless({3.0}, []), np.array([1.0, 3.0]))).tolist() == [False, True]
    with pytest.raises(NotConverged):
        figures_settled(square_unless({3.0, 1.0}, []), np.array([1.0, 3.0]))
