"""Closed forms in time of lumped thermal networks."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]


def rise_lumped(power_w: ArrayLike, resistance: ArrayLike, capacity: ArrayLike, time_s: ArrayLike) -> Array:
    """Rise over ambient of one node after a step of power: P R (1 - exp(-t/RC))."""
    R = np.asarray(resistance, dtype=np.float64)
    return np.asarray(-np.asarray(power_w) * R * np.expm1(-np.asarray(time_s) / (R * np.asarray(capacity))))


def impedance_foster(resistances: ArrayLike, time_constants: ArrayLike, time_s: ArrayLike) -> Array:
    """Thermal impedance of Foster stages, K/W, shape of ``time_s``."""
    R, tau = np.asarray(resistances, dtype=np.float64), np.asarray(time_constants, dtype=np.float64)
    t = np.asarray(time_s, dtype=np.float64)[..., None]
    return np.asarray(np.sum(-R * np.expm1(-t / tau), axis=-1))


def periodic_extremes(
    power_w: float, resistances: ArrayLike, time_constants: ArrayLike, duty: float, period_s: float
) -> tuple[float, float]:
    """Settled (highest, lowest) rise of Foster stages under an on-off power of the given duty and period."""
    R, tau = np.atleast_1d(np.asarray(resistances, float)), np.atleast_1d(np.asarray(time_constants, float))
    peak = power_w * R * np.expm1(-duty * period_s / tau) / np.expm1(-period_s / tau)
    return float(np.sum(peak)), float(np.sum(peak * np.exp(-(1 - duty) * period_s / tau)))


def time_to_rise(power_w: float, resistance: float, time_constant_s: float, rise_k: float) -> float | None:
    """Seconds until one node has risen by ``rise_k``; None where it never does."""
    share = rise_k / (power_w * resistance)
    return None if share >= 1.0 else float(-time_constant_s * np.log1p(-share))


def adiabatic_rate(power_w: ArrayLike, capacity: ArrayLike) -> Array:
    """Kelvins a second of a body that keeps all of its heat."""
    return np.asarray(np.asarray(power_w, float) / np.asarray(capacity, float))


def settled_from_three(first: float, middle: float, last: float, step_s: float) -> tuple[float, float]:
    """Settled value and time constant from three equally spaced readings of an exponential.

    (T1 T3 - T2^2) / (T1 + T3 - 2 T2); useless where the denominator is of the order of the noise.
    """
    settled = (first * last - middle**2) / (first + last - 2 * middle)
    return settled, step_s / float(np.log((middle - first) / (last - middle)))
