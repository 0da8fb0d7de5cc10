"""Statistics of measured series."""

import numpy as np
from numpy.typing import ArrayLike


def lag_one_autocorrelation(values: ArrayLike) -> float:
    """Lag-1 autocorrelation about the mean; 0 for a constant series."""
    d = np.asarray(values, float) - np.mean(np.asarray(values, float))
    power = float(np.sum(d * d))
    return float(np.sum(d[:-1] * d[1:]) / power) if power > 0 else 0.0
