"""Certified and closed-form statistics."""

import numpy as np
import pytest

from krill.numerics import statistics
from krill.numerics.sampling import Tolerance, band_90, normal_draws


def test_lag_one_autocorrelation_survives_a_large_offset():
    for offset in (1.2, 1000000.2, 10000000.2):
        series = np.concatenate([[offset], np.tile([offset - 0.1, offset + 0.1], 500)])
        assert statistics.lag_one_autocorrelation(series) == pytest.approx(-0.999, rel=1e-6)


def test_draws_are_keyed_stratified_and_hold_their_interval():
    assert np.array_equal(normal_draws(1, "fan/level_dba", 200), normal_draws(1, "fan/level_dba", 200))
    assert not np.array_equal(normal_draws(1, "fan/level_dba", 200), normal_draws(1, "pump/level_dba", 200))
    values = Tolerance(2.0, 6.0).deviate(20.0, normal_draws(3, "x", 4000))
    low, high = band_90(values)
    assert (float(low), float(high)) == pytest.approx((18.0, 26.0), abs=0.15)
