"""A few figures by the minute, or one read just after the end, by how the build's own network warms up and cools."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.numerics.sampling import QUANTILE_90
from krill.prediction.questions.warm_up import WarmUpOfNode

Array = NDArray[np.float64]

#: standard deviations of a build's own way: how high it rises, and how fast (masses by class)
RISE_SPREAD, PACE_SPREAD = 0.35, 0.3
PACES: Array = np.exp(PACE_SPREAD * np.linspace(-2.5, 2.5, 41))
#: what a fall worked out from a build's masses and watts may be off, share of it (half width of 90 %)
FALL_DOUBT = 0.4


@dataclass(frozen=True)
class SettledByMinutes:
    """Where a part settles, with the half width of its 90 % interval."""

    value: float
    half_k: float


def settled_by_minutes(way: WarmUpOfNode, time_s: Array, values: Array, band_k: float) -> SettledByMinutes:
    """Settled value of readings of the moment, each known to ``band_k`` (90 %), C (reading,).

    y(t) = settled - g m(t c), m what the network says is missing: settled is unknown, g = 1 and c = 1 by the spreads
    above. For each pace c the rest is linear and Gaussian; paces are weighed by how well they explain the readings.
    """
    noise = band_k / QUANTILE_90
    weights, means, variances = np.empty(PACES.size), np.empty(PACES.size), np.empty(PACES.size)
    for i, pace in enumerate(PACES):
        shape = missing_at(way, time_s * pace)
        # settled is free: of a wide normal about the readings; g is 1 with its spread
        centre, wide = float(values.mean()), 100.0
        design = np.stack([np.ones_like(shape), -shape], axis=1)
        prior = np.diag([wide**2, RISE_SPREAD**2])
        covariance = design @ prior @ design.T + noise**2 * np.eye(values.size)
        residual = values - (centre - shape)
        solved = np.linalg.solve(covariance, residual)
        gain = prior[0] @ design.T
        means[i] = centre + gain @ solved
        variances[i] = wide**2 - gain @ np.linalg.solve(covariance, gain)
        _, log_det = np.linalg.slogdet(covariance)
        prior_pace = 0.5 * (np.log(pace) / PACE_SPREAD) ** 2
        weights[i] = -0.5 * (residual @ solved + log_det) - prior_pace
    weights = np.exp(weights - weights.max())
    weights /= weights.sum()
    mean = float(weights @ means)
    spread = float(np.sqrt(weights @ (variances + (means - mean) ** 2)))
    return SettledByMinutes(mean, QUANTILE_90 * spread)


def missing_at(way: WarmUpOfNode, time_s: Array) -> Array:
    """What is missing of the settled value so long after the load began, K."""
    return np.asarray((way.missing * np.exp(np.outer(time_s, way.rates))).sum(axis=1).real)


def cooled_since(way: WarmUpOfNode, after_s: float) -> tuple[float, float]:
    """What a part has fallen so long after the end of its load, K, and the half width of that."""
    at_end, later = missing_at(way, np.array([0.0, after_s]))
    fall = float(at_end - later)
    return fall, FALL_DOUBT * abs(fall)
