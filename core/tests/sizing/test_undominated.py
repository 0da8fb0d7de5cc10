"""The undominated set against brute force, ties, unknown figures."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from krill.sizing.undominated import undominated


def by_force(costs):
    """Every row against every other, straight from the definition."""
    rows = range(len(costs))

    def beats(a, b):
        return all(x <= y for x, y in zip(costs[a], costs[b], strict=True)) and any(
            x < y for x, y in zip(costs[a], costs[b], strict=True)
        )

    return [not any(beats(other, row) for other in rows) for row in rows]


@settings(max_examples=150, deadline=None)
@given(arrays(np.float64, st.tuples(st.integers(1, 40), st.integers(1, 4)), elements=st.integers(0, 6).map(float)))
def test_the_undominated_set_is_that_of_brute_force(costs):
    assert undominated(costs).tolist() == by_force(costs.tolist())


def test_the_undominated_set_of_a_thousand_random_rows_is_that_of_brute_force():
    costs = np.random.default_rng(5).normal(size=(1000, 3))
    assert undominated(costs).tolist() == by_force(costs.tolist())


def test_equals_stay_and_an_unknown_figure_is_the_worst():
    costs = np.array([[1.0, 2.0], [1.0, 2.0], [0.5, np.nan], [2.0, 3.0]])
    assert undominated(costs).tolist() == [True, True, True, False]


@pytest.mark.parametrize("columns", [1, 3])
def test_one_row_is_never_beaten(columns):
    assert undominated(np.ones((1, columns))).tolist() == [True]
