"""Certified and closed-form statistics."""

import numpy as np
import pytest

from krill.numerics import statistics
from krill.numerics.sampling import Tolerance, band_90, normal_draws


def rise(x, b):
    return b[0] * (1 - np.exp(-b[1] * x))


def two_exponentials(x, b):
    return b[0] + b[1] * np.exp(-x * b[3]) + b[2] * np.exp(-x * b[4])


@pytest.mark.parametrize(
    ("case_id", "model", "names", "start"),
    [
        ("ST01", rise, ("b1", "b2"), "start2"),
        ("ST01", rise, ("b1", "b2"), "start1"),
        ("ST02", rise, ("b1", "b2"), "start2"),
        ("ST03", two_exponentials, ("b1", "b2", "b3", "b4", "b5"), "start2"),
    ],
)
def test_certified_fits(case, case_id, model, names, start):
    p, out = case(case_id).points[0]["in"], case(case_id).points[0]["out"]
    fit = statistics.fit_curve(model, p["x"], p["y"], p[start])
    assert fit.parameters == pytest.approx([out[n] for n in names], rel=1e-4)
    assert fit.errors == pytest.approx([out[f"sd_{n}"] for n in names], rel=1e-3)
    assert fit.residual_sd == pytest.approx(out["residual_sd"], rel=1e-6)


def test_certified_line(case):
    p, out = case("ST05").points[0]["in"], case("ST05").points[0]["out"]
    line = statistics.fit_line(p["x"], p["y"])
    assert [line.intercept, line.slope] == pytest.approx([out["B0"], out["B1"]], rel=1e-9)
    assert [line.intercept_error, line.slope_error] == pytest.approx([out["sd_B0"], out["sd_B1"]], rel=1e-9)


def test_thermometer_line_at_another_temperature(case):
    p, out = case("ST10").points[0]["in"], case("ST10").points[0]["out"]
    line = statistics.fit_line(p["t_C"], p["correction_K"], p["t0_C"])
    assert [line.intercept, line.slope, line.correlation] == pytest.approx([out["y1"], out["y2"], out["r"]], rel=1e-6)
    assert line.at(30.0) == pytest.approx((out["b30"], out["u_b30"]), rel=1e-6)


def test_effective_sample_size(case):
    for point in case("ST07").points:
        p, out = point["in"], point["out"]
        assert statistics.effective_count(p["n"], p["rho"]) == pytest.approx(out["n_eff_exact"], rel=1e-9)
        assert statistics.mean_error_autocorrelated(p["sd"], p["n"], p["rho"]) == pytest.approx(out["se_mean_exact"])


def test_lag_one_autocorrelation_survives_a_large_offset(case):
    for offset in (1.2, 1000000.2, 10000000.2):
        series = np.concatenate([[offset], np.tile([offset - 0.1, offset + 0.1], 500)])
        assert statistics.lag_one_autocorrelation(series) == pytest.approx(-0.999, rel=1e-6)


def test_correlated_propagation(case):
    p, out = case("ST09").points[0]["in"], case("ST09").points[0]["out"]
    data = np.array([p["V"], p["I_A"], p["phi_rad"]])

    def resistances(x):
        V, current, phi = x
        return np.array([V / current * np.cos(phi), V / current * np.sin(phi), V / current])

    values, covariance = statistics.propagate(resistances, data.mean(1), np.cov(data) / data.shape[1])
    assert values == pytest.approx([out["R"], out["X"], out["Z"]], rel=1e-6)
    assert np.sqrt(np.diag(covariance)) == pytest.approx([out["u_R"], out["u_X"], out["u_Z"]], rel=1e-5)


def test_welch(case):
    for point in case("ST11").points:
        p, out = point["in"], point["out"]
        test = statistics.welch(p["a"], p["b"])
        assert [test.t, test.degrees, test.p, test.half_width_95] == pytest.approx(
            [out["t"], out["df"], out["p_two_sided"], out["ci95_half"]], rel=1e-9
        )


def test_draws_are_keyed_stratified_and_hold_their_interval():
    assert np.array_equal(normal_draws(1, "fan/level_dba", 200), normal_draws(1, "fan/level_dba", 200))
    assert not np.array_equal(normal_draws(1, "fan/level_dba", 200), normal_draws(1, "pump/level_dba", 200))
    values = Tolerance(2.0, 6.0).deviate(20.0, normal_draws(3, "x", 4000))
    low, high = band_90(values)
    assert (float(low), float(high)) == pytest.approx((18.0, 26.0), abs=0.15)
