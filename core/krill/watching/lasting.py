"""Stretches of time in which something holds."""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


def began_lasting(time_s: Array, holds: NDArray[np.bool_], seconds: float) -> float | None:
    """When the first stretch began in which something held for so long; None where none did."""
    if not holds.any():
        return None
    edges = np.diff(np.concatenate([[0], holds.astype(int), [0]]))
    starts, ends = np.flatnonzero(edges == 1), np.flatnonzero(edges == -1) - 1
    long = time_s[ends] - time_s[starts] >= seconds
    return float(time_s[starts[np.argmax(long)]]) if long.any() else None


def lasts_until_now(time_s: Array, holds: NDArray[np.bool_]) -> float | None:
    """Since when something has held without a break; None where it does not hold now."""
    if not len(holds) or not holds[-1]:
        return None
    broken = np.flatnonzero(~holds)
    return float(time_s[0] if not broken.size else time_s[broken[-1] + 1])
