"""Settled or still rising, on autocorrelated logs whose truth is known."""

import numpy as np
import pytest

from krill.runs.settle import settle
from krill.runs.windows import load_window


def autocorrelated_log(seed):
    rng = np.random.default_rng(seed)
    duration, step = rng.uniform(900, 5400), rng.choice([1, 2, 5])
    t = np.arange(0, duration, step)
    tau, rise = rng.uniform(100, 1500), rng.uniform(5, 35)
    rho, sd = rng.uniform(0.6, 0.99) ** step, rng.uniform(0.1, 0.6)
    noise, shocks = np.empty(len(t)), rng.normal(size=len(t))
    noise[0] = sd * shocks[0]
    for i in range(1, len(t)):
        noise[i] = rho * noise[i - 1] + sd * np.sqrt(1 - rho**2) * shocks[i]
    return t, 70 - rise * np.exp(-t / tau) + noise, rise * np.exp(-t[-1] / tau)


@pytest.mark.slow
def test_false_settled_and_coverage_on_300_logs():
    false_settled = unsettled = covered = 0
    for seed in range(300):
        t, y, remaining = autocorrelated_log(seed)
        found = settle(t, y)
        assert found is not None
        unsettled += remaining > 1.0
        false_settled += remaining > 1.0 and found.settled
        covered += found.low <= 70 <= found.high
    assert false_settled <= 0.05 * unsettled
    assert 0.85 <= covered / 300 <= 0.95


def test_a_shift_and_a_stretch_of_time_change_nothing_else():
    t, y, _ = autocorrelated_log(5)
    plain, shifted, slow = settle(t, y), settle(t, y + 10), settle(10 * t, y)
    assert shifted.value == pytest.approx(plain.value + 10, abs=1e-9)
    assert shifted.time_constant_s == pytest.approx(plain.time_constant_s)
    assert shifted.remaining_k == pytest.approx(plain.remaining_k)
    assert slow.value == pytest.approx(plain.value, abs=0.3)


def test_exact_warm_up_gives_its_figures_back(case):
    out = case("ST16").points[0]["out"]
    t = np.arange(0, 901, 30.0)
    found = settle(t, out["T0"] + out["dT"] * (1 - np.exp(-t / out["tau_s"])))
    assert found.value == pytest.approx(out["T0"] + out["dT"], abs=0.05)
    assert found.time_constant_s == pytest.approx(out["tau_s"], rel=0.01)


def test_few_samples_say_nothing():
    assert settle(np.arange(5.0), np.ones(5)) is None


def test_the_load_window_by_power_and_by_temperature():
    t = np.arange(0, 3600, 2.0)
    load = (t >= 300) & (t < 3000)
    power = np.where(load, 200.0, 30.0) + np.random.default_rng(1).normal(0, 5, len(t))
    window = load_window(t, power, None)
    assert (window.start_s, window.end_s) == (pytest.approx(300, abs=20), pytest.approx(3000, abs=20))
    rise = np.where(
        t < 300, 30.0, np.where(t < 3000, 70 - 40 * np.exp(-(t - 300) / 200), 30 + 40 * np.exp(-(t - 3000) / 200))
    )
    window = load_window(t, None, rise)
    assert window.by == "temperature"
    assert window.start_s == pytest.approx(300, abs=60)
    assert load_window(t, np.full(len(t), 50.0), None).by == "the whole log"
