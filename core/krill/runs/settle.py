"""Has a temperature settled, where will it settle, and how sure is that?

A rise T = T_end + A exp(-t/tau) is fitted on a grid of time constants; each weighs as it explains the samples, with
their autocorrelation counted. What comes out is a distribution of the settled value, not one number.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy import stats
from scipy.special import ndtri

from krill.numerics.statistics import lag_one_autocorrelation

Array = NDArray[np.float64]

MAX_POINTS = 240
SETTLED_RISE_K = 0.7
SURE = 0.96
WORTH_K = 0.5
#: the fast edge of a chip over its lid and plate: left out of the slow fit
FAST_EDGE_S = 40.0
LONGEST_TAU = 1.2  # of the window
TAU_STEPS = 60
MIXTURE = ndtri((np.arange(40) + 0.5) / 40)


@dataclass(frozen=True)
class Settled:
    """What a load window says of one temperature; intervals hold 90 %."""

    settled: bool
    value: float
    low: float
    high: float
    last: float
    peak: float
    remaining_k: float
    slope_k_10min: float
    time_constant_s: float
    minutes_needed: float

    def sentence(self) -> str:
        half = (self.high - self.low) / 2
        if self.settled:
            return f"settled at {self.value:.1f} ± {half:.1f} °C"
        text = f"still {'rising' if self.slope_k_10min >= 0 else 'falling'}, {abs(self.slope_k_10min):.1f} K in 10 min"
        return f"{text}; settles at {self.value:.1f} ± {half:.1f} °C; {self.minutes_needed:.0f} more minutes are needed"


def settle(time_s: Array, values: Array, resolution: float = 0.0) -> Settled | None:
    """Settled value of a window's samples, None below 12 finite ones. ``resolution`` is the sensor's step."""
    good = np.isfinite(values)
    t, y = time_s[good], values[good]
    if len(t) < 12:
        return None
    peak = float(np.max(y))
    unread = _unread_step(y, resolution)
    slow = t - t[0] >= min(FAST_EDGE_S, 0.2 * (t[-1] - t[0]))
    t, y = _blocks(t[slow] - t[0], y[slow])
    tail = t >= t[-1] - min(600.0, 0.35 * (t[-1] - t[0]))
    slope = float(stats.linregress(t[tail], y[tail]).slope) * 600 if tail.sum() >= 3 else 0.0
    ends, remaining, tau, weights, errors = _fits(t, y, unread)
    samples = (ends[:, None] + errors[:, None] * MIXTURE).ravel()
    mass = np.repeat(weights / len(MIXTURE), len(MIXTURE))
    low, value, high = _quantiles(samples, mass, (0.05, 0.5, 0.95))
    left = float(np.sum(weights * remaining))
    small = (np.abs(remaining[:, None] + errors[:, None] * MIXTURE) < SETTLED_RISE_K).ravel()
    settled = bool(np.sum(mass[small]) >= SURE)
    mean_tau = float(np.sum(weights * tau))
    upper = float(np.sum(weights * np.abs(remaining)))
    needed = 0.0 if settled else max(mean_tau * np.log(max(upper, 0.9) / WORTH_K) / 60, 5.0)
    floor = unread / np.sqrt(12) * 1.645
    low, high = min(low, value - floor), max(high, value + floor)
    return Settled(settled, value, low, high, float(np.mean(y[-3:])), peak, left, slope, mean_tau, float(needed))


def _unread_step(y: Array, resolution: float) -> float:
    """The sensor's step as far as noise does not average it out: a reading that stands still hides all of it."""
    noise = float(np.std(np.diff(y))) / np.sqrt(2)
    return float(resolution * max(0.0, 1.0 - noise / (0.3 * resolution))) if resolution > 0 else 0.0


def _blocks(t: Array, y: Array) -> tuple[Array, Array]:
    """Means of equal blocks of rows, so that a long log costs no more than a short one."""
    size = max(1, len(t) // MAX_POINTS)
    count = len(t) // size
    return t[-count * size :].reshape(count, size).mean(1), y[-count * size :].reshape(count, size).mean(1)


def _fits(t: Array, y: Array, unread: float) -> tuple[Array, Array, Array, Array, Array]:
    """For each time constant: settled value, rise still to come, tau, weight, error of the settled value."""
    span = t[-1] - t[0]
    tau = np.geomspace(max(span / 40, 20.0), max(LONGEST_TAU * span, 60.0), TAU_STEPS)
    for _ in range(2):  # the second and third grid lie where the first found weight
        weights = _fits_on(t, y, tau, unread)[3]
        likely = np.flatnonzero(weights > 1e-4 * weights.max())
        tau = np.geomspace(tau[max(likely[0] - 1, 0)], tau[min(likely[-1] + 1, TAU_STEPS - 1)], TAU_STEPS)
    return _fits_on(t, y, tau, unread)


def _fits_on(t: Array, y: Array, tau: Array, unread: float) -> tuple[Array, Array, Array, Array, Array]:
    basis = np.exp(-(t[None, :] - t[0]) / tau[:, None])
    n = len(t)
    mean_b, mean_y = basis.mean(1, keepdims=True), y.mean()
    spread = np.sum((basis - mean_b) ** 2, axis=1)
    A = np.sum((basis - mean_b) * (y - mean_y), axis=1) / spread
    ends = mean_y - A * mean_b[:, 0]
    residuals = y - ends[:, None] - A[:, None] * basis
    squares = np.sum(residuals**2, axis=1)
    best = int(np.argmin(squares))
    rho = lag_one_autocorrelation(residuals[best])
    rho = min(max(rho + (1 + 4 * rho) / n, 0.0), 0.985)  # small-sample bias, and three fitted figures
    inflation = (1 + rho) / (1 - rho)
    degrees = max(n / inflation - 3.0, 2.0)
    inflation *= (stats.t.ppf(0.95, degrees) / ndtri(0.95)) ** 2
    variance = max(squares[best] / (n - 3), (unread**2 / 12) / n, 1e-8) * inflation
    weights = np.exp(-(squares - squares[best]) / (2 * variance))
    weights /= weights.sum()
    errors = np.sqrt(variance * (1.0 / n + mean_b[:, 0] ** 2 / spread))
    return ends, ends - (ends + A * basis[:, -1]), tau, weights, errors


def _quantiles(samples: Array, mass: Array, levels: tuple[float, ...]) -> tuple[float, ...]:
    order = np.argsort(samples)
    cumulative = np.cumsum(mass[order])
    return tuple(float(np.interp(level, cumulative / cumulative[-1], samples[order])) for level in levels)
